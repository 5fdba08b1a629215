"""Raise a span: lift or lower what lies in a range, led in and out by ramps outside it."""

from __future__ import annotations

from dataclasses import dataclass

from velmot.core import editing
from velmot.core.change import Caution, Change
from velmot.core.envelope import Envelope
from velmot.core.errors import RequestError
from velmot.core.limits import MOST_IDS, STEEPEST
from velmot.core.operations import cautions as say
from velmot.core.operations import telling as tell
from velmot.core.operations.frame import Operation, need_range, says
from velmot.core.operations.working_copy import WorkingCopy
from velmot.core.session import Lane, Session
from velmot.core.sums import sum_axis
from velmot.core.time import Tick
from velmot.core.wording import counted


@dataclass(frozen=True)
class RaiseSpan:
    """Move a range of lanes up or down; inside it the shape is kept exactly."""

    lanes: tuple[str, ...] = says("The lanes, by id.", most=MOST_IDS)
    start: Tick = says("Where the range starts.")
    end: Tick = says("Where it ends.")
    amount: float = says("How far up, in the unit: dB, octaves, or the parameters' own.")
    before: Tick = says("How long the ramp before the range lasts.", default=Tick(0))
    after: Tick = says("How long the ramp after it lasts.", default=Tick(0))
    unit: str | None = says(
        "The unit of the amount; lanes of others stay. Nothing means that of the first lane.", default=None
    )


def plan(session: Session, request: RaiseSpan) -> Change:
    """The change that raises the span; silence stays silence."""
    need_range(request.start, request.end)
    if not request.lanes:
        raise RequestError("lanes-none", "no lane is chosen", place="lanes", accepted="at least one lane")
    if request.before < 0 or request.after < 0:
        raise RequestError("ramp-negative", "a ramp cannot be negative", place="ramp", accepted="0 or more")
    if not abs(request.amount) <= STEEPEST:
        raise RequestError("amount", "this is too much to raise by", place="amount", accepted="a smaller number")
    work = WorkingCopy(session)
    lanes = [session.lane(id) for id in dict.fromkeys(request.lanes)]
    unit = distance_unit(session, lanes[0]) if request.unit is None else request.unit
    for lane in lanes:
        if distance_unit(session, lane) == unit or session.parameter(lane.parameter).holds_only:
            _raise(work, lane, request)
        else:
            own = distance_unit(session, lane) or "plain numbers"
            said = f"{session.lane_name(lane)} is in {own}, not in {unit or 'plain numbers'}: it stays"
            work.cautions.append(Caution("other-unit", said, lane=lane.id))
    if not any(distance_unit(session, lane) == unit for lane in lanes):
        units = dict.fromkeys(distance_unit(session, lane) or "plain numbers" for lane in lanes)
        raise RequestError("unit", f"no chosen lane is in {unit}", place="unit", accepted=", ".join(units))
    return work.change()


def distance_unit(session: Session, lane: Lane) -> str:
    """The unit in which a lane is moved up or down; empty for plain numbers."""
    parameter = session.parameter(lane.parameter)
    return parameter.axis.distance_unit or parameter.unit


def _raise(work: WorkingCopy, lane: Lane, request: RaiseSpan) -> None:
    session, parameter = work.session, work.session.parameter(lane.parameter)
    if parameter.holds_only:
        work.cautions.append(say.holds_only(session, lane, "has named values and cannot be raised"))
        return
    zero, length = session.zero_of(lane), session.span(lane)[1] - session.span(lane)[0]
    first, last = max(request.start - zero, 0), min(request.end - zero, length)
    if first >= last:
        work.cautions.append(say.outside_range(session, lane))
        return
    lead, tail = max(first - request.before, 0), min(last + request.after, length)
    raised = sum_axis(lane.envelope, _trapezoid(lead, first, last, tail, request.amount))
    limited, spans = editing.limit(raised, parameter.low, parameter.high)
    work.rewrite(lane, limited, lead, tail, spans)
    if spans:
        work.cautions.append(Caution("limited", f"{counted(spans, 'span')} limited", lane=lane.id))


def _trapezoid(lead: int, first: int, last: int, tail: int, amount: float) -> Envelope:
    """0, rising to `amount` between lead and first, back between last and tail; steps where a ramp has no length."""
    up = [(lead, 0.0), (first, amount)]
    down = [(last, amount), (tail, 0.0)]
    return Envelope.of([*up, *down])


def sentence(session: Session, request: RaiseSpan) -> tell.Told:
    """“Raise Bell buoy Level from 9.1.00 to 13.1.00 by 2.00 dB, ramps of 0 beats before and 1 beat after.”"""
    some = [session.lane(id) for id in request.lanes]
    alike = next((x for x in some if request.unit in (None, distance_unit(session, x))), some[0] if some else None)
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


OPERATION = Operation("raise", RaiseSpan, plan, sentence)
