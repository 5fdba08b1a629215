"""Thinning: the fewest points of straight lines that stay within a bound of a curve at every moment; or no loss at all.

A curve falls into runs between what stays: holds, jumps larger than twice the bound, silence, protected ticks. Each run is
led through a tube (`core/tube.py`); bends are flattened first, and the tube is narrower by what that costs. The result is
checked exactly over the points of both curves and where they are furthest apart between them.
"""

from __future__ import annotations

import math
from itertools import pairwise
from typing import NamedTuple

import numpy as np

from velmot.core.axes import Axis
from velmot.core.difference import largest_difference
from velmot.core.envelope import SAME, Envelope
from velmot.core.progress import come, part
from velmot.core.segments import HOLD, STRAIGHT, bend
from velmot.core.time import Flags, Floats, Ticks, among
from velmot.core.tube import Line, Station, fewest_lines

Row = tuple[int, float]

_FLAT = 0.25
"""What part of the bound flattening a bend may take."""

_HAIR = 1e-9
"""By what part the tube is narrower than the bound, for rounding."""

_ENDS_AT_START = (0, 0, 0, 0, -1, 1)
_ENDS_AT_END = (0, 0, -1, 1, 0, 0)
"""A station's low and high, those before it and those after it, at the ends of a run: pinned, but for the wall inside."""

_TRIES = 8

_BEFORE = 0.2
"""Which part of the work it is to take what says nothing, before lines are sought."""

_OFTEN = 20_000
"""After how many points it is said how far a curve has come."""


class _Run(NamedTuple):
    """Points of a curve that are thinned together: ticks, coordinates, bends; the last one closes it."""

    ticks: Ticks
    y: Floats
    bends: Floats


Reach = tuple[float, float]

ANYWHERE: Reach = (-math.inf, math.inf)


def thinned_within(curve: Envelope, tolerance: float, keep: Ticks | None = None, reach: Reach = ANYWHERE) -> Envelope:
    """The curve in the fewest straight lines within `tolerance` axis units of it; a run that has fewer points stays.

    New points need not be old ones; none passes `reach`, the coordinates of what the parameter can be.
    """
    if curve.axis.floor is not None:  # where nothing was silent nothing may become so
        reach = (max(reach[0], float(np.nextafter(curve.axis.floor, 0.0))), reach[1])
    with part(0.0, _BEFORE):
        curve = without_loss(curve, keep=keep)
    if len(curve) < 3 or tolerance <= 0:
        return curve
    edges = np.flatnonzero(_stays(curve, tolerance, keep))
    parts: list[tuple[Ticks, Floats, Floats]] = []
    for a, b in pairwise(edges.tolist()):
        run = _Run(curve.ticks[a : b + 1], curve.coordinates[a : b + 1], curve.bends[a : b + 1])
        with part(*(_BEFORE + (1 - _BEFORE) * i / len(curve) for i in (a, b))):
            made = _thinned_run(run, tolerance, reach) if b - a > 1 and _glides(run) else None
        if made is None:
            parts.append((curve.ticks[a:b], curve.values[a:b], curve.bends[a:b]))
        else:
            ticks, y = made
            values = curve.axis.value_of(y)
            values[0] = curve.values[a]
            parts.append((ticks[:-1], values[:-1], np.zeros(len(ticks) - 1)))
    parts.append((curve.ticks[-1:], curve.values[-1:], curve.bends[-1:]))
    ticks, values, bends = (np.concatenate(column) for column in zip(*parts, strict=True))
    return Envelope(ticks, values, bends, curve.axis)


def _stays(curve: Envelope, tolerance: float, keep: Ticks | None) -> Flags:
    """Which points stand at the ends of runs: the ends, holds, large jumps, silence, and what is protected."""
    stays = np.zeros(len(curve), dtype=bool)
    stays[[0, -1]] = True
    held = np.isposinf(curve.bends[:-1])
    stays[:-1] |= held
    stays[1:] |= held
    large = (curve.ticks[1:] == curve.ticks[:-1]) & (np.abs(np.diff(curve.coordinates)) > 2 * tolerance)
    stays[:-1] |= large
    stays[1:] |= large
    stays |= curve.axis.silent(curve.values)
    if keep is not None and len(keep):
        stays |= among(curve.ticks, keep)
    return stays


