"""Selections: which points are meant, and the numbers of what is selected."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Literal

import numpy as np

from velmot.core.parameters.mean import time_weighted_mean
from velmot.core.session.session import Session
from velmot.core.verbs.frame.chosen_points import check_points, points_of
from velmot.core.verbs.request import Picked

Way = Literal["all", "range", "same value", "next", "previous"]


@dataclass(frozen=True)
class Numbers:
    """What is selected: its span in session ticks, how many points, and values where one parameter is meant.

    `mean` is the time-weighted mean over the span on the axis.
    """

    start: int
    end: int
    points: int
    lowest: float | None = None
    highest: float | None = None
    mean: float | None = None


def picked_points(
    session: Session, lanes: tuple[str, ...], way: Way, start: int, end: int, picked: tuple[Picked, ...] = ()
) -> tuple[Picked, ...]:
    """The points of the lanes that a way of picking means; lanes without any are left away."""
    for p in picked:
        check_points(session.lane(p.lane), p, session)
    known = {p.lane: p.points for p in picked}
    found = []
    for id in dict.fromkeys(lanes):
        lane = session.lane(id)
        ticks = lane.envelope.ticks + session.zero_of(lane)
        points = known.get(id, ())
        index = np.arange(len(ticks))
        if way == "range":
            index = index[(ticks >= start) & (ticks < end)]
        elif way == "same value":
            index = index[np.isin(lane.envelope.values, lane.envelope.values[list(points)])]
        elif way == "next":
            index = index[[min(max(points) + 1, len(index) - 1)]] if points else index[ticks >= start][:1]
        elif way == "previous":
            index = index[[max(min(points) - 1, 0)]] if points else index[ticks <= start][-1:]
        if len(index):
            found.append(Picked(id, tuple(index.tolist())))
    return tuple(found)


def numbers_of_points(session: Session, picked: tuple[Picked, ...]) -> Numbers:
    """The numbers of picked points; values only if all are of one parameter."""
    lanes = points_of(session, picked)
    ticks = [int(lane.envelope.ticks[i]) + session.zero_of(lane) for lane, points in lanes for i in points]
    start, end, count = min(ticks), max(ticks), len(ticks)
    if len({lane.parameter for lane, _ in lanes}) > 1:
        return Numbers(start, end, count)
    values = [float(lane.envelope.values[i]) for lane, points in lanes for i in points]
    lane = lanes[0][0]
    zero = session.zero_of(lane)
    mean = values[0]
    if end > start:
        mean = time_weighted_mean(lane.envelope, session.parameter(lane.parameter), start - zero, end - zero)
    return Numbers(start, end, count, min(values), max(values), mean)


def numbers_of_range(session: Session, lanes: tuple[str, ...], start: int, end: int) -> Numbers:
    """The numbers of a range of lanes; values only if all are of one parameter."""
    chosen = [session.lane(id) for id in dict.fromkeys(lanes)]
    count = sum(session.in_session_time(x).count(start, end) for x in chosen)
    if len({x.parameter for x in chosen}) != 1:
        return Numbers(start, end, count)
    lane = chosen[0]
    envelope = session.in_session_time(lane)
    low, high = envelope.extremes(start, end)
    return Numbers(
        start, end, count, low, high, time_weighted_mean(envelope, session.parameter(lane.parameter), start, end)
    )
