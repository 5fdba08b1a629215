"""Tidying: everything that is found in a session, and pictures of what mending would do."""

from __future__ import annotations

from typing import Any

from django.http import HttpRequest
from ninja import Router

from velmot.api.routes.answers import quick
from velmot.api.schemas.problems import PROBLEMS
from velmot.api.schemas.tidying import PicturesIn
from velmot.core.tidy.request import Found
from velmot.formats.requests import from_plain
from velmot.presentation.tidying import BothOut, TidyOut, both_out, tidy_out
from velmot.storage import sessions

router = Router()


@router.get("/sessions/{id}/tidy", response={200: TidyOut} | PROBLEMS, operation_id="tidy")
def tidy(request: HttpRequest, id: int) -> Any:
    """Everything that is found in the session, also what is let be."""
    return quick(tidy_out(id, sessions.load(id)))


@router.post("/sessions/{id}/tidy/pictures", response={200: list[BothOut]} | PROBLEMS, operation_id="tidyPictures")
def pictures(request: HttpRequest, id: int, body: PicturesIn) -> Any:
    """What is heard around some findings, now and if they were mended."""
    return both_out(sessions.load(id), [from_plain(Found, one) for one in body.found])
