"""Raise a span: lift or lower what lies in a range, led in and out by ramps outside it."""

from __future__ import annotations

from dataclasses import dataclass

from velmot.core.change import Change
from velmot.core.limits import MOST_IDS
from velmot.core.operations import reshape
from velmot.core.operations import telling as tell
from velmot.core.operations.frame import Operation, says
from velmot.core.operations.reshape import Move
from velmot.core.session import Session
from velmot.core.time import Tick


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
    """The change that raises the span, which is one way to reshape it; silence stays silence."""
    move = Move(_unit(session, request), by=request.amount)
    span, ramps = (request.start, request.end), (request.before, request.after)
    return reshape.plan(session, reshape.Reshape(request.lanes, *span, (move,), *ramps))


def _unit(session: Session, request: RaiseSpan) -> str:
    """The unit that is asked for, else that of the first lane."""
    if request.unit is not None or not request.lanes:
        return request.unit or ""
    return session.parameter(session.lane(request.lanes[0]).parameter).distance_unit


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