def _glides(run: _Run) -> bool:
    """Whether a run is one of lines and bends, with time in it."""
    return bool(np.isfinite(run.bends[:-1]).all() and run.ticks[-1] > run.ticks[0])


def _thinned_run(run: _Run, tolerance: float, reach: Reach) -> tuple[Ticks, Floats] | None:
    """A run in fewer points, as (ticks, coordinates); None where there is nothing fewer."""
    if np.ptp(run.y) == 0:
        return None
    bent = bool((np.abs(run.bends[:-1]) >= STRAIGHT).any())
    flat = tolerance * _FLAT if bent else 0.0
    line = _flattened(run, flat) if bent else (run.ticks, run.y)
    within = (tolerance - flat) * (1 - _HAIR) - _for_rounding(line, tolerance)
    for _ in range(_TRIES):
        made = _through(line, within, reach)
        if made is None or len(made[0]) >= len(run.ticks):
            return None
        over = _furthest(run, made) - tolerance
        if over <= 0:
            return made
        within -= over * 4 + tolerance * _HAIR
        if within <= 0:
            return None
    return None


def _for_rounding(line: tuple[Ticks, Floats], tolerance: float) -> float:
    """What putting a new point onto a whole tick may take of the bound: half a tick of two slopes; never much of it."""
    spans = np.diff(line[0])
    steep = np.abs(np.diff(line[1]))[spans > 0] / spans[spans > 0]
    return min(float(steep.max(initial=0.0)), tolerance * 1e-3)


def _furthest(run: _Run, made: tuple[Ticks, Floats]) -> float:
    before = Envelope(run.ticks, run.y, run.bends, Axis.LINEAR)
    after = Envelope(*made, np.zeros(len(made[0])), Axis.LINEAR)
    return largest_difference(before, after, int(run.ticks[0]), int(run.ticks[-1]))[0]


def _flattened(run: _Run, tolerance: float) -> tuple[Ticks, Floats]:
    """(ticks, coordinates) of a run with its bends in straight pieces within `tolerance`: equal steps of the bend's own arrow."""
    ticks: list[int] = []
    y: list[float] = []
    for i in range(len(run.ticks) - 1):
        a, b, k = int(run.ticks[i]), int(run.ticks[i + 1]), float(run.bends[i])
        rise = float(run.y[i + 1] - run.y[i])
        pieces = 1
        if abs(k) >= STRAIGHT and rise:
            # A bend's arrow over a piece of width h is at most h²/8 of its largest second derivative.
            steep = (
                k * k * max(1.0, math.exp(min(k, 60.0))) / abs(math.expm1(k)) if k > 0 else k * k / abs(math.expm1(k))
            )
            pieces = min(max(math.ceil(math.sqrt(abs(rise) * steep / (8 * tolerance))), 1), b - a, 4096)
        x = np.arange(pieces) / pieces
        at = a + np.floor(x * (b - a)).astype(np.int64)
        ticks += at.tolist()
        part = bend((at - a) / (b - a), np.full(pieces, k)) if b > a else x
        y += (run.y[i] + rise * part).tolist()
    ticks.append(int(run.ticks[-1]))
    y.append(float(run.y[-1]))
    return np.array(ticks, dtype=np.int64), np.array(y)


def _through(line: tuple[Ticks, Floats], within: float, reach: Reach) -> tuple[Ticks, Floats] | None:
    """The fewest points through the tube of `within` around a line of straight pieces, its ends pinned."""
    lines = fewest_lines(_stations(line, within, reach))
    start, end = int(line[0][0]), int(line[0][-1])
    ticks, y = [start], [float(line[1][0])]
    for one, other in pairwise(lines):
        at = start + round(_meet(one, other))
        if not ticks[-1] < at < end:
            return None
        ticks.append(at)
        y.append(min(max((one.at(at - start) + other.at(at - start)) / 2, reach[0]), reach[1]))
    return np.array([*ticks, end], dtype=np.int64), np.array([*y, float(line[1][-1])])


def _meet(one: Line, other: Line) -> float:
    if one.slope == other.slope:
        return other.x0
    return (other.y0 - other.slope * other.x0 - one.y0 + one.slope * one.x0) / (one.slope - other.slope)


