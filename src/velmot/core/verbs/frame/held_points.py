"""Points that a hand holds: counted in one state of a session, and found again in a later one."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import replace
from typing import Any

import numpy as np

from velmot.core.curves.envelope import Envelope
from velmot.core.errors import RequestError
from velmot.core.session.session import Session
from velmot.core.time.ticks import Ticks
from velmot.core.verbs.frame.chosen_points import check_points
from velmot.core.verbs.request import Picked

AGAIN = "picking it again"
KEEP_COUNT = {"move points", "set values", "shape segments"}
"""Verbs after which, and after whose undoing, the points they are about are still counted as before."""


def found_again(request: Any, then: Session, way: Sequence[tuple[dict[str, Any], Session]]) -> Any:
    """A request whose picked points are counted in the session as it was `then`, counted as it stands at the way's end.

    `way` are the steps taken since, or taken back: each with its request, as it is kept, and the session after it. A
    point is its lane and its beat, and of several on one beat its turn among them; through a step that moves points it
    is the one that is moved. RequestError where one is gone: no other may be taken for it. Requests without picked
    points are as they were.
    """
    picked: tuple[Picked, ...] = getattr(request, "picked", ())
    if not picked:
        return request
    for p in picked:
        check_points(then.lane(p.lane), p, then)
    for asked, after in way:
        moved = {p["lane"] for p in asked["picked"]} if asked.get("verb") in KEEP_COUNT else set()
        picked = tuple(_again(p, then, after, p.lane in moved) for p in picked)
        then = after
    return replace(request, picked=picked)


def _again(picked: Picked, then: Session, now: Session, moved: bool) -> Picked:
    was = then.lane(picked.lane)
    lane = next((lane for lane in now.lanes if lane.id == picked.lane), None)
    if lane is None:
        raise RequestError("held-gone/lane", name=then.lane_name(was), place="picked", accepted=AGAIN)
    if lane.envelope is was.envelope or (moved and len(lane.envelope) == len(was.envelope)):
        return picked
    points = []
    for index in picked.points:
        found = _same_point(was.envelope, index, lane.envelope)
        if found is None:
            raise RequestError("held-gone", n=index + 1, name=then.lane_name(was), place="picked", accepted=AGAIN)
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
