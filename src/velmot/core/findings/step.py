"""Step: a jump that nothing else explains, as where a pass began off the lane."""

from __future__ import annotations

import numpy as np

from velmot.core.curves.segments import HOLD
from velmot.core.findings.finding import Finding, Kind
from velmot.core.session.session import Session
from velmot.core.session.track import Lane
from velmot.core.time.ticks import Tick
from velmot.core.verbs.draw.request import Draw
from velmot.core.verbs.points.request import Spot

QUICK = 0.02
"""Seconds within which a change is a step."""
SHARE = 0.05
"""A step is at least this share of the parameter's range."""
MOST = 4
"""A lane with more steps is meant to step."""


def steps(session: Session, parameter_id: str) -> list[Finding]:
    """The steps of the parameter's lanes that were not meant; none of named values, nor to or from silence."""
    parameter = session.parameter(parameter_id)
    if parameter.holds_only:
        return []
    found = []
    for lane in session.lanes_of(parameter_id):
        spots = _steps_of(session, lane)
        if len(spots) <= MOST:
            found += [
                _finding(session, lane, *spot) for spot in spots if not _explained(session, lane, spot[0], spot[1])
            ]
    return found


def _steps_of(session: Session, lane: Lane) -> list[tuple[int, int, float, float]]:
    """(start, end, value before, value after) of every step, in session ticks."""
    curve, parameter, zero = lane.envelope, session.parameter(lane.parameter), session.zero_of(lane)
    at = parameter.axis.coordinate(curve.values)
    seconds = session.tempo.seconds(curve.ticks + zero)
    quick = (np.diff(seconds) <= QUICK) & (np.abs(np.diff(at)) >= SHARE * parameter.span)
    held = (curve.bends[:-1] == HOLD) & (np.abs(np.diff(at)) >= SHARE * parameter.span)
    silent = parameter.axis.silent(curve.values)
    low, high = session.span(lane)
    shown = (curve.ticks[:-1] + zero > low) & (curve.ticks[1:] + zero < high)
    out = []
    for i in np.flatnonzero((quick | held) & shown & ~silent[:-1] & ~silent[1:]).tolist():
        first = int(curve.ticks[i + 1] if held[i] else curve.ticks[i]) + zero
        out.append((first, int(curve.ticks[i + 1]) + zero, float(curve.values[i]), float(curve.values[i + 1])))
    return out


def _explained(session: Session, lane: Lane, start: int, end: int) -> bool:
    """Whether a region of the track begins or ends there, or another of its lanes steps too."""
    track = session.owner(lane.parameter)
    near = _near(session, start, end)
    edges = [edge for region in track.regions for edge in (region.start, region.end)]
    if any(near[0] <= edge <= near[1] for edge in (*edges, 0, session.length)):
        return True
    others = (x for p in track.parameters for x in session.lanes_of(p.id) if x.id != lane.id)
    return any(near[0] <= a <= near[1] for x in others for a, _, _, _ in _steps_of(session, x))


def _near(session: Session, start: int, end: int) -> tuple[int, int]:
    seconds = session.tempo.seconds(np.array([start, end]))
    first = session.tempo.tick_at(max(float(seconds[0]) - QUICK, 0.0))
    return int(first), min(int(session.tempo.tick_at(float(seconds[1]) + QUICK)), session.length)


def _finding(session: Session, lane: Lane, start: int, end: int, before: float, after: float) -> Finding:
    parameter = session.parameter(lane.parameter)
    size = abs(float(parameter.axis.coordinate(after) - parameter.axis.coordinate(before)))
    said = f"steps {parameter.format_distance(size)} where nothing else does"
    zero, (a, b) = session.zero_of(lane), _near(session, start, end)
    low, high = session.span(lane)
    a, b = max(a, low), min(b, high)
    ends = lane.envelope.value_at(a - zero, "left"), lane.envelope.value_at(b - zero)
    ramp = tuple(Spot(Tick(at), float(value)) for at, value in zip((a, b), ends, strict=True))
    mend = Draw(parameter.id, ramp, home=lane.home)
    return Finding(KIND.name, parameter.id, start, max(end, start + 1), said, lane.id, size, 0.5, mend)


KIND = Kind("step", "steps that were not meant", steps)
