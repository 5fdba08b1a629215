"""Shapes: recipes for curves from 0 to 1, of some cycles over a length, and what they draw.

A cycle of each kind runs through `u` from 0 to 1: a sine and a triangle of one swing, a saw of one ramp, a square high and
then low, a ramp of its own bend. Waves that are no bends are laid in bends within a thousandth of their depth.
"""

from __future__ import annotations

import random
from dataclasses import dataclass
from functools import cache
from itertools import pairwise
from math import ceil, cos, isfinite, log, pi, sin
from typing import Literal

import numpy as np

from velmot.core.editing import Fragment, cut
from velmot.core.envelope import Envelope
from velmot.core.errors import RequestError
from velmot.core.limits import LARGEST_VALUE, MOST_CYCLES, SHORTEST_CYCLE
from velmot.core.segments import HOLD, bend
from velmot.core.sums import sum_axis
from velmot.core.time import Tick
from velmot.core.warps import stretched, turned

Kind = Literal[
    "sine",
    "triangle",
    "saw up",
    "saw down",
    "square",
    "steps of chance",
    "glides of chance",
    "straight",
    "exponential",
    "logarithmic",
    "s",
]
CHANCE = ("steps of chance", "glides of chance")

CLOSE = 0.001
"""How near a wave's bends stay to it, in parts of its depth."""

_FINE = 2**40
_STEEP = 5.0
"""The bend of an exponential and a logarithmic ramp."""


@dataclass(frozen=True)
class Shape:
    """A recipe. `cycle` is the length of one in ticks, and goes before the count `cycles`; both may end inside of one.

    `phase` (0 to 1) is where in its cycle it starts, `skew` where in a cycle its middle lies, `grow_from` and
    `grow_to` how deep the first and the last cycle are about the middle, in percent, `hurry` the last cycle's length over the first's, `lean` how far
    the middle climbs from start to end, in parts of the depth, `seed` what chance begins from.
    """

    kind: Kind = "sine"
    cycles: float = 1.0
    cycle: Tick | None = None
    phase: float = 0.0
    skew: float = 0.5
    grow_from: float = 100.0
    grow_to: float = 100.0
    hurry: float = 1.0
    lean: float = 0.0
    seed: int = 0


def drawn(shape: Shape, length: int) -> Fragment:
    """What a shape draws over `length` ticks, on a linear axis from 0 to 1; RequestError where it cannot be."""
    lengths = cycle_lengths(shape, length)
    bounds = np.rint(np.concatenate(([0.0], np.cumsum(lengths)))).astype(np.int64)
    bounds[-1] = length
    whole = len(lengths) if len(lengths) == _count(shape, length) else len(lengths) - 1
    part = 1.0 if whole == len(lengths) else _count(shape, length) - whole
    chance = random.Random(shape.seed)
    values = [chance.random() for _ in range(len(lengths) + 1)]
    rows: list[tuple[int, float, float]] = []
    for n in range(len(lengths)):
        cycle = _cycle(shape) if shape.kind not in CHANCE else _chance(shape.kind, values[n], values[n + 1])
        if n == whole:
            cycle = cut(cycle.envelope, 0, round(_FINE * part))
        depth = _depth(shape, n, len(lengths))
        piece = stretched(cycle, int(bounds[n + 1] - bounds[n])).envelope
        deep = 0.5 + depth * (piece.values - 0.5)
        rows += zip((piece.ticks + bounds[n]).tolist(), deep.tolist(), piece.bends.tolist(), strict=True)
    curve = _of_rows(rows)
    if shape.lean:
        curve = sum_axis(curve, Envelope.of([(0, -shape.lean / 2), (length, shape.lean / 2)]), CLOSE / 2)
    return Fragment(curve, length)


def check(shape: Shape, length: int) -> None:
    """Raise RequestError for a recipe that cannot be drawn over a length."""
    problems = (
        (shape.cycle is not None and shape.cycle < 1, "cycle", "a cycle has no length", "a length such as 1 beat"),
        (not isfinite(shape.cycles) or shape.cycles <= 0, "cycles", "there is no cycle", "a number above 0"),
        (not 0 <= shape.phase <= 1, "phase", "the phase lies outside a cycle", "0 to 1"),
        (not 0 < shape.skew < 1, "skew", "the middle lies outside a cycle", "above 0 and below 1"),
        (
            not all(0 <= g <= 1000 for g in (shape.grow_from, shape.grow_to)),
            "grow_to",
            "it cannot grow so",
            "0 to 1,000 percent",
        ),
        (not 0.001 <= shape.hurry <= 1000, "hurry", "it cannot hurry so", "0.001 to 1,000"),
        (not abs(shape.lean) <= LARGEST_VALUE, "lean", "it cannot lean so far", "a finite number"),
    )
    for wrong, place, said, accepted in problems:
        if wrong:
            raise RequestError(place, said, place=place, accepted=accepted)
    count = _count(shape, length)
    if count > MOST_CYCLES:
        said = f"this would be {count:,.0f} cycles"
        raise RequestError("cycles-many", said, place="cycles", accepted=f"at most {MOST_CYCLES:,}")


def cycle_lengths(shape: Shape, length: int) -> list[float]:
    """How long each cycle is, in ticks: the last over the first is `hurry`, geometric between; a part of one ends it."""
    check(shape, length)
    count = _count(shape, length)
    number = ceil(count)
    ratio = shape.hurry ** (1 / (number - 1)) if number > 1 else 1.0
    each = [ratio**n for n in range(number)]
    each[-1] *= 1 - (number - count)
    lengths = [x * length / sum(each) for x in each]
    whole = lengths if number == count else lengths[:-1]
    if min(whole, default=length) < SHORTEST_CYCLE or min(lengths) < 1:
        said = "a cycle would be shorter than a curve can be drawn in"
        raise RequestError("cycle-short", said, place="cycles", accepted="fewer cycles, or a longer span")
    return lengths


