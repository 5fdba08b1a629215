"""Points chosen on lanes, and what the verbs that work on them share."""

from __future__ import annotations

from velmot.core.curves.envelope import Envelope
from velmot.core.errors import RequestError
from velmot.core.parameters.parameter import Parameter
from velmot.core.session.session import Session
from velmot.core.session.track import Lane
from velmot.core.time.ticks import MOST_TICKS
from velmot.core.verbs.request import Picked

Chosen = list[tuple[Lane, list[int]]]
"""Lanes and their chosen points in order."""


def points_of(session: Session, picked: tuple[Picked, ...]) -> Chosen:
    """The lanes and their points in order; RequestError for none or for points that are not there."""
    if not any(p.points for p in picked):
        raise RequestError("points-none", place="picked", accepted="at least one point")
    points: dict[str, set[int]] = {}
    for p in picked:
        check_points(session.lane(p.lane), p, session)
        points.setdefault(p.lane, set()).update(p.points)
    return [(session.lane(id), sorted(some)) for id, some in points.items() if some]


def check_points(lane: Lane, picked: Picked, session: Session) -> None:
    """Raise RequestError for a point that a lane has not."""
    wrong = next((i for i in picked.points if not 0 <= i < len(lane.envelope)), None)
    if wrong is not None:
        raise RequestError(
            "point-unknown",
            name=session.lane_name(lane),
            n=wrong + 1,
            place="picked",
            accepted=f"1 to {len(lane.envelope)}",
        )


def between_neighbours(envelope: Envelope, points: list[int]) -> tuple[int, int]:
    """The ticks between the neighbours outside the points: what changing them can change.

    The first point holds before it and the last after it, so there it reaches as far as any lane.
    """
    first = 0 if points[0] == 0 else int(envelope.ticks[points[0] - 1])
    last = MOST_TICKS if points[-1] == len(envelope) - 1 else int(envelope.ticks[points[-1] + 1]) + 1
    return first, last


def possible_values(parameter: Parameter, coordinates: list[float]) -> tuple[list[float], int]:
    """Axis coordinates as values the parameter can have, and how many had to give way."""
    low, high = parameter.reach
    kept = [min(max(y, low), high) for y in coordinates]
    beyond = sum(abs(a - b) > 1e-12 for a, b in zip(kept, coordinates, strict=True))
    values = [parameter.nearest(float(parameter.axis.value_of(y))) for y in kept]
    return [min(max(v, parameter.low), parameter.high) for v in values], beyond
