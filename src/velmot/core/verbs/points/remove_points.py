"""Remove points: the neighbours of each join up; a lane with no point left goes."""

from __future__ import annotations

import numpy as np

from velmot.core.session.session import Session
from velmot.core.verbs.frame import telling as tell
from velmot.core.verbs.frame.change import Change
from velmot.core.verbs.frame.chosen_points import between_neighbours, points_of
from velmot.core.verbs.frame.operation import Operation
from velmot.core.verbs.frame.working_copy import WorkingCopy
from velmot.core.verbs.points.request import RemovePoints


def plan(session: Session, request: RemovePoints) -> Change:
    """The change without the points."""
    chosen = points_of(session, request.picked)
    work = WorkingCopy(session)
    for lane, points in chosen:
        keep = np.ones(len(lane.envelope), dtype=bool)
        keep[points] = False
        ticks, values, bends = lane.envelope.arrays()
        after = lane.envelope.with_points(ticks[keep], values[keep], bends[keep]) if keep.any() else None
        work.rewrite(lane, after, *between_neighbours(lane.envelope, points))
    return work.change()


def sentence(session: Session, request: RemovePoints) -> tell.Told:
    """“Remove 3 points of Bell buoy Level.”"""
    return tell.told("Remove {picked}.", picked=tell.points(session, [(p.lane, len(p.points)) for p in request.picked]))


OPERATION = Operation("remove points", RemovePoints, plan, sentence, "points")