def _count(shape: Shape, length: int) -> float:
    count = shape.cycles if shape.cycle is None else length / shape.cycle
    return float(round(count)) if abs(count - round(count)) < 1e-9 else count


def _depth(shape: Shape, n: int, number: int) -> float:
    first, last = shape.grow_from, shape.grow_to
    return (first + (last - first) * n / (number - 1) if number > 1 else first) / 100


def _cycle(shape: Shape) -> Fragment:
    """One cycle over _FINE ticks: the wave, its middle moved to the skew, started at the phase."""
    middle = round(_FINE * shape.skew)
    rows = []
    for u, value, k in _wave(shape.kind):
        at = 2 * u * middle if u <= 0.5 else middle + (2 * u - 1) * (_FINE - middle)
        rows.append((round(at), value, k))
    whole = Fragment(_of_rows(rows), _FINE)
    return turned(whole, -round(_FINE * shape.phase))


def _of_rows(rows: list[tuple[int, float, float]]) -> Envelope:
    """Rows as a curve, without the first of two at one tick that say the same, or of which a hold has said the first."""
    kept: list[tuple[int, float, float]] = []
    for row in rows:
        if kept and kept[-1][0] == row[0]:
            before = kept[-2] if len(kept) > 1 else row
            if kept[-1][1] == row[1] or (before[0] < row[0] and before[2] == HOLD):
                kept.pop()
        kept.append(row)
    return Envelope.of(kept)


@cache
def _wave(kind: Kind) -> tuple[tuple[float, float, float], ...]:
    """(u, value, bend) of one cycle, with a point in its middle."""
    if kind == "sine":
        rise, fall = _quarter(up=True), _quarter(up=False)
        quarters = ((0.0, rise, 0.5, 0.5), (0.25, fall, 1.0, -0.5), (0.5, rise, 0.5, -0.5), (0.75, fall, 0.0, 0.5))
        return (*_quarters(quarters, 0.25), (1.0, 0.5, 0.0))
    if kind == "s":
        halves = ((0.0, _quarter(up=False), 0.0, 0.5), (0.5, _quarter(up=True), 0.5, 0.5))
        return (*_quarters(halves, 0.5), (1.0, 1.0, 0.0))
    middle = float(bend(np.array(0.5), np.array(_STEEP)))
    simple: dict[str, tuple[tuple[float, float, float], ...]] = {
        "triangle": ((0.0, 0.0, 0.0), (0.5, 1.0, 0.0), (1.0, 0.0, 0.0)),
        "saw up": ((0.0, 0.0, 0.0), (0.5, 0.5, 0.0), (1.0, 1.0, 0.0)),
        "saw down": ((0.0, 1.0, 0.0), (0.5, 0.5, 0.0), (1.0, 0.0, 0.0)),
        "square": ((0.0, 1.0, HOLD), (0.5, 0.0, HOLD), (1.0, 0.0, 0.0)),
        "straight": ((0.0, 0.0, 0.0), (0.5, 0.5, 0.0), (1.0, 1.0, 0.0)),
        "exponential": ((0.0, 0.0, _STEEP / 2), (0.5, middle, _STEEP / 2), (1.0, 1.0, 0.0)),
        "logarithmic": ((0.0, 0.0, -_STEEP / 2), (0.5, 1 - middle, -_STEEP / 2), (1.0, 1.0, 0.0)),
    }
    return simple[kind]


def _quarters(
    quarters: tuple[tuple[float, tuple[tuple[float, float, float], ...], float, float], ...], width: float
) -> list[tuple[float, float, float]]:
    """Quarter waves, each from its u, starting at a value and reaching so far (its falling half from the top)."""
    return [(u + x * width, start + reach * y, k) for u, parts, start, reach in quarters for x, y, k in parts]


@cache
def _quarter(up: bool) -> tuple[tuple[float, float, float], ...]:
    """(x, part of the way, bend) of a quarter of a sine in as few bends as stay within CLOSE of the whole depth.

    Up it starts steep and ends level (sin); else it starts level and ends steep (1 − cos). Each bend meets the wave at
    its ends and in its middle: bend(½, k) = m gives k = 2·ln(1/m − 1).
    """

    def wave(x: float) -> float:
        return sin(x * pi / 2) if up else 1 - cos(x * pi / 2)

    for number in range(1, 9):
        edges = [n / number for n in range(number + 1)]
        rows, furthest = [], 0.0
        for a, b in pairwise(edges):
            low, high = wave(a), wave(b)
            k = 2 * log(1 / ((wave((a + b) / 2) - low) / (high - low)) - 1)
            rows.append((a, low, k))
            xs = np.linspace(0, 1, 65)
            made = low + (high - low) * bend(xs, np.full(65, k))
            furthest = max(furthest, float(np.abs(made - [wave(a + (b - a) * x) for x in xs.tolist()]).max()))
        if furthest / 2 <= CLOSE:  # a quarter is half of the depth
            break
    return tuple(rows)


def _chance(kind: Kind, value: float, following: float) -> Fragment:
    """A cycle of chance: one value held, or a straight way to the next."""
    last, k = (value, HOLD) if kind == "steps of chance" else (following, 0.0)
    return Fragment(Envelope.of([(0, value, k), (_FINE, last)]), _FINE)
