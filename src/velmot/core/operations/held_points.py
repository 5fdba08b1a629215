"""Points that a hand holds: counted in one state of a session, and found again in a later one."""

from __future__ import annotations

from dataclasses import replace
from typing import Any

import numpy as np

from velmot.core.envelope import Envelope
from velmot.core.errors import RequestError
from velmot.core.operations.chosen_points import Picked, check_points
from velmot.core.session import Session
from velmot.core.time import Ticks


def found_again(request: Any, then: Session, now: Session) -> Any:
    """A request whose picked points are counted in the session as it was `then`, counted as it stands `now`.

    A point is its lane and its beat, and of several on one beat its turn among them. RequestError where one is gone:
    no other may be taken for it. Requests without picked points are as they were.
    """
    picked: tuple[Picked, ...] = getattr(request, "picked", ())
    if not picked:
        return request
    return replace(request, picked=tuple(_again(p, then, now) for p in picked))


def _again(picked: Picked, then: Session, now: Session) -> Picked:
    was = then.lane(picked.lane)
    check_points(was, picked, then)
    lane = next((lane for lane in now.lanes if lane.id == picked.lane), None)
    if lane is None:
        raise _gone(f"{then.lane_name(was)} is no longer there")
    if lane.envelope is was.envelope:
        return picked
    points = []
    for index in picked.points:
        found = _same_point(was.envelope, index, lane.envelope)
        if found is None:
            raise _gone(f"point {index + 1} of {then.lane_name(was)}, which was held, is no longer where it was")
        points.append(found)
    return Picked(picked.lane, tuple(points))


def _same_point(was: Envelope, index: int, now: Envelope) -> int | None:
    """The index of the point on the same beat; of several the one with the same turn, if there are as many."""
    tick = was.ticks[index]
    before, after = (_on_beat(envelope, int(tick)) for envelope in (was, now))
    if len(before) != len(after):
        alike = after[now.values[after] == was.values[index]]
        return int(alike[0]) if len(alike) == 1 else None
    return int(after[index - before[0]])


def _on_beat(envelope: Envelope, tick: int) -> Ticks:
    """The indices of all points on a tick."""
    first, last = np.searchsorted(envelope.ticks, [tick, tick + 1])
    return np.arange(first, last)


def _gone(said: str) -> RequestError:
    return RequestError("held-gone", said, place="picked", accepted="picking it again")
