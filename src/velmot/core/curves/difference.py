"""The largest difference between two curves, exact: at break positions, and where two bends are furthest apart."""

from __future__ import annotations

from typing import NamedTuple

import numpy as np

from velmot.core.curves.envelope import SAME, Envelope
from velmot.core.curves.segments import HOLD, STRAIGHT, bend
from velmot.core.time.ticks import Flags, Floats, Ticks, merged

ROUNDING = 1e-12
"""What the arithmetic itself may leave, so no difference at all: it would point at a place by chance."""

_EVER = 2**61

__all__ = ["SAME", "differing_runs", "differing_span", "largest_difference"]


class _Segments(NamedTuple):
    """For each of some spans the segment that fills it: its ends (ticks, coordinates) and its bend."""

    first: Ticks
    last: Ticks
    low: Floats
    high: Floats
    bends: Floats

    def among(self, which: Flags) -> _Segments:
        """Only some of them."""
        return _Segments(self.first[which], self.last[which], self.low[which], self.high[which], self.bends[which])

    def bent(self) -> Flags:
        """Which of them are neither straight nor held."""
        return np.isfinite(self.bends) & (np.abs(self.bends) >= STRAIGHT)

    def bent_over(self, lengths: Ticks) -> Floats:
        """The bend of a part of each that is so long; 0 for held ones."""
        return np.asarray(np.where(np.isposinf(self.bends), 0.0, self.bends) * (lengths / (self.last - self.first)))

    def coordinates(self, ticks: Ticks) -> Floats:
        """Coordinates at ticks inside the segments; at a segment's last tick the limit towards it."""
        x = (ticks - self.first) / (self.last - self.first)
        part = np.where(np.isposinf(self.bends), 0.0, bend(x, self.bends))
        return np.asarray(self.low + (self.high - self.low) * part)

    def slopes(self, ticks: Ticks) -> tuple[Floats, Floats]:
        """The slope in axis units a tick, and the rate at which it grows (0 where straight)."""
        span = self.last - self.first
        bent = self.bent()
        k = np.where(bent, self.bends, 1.0)
        steep = np.where(bent, k * np.exp(k * ((ticks - self.first) / span)) / np.expm1(k), 1.0)
        slope = np.where(np.isposinf(self.bends), 0.0, (self.high - self.low) / span * steep)
        return slope, np.where(bent, k / span, 0.0)


class _Apart(NamedTuple):
    """The spans between break positions in which two curves are not the same segment, with the segments of both.

    `gaps` are how far apart they are at the two ends of each span, float64 (2, n).
    """

    starts: Ticks
    ends: Ticks
    one: _Segments
    other: _Segments
    gaps: Floats
    reach: Floats
    """More than this they cannot part inside a span: either curve only rises or only falls in it."""

    def turning(self, which: Flags) -> tuple[Floats, Ticks, Ticks]:
        """Of some of the spans: the most two bends part inside each (0 where they never turn), where, and the spans' indices."""
        spans = np.flatnonzero(which)
        if not len(spans):
            return np.zeros(0), spans, spans
        a, b, starts, ends = self.one.among(which), self.other.among(which), self.starts[which], self.ends[which]
        ticks = np.stack(_turns(a, b, starts, ends))
        gaps = _unrounded(a.coordinates(ticks) - b.coordinates(ticks))
        nearer, every = gaps.argmax(axis=0), np.arange(len(spans))
        return gaps[nearer, every], ticks[nearer, every], spans


def largest_difference(one: Envelope, other: Envelope, start: int, end: int) -> tuple[float, int]:
    """The largest difference in axis units at any tick of ``[start, end]``, and that tick (the first span's, of several alike).

    Both sides of every break position are compared, so jumps count. Between two breaks the difference
    of two bends turns at most once, where their slopes agree; that place is solved. Where both have
    the very same segment there is no difference, and nothing is worked out.
    """
    apart = _apart(one, other, start, end)
    if not len(apart.starts):
        return 0.0, start
    most = apart.gaps.max(axis=0)
    i = int(most.argmax())
    largest, at = float(most[i]), int((apart.starts if apart.gaps[0, i] == most[i] else apart.ends)[i])
    beyond, ticks, _ = apart.turning(apart.reach > largest)
    if len(beyond) and beyond.max() > largest:
        return float(beyond.max()), int(ticks[beyond.argmax()])
    return largest, at


