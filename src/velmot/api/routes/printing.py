"""A session on paper: recall sheets, and strips as pictures."""

from __future__ import annotations

from django.http import HttpRequest
from django.http.response import HttpResponseBase
from ninja import Router

from velmot.api.routes.taking_out import download
from velmot.api.schemas.printing import PictureWanted
from velmot.api.schemas.problems import PROBLEMS
from velmot.core import verbs
from velmot.core.session.recall import recall_of
from velmot.core.time.ticks import ticks_of
from velmot.formats.requests import to_core
from velmot.paper import pictures, sheets
from velmot.paper.silhouettes import silhouettes
from velmot.presentation.listening import detector_for, library_for
from velmot.storage import history, own_audio, sessions

router = Router()


@router.get("/sessions/{id}/export/sheet", response={200: None} | PROBLEMS, operation_id="exportSheet")
def export_sheet(
    request: HttpRequest, id: int, form: sheets.Form = "pdf", short: bool = False, since: int | None = None
) -> HttpResponseBase:
    """A recall sheet; `since` is a revision, and what changed since is said first."""
    session = sessions.load(id)
    before = None if since is None else history.at_revisions(id, since)[0]
    data = sheets.written(recall_of(session, full=not short, since=before), form)
    return download(data, f"{session.name}.{form}", sheets.MEDIA[form])


@router.post("/sessions/{id}/export/picture", response={200: None} | PROBLEMS, operation_id="exportPicture")
def export_picture(request: HttpRequest, id: int, body: PictureWanted) -> HttpResponseBase:
    """Strips as a picture."""
    session = sessions.load(id)
    after = None
    if body.request is not None and body.shows != "now":
        past, sounding = history.past_of(id), detector_for(id, session)
        after = verbs.plan(session, *to_core(body.request), body.links, past, sounding).applied_to(session)
    span = ticks_of(body.start), min(ticks_of(body.end), session.length)
    wanted = pictures.Wanted(tuple(body.parameters), *span, body.shows if after else "now", after).checked(session)
    sound = None
    if body.sound:
        there = lambda audio: own_audio.find(audio) is not None  # noqa: E731
        sound = silhouettes(session, body.parameters, *span, library_for(id, session), there)
    data = pictures.drawn(session, wanted, body.form, sound)
    return download(data, f"{session.name}.{body.form}", pictures.MEDIA[body.form])
