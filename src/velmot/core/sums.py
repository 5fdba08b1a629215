"""Sums of envelopes on their axis: exact for straight and held segments, bends cut up where they must be."""

from __future__ import annotations

import numpy as np

from velmot.core.envelope import HOLD, Envelope
from velmot.core.parameters import SILENCE, Axis
from velmot.core.time import Flags, Floats, Ticks, merged

TOLERANCE = 0.001


def sum_axis(one: Envelope, other: Envelope, tolerance: float = TOLERANCE) -> Envelope:
    """The curve whose axis coordinate is the sum of both, on the axis of `one`.

    Exact where both are straight or held, or one of them does not change; where a bend meets a slope
    it is cut into straight pieces that stay within `tolerance` axis units.
    """
    ticks = merged(one.ticks, other.ticks)
    ticks = merged(ticks, *_cuts(one, other, ticks, tolerance), *_cuts(other, one, ticks, tolerance))
    rights = one.place_at(ticks) + other.place_at(ticks)
    lefts = one.place_at(ticks, "left") + other.place_at(ticks, "left")
    for curve in (one, other):
        if curve.axis is Axis.LEVEL:  # no gain lifts silence
            rights = np.where(curve.place_at(ticks) <= SILENCE, SILENCE, rights)
            lefts = np.where(curve.place_at(ticks, "left") <= SILENCE, SILENCE, lefts)
    shapes = _shapes(one, other, ticks)
    jumps = np.abs(lefts - rights) > 1e-12
    jumps[1:] &= shapes[:-1] != HOLD  # after a hold the point itself is the jump
    at = np.repeat(np.arange(len(ticks)), 1 + jumps)
    before = np.append(at[1:] == at[:-1], False)  # of two rows for a tick, the limit towards it
    places = np.where(before, lefts[at], rights[at])
    bends = np.where(before, 0.0, shapes[at])
    if before[0]:
        bends[0] = HOLD
    return Envelope(ticks[at], one.axis.value_at(places), bends, one.axis)


def _segments(curve: Envelope, ticks: Ticks) -> tuple[Ticks, Floats]:
    """For the segment right of each tick: the index of the point it starts at (or −1), and its bend."""
    i = np.searchsorted(curve.ticks, ticks, side="right") - 1
    flat = (i < 0) | (i >= len(curve) - 1)
    return i, np.where(flat, HOLD, curve.bends[np.clip(i, 0, len(curve) - 1)])


def _shapes(one: Envelope, other: Envelope, ticks: Ticks) -> Floats:
    """The shape of each piece: held if both are, one's bend if the other stays still, else straight."""
    out = np.zeros(len(ticks))
    kinds = [_segments(curve, ticks) for curve in (one, other)]
    for n, (curve, still) in enumerate(((one, other), (other, one))):
        index, bend = kinds[n]
        quiet = _still(still, *kinds[1 - n])
        span = np.diff(curve.ticks, append=curve.ticks[-1:] + 1)[np.clip(index, 0, None)]
        reach = np.diff(ticks, append=ticks[-1:] + 1)
        part = np.where(np.isfinite(bend), bend, 0.0) * reach / np.maximum(span, 1)
        out = np.where(quiet & np.isfinite(bend), part, out)
    both = _still(one, *kinds[0]) & _still(other, *kinds[1])
    return np.where(both, HOLD, out)


def _still(curve: Envelope, index: Ticks, bend: Floats) -> Flags:
    """Whether the segments that start at points `index` keep their value."""
    last = len(curve) - 1
    a, b = np.clip(index, 0, last), np.clip(index + 1, 0, last)
    return np.asarray(np.isposinf(bend) | (curve.values[a] == curve.values[b]))


def _cuts(bent: Envelope, slope: Envelope, ticks: Ticks, tolerance: float) -> list[Ticks]:
    """Where bends that meet a slope are cut: a chord of 1/m of the way errs by at most |Δ|k²·max(e^kx)/(8m²|e^k − 1|).

    Each of two bends may use half of the tolerance.
    """
    index, bend = _segments(bent, ticks)
    meets = np.isfinite(bend) & (np.abs(bend) > 1e-9) & ~_still(slope, *_segments(slope, ticks))
    out: list[Ticks] = []
    for n in np.flatnonzero(meets[:-1]).tolist():
        i, k = int(index[n]), float(bend[n])
        rise = abs(float(bent.places[i + 1] - bent.places[i]))
        steepest = rise * k * k * max(1.0, float(np.exp(min(k, 60)))) / abs(float(np.expm1(k)))
        start, end = int(ticks[n]), int(ticks[n + 1])
        share = (end - start) / int(bent.ticks[i + 1] - bent.ticks[i])
        pieces = min(int(np.ceil(1.1 * share * np.sqrt(steepest / (4 * tolerance)))) + 1, 4000)
        length = max((end - start) // pieces, 1)  # whole ticks, so that no piece is longer than it may be
        out.append(np.arange(start + length, end, length, dtype=np.int64))
    return out
