"""A tremolo: the level goes up and down as a sine, as deep and as often as it says, from the session's first tick on."""

from __future__ import annotations

import numpy as np

from velmot.core.parameters.parameter import Parameter
from velmot.sound.nodes import GAIN, Node
from velmot.sound.ramps import LINE, STEP, Ramps
from velmot.sound.stand_ins.values import HERTZ, Values, first

WORDS = ("tremolo", "flutter")
RATE, DEPTH = 5.0, 0.5
SLOWEST, FASTEST = 0.01, 30.0
PIECES = 40
"""Lines a turn is made of: none is more than 0.02 dB off."""


def nodes(values: Values, parameters: tuple[Parameter, ...]) -> tuple[list[Node], set[str]]:
    speed, depth = first(parameters, HERTZ), first(parameters, ("%",), ("depth", "amount"))
    begins, ends = (float(values.tempo.seconds(tick)) for tick in (values.start, values.end))
    hertz = values.hertz(speed, SLOWEST, FASTEST).at if speed else Ramps.still(RATE).at
    deep = values.part(depth).at if depth else Ramps.still(DEPTH).at
    fine = np.arange(begins, ends + 0.002, 0.001)
    turns = begins * float(hertz(fine[:1])[0]) + np.concatenate([[0.0], np.cumsum(hertz(fine))[:-1] * 0.001])
    marks = np.arange(np.ceil(turns[0] * PIECES), np.floor(turns[-1] * PIECES) + 1) / PIECES
    times = np.concatenate([[begins], np.interp(marks, turns, fine)])
    gain = 1 - deep(times) * (0.5 - 0.5 * np.cos(2 * np.pi * np.concatenate([turns[:1], marks])))
    ways = np.append(STEP, np.full(len(marks), LINE))
    return [Node(GAIN, {"gain": Ramps(times, gain, ways)})], {p.id for p in (speed, depth) if p}
