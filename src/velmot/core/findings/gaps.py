"""Gaps between regions: where what is heard jumps at a region's edge, or drifts slowly with nobody at the controls."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Literal

from velmot.core.envelope import Envelope
from velmot.core.heard import heard, reading, spoken
from velmot.core.parameters import Parameter
from velmot.core.session import Precedence, Session
from velmot.core.time import TICKS_PER_BEAT

LONG = 6 * TICKS_PER_BEAT
"""A segment at least this long through a gap is a drift."""

LEAST = 0.01
"""Jumps and drifts below this share of the parameter's range are none."""


@dataclass(frozen=True)
class Gap:
    """A gap ``[start, end)`` of one parameter, and in words what is odd about it."""

    parameter: str
    start: int
    end: int
    kind: Literal["jump", "drift"]
    message: str


def gaps(session: Session, parameter_id: str) -> list[Gap]:
    """The gaps of one parameter in which it jumps or drifts, in order; none for named values.

    Where region lanes speak the gaps are between them; else between the regions of the track, where
    only a drift of the track's own lane is odd.
    """
    parameter = session.parameter(parameter_id)
    lane = session.lane_at(parameter_id)
    if parameter.holds_only or (session.precedence is Precedence.TRACK and lane):
        return []
    now = heard(reading(session), parameter_id, groups=False).envelope
    spans = [(a, b) for a, b, _, _ in spoken(session.region_lanes(parameter_id))]
    if spans:
        return [g for a, b in _between(spans, session.length) if (g := _odd(session, parameter, now, a, b))]
    track = session.owner(parameter_id)
    covered = sorted((r.start, r.end) for r in track.regions if not r.container)
    inner = [(a, b) for a, b in _between(covered, session.length) if a > 0 and b < session.length]
    return [g for a, b in inner if lane and (g := _drift(session, parameter, now, a, b))]


def _between(spans: list[tuple[int, int]], length: int) -> list[tuple[int, int]]:
    """What sorted spans leave of ``[0, length)``."""
    out, at = [], 0
    for start, end in spans:
        out.append((at, min(start, length)))
        at = max(at, end)
    return [(a, b) for a, b in (*out, (at, length)) if a < b]


def _odd(session: Session, parameter: Parameter, now: Envelope, start: int, end: int) -> Gap | None:
    jumps = []
    for tick in (start, end):
        far = abs(float(now.coordinate_at(tick) - now.coordinate_at(tick, "left")))
        if 0 < tick < session.length and far >= _least(parameter):
            jumps.append(f"{parameter.format_distance(far)} at {session.tempo.position(tick)}")
    if jumps:
        return Gap(parameter.id, start, end, "jump", f"jumps {' and '.join(jumps)}")
    return _drift(session, parameter, now, start, end)


def _drift(session: Session, parameter: Parameter, now: Envelope, start: int, end: int) -> Gap | None:
    if end - start < LONG or now.count(start + 1, end):
        return None
    a, b = float(now.at(start)), float(now.at(end, "left"))
    far = abs(float(parameter.axis.coordinate(a) - parameter.axis.coordinate(b)))
    if far < _least(parameter):
        return None
    said = f"drifts from {parameter.format(a)} to {parameter.format(b)}"
    return Gap(parameter.id, start, end, "drift", said)


def _least(parameter: Parameter) -> float:
    return LEAST * abs(float(parameter.axis.coordinate(parameter.high) - parameter.axis.coordinate(parameter.low)))
