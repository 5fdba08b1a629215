"""Same values: picked points, or a range of lanes, to one value, to their mean, or rounded to a step."""

from __future__ import annotations

import numpy as np

from velmot.core.curves import editing
from velmot.core.curves.editing import Fragment
from velmot.core.curves.envelope import Envelope
from velmot.core.errors import RequestError
from velmot.core.limits import SMALLEST_STEP
from velmot.core.parameters.mean import time_weighted_mean
from velmot.core.parameters.parameter import Parameter
from velmot.core.session.session import Session
from velmot.core.session.track import Lane
from velmot.core.time.ticks import Floats
from velmot.core.verbs.frame import cautions as say
from velmot.core.verbs.frame import telling as tell
from velmot.core.verbs.frame.change import Change, caution
from velmot.core.verbs.frame.checks import need_range
from velmot.core.verbs.frame.chosen_points import between_neighbours, points_of, possible_values
from velmot.core.verbs.frame.operation import Operation, part_of, stop_of
from velmot.core.verbs.frame.working_copy import WorkingCopy
from velmot.core.verbs.shape.request import SameValues
from velmot.core.words import Figure


def plan(session: Session, request: SameValues) -> Change:
    """The change that makes them the same; what is silent stays silent when it is rounded."""
    need_range(request.start, request.end)
    if request.to == "step" and not SMALLEST_STEP <= request.step < np.inf:
        raise RequestError("step", step=request.step, place="step", accepted="a number above 0")
    work = WorkingCopy(session)
    if request.picked:
        for lane, points in points_of(session, request.picked):
            _points(work, lane, points, request)
        return work.change()
    if not request.lanes:
        raise RequestError("lanes-none", place="lanes", accepted="at least one lane, or points")
    for id in dict.fromkeys(request.lanes):
        _range(work, session.lane(id), request)
    return work.change()


def _points(work: WorkingCopy, lane: Lane, points: list[int], request: SameValues) -> None:
    parameter = work.session.parameter(lane.parameter)
    ticks, values, bends = lane.envelope.copies()
    own = values[points]
    if request.to == "step":
        wanted = _rounded(parameter, own, request.step)
    elif request.to == "value":
        wanted = np.full(len(points), parameter.parse(request.text))
    else:
        heard = lane.envelope.coordinates[points][~parameter.axis.silent(own)]  # silence is no number
        mean = float(parameter.axis.value_of(float(np.mean(heard)))) if len(heard) else float(own[0])
        wanted = np.full(len(points), parameter.nearest(mean))
    values[points], limited = possible_values(parameter, parameter.axis.coordinate(wanted).tolist())
    after = lane.envelope.with_points(ticks, values, bends)
    work.rewrite(lane, after, *between_neighbours(after, points), limited)


def _range(work: WorkingCopy, lane: Lane, request: SameValues) -> None:
    session, parameter = work.session, work.session.parameter(lane.parameter)
    part, whole = part_of(session, lane, request.start, request.end), request.start is None
    if part is None:
        work.cautions.append(say.outside_range(session, lane))
        return
    first, last = part
    if request.to == "step" and parameter.holds_only:
        work.cautions.append(say.holds_only(session, lane, "has named values, which are no steps to round to"))
        return
    if whole and request.to == "step":
        values = _rounded(parameter, lane.envelope.values, request.step)
        work.rewrite(lane, lane.envelope.with_points(lane.envelope.ticks, values, lane.envelope.bends), first, last)
        return
    made = _made(work, lane, parameter, request, first, last)
    curve = (
        made
        if whole
        else editing.splice(lane.envelope, Fragment(made, last - first), first, stop=stop_of(session, lane))
    )
    work.rewrite(lane, curve, first, last)


def _made(work: WorkingCopy, lane: Lane, parameter: Parameter, request: SameValues, first: int, last: int) -> Envelope:
    """What the lane does in its range."""
    if request.to == "step":
        piece = editing.cut(lane.envelope, first, last).envelope
        return piece.with_points(piece.ticks, _rounded(parameter, piece.values, request.step), piece.bends)
    if request.to == "value":
        return Envelope.constant(parameter.parse(request.text), parameter.axis)
    mean = time_weighted_mean(lane.envelope, parameter, first, last)
    said = Figure(mean, parameter.format(mean))
    work.cautions.append(caution("mean", name=work.session.lane_name(lane), mean=said, lane=lane.id))
    return Envelope.constant(mean, parameter.axis)


def _rounded(parameter: Parameter, values: Floats, step: float) -> Floats:
    """Each value as the nearest multiple of the step that the parameter can have."""
    if parameter.labels:
        return np.array([parameter.nearest(v) for v in values.tolist()])
    least, most = np.ceil(parameter.low / step - 1e-9) * step, np.floor(parameter.high / step + 1e-9) * step
    if least > most or (parameter.axis.logarithmic and most <= 0):
        accepted = f"a step that fits into {parameter.format(parameter.low)} to {parameter.format(parameter.high)}"
        raise RequestError("step/no-multiple", name=parameter.name, step=step, place="step", accepted=accepted)
    if parameter.axis.logarithmic and least <= 0:
        least = step
    rounded = np.clip(np.round(values / step) * step, least, most)
    return np.asarray(np.where(parameter.axis.silent(values), values, np.clip(rounded, parameter.low, parameter.high)))


def sentence(session: Session, request: SameValues) -> tell.Told:
    """“Bell buoy Level from 9.1.00 to 13.1.00 to its mean.”"""
    if request.picked:
        what = tell.points(session, [(p.lane, len(p.points)) for p in request.picked])
        span = ""
    else:
        what = tell.lanes(session, request.lanes)
        span = ", {start}" if request.start is None else " from {start} to {end}"
    ways: dict[str, str | tell.Asked] = {
        "mean": "to the mean",
        "value": f"to {request.text.strip()}" if request.text.strip() else tell.Asked("type a value"),
        "step": f"rounded to {request.step:g}",
    }
    return tell.told(
        "Same values: {picked}" + span + " {to}." if request.picked else "Same values: {lanes}" + span + " {to}.",
        picked=what,
        lanes=what,
        start="whole," if request.start is None else tell.position(session, request.start),
        end=tell.position(session, request.end, "its end"),
        to=ways[request.to],
    )


OPERATION = Operation("same values", SameValues, plan, sentence, "by hand")
