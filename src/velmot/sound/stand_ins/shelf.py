"""A shelf: everything above its corner louder or quieter, or everything below it."""

from __future__ import annotations

from velmot.core.parameters.parameter import Parameter
from velmot.sound.nodes import FILTER, Node
from velmot.sound.ramps import Ramps
from velmot.sound.stand_ins.values import DECIBELS, HERTZ, Values, first

WORDS = ("shelf", "treble", "bass boost", "tilt")
HIGH_AT, LOW_AT = 5000.0, 200.0


def nodes(values: Values, parameters: tuple[Parameter, ...]) -> tuple[list[Node], set[str]]:
    gain, corner = first(parameters, DECIBELS), first(parameters, HERTZ)
    low = any("low" in p.name.lower() or "bass" in p.name.lower() for p in parameters)
    ramps = {
        "frequency": values.hertz(corner) if corner else Ramps.still(LOW_AT if low else HIGH_AT),
        "gain": values.decibels(gain) if gain else Ramps.still(0.0),
    }
    return [Node(FILTER, ramps, "lowshelf" if low else "highshelf")], {p.id for p in (gain, corner) if p}
