"""A high cut of 12 dB an octave, without a peak."""

from __future__ import annotations

from velmot.core.parameters.parameter import Parameter
from velmot.sound.nodes import FILTER, Node
from velmot.sound.ramps import Ramps
from velmot.sound.stand_ins.low_cut import FLAT
from velmot.sound.stand_ins.values import HERTZ, Values, first

WORDS = ("high cut", "highcut", "low pass", "lowpass", "low-pass", "lpf", "cutoff", "rumble")


def nodes(values: Values, parameters: tuple[Parameter, ...]) -> tuple[list[Node], set[str]]:
    corner = first(parameters, HERTZ)
    hertz = values.hertz(corner) if corner else Ramps.still(8000.0)
    return [Node(FILTER, {"frequency": hertz}, "lowpass", {"q": FLAT})], {corner.id} if corner else set()
