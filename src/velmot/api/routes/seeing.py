"""Seeing: curves, values, what is heard, findings, what is selected, what was typed, and the clipboard."""

from __future__ import annotations

from typing import Any, Literal

from django.http import HttpRequest
from ninja import Router
from pydantic import TypeAdapter

from velmot.api.routes.answers import quick_list
from velmot.api.schemas.problems import PROBLEMS
from velmot.api.schemas.seeing import ClipIn, ClipOut, PickedIO, PickIn, RequestOut, SelectionIn, Typed, picked_points
from velmot.core.errors import RequestError
from velmot.core.session import rules
from velmot.core.time.ticks import ticks_of
from velmot.core.verbs.frame import selection
from velmot.core.verbs.paste.request import Paste
from velmot.formats import clipboard
from velmot.formats.requests import to_row
from velmot.presentation.alternatives import AlternativeCurve, alternative_curves
from velmot.presentation.curves import Curve, View, lane_curve
from velmot.presentation.findings import FindingOut, findings_out
from velmot.presentation.hearing import HeardOut, ReadOut, heard_out, read_outs
from velmot.presentation.selecting import NumbersOut, Understood, numbers_out, understood
from velmot.storage import history, sessions

router = Router()
_CURVES = TypeAdapter(list[Curve])
_ALTERNATIVES = TypeAdapter(list[AlternativeCurve])
_HEARD = TypeAdapter(list[HeardOut])
MOST_AT_ONCE = 500


@router.get("/sessions/{id}/curves", response={200: list[Curve]} | PROBLEMS, operation_id="curves")
def curves(request: HttpRequest, id: int, lanes: str, start: float, end: float, columns: int = 1000) -> Any:
    session, view = sessions.load(id), view_of(start, end, columns)
    return quick_list(_CURVES, [lane_curve(session, session.lane(lane), view) for lane in _ids(lanes)])


@router.get("/sessions/{id}/values", response={200: list[ReadOut]} | PROBLEMS, operation_id="values")
def values(request: HttpRequest, id: int, parameters: str, beat: float) -> Any:
    """What is heard at a moment, and why."""
    view_of(beat, beat)
    return read_outs(sessions.load(id), _ids(parameters), ticks_of(beat))


@router.get("/sessions/{id}/heard", response={200: list[HeardOut]} | PROBLEMS, operation_id="heard")
def heard(request: HttpRequest, id: int, parameters: str, start: float, end: float, columns: int = 1000) -> Any:
    """What is heard of parameters in view, and the reason for each span."""
    session, view = sessions.load(id), view_of(start, end, columns)
    return quick_list(_HEARD, [heard_out(session, parameter, view) for parameter in _ids(parameters)])


@router.get(
    "/sessions/{id}/alternatives", response={200: list[AlternativeCurve]} | PROBLEMS, operation_id="alternativeCurves"
)
def alternatives(request: HttpRequest, id: int, some: str, start: float, end: float, columns: int = 1000) -> Any:
    """What would be heard in view with each of some alternatives in use."""
    view = view_of(start, end, columns)
    return quick_list(_ALTERNATIVES, alternative_curves(sessions.load(id), _ids(some), view))


@router.get("/sessions/{id}/findings", response={200: list[FindingOut]} | PROBLEMS, operation_id="findings")
def findings(request: HttpRequest, id: int, parameters: str) -> Any:
    """What is likely to surprise someone who listens to some parameters."""
    return findings_out(sessions.load(id), _ids(parameters))


@router.post("/sessions/{id}/typed", response={200: Understood} | PROBLEMS, operation_id="typed")
def typed(request: HttpRequest, id: int, body: Typed) -> Any:
    return understood(sessions.load(id), body.kind, body.text, body.start, body.parameter)


@router.post("/sessions/{id}/pick", response={200: list[PickedIO]} | PROBLEMS, operation_id="pick")
def pick(request: HttpRequest, id: int, body: PickIn) -> Any:
    """The points that a way of picking means."""
    span, picked = (ticks_of(body.start), ticks_of(body.end)), picked_points(body.picked)
    found = selection.picked_points(sessions.load(id), tuple(body.lanes), body.way, *span, picked)
    return [{"lane": p.lane, "points": list(p.points)} for p in found]


@router.post("/sessions/{id}/selection", response={200: NumbersOut} | PROBLEMS, operation_id="selection")
def selection_numbers(request: HttpRequest, id: int, body: SelectionIn) -> Any:
    """Start, end, count, lowest, highest and mean of what is selected."""
    picked, lanes = picked_points(body.picked), tuple(body.lanes)
    return numbers_out(sessions.load(id), picked, lanes, ticks_of(body.start), ticks_of(body.end))


@router.get("/sessions/{id}/clipboard", response={200: ClipOut} | PROBLEMS, operation_id="copyLanes")
def copy_lanes(request: HttpRequest, id: int, lanes: str, start: float, end: float) -> Any:
    """What lanes do over a range, as text for the clipboard."""
    view_of(start, end)
    return {"text": clipboard.write(sessions.load(id), tuple(_ids(lanes)), ticks_of(start), ticks_of(end))}


@router.post("/sessions/{id}/clipboard", response={200: RequestOut} | PROBLEMS, operation_id="readClipboard")
def read_clipboard(request: HttpRequest, id: int, body: ClipIn) -> Any:
    """The paste request that clipboard text means."""
    sessions.row(id)
    clips, start, length = clipboard.read(body.text)
    at = None if body.at is None else ticks_of(body.at)
    return {"request": to_row("paste", Paste(clips, start, length, at, body.onto, body.how))}


@router.get("/sessions/{id}/rule", response={200: list[str]} | PROBLEMS, operation_id="rule")
def rule(
    request: HttpRequest,
    id: int,
    by: Literal["family", "group", "moving", "week", "since"],
    of: str = "",
    start: float = 0.0,
    end: float = 0.0,
) -> Any:
    """The parameters of a set that is told by a rule: a family, a group, what moves in a range, what the last week
    changed, what was touched since a revision."""
    session = sessions.load(id)
    if by == "family":
        return rules.of_family(session, of)
    if by == "group":
        return rules.of_group(session, of)
    if by == "moving":
        view_of(start, end)
        return rules.moving(session, ticks_of(start), ticks_of(end))
    if by == "since" and not (of.isdecimal() and len(of) < 16):
        raise RequestError("rule-since", text=of, place="of", accepted="the number of a revision")
    changed = (
        history.changed_in(sessions.row(id), days=7)
        if by == "week"
        else history.changed_after(sessions.row(id), int(of))
    )
    return rules.of_lanes(session, [lane for lane in changed if session.there("lane", lane)])


def _ids(text: str) -> list[str]:
    """Ids in a query, parted by new lines, which no id holds."""
    ids = [id for id in text.split("\n") if id]
    if len(ids) > MOST_AT_ONCE:
        raise RequestError("lanes-many", count=len(ids), place="lanes", accepted=f"at most {MOST_AT_ONCE}")
    return ids


def view_of(start: float, end: float, columns: int = 1) -> View:
    """A view from a query; RequestError for one that cannot be drawn."""
    limit = 1_000_000
    if not (-limit <= start <= end <= limit and 1 <= columns <= 8192):
        raise RequestError("view", place="view", accepted="start before end, 1 to 8192 columns")
    return View(start=start, end=end, columns=columns)
