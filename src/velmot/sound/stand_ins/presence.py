"""Presence: a wide bell curve about 3 kHz, or where its frequency says."""

from __future__ import annotations

from velmot.core.parameters.parameter import Parameter
from velmot.sound.nodes import FILTER, Node
from velmot.sound.ramps import Ramps
from velmot.sound.stand_ins.values import DECIBELS, HERTZ, Values, first

WORDS = ("presence", "clarity")
AT, WIDE = 3000.0, 0.8


def nodes(values: Values, parameters: tuple[Parameter, ...]) -> tuple[list[Node], set[str]]:
    gain, middle = first(parameters, DECIBELS), first(parameters, HERTZ)
    ramps = {
        "frequency": values.hertz(middle) if middle else Ramps.still(AT),
        "gain": values.decibels(gain) if gain else Ramps.still(0.0),
    }
    return [Node(FILTER, ramps, "peaking", {"q": WIDE})], {p.id for p in (gain, middle) if p}
