"""What is heard of a parameter at every moment, and why."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np

from velmot.core.envelope import Envelope
from velmot.core.session import Precedence, Session
from velmot.core.time import merged


@dataclass(frozen=True)
class Reason:
    """Over ``[start, end)`` the value comes from `source`: static, track or region (then `region` is its id)."""

    start: int
    end: int
    source: str
    region: str | None = None


@dataclass(frozen=True)
class Heard:
    """The envelope that is heard, and the reason for each span of the session, in order."""

    envelope: Envelope
    reasons: tuple[Reason, ...]


def heard(session: Session, parameter_id: str) -> Heard:
    """What is heard of a parameter: its static value unless a lane speaks and the track reads.

    Where a region's lane and the track's both speak the session's precedence decides; of two
    overlapping regions the later start wins.
    """
    parameter = session.parameter(parameter_id)
    envelope = Envelope.constant(parameter.value, parameter.axis)
    source = Reason(0, session.length, "static")
    if not session.owner(parameter_id).reads:
        return Heard(envelope, (source,))
    if own := session.lane_at(parameter_id):
        envelope, source = own.envelope, Reason(0, session.length, "track")
        if session.precedence is Precedence.TRACK:
            return Heard(envelope, (source,))
    reasons: tuple[Reason, ...] = (source,)
    for region, lane in session.region_lanes(parameter_id):
        envelope = envelope.splice(lane.envelope.cut(0, region.length), region.start)
        reasons = _covered(reasons, Reason(region.start, region.end, "region", region.id))
    return Heard(envelope, reasons)


def _covered(reasons: tuple[Reason, ...], top: Reason) -> tuple[Reason, ...]:
    """The reasons with `top` laid over them."""
    out: list[Reason] = []
    for r in reasons:
        if r.start < top.start:
            out.append(Reason(r.start, min(r.end, top.start), r.source, r.region))
    out.append(top)
    for r in reasons:
        if r.end > top.end:
            out.append(Reason(max(r.start, top.end), r.end, r.source, r.region))
    return tuple(r for r in out if r.start < r.end)


def largest_difference(one: Envelope, other: Envelope, start: int, end: int) -> tuple[float, int]:
    """The largest difference in axis units at any break position of either in ``[start, end]``, and its tick.

    Both sides of every position are compared, so jumps count.
    """
    ticks = merged(*(e.ticks[(e.ticks >= start) & (e.ticks <= end)] for e in (one, other)), [start, end])
    right = np.abs(one.place_at(ticks) - other.place_at(ticks))
    left = np.abs(one.place_at(ticks, "left") - other.place_at(ticks, "left"))
    right[ticks == end] = 0.0
    left[ticks == start] = 0.0
    gap = np.maximum(left, right)
    i = int(gap.argmax())
    return float(gap[i]), int(ticks[i])
