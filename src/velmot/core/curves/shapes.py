"""Shapes: recipes for curves from 0 to 1, of some cycles over a length, and what they draw.

A cycle of each kind runs through `u` from 0 to 1: a sine and a triangle of one swing, a saw of one ramp, a square high and
then low, a ramp of its own bend. Waves that are no bends are laid in bends within a thousandth of their depth. What grows
does so along the way: every corner is as deep as its place says, so that one cycle goes over into the next; only steps
grow in steps.
"""

from __future__ import annotations

import random
from dataclasses import dataclass
from functools import cache
from itertools import pairwise
from math import ceil, cos, isfinite, log, pi, sin
from typing import Literal

import numpy as np

from velmot.core.curves.editing import Fragment, cut
from velmot.core.curves.envelope import Envelope
from velmot.core.curves.segments import HOLD, MAX_BEND, bend
from velmot.core.curves.sums import sum_axis
from velmot.core.curves.warps import stretched, turned
from velmot.core.errors import RequestError
from velmot.core.limits import LARGEST_VALUE, MOST_CYCLES, SHORTEST_CYCLE
from velmot.core.time.ticks import Floats, Tick

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

EDITION = 2
"""How shapes are drawn today."""

_FINE = 2**40
_FINER = 8
"""Into how many bends a quarter wave is laid at least that is to become another curve."""

_STEEP = 5.0
"""The bend of an exponential and a logarithmic ramp."""


