"""Use alternatives: what they keep comes in use, and what was in use is kept aside."""

from __future__ import annotations

from dataclasses import replace

from velmot.core.errors import RequestError
from velmot.core.session.alternatives import Alternative, is_used, standing
from velmot.core.session.session import Session
from velmot.core.verbs.alternatives.chosen import called, chosen, of_whom, places_of, said_of
from velmot.core.verbs.alternatives.laying import lay_range
from velmot.core.verbs.alternatives.request import UseAlternatives
from velmot.core.verbs.frame import telling as tell
from velmot.core.verbs.frame.change import AlternativeSwap, Change, PlacementSwap
from velmot.core.verbs.frame.operation import Operation
from velmot.core.verbs.frame.taking import put_whole
from velmot.core.verbs.frame.with_kept import aside
from velmot.core.verbs.frame.working_copy import WorkingCopy


def plan(session: Session, request: UseAlternatives) -> Change:
    """The change that puts them in use."""
    work, places, kept = WorkingCopy(session), list[PlacementSwap](), list[AlternativeSwap]()
    ids = session.new_ids("alternative")
    for one in chosen(session, request.alternatives):
        if is_used(session, one) and one.span is None:
            continue
        places += _use(work, one)
        if request.aside:
            kept += aside(session, [one.parameter], f"before “{one.name}”", request.when, ids)
    made = work.change()
    return replace(made, placements=tuple(places), alternatives=tuple(kept) if made.lanes else ())


def _use(work: WorkingCopy, one: Alternative) -> list[PlacementSwap]:
    """Put one in use: all of it, or the range it was kept for; gives what becomes of places."""
    session = work.session
    now, span = standing(session, one), one.span or (0, session.length)
    if one.lanes and not now.lanes:
        raise RequestError("alternative-lanes", name=one.name, place="alternatives", accepted="another one")
    work.cautions += said_of(session, one, now, span)
    if one.span:
        return lay_range(work, one, now, span)
    put_whole(work, one.parameter, now.lanes, {home: len(spans) for home, spans in now.limited.items()})
    return places_of(session, one, now)


def sentence(session: Session, request: UseAlternatives) -> tell.Told:
    """“Use “quieter” of Keeper Level; what was in use is kept aside.”"""
    asked, aside = called(session, request.alternatives), "is kept aside" if request.aside else "is let go"
    if not request.alternatives:
        return tell.told("Use {alternatives}; what was in use {aside}.", alternatives=asked, aside=aside)
    of = of_whom(session, request.alternatives)
    words = of if isinstance(of, str) else of.text
    return tell.told(f"Use {{alternatives}} of {words}; what was in use {{aside}}.", alternatives=asked, aside=aside)


OPERATION = Operation("use alternatives", UseAlternatives, plan, sentence, "linking", of_places=True)
