"""The log: its lines, found by what they did; small pictures of them; marks; and tidying the history."""

from __future__ import annotations

from typing import Annotated, Any

from django.http import HttpRequest
from ninja import Query, Router, Status

from velmot.api.routes.answers import quick
from velmot.api.routes.seeing import view_of
from velmot.api.schemas.logbook import AsItWas, BetweenOut, MarkIn, TidyIn
from velmot.api.schemas.problems import PROBLEMS
from velmot.core.errors import RequestError
from velmot.core.session.wording import parameter_name
from velmot.core.time.ticks import ticks_of
from velmot.presentation.log import LogOut, StepPicture, TidiedOut, log_out, pictures_out, tidied_out
from velmot.storage import history_tidying, logbook, past, sessions
from velmot.storage.logbook import Wanted

router = Router()
_Number = Annotated[int, Query(ge=0, le=2**31)]
_PageSize = Annotated[int, Query(ge=1, le=1000)]
_Words = Annotated[str, Query(max_length=300)]
_MOST_PICTURES = 200
_MOST_NAMED = 12


@router.get("/sessions/{id}/log", response={200: LogOut} | PROBLEMS, operation_id="log")
def log(
    request: HttpRequest,
    id: int,
    before: _Number | None = None,
    most: _PageSize = 100,
    words: _Words = "",
    verb: _Words = "",
    lane: _Words = "",
    track: _Words = "",
    start: float | None = None,
    end: float | None = None,
) -> Any:
    """A page of what was applied, newest first: from the revision `before` (not in it) down. Only steps whose title has the
    words, of a verb, that touched a lane (a parameter's id finds all of its lanes), a track, or a range.
    """
    return quick(log_out(logbook.log(id, before, most, _wanted(id, words, verb, lane, track, start, end))))


def _wanted(id: int, words: str, verb: str, lane: str, track: str, start: float | None, end: float | None) -> Wanted:
    if start is not None and end is not None:
        view_of(start, end)
    span = (ticks_of(start), ticks_of(end)) if start is not None and end is not None else (None, None)
    parameters: frozenset[str] = frozenset()
    if lane or track:
        session = sessions.load(id)
        if track:
            parameters = frozenset(p.id for p in session.track(track).parameters)
        elif session.there("parameter", lane):
            parameters, lane = frozenset([lane]), ""
    return Wanted(words, verb, lane, parameters, *span)


@router.get("/sessions/{id}/log/pictures", response={200: list[StepPicture]} | PROBLEMS, operation_id="logPictures")
def pictures(request: HttpRequest, id: int, numbers: str) -> Any:
    """What steps changed, as small pictures; nothing of those that changed no lane."""
    asked = [int(n) for n in numbers.split(",") if n.isascii() and n.isdecimal() and len(n) < 10]
    if len(asked) > _MOST_PICTURES:
        accepted = f"at most {_MOST_PICTURES}"
        raise RequestError("lanes-many", count=len(asked), place="numbers", accepted=accepted)
    return pictures_out(sessions.load(id), logbook.pictured(id, asked))


@router.put("/sessions/{id}/marks/{number}", response={204: None} | PROBLEMS, operation_id="mark")
def mark(request: HttpRequest, id: int, number: int, body: MarkIn) -> Any:
    """Give a revision a name, or another one."""
    logbook.mark(id, number, body.name, body.note)
    return Status(204, None)


@router.delete("/sessions/{id}/marks/{number}", response={204: None} | PROBLEMS, operation_id="unmark")
def unmark(request: HttpRequest, id: int, number: int) -> Any:
    """Take a mark off; the revision stays."""
    logbook.unmark(id, number)
    return Status(204, None)


@router.get("/sessions/{id}/marks/{number}/changes", response={200: BetweenOut} | PROBLEMS, operation_id="markChanges")
def changes(request: HttpRequest, id: int, number: int) -> Any:
    """What changed between a mark and the one before it on its way, or the beginning."""
    since, steps = logbook.before_mark(id, number)
    session = sessions.load(id)
    ids = list(logbook.changed_between(id, since, number))
    names = [parameter_name(session, p) if session.there("parameter", p) else p for p in ids[:_MOST_NAMED]]
    return {"since": since, "steps": steps, "parameters": names, "more": max(len(ids) - _MOST_NAMED, 0)}


@router.get("/sessions/{id}/as-it-was/{number}", response={200: AsItWas} | PROBLEMS, operation_id="asItWas")
def as_it_was(request: HttpRequest, id: int, number: int) -> Any:
    """Under which number the session is looked at as it was at a revision; NotFound where that is gone."""
    state = past.number_of(past.parted(id)[0], number)
    sessions.load(state)
    return {"id": state}


@router.post("/sessions/{id}/log/tidy", response={200: TidiedOut} | PROBLEMS, operation_id="tidyLog")
def tidy(request: HttpRequest, id: int, body: TidyIn) -> Any:
    """Let old steps between marks become one each, and ways that were left go; or say only what that would free."""
    return tidied_out(history_tidying.tidy(id, body.days, try_only=not body.sure))
