"""Flat: the lane of a track that never moves. It does nothing, or no more than a resting value would."""

from __future__ import annotations

import numpy as np

from velmot.core.findings.finding import Finding, Kind
from velmot.core.session.session import Session
from velmot.core.session.track import Lane, Precedence
from velmot.core.verbs.clear.request import Clear

SAME = 1e-9
"""Axis units within which values are one."""


def nothing(session: Session, parameter: str) -> list[Finding]:
    """The lane that stays at its parameter's resting value; none that phrases lie in, or that a file set up."""
    lane = _standing(session, parameter)
    if lane is None or not _rests(session, lane):
        return []
    said = f"stays at its resting value, {session.parameter(parameter).format(lane.envelope.values[0])}"
    mend = Clear("lanes", (lane.id,))
    return [Finding(NOTHING.name, parameter, *session.span(lane), said, lane.id, mend=mend, lossless=True)]


def flat(session: Session, parameter: str) -> list[Finding]:
    """The lane that stays at another value, which could be the resting one."""
    lane = _standing(session, parameter)
    if lane is None or _rests(session, lane):
        return []
    said = f"stays at {session.parameter(parameter).format(lane.envelope.values[0])} from end to end"
    # A track that does not read is heard at its resting value, which the mend would change.
    kept = session.owner(parameter).reads
    mend = Clear("lanes", (lane.id,), static="mean") if kept else None
    sure = 1.0 if kept else 0.5
    return [Finding(FLAT.name, parameter, *session.span(lane), said, lane.id, sure=sure, mend=mend, lossless=kept)]


def _standing(session: Session, parameter: str) -> Lane | None:
    lane = session.lane_at(parameter)
    if lane is None or session.placed_on(parameter, lane.home):
        return None
    if session.precedence is Precedence.TRACK and len(session.lanes_of(parameter)) > 1:
        return None  # it keeps the lanes of regions from being heard
    set_up = len(lane.envelope) == 1 and any(key == "came_from" for key, _ in session.extra)
    at = session.parameter(parameter).axis.coordinate(lane.envelope.values)
    return None if set_up or np.ptp(at) > SAME else lane


def _rests(session: Session, lane: Lane) -> bool:
    parameter = session.parameter(lane.parameter)
    apart = parameter.axis.coordinate(lane.envelope.values[0]) - parameter.axis.coordinate(parameter.value)
    return abs(float(apart)) <= SAME


NOTHING = Kind("nothing", "does nothing", nothing)
FLAT = Kind("flat", "flat", flat)
