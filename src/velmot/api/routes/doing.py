"""Doing: preview and apply, undo and redo, and the log of it."""

from __future__ import annotations

from collections.abc import Callable, Sequence
from dataclasses import replace
from typing import Any

from django.http import HttpRequest
from ninja import Router

from velmot.api.routes.answers import quick
from velmot.api.schemas.doing import Ask, OnRevision
from velmot.api.schemas.problems import PROBLEMS
from velmot.api.schemas.reuse import WorkedOut
from velmot.core import verbs
from velmot.core.errors import RequestError
from velmot.core.limits import LONGEST_NAME
from velmot.core.session.session import Session
from velmot.core.verbs.alternatives.request import BringBack, KeepAside, UseAlternatives
from velmot.core.verbs.frame.change import Change
from velmot.core.verbs.frame.held_points import found_again
from velmot.core.verbs.frame.with_kept import NUMBERED, in_a_sentence, with_kept
from velmot.formats.requests import to_core, to_row
from velmot.presentation.changes import ChangeOut, change_out
from velmot.presentation.listening import detector_for
from velmot.presentation.rails import rails_out
from velmot.presentation.sentences import SentenceOut, sentence_out
from velmot.presentation.sessions import Stepped, stepped_out
from velmot.presentation.waiting import WaitingOut, stop, ticketed, waiting_out
from velmot.storage import history, sessions
from velmot.storage.sessions import Opened

router = Router()
_LONGEST = LONGEST_NAME - NUMBERED


@router.post("/sessions/{id}/sentence", response={200: SentenceOut} | PROBLEMS, operation_id="sentence")
def sentence(request: HttpRequest, id: int, body: WorkedOut) -> Any:
    """What a request says in words, each part with the field it stands for; what is missing asks for it."""
    verb, wanted = to_core(body.request)
    return sentence_out(sessions.load(id), verb, wanted)


@router.post("/sessions/{id}/preview", response={200: ChangeOut} | PROBLEMS, operation_id="preview")
def preview(request: HttpRequest, id: int, body: Ask) -> Any:
    on, session, _ = _planned_on(id, body)
    verb, wanted = _asked(id, body, on)
    with ticketed(body.ticket):
        change = verbs.plan(session, verb, wanted, body.links, history.past_of(id), detector_for(id, session))
        return quick(change_out(session, change, body.view, rails_out(session, wanted)))


@router.post("/sessions/{id}/apply", response={200: Stepped} | PROBLEMS, operation_id="apply")
def apply(request: HttpRequest, id: int, body: Ask) -> Any:
    """Save what a preview of the same request shows; answers with what that changed."""
    if body.step and (done := history.done_before(id, body.revision, body.step)):
        return quick(stepped_out(done, history.next_titles(done.after.row)[0]))
    on, session, now = _planned_on(id, body)
    verb, wanted = _asked(id, body, on)
    with ticketed(body.ticket):
        change = verbs.plan(session, verb, wanted, body.links, history.past_of(id), detector_for(id, session))
    if change.empty:
        accepted = "a request that changes something"
        if change.cautions:
            because = change.cautions[0].message
            raise RequestError("nothing-to-do/because", because=because, place="request", accepted=accepted)
        raise RequestError("nothing-to-do", place="request", accepted=accepted)
    if body.keep:
        change = _keeping(session, change, body, now)
    row, name = to_row(verb, wanted), body.step or ""
    if body.instead:
        step = history.amend(id, body.revision, change, row, name, body.window or "")
    else:
        exact = wanted.revision if isinstance(wanted, BringBack) and wanted.all_of_it and not body.keep else None
        step = history.apply(id, body.revision, change, row, now, name, body.window or "", exact)
    return quick(stepped_out(step, change.title))


def _keeping(session: Session, change: Change, body: Ask, now: Opened) -> Change:
    """The change with what was there before it kept aside: of a step in place of another one, what that had made."""
    if not body.instead:
        return with_kept(session, change, body.when or "")
    title = history.next_titles(now.row)[0] or change.title
    return with_kept(session, change, body.when or "", now.session, title)


def _what_it_came_of(id: int, parameters: Sequence[str]) -> str:
    """A name for what some parameters do: the last step that made it so; nothing where they are as they came."""
    session = sessions.load(id)
    lanes = [lane.id for p in parameters if session.there("parameter", p) for lane in session.lanes_of(p)]
    title = history.last_title(sessions.row(id), lanes)
    return f"after: {in_a_sentence(title)}"[:_LONGEST] if title else ""


def _planned_on(id: int, body: Ask) -> tuple[int, Session, Opened]:
    """The revision a request is planned on and the session then, where it stands or before its last step; and how it stands."""
    now = history.standing_at(id, body.revision)
    if body.instead:
        return *history.before_last(now), now
    return body.revision, now.session, now


def _asked(id: int, body: Ask, on: int) -> tuple[str, Any]:
    """The verb and its request, its points as they are counted in the revision that it is planned on."""
    verb, wanted = to_core(body.request)
    if isinstance(wanted, KeepAside | UseAlternatives) and not wanted.when:
        wanted = replace(wanted, when=body.when or "")
    if isinstance(wanted, KeepAside) and not wanted.name:
        wanted = replace(wanted, name=_what_it_came_of(id, wanted.parameters))
    counted = body.revision if body.counted_at is None else body.counted_at
    return verb, wanted if counted == on else found_again(wanted, *history.way_from(id, counted, on))


@router.get("/waiting/{ticket}", response={200: WaitingOut} | PROBLEMS, operation_id="waiting")
def waiting(request: HttpRequest, ticket: str) -> Any:
    """How far a preview or an apply has come that was asked for with this ticket."""
    return waiting_out(ticket)


@router.post("/waiting/{ticket}/stop", response={200: WaitingOut} | PROBLEMS, operation_id="stop")
def stop_waiting(request: HttpRequest, ticket: str) -> Any:
    """Stop it: it is refused with the code `stopped`, and nothing is saved."""
    return stop(ticket)


@router.post("/sessions/{id}/undo", response={200: Stepped} | PROBLEMS, operation_id="undo")
def undo(request: HttpRequest, id: int, body: OnRevision) -> Any:
    return quick(stepped_out(_walked(id, body, history.undo)))


@router.post("/sessions/{id}/redo", response={200: Stepped} | PROBLEMS, operation_id="redo")
def redo(request: HttpRequest, id: int, body: OnRevision) -> Any:
    return quick(stepped_out(_walked(id, body, history.redo)))


def _walked(id: int, body: OnRevision, way: Callable[[int, int, str], history.Step]) -> history.Step:
    """A step back or forth, once for each name."""
    done = history.done_before(id, body.revision, body.step) if body.step else None
    return done or way(id, body.revision, body.step or "")
