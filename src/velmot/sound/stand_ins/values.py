"""Values of a device's parameters for its stand-in: found by unit and name, as ramps in what its nodes understand."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass

import numpy as np

from velmot.core.curves.envelope import Envelope
from velmot.core.parameters.parameter import Kind, Parameter
from velmot.core.time.tempo import TempoMap
from velmot.core.time.ticks import Floats
from velmot.sound.ramps import CURVE, LINE, Ramps, of_envelope

LOWEST, HIGHEST = 10.0, 20_000.0
"""Hz that a filter's corner keeps to."""

CENT = 1 / 1200
"""Octaves that a piece of a moving frequency may be off."""


@dataclass(frozen=True)
class Values:
    """What parameters do over a span: `of` gives what is heard of one; ticks `start` to `end`."""

    of: Callable[[str], Envelope]
    tempo: TempoMap
    start: int
    end: int

    def ramps(self, p: Parameter, to: Callable[[Floats], Floats], tolerance: float, way: int = LINE) -> Ramps:
        straight = p.axis.logarithmic == (way == CURVE)
        span = (self.start, self.end)
        glides = p.kind is Kind.CONTINUOUS
        return of_envelope(self.of(p.id), self.tempo, *span, to, way, straight, tolerance, jumps=glides)

    def hertz(self, p: Parameter, lowest: float = LOWEST, highest: float = HIGHEST) -> Ramps:
        """A frequency: equal ratios between points."""
        octaves = self.ramps(p, lambda v: np.log2(np.clip(v, lowest, highest)), CENT, CURVE)
        return octaves.mapped(np.exp2)

    def decibels(self, p: Parameter) -> Ramps:
        """Decibels as they are, straight between points."""
        return self.ramps(p, lambda v: np.asarray(v, dtype=np.float64), 0.01)

    def factor(self, p: Parameter, most: float) -> Ramps:
        """0 to 1 over the parameter's range, then as far as `most` decibels: a factor."""
        decibels = self.ramps(p, lambda v: p.position(v) * most, 0.01, CURVE)
        return decibels.mapped(lambda v: 10 ** (v / 20))

    def part(self, p: Parameter) -> Ramps:
        """Where in its range it is, 0 to 1."""
        return self.ramps(p, lambda v: np.clip(p.position(v), 0, 1), 0.001)

    def seconds(self, p: Parameter) -> Ramps:
        """A time, by its unit."""
        each = 0.001 if p.unit.lower() == "ms" else 1.0
        return self.ramps(p, lambda v: np.asarray(v) * each, 0.0005)

    def switched(self, p: Parameter) -> Ramps:
        """A switch: 1 where it says on, that is its upper value."""
        upper = max(label.value for label in p.labels) if p.labels else p.high
        return self.ramps(p, lambda v: (np.asarray(v) >= upper).astype(np.float64), 1.0)


def first(
    parameters: tuple[Parameter, ...], units: tuple[str, ...] = (), words: tuple[str, ...] = ()
) -> Parameter | None:
    """The first parameter of a unit, or with a word in its name."""
    return next((p for p in parameters if p.unit.lower() in units or any(w in p.name.lower() for w in words)), None)


HERTZ, DECIBELS, TIMES = ("hz",), ("db",), ("s", "ms")
