"""Add points: on a lane, or on a parameter that has none yet, which makes its lane."""

from __future__ import annotations

import numpy as np

from velmot.core.curves.envelope import Envelope
from velmot.core.curves.segments import HOLD
from velmot.core.errors import RequestError
from velmot.core.parameters.parameter import Parameter
from velmot.core.session.session import Session
from velmot.core.session.wording import span_text
from velmot.core.time.ticks import MOST_TICKS
from velmot.core.verbs.frame import cautions as say
from velmot.core.verbs.frame import telling as tell
from velmot.core.verbs.frame.change import Change
from velmot.core.verbs.frame.chosen_points import possible_values
from velmot.core.verbs.frame.operation import Operation, home_span
from velmot.core.verbs.frame.working_copy import WorkingCopy
from velmot.core.verbs.points.request import AddPoints
from velmot.core.words import counted


def plan(session: Session, request: AddPoints) -> Change:
    """The change that adds the points; segments they fall into keep their shape up to the new values."""
    parameter = session.parameter(request.parameter)
    if not request.spots:
        raise RequestError("points-none/given", place="spots", accepted="at least one point")
    zero, end = home_span(session, parameter, request.home)
    values, limited = possible_values(parameter, [_coordinate(parameter, s.value) for s in request.spots])
    lane = session.lane_at(request.parameter, request.home)
    ticks = [s.at for s in request.spots]
    if min(ticks) < zero or max(ticks) > end:
        raise RequestError("point-outside", place="spots", accepted=span_text(session, zero, end))
    points = dict(sorted({t - zero: v for t, v in zip(ticks, values, strict=True)}.items()))
    envelope = with_points(lane.envelope if lane else None, parameter, points)
    first, last = _span(envelope, min(points), max(points))
    work = WorkingCopy(session)
    work.write(parameter.id, request.home, envelope, (zero + first, min(zero + last, end)), limited)
    work.cautions += say.limited_values(parameter, limited)
    return work.change()


def _coordinate(parameter: Parameter, value: float) -> float:
    if not np.isfinite(value) or (parameter.axis.logarithmic and value <= 0):
        raise RequestError(
            "value-range/point",
            name=parameter.name,
            value=value,
            place="spots",
            accepted=f"{parameter.format(parameter.low)} to {parameter.format(parameter.high)}",
        )
    return float(parameter.axis.coordinate(value))


def with_points(envelope: Envelope | None, parameter: Parameter, points: dict[int, float]) -> Envelope:
    """The envelope with points (tick to value, in order); where one stands, or a jump's later one, it takes the value."""
    shape = HOLD if parameter.holds_only else 0.0
    new_ticks, new_values = np.array([*points], dtype=np.int64), np.array([*points.values()])
    if envelope is None:
        return Envelope(new_ticks, new_values, np.full(len(points), shape), parameter.axis)
    ticks, values, bends = envelope.split_at(new_ticks).copies()
    low, high = new_ticks < ticks[0], new_ticks > ticks[-1]
    inside = ~(low | high)
    values[np.searchsorted(ticks, new_ticks[inside], side="right") - 1] = new_values[inside]
    if high.any():
        bends[-1] = shape
    return Envelope(
        np.concatenate((new_ticks[low], ticks, new_ticks[high])),
        np.concatenate((new_values[low], values, new_values[high])),
        np.concatenate((np.full(low.sum(), shape), bends, np.full(high.sum(), shape))),
        envelope.axis,
    )


def _span(envelope: Envelope, first: int, last: int) -> tuple[int, int]:
    before = envelope.ticks[envelope.ticks < first]
    after = envelope.ticks[envelope.ticks > last]
    return (int(before[-1]) if len(before) else 0), (int(after[0]) + 1 if len(after) else MOST_TICKS)


def sentence(session: Session, request: AddPoints) -> tell.Told:
    """“Add 1 point to Bell buoy Level.”"""
    return tell.told(
        "Add {spots} to {parameter}, on {home}.",
        spots=counted(len(request.spots), "point"),
        parameter=tell.parameters(session, [request.parameter]),
        home=tell.home(session, request.home),
    )


OPERATION = Operation("add points", AddPoints, plan, sentence, "points")
