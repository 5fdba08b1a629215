"""Gaps between regions: where what is heard jumps at a region's edge, or drifts slowly with nobody at the controls."""

from __future__ import annotations

from typing import Literal

from velmot.core.curves.envelope import Envelope
from velmot.core.curves.spans import outside
from velmot.core.findings.finding import Finding, Kind
from velmot.core.parameters.parameter import Parameter
from velmot.core.session.heard import heard, reading, speaking
from velmot.core.session.session import Session
from velmot.core.session.track import Precedence
from velmot.core.time.ticks import TICKS_PER_BEAT, Tick
from velmot.core.verbs.regions.request import FillGap

SHORTEST_DRIFT = 6 * TICKS_PER_BEAT
"""A segment at least this long through a gap is a drift."""

SMALLEST_SHARE = 0.01
"""Jumps and drifts below this share of the parameter's range are none."""


def gaps(session: Session, parameter_id: str) -> list[Finding]:
    """The gaps of one parameter in which it jumps or drifts, in order; none for named values.

    Where region lanes speak the gaps are between them; else between the regions of the track, where
    only a drift of the track's own lane is odd.
    """
    parameter = session.parameter(parameter_id)
    lane = session.lane_at(parameter_id)
    track = session.owner(parameter_id)
    if not track.regions or parameter.holds_only or (session.precedence is Precedence.TRACK and lane):
        return []
    spans = [(a, b) for a, b, _, _ in speaking(session, parameter_id).spans]
    if not spans and lane is None:
        return []
    now = heard(reading(session), parameter_id, groups=False).envelope
    if spans:
        return [g for a, b in outside(spans, session.length) if (g := _odd(session, parameter, now, a, b))]
    covered = [(r.start, r.end) for r in track.regions if not r.container]
    inner = [(a, b) for a, b in outside(covered, session.length) if a > 0 and b < session.length]
    return [g for a, b in inner if (g := _drift(session, parameter, now, a, b))]


def _odd(session: Session, parameter: Parameter, now: Envelope, start: int, end: int) -> Finding | None:
    jumps: list[tuple[float, str]] = []
    late = start > 0  # whether it only jumps at the gap's end, which holding would not change
    for tick in (start, end):
        far = abs(float(now.coordinate_at(tick) - now.coordinate_at(tick, "left")))
        if 0 < tick < session.length and far >= SMALLEST_SHARE * parameter.span:
            jumps.append((far, f"{parameter.format_distance(far)} at {session.tempo.position(tick)}"))
            late = late and tick == end
    if jumps and late and end - start >= SHORTEST_DRIFT and not now.moves(start, end):
        return None  # held for as long as it takes until the next region begins with a value of its own
    if jumps:
        said = f"jumps {' and '.join(words for _, words in jumps)}"
        joins = late or (end - start < SHORTEST_DRIFT and len(jumps) == 2)
        return _finding(parameter, start, end, said, max(far for far, _ in jumps), "join" if joins else "hold")
    return _drift(session, parameter, now, start, end)


def _drift(session: Session, parameter: Parameter, now: Envelope, start: int, end: int) -> Finding | None:
    if end - start < SHORTEST_DRIFT or now.count(start + 1, end):
        return None
    far = abs(float(now.coordinate_at(start) - now.coordinate_at(end, "left")))
    if far < SMALLEST_SHARE * parameter.span:
        return None
    values = now.value_at(start), now.value_at(end, "left")
    said = f"drifts from {parameter.format(values[0])} to {parameter.format(values[1])}"
    return _finding(parameter, start, end, said, far)


def _finding(
    parameter: Parameter, start: int, end: int, words: str, size: float, how: Literal["hold", "join"] = "hold"
) -> Finding:
    mend = FillGap(parameter.id, Tick(start), Tick(end), how)
    return Finding(KIND.name, parameter.id, start, end, words, size=size, sure=0.5, mend=mend)


KIND = Kind("gap", "gaps", gaps, on_strips=True)
