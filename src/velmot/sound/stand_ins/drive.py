"""A drive: louder into a soft ceiling, up to 24 dB, and most of that taken off again behind it."""

from __future__ import annotations

from velmot.core.parameters.parameter import Parameter
from velmot.sound.nodes import DRIVE, Node
from velmot.sound.ramps import Ramps
from velmot.sound.stand_ins.values import Values, first

WORDS = ("drive", "distort", "saturat", "overdrive", "grit", "warmth")
MOST = 24.0
TAKEN = -0.7
"""The share of the drive that is taken off behind the ceiling, so that it is heard as colour rather than as level."""


def nodes(values: Values, parameters: tuple[Parameter, ...]) -> tuple[list[Node], set[str]]:
    amount = first(parameters, ("%", "db"), ("drive", "amount"))
    pre = values.factor(amount, MOST) if amount else Ramps.still(2.0)
    ramps = {"pre": pre, "post": pre.mapped(lambda v: v**TAKEN)}
    return [Node(DRIVE, ramps)], {amount.id} if amount else set()