@dataclass(frozen=True)
class Shape:
    """A recipe. `cycle` is the length of one in ticks, and goes before the count `cycles`; both may end inside of one.

    `phase` (0 to 1) is where in its cycle it starts, `skew` where in a cycle its middle lies (of chance neither says
    anything), `grow_from` and `grow_to` how deep it is about the middle at its start and at its end, in percent, `hurry`
    the last cycle's length over the first's, `lean` how far the middle climbs from start to end, in parts of the depth,
    `seed` what chance begins from. `edition` is the way it is drawn: 1 grew in steps, did not close glides of chance into
    a loop, and leant less finely; what was kept so is drawn so.
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
    edition: int = EDITION


def drawn(shape: Shape, length: int) -> Fragment:
    """What a shape draws over `length` ticks, on a linear axis from 0 to 1; RequestError where it cannot be."""
    lengths = cycle_lengths(shape, length)
    bounds = np.rint(np.concatenate(([0.0], np.cumsum(lengths)))).astype(np.int64)
    bounds[-1] = length
    whole = len(lengths) if len(lengths) == _count(shape, length) else len(lengths) - 1
    part = 1.0 if whole == len(lengths) else _count(shape, length) - whole
    depths = _depths(shape, len(lengths), _count(shape, length))
    finely = shape.edition > 1 and (shape.lean != 0 or depths.grows)
    values = _chances(shape, len(lengths))
    rows: list[tuple[int, float, float]] = []
    for n in range(len(lengths)):
        cycle = _cycle(shape, finely) if shape.kind not in CHANCE else _chance(shape.kind, values[n], values[n + 1])
        if n == whole and not (shape.edition > 1 and shape.kind == "glides of chance"):  # which closes into a loop
            cycle = cut(cycle.envelope, 0, round(_FINE * part))
        piece = stretched(depths.given(cycle, n), int(bounds[n + 1] - bounds[n])).envelope
        rows += zip((piece.ticks + bounds[n]).tolist(), piece.values.tolist(), piece.bends.tolist(), strict=True)
    curve = _of_rows(rows)
    if shape.lean:
        line = Envelope.of([(0, -shape.lean / 2), (length, shape.lean / 2)])
        curve = sum_axis(curve, line, CLOSE / 2 * (depths.least if finely else 1.0))
    return Fragment(curve, length)


@dataclass(frozen=True)
class _Depths:
    """How deep a shape is along its cycles, about its middle: `first` at `start`, `last` at `end`, in parts of the whole."""

    first: float
    last: float
    end: float
    in_steps: bool

    @property
    def grows(self) -> bool:
        """Whether the depth changes along a cycle."""
        return self.first != self.last and not self.in_steps

    @property
    def least(self) -> float:
        """How deep it is where it is least deep, for what must be near in parts of that."""
        return max(min(self.first, self.last), max(self.first, self.last) / 50, 1e-6)

    def at(self, cycle: Floats) -> Floats:
        """The depth at places counted in cycles."""
        if not self.end:
            return np.full(len(cycle), self.first)
        return self.first + (self.last - self.first) * np.minimum(cycle / self.end, 1.0)

    def given(self, cycle: Fragment, n: int) -> Fragment:
        """The n-th cycle, as deep as it is there: by all of it in steps, else corner by corner."""
        curve = cycle.envelope
        if not self.grows:
            depth = float(self.at(np.array([float(n)]))[0]) if self.in_steps else self.first
            return cycle.map(lambda c: Envelope(c.ticks, 0.5 + depth * (c.values - 0.5), c.bends))
        places = n + curve.ticks / _FINE
        values = 0.5 + self.at(places) * (curve.values - 0.5)
        bends = curve.bends.copy()
        bent = np.flatnonzero(np.isfinite(bends[:-1]) & (bends[:-1] != 0) & (values[1:] != values[:-1]))
        middles = (places[bent] + places[bent + 1]) / 2
        half = curve.values[bent] + (curve.values[bent + 1] - curve.values[bent]) * bend(np.array(0.5), bends[bent])
        part = (0.5 + self.at(middles) * (half - 0.5) - values[bent]) / (values[bent + 1] - values[bent])
        possible = (part > 0) & (part < 1)
        bends[bent] = np.where(possible, _through_middle(np.where(possible, part, 0.5)), 0.0)
        return cycle.map(lambda c: Envelope(c.ticks, values, bends))


def _depths(shape: Shape, number: int, end: float) -> _Depths:
    """The depths of a shape; in steps the first and the last cycle have what its start and its end have else."""
    in_steps = shape.edition == 1 or shape.kind in ("square", "steps of chance")
    last = shape.grow_to if number > 1 or not in_steps else shape.grow_from
    return _Depths(shape.grow_from / 100, last / 100, float(number - 1) if in_steps else end, in_steps)


def _through_middle(part: Floats) -> Floats:
    """The bend that has come so far in its middle: bend(½, k) = m gives k = 2·ln(1/m − 1)."""
    return np.asarray(np.clip(2 * np.log(1 / part - 1), -MAX_BEND, MAX_BEND))


def _chances(shape: Shape, number: int) -> list[float]:
    """What chance brings, a value for the start of each cycle and for the end of the last; glides end where they began."""
    named = shape.edition > 1 and shape.seed < 0  # chance itself takes no notice of the sign
    chance = random.Random(str(shape.seed) if named else shape.seed)
    values = [chance.random() for _ in range(number + 1)]
    return [*values[:-1], values[0]] if shape.edition > 1 and shape.kind == "glides of chance" else values


def check(shape: Shape, length: int) -> None:
    """Raise RequestError for a recipe that cannot be drawn over a length."""
    problems = (
        (shape.cycle is not None and shape.cycle < 1, "cycle", "a length such as 1 beat"),
        (not isfinite(shape.cycles) or shape.cycles <= 0, "cycles", "a number above 0"),
        (not 0 <= shape.phase <= 1, "phase", "0 to 1"),
        (not 0 < shape.skew < 1, "skew", "above 0 and below 1"),
        (not all(0 <= g <= 1000 for g in (shape.grow_from, shape.grow_to)), "grow_to", "0 to 1,000 percent"),
        (not 0.001 <= shape.hurry <= 1000, "hurry", "0.001 to 1,000"),
        (not abs(shape.lean) <= LARGEST_VALUE, "lean", "a finite number"),
        (not 1 <= shape.edition <= EDITION, "edition", f"1 to {EDITION}"),
    )
    for wrong, place, accepted in problems:
        if wrong:
            raise RequestError(place, place=place, accepted=accepted)
    count = _count(shape, length)
    if count > MOST_CYCLES:
        raise RequestError("cycles-many", count=count, place="cycles", accepted=f"at most {MOST_CYCLES:,}")


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
        raise RequestError("cycle-short", place="cycles", accepted="fewer cycles, or a longer span")
    return lengths


def _count(shape: Shape, length: int) -> float:
    count = shape.cycles if shape.cycle is None else length / shape.cycle
    return float(round(count)) if abs(count - round(count)) < 1e-9 else count


def _cycle(shape: Shape, finely: bool) -> Fragment:
    """One cycle over _FINE ticks: the wave, its middle moved to the skew, started at the phase."""
    middle = round(_FINE * shape.skew)
    rows = []
    for u, value, k in _wave(shape.kind, finely):
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
def _wave(kind: Kind, finely: bool = False) -> tuple[tuple[float, float, float], ...]:
    """(u, value, bend) of one cycle, with a point in its middle."""
    least = _FINER if finely else 1
    if kind == "sine":
        rise, fall = _quarter(True, least), _quarter(False, least)
        quarters = ((0.0, rise, 0.5, 0.5), (0.25, fall, 1.0, -0.5), (0.5, rise, 0.5, -0.5), (0.75, fall, 0.0, 0.5))
        return (*_quarters(quarters, 0.25), (1.0, 0.5, 0.0))
    if kind == "s":
        halves = ((0.0, _quarter(False, least), 0.0, 0.5), (0.5, _quarter(True, least), 0.5, 0.5))
        return (*_quarters(halves, 0.5), (1.0, 1.0, 0.0))
    middle = float(bend(np.array(0.5), np.array(_STEEP)))
    if finely and kind in ("exponential", "logarithmic"):
        k = _STEEP if kind == "exponential" else -_STEEP
        us = np.linspace(0.0, 1.0, 2 * _FINER + 1)
        values = bend(us, np.full(len(us), k)).tolist()
        return tuple((u, v, k / (2 * _FINER)) for u, v in zip(us.tolist(), values, strict=True))
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
def _quarter(up: bool, least: int) -> tuple[tuple[float, float, float], ...]:
    """(x, part of the way, bend) of a quarter of a sine in as few bends as stay within CLOSE of the whole depth, or more.

    Up it starts steep and ends level (sin); else it starts level and ends steep (1 − cos). Each bend meets the wave at
    its ends and in its middle: bend(½, k) = m gives k = 2·ln(1/m − 1).
    """

    def wave(x: float) -> float:
        return sin(x * pi / 2) if up else 1 - cos(x * pi / 2)

    for number in range(least, least + 8):
        edges = [n / number for n in range(number + 1)]
        rows, furthest = [], 0.0
        for a, b in pairwise(edges):
            low, high = wave(a), wave(b)
            k = 2 * log(1 / ((wave((a + b) / 2) - low) / (high - low)) - 1)  # as `_through_middle`
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
