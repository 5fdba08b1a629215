"""Without loss: a curve without the points that change nothing: on a line, on one bend, or in equal holds."""

from __future__ import annotations

import math

import numpy as np

from velmot.core.curves.envelope import SAME, Envelope
from velmot.core.curves.segments import HOLD, STRAIGHT, bend
from velmot.core.progress import come
from velmot.core.time.ticks import Flags, Ticks, among

_OFTEN = 20_000
"""After how many points it is said how far a curve has come."""


def without_loss(curve: Envelope, tolerance: float = SAME, keep: Ticks | None = None) -> Envelope:
    """The curve without the points that change nothing by more than `tolerance`: on a line, on one bend, in equal holds.

    Those at the ticks of `keep` stay.
    """
    curve = _without_level_points(curve.only_heard(), keep)
    if len(curve) < 3:
        return curve
    idle = _maybe_idle(curve, tolerance)
    if keep is not None and len(keep):
        idle &= ~among(curve.ticks, keep)
    able = np.flatnonzero(idle)
    if not len(able):
        return curve
    ticks, y, bends = curve.ticks.tolist(), curve.coordinates.tolist(), curve.bends.tolist()
    stays = np.ones(len(curve), dtype=bool)
    shapes = list(bends)
    told = 0
    last = start = -1
    low, high = -math.inf, math.inf  # slopes of straight lines from `start` that pass all that was dropped
    dropped: list[int] = []
    for i in able.tolist():
        if i - told > _OFTEN:
            told = i
            come(i / len(ticks))
        if i != last + 1 or not dropped:
            start, dropped = i - 1, []
            low, high = -math.inf, math.inf
        last = i
        a, k, after = ticks[start], shapes[start], bends[i]
        if k == HOLD:
            drops = after == HOLD and y[i] == y[start]
        elif abs(k) < STRAIGHT and abs(after) < STRAIGHT:
            span = ticks[i] - a
            low, high = max(low, (y[i] - tolerance - y[start]) / span), min(high, (y[i] + tolerance - y[start]) / span)
            drops = low <= (y[i + 1] - y[start]) / (ticks[i + 1] - a) <= high
        else:
            drops = after != HOLD and _one_bend(ticks, y, start, [*dropped, i], k + after, k, tolerance)
            if drops:
                shapes[start] = k + after
        if drops:
            stays[i] = False
            dropped.append(i)
        else:
            dropped = []
    if stays.all():
        return curve
    made = np.array(shapes)
    return Envelope(curve.ticks[stays], curve.values[stays], made[stays], curve.axis)


def _without_level_points(curve: Envelope, keep: Ticks | None) -> Envelope:
    """A curve without the points that stand just as high as both beside them, or are held again: most that say nothing."""
    if len(curve) < 3:
        return curve
    y, k, after = curve.coordinates, curve.bends[:-2], curve.bends[1:-1]
    again = (y[1:-1] == y[:-2]) & (curve.ticks[1:-1] > curve.ticks[:-2]) & (curve.ticks[2:] > curve.ticks[1:-1])
    held = (k == HOLD) & (after == HOLD)
    level = (np.abs(k) < STRAIGHT) & (np.abs(after) < STRAIGHT) & (y[2:] == y[1:-1])
    idle = again & (held | level)
    if not idle.any():
        return curve
    stays = np.concatenate(([True], ~idle, [True]))
    if keep is not None and len(keep):
        stays |= among(curve.ticks, keep)
    return Envelope(curve.ticks[stays], curve.values[stays], curve.bends[stays], curve.axis)


def _maybe_idle(curve: Envelope, tolerance: float) -> Flags:
    """Which points could say nothing, by what stands next to them: on a line or a bend with it, or in equal holds."""
    ticks, y, bends = curve.ticks, curve.coordinates, curve.bends
    idle = np.zeros(len(curve), dtype=bool)
    before, after = np.diff(ticks)[:-1], np.diff(ticks)[1:]
    k, following = bends[:-2], bends[1:-1]
    held = np.isposinf(k) & np.isposinf(following) & (y[1:-1] == y[:-2])
    finite = np.isfinite(k) & np.isfinite(following)
    with np.errstate(invalid="ignore", divide="ignore"):
        part = before / (before + after)
        level = np.abs(y[:-2] + (y[2:] - y[:-2]) * part - y[1:-1]) <= 4 * tolerance
        straight = finite & (np.abs(k) < STRAIGHT) & (np.abs(following) < STRAIGHT) & level
        alike = np.abs(k / before - following / after) * (before + after) <= 1e-5
    bent = finite & ((np.abs(k) >= STRAIGHT) | (np.abs(following) >= STRAIGHT)) & alike
    idle[1:-1] = (held | straight | bent) & (before > 0) & (after > 0)
    return idle


def _one_bend(
    ticks: list[int], y: list[float], start: int, dropped: list[int], k: float, before: float, within: float
) -> bool:
    """Whether one bend from `start` to the point after the dropped ones passes all of these."""
    if abs(k) > 60 or len(dropped) > 64:
        return False
    end = dropped[-1] + 1
    span, rise = ticks[end] - ticks[start], y[end] - y[start]
    x = np.array([(ticks[i] - ticks[start]) / span for i in dropped])
    far = np.abs(y[start] + rise * bend(x, np.full(len(x), k)) - [y[i] for i in dropped])
    # Two bends are one where their arrows are alike for their lengths; points alone would not tell.
    alike = abs(before / (ticks[dropped[-1]] - ticks[start]) - k / span) * span <= 1e-6
    return bool(alike and far.max() <= within)
