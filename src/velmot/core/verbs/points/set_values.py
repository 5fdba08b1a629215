"""Set values: an exact value for picked points, or a step or factor for each."""

from __future__ import annotations

import re

from velmot.core.errors import RequestError
from velmot.core.parameters.parameter import Parameter
from velmot.core.session.session import Session
from velmot.core.session.track import Lane
from velmot.core.verbs.frame import cautions as say
from velmot.core.verbs.frame import telling as tell
from velmot.core.verbs.frame.change import Change
from velmot.core.verbs.frame.chosen_points import between_neighbours, points_of, possible_values
from velmot.core.verbs.frame.operation import Operation
from velmot.core.verbs.frame.working_copy import WorkingCopy
from velmot.core.verbs.points.request import SetValues

ACCEPTED = "a value (−6 dB, =-6, muted), or +2, -3, *0.5 for each point"


def plan(session: Session, request: SetValues) -> Change:
    """The change that gives the points their values."""
    chosen = points_of(session, request.picked)
    work = WorkingCopy(session)
    for lane, points in chosen:
        parameter = session.parameter(lane.parameter)
        ticks, values, bends = lane.envelope.copies()
        values[points], limited = possible_values(parameter, _wanted(parameter, lane, points, request.text))
        after = lane.envelope.with_points(ticks, values, bends)
        work.rewrite(lane, after, *between_neighbours(after, points), limited)
        work.cautions += say.limited_values(parameter, limited)
    return work.change()


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
            raise error.said_at("text", ACCEPTED) from None
        raise
    return [float(parameter.axis.coordinate(value))] * len(points)


def _times(parameter: Parameter, value: float, factor: float) -> float:
    if parameter.axis.silent(value):
        return value
    product = value * factor
    return float(parameter.axis.coordinate(max(product, parameter.low) if parameter.axis.logarithmic else product))


def sentence(session: Session, request: SetValues) -> tell.Told:
    """“Set 3 points of Bell buoy Level to -3 dB.” or, where it is a change of each, “Lower 3 points of it by 3 dB.”"""
    picked = tell.points(session, [(p.lane, len(p.points)) for p in request.picked])
    said = request.text.strip().replace("−", "-")
    if not said:
        return tell.told("Set {picked} to {text}.", picked=picked, text=tell.Asked("type a value"))
    if match := re.fullmatch(r"([+-])\s*([\d.,]+)", said):
        units = {session.parameter(session.lane(p.lane).parameter).distance_unit for p in request.picked}
        unit = next(iter(units)) if len(units) == 1 else ""
        verb = "Lower" if match[1] == "-" else "Raise"
        return tell.told(verb + " {picked} by {text}.", picked=picked, text=f"{match[2]} {unit}".strip())
    if match := re.fullmatch(r"[*×x]\s*([\d.,]+)", said):
        return tell.told("Multiply {picked} by {text}.", picked=picked, text=match[1])
    return tell.told("Set {picked} to {text}.", picked=picked, text=said.removeprefix("="))


OPERATION = Operation("set values", SetValues, plan, sentence, "points")
