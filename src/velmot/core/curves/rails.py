"""Rails: the two straight lines a curve runs between over a span, and the curve as it runs between others.

Between rails L and H that become L' and H' the curve becomes y' = L'(t) + (y − L)/(H − L)·(H'(t) − L'(t)), on its axis.
That is y' = gain(t)·y + lift(t) with both straight over time, so one mechanism does for rails and for the ramps beside them.
"""

from __future__ import annotations

from functools import partial
from itertools import pairwise
from typing import NamedTuple

import numpy as np

from velmot.core.curves import editing
from velmot.core.curves.axes import Axis
from velmot.core.curves.editing import Fragment, Piece
from velmot.core.curves.envelope import SAME, Envelope
from velmot.core.curves.segments import HOLD
from velmot.core.curves.sums import TOLERANCE, in_lines, sum_axis
from velmot.core.curves.within_bound import thinned_within
from velmot.core.time.ticks import Floats, Ticks


class Rails(NamedTuple):
    """Where two straight lines stand at the start and the end of a span, in axis coordinates."""

    low_start: float
    low_end: float
    high_start: float
    high_end: float

    @property
    def crossed(self) -> bool:
        """Whether the high rail lies below the low one anywhere, so that the curve stands upside down there."""
        return self.high_start < self.low_start or self.high_end < self.low_end


class Map(NamedTuple):
    """What happens to a coordinate at one moment: y' = gain·y + lift."""

    gain: float
    lift: float


UNCHANGED = Map(1.0, 0.0)

_FINE = 1 / 32
"""What part of the tolerance laying a bend finely may take, and as much again what becomes of it."""

_SHORTEST = 16
"""Ticks of a piece below which there is a corner on every tick."""


def rails_of(curve: Envelope, start: int, end: int) -> Rails | None:
    """The lowest and the highest coordinate that a curve reaches in ``[start, end)``, silence aside; None for silence only."""
    return curve.remembered("_rails", (start, end), lambda: _rails_of(curve, start, end))


def _rails_of(curve: Envelope, start: int, end: int) -> Rails | None:
    lowest, highest = curve.extremes(start, end)
    if not curve.axis.silent(lowest):
        low, high = (float(curve.axis.coordinate(v)) for v in (lowest, highest))
        return Rails(low, low, high, high)
    part = editing.cut(curve, start, end).envelope
    part = part.apart_from_silence()
    heard = part.coordinates[~part.axis.silent(part.values)]
    if not len(heard):
        return None
    low, high = float(heard.min()), float(heard.max())
    return Rails(low, low, high, high)


def maps_between(before: Rails, after: Rails) -> tuple[Map, Map]:
    """The maps at the start and the end that lead one pair of rails into another; a flat curve follows the low rail."""
    low, apart = before.low_start, before.high_start - before.low_start
    made = []
    for new_low, new_high in ((after.low_start, after.high_start), (after.low_end, after.high_end)):
        gain = (new_high - new_low) / apart if apart > SAME else 1.0
        made.append(Map(gain, new_low - gain * low))
    return made[0], made[1]


def exact(curve: Envelope, one: tuple[int, Map], other: tuple[int, Map]) -> bool:
    """Whether a curve can be led from one mark to the next without straight pieces in place of what it would do."""
    (start, before), (end, after) = one, other
    if before == after or start == end:
        return True
    first, last = max(int(np.searchsorted(curve.ticks, start, "right")) - 1, 0), int(np.searchsorted(curve.ticks, end))
    moves = ~curve.still_after[first:last]
    bent = np.isfinite(curve.bends[first:last]) & (curve.bends[first:last] != 0)
    return not (moves & (bent | (before.gain != after.gain))).any()


def moved(piece: Fragment, one: Map, other: Map, tolerance: float = TOLERANCE) -> Envelope:
    """A piece under maps that go straight from `one` at its start to `other` at its end; silence stays silence.

    Exact, bends included, where both are the same; straight and held segments also where only the lift differs. Else
    in straight pieces within `tolerance` axis units.
    """
    curve = piece.envelope
    if one == other:
        return editing.map_axis(curve, one.gain, one.lift)
    if one.gain == other.gain == 1.0:
        return sum_axis(curve, Envelope.of([(0, one.lift), (piece.length, other.lift)]), tolerance)
    return _twisted(piece, one, other, tolerance)


