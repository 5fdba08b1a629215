"""Add points: on a lane, or on a parameter that has none yet, which makes its lane."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np

from velmot.core.change import Change
from velmot.core.envelope import HOLD, Envelope
from velmot.core.errors import RequestError
from velmot.core.operations import picking
from velmot.core.operations.frame import ON_THE_TRACK, Draft, Operation, home_span, says
from velmot.core.parameters import Parameter
from velmot.core.session import Session
from velmot.core.time import LONGEST, Tick


@dataclass(frozen=True)
class Spot:
    """A place and a value."""

    at: Tick = says("Where, in session time.")
    value: float = says("The value, in the parameter's unit.")


@dataclass(frozen=True)
class AddPoints:
    """Add points to a parameter's lane; a point that stands there already takes the value."""

    parameter: str = says("The parameter's id.")
    spots: tuple[Spot, ...] = says("The points to add.")
    home: str = says("The lane's home: track, or a region's id.", default=ON_THE_TRACK)


def plan(session: Session, request: AddPoints) -> Change:
    """The change that adds the points; segments they fall into keep their shape up to the new values."""
    parameter = session.parameter(request.parameter)
    if not request.spots:
        raise RequestError("points-none", "no point is given", place="spots", accepted="at least one point")
    zero, end = home_span(session, parameter, request.home)
    values, limited = picking.limited_values(parameter, [_place(parameter, s.value) for s in request.spots])
    draft = Draft(session)
    lane = session.lane_at(request.parameter, request.home)
    envelope = lane.envelope if lane else None
    for spot, value in zip(request.spots, values, strict=True):
        if not zero <= spot.at <= end:
            place = f"{session.tempo.position(zero)} to {session.tempo.position(end)}"
            raise RequestError("point-outside", "a point would lie outside its lane", place="spots", accepted=place)
        envelope = with_point(envelope, parameter, spot.at - zero, value)
    ticks = [s.at for s in request.spots]
    first, last = _span(envelope, min(ticks) - zero, max(ticks) - zero)
    draft.write(parameter, request.home, envelope, zero + first, min(zero + last, end), limited)
    cautions = picking.limited_caution(parameter, limited)
    owner = session.owner(parameter.id).name
    noun = "a point" if len(request.spots) == 1 else f"{len(request.spots)} points"
    return picking.finished(draft, f"Add {noun} to {owner} {parameter.name}", cautions)


def _place(parameter: Parameter, value: float) -> float:
    if not np.isfinite(value) or (parameter.axis.value == "log" and value <= 0):
        raise RequestError(
            "value-range",
            f"{parameter.name} cannot be {value:g}",
            place="spots",
            accepted=f"{parameter.format(parameter.low)} to {parameter.format(parameter.high)}",
        )
    return float(parameter.axis.place(value))


def with_point(envelope: Envelope | None, parameter: Parameter, tick: int, value: float) -> Envelope:
    """The envelope with a point at a tick (the later one of a jump, if a jump stands there)."""
    if envelope is None:
        return Envelope.of([(tick, value)], parameter.axis)
    cut = envelope.cut_points(np.array([tick], dtype=np.int64))
    ticks, values, bends = cut.copies()
    at = np.flatnonzero(ticks == tick)
    if len(at):
        values[at[-1]] = value
        return Envelope(ticks, values, bends, envelope.axis)
    i = int(np.searchsorted(ticks, tick))
    if i:
        bends[-1] = HOLD if parameter.holds_only else 0.0
    shape = HOLD if parameter.holds_only else 0.0
    return Envelope(np.insert(ticks, i, tick), np.insert(values, i, value), np.insert(bends, i, shape), envelope.axis)


def _span(envelope: Envelope | None, first: int, last: int) -> tuple[int, int]:
    assert envelope is not None
    before = envelope.ticks[envelope.ticks < first]
    after = envelope.ticks[envelope.ticks > last]
    return (int(before[-1]) if len(before) else 0), (int(after[0]) + 1 if len(after) else LONGEST)


OPERATION = Operation("add points", AddPoints, plan)
