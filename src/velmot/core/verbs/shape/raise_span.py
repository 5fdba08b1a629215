"""Raise a span: lift or lower what lies in a range, led in and out by ramps outside it. Reshape came after it; logs have it."""

from __future__ import annotations

from velmot.core.curves import editing
from velmot.core.curves.envelope import Envelope
from velmot.core.curves.sums import sum_axis
from velmot.core.errors import RequestError
from velmot.core.limits import STEEPEST
from velmot.core.session.session import Session
from velmot.core.session.track import Lane
from velmot.core.verbs.frame import cautions as say
from velmot.core.verbs.frame import telling as tell
from velmot.core.verbs.frame.change import Change
from velmot.core.verbs.frame.checks import need, need_range
from velmot.core.verbs.frame.operation import Operation, part_of
from velmot.core.verbs.frame.working_copy import WorkingCopy
from velmot.core.verbs.shape.request import RaiseSpan


def plan(session: Session, request: RaiseSpan) -> Change:
    """The change that raises the span, as it always has: silence stays silence, and a ramp that the lane's own edge cuts off
    is all of it in what is left.
    """
    need_range(request.start, request.end)
    need(request.lanes, "lane")
    if request.before < 0 or request.after < 0:
        raise RequestError("ramp-negative", place="ramp", accepted="0 or more")
    if not abs(request.amount) <= STEEPEST:
        raise RequestError("amount/raise", place="amount", accepted="a smaller number")
    work = WorkingCopy(session)
    lanes = [session.lane(id) for id in dict.fromkeys(request.lanes)]
    units = [session.parameter(lane.parameter).distance_unit for lane in lanes]
    unit = units[0] if request.unit is None else request.unit
    if unit not in units:
        accepted = ", ".join(dict.fromkeys(x or "plain numbers" for x in units))
        raise RequestError("unit", what=unit or "plain numbers", place="unit", accepted=accepted)
    for lane, own in zip(lanes, units, strict=True):
        if session.parameter(lane.parameter).holds_only:
            work.cautions.append(say.holds_only(session, lane, "has named values and cannot be raised"))
        elif own == unit:
            _raise(work, lane, request)
        else:
            work.cautions.append(say.other_unit(session, lane, [unit]))
    return work.change()


def _raise(work: WorkingCopy, lane: Lane, request: RaiseSpan) -> None:
    session, parameter = work.session, work.session.parameter(lane.parameter)
    part = part_of(session, lane, request.start, request.end)
    if part is None:
        work.cautions.append(say.outside_range(session, lane))
        return
    (first, last), length = part, session.span(lane)[1] - session.zero_of(lane)
    lead, tail = max(first - request.before, 0), min(last + request.after, length)
    # 0, rising to the amount between lead and first, back between last and tail; steps where a ramp has no length.
    corners = [(lead, 0.0), (first, request.amount), (last, request.amount), (tail, 0.0)]
    made, spans = editing.limit(sum_axis(lane.envelope, Envelope.of(corners)), parameter.low, parameter.high)
    work.rewrite(lane, made, lead, tail, spans)
    if spans:
        work.cautions.append(say.limited_lane(session, lane, spans, lead, tail))


def sentence(session: Session, request: RaiseSpan) -> tell.Told:
    """“Raise Bell buoy Level from 9.1.00 to 13.1.00 by 2.00 dB, ramps of 0 beats before and 1 beat after.”"""
    some = [session.lane(id) for id in request.lanes]
    alike = next(
        (x for x in some if request.unit in (None, session.parameter(x.parameter).distance_unit)),
        some[0] if some else None,
    )
    by = (
        session.parameter(alike.parameter).format_distance(abs(request.amount)) if alike else f"{abs(request.amount):g}"
    )
    return tell.told(
        ("Raise" if request.amount >= 0 else "Lower") + " {lanes} from {start} to {end} by {amount}, ramps of {before}"
        " before and {after} after.",
        lanes=tell.lanes(session, request.lanes),
        start=tell.position(session, request.start),
        end=tell.position(session, request.end),
        amount=by,
        before=tell.length(request.before),
        after=tell.length(request.after),
    )


OPERATION = Operation("raise", RaiseSpan, plan, sentence, "by hand")
