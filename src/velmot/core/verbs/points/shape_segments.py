"""Shape segments: straight, held, or bent by a number."""

from __future__ import annotations

from velmot.core.curves.segments import HOLD, MAX_BEND
from velmot.core.errors import RequestError
from velmot.core.session.session import Session
from velmot.core.verbs.frame import cautions as say
from velmot.core.verbs.frame import telling as tell
from velmot.core.verbs.frame.change import Change
from velmot.core.verbs.frame.chosen_points import between_neighbours, points_of
from velmot.core.verbs.frame.operation import Operation
from velmot.core.verbs.frame.working_copy import WorkingCopy
from velmot.core.verbs.points.request import ShapeSegments


def plan(session: Session, request: ShapeSegments) -> Change:
    """The change with the segments' shapes; lanes that only hold stay as they are."""
    if request.bend is not None and abs(request.bend) > MAX_BEND:
        raise RequestError(
            "bend-range", bend=request.bend, place="bend", accepted=f"−{MAX_BEND:g} to {MAX_BEND:g}, or hold"
        )
    chosen = points_of(session, request.picked)
    work = WorkingCopy(session)
    for lane, points in chosen:
        if session.parameter(lane.parameter).holds_only and request.bend is not None:
            work.cautions.append(say.holds_only(session, lane, "only holds: it has no in-between"))
            continue
        ticks, values, bends = lane.envelope.copies()
        bends[points] = HOLD if request.bend is None else request.bend
        after = lane.envelope.with_points(ticks, values, bends)
        work.rewrite(lane, after, *between_neighbours(after, points))
    return work.change()


def sentence(session: Session, request: ShapeSegments) -> tell.Told:
    """“Shape 2 segments of Bell buoy Level: hold.”"""
    shape = "hold" if request.bend is None else "straight" if request.bend == 0 else f"a bend of {request.bend:g}"
    picked = tell.points(session, [(p.lane, len(p.points)) for p in request.picked], "segment")
    return tell.told("Shape {picked}: {bend}.", picked=picked, bend=shape)


OPERATION = Operation("shape segments", ShapeSegments, plan, sentence, "points")
