"""Editing envelopes: cutting pieces out, laying pieces over, joining, straightening, mapping and limiting.

There is one engine for cutting (`slices`) and one for laying over (`overlaid`); `cut` is slicing one, `splice` laying over
one. Parts of bends stay bends, so nothing outside of what is edited changes and nothing is resampled.
"""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass
from itertools import pairwise
from typing import NamedTuple

import numpy as np

from velmot.core.curves.axes import Axis
from velmot.core.curves.envelope import SAME, Envelope, inserted
from velmot.core.curves.segments import HOLD, MAX_BEND, bend, unbend
from velmot.core.errors import RequestError
from velmot.core.time.ticks import Floats, Ticks, among


class Piece(NamedTuple):
    """What a curve does in ``[start, end)``, to be laid over another. The curve's ticks count from `zero`."""

    start: int
    end: int
    curve: Envelope
    zero: int = 0

    def trimmed(self) -> Piece:
        """The same with a curve that has its first point at the start and its last at the end."""
        cut_out = cut(self.curve, self.start - self.zero, self.end - self.zero)
        return Piece(self.start, self.end, cut_out.envelope, self.start)


@dataclass(frozen=True)
class Fragment:
    """A cut piece of an envelope: points from 0 to `length`, both ends included."""

    envelope: Envelope
    length: int

    def ramped(self, before: float, after: float | None, ramp: int) -> Fragment:
        """The fragment led in from the value `before` and out to `after`, each over `ramp` ticks; with no `after` only in."""
        r = min(ramp, self.length // 2)
        if r < 1:
            return self
        curve = self.envelope
        if after is None:
            ticks, values, bends = _between(curve.split_at(np.array([r])), r, None)
            columns = np.append(0, ticks), np.append(before, values), np.append(0.0, bends)
            return Fragment(Envelope(*columns, axis=curve.axis), self.length)
        if 2 * r == self.length:  # both ramps meet there, at a jump on one side each
            middle = [curve.value_at(r, "left"), curve.value_at(r)]
            middle = middle if middle[0] != middle[1] else middle[:1]
            ticks, values, bends = np.full(len(middle), r), np.array(middle), np.zeros(len(middle))
        else:
            ticks, values, bends = _between(curve.split_at(np.array([r, self.length - r])), r, self.length - r)
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


def cut(curve: Envelope, start: int, end: int) -> Fragment:
    """What lies in ``[start, end)``, counted from 0, with both boundary points computed.

    The first point has the value from `start` on, the last the limit towards `end`.
    """
    if end <= start:
        raise RequestError("range-empty", place="range", accepted="an end after the start")
    return Fragment(slices(curve, [(start, end)])[0], end - start)


def splice(curve: Envelope, fragment: Fragment, at: int, ramp: int = 0, stop: int | None = None) -> Envelope:
    """Put a fragment in at `at`; outside ``[at, at + length)`` every value stays what it was. `stop` as for `overlaid`.

    `ramp` 0 seals: jumps may stand at the edges. A ramp of r ticks goes straight from the value outside to the
    fragment's over the first and last r ticks inside the range (half the length at most).
    """
    end = at + fragment.length
    after = None if end == stop else curve.value_at(end)
    piece = fragment.ramped(curve.value_at(at, "left"), after, ramp) if ramp else fragment
    return overlaid(curve, [Piece(at, end, piece.envelope, at)], stop)


def slices(curve: Envelope, spans: list[tuple[int, int]]) -> list[Envelope]:
    """What lies in each ``[start, end)``, counted from its start, with a point at both ends: many cuts in one go.

    The first point has the value from the start on, the last the limit towards the end.
    """
    starts, ends = _edges(spans)
    base = curve.only_heard().reaching(np.concatenate((starts, ends)))
    first = np.searchsorted(base.ticks, starts, side="right") - 1
    last = np.searchsorted(base.ticks, ends, side="left") + 1
    every = _ranges(first, last)
    stops = np.cumsum(last - first)
    ticks = base.ticks[every] - np.repeat(starts, last - first)
    values, bends = base.values[every], base.bends[every]
    tails = stops - 1
    held = np.isposinf(bends[tails - 1]) & (ticks[tails] > ticks[tails - 1])
    values[tails] = np.where(held, values[tails - 1], values[tails])
    bends[tails] = 0.0
    parts = (slice(i, j) for i, j in pairwise((0, *stops.tolist())))
    return [curve.trusted(ticks[part], values[part], bends[part]) for part in parts]


def overlaid(curve: Envelope, pieces: list[Piece], stop: int | None = None) -> Envelope:
    """The curve with others laid over it, each doing in its span what its own curve does there.

    Pieces are disjoint and in order. The same as one splice after the other, made in one go. At `stop`, where time ends,
    a piece's end needs no point that leads back to what was there: nothing comes after it.
    """
    if not pieces:
        return curve
    made = _overlaid(curve, pieces)
    if stop is None or pieces[-1].end != stop or curve.ticks[-1] > stop:
        return made
    keep = int(np.searchsorted(made.ticks, stop))
    keep += keep == 0 or made.bends[keep - 1] != HOLD  # the point that closes the piece, where one is needed
    if keep >= len(made):
        return made
    bends = made.bends[:keep].copy()
    bends[-1] = 0.0
    return made.trusted(made.ticks[:keep], made.values[:keep], bends)


def _overlaid(curve: Envelope, pieces: list[Piece]) -> Envelope:
    starts, ends = _edges([(piece.start, piece.end) for piece in pieces])
    base = curve.reaching(np.concatenate((starts, ends)))
    first = np.searchsorted(base.ticks, starts, side="left") + 1
    last = np.searchsorted(base.ticks, ends, side="right") - 1
    follows = np.append(starts[1:] == ends[:-1], False)  # nothing of the base is left between two that meet
    last[follows] = first[1:][follows[:-1]]
    if len(pieces) == 1:  # as most often
        i, j, (_, new) = int(first[0]), max(int(last[0]), int(first[0])), _laid(pieces)
        columns = [np.concatenate((old[:i], one, old[j:])) for old, one in zip(base.arrays(), new, strict=True)]
        return _without_idle(columns[0], columns[1], columns[2], curve)
    keep = np.ones(len(base), dtype=bool)
    keep[_ranges(first, last)] = False
    counts, new = _laid(pieces)
    where = np.repeat(np.cumsum(keep)[first - 1], counts)
    pairs = [(old[keep], column) for old, column in zip(base.arrays(), new, strict=True)]
    ticks, values, bends = inserted(where, pairs)
    return _without_idle(ticks, values, bends, curve)


def straightened(curve: Envelope, spans: list[tuple[int, int]], hold: bool) -> Envelope:
    """The curve with one straight (or held) segment over each of the disjoint spans, all else as it was."""
    starts, ends = _edges(spans)
    base = curve.only_heard().reaching(np.concatenate((starts, ends)))
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
    return curve.trusted(ticks[keep], values[keep], bends[keep])


def until(curve: Envelope, tick: int) -> Envelope:
    """The part before `tick`, closed there by a point with the limit towards it (none after a hold)."""
    ticks, values, bends = _between(curve.split_at(np.array([tick])), None, tick)
    if len(ticks) > 1 and bends[-2] == HOLD:
        ticks, values, bends = ticks[:-1], values[:-1], bends[:-1]
    return curve.with_points(ticks, values, bends)


def since(curve: Envelope, tick: int) -> Envelope:
    """The part from `tick` on, opened there by a point with the value it has; its ticks stay."""
    return curve.with_points(*_between(curve.split_at(np.array([tick])), tick, None))


def joined(curve: Envelope, other: Envelope, tick: int, within: float = SAME) -> Envelope:
    """This curve before `tick` and another from there on, with no point at the seam that says nothing (to `within`).

    A curve cut in two with `until` and `since` and joined again is the same curve.
    """
    pair = np.array([tick])
    parts = _between(curve.split_at(pair), None, tick), _between(other.split_at(pair), tick, None)
    ticks, values, bends = (np.concatenate(column) for column in zip(*parts, strict=True))
    return _without_seam(_without_idle(ticks, values, bends, curve), tick, within)


def map_axis(curve: Envelope, scale: float, offset: float, to: Axis | None = None) -> Envelope:
    """Every coordinate y becomes scale·y + offset, optionally on another axis.

    From level to level silence stays silence, and what glides from it or to it is mapped like all else.
    """
    target = to or curve.axis
    levels = curve.axis.floor is not None and curve.axis.floor == target.floor
    if levels and (scale, offset) != (1.0, 0.0):
        curve = curve.apart_from_silence()
    return _mapped(curve, scale, offset, target, levels)


def _mapped(curve: Envelope, scale: float, offset: float, target: Axis, levels: bool) -> Envelope:
    values = target.value_of(scale * curve.coordinates + offset)
    if levels:
        values = np.where(curve.axis.silent(curve.values), curve.values, values)
    values = values + 0.0  # no negative zero
    if np.isfinite(values).all() and (not target.logarithmic or values.min(initial=1.0) > 0):
        return curve.trusted(curve.ticks, values, curve.bends, target)
    return Envelope(curve.ticks, values, curve.bends, target)  # says which point cannot be


def limit(curve: Envelope, low: float, high: float) -> tuple[Envelope, int]:
    """Clipped to low..high (in values), and how many separate spans had to be clipped (`limited` says where)."""
    made, spans = limited(curve, low, high)
    return made, len(spans)


def limited(curve: Envelope, low: float, high: float) -> tuple[Envelope, tuple[tuple[int, int], ...]]:
    """Clipped to low..high (in values), and the separate spans ``[start, end)`` that had to be clipped.

    Crossings are solved and stand at whole ticks: the last tick inside keeps the curve's own
    value and the first tick beyond has the limit, so at every tick the result is exactly the
    clipped curve.
    """
    if not len(curve) or (curve.values.min() >= low and curve.values.max() <= high):
        return curve, ()
    if (snapped := _snapped(curve, low, high)) is not curve:
        return limited(snapped, low, high)
    if curve.unheard.any():
        return limited(curve.only_heard(), low, high)
    ticks, values, bends = _with_crossings(_with_crossings(curve, low), high).arrays()
    outside = (values < low) | (values > high)
    edges = np.diff(np.concatenate(([False], outside, [False])).astype(np.int8))
    firsts, lasts = np.flatnonzero(edges > 0), np.flatnonzero(edges < 0) - 1
    spans = tuple(zip(ticks[firsts].tolist(), (ticks[lasts] + 1).tolist(), strict=True))
    clipped = np.clip(values, low, high)
    both = outside[:-1] & outside[1:]
    bends = bends.copy()
    bends[:-1][both & np.isfinite(bends[:-1])] = 0.0
    return curve.with_points(ticks, clipped, bends), spans


def _snapped(curve: Envelope, low: float, high: float) -> Envelope:
    """With values that only rounding has led past a bound put on it."""
    values = curve.values.copy()
    for bound, beyond in ((low, curve.values < low), (high, curve.values > high)):
        if beyond.any() and np.isfinite(bound):
            near = beyond & (np.abs(curve.coordinates - float(curve.axis.coordinate(bound))) <= SAME)
            values[near] = bound
    return curve if np.array_equal(values, curve.values) else curve.with_points(curve.ticks, values, curve.bends)


# ── how it is done ────────────────────────────────────────────────────────────────────────────


def _between(curve: Envelope, start: int | None, end: int | None) -> tuple[Ticks, Floats, Floats]:
    """Points from `start` (its right side) to `end` (its left); a point stands at both, or the curve is still there."""
    first = 0 if start is None else int(np.searchsorted(curve.ticks, start, side="right")) - 1
    last = len(curve) if end is None else int(np.searchsorted(curve.ticks, end, side="left")) + 1
    part = slice(max(first, 0), last)
    ticks, values, bends = curve.ticks[part], curve.values[part], curve.bends[part].copy()
    if start is not None and (first < 0 or curve.ticks[first] < start):
        head = float(curve.values[max(first, 0)])
        skip = 1 if first >= 0 else 0
        ticks, values = np.append(start, ticks[skip:]), np.append(head, values[skip:])
        bends = np.append(HOLD, bends[skip:])
    if end is not None and (not len(ticks) or ticks[-1] > end):
        ticks, values, bends = ticks[:-1], values[:-1], bends[:-1]
    if end is not None and (not len(ticks) or ticks[-1] < end):
        tail = float(values[-1]) if len(values) else float(curve.values[0])
        ticks, values = np.append(ticks, end), np.append(values, tail)
        bends = np.append(bends, 0.0)
        bends[-2:-1] = HOLD
    return ticks, values, bends


def _without_seam(curve: Envelope, tick: int, within: float) -> Envelope:
    """Without the one point at `tick`, if the segments on both sides are parts of one segment."""
    i, last = int(np.searchsorted(curve.ticks, tick)), len(curve) - 1
    if i > last or curve.ticks[i] != tick or (i < last and curve.ticks[i + 1] == tick):
        return curve
    if i in (0, last):
        return _without_edge_seam(curve, i)
    k, after = float(curve.bends[i - 1]), float(curve.bends[i])
    if k == HOLD:
        if after != HOLD or curve.values[i] != curve.values[i - 1]:
            return curve
    elif not _one_segment(curve, i, k, after, within):
        return curve
    bends = curve.bends.copy()
    bends[i - 1] = HOLD if k == HOLD else min(max(k + after, -MAX_BEND), MAX_BEND)
    keep = np.arange(len(curve)) != i
    return curve.with_points(curve.ticks[keep], curve.values[keep], bends[keep])


def _without_edge_seam(curve: Envelope, i: int) -> Envelope:
    """Without the first or last point, if the curve is still up to the next one all the same."""
    if len(curve) < 2:
        return curve
    first, other = min(i, len(curve) - 2), 1 if i == 0 else i - 1
    if not curve.still_after[first] or curve.values[i] != curve.values[other]:
        return curve
    keep = np.arange(len(curve)) != i
    return curve.with_points(curve.ticks[keep], curve.values[keep], curve.bends[keep])


def _one_segment(curve: Envelope, i: int, k: float, after: float, within: float) -> bool:
    """Whether point i lies on the one bent segment that would join its neighbours."""
    lengths = np.diff(curve.ticks[i - 1 : i + 2]).astype(np.float64)
    if not np.isfinite(after) or abs(k + after) > MAX_BEND + SAME:
        return False
    if abs(k / lengths[0] - after / lengths[1]) * lengths.sum() > within:
        return False
    y0, y, y1 = curve.coordinates[i - 1 : i + 2].tolist()
    part = float(bend(np.asarray(lengths[0] / lengths.sum()), np.asarray(k + after)))
    return bool(abs(y0 + (y1 - y0) * part - y) < within)


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


def _without_idle(ticks: Ticks, values: Floats, bends: Floats, curve: Envelope) -> Envelope:
    """On a curve's axis the points of curves that meet, without those that close a curve and say nothing: held before, or alike after."""
    closing = np.append(ticks[1:] == ticks[:-1], False)
    held = np.append(False, np.isposinf(bends[:-1]) & (ticks[1:] > ticks[:-1]))
    alike = np.append(values[1:] == values[:-1], False)
    keep = ~(closing & (held | alike))
    bends = bends[keep]
    bends[-1:] = 0.0
    return curve.trusted(ticks[keep], values[keep], bends)


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


def _with_crossings(envelope: Envelope, bound: float) -> Envelope:
    """The same curve with points on both sides of each place where it passes `bound`: the last tick before and the first after."""
    level = float(envelope.axis.coordinate(bound))
    y = envelope.coordinates
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
    inner = envelope.coordinates_in(np.broadcast_to(crossing[:, None], near.shape), near)
    before = np.where(y[crossing, None] < level, inner < level, inner > level).sum(axis=1)
    rows = np.arange(len(crossing))
    last, first = near[rows, np.maximum(before - 1, 0)], near[rows, np.minimum(before, near.shape[1] - 1)]
    return envelope.split_at(np.concatenate((last, first)))
