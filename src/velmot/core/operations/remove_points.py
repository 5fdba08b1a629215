"""Remove points: the neighbours of each join up; a lane with no point left goes."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np

from velmot.core.change import Change
from velmot.core.envelope import Envelope
from velmot.core.limits import MOST_IDS
from velmot.core.operations import picking
from velmot.core.operations.frame import Draft, Operation, says
from velmot.core.operations.picking import Picked
from velmot.core.session import Session


@dataclass(frozen=True)
class RemovePoints:
    """Remove picked points; what stands before and after each is joined with the shape before it."""

    picked: tuple[Picked, ...] = says("The points to remove.", most=MOST_IDS)


def plan(session: Session, request: RemovePoints) -> Change:
    """The change without the points."""
    lanes = picking.lanes_of(session, request.picked)
    draft = Draft(session)
    for lane, points in lanes:
        keep = np.ones(len(lane.envelope), dtype=bool)
        keep[points] = False
        ticks, values, bends = lane.envelope.arrays()
        after = Envelope(ticks[keep], values[keep], bends[keep], lane.envelope.axis) if keep.any() else None
        picking.write(draft, lane, after, *picking.reach(lane.envelope, points))
    return picking.finished(draft, picking.title(session, "Remove", lanes), [])


OPERATION = Operation("remove points", RemovePoints, plan)
