"""Clear: what lies in a range, whole lanes, a track's lanes, or the session's, in clearly separate steps."""

from __future__ import annotations

import numpy as np

from velmot.core.curves import editing
from velmot.core.curves.envelope import Envelope
from velmot.core.curves.segments import HOLD
from velmot.core.errors import RequestError
from velmot.core.parameters.mean import time_weighted_mean
from velmot.core.session.session import Session
from velmot.core.session.track import Lane
from velmot.core.time.ticks import MOST_TICKS
from velmot.core.verbs.clear.request import Clear
from velmot.core.verbs.frame import cautions as say
from velmot.core.verbs.frame import telling as tell
from velmot.core.verbs.frame.change import Change
from velmot.core.verbs.frame.checks import need_range
from velmot.core.verbs.frame.operation import Operation
from velmot.core.verbs.frame.working_copy import WorkingCopy


def plan(session: Session, request: Clear) -> Change:
    """The change that clears, and how many lanes and points it takes; nothing that is not named is touched."""
    lanes = _lanes(session, request)
    work = WorkingCopy(session)
    if request.scope == "range":
        need_range(request.start, request.end)
        if request.start is None or request.end is None:
            raise RequestError("range-none", place="range", accepted="a start and an end")
        for lane in lanes:
            _clear_range(work, lane, request.start, request.end, request.way)
        return work.change()
    for lane in lanes:
        work.write(lane.parameter, lane.home, None, session.span(lane))
    work.cautions.append(say.takes(lanes))
    if request.static != "keep":
        work.rest_at({x.parameter: _resting(session, x, request) for x in lanes if x.on_track})
    return work.change()


def _lanes(session: Session, request: Clear) -> list[Lane]:
    if request.scope == "session":
        lanes = list(session.lanes)
    elif request.scope == "tracks":
        wanted = {session.track(id).id for id in request.tracks}
        lanes = [x for x in session.lanes if session.owner(x.parameter).id in wanted]
    else:
        lanes = [session.lane(id) for id in dict.fromkeys(request.lanes)]
    if not lanes:
        raise RequestError("lanes-none/nothing-to-clear", place=request.scope, accepted="at least one lane")
    return lanes


def _clear_range(work: WorkingCopy, lane: Lane, start: int, end: int, way: str) -> None:
    session, parameter = work.session, work.session.parameter(lane.parameter)
    zero, length = session.zero_of(lane), session.span(lane)[1] - session.span(lane)[0]
    first, last = max(start - zero, 0), min(end - zero, length)
    if first >= last:
        work.cautions.append(say.outside_range(session, lane))
    elif way == "seal":
        sealed = editing.straightened(lane.envelope, [(first, last)], parameter.holds_only)
        work.rewrite(lane, sealed, first, last)
    else:
        after, span = _bridged(lane.envelope, first, last, parameter.holds_only)
        work.rewrite(lane, after, *span)


def _bridged(envelope: Envelope, first: int, last: int, holds_only: bool) -> tuple[Envelope | None, tuple[int, int]]:
    """Without the points in ``[first, last)``; the neighbours outside join by one straight segment."""
    inside = (envelope.ticks >= first) & (envelope.ticks < last)
    keep = ~inside
    if not keep.any():
        return None, (0, MOST_TICKS)
    ticks, values, bends = envelope.copies()
    ticks, values, bends = ticks[keep], values[keep], bends[keep]
    left = int(np.searchsorted(ticks, first)) - 1
    if 0 <= left < len(ticks) - 1 and inside.any():
        bends[left] = HOLD if holds_only else 0.0
    before = int(ticks[left]) if left >= 0 else 0
    after = int(ticks[left + 1]) if left + 1 < len(ticks) else MOST_TICKS
    return envelope.with_points(ticks, values, bends), (min(before, first), max(after, last))


def _resting(session: Session, lane: Lane, request: Clear) -> float:
    parameter = session.parameter(lane.parameter)
    if request.static == "default":
        return parameter.default
    if request.static == "cursor":
        return float(lane.envelope.at(request.cursor))
    return time_weighted_mean(lane.envelope, parameter, 0, session.length)


def sentence(session: Session, request: Clear) -> tell.Told:
    """“Clear from Bell buoy Level what lies from 9.1.00 to 13.1.00, sealed.”"""
    if request.scope == "range":
        return tell.told(
            "Clear from {lanes} {scope} from {start} to {end}, {way}.",
            lanes=tell.lanes(session, request.lanes),
            scope="what lies",
            start=tell.position(session, request.start) if request.start is not None else tell.Asked("choose a range"),
            end=tell.position(session, request.end) if request.end is not None else tell.Asked("its end"),
            way={"seal": "sealed", "bridge": "bridged"}[request.way],
        )
    what = {"lanes": "{lanes} {scope}", "tracks": "{scope} {tracks}", "session": "{scope}"}[request.scope]
    return tell.told(
        f"Clear {what}; what has no lane any more rests {{static}}.",
        lanes=tell.lanes(session, request.lanes),
        tracks=tell.tracks(session, request.tracks),
        scope={"lanes": "whole", "tracks": "all lanes of", "session": "every lane of the session"}[request.scope],
        static={
            "keep": "at its static value",
            "default": "at its default",
            "cursor": "at its value at the cursor",
            "mean": "at its mean",
        }[request.static],
    )


OPERATION = Operation("clear", Clear, plan, sentence, "replacing")
