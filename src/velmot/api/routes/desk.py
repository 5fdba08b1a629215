"""The desk: what its controls show, and scripted hands."""

from __future__ import annotations

from typing import Any

from django.http import HttpRequest
from ninja import Router

from velmot.api.routes.answers import quick
from velmot.api.routes.seeing import view_of
from velmot.api.schemas.desk import DeskIn, RideIn
from velmot.api.schemas.problems import PROBLEMS
from velmot.core import verbs
from velmot.formats import ride_file
from velmot.formats.requests import to_core
from velmot.presentation.desk import DeskOut, RideOut, desk_out, ride_out
from velmot.presentation.listening import detector_for
from velmot.storage import history, sessions

router = Router()


@router.post("/sessions/{id}/desk", response={200: DeskOut} | PROBLEMS, operation_id="desk")
def desk(request: HttpRequest, id: int, body: DeskIn) -> Any:
    """What controls show over a span, with the passes ridden so far laid over it."""
    session, view = sessions.load(id), view_of(body.start, body.end, body.columns)
    if body.request is not None:
        session = verbs.plan(
            session, *to_core(body.request), past=history.past_of(id), sounding=detector_for(id, session)
        ).applied_to(session)
    return quick(desk_out(session, body.parameters, view))


@router.get("/sessions/{id}/rides", response={200: list[RideOut]} | PROBLEMS, operation_id="rides")
def rides(request: HttpRequest, id: int, desk: str = "") -> Any:
    """The scripted hands that ship with Velmot, on this session's controls."""
    session = sessions.load(id)
    return [ride_out(session, ride, desk.split("\n")) for ride in ride_file.shipped()]


@router.post("/sessions/{id}/rides", response={200: RideOut} | PROBLEMS, operation_id="readRide")
def read_ride(request: HttpRequest, id: int, body: RideIn) -> Any:
    """A scripted hand from a file's text."""
    return ride_out(sessions.load(id), ride_file.read(body.text.encode()), body.desk)