def led(curve: Envelope, marks: list[tuple[int, Map]], low: float, high: float) -> tuple[Envelope, int]:
    """A curve led through maps at some ticks, straight between them and untouched outside; limited to values low..high.

    Also gives how many spans were limited. Two marks may share a tick: there the map jumps.
    """
    pieces: list[Piece] = []
    limited = 0
    for (start, one), (end, other) in pairwise(marks):
        if start == end or one == other == UNCHANGED:
            continue
        name, piece = f"_piece_{len(pieces)}", partial(_bare_piece, curve, start, end)
        made, spans = _within(moved(curve.remembered(name, (start, end), piece), one, other), curve.axis, low, high)
        limited += spans
        pieces.append(Piece(start, end, made, start))
    return editing.overlaid(curve, pieces), limited


def led_whole(curve: Envelope, same: Map, low: float, high: float) -> tuple[Envelope, int]:
    """A whole curve under one map, limited, with no point more than that needs; and how many spans were limited."""
    return _within(editing.map_axis(_bare(curve), same.gain, same.lift), curve.axis, low, high)


def _bare_piece(curve: Envelope, start: int, end: int) -> Fragment:
    return editing.cut(curve, start, end).map(_bare)


def _bare(curve: Envelope) -> Envelope:
    """The curve in its coordinates: a map may lead octaves further than any number can hold before they are limited."""
    if not curve.axis.logarithmic:
        return curve
    return Envelope(curve.ticks, curve.coordinates, curve.bends, Axis.LINEAR)


def _within(bare: Envelope, axis: Axis, low: float, high: float) -> tuple[Envelope, int]:
    """A curve in its coordinates limited, and as values of its axis again."""
    least, most = (float(axis.coordinate(v)) for v in (low, high))
    made, spans = editing.limit(bare, least, most)
    values = np.clip(axis.value_of(made.values), low, high)
    values = np.where(made.values <= least, low, np.where(made.values >= most, high, values))
    return made.trusted(made.ticks, values + 0.0, made.bends, axis), spans


# ── where rails are not parallel ──────────────────────────────────────────────────────────────


def _twisted(piece: Fragment, one: Map, other: Map, tolerance: float) -> Envelope:
    """A piece under a gain that changes: a straight segment becomes a parabola, a held one a line, and a bend what is no
    bend: that is laid finely, and then in the fewest lines.
    """
    base = piece.envelope.only_heard().apart_from_silence()
    bent = np.isfinite(base.bends) & (base.bends != 0) & ~base.still_after
    if not bent.any():
        return _in_parabolas(base, piece.length, one, other, tolerance)
    most = max(abs(one.gain), abs(other.gain), 1e-9)
    fine = _in_parabolas(in_lines(base, tolerance * _FINE / most), piece.length, one, other, tolerance * _FINE)
    straight = ~(bent & np.append(False, bent[:-1]))  # points of which one side at least is no bend
    return thinned_within(fine, tolerance * (1 - 2 * _FINE), np.unique(base.ticks[straight]))


def _in_parabolas(base: Envelope, length: int, one: Map, other: Map, tolerance: float) -> Envelope:
    """A curve of lines and holds under a gain that changes over its length; parabolas in straight pieces."""
    start, end = base.ticks[:-1], base.ticks[1:]
    lasting = end > start
    start, end = start[lasting], end[lasting]
    silent = base.axis.silent(base.values)
    held, y = np.isposinf(base.bends[:-1]), base.coordinates
    from_y, to_y = y[:-1][lasting], np.where(held, y[:-1], y[1:])[lasting]
    silences = silent[:-1][lasting], np.where(held, silent[:-1], silent[1:])[lasting]
    new_from = _mapped(base.axis, start / length, from_y, silences[0], one, other)
    new_to = _mapped(base.axis, end / length, to_y, silences[1], one, other)
    # Four times the parabola's arrow.
    hollow = (other.gain - one.gain) * (end - start) / length * (to_y - from_y)
    hollow = np.where(silences[0] | silences[1], 0.0, hollow)
    rows = _corners(start, end, new_from, new_to, hollow, tolerance)
    still = silences[0] & silences[1]
    return _joined(rows, (start, end, new_from, new_to), still, base.axis)


