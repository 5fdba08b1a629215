"""Envelopes: breakpoints over time joined by straight, held or bent segments, and what they say at any tick.

All arithmetic is on the parameter's axis (decibels, octaves, or the value itself). What changes a curve is in
`core/curves/editing.py`, how a segment runs in `core/curves/segments.py`; nothing resamples.
"""

from __future__ import annotations

from collections.abc import Callable, Hashable, Iterable
from dataclasses import dataclass
from functools import cached_property
from math import isfinite
from typing import Any, Literal, Self, TypeVar

import numpy as np

from velmot.core.curves.axes import SILENCE, Axis
from velmot.core.curves.segments import HOLD, MAX_BEND, bend, bend_at, cut_bend
from velmot.core.errors import RequestError
from velmot.core.time.ticks import Flags, Floats, Ticks, among, beats_of

SAME = 1e-9
"""Differences up to this many axis units are none."""

_FEW = 8
"""Ticks up to which a curve that reaches them is remembered."""

Side = Literal["left", "right"]
Made = TypeVar("Made")


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
        bends = np.asarray(self.bends, dtype=np.float64) + 0.0
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
        if not isfinite(value) or (axis.logarithmic and value <= 0):
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

    def with_points(self, ticks: Ticks, values: Floats, bends: Floats) -> Envelope:
        """Other points on the same axis, checked."""
        return Envelope(ticks, values, bends, self.axis)

    # ── reading ───────────────────────────────────────────────────────────────────────────────

    @cached_property
    def coordinates(self) -> Floats:
        """The points' axis coordinates, shape (n,)."""
        return self.axis.coordinate(self.values)

    def at(self, ticks: Ticks | int, side: Side = "right", index: Ticks | None = None) -> Floats:
        """Values at ticks. `side="left"` gives the limit from before, which differs at jumps.

        `index` is the last point before (on the right side: at) each, where that is known already.
        """
        asked = np.asarray(ticks, dtype=np.int64)
        if index is None:
            index = np.searchsorted(self.ticks, asked, side=side) - 1
        inside = self.coordinates_in(index, asked)
        if side == "right" and not self.axis.logarithmic:
            return inside  # coordinates are values here, and a segment's start is its point's to the last bit
        y = self.axis.value_of(inside)
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
        if self.still_after[i] or (side == "right" and self.ticks[i] == tick):
            return float(self.values[i])
        start, end = int(self.ticks[i]), int(self.ticks[i + 1])
        if side == "left" and end == tick:
            return float(self.values[i + 1])
        progress = bend_at((tick - start) / (end - start), float(self.bends[i]))
        y = float(self.coordinates[i]) + (float(self.coordinates[i + 1]) - float(self.coordinates[i])) * progress
        low, high = sorted((float(self.values[i]), float(self.values[i + 1])))
        return min(max(2.0**y if self.axis.logarithmic else y, low), high)

    def coordinate_at(self, ticks: Ticks | int, side: Side = "right") -> Floats:
        """Axis coordinates at ticks."""
        asked = np.asarray(ticks, dtype=np.int64)
        return self.coordinates_in(np.searchsorted(self.ticks, asked, side=side) - 1, asked)

    def coordinates_in(self, index: Ticks, asked: Ticks) -> Floats:
        """Coordinates inside the segments that start at points `index` (−1: before the first)."""
        i = np.maximum(index, 0)
        j = np.minimum(index + 1, len(self) - 1)
        start, k, y = self.ticks[i], self.bends[i], self.coordinates[i]
        x = np.maximum((asked - start) / np.maximum(self.ticks[j] - start, 1), 0.0)
        part = np.where(np.isposinf(k) | (index < 0), 0.0, bend(x, k))
        end = self.coordinates[j]
        return np.asarray(np.minimum(np.maximum(y + (end - y) * part, np.minimum(y, end)), np.maximum(y, end)))

    def _value_on_point(self, index: Ticks, asked: Ticks, side: Side) -> Floats:
        """The stored value where a tick stands exactly on a point, else NaN; so points read back bit for bit."""
        i = np.clip(index, 0, len(self) - 1)
        j = np.clip(index + 1, 0, len(self) - 1)
        kept = (index < 0) | self.still_after[i]
        if side == "right":
            return np.where(kept | (self.ticks[i] == asked), self.values[i], np.nan)
        return np.where(kept, self.values[i], np.where(self.ticks[j] == asked, self.values[j], np.nan))

    @cached_property
    def still_after(self) -> Flags:
        """Whether the segment after each point keeps the point's value all along."""
        flat = np.isposinf(self.bends)
        flat[:-1] |= self.values[:-1] == self.values[1:]
        flat[-1:] = True
        return flat

    @cached_property
    def jumps_to(self) -> Flags:
        """Which points may have another value than what comes before them: those after a hold, and at a tick with another."""
        jumps = np.zeros(len(self), dtype=bool)
        jumps[1:] = np.isposinf(self.bends[:-1]) | (self.ticks[1:] == self.ticks[:-1])
        return jumps

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
        return self.trusted(self.ticks[keep], self.values[keep], self.bends[keep])

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
            return self.with_points(self.ticks[1:], self.values[1:], self.bends[1:])
        return self

    # ── the same curve ────────────────────────────────────────────────────────────────────────

    def shift(self, ticks: int) -> Envelope:
        """The same curve, later by `ticks` (earlier if negative)."""
        return self.trusted(self.ticks + ticks, self.values, self.bends)

    def beside_silence(self) -> Ticks:
        """The ticks one inside each segment that leaves silence or comes to it; none on an axis without silence.

        Silence is a value of its own: no gain lifts it, and whatever is above it is moved by its number. With a
        point on either side of that step, no tick lies inside it, so that every tick is mapped exactly.
        """
        silent = self.axis.silent(self.values)
        if not silent.any():
            return np.zeros(0, dtype=np.int64)
        moving = ~self.still_after[:-1] & (self.ticks[1:] - self.ticks[:-1] > 1)
        leaves, comes = moving & silent[:-1], moving & silent[1:]
        return np.unique(np.concatenate((self.ticks[:-1][leaves] + 1, self.ticks[1:][comes] - 1)))

    def apart_from_silence(self, more: Ticks | None = None) -> Envelope:
        """The same curve with points on either side of the steps from silence and to it, and at `more` ticks.

        A bend may be so steep that what stands there is no number above silence any more; it is the least there is, as
        only the step itself is silent.
        """
        beside = self.beside_silence()
        ticks = beside if more is None else np.concatenate((beside, more))
        if not len(ticks):
            return self
        curve = self.split_at(ticks) if more is None else self.reaching(ticks)
        if not len(beside):
            return curve
        inner = among(curve.ticks, beside) & self.axis.silent(curve.values)
        if not inner.any():
            return curve
        least = np.nextafter(SILENCE, 0.0)
        return curve.trusted(curve.ticks, np.where(inner, least, curve.values), curve.bends)

    @cached_property
    def _memory(self) -> dict[str, Any]:
        return {}

    def remembered(self, name: str, key: Hashable, made: Callable[[], Made]) -> Made:
        """What was made of it last under a name, if it was made with the same key: a drag asks for the same again and again."""
        known = self._memory.get(name)
        if known is None or known[0] != key:
            known = self._memory[name] = (key, made())
        found: Made = known[1]
        return found

    def reaching(self, ticks: Ticks) -> Envelope:
        """The same curve with a point at every one of `ticks`, also before its first point and after its last."""
        if len(ticks) > _FEW:
            return self._reaching(ticks)
        return self.remembered("_reached", tuple(ticks.tolist()), lambda: self._reaching(ticks))

    def _reaching(self, ticks: Ticks) -> Envelope:
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
            return self.split_at(ticks)
        at, values, bends = (np.concatenate(column) for column in zip(*parts, strict=True))
        return self.trusted(at, values, bends).split_at(ticks)

    def arrays(self) -> tuple[Ticks, Floats, Floats]:
        """(ticks, values, bends)."""
        return self.ticks, self.values, self.bends

    def copies(self) -> tuple[Ticks, Floats, Floats]:
        """(ticks, values, bends) that may be written."""
        return self.ticks.copy(), self.values.copy(), self.bends.copy()

    def split_at(self, ticks: Ticks) -> Envelope:
        """The same curve with points added at `ticks` (where none stands yet and the first has passed)."""
        new = np.unique(ticks)
        new = new[(new > self.ticks[0]) & (new < self.ticks[-1])]
        where = np.searchsorted(self.ticks, new)
        free = self.ticks[where] != new
        if not free.any():
            return self
        new, where = new[free], where[free]
        pairs = [(self.ticks, new), (self.values, self.at(new)), (np.arange(len(self)), where - 1)]
        at, values, owner = inserted(where, pairs)
        span = np.append(self.ticks[1:] - self.ticks[:-1], 1)[owner]
        reach = np.append(at[1:] - at[:-1], 0)
        return self.trusted(at, values, cut_bend(self.bends[owner], reach, span))

    @classmethod
    def _made(cls, ticks: Ticks, values: Floats, bends: Floats, axis: Axis) -> Self:
        """Without checks, from arrays that are known to be possible."""
        self = object.__new__(cls)
        values, bends = _one_zero(values), _one_zero(bends)
        ticks.setflags(write=False)
        values.setflags(write=False)
        bends.setflags(write=False)
        self.__dict__.update(ticks=ticks, values=values, bends=bends, axis=axis)
        return self

    def trusted(self, ticks: Ticks, values: Floats, bends: Floats, axis: Axis | None = None) -> Envelope:
        """Other points on the same axis or another, not looked at again: they are known to be possible."""
        return self._made(ticks, values, bends, axis or self.axis)


