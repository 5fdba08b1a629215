"""Set values: an exact value for picked points, or a step or factor for each."""

from __future__ import annotations

import re
from dataclasses import dataclass

from velmot.core.change import Caution, Change
from velmot.core.envelope import Envelope
from velmot.core.errors import RequestError
from velmot.core.limits import MOST_IDS
from velmot.core.operations import picking
from velmot.core.operations.frame import Draft, Operation, says
from velmot.core.operations.picking import Picked
from velmot.core.parameters import Parameter
from velmot.core.session import Lane, Session

ACCEPTED = "a value (−6 dB, =-6, muted), or +2, -3, *0.5 for each point"


@dataclass(frozen=True)
class SetValues:
    """Give picked points a value as it was typed.

    A sign in front and no unit (``+2``, ``-3``) changes each point by that many axis units, ``*0.5``
    multiplies each value; anything else, or with ``=`` in front, is the value itself.
    """

    picked: tuple[Picked, ...] = says("The points.", most=MOST_IDS)
    text: str = says("What was typed: -3 dB, =-3, +2, *0.5, muted.")


def plan(session: Session, request: SetValues) -> Change:
    """The change that gives the points their values."""
    lanes = picking.lanes_of(session, request.picked)
    draft = Draft(session)
    cautions: list[Caution] = []
    for lane, points in lanes:
        parameter = session.parameter(lane.parameter)
        places, limited = picking.limited_values(parameter, _wanted(parameter, lane, points, request.text))
        values = lane.envelope.values.copy()
        values[points] = places
        after = Envelope(lane.envelope.ticks, values, lane.envelope.bends, lane.envelope.axis)
        picking.write(draft, lane, after, *picking.reach(after, points), limited)
        cautions += picking.limited_caution(parameter, limited)
    return picking.finished(draft, picking.title(session, "Set", lanes), cautions)


def _wanted(parameter: Parameter, lane: Lane, points: list[int], text: str) -> list[float]:
    """The axis coordinates asked for."""
    said = text.strip().replace("−", "-").replace(",", ".")
    coordinates, values = lane.envelope.coordinates[points], lane.envelope.values[points]
    if match := re.fullmatch(r"([+-])\s*(\d+\.?\d*|\.\d+)", said):
        step = float(match[1] + match[2])
        silent = parameter.axis.silent(values)
        return [float(y) if still else float(y) + step for y, still in zip(coordinates, silent, strict=True)]
    if match := re.fullmatch(r"[*×x]\s*(\d+\.?\d*|\.\d+)", said):
        return [_times(parameter, float(v), float(match[1])) for v in values]
    try:
        value = parameter.parse(said.removeprefix("="))
    except RequestError as error:
        if error.code == "value-unread":
            raise RequestError(error.code, error.message, place="text", accepted=ACCEPTED) from None
        raise
    return [float(parameter.axis.coordinate(value))] * len(points)


def _times(parameter: Parameter, value: float, factor: float) -> float:
    if parameter.axis.silent(value):
        return value
    product = value * factor
    return float(parameter.axis.coordinate(max(product, parameter.low) if parameter.axis.logarithmic else product))


OPERATION = Operation("set values", SetValues, plan)
