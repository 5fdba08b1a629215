"""Tidying: everything that is found in a session, and pictures of what mending would do."""

from __future__ import annotations

from typing import Any

from django.http import HttpRequest
from ninja import Router

from velmot.api.routes.answers import quick
from velmot.api.routes.seeing import view_of
from velmot.api.schemas.problems import PROBLEMS
from velmot.api.schemas.tidying import PicturesIn
from velmot.core.tidy.request import Found
from velmot.core.time.ticks import ticks_of
from velmot.formats.requests import from_plain
from velmot.presentation.tidying import AlikesOut, BothOut, TidyOut, alikes_out, both_out, tidy_out
from velmot.storage import book, sessions

router = Router()


@router.get("/sessions/{id}/tidy", response={200: TidyOut} | PROBLEMS, operation_id="tidy")
def tidy(request: HttpRequest, id: int) -> Any:
    """Everything that is found in the session, also what is let be."""
    return quick(tidy_out(id, sessions.load(id)))


@router.post("/sessions/{id}/tidy/pictures", response={200: list[BothOut]} | PROBLEMS, operation_id="tidyPictures")
def pictures(request: HttpRequest, id: int, body: PicturesIn) -> Any:
    """What is heard around some findings, now and if they were mended."""
    return both_out(sessions.load(id), [from_plain(Found, one) for one in body.found])


@router.get("/sessions/{id}/alike", response={200: AlikesOut} | PROBLEMS, operation_id="alike")
def alike(request: HttpRequest, id: int, lane: str, start: float, end: float) -> Any:
    """Where else something runs like a lane does over a range: in the session, in its phrases, and in the book."""
    view_of(start, end)
    session = sessions.load(id)
    phrases = (*session.phrases, *book.all_phrases())
    return quick(alikes_out(session, lane, ticks_of(start), ticks_of(end), phrases))
