"""Stuck: a lane that lies at the end of its range for longer than a bar, as where a move was cut off."""

from __future__ import annotations

import numpy as np

from velmot.core.findings.finding import Finding, Kind
from velmot.core.session.session import Session
from velmot.core.session.track import Lane


def stuck(session: Session, parameter_id: str) -> list[Finding]:
    """Where the parameter's lanes arrive at an end of their range by moving and stay there; silence is no such end."""
    if session.parameter(parameter_id).holds_only:
        return []
    return [found for lane in session.lanes_of(parameter_id) for found in _stuck(session, lane)]


def _stuck(session: Session, lane: Lane) -> list[Finding]:
    parameter, curve, zero = session.parameter(lane.parameter), lane.envelope, session.zero_of(lane)
    ends = (curve.values == parameter.low) | (curve.values == parameter.high)
    there = ends & ~parameter.axis.silent(curve.values)
    found, last = [], session.span(lane)[1] - zero
    for i in np.flatnonzero(there[1:] & ~there[:-1]).tolist():
        first = i + 1
        same = np.flatnonzero(curve.values[first:] != curve.values[first])
        until = int(curve.ticks[first + same[0] - 1]) if len(same) else last
        start, end = int(curve.ticks[first]) + zero, min(until, last) + zero
        if start >= end:
            continue  # beyond the edge of its region
        if end - start > _bar(session, start):
            value, until_there = parameter.format(float(curve.values[first])), session.tempo.position(end)
            said = f"stays at {value}, the end of its range, until {until_there}"
            found.append(Finding(KIND.name, parameter.id, start, end, said, lane.id, sure=0.3))
    return found


def _bar(session: Session, tick: int) -> int:
    """How long the bar is that a tick lies in."""
    return session.tempo.bar_starts(tick + 1)[-1][2].bar_ticks


KIND = Kind("stuck", "stuck at the end of its range", stuck)