def _mapped(axis: Axis, x: Floats, y: Floats, silent: np.ndarray, one: Map, other: Map) -> Floats:
    gain, lift = (a + (b - a) * x for a, b in zip(one, other, strict=True))
    return np.where(silent, axis.floor if axis.floor is not None else 0.0, gain * y + lift)


def _corners(
    start: Ticks, end: Ticks, low: Floats, high: Floats, hollow: Floats, tolerance: float
) -> tuple[Ticks, Ticks, Floats]:
    """(segment, tick, coordinate) of the inner corners of parabolas, as few as stay within the tolerance.

    From `low` to `high` a parabola lies low + (high − low)x − hollow·x(1 − x). Inner corners stand beside it, on its
    hollow side by the tolerance, so that a line between two of them may have twice its arrow: in widths of
    √(tolerance/|hollow|) the first and the last piece are 1 + √2 long, those between √8.
    """
    bent = np.flatnonzero(np.abs(hollow) > 4 * tolerance * (1 - 5 / _SHORTEST))  # the others are one line each
    start, end, low, high, hollow = start[bent], end[bent], low[bent], high[bent], hollow[bent]
    first, between = 1 + np.sqrt(2), np.sqrt(8)
    span = end - start
    long = span / np.maximum(np.sqrt(np.abs(hollow) / tolerance) / between, 1.0)  # of a piece, in ticks
    coarse = long < _SHORTEST  # there a corner on every tick is exact
    # Corners stand on whole ticks: a piece may be a tick longer, and then errs by four times that part more.
    within = tolerance * (1 - 5 / np.maximum(long, _SHORTEST))
    wide = np.sqrt(np.abs(hollow) / within)
    alone = wide <= 2  # one line has an arrow of a quarter of it
    count = np.where(alone, 1, np.maximum(np.ceil((wide - 2 * first) / between - 1e-9), 0) + 2).astype(np.int64)
    count = np.where(coarse & ~alone, span, np.minimum(count, span))
    owner = np.repeat(np.arange(len(start)), count - 1)
    nth = np.arange(len(owner)) - np.repeat(np.cumsum(count - 1) - (count - 1), count - 1)
    x = (first + nth * between) / ((count[owner] - 2) * between + 2 * first)
    x = np.where(coarse[owner], (nth + 1) / np.maximum(span[owner], 1), x)
    ticks = start[owner] + np.round(x * span[owner]).astype(np.int64)
    x = (ticks - start[owner]) / span[owner]
    aside = np.where(coarse, 0.0, within)[owner]
    y = low[owner] + (high - low)[owner] * x - hollow[owner] * x * (1 - x)
    return bent[owner], ticks, y - np.sign(hollow[owner]) * aside


def _joined(
    inner: tuple[Ticks, Ticks, Floats],
    segments: tuple[Ticks, Ticks, Floats, Floats],
    still: np.ndarray,
    axis: Axis,
) -> Envelope:
    """Lines through the segments' starts, inner corners and ends; where one starts from where the last ended, one point."""
    start, end, low, high = segments
    owner, corner_ticks, corner_y = inner
    ends = np.append(high[:-1] != low[1:], True)
    corners = np.bincount(owner, minlength=len(start))
    first = np.concatenate(([0], np.cumsum(1 + corners + ends)))  # where each segment's points begin
    closing = first[1:][ends] - 1
    inside = first[owner] + 1 + np.arange(len(owner)) - (np.cumsum(corners) - corners)[owner]
    ticks, y, bends = np.empty(first[-1], dtype=np.int64), np.empty(first[-1]), np.zeros(first[-1])
    for column, at_start, at_corners, at_end in ((ticks, start, corner_ticks, end), (y, low, corner_y, high)):
        column[first[:-1]], column[inside], column[closing] = at_start, at_corners, at_end[ends]
    bends[first[:-1]] = np.where(still, HOLD, 0.0)
    return Envelope(ticks, axis.value_of(y), bends, axis)
