"""The largest difference between two curves, exact: at break positions, and where two bends are furthest apart."""

from __future__ import annotations

import numpy as np

from velmot.core.envelope import Envelope
from velmot.core.time import Floats, Ticks, merged

SAME = 1e-9
"""Differences up to this many axis units are none."""


def largest_difference(one: Envelope, other: Envelope, start: int, end: int) -> tuple[float, int]:
    """The largest difference in axis units at any tick of ``[start, end]``, and that tick.

    Both sides of every break position are compared, so jumps count. Between two breaks the difference
    of two bends turns at most once, where their slopes agree; that place is solved.
    """
    ticks = merged(*(e.ticks[(e.ticks >= start) & (e.ticks <= end)] for e in (one, other)), [start, end])
    if _curved(one) or _curved(other):
        ticks = merged(ticks, _turns(one, other, ticks))
    gap = np.abs(one.place_at(ticks) - other.place_at(ticks))
    gap[ticks == end] = 0.0
    jumps = np.flatnonzero(np.isin(ticks, merged(_jumps(one), _jumps(other))) & (ticks > start) | (ticks == end))
    left = np.abs(one.place_at(ticks[jumps], "left") - other.place_at(ticks[jumps], "left"))
    gap[jumps] = np.maximum(gap[jumps], left)
    i = int(gap.argmax())
    return float(gap[i]), int(ticks[i])


def _jumps(curve: Envelope) -> Ticks:
    """The ticks at which a curve's limit from before may differ from its value: jumps, and where a hold ends."""
    same = curve.ticks[1:] == curve.ticks[:-1]
    return np.asarray(curve.ticks[1:][same | np.isposinf(curve.bends[:-1])])


def differing_span(one: Envelope, other: Envelope, start: int, end: int, least: float = SAME) -> tuple[int, int] | None:
    """The smallest span between break positions outside of which two curves are alike in ``[start, end]``; None if all is."""
    ticks = merged(*(e.ticks[(e.ticks >= start) & (e.ticks <= end)] for e in (one, other)), [start, end])
    if _curved(one) or _curved(other):
        ticks = merged(ticks, _turns(one, other, ticks))
    right = np.abs(one.place_at(ticks) - other.place_at(ticks)) > least
    left = np.abs(one.place_at(ticks, "left") - other.place_at(ticks, "left")) > least
    left[0] = right[-1] = False
    odd = np.flatnonzero(left | right)
    if not len(odd):
        return None
    first, last = int(odd[0]), int(odd[-1])
    first -= bool(left[first] and first)  # it parts from the position before
    last += bool(right[last] and last < len(ticks) - 1)
    return int(ticks[first]), int(ticks[last])


def _curved(curve: Envelope) -> bool:
    return bool((np.isfinite(curve.bends) & (curve.bends != 0.0)).any())


def _turns(one: Envelope, other: Envelope, ticks: Ticks) -> Ticks:
    """The whole ticks on both sides of the places between `ticks` where both curves are equally steep."""
    (slope, growth), (slope_2, growth_2) = (_slopes(curve, ticks[:-1]) for curve in (one, other))
    with np.errstate(divide="ignore", invalid="ignore", over="ignore"):
        away = np.log(slope / slope_2) / (growth_2 - growth)
        inside = np.isfinite(away) & (away > 0) & (away < np.diff(ticks))
    places = ticks[:-1][inside] + np.floor(away[inside]).astype(np.int64)
    return np.concatenate((places, places + 1))


def _slopes(curve: Envelope, ticks: Ticks) -> tuple[Floats, Floats]:
    """Right of each tick: the slope in axis units a tick, and the rate at which it grows (0 where straight)."""
    last = len(curve) - 1
    i = np.searchsorted(curve.ticks, ticks, side="right") - 1
    a, b = np.clip(i, 0, last), np.clip(i + 1, 0, last)
    span = np.maximum(curve.ticks[b] - curve.ticks[a], 1)
    k = np.where((i < 0) | (i >= last) | ~np.isfinite(curve.bends[a]), 0.0, curve.bends[a])
    still = (i < 0) | (i >= last) | np.isposinf(curve.bends[a])
    bent = np.abs(k) > 1e-12
    safe = np.where(bent, k, 1.0)
    x = np.clip((ticks - curve.ticks[a]) / span, 0.0, 1.0)
    steep = np.where(bent, safe * np.exp(safe * x) / np.expm1(safe), 1.0)
    slope = np.where(still, 0.0, (curve.places[b] - curve.places[a]) / span * steep)
    return slope, np.where(bent, k / span, 0.0)
