"""Envelopes: breakpoints over time joined by straight, held or bent segments.

All arithmetic is on the parameter's axis (decibels, octaves, or the value itself), so cutting,
mapping and stretching are exact: no operation here resamples.
"""

from __future__ import annotations

from collections.abc import Callable, Iterable
from dataclasses import dataclass
from functools import cached_property
from itertools import pairwise
from math import expm1, isfinite
from typing import Any, Literal, NamedTuple, Self

import numpy as np

from velmot.core.errors import RequestError
from velmot.core.parameters import SILENCE, Axis
from velmot.core.time import Flags, Floats, Ticks, among, beats_of

HOLD = float("inf")
"""The shape of a held segment: the limit of a bend as k grows without bound."""

MAX_BEND = 60.0
STRAIGHT = 1e-14

SAME = 1e-9
"""Differences up to this many axis units are none."""

Side = Literal["left", "right"]


def bend(x: Floats, k: Floats) -> Floats:
    """How far a segment of bend `k` has come at `x` in 0..1: (e^(kx) − 1)/(e^k − 1).

    k → 0 is straight; k = HOLD stays at 0 until x reaches 1.

    >>> float(bend(np.array(0.5), np.array(0.0))), float(bend(np.array(0.5), np.array(HOLD)))
    (0.5, 0.0)
    """
    if x.shape != k.shape:
        x, k = np.broadcast_arrays(x, k)
    part = np.where(np.isposinf(k), x >= 1, x).astype(np.float64)
    curved = (x > 0) & (x < 1) & np.isfinite(k) & (np.abs(k) >= STRAIGHT)  # the ends are exact as they are
    if curved.any():
        bent = k[curved]
        part[curved] = np.expm1(bent * x[curved]) / np.expm1(bent)  # no overflow: k is at most MAX_BEND
    return part


def unbend(part: Floats | float, k: Floats | float) -> Floats:
    """Where in a segment (0..1) of bend `k` it has come as far as `part` (0..1): ln(1 + p(e^k − 1))/k, never beyond.

    >>> float(unbend(0.25, np.log(9))), float(unbend(1.0, -60.0))
    (0.5, 1.0)
    """
    p, bent = np.broadcast_arrays(np.asarray(part, dtype=np.float64), np.asarray(k, dtype=np.float64))
    p = np.clip(p, 0.0, 1.0)
    straight = np.abs(bent) < 1e-9  # nearer to straight than the logarithm can tell
    safe = np.where(straight, 1.0, bent)
    gentle, steep = np.clip(safe, -1.0, 1.0), np.maximum(np.abs(safe), 1.0)
    far = np.where(safe > 0, p, 1.0 - p)  # how far along as seen from the flat end
    curved = np.where(
        np.abs(safe) > 1,  # kept from overflowing, and from losing its digits at the flat end
        1.0 + np.log(np.maximum(far + (1.0 - far) * np.exp(-steep), np.exp(-steep))) / steep,
        np.log1p(p * np.expm1(gentle)) / gentle,
    )
    x = np.where((np.abs(safe) > 1) & (safe < 0), 1.0 - curved, curved)
    return np.asarray(np.clip(np.where(straight, p, x), 0.0, 1.0))