def inserted(where: Ticks, pairs: list[tuple[Any, Any]]) -> list[Any]:
    """For each (old, new) the old array with the new one's rows before the old rows `where` (which rise).

    >>> [made.tolist() for made in inserted(np.array([1, 1]), [(np.array([5, 6]), np.array([7, 8]))])]
    [[5, 7, 8, 6]]
    """
    rows = where + np.arange(len(where))
    stays = np.ones(len(pairs[0][0]) + len(where), dtype=bool)
    stays[rows] = False
    out = []
    for old, new in pairs:
        made = np.empty(len(stays), dtype=old.dtype)
        made[rows], made[stays] = new, old
        out.append(made)
    return out


def _one_zero(numbers: Floats) -> Floats:
    """Numbers without a negative zero: the same curve is the same bits, in files and in what is remembered of it."""
    return numbers + 0.0 if (np.signbit(numbers) & (numbers == 0)).any() else numbers


def _check_points(ticks: Ticks, values: Floats, bends: Floats, axis: Axis) -> None:
    """Raise RequestError with the place of the first point that cannot be."""
    if not np.isfinite(values).all():
        raise _point_error(int(np.isfinite(values).argmin()), "its value is not a finite number", "a finite number")
    if axis.logarithmic and len(values) and values.min() <= 0:
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
    return RequestError("points/wrong", n=index + 1, why=message, place=f"points[{index}]", accepted=accepted)
