"""Staircases: plateaus one after the other, as controllers leave them, become the slopes they came from.

A plateau is held, or runs level up to a jump. What a step is, is told or found: the jumps of a staircase are small whole
numbers of it, but for the rounding of its values. The slopes pass the middle of every jump and stay within half a step (half
of the jump beside it, where numbers were skipped) of every plateau.
"""

from __future__ import annotations

from itertools import pairwise
from typing import NamedTuple

import numpy as np

from velmot.core.curves.envelope import SAME, Envelope, Side
from velmot.core.curves.lossless import without_loss
from velmot.core.curves.segments import HOLD
from velmot.core.curves.tube import fewest_through
from velmot.core.curves.within_bound import ANYWHERE, Reach, knots
from velmot.core.time.ticks import Floats, Ticks

MOST_SKIPPED = 3
"""A jump of more steps than this is no part of a staircase."""

_UNEVEN = 0.26
"""By what part of a step jumps may differ from whole numbers of it: values are rounded before they are sent."""

_FEWEST = 3
"""Jumps that make a staircase."""

_HAIR = 1e-9


class Stairs(NamedTuple):
    """Plateaus: the tick where each begins, its coordinate, and the point of the curve it begins with."""

    ticks: Ticks
    y: Floats
    points: Ticks


def slopes_of_steps(curve: Envelope, step: float = 0.0, reach: Reach = ANYWHERE) -> Envelope:
    """Staircases as the fewest lines within half a step of every plateau; all else as it was.

    `step` is how far apart plateaus are, in axis units; 0 finds it. No slope passes `reach`.
    """
    curve = without_loss(curve.only_heard())
    out: list[tuple[int, float, float]] = []
    at = 0
    for stairs in _staircases(curve, step):
        rows = _slopes(stairs, reach)
        first, last = int(stairs.points[0]), int(stairs.points[-1])
        if len(rows) + 2 >= last - first + 1:
            continue
        values = curve.axis.value_of(np.array([y for _, y in rows])).tolist()
        out += curve.points()[at:first]
        out.append((int(stairs.ticks[0]), float(curve.values[first]), HOLD))
        out += [(tick, value, 0.0) for (tick, _), value in zip(rows, values, strict=True)]
        at = last
    if not at:
        return curve
    return Envelope.of([*out, *curve.points()[at:]], curve.axis)


def in_steps(curve: Envelope) -> Envelope:
    """The same curve with every hold that leads to another value as a level line and a jump, so that it is thinned like one."""
    curve = curve.only_heard()
    held = np.flatnonzero(np.isposinf(curve.bends[:-1]) & (curve.ticks[1:] > curve.ticks[:-1]))
    ends = held[curve.values[held + 1] != curve.values[held]]
    bends = np.where(np.isposinf(curve.bends), 0.0, curve.bends)
    columns = [(curve.ticks, curve.ticks[ends + 1]), (curve.values, curve.values[ends]), (bends, np.zeros(len(ends)))]
    ticks, values, shapes = (np.insert(old, ends + 1, new) for old, new in columns)
    return Envelope(ticks, values, shapes, curve.axis)


def step_of(curve: Envelope) -> float:
    """The step of a curve's staircases, in axis units: what most of its small jumps are; 0 where there is none."""
    plateaus = _plateaus(curve)
    jumps = np.concatenate([np.abs(np.diff(run.y)) for run in plateaus] or [np.zeros(0)])
    jumps = jumps[jumps > 0]
    if len(jumps) < _FEWEST:
        return 0.0
    least = float(np.quantile(jumps, 0.05))
    near = jumps[jumps < 1.5 * least]
    return float(np.median(near))


def _staircases(curve: Envelope, step: float) -> list[Stairs]:
    """The stretches of plateaus whose jumps are small whole numbers of a step, with enough of them."""
    step = step or step_of(curve)
    if not step:
        return []
    out = []
    for run in _plateaus(curve):
        steps = np.abs(np.diff(run.y)) / step
        whole = np.rint(steps)
        fits = (whole >= 1) & (whole <= MOST_SKIPPED) & (np.abs(steps - whole) <= _UNEVEN)
        edges = np.flatnonzero(np.diff(np.concatenate(([False], fits, [False])).astype(np.int8)))
        for a, b in zip(edges[::2].tolist(), edges[1::2].tolist(), strict=True):
            if b - a >= _FEWEST:
                out.append(Stairs(run.ticks[a : b + 1], run.y[a : b + 1], run.points[a : b + 1]))
    return out