def _stations(line: tuple[Ticks, Floats], within: float, reach: Reach) -> list[Station]:
    """What lines must pass between; two points at a tick are one place, where both sides count."""
    ticks, y = line
    lasts = np.append(ticks[1:] != ticks[:-1], True)
    firsts = np.append(True, lasts[:-1])
    x = (ticks[firsts] - ticks[0]).astype(np.float64)
    before, after = y[firsts], y[lasts]
    low, high = np.maximum(before, after) - within, np.minimum(before, after) + within
    low, high = np.maximum(low, reach[0]), np.minimum(high, reach[1])
    far = low > high  # a jump of just twice the bound is met in its middle only
    low, high = (np.where(far, (before + after) / 2, side) for side in (low, high))
    walls = [np.maximum(before - within, reach[0]), np.minimum(before + within, reach[1])]
    walls += [np.maximum(after - within, reach[0]), np.minimum(after + within, reach[1])]
    columns = [x, low, high, *walls]
    for column, start, end in zip(columns[1:], _ENDS_AT_START, _ENDS_AT_END, strict=True):
        column[0] = after[0] + start * within
        column[-1] = before[-1] + end * within
    return [*map(Station._make, zip(*(column.tolist() for column in columns), strict=True))]


# ── without loss ──────────────────────────────────────────────────────────────────────────────


def without_loss(curve: Envelope, tolerance: float = SAME, keep: Ticks | None = None) -> Envelope:
    """The curve without the points that change nothing by more than `tolerance`: on a line, on one bend, in equal holds.

    Those at the ticks of `keep` stay.
    """
    curve = curve.only_heard()
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


# ── staircases ────────────────────────────────────────────────────────────────────────────────


def slopes_of_steps(curve: Envelope) -> Envelope:
    """Staircases of a controller's steps as the fewest lines within half a step of every plateau; all else as it was."""
    curve = without_loss(curve)
    ticks, y, bends = curve.ticks, curve.coordinates, curve.bends
    out: list[tuple[int, float, float]] = []
    i = 0
    while i < len(ticks):
        end = _staircase(ticks, y, bends, i)
        made = _slope(ticks, y, i, end) if end - i >= 3 else None
        if made is None:
            out.append((int(ticks[i]), float(curve.values[i]), float(bends[i])))
            i += 1
            continue
        rows = [(int(ticks[i]), float(y[i]), HOLD), *((at, value, 0.0) for at, value in made)]
        rows[-1] = (rows[-1][0], rows[-1][1], 0.0)
        out += [(at, float(curve.axis.value_of(value)), shape) for at, value, shape in rows]
        out.append((int(ticks[end]), float(curve.values[end]), float(bends[end])))
        i = end + 1
    return Envelope.of(out, curve.axis) if len(out) < len(curve) else curve


def _staircase(ticks: Ticks, y: Floats, bends: Floats, start: int) -> int:
    """The last point of the staircase that starts here: holds one after the other, each a step from the next."""
    end, step = start, 0.0
    while end + 1 < len(ticks) and bends[end] == HOLD and ticks[end + 1] > ticks[end]:
        jump = abs(float(y[end + 1] - y[end]))
        if step and abs(jump - step) > step * 1e-6:
            break
        step = step or jump
        end += 1
    return end


def _slope(ticks: Ticks, y: Floats, start: int, end: int) -> list[Row] | None:
    """The fewest points within half a step of all plateaus between two points, from the first jump to the last."""
    half = abs(float(y[start + 1] - y[start])) / 2
    if not half:
        return None
    stations: list[Station] = []
    zero = int(ticks[start + 1])
    for i in range(start + 1, end + 1):
        before, after = float(y[i - 1]), float(y[i])
        middle = (before + after) / 2
        walls = (before - half, before + half, after - half, after + half)
        stations.append(Station(float(ticks[i] - zero), middle - half * 1e-9, middle + half * 1e-9, *walls))
    lines = fewest_lines(stations)
    made: list[Row] = [(zero, lines[0].at(0.0))]
    for one, other in pairwise(lines):
        at = zero + round(_meet(one, other))
        if not made[-1][0] < at < int(ticks[end]):
            return None
        made.append((at, (one.at(at - zero) + other.at(at - zero)) / 2))
    made.append((int(ticks[end]), lines[-1].at(float(ticks[end] - zero))))
    return made
