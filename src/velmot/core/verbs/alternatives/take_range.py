"""Take a range: what alternatives do over it comes in use there, and outside of it nothing changes."""

from __future__ import annotations

from dataclasses import replace

from velmot.core.errors import RequestError
from velmot.core.session.alternatives import Alternative, Span, standing
from velmot.core.session.session import Session
from velmot.core.verbs.alternatives.chosen import called, chosen, of_whom, ramp_of, said_of
from velmot.core.verbs.alternatives.laying import lay_range
from velmot.core.verbs.alternatives.request import TakeRange
from velmot.core.verbs.frame import telling as tell
from velmot.core.verbs.frame.change import Change, PlacementSwap
from velmot.core.verbs.frame.checks import need_range
from velmot.core.verbs.frame.operation import Operation
from velmot.core.verbs.frame.working_copy import WorkingCopy


def plan(session: Session, request: TakeRange) -> Change:
    """The change that takes it. RequestError for a range beyond the session, or a ramp below 0."""
    need_range(request.start, request.end)
    ramp = ramp_of(request)
    work, places = WorkingCopy(session), list[PlacementSwap]()
    for one in chosen(session, request.alternatives):
        span = _span(session, request, one)
        if span[0] >= span[1]:
            where = str(session.tempo.position(session.length))
            raise RequestError("range-beyond", where=where, place="start", accepted="a range in the session")
        now = standing(session, one)
        if one.lanes and not now.lanes:
            raise RequestError("alternative-lanes", name=one.name, place="alternatives", accepted="another one")
        work.cautions += said_of(session, one, now, span)
        places += lay_range(work, one, now, span, ramp)
    return replace(work.change(), placements=tuple(places))


def _span(session: Session, request: TakeRange, one: Alternative) -> Span:
    if request.start is None or request.end is None:
        return one.span or (0, session.length)
    return request.start, min(request.end, session.length)


def sentence(session: Session, request: TakeRange) -> tell.Told:
    """“Take “quieter” of Keeper Level from 9.1.00 to 13.1.00.”"""
    asked = called(session, request.alternatives)
    of = of_whom(session, request.alternatives) if request.alternatives else ""
    whose = f" of {of}" if of and isinstance(of, str) else ""
    ramped = f", {{edges}} over {tell.length(request.ramp)}" if request.edges == "ramp" else ", {edges}"
    edges = "ramped" if request.edges == "ramp" else "sealed"
    if request.start is None or request.end is None:
        return tell.told(f"Take all of {{alternatives}}{whose}.", alternatives=asked)
    start, end = tell.position(session, request.start), tell.position(session, request.end)
    words = f"Take {{alternatives}}{whose} from {{start}} to {{end}}{ramped}."
    return tell.told(words, alternatives=asked, start=start, end=end, edges=edges)


OPERATION = Operation("take range", TakeRange, plan, sentence, "linking", of_places=True)
