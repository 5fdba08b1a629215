"""Laying a range of an alternative over what is used."""

from __future__ import annotations

from dataclasses import replace

from velmot.core.session.alternatives import Alternative, Span, Standing
from velmot.core.verbs.alternatives.chosen import places_in
from velmot.core.verbs.frame.change import PlacementSwap
from velmot.core.verbs.frame.taking import put_range
from velmot.core.verbs.frame.working_copy import WorkingCopy


def lay_range(work: WorkingCopy, one: Alternative, now: Standing, span: Span, ramp: int = 0) -> list[PlacementSwap]:
    """Lay what an alternative does over a range on what its parameter does; gives the places that come with it."""
    session = work.session
    others = (lane for lane in session.lanes if lane.parameter != one.parameter)
    put_range(work, replace(session, lanes=(*others, *now.lanes), placements=()), one.parameter, span, ramp)
    return [] if ramp else places_in(session, one, now, span)
