"""Shape segments: straight, held, or bent by a number."""

from __future__ import annotations

from dataclasses import dataclass

from velmot.core.change import Caution, Change
from velmot.core.envelope import Envelope
from velmot.core.errors import RequestError
from velmot.core.limits import MOST_IDS
from velmot.core.operations import picking
from velmot.core.operations.frame import Draft, Operation, says
from velmot.core.operations.picking import Picked
from velmot.core.segments import HOLD, MAX_BEND
from velmot.core.session import Session


@dataclass(frozen=True)
class ShapeSegments:
    """Give the segments that start at picked points a shape."""

    picked: tuple[Picked, ...] = says("The points the segments start at.", most=MOST_IDS)
    bend: float | None = says("A bend number, 0 for straight; nothing means hold.", default=0.0)


def plan(session: Session, request: ShapeSegments) -> Change:
    """The change with the segments' shapes; lanes that only hold stay as they are."""
    if request.bend is not None and abs(request.bend) > MAX_BEND:
        said = f"a bend of {request.bend:g} cannot be used"
        raise RequestError("bend-range", said, place="bend", accepted=f"−{MAX_BEND:g} to {MAX_BEND:g}, or hold")
    lanes = picking.lanes_of(session, request.picked)
    draft = Draft(session)
    cautions: list[Caution] = []
    for lane, points in lanes:
        parameter = session.parameter(lane.parameter)
        if parameter.holds_only and request.bend is not None:
            said = f"{session.lane_name(lane)} only holds: it has no in-between"
            cautions.append(Caution("holds-only", said, lane=lane.id))
            continue
        bends = lane.envelope.bends.copy()
        bends[points] = HOLD if request.bend is None else request.bend
        after = Envelope(lane.envelope.ticks, lane.envelope.values, bends, lane.envelope.axis)
        picking.write(draft, lane, after, *picking.reach(after, points))
    shape = "Hold" if request.bend is None else "Straighten" if request.bend == 0 else "Bend"
    count = sum(len(points) for _, points in lanes)
    noun = "a segment" if count == 1 else f"{count} segments"
    where = session.lane_name(lanes[0][0]) if len(lanes) == 1 else f"{len(lanes)} lanes"
    return picking.finished(draft, f"{shape} {noun} of {where}", cautions)


OPERATION = Operation("shape segments", ShapeSegments, plan)
