"""A delay: what came before, again and again, softer every time."""

from __future__ import annotations

from velmot.core.parameters.parameter import Parameter
from velmot.sound.nodes import DELAY, Node
from velmot.sound.ramps import Ramps
from velmot.sound.stand_ins.values import TIMES, Values, first

WORDS = ("delay", "echo", "repeats")
LONGEST = 4.0
TIME, FEEDBACK, WET = 0.375, 0.35, 0.35
MOST_FEEDBACK = 0.95


def nodes(values: Values, parameters: tuple[Parameter, ...]) -> tuple[list[Node], set[str]]:
    time = first(parameters, TIMES)
    again = first(parameters, words=("feedback", "again", "repeat"))
    wet = first(parameters, words=("mix", "wet", "amount", "blend"))
    ramps = {
        "time": values.seconds(time).mapped(lambda v: v.clip(0.01, LONGEST)) if time else Ramps.still(TIME),
        "feedback": values.part(again).mapped(lambda v: v * MOST_FEEDBACK) if again else Ramps.still(FEEDBACK),
        "wet": values.part(wet) if wet else Ramps.still(WET),
    }
    return [Node(DELAY, ramps)], {p.id for p in (time, again, wet) if p}
