"""Every verb Velmot knows, one module each; each has a request type and a plan. `core/verbs/table.py` lists them."""

from collections.abc import Callable
from dataclasses import replace
from importlib import import_module
from typing import Any

from velmot.core.errors import RequestError
from velmot.core.remedy import Links
from velmot.core.session.session import Session
from velmot.core.verbs.frame.change import Change
from velmot.core.verbs.frame.elsewhere import with_elsewhere
from velmot.core.verbs.frame.linking import with_links
from velmot.core.verbs.frame.operation import Operation
from velmot.core.verbs.frame.silenced import with_silenced
from velmot.core.verbs.frame.sounding import Sounding
from velmot.core.verbs.frame.telling import Told, in_words
from velmot.core.verbs.frame.with_kept import without_the_gone
from velmot.core.verbs.request import Request
from velmot.core.verbs.table import VERBS, Verb

_OF_VERBS: dict[str, list[Operation]] = {
    verb.id: [import_module(f".{name}", __name__).OPERATION for name in verb.modules] for verb in VERBS
}
OPERATIONS: dict[str, Operation] = {one.verb: one for some in _OF_VERBS.values() for one in some}
_VERBS = {operation.request: verb for verb, operation in OPERATIONS.items()}


def operations_of(verb: Verb) -> list[Operation]:
    """What a verb of the worksheet can ask for."""
    return _OF_VERBS[verb.id]


def verb_of(request: Request) -> str:
    """The verb whose request this is."""
    return _VERBS[type(request)]


Past = Callable[[int], Session]
"""Gives the session as it stood at a revision."""


def plan(
    session: Session,
    verb: str,
    request: Request,
    links: Links | None = None,
    past: Past | None = None,
    sounding: Sounding | None = None,
) -> Change:
    """The change a verb would make. Preview shows it, apply saves it: there is no other path.

    What becomes of linked placements (as `links` asks, or as is usual for the verb's kind), what its regions
    silence, and what is heard differently outside the spans it names, is found here, for every verb alike. `past` is
    asked by verbs that bring something back, which are refused without it; `sounding` by those that follow sound.
    """
    operation = OPERATIONS[verb]
    seen = session if operation.of_places else session.without_places()
    made = operation.plan(seen, request, *_given(operation, request, past, sounding))
    titled = replace(made, title=in_words(sentence(session, verb, request)).rstrip("."))
    linked = with_links(session, without_the_gone(session, titled), operation.kind, links)
    return with_elsewhere(session, with_silenced(session, linked, request, made.went))


def _given(operation: Operation, request: Any, past: Past | None, sounding: Sounding | None) -> tuple[Any, ...]:
    """What a verb has to be given beside its request."""
    if operation.of_sound:
        return (sounding,)
    if not operation.of_past:
        return ()
    if past is None:
        raise RequestError("past-none", place="revision", accepted="a session that is kept in the application")
    return (past(request.revision),)


def sentence(session: Session, verb: str, request: Request) -> Told:
    """What a request says, in parts; what is still to be filled in asks for it. RequestError for ids that are not here."""
    return OPERATIONS[verb].sentence(session, request)
