"""Move points: in time and value together; they stop at their neighbours and never cross them."""

from __future__ import annotations

import numpy as np

from velmot.core.session.session import Session
from velmot.core.session.track import Lane
from velmot.core.time.ticks import Ticks
from velmot.core.verbs.frame import cautions as say
from velmot.core.verbs.frame import telling as tell
from velmot.core.verbs.frame.change import Change, caution
from velmot.core.verbs.frame.chosen_points import between_neighbours, points_of, possible_values
from velmot.core.verbs.frame.operation import Operation
from velmot.core.verbs.frame.working_copy import WorkingCopy
from velmot.core.verbs.points.request import MovePoints


def plan(session: Session, request: MovePoints) -> Change:
    """The change that moves the points, as far as their neighbours and the range let them."""
    chosen = points_of(session, request.picked)
    work = WorkingCopy(session)
    for lane, points in chosen:
        by = _possible_shift(session, lane, points, request.by)
        if by != request.by:
            work.cautions.append(caution("stopped/points", name=session.lane_name(lane), lane=lane.id))
        _move(work, lane, points, by, request.rise)
    return work.change()


def _move(work: WorkingCopy, lane: Lane, points: list[int], by: int, rise: float) -> None:
    envelope, parameter = lane.envelope, work.session.parameter(lane.parameter)
    ticks, values, bends = envelope.copies()
    ticks[points] += by
    limited = 0
    if rise:
        values[points], limited = possible_values(parameter, (envelope.coordinates[points] + rise).tolist())
    moved = envelope.with_points(ticks, values, bends)
    before, after = between_neighbours(envelope, points), between_neighbours(moved, points)
    work.rewrite(lane, moved, min(before[0], after[0]), max(before[1], after[1]), limited)
    work.cautions += say.limited_values(parameter, limited)


def _possible_shift(session: Session, lane: Lane, points: list[int], by: int) -> int:
    """The shift nearest to `by` at which no picked point passes one that stays, or leaves the lane's span."""
    ticks = lane.envelope.ticks
    start, end = session.span(lane)
    length = end - start
    chosen = np.array(points)
    inside = np.isin(np.arange(len(ticks)), chosen)
    least, most = -int(ticks[chosen[0]]), max(length - int(ticks[chosen[-1]]), 0)
    for i in points:
        if i > 0 and not inside[i - 1]:
            least = max(least, int(ticks[i - 1] - ticks[i]))
        if i + 1 < len(ticks) and not inside[i + 1]:
            most = min(most, int(ticks[i + 1] - ticks[i]))
    shift = min(max(by, least), most)
    while shift and _crowded(ticks, chosen, shift):
        shift -= 1 if shift > 0 else -1
    return shift


def _crowded(ticks: Ticks, chosen: Ticks, shift: int) -> bool:
    """Whether three points would share a tick."""
    moved = ticks.copy()
    moved[chosen] += shift
    return bool((moved[2:] == moved[:-2]).any())


def sentence(session: Session, request: MovePoints) -> tell.Told:
    """“Move 3 points of Bell buoy Level by 1 beat and by 2.00 dB.”"""
    some = [session.lane(p.lane) for p in request.picked]
    rise = session.parameter(some[0].parameter).format_distance(request.rise) if some else f"{request.rise:g}"
    return tell.told(
        "Move {picked} by {by} and by {rise}.",
        picked=tell.points(session, [(p.lane, len(p.points)) for p in request.picked]),
        by=tell.length(request.by),
        rise=rise,
    )


OPERATION = Operation("move points", MovePoints, plan, sentence, "points")
