"""Ramps: what a parameter does over a span of time, in steps and lines that an audio clock can follow exactly."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass

import numpy as np

from velmot.core.curves.axes import SILENCE
from velmot.core.curves.envelope import Envelope
from velmot.core.curves.segments import STRAIGHT
from velmot.core.time.tempo import TempoMap
from velmot.core.time.ticks import Floats, Ticks, merged

STEP, LINE, CURVE = 0, 1, 2
"""How a value is reached: at once, straight, or by equal ratios (an exponential ramp)."""

SLOPE = 0.005
"""Seconds that a step takes which is no jump of a curve, so that nothing clicks."""

_MOST_HALVINGS = 12


@dataclass(frozen=True)
class Ramps:
    """Events in time: at `times[i]` (seconds, in order) there is `values[i]`, reached from the event before by `ways[i]`.

    Before the first event there is its value, after the last one its own.
    """

    times: Floats
    values: Floats
    ways: np.ndarray

    @classmethod
    def still(cls, value: float, time: float = 0.0) -> Ramps:
        return cls(np.array([time]), np.array([value]), np.array([STEP]))

    def at(self, times: Floats) -> Floats:
        """The values at some times, in order."""
        edges = np.searchsorted(times, self.times, side="left")
        out = np.empty(len(times))
        out[: edges[0]] = self.values[0]
        out[edges[-1] :] = self.values[-1]
        for i in np.flatnonzero(edges[1:] > edges[:-1]).tolist():
            a, b = int(edges[i]), int(edges[i + 1])
            out[a:b] = self._between(i, times[a:b])
        return out

    def _between(self, i: int, times: Floats) -> Floats | float:
        """The values between two events."""
        v0, v1, way = float(self.values[i]), float(self.values[i + 1]), self.ways[i + 1]
        if way == STEP or v0 == v1 or (way == CURVE and v0 * v1 <= 0):
            return v0
        x = (times - self.times[i]) / (self.times[i + 1] - self.times[i])
        return np.asarray(v0 + (v1 - v0) * x if way == LINE else v0 * np.exp(x * np.log(v1 / v0)))

    def over(self, times: Floats) -> Floats | float:
        """The values at evenly spaced times; one number where it is the same for all of them."""
        a = max(int(np.searchsorted(self.times, times[0], side="right")) - 1, 0)
        b = int(np.searchsorted(self.times, times[-1], side="left"))
        some = self.values[a : b + 1]
        return float(some[0]) if not (some != some[0]).any() else self.at(times)

    def mapped(self, to: Callable[[Floats], Floats]) -> Ramps:
        """The same events with other values; only for maps under which the ways stay what they are."""
        return Ramps(self.times, to(self.values), self.ways)


def of_envelope(
    envelope: Envelope,
    tempo: TempoMap,
    start: int,
    end: int,
    to: Callable[[Floats], Floats],
    way: int = LINE,
    straight: bool = True,
    tolerance: float = 0.01,
    jumps: bool = True,
) -> Ramps:
    """What an envelope does in ``[start, end]`` ticks as coordinates `to(values)`, which are reached by straight lines.

    `straight` says that a straight segment of the envelope is straight in these coordinates, and `tolerance` how far in
    them a piece of one that is not may be off. Whoever wants a CURVE turns the coordinates into values afterwards.
    Where `jumps` are none of the curve (named values, steps of a controller) they take 5 ms.
    """
    ticks = _knots(envelope, tempo, start, end)
    times, right = tempo.seconds(ticks), to(envelope.at(ticks))
    left = to(envelope.at(ticks, "left"))
    inside = np.clip(np.searchsorted(envelope.ticks, ticks[:-1], side="right") - 1, -1, len(envelope) - 1)
    bends = envelope.bends[np.maximum(inside, 0)]
    still = (inside < 0) | (inside == len(envelope) - 1) | np.isposinf(bends) | (right[:-1] == left[1:])
    crooked = ~still & ((np.abs(bends) >= STRAIGHT) | _glides(tempo, ticks, times) | (not straight))
    arrives = np.where(still, right[:-1], left[1:])
    rows = [_Rows.of(np.arange(1, len(ticks)) * 3, times[1:], arrives, np.where(still, LINE, way))]
    for i in np.flatnonzero(crooked).tolist():
        ends = float(right[i]), float(left[i + 1])
        rows.append(_pieces(envelope, tempo, int(ticks[i]), int(ticks[i + 1]), ends, to, tolerance, way, 3 * i + 1))
    jump = np.flatnonzero(right[1:] != arrives)
    held = np.isposinf(bends) & (inside >= 0) & (inside < len(envelope) - 1)
    soft = held[jump] | (not jumps)
    rows.append(_Rows.of((jump + 1) * 3 + 0.5, times[jump + 1], right[jump + 1], np.where(soft, SOFT, STEP)))
    return _Rows.sorted(rows, float(times[0]), float(right[0]))


@dataclass(frozen=True)
class _Rows:
    """Events with the place they have in the order: times alone do not tell which of two at one moment comes first."""

    places: Floats
    times: Floats
    values: Floats
    ways: np.ndarray

    @classmethod
    def of(cls, places: np.ndarray, times: Floats, values: Floats, ways: np.ndarray) -> _Rows:
        return cls(places.astype(np.float64), times, values, ways)

    @staticmethod
    def sorted(rows: list[_Rows], time: float, value: float) -> Ramps:
        """All of them as ramps, behind one for the beginning."""
        places = np.concatenate([row.places for row in rows])
        order = np.argsort(places, kind="stable")
        columns = (np.concatenate([getattr(row, name) for row in rows])[order] for name in ("times", "values", "ways"))
        times, values, ways = columns
        return _softened(np.append(time, times), np.append(value, values), np.append(STEP, ways))


SOFT = 3
"""A step that is to take 5 ms, before it is known what follows."""


def _softened(times: Floats, values: Floats, ways: np.ndarray) -> Ramps:
    """Soft steps as short lines, which end on what follows, where that has come by then."""
    soft = np.flatnonzero(ways == SOFT)
    room = np.append(times[1:], np.inf)[soft] - times[soft]
    late = np.minimum(SLOPE, room / 2)
    after = np.minimum(soft + 1, len(times) - 1)
    glides = (after > soft) & np.isin(ways[after], (LINE, CURVE))
    part = np.where(glides, late / np.where(room > 0, room, 1.0), 0.0)
    values[soft] += (values[after] - values[soft]) * part
    times[soft] += late
    return Ramps(times, values, np.where(ways == SOFT, LINE, ways))


def _knots(envelope: Envelope, tempo: TempoMap, start: int, end: int) -> Ticks:
    """Every tick of a span where a point lies or the tempo changes, and its ends."""
    inner = envelope.ticks[(envelope.ticks > start) & (envelope.ticks < end)]
    tempos = [t.tick for t in tempo.tempos if start < t.tick < end]
    return merged(inner, tempos, [start, max(end, start + 1)])


def _glides(tempo: TempoMap, ticks: Ticks, times: Floats) -> np.ndarray:
    """Between which ticks the tempo changes, so that what is straight over beats is not over time."""
    middle = tempo.seconds((ticks[:-1] + ticks[1:]) // 2)
    odd = (ticks[1:] - ticks[:-1]) % 2
    even = (times[:-1] + times[1:]) / 2
    return np.asarray(np.abs(middle - even) > 1e-9 + odd * 1e-6)


def _pieces(
    envelope: Envelope,
    tempo: TempoMap,
    start: int,
    end: int,
    ends: tuple[float, float],
    to: Callable[[Floats], Floats],
    tolerance: float,
    way: int,
    place: int,
) -> _Rows:
    """The points between two ticks that keep lines over time within a tolerance of what is there, as few as halving gives."""
    count = 2
    while True:
        ticks = np.unique(np.linspace(start, end, 2 * count + 1).round().astype(np.int64))
        times, values = tempo.seconds(ticks), to(envelope.at(ticks))
        values[0], values[-1] = ends
        off = np.abs(np.interp(times[1::2], times[::2], values[::2]) - values[1::2])
        if count >= 2**_MOST_HALVINGS or len(ticks) < 2 * count + 1 or float(off.max()) <= tolerance:
            break
        count *= 2
    inner = slice(2, -1, 2)
    places = place + np.linspace(0, 1, len(ticks))[inner]
    return _Rows(places, times[inner], values[inner], np.full(len(times[inner]), way))


# ── levels: decibels as factors ───────────────────────────────────────────────────────────────

FLOOR = 10 ** (SILENCE / 20)


def factors(decibels: Ramps) -> Ramps:
    """A level in decibels as what it multiplies by; silence is 0, and a fade to it or from it ends at the floor."""
    silent = decibels.values <= SILENCE
    size = np.where(silent, FLOOR, 10 ** (np.maximum(decibels.values, SILENCE) / 20))
    if not silent.any():
        return Ramps(decibels.times, size, decibels.ways)
    before, after = np.append(silent[0], silent[:-1]), np.append(silent[1:], silent[-1])
    leaves = np.append(decibels.ways[1:] == CURVE, False) & silent & ~after
    size[silent & (before | (decibels.ways != CURVE))] = 0.0
    size[leaves & ~(before | (decibels.ways != CURVE))] = FLOOR
    extra = np.flatnonzero((silent & after & (size > 0)) | (leaves & (size == 0)))
    places = np.concatenate([np.arange(len(silent), dtype=np.float64), extra + 0.5])
    values = np.concatenate([size, np.where(leaves[extra], FLOOR, 0.0)])
    order = np.argsort(places, kind="stable")
    times = np.concatenate([decibels.times, decibels.times[extra]])[order]
    return Ramps(times, values[order], np.concatenate([decibels.ways, np.full(len(extra), STEP)])[order])
