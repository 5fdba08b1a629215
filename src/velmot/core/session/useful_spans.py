"""Useful spans: where a parameter does musically useful work, by its own lanes, other tracks' and its description."""

from __future__ import annotations

from dataclasses import dataclass

from velmot.core.parameters.parameter import Parameter
from velmot.core.session.session import Session
from velmot.core.session.track import Lane

MOST = 6


@dataclass(frozen=True)
class UsefulSpan:
    """A span of values on offer, and in words where it comes from."""

    low: float
    high: float
    why: str


def useful_spans(session: Session, parameter: Parameter) -> list[UsefulSpan]:
    """The spans on offer, best first: what is described, what its own lanes do, what the same control does elsewhere."""
    offers = []
    if parameter.useful is not None:
        device = session.owner(parameter.id).device_of(parameter)
        offers.append(UsefulSpan(*parameter.useful, f"described by {device.name if device else parameter.name}"))
    own = [x for x in session.lanes if x.parameter == parameter.id]
    alike = [x for x in session.lanes if x not in own and _alike(session.parameter(x.parameter), parameter)]
    for lane in (*own, *alike):
        offers += _spanned(session, parameter, lane)
    return list({(o.low, o.high): o for o in reversed(offers)}.values())[::-1][:MOST]


def _alike(one: Parameter, other: Parameter) -> bool:
    return (one.name.casefold(), one.family, one.kind, one.axis, one.unit) == (
        other.name.casefold(),
        other.family,
        other.kind,
        other.axis,
        other.unit,
    )


def _spanned(session: Session, parameter: Parameter, lane: Lane) -> list[UsefulSpan]:
    """What a lane spans, silence aside; nothing if it does not move or goes where the parameter cannot."""
    values = lane.envelope.values[~parameter.axis.silent(lane.envelope.values)]
    if not len(values) or values.min() == values.max():
        return []
    low, high = float(values.min()), float(values.max())
    if low < parameter.low or high > parameter.high:
        return []
    return [UsefulSpan(low, high, f"as {session.lane_name(lane)} moves")]
