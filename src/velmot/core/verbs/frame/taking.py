"""Taking: what parameters do in another state of the session, whole or over a range, put in place of what they do now."""

from __future__ import annotations

from collections.abc import Iterable

from velmot.core.curves import editing
from velmot.core.session.alternatives import Span, span_of
from velmot.core.session.session import Session
from velmot.core.session.track import ON_THE_TRACK, Lane
from velmot.core.verbs.frame.landing import Landed
from velmot.core.verbs.frame.working_copy import WorkingCopy


def put_whole(work: WorkingCopy, parameter: str, lanes: Iterable[Lane], limited: dict[str, int]) -> None:
    """Let a parameter have just these lanes; `limited` counts the spans of each home that had to be limited before."""
    new = {lane.home: lane for lane in lanes}
    for home in dict.fromkeys([*(lane.home for lane in work.before.lanes_of(parameter)), *new]):
        lane = new.get(home)
        span = span_of(work.session, home)
        if lane:
            work.put_back(lane, span, limited.get(home, 0))
        else:
            work.write(parameter, home, None, span)


def put_range(work: WorkingCopy, there: Session, parameter: str, span: Span, ramp: int = 0) -> None:
    """Lay over a range what a parameter's lanes do in another state of the session, in which it has the same axis and range.

    Where a lane is missing on one side, what is heard there without it stands for it. A home that lies whole in the range
    is taken as it is.
    """
    other, now = WorkingCopy(there), work.session
    homes = dict.fromkeys(lane.home for side in (now, there) for lane in side.lanes_of(parameter))
    for home in homes:
        if home != ON_THE_TRACK and not (now.there("region", home) and there.there("region", home)):
            continue
        zero, stop = span_of(now, home)
        start, end = max(span[0], zero), min(span[1], stop)
        if start >= end:
            continue
        lane = there.lane_at(parameter, home)
        if (start, end) == (zero, stop):
            if lane:
                work.put_back(lane, (start, end))
            else:
                work.write(parameter, home, None, (start, end))
            continue
        first, last = start - zero, end - zero
        curve = other.curve(there.parameter(parameter), home, first)
        work.lay(now.parameter(parameter), [Landed(first, editing.cut(curve, first, last))], ramp, home)