def differing_span(one: Envelope, other: Envelope, start: int, end: int, least: float = SAME) -> tuple[int, int] | None:
    """The smallest span between break positions outside of which two curves are alike in ``[start, end]``; None if all is."""
    apart = _apart(one, other, start, end)
    differs = apart.gaps.max(axis=0, initial=0.0) > least
    most, _, spans = apart.turning(~differs & (apart.reach > least))
    differs[spans[most > least]] = True
    odd = np.flatnonzero(differs)
    return (int(apart.starts[odd[0]]), int(apart.ends[odd[-1]])) if len(odd) else None


class Run(NamedTuple):
    """A stretch in which two curves differ: the break positions in it, and whether they agree just inside its two ends.

    At the positions between its ends they differ on at least one side.
    """

    breaks: tuple[int, ...]
    leaves_together: bool
    meets_again: bool

    @property
    def start(self) -> int:
        return self.breaks[0]

    @property
    def end(self) -> int:
        return self.breaks[-1]


def differing_runs(one: Envelope, other: Envelope, start: int, end: int, least: float = SAME) -> list[Run]:
    """Each stretch of ``[start, end]`` in which two curves differ, in order."""
    apart = _apart(one, other, start, end)
    differs = apart.gaps.max(axis=0, initial=0.0) > least
    most, _, spans = apart.turning(~differs & (apart.reach > least))
    differs[spans[most > least]] = True
    runs: list[Run] = []
    columns = (apart.starts, apart.ends, apart.gaps[0] <= least, apart.gaps[1] <= least)
    for a, b, leaves, meets in zip(*(column[differs].tolist() for column in columns), strict=True):
        if runs and runs[-1].end == a and not (runs[-1].meets_again and leaves):
            runs[-1] = runs[-1]._replace(breaks=(*runs[-1].breaks, b), meets_again=meets)
        else:
            runs.append(Run((a, b), leaves, meets))
    return runs


def _apart(one: Envelope, other: Envelope, start: int, end: int) -> _Apart:
    breaks = merged(*(e.ticks[(e.ticks >= start) & (e.ticks <= end)] for e in (one, other)), [start, end])
    starts, ends = breaks[:-1], breaks[1:]
    pair = _segments(one, starts), _segments(other, starts)
    odd = np.zeros(len(starts), dtype=bool)
    for mine, others in zip(*pair, strict=True):
        odd |= mine != others
    starts, ends = starts[odd], ends[odd]
    a, b = (segments.among(odd) for segments in pair)
    ticks = np.stack((starts, ends))
    mine, others = a.coordinates(ticks), b.coordinates(ticks)
    gaps = _unrounded(mine - others)
    reach = np.maximum(mine.max(axis=0) - others.min(axis=0), others.max(axis=0) - mine.min(axis=0))
    same_bend = np.abs(a.bent_over(ends - starts) - b.bent_over(ends - starts)) < ROUNDING / 10
    alike = (gaps.max(axis=0, initial=0.0) == 0) & same_bend  # parts of one bend, cut here and there
    return _Apart(starts, ends, a, b, gaps, np.where((a.bent() | b.bent()) & ~alike, reach, 0.0))


def _unrounded(differences: Floats) -> Floats:
    gaps = np.abs(differences)
    gaps[gaps < ROUNDING] = 0.0
    return gaps


def _segments(curve: Envelope, ticks: Ticks) -> _Segments:
    """The segments right of each tick; before its first point and after its last a curve is still."""
    i = np.searchsorted(curve.ticks, ticks, side="right")  # 0: before the first point
    y = curve.coordinates
    return _Segments(
        np.append(-_EVER, curve.ticks)[i],
        np.append(curve.ticks, _EVER)[i],
        np.append(y[:1], y)[i],
        np.append(y, y[-1:])[i],
        np.append(HOLD, curve.bends)[i],
    )


def _turns(a: _Segments, b: _Segments, starts: Ticks, ends: Ticks) -> tuple[Ticks, Ticks]:
    """The whole ticks on both sides of the places inside where both are equally steep (the start where there is none)."""
    (slope, growth), (slope_2, growth_2) = a.slopes(starts), b.slopes(starts)
    with np.errstate(divide="ignore", invalid="ignore", over="ignore"):
        away = np.log(slope / slope_2) / (growth_2 - growth)
        inside = (away > 0) & (away < ends - starts)  # no number is neither
    turn = starts + np.where(inside, away, 0.0).astype(np.int64)
    return turn, np.minimum(turn + 1, ends)
