"""Draw: a straight line or a freehand stroke over a range, thinned to a stated error."""

from __future__ import annotations

from velmot.core.curves import editing
from velmot.core.curves.editing import Fragment
from velmot.core.curves.envelope import Envelope
from velmot.core.curves.segments import HOLD
from velmot.core.curves.within_bound import thinned_within
from velmot.core.errors import RequestError
from velmot.core.parameters.parameter import Parameter
from velmot.core.session.session import Session
from velmot.core.verbs.draw.request import Draw
from velmot.core.verbs.frame import cautions as say
from velmot.core.verbs.frame import telling as tell
from velmot.core.verbs.frame.change import Change
from velmot.core.verbs.frame.chosen_points import possible_values
from velmot.core.verbs.frame.landing import Landed
from velmot.core.verbs.frame.operation import Operation, home_span
from velmot.core.verbs.frame.working_copy import WorkingCopy


def plan(session: Session, request: Draw) -> Change:
    """The change that puts the stroke in, sealed at both ends."""
    parameter = session.parameter(request.parameter)
    zero, end = home_span(session, parameter, request.home)
    if request.tolerance < 0:
        raise RequestError("tolerance", place="tolerance", accepted="0 or more")
    spots = {min(max(s.at, zero), end) - zero: s.value for s in request.stroke}
    if len(spots) < 2:
        raise RequestError("stroke-short", place="stroke", accepted="two positions apart")
    ticks = sorted(spots)
    raw = [float(parameter.axis.coordinate(max(spots[t], parameter.low))) for t in ticks]
    values, limited = possible_values(parameter, raw)
    fragment = _fragment(parameter, ticks, values, request.tolerance)
    work = WorkingCopy(session)
    work.lay(parameter, [Landed(ticks[0], fragment)], home=request.home, limited=limited)
    work.cautions += say.limited_values(parameter, limited)
    return work.change()


def _fragment(parameter: Parameter, ticks: list[int], values: list[float], tolerance: float) -> Fragment:
    length = ticks[-1] - ticks[0]
    if parameter.holds_only:
        rows = [(t - ticks[0], v, HOLD) for t, v in zip(ticks, values, strict=True)]
        steps = [row for i, row in enumerate(rows) if i == 0 or row[1] != rows[i - 1][1]]
        return Fragment(Envelope.of([*steps, (length, steps[-1][1], HOLD)], parameter.axis), length)
    whole = Envelope.of([(t - ticks[0], v) for t, v in zip(ticks, values, strict=True)], parameter.axis)
    thinned, _ = editing.limit(thinned_within(whole, tolerance, reach=parameter.reach), parameter.low, parameter.high)
    return Fragment(thinned, length)


def sentence(session: Session, request: Draw) -> tell.Told:
    """“Draw on Bell buoy Level, on the track, thinned to within 0.5.”"""
    return tell.told(
        "Draw on {parameter}, on {home}, thinned to within {tolerance}.",
        parameter=tell.parameters(session, [request.parameter]),
        home=tell.home(session, request.home),
        tolerance=session.parameter(request.parameter).format_distance(request.tolerance),
    )


OPERATION = Operation("draw", Draw, plan, sentence, "drawing")
