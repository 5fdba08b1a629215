"""A band: what lies about its middle passes, an octave and a half wide; with a gain it is a bell curve instead."""

from __future__ import annotations

from velmot.core.parameters.parameter import Parameter
from velmot.sound.nodes import FILTER, Node
from velmot.sound.ramps import Ramps
from velmot.sound.stand_ins.values import DECIBELS, HERTZ, Values, first

WORDS = ("band", "vowel", "filter", "wah", "peak", "bell curve", "equal", "eq ")
WIDE = 0.9


def nodes(values: Values, parameters: tuple[Parameter, ...]) -> tuple[list[Node], set[str]]:
    middle, gain = first(parameters, HERTZ), first(parameters, DECIBELS)
    used = {p.id for p in (middle, gain) if p}
    hertz = values.hertz(middle) if middle else Ramps.still(1000.0)
    if gain:
        return [Node(FILTER, {"frequency": hertz, "gain": values.decibels(gain)}, "peaking", {"q": WIDE})], used
    return [Node(FILTER, {"frequency": hertz}, "bandpass", {"q": WIDE})], used
