"""Late: a device's lane that begins after the sound does, so that what came before it is by chance."""

from __future__ import annotations

from velmot.core.findings.finding import Finding, Kind
from velmot.core.parameters.parameter import Family
from velmot.core.session.session import Session
from velmot.core.time.ticks import Tick
from velmot.core.verbs.points.request import AddPoints, Spot


def late(session: Session, parameter_id: str) -> list[Finding]:
    """The track's lane of a device whose first point comes after the track's first region (or the session) begins."""
    parameter, lane = session.parameter(parameter_id), session.lane_at(parameter_id)
    if lane is None or parameter.family is not Family.DEVICE or len(lane.envelope) < 2:
        return []
    regions = [r for r in session.owner(parameter_id).regions if not r.container]
    begins, first = min((r.start for r in regions), default=0), int(lane.envelope.ticks[0])
    if first <= begins:
        return []
    said = f"begins at {session.tempo.position(first)}, the sound at {session.tempo.position(begins)}"
    mend = AddPoints(parameter_id, (Spot(Tick(begins), float(lane.envelope.values[0])),))
    return [Finding(KIND.name, parameter_id, begins, first, said, lane.id, sure=0.5, mend=mend)]


KIND = Kind("late", "starts late", late)
