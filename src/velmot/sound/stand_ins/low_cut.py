"""A low cut of 12 dB an octave, without a peak (Butterworth: 3 dB less at its corner)."""

from __future__ import annotations

from velmot.core.parameters.parameter import Parameter
from velmot.sound.nodes import FILTER, Node
from velmot.sound.ramps import Ramps
from velmot.sound.stand_ins.values import HERTZ, Values, first

WORDS = ("low cut", "lowcut", "high pass", "highpass", "high-pass", "hpf")
FLAT = -3.0102999566398
"""The Q, in dB, that a filter of second order has when it is as flat as can be: 1/√2."""


def nodes(values: Values, parameters: tuple[Parameter, ...]) -> tuple[list[Node], set[str]]:
    corner = first(parameters, HERTZ)
    hertz = values.hertz(corner) if corner else Ramps.still(80.0)
    return [Node(FILTER, {"frequency": hertz}, "highpass", {"q": FLAT})], {corner.id} if corner else set()
