"""Fewer points where levels take over what others did: what is written is thinned in the same step, and offered where it is much."""

from __future__ import annotations

from collections.abc import Iterator, Sequence
from dataclasses import replace
from typing import Any

from velmot.core.curves import editing
from velmot.core.curves.editing import Fragment
from velmot.core.curves.within_bound import thinned_within
from velmot.core.errors import RequestError
from velmot.core.remedy import Remedy
from velmot.core.verbs.frame.change import Caution, LaneSwap, caution
from velmot.core.verbs.frame.operation import stop_of
from velmot.core.verbs.frame.working_copy import WorkingCopy

_MANY = 500
"""Points that are worth a word where they come to more than twice what there was."""

_LOOSEST = 1000
"""A bound in decibels beyond which nothing would be left to keep to."""

_WITHIN = 0.1
"""The bound that is offered, in decibels."""


def check_within(within: float) -> None:
    """RequestError for a bound that cannot be."""
    if not 0 <= within <= _LOOSEST:
        raise RequestError("within/wide", place="within", accepted=f"0 to {_LOOSEST:,} dB")


def thin_written(work: WorkingCopy, swaps: Sequence[LaneSwap], start: int, end: int, bound: float) -> None:
    """Thin lanes that were written, between two session ticks, so that each strays by no more than the bound (axis units)."""
    for lane in (s.after for s in swaps):
        if lane is None:
            continue
        level = work.session.parameter(lane.parameter)
        zero, stop = work.session.span(lane)
        a, b = max(start, zero), min(end, stop)
        if a >= b:
            continue
        curve = work.curve(level, lane.home)
        piece = editing.cut(curve, a - zero, b - zero)
        thinned = Fragment(thinned_within(piece.envelope, bound, reach=level.reach), b - a)
        made = editing.splice(curve, thinned, a - zero, stop=stop_of(work.session, lane))
        work.write(level.id, lane.home, made, (a, b))


def many_points(swaps: Sequence[LaneSwap], request: Any) -> Iterator[Caution]:
    """That what is exact takes far more points than there were, and what would do with fewer."""
    before, after = (sum(len(x.envelope) for s in swaps if (x := getattr(s, side))) for side in ("before", "after"))
    if request.within or after < _MANY or after < 2 * before:
        return
    remedy = Remedy(f"thin them within {_WITHIN} dB", step=replace(request, within=_WITHIN))
    yield caution("many-points", before=before, after=after, remedy=remedy)
