"""Points picked on lanes, and what the verbs that work on them share."""

from __future__ import annotations

from dataclasses import dataclass

from velmot.core.change import Caution, Change
from velmot.core.envelope import Envelope
from velmot.core.errors import RequestError
from velmot.core.limits import MOST_POINTS
from velmot.core.operations.frame import Draft, says
from velmot.core.parameters import Parameter
from velmot.core.session import Lane, Session
from velmot.core.time import LONGEST


@dataclass(frozen=True)
class Picked:
    """Some points of one lane, counted from 0."""

    lane: str = says("The lane's id.")
    points: tuple[int, ...] = says("The points, counted from 0.", most=MOST_POINTS)


def lanes_of(session: Session, picked: tuple[Picked, ...]) -> list[tuple[Lane, list[int]]]:
    """The lanes and their points in order; RequestError for none or for points that are not there."""
    if not any(p.points for p in picked):
        raise RequestError("points-none", "no point is chosen", place="picked", accepted="at least one point")
    points: dict[str, set[int]] = {}
    for p in picked:
        check_points(session.lane(p.lane), p, session)
        points.setdefault(p.lane, set()).update(p.points)
    return [(session.lane(id), sorted(some)) for id, some in points.items() if some]


def check_points(lane: Lane, picked: Picked, session: Session) -> None:
    """Raise RequestError for a point that a lane has not."""
    wrong = next((i for i in picked.points if not 0 <= i < len(lane.envelope)), None)
    if wrong is not None:
        said = f"{session.lane_name(lane)} has no point {wrong + 1}"
        raise RequestError("point-unknown", said, place="picked", accepted=f"1 to {len(lane.envelope)}")


def write(draft: Draft, lane: Lane, envelope: Envelope | None, first: int, last: int, limited: int = 0) -> None:
    """Put a lane's new envelope; `first` and `last` are the lane's own ticks of what was touched."""
    zero = draft.session.zero_of(lane)
    parameter = draft.session.parameter(lane.parameter)
    last = min(zero + max(last, first + 1), max(draft.session.span(lane)[1], zero + first + 1))
    draft.write(parameter, lane.home, envelope, zero + first, last, limited)


def reach(envelope: Envelope, points: list[int]) -> tuple[int, int]:
    """The ticks between the neighbours outside the points: what changing them can change.

    The first point holds before it and the last after it, so there it reaches as far as any lane.
    """
    first = 0 if points[0] == 0 else int(envelope.ticks[points[0] - 1])
    last = LONGEST if points[-1] == len(envelope) - 1 else int(envelope.ticks[points[-1] + 1]) + 1
    return first, last


def limited_values(parameter: Parameter, places: list[float]) -> tuple[list[float], int]:
    """Axis coordinates as values the parameter can have, and how many had to give way."""
    low, high = float(parameter.axis.coordinate(parameter.low)), float(parameter.axis.coordinate(parameter.high))
    kept = [min(max(y, low), high) for y in places]
    beyond = sum(abs(a - b) > 1e-12 for a, b in zip(kept, places, strict=True))
    values = [parameter.nearest(float(parameter.axis.value_of(y))) for y in kept]
    return [min(max(v, parameter.low), parameter.high) for v in values], beyond


def limited_caution(parameter: Parameter, count: int) -> list[Caution]:
    """The sentence that says values were limited, if any were."""
    if not count:
        return []
    said = f"{count} {'value' if count == 1 else 'values'} limited to {parameter.format(parameter.low)} to "
    return [Caution("limited", said + parameter.format(parameter.high))]


def finished(draft: Draft, title: str, cautions: list[Caution]) -> Change:
    """The change of a draft, with a caution if it would change nothing."""
    swaps, touched = draft.finished()
    if not swaps and not cautions:
        cautions = [Caution("no-change", "It is already like this: nothing would change")]
    return Change(title, swaps, (), touched, tuple(cautions))


def title(session: Session, verb: str, lanes: list[tuple[Lane, list[int]]]) -> str:
    """“Move 3 points of Bell buoy Level”."""
    count = sum(len(points) for _, points in lanes)
    where = session.lane_name(lanes[0][0]) if len(lanes) == 1 else f"{len(lanes)} lanes"
    return f"{verb} {count} {'point' if count == 1 else 'points'} of {where}"
