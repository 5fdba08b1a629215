"""Open end: a region's lane that is in the middle of a move where its region ends."""

from __future__ import annotations

import numpy as np

from velmot.core.findings.finding import Finding, Kind
from velmot.core.session.session import Session
from velmot.core.session.track import Lane
from velmot.core.time.ticks import Tick
from velmot.core.verbs.points.request import MovePoints
from velmot.core.verbs.request import Picked

SMALLEST_SHARE = 0.01
"""What is left of the move is at least this share of the parameter's range."""


def open_end(session: Session, parameter_id: str) -> list[Finding]:
    """The parameter's lanes in regions whose last move goes on behind the region's end, with how much of it is cut off."""
    found = [_open(session, lane) for lane in session.lanes_of(parameter_id) if not lane.on_track]
    return [one for one in found if one is not None]


def _open(session: Session, lane: Lane) -> Finding | None:
    curve, parameter, region = lane.envelope, session.parameter(lane.parameter), session.region(lane.home)
    i = int(np.searchsorted(curve.ticks, region.length)) - 1
    if i < 0 or i + 1 >= len(curve) or curve.ticks[i + 1] == region.length or np.isposinf(curve.bends[i]):
        return None
    if parameter.axis.silent(curve.values[i]) or parameter.axis.silent(curve.values[i + 1]):
        left = parameter.span
    else:
        left = abs(float(curve.coordinates[i + 1] - curve.coordinate_at(region.length)))
    if left < SMALLEST_SHARE * parameter.span:
        return None
    value = parameter.format(curve.value_at(region.length))
    said = (
        f"is still moving, at {value}, where {region.name} ends; it would go to {parameter.format(curve.values[i + 1])}"
    )
    start = int(curve.ticks[i]) + region.start
    linked = session.placed_on(lane.parameter, lane.home)
    earlier = Tick(region.length - int(curve.ticks[i + 1]))
    mend = None if linked else MovePoints((Picked(lane.id, (i + 1,)),), by=earlier)
    return Finding(KIND.name, parameter.id, start, region.end, said, lane.id, left, 0.5, mend)


KIND = Kind("open", "ends open", open_end)