@dataclass(frozen=True, eq=False)
class Envelope:
    """Sorted breakpoints (tick, value) and, for each, the shape of the segment that starts there.

    `ticks` int64 (n,), `values` float64 (n,) in the parameter's unit, `bends` float64 (n,): 0 is
    straight, HOLD holds, else a bend number. The last shape says nothing and is 0. Two points may
    share a tick: a jump. Before the first point the first value holds, after the last the last.
    Arrays are made read-only.
    """

    ticks: Ticks
    values: Floats
    bends: Floats
    axis: Axis = Axis.LINEAR

    def __post_init__(self) -> None:
        ticks = np.ascontiguousarray(self.ticks, dtype=np.int64)
        values = np.asarray(self.values, dtype=np.float64) + 0.0  # no negative zero
        bends = np.array(self.bends, dtype=np.float64)
        if not ticks.shape == values.shape == bends.shape or ticks.ndim != 1:
            raise ValueError(f"envelope arrays differ in length: {ticks.shape}, {values.shape}, {bends.shape}")
        if len(bends):
            bends[-1] = 0.0
        _check_points(ticks, values, bends, self.axis)
        for name, array in (("ticks", ticks), ("values", values), ("bends", bends)):
            array.flags.writeable = False
            object.__setattr__(self, name, array)

    # ── making ────────────────────────────────────────────────────────────────────────────────

    @classmethod
    def of(cls, points: Iterable[tuple[int, float] | tuple[int, float, float]], axis: Axis = Axis.LINEAR) -> Self:
        """From (tick, value) or (tick, value, bend) rows.

        >>> Envelope.of([(0, 0.0), (10, 5.0)]).at(np.array([4])).tolist()
        [2.0]
        """
        rows = [(*point, 0.0)[:3] for point in points]
        table = np.array(rows, dtype=np.float64).reshape(-1, 3)
        ticks = np.array([row[0] for row in rows], dtype=np.int64)
        return cls(ticks, table[:, 1], table[:, 2], axis)

    @classmethod
    def constant(cls, value: float, axis: Axis = Axis.LINEAR, tick: int = 0) -> Self:
        """One point, which holds everywhere."""
        if not isfinite(value) or (axis is Axis.LOG and value <= 0):
            return cls.of([(tick, value)], axis)  # which says what is wrong
        return cls._made(np.array([tick], dtype=np.int64), np.array([value]) + 0.0, np.zeros(1), axis)

    def __len__(self) -> int:
        return len(self.ticks)

    def __eq__(self, other: object) -> bool:
        return (
            isinstance(other, Envelope)
            and self.axis == other.axis
            and np.array_equal(self.ticks, other.ticks)
            and np.array_equal(self.values, other.values)
            and np.array_equal(self.bends, other.bends)
        )

    __hash__ = None  # type: ignore[assignment]

    def points(self) -> list[tuple[int, float, float]]:
        """Rows of (tick, value, bend)."""
        return list(zip(self.ticks.tolist(), self.values.tolist(), self.bends.tolist(), strict=True))

    def _with(self, ticks: Ticks, values: Floats, bends: Floats) -> Envelope:
        return Envelope(ticks, values, bends, self.axis)

    # ── reading ───────────────────────────────────────────────────────────────────────────────

    @cached_property
    def places(self) -> Floats:
        """The points' axis coordinates, shape (n,)."""
        return self.axis.place(self.values)

    def at(self, ticks: Ticks | int, side: Side = "right") -> Floats:
        """Values at ticks. `side="left"` gives the limit from before, which differs at jumps."""
        asked = np.asarray(ticks, dtype=np.int64)
        index = np.searchsorted(self.ticks, asked, side=side) - 1
        y = self.axis.value_at(self._place_in(index, asked))
        a, b = self.values[np.maximum(index, 0)], self.values[np.minimum(index + 1, len(self) - 1)]
        y = np.minimum(
            np.maximum(y, np.minimum(a, b)), np.maximum(a, b)
        )  # rounding never leads past the segment's ends
        on_point = self._value_on_point(index, asked, side)
        return np.asarray(np.where(np.isnan(on_point), y, on_point))

    def value_at(self, tick: int, side: Side = "right") -> float:
        """The value at one tick: `at` without the arrays, for work that asks tick by tick."""
        i = int(np.searchsorted(self.ticks, tick, side=side)) - 1
        if i < 0:
            return float(self.values[0])
        if self._flat_after[i] or (side == "right" and self.ticks[i] == tick):
            return float(self.values[i])
        start, end = int(self.ticks[i]), int(self.ticks[i + 1])
        if side == "left" and end == tick:
            return float(self.values[i + 1])
        x, k = (tick - start) / (end - start), float(self.bends[i])
        part = x if abs(k) < STRAIGHT else expm1(k * x) / expm1(k)
        y = float(self.places[i]) + (float(self.places[i + 1]) - float(self.places[i])) * part
        low, high = sorted((float(self.values[i]), float(self.values[i + 1])))
        return min(max(2.0**y if self.axis is Axis.LOG else y, low), high)

    def place_at(self, ticks: Ticks | int, side: Side = "right") -> Floats:
        """Axis coordinates at ticks."""
        asked = np.asarray(ticks, dtype=np.int64)
        return self._place_in(np.searchsorted(self.ticks, asked, side=side) - 1, asked)

    def _place_in(self, index: Ticks, asked: Ticks) -> Floats:
        """Coordinates inside the segments that start at points `index` (−1: before the first)."""
        i = np.maximum(index, 0)
        j = np.minimum(index + 1, len(self) - 1)
        start, k, y = self.ticks[i], self.bends[i], self.places[i]
        x = np.maximum((asked - start) / np.maximum(self.ticks[j] - start, 1), 0.0)
        part = np.where(np.isposinf(k) | (index < 0), 0.0, bend(x, k))
        end = self.places[j]
        return np.asarray(np.minimum(np.maximum(y + (end - y) * part, np.minimum(y, end)), np.maximum(y, end)))

    def _value_on_point(self, index: Ticks, asked: Ticks, side: Side) -> Floats:
        """The stored value where a tick stands exactly on a point, else NaN; so points read back bit for bit."""
        i = np.clip(index, 0, len(self) - 1)
        j = np.clip(index + 1, 0, len(self) - 1)
        kept = (index < 0) | self._flat_after[i]
        if side == "right":
            return np.where(kept | (self.ticks[i] == asked), self.values[i], np.nan)
        return np.where(kept, self.values[i], np.where(self.ticks[j] == asked, self.values[j], np.nan))

    @cached_property
    def _flat_after(self) -> Flags:
        """Whether the segment after each point keeps the point's value all along."""
        flat = np.isposinf(self.bends)
        flat[:-1] |= self.values[:-1] == self.values[1:]
        flat[-1:] = True
        return flat

    @cached_property
    def unheard(self) -> Flags:
        """Which points no moment has: the first of a jump after a hold, as the value before it is held up to the jump."""
        never = np.zeros(len(self), dtype=bool)
        never[1:-1] = np.isposinf(self.bends[:-2]) & (self.ticks[1:-1] == self.ticks[2:])
        never[1:-1] &= self.ticks[1:-1] > self.ticks[:-2]
        return never

    def only_heard(self) -> Envelope:
        """The same curve without the points that no moment has."""
        if not self.unheard.any():
            return self
        keep = ~self.unheard
        return self._trusted(self.ticks[keep], self.values[keep], self.bends[keep])

    def extremes(self, start: int, end: int) -> tuple[float, float]:
        """Lowest and highest value in ``[start, end)``; segments are monotone, so points and edges decide."""
        part = slice(int(np.searchsorted(self.ticks, start, side="right")), int(np.searchsorted(self.ticks, end)))
        inside = self.values[part][~self.unheard[part]]
        every = np.concatenate((inside, [self.value_at(start), self.value_at(end, "left")]))
        return float(every.min()), float(every.max())

    def moves(self, start: int, end: int) -> bool:
        """Whether the value changes anywhere in ``[start, end)``."""
        low, high = self.extremes(start, end)
        return low != high

    def count(self, start: int, end: int) -> int:
        """How many points stand in ``[start, end)``."""
        return int(np.searchsorted(self.ticks, end) - np.searchsorted(self.ticks, start))

    def from_zero(self) -> Envelope:
        """Without a jump at tick 0, before which nothing is ever heard."""
        if len(self) > 1 and self.ticks[0] == self.ticks[1] == 0:
            return self._with(self.ticks[1:], self.values[1:], self.bends[1:])
        return self

    # ── cutting and joining ───────────────────────────────────────────────────────────────────

    def cut(self, start: int, end: int) -> Fragment:
        """What lies in ``[start, end)``, counted from 0, with both boundary points computed.

        The first point has the value from `start` on, the last the limit towards `end`.
        """
        if end <= start:
            raise RequestError("range-empty", "the range is empty", place="range", accepted="an end after the start")
        if self.unheard.any():
            return self.only_heard().cut(start, end)
        first = int(np.searchsorted(self.ticks, start, side="right"))
        last = int(np.searchsorted(self.ticks, end, side="left"))
        head = (start, self.value_at(start), self._rest_of_bend(start, end))
        tail = (end, self.value_at(end, "left"), 0.0)
        inner = self._with_last_cut(first, last, end)
        ticks = np.concatenate(([head[0]], self.ticks[first:last], [tail[0]])) - start
        values = np.concatenate(([head[1]], self.values[first:last], [tail[1]]))
        bends = np.concatenate(([head[2]], inner, [tail[2]]))
        return Fragment(self._with(ticks, values, bends), end - start)

    def _with_last_cut(self, first: int, last: int, end: int) -> Floats:
        """Bends of points first..last, the last one shortened to the part before `end`."""
        inner = self.bends[first:last].copy()
        if len(inner) and last == len(self):
            inner[-1] = HOLD
        elif len(inner) and np.isfinite(inner[-1]):
            span = int(self.ticks[last] - self.ticks[last - 1])
            if span:
                inner[-1] *= (end - int(self.ticks[last - 1])) / span
        return inner

    def _rest_of_bend(self, start: int, end: int) -> float:
        """The bend of the part of a segment from `start` up to its end, or up to `end` if that is nearer."""
        i = int(np.searchsorted(self.ticks, start, side="right")) - 1
        if i < 0 or i >= len(self) - 1:
            return HOLD
        k = float(self.bends[i])
        if not np.isfinite(k) or k == 0.0:
            return k
        stop = int(self.ticks[i + 1])
        return k * (min(end, stop) - start) / (stop - int(self.ticks[i]))

    def splice(self, fragment: Fragment, at: int, ramp: int = 0) -> Envelope:
        """Put a fragment in at `at`; outside ``[at, at + length)`` every value stays what it was.

        `ramp` 0 seals: jumps may stand at the edges. A ramp of r ticks goes straight from the value
        outside to the fragment's over the first and last r ticks inside the range (half the length
        at most).
        """
        end = at + fragment.length
        piece = fragment
        if ramp:
            piece = fragment.ramped(float(self.at(at, "left")), float(self.at(end)), ramp)
        base, (ticks, values, bends) = self.cut_points(np.array([at, end])), piece.envelope.arrays()
        parts = (base._between(None, at), (ticks + at, values, bends), base._between(end, None))
        ticks, values, bends = (np.concatenate(column) for column in zip(*parts, strict=True))
        return _without_idle(ticks, values, bends, self.axis)

    def overlaid(self, pieces: list[Piece]) -> Envelope:
        """The curve with others laid over it, each doing in its span what its own curve does there.

        Pieces are disjoint and in order. The same as one splice after the other, made in one go.
        """
        if not pieces:
            return self
        starts, ends = _edges([(piece.start, piece.end) for piece in pieces])
        base = self.reaching(np.concatenate((starts, ends)))
        first = np.searchsorted(base.ticks, starts, side="left") + 1
        last = np.searchsorted(base.ticks, ends, side="right") - 1
        follows = np.append(starts[1:] == ends[:-1], False)  # nothing of the base is left between two that meet
        last[follows] = first[1:][follows[:-1]]
        keep = np.ones(len(base), dtype=bool)
        keep[_ranges(first, last)] = False
        counts, new = _laid(pieces)
        where = np.repeat(np.cumsum(keep)[first - 1], counts)
        pairs = [(old[keep], column) for old, column in zip(base.arrays(), new, strict=True)]
        ticks, values, bends = _inserted(where, pairs)
        return _without_idle(ticks, values, bends, self.axis)

    def reaching(self, ticks: Ticks) -> Envelope:
        """The same curve with a point at every one of `ticks`, also before its first point and after its last."""
        low, high = int(ticks.min()), int(ticks.max())
        parts = [self.arrays()]
        if low < self.ticks[0]:
            parts.insert(0, (np.array([low]), self.values[:1], np.array([HOLD])))
        if high > self.ticks[-1]:
            held = self.bends.copy()
            held[-1] = HOLD
            parts[-1] = (self.ticks, self.values, held)
            parts.append((np.array([high]), self.values[-1:], np.zeros(1)))
        if len(parts) == 1:
            return self.cut_points(ticks)
        made = (np.concatenate(column) for column in zip(*parts, strict=True))
        return self._trusted(*made).cut_points(ticks)

    def slices(self, spans: list[tuple[int, int]]) -> list[Envelope]:
        """What lies in each ``[start, end)``, counted from its start, with a point at both ends: many cuts in one go."""
        starts, ends = _edges(spans)
        base = self.reaching(np.concatenate((starts, ends)))
        first = np.searchsorted(base.ticks, starts, side="right") - 1
        last = np.searchsorted(base.ticks, ends, side="left") + 1
        every = _ranges(first, last)
        stops = np.cumsum(last - first)
        ticks = base.ticks[every] - np.repeat(starts, last - first)
        values, bends = base.values[every], base.bends[every]
        bends[stops - 1] = 0.0
        parts = (slice(i, j) for i, j in pairwise((0, *stops.tolist())))
        return [self._trusted(ticks[part], values[part], bends[part]) for part in parts]

    def straightened(self, spans: list[tuple[int, int]], hold: bool) -> Envelope:
        """The curve with one straight (or held) segment over each of the disjoint spans, all else as it was."""
        starts, ends = _edges(spans)
        base = self.only_heard().reaching(np.concatenate((starts, ends)))
        ticks, values, bends = base.copies()
        inside = np.searchsorted(ends, ticks, side="right")  # the span a tick could lie in
        known = np.minimum(inside, len(ends) - 1)
        drop = (inside < len(ends)) & (ticks > starts[known])
        line, close = among(ticks, starts), among(ticks, ends)
        jump = ticks[1:] == ticks[:-1]
        drop[1:] |= jump & line[1:]
        drop[:-1] |= jump & close[:-1] & ~line[:-1]
        keep = ~drop
        bends[line] = HOLD if hold else 0.0
        return self._trusted(ticks[keep], values[keep], bends[keep])

    @classmethod
    def _made(cls, ticks: Ticks, values: Floats, bends: Floats, axis: Axis) -> Self:
        """Without checks, from arrays that are known to be possible."""
        self = object.__new__(cls)
        ticks.setflags(write=False)
        values.setflags(write=False)
        bends.setflags(write=False)
        self.__dict__.update(ticks=ticks, values=values, bends=bends, axis=axis)
        return self

    def _trusted(self, ticks: Ticks, values: Floats, bends: Floats) -> Envelope:
        return self._made(ticks, values, bends, self.axis)

    def until(self, tick: int) -> Envelope:
        """The part before `tick`, closed there by a point with the limit towards it (none after a hold)."""
        ticks, values, bends = self.cut_points(np.array([tick]))._between(None, tick)
        if len(ticks) > 1 and bends[-2] == HOLD:
            ticks, values, bends = ticks[:-1], values[:-1], bends[:-1]
        return self._with(ticks, values, bends)

    def since(self, tick: int) -> Envelope:
        """The part from `tick` on, opened there by a point with the value it has; its ticks stay."""
        return self._with(*self.cut_points(np.array([tick]))._between(tick, None))

    def joined(self, other: Envelope, tick: int) -> Envelope:
        """This curve before `tick` and another from there on, with no point at the seam that says nothing.

        A curve cut in two with `until` and `since` and joined again is the same curve.
        """
        pair = np.array([tick])
        parts = self.cut_points(pair)._between(None, tick), other.cut_points(pair)._between(tick, None)
        ticks, values, bends = (np.concatenate(column) for column in zip(*parts, strict=True))
        return _without_idle(ticks, values, bends, self.axis)._without_seam(tick)

    def _without_seam(self, tick: int) -> Envelope:
        """Without the one point at `tick`, if the segments on both sides are parts of one segment."""
        i, last = int(np.searchsorted(self.ticks, tick)), len(self) - 1
        if i > last or self.ticks[i] != tick or (i < last and self.ticks[i + 1] == tick):
            return self
        if i in (0, last):
            return self._without_edge_seam(i)
        k, after = float(self.bends[i - 1]), float(self.bends[i])
        if k == HOLD:
            if after != HOLD or self.values[i] != self.values[i - 1]:
                return self
        elif not self._one_segment(i, k, after):
            return self
        bends = self.bends.copy()
        bends[i - 1] = HOLD if k == HOLD else min(max(k + after, -MAX_BEND), MAX_BEND)
        keep = np.arange(len(self)) != i
        return self._with(self.ticks[keep], self.values[keep], bends[keep])

    def _without_edge_seam(self, i: int) -> Envelope:
        """Without the first or last point, if the curve is still up to the next one all the same."""
        if len(self) < 2:
            return self
        first, other = min(i, len(self) - 2), 1 if i == 0 else i - 1
        if not self._flat_after[first] or self.values[i] != self.values[other]:
            return self
        keep = np.arange(len(self)) != i
        return self._with(self.ticks[keep], self.values[keep], self.bends[keep])

    def _one_segment(self, i: int, k: float, after: float) -> bool:
        """Whether point i lies on the one bent segment that would join its neighbours."""
        lengths = np.diff(self.ticks[i - 1 : i + 2]).astype(np.float64)
        if not np.isfinite(after) or abs(k + after) > MAX_BEND + SAME:
            return False
        if abs(k / lengths[0] - after / lengths[1]) * lengths.sum() > 1e-9:
            return False
        y0, y, y1 = self.places[i - 1 : i + 2].tolist()
        part = float(bend(np.asarray(lengths[0] / lengths.sum()), np.asarray(k + after)))
        return bool(abs(y0 + (y1 - y0) * part - y) < SAME)

    def _between(self, start: int | None, end: int | None) -> tuple[Ticks, Floats, Floats]:
        """Points from `start` (its right side) to `end` (its left); a point stands at both, or the curve is still there."""
        first = 0 if start is None else int(np.searchsorted(self.ticks, start, side="right")) - 1
        last = len(self) if end is None else int(np.searchsorted(self.ticks, end, side="left")) + 1
        part = slice(max(first, 0), last)
        ticks, values, bends = self.ticks[part], self.values[part], self.bends[part].copy()
        if start is not None and (first < 0 or self.ticks[first] < start):
            head = float(self.values[max(first, 0)])
            skip = 1 if first >= 0 else 0
            ticks, values = np.append(start, ticks[skip:]), np.append(head, values[skip:])
            bends = np.append(HOLD, bends[skip:])
        if end is not None and (not len(ticks) or ticks[-1] > end):
            ticks, values, bends = ticks[:-1], values[:-1], bends[:-1]
        if end is not None and (not len(ticks) or ticks[-1] < end):
            tail = float(values[-1]) if len(values) else float(self.values[0])
            ticks, values = np.append(ticks, end), np.append(values, tail)
            bends = np.append(bends, 0.0)
            bends[-2:-1] = HOLD
        return ticks, values, bends

    # ── moving and mapping ────────────────────────────────────────────────────────────────────

    def shift(self, ticks: int) -> Envelope:
        """The same curve, later by `ticks` (earlier if negative)."""
        return self._trusted(self.ticks + ticks, self.values, self.bends)

    def stretch(self, numerator: int, denominator: int) -> Envelope:
        """The same curve about tick 0, its times multiplied by a ratio and rounded to ticks."""
        if numerator <= 0 or denominator <= 0:
            raise RequestError("stretch", "a stretch must be above 0", place="stretch", accepted="a ratio such as 3/2")
        exact = [(2 * int(t) * numerator + denominator) // (2 * denominator) for t in self.ticks]
        return _at_most_two(np.array(exact, dtype=np.int64), self.values, self.bends, self.axis)

    def reverse(self, length: int) -> Envelope:
        """The curve of ``[0, length]`` run backwards: what was at t is at length − t.

        A held value changes at the other end of its segment, so holds become holds with a jump.
        """
        rows: list[tuple[int, float, float]] = []
        for i in range(len(self) - 1, -1, -1):
            tick = length - int(self.ticks[i])
            rows.append((tick, float(self.values[i]), 0.0))
            if i and self.ticks[i - 1] < self.ticks[i]:
                k = float(self.bends[i - 1])
                rows[-1] = (tick, float(self.values[i]), HOLD if k == HOLD else -k)
                if k == HOLD:
                    rows.append((tick, float(self.values[i - 1]), HOLD))
        ticks, values, bends = (np.array(column) for column in zip(*rows, strict=True))
        return _at_most_two(ticks.astype(np.int64), values, bends, self.axis)

    def beside_silence(self) -> Ticks:
        """The ticks one inside each segment that leaves silence or comes to it, on the level axis; else none.

        Silence is a value of its own: no gain lifts it, and whatever is above it is moved by its number. With a
        point on either side of that step, no tick lies inside it, so that every tick is mapped exactly.
        """
        if self.axis is not Axis.LEVEL or self.values.min(initial=0.0) > SILENCE:
            return np.zeros(0, dtype=np.int64)
        silent = self.values <= SILENCE
        moving = ~self._flat_after[:-1] & (self.ticks[1:] - self.ticks[:-1] > 1)
        leaves, comes = moving & silent[:-1], moving & silent[1:]
        return np.unique(np.concatenate((self.ticks[:-1][leaves] + 1, self.ticks[1:][comes] - 1)))

    def map_axis(self, scale: float, offset: float, to: Axis | None = None) -> Envelope:
        """Every coordinate y becomes scale·y + offset, optionally on another axis.

        From level to level silence stays silence, and what glides from it or to it is mapped like all else.
        """
        target = to or self.axis
        levels = self.axis is Axis.LEVEL and target is Axis.LEVEL
        if levels and (scale, offset) != (1.0, 0.0):
            beside = self.beside_silence()
            if len(beside):
                return self.cut_points(beside)._mapped(scale, offset, target, levels)
        return self._mapped(scale, offset, target, levels)

    def _mapped(self, scale: float, offset: float, target: Axis, levels: bool) -> Envelope:
        values = target.value_at(scale * self.places + offset)
        if levels:
            values = np.where(self.values <= SILENCE, self.values, values)
        return Envelope(self.ticks, values, self.bends, target)

    def limit(self, low: float, high: float) -> tuple[Envelope, int]:
        """Clipped to low..high (in values), and how many separate spans had to be clipped.

        Crossings are solved and stand at whole ticks: the last tick inside keeps the curve's own
        value and the first tick beyond has the limit, so at every tick the result is exactly the
        clipped curve.
        """
        if not len(self) or (self.values.min() >= low and self.values.max() <= high):
            return self, 0
        if (snapped := self._snapped(low, high)) is not self:
            return snapped.limit(low, high)
        if self.unheard.any():
            return self.only_heard().limit(low, high)
        ticks, values, bends = _with_crossings(_with_crossings(self, low), high).arrays()
        outside = (values < low) | (values > high)
        spans = int(np.count_nonzero(outside[1:] & ~outside[:-1])) + int(outside[0])
        clipped = np.clip(values, low, high)
        both = outside[:-1] & outside[1:]
        bends = bends.copy()
        bends[:-1][both & np.isfinite(bends[:-1])] = 0.0
        return self._with(ticks, clipped, bends), spans

    def _snapped(self, low: float, high: float) -> Envelope:
        """With values that only rounding has led past a bound put on it."""
        values = self.values.copy()
        for bound, beyond in ((low, self.values < low), (high, self.values > high)):
            if beyond.any() and np.isfinite(bound):
                near = beyond & (np.abs(self.places - float(self.axis.place(bound))) <= SAME)
                values[near] = bound
        return self if np.array_equal(values, self.values) else self._with(self.ticks, values, self.bends)

    def arrays(self) -> tuple[Ticks, Floats, Floats]:
        """(ticks, values, bends)."""
        return self.ticks, self.values, self.bends

    def copies(self) -> tuple[Ticks, Floats, Floats]:
        """(ticks, values, bends) that may be written."""
        return self.ticks.copy(), self.values.copy(), self.bends.copy()

    def cut_points(self, ticks: Ticks) -> Envelope:
        """The same curve with points added at `ticks` (where none stands yet and the first has passed)."""
        new = np.unique(ticks)
        new = new[(new > self.ticks[0]) & (new < self.ticks[-1])]
        where = np.searchsorted(self.ticks, new)
        free = self.ticks[where] != new
        if not free.any():
            return self
        new, where = new[free], where[free]
        pairs = [(self.ticks, new), (self.values, self.at(new)), (np.arange(len(self)), where - 1)]
        at, values, owner = _inserted(where, pairs)
        span = np.append(self.ticks[1:] - self.ticks[:-1], 1)[owner]
        reach = np.append(at[1:] - at[:-1], 0)
        bends = self.bends[owner]
        cut = np.isfinite(bends) & (span > reach)
        bends[cut] *= reach[cut] / span[cut]
        return self._trusted(at, values, bends)


class Piece(NamedTuple):
    """What a curve does in ``[start, end)``, to be laid over another. The curve's ticks count from `zero`."""

    start: int
    end: int
    curve: Envelope
    zero: int = 0

    def trimmed(self) -> Piece:
        """The same with a curve that has its first point at the start and its last at the end."""
        return Piece(
            self.start, self.end, self.curve.cut(self.start - self.zero, self.end - self.zero).envelope, self.start
        )


def _laid(pieces: list[Piece]) -> tuple[Ticks, tuple[Ticks, Floats, Floats]]:
    """How many points each piece has, and all their points: from the start's own value to the limit at the end."""
    starts, ends = _edges([(piece.start - piece.zero, piece.end - piece.zero) for piece in pieces])
    ticks = [piece.curve.ticks for piece in pieces]
    counts = np.array([len(x) for x in ticks])
    every = np.concatenate(ticks)
    stop = np.cumsum(counts)
    first, last = stop - counts, stop - 1
    second, last_but_one = np.minimum(first + 1, last), np.maximum(last - 1, first)
    whole = (counts > 1) & (every[first] == starts) & (every[last] == ends)
    whole &= (every[second] > starts) & (every[last_but_one] < ends)
    if not whole.all():
        return _laid([p if fits else p.trimmed() for p, fits in zip(pieces, whole.tolist(), strict=True)])
    every += np.repeat(np.array([piece.zero for piece in pieces]), counts)
    values = np.concatenate([piece.curve.values for piece in pieces])
    return counts, (every, values, np.concatenate([piece.curve.bends for piece in pieces]))


@dataclass(frozen=True)
class Fragment:
    """A cut piece of an envelope: points from 0 to `length`, both ends included."""

    envelope: Envelope
    length: int

    def ramped(self, before: float, after: float, ramp: int) -> Fragment:
        """The fragment led in from the value `before` and out to `after`, each over `ramp` ticks."""
        r = min(ramp, self.length // 2)
        if r < 1:
            return self
        curve = self.envelope
        ticks, values, bends = curve.cut_points(np.array([r, self.length - r]))._between(r, self.length - r)
        bends[-1] = 0.0
        return Fragment(
            Envelope(
                np.concatenate(([0], ticks, [self.length])),
                np.concatenate(([before], values, [after])),
                np.concatenate(([0.0], bends, [0.0])),
                curve.axis,
            ),
            self.length,
        )

    def map(self, change: Callable[[Envelope], Envelope]) -> Fragment:
        """The fragment with its envelope changed, length kept."""
        return Fragment(change(self.envelope), self.length)


def _without_idle(ticks: Ticks, values: Floats, bends: Floats, axis: Axis) -> Envelope:
    """Points of curves that meet, without those that close a curve and say nothing: held before, or alike after."""
    closing = np.append(ticks[1:] == ticks[:-1], False)
    held = np.append(False, np.isposinf(bends[:-1]) & (ticks[1:] > ticks[:-1]))
    alike = np.append(values[1:] == values[:-1], False)
    keep = ~(closing & (held | alike))
    return Envelope(ticks[keep], values[keep], bends[keep], axis)


def _edges(spans: list[tuple[int, int]]) -> tuple[Ticks, Ticks]:
    """The starts and the ends of some spans."""
    starts, ends = np.array(spans, dtype=np.int64).T
    return starts, ends


def _ranges(first: Ticks, last: Ticks) -> Ticks:
    """All whole numbers of each ``[first, last)``, one range after the other.

    >>> _ranges(np.array([3, 8]), np.array([5, 9])).tolist()
    [3, 4, 8]
    """
    counts = last - first
    every: Ticks = np.arange(counts.sum()) + np.repeat(first - np.cumsum(counts) + counts, counts)
    return every


def _inserted(where: Ticks, pairs: list[tuple[Any, Any]]) -> list[Any]:
    """For each (old, new) the old array with the new one's rows before the old rows `where` (which rise).

    >>> [made.tolist() for made in _inserted(np.array([1, 1]), [(np.array([5, 6]), np.array([7, 8]))])]
    [[5, 7, 8, 6]]
    """
    place = where + np.arange(len(where))
    stays = np.ones(len(pairs[0][0]) + len(where), dtype=bool)
    stays[place] = False
    out = []
    for old, new in pairs:
        made = np.empty(len(stays), dtype=old.dtype)
        made[place], made[stays] = new, old
        out.append(made)
    return out


def _at_most_two(ticks: Ticks, values: Floats, bends: Floats, axis: Axis) -> Envelope:
    """Of points that fell on one tick, the first and the last stay."""
    same_before = np.append(False, ticks[1:] == ticks[:-1])
    same_after = np.append(ticks[1:] == ticks[:-1], False)
    keep = ~(same_before & same_after)
    return Envelope(ticks[keep], values[keep], bends[keep], axis)


def _with_crossings(envelope: Envelope, bound: float) -> Envelope:
    """The same curve with points on both sides of each place where it passes `bound`: the last tick before and the first after."""
    level = float(envelope.axis.place(bound))
    y = envelope.places
    crossing = np.flatnonzero(
        ((y[:-1] - level) * (y[1:] - level) < 0)
        & np.isfinite(envelope.bends[:-1])
        & (envelope.ticks[1:] - envelope.ticks[:-1] > 1)
    )
    if not len(crossing):
        return envelope
    start, end = envelope.ticks[crossing], envelope.ticks[crossing + 1]
    part = unbend((level - y[crossing]) / (y[crossing + 1] - y[crossing]), envelope.bends[crossing])
    guess = start + np.floor(part * (end - start)).astype(np.int64)
    near = np.clip(guess[:, None] + np.arange(-2, 4), start[:, None], end[:, None])  # rounding may be a tick off
    inner = envelope._place_in(np.broadcast_to(crossing[:, None], near.shape), near)
    before = np.where(y[crossing, None] < level, inner < level, inner > level).sum(axis=1)
    rows = np.arange(len(crossing))
    last, first = near[rows, np.maximum(before - 1, 0)], near[rows, np.minimum(before, near.shape[1] - 1)]
    return envelope.cut_points(np.concatenate((last, first)))


def _check_points(ticks: Ticks, values: Floats, bends: Floats, axis: Axis) -> None:
    """Raise RequestError with the place of the first point that cannot be."""
    if not np.isfinite(values).all():
        raise _point_error(int(np.isfinite(values).argmin()), "its value is not a finite number", "a finite number")
    if axis is Axis.LOG and len(values) and values.min() <= 0:
        raise _point_error(int(values.argmin()), "a log axis has no value at or below 0", "a value above 0")
    possible = (np.abs(bends) <= MAX_BEND) | (bends == HOLD)  # NaN is neither
    if not possible.all():
        i = int(possible.argmin())
        raise _point_error(i, f"a bend of {bends[i]:g} cannot be used", f"−{MAX_BEND:g} to {MAX_BEND:g}, or hold")
    steps = np.diff(ticks)
    if (steps < 0).any():
        i = int((steps < 0).argmax()) + 1
        said = f"beat {beats_of(int(ticks[i])):g} comes after beat {beats_of(int(ticks[i - 1])):g}"
        raise _point_error(i, said, "positions that rise")
    thrice = (steps[1:] == 0) & (steps[:-1] == 0)
    if thrice.any():
        said = "three points share one position"
        raise _point_error(int(thrice.argmax()) + 2, said, "two at the most, which make a jump")


def _point_error(index: int, message: str, accepted: str) -> RequestError:
    return RequestError("points", f"point {index + 1}: {message}", place=f"points[{index}]", accepted=accepted)