def _plateaus(curve: Envelope) -> list[Stairs]:
    """The stretches of plateaus that follow each other, each begun by a point and level until the next begins."""
    ticks, y = curve.ticks, curve.coordinates
    level = np.append(curve.still_after[:-1] & (ticks[1:] > ticks[:-1]), False)
    held = np.append(np.isposinf(curve.bends[:-1]), False)
    out: list[Stairs] = []
    rows: list[tuple[int, float, int]] = []

    def close() -> None:
        if len(rows) > 1:
            columns = [np.array(column) for column in zip(*rows, strict=True)]
            out.append(Stairs(*columns))
        rows.clear()

    i, last = 0, len(ticks) - 1
    while i <= last:
        if not level[i]:
            if rows and i == rows[-1][2] + (1 if held[rows[-1][2]] else 2):
                rows.append((int(ticks[i]), float(y[i]), i))  # where the last plateau leads to
            close()
            i += 1
            continue
        rows.append((int(ticks[i]), float(y[i]), i))
        nxt = i + 1 if held[i] else i + 2
        jumps = held[i] or (nxt <= last and ticks[nxt] == ticks[i + 1])
        if not jumps or nxt > last:
            close()
            i += 1
            continue
        i = nxt
    close()
    return out


def _slopes(stairs: Stairs, reach: Reach) -> list[tuple[int, float]]:
    """(tick, coordinate) of the fewest corners from the first jump to the last.

    Corners stand on whole ticks, where lines that were to pass several middles may miss some: there one is put on a middle.
    """
    jumps = np.abs(np.diff(stairs.y))
    beside = np.concatenate((jumps[:1], np.maximum(jumps[1:], jumps[:-1]), jumps[-1:])) / 2
    marks = np.array([0, len(jumps) - 1])
    while True:
        parts = [_corners(stairs, beside, int(a), int(b), reach) for a, b in pairwise(marks)]
        missed = [jump for part, (a, b) in zip(parts, pairwise(marks.tolist()), strict=True)
                  for jump in _missed(part, stairs, beside, a, b)]  # fmt: skip
        if not missed:
            rows = [row for part in parts for row in part[:-1]] + parts[-1][-1:]
            return [
                row for n, row in enumerate(rows) if not 0 < n < len(rows) - 1 or not _between(*rows[n - 1 : n + 2])
            ]
        marks = np.union1d(marks, missed)


def _corners(stairs: Stairs, beside: Floats, a: int, b: int, reach: Reach) -> list[tuple[int, float]]:
    """Corners of the fewest lines from the middle of one jump to that of another."""
    before, after = stairs.y[a : b + 1], stairs.y[a + 1 : b + 2]
    middles = (before + after) / 2
    first, last = int(stairs.ticks[a + 1]), int(stairs.ticks[b + 1])
    ends = [(first, float(middles[0])), (last, float(middles[-1]))]
    if b == a + 1:
        return ends
    left, right = beside[a : b + 1], beside[a + 1 : b + 2]
    hair = np.minimum(left, right) * _HAIR
    hair[[0, -1]] = 0.0
    xs = (stairs.ticks[a + 1 : b + 2] - first).astype(np.float64)
    walls = [before - left, before + left, after - right, after + right]
    columns = [xs, middles - hair, middles + hair, *(np.clip(wall, *reach) for wall in walls)]
    ticks, y = knots(np.array(fewest_through([column.tolist() for column in columns])), first, reach)
    return [ends[0], *zip(ticks.tolist(), y.tolist(), strict=True), ends[1]]


def _missed(rows: list[tuple[int, float]], stairs: Stairs, beside: Floats, a: int, b: int) -> list[int]:
    """The inner jumps next to plateaus from which some corners lead further than half of the jumps beside them, or back."""
    ticks, y = np.array([tick for tick, _ in rows]), np.array([place for _, place in rows])
    inner = np.arange(a + 1, b)
    if (np.diff(ticks) <= 0).any():
        return inner.tolist()
    every = np.union1d(ticks, stairs.ticks[a + 1 : b + 2])
    made = np.interp(every, ticks, y)
    found: set[int] = set()
    sides: tuple[Side, ...] = ("right", "left")
    for side in sides:
        plateau = np.searchsorted(stairs.ticks, every, side=side) - 1
        known = (plateau > a) & (plateau <= b)
        far = np.abs(made - stairs.y[plateau]) - beside[np.minimum(plateau, len(beside) - 1)] * (1 + 2 * _HAIR)
        for n in plateau[known & (far > 0)].tolist():
            found |= {n - 1, n}  # the jumps at its two ends
    return [n for n in sorted(found) if a < n < b]


def _between(one: tuple[int, float], middle: tuple[int, float], other: tuple[int, float]) -> bool:
    """Whether a corner lies on the line between its neighbours."""
    part = (middle[0] - one[0]) / (other[0] - one[0])
    return abs(one[1] + (other[1] - one[1]) * part - middle[1]) <= SAME * abs(one[1] - other[1])
