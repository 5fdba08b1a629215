"""Clean up: everything that is there for nothing, taken out of the whole session in one step."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass, replace

from velmot.core import findings
from velmot.core.errors import RequestError
from velmot.core.findings.finding import Finding
from velmot.core.session.session import Session
from velmot.core.session.wording import listed
from velmot.core.tidy.request import CleanUp
from velmot.core.tidy.several import Several
from velmot.core.verbs.clear.request import Clear
from velmot.core.verbs.frame import telling as tell
from velmot.core.verbs.frame.change import Change, caution
from velmot.core.verbs.frame.heard_alike import figure_of
from velmot.core.verbs.frame.operation import Operation
from velmot.core.verbs.thin.request import Thin

LOSSLESS = ("nothing", "flat", "pieces")
"""The kinds whose mends change nothing, in an order in which none undoes another."""
QUIET = ("nothing-fewer", "other-unit", "thinned-before", "pieces")
"""Codes of what each lane says for itself, and nobody wants to hear of all of them."""


@dataclass(frozen=True)
class Cleaned:
    """A session after all of it, and what was done: of each mend what was found."""

    session: Session
    done: tuple[Finding, ...]
    change: Change


def cleaned(session: Session, request: CleanUp) -> Cleaned:
    """The session without what is there for nothing, and what that took; with bounds it is thinned within them too."""
    if wrong := [one for one in request.within if not one.amount > 0]:
        raise RequestError("bound-wrong", unit=wrong[0].unit, place="within", accepted="bounds above 0")
    several, done = Several(session), []
    for kind in LOSSLESS:
        found = [*_lossless(several.now, kind)]
        done += found
        lanes = tuple(one.lane for one in found if one.lane)
        if lanes:
            several.take(_asked(kind, lanes))
    # What phrases say is theirs: it is thinned there, or it would be set free.
    own = tuple(x.id for x in several.now.lanes if not several.now.placed_on(x.parameter, x.home))
    if request.within and own:
        several.take(Thin(own, within=request.within))
    points = [sum(len(x.envelope) for x in s.lanes) for s in (session, several.now)]
    gone = len(session.lanes) - len(several.now.lanes)
    told = (caution("tidied", before=points[0], after=points[1], count=gone),) if done or request.within else ()
    several.said = [*told, *(c for c in several.said if c.code not in QUIET)]
    change = several.change()
    if change.lanes and not request.within:
        figures = [figure_of(session, several.now, p) for p in dict.fromkeys(s.parameter for s in change.lanes)]
        change = replace(change, heard=max(figures, key=lambda f: f.largest))
    return Cleaned(several.now, tuple(done), change)


def _lossless(session: Session, kind: str) -> Iterator[Finding]:
    look = findings.KINDS[kind].look
    assert look is not None
    for track in session.tracks:
        for parameter in track.parameters:
            yield from (
                x for x in look(session, parameter.id) if x.lossless and x.lane and not findings.is_let_be(session, x)
            )


def _asked(kind: str, lanes: tuple[str, ...]) -> Thin | Clear:
    """One request for all lanes of a kind."""
    if kind == "pieces":
        return Thin(lanes, way="without loss")
    return Clear("lanes", lanes, static="mean" if kind == "flat" else "keep")


def plan(session: Session, request: CleanUp) -> Change:
    """The change it comes to."""
    return cleaned(session, request).change


def sentence(session: Session, request: CleanUp) -> tell.Told:
    """“Clean up: take out what is there for nothing, and thin within 0.05 dB.”"""
    if not request.within:
        return tell.told("Clean up: take out what is there for nothing.")
    bounds = listed([f"{one.amount:g} {one.unit}".strip() for one in request.within], "bound")
    return tell.told("Clean up: take out what is there for nothing, and thin within {within}.", within=bounds)


OPERATION = Operation("clean up", CleanUp, plan, sentence, "linking", of_places=True)
