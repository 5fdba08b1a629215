"""Clear: what lies in a range, whole lanes, a track's lanes, or the session's, in clearly separate steps."""

from __future__ import annotations

from dataclasses import dataclass, replace
from typing import Literal

import numpy as np

from velmot.core import editing
from velmot.core.change import Caution, Change, TrackSwap
from velmot.core.envelope import Envelope
from velmot.core.errors import RequestError
from velmot.core.limits import MOST_IDS
from velmot.core.mean import time_weighted_mean
from velmot.core.operations import picking
from velmot.core.operations.frame import Draft, Operation, need_range, says
from velmot.core.segments import HOLD
from velmot.core.session import Lane, Session
from velmot.core.time import LONGEST, Tick


@dataclass(frozen=True)
class Clear:
    """Take automation away: inside a range (bridged or sealed), or whole lanes by an ever wider scope."""

    scope: Literal["range", "lanes", "tracks", "session"] = says(
        "A range of the lanes, the lanes whole, all lanes of the tracks, or every lane there is."
    )
    lanes: tuple[str, ...] = says("The lanes, for the scopes range and lanes.", most=MOST_IDS, default=())
    tracks: tuple[str, ...] = says("The tracks, for the scope tracks.", most=MOST_IDS, default=())
    start: Tick | None = says("Where the range starts.", default=None)
    end: Tick | None = says("Where it ends.", default=None)
    way: Literal["bridge", "seal"] = says(
        "Bridge joins the neighbours outside; seal keeps everything outside and lays one straight segment.",
        default="seal",
    )
    static: Literal["keep", "default", "cursor", "mean"] = says(
        "What the static value of a parameter whose track lane goes becomes.", default="keep"
    )
    cursor: Tick = says("The cursor's place, for static cursor.", default=Tick(0))


def plan(session: Session, request: Clear) -> Change:
    """The change that clears, and how many lanes and points it takes; nothing that is not named is touched."""
    lanes = _lanes(session, request)
    draft = Draft(session)
    if request.scope == "range":
        need_range(request.start, request.end)
        if request.start is None or request.end is None:
            raise RequestError("range-none", "no range is chosen", place="range", accepted="a start and an end")
        cautions = [c for lane in lanes for c in _clear_range(draft, lane, request.start, request.end, request.way)]
        return picking.finished(draft, f"Clear a range of {_names(session, lanes)}", cautions)
    for lane in lanes:
        start, end = session.span(lane)
        draft.write(session.parameter(lane.parameter), lane.home, None, start, end)
    points = sum(len(lane.envelope) for lane in lanes)
    took = Caution("takes", f"Takes {_count(len(lanes), 'lane')} with {_count(points, 'point')}")
    change = picking.finished(draft, f"Clear {_names(session, lanes)}", [took])
    return replace(change, tracks=_rested(session, lanes, request))


def _lanes(session: Session, request: Clear) -> list[Lane]:
    if request.scope == "session":
        lanes = list(session.lanes)
    elif request.scope == "tracks":
        wanted = {session.track(id).id for id in request.tracks}
        lanes = [x for x in session.lanes if session.owner(x.parameter).id in wanted]
    else:
        lanes = [session.lane(id) for id in dict.fromkeys(request.lanes)]
    if not lanes:
        raise RequestError(
            "lanes-none", "there is no lane to clear here", place=request.scope, accepted="at least one lane"
        )
    return lanes


def _clear_range(draft: Draft, lane: Lane, start: int, end: int, way: str) -> list[Caution]:
    session, parameter = draft.session, draft.session.parameter(lane.parameter)
    zero, length = session.zero_of(lane), session.span(lane)[1] - session.span(lane)[0]
    first, last = max(start - zero, 0), min(end - zero, length)
    if first >= last:
        return [Caution("nothing-here", f"{session.lane_name(lane)} does not reach into the range", lane=lane.id)]
    if way == "seal":
        sealed = editing.straightened(lane.envelope, [(first, last)], parameter.holds_only)
        picking.write(draft, lane, sealed, first, last)
        return []
    after, span = _bridged(lane.envelope, first, last, parameter.holds_only)
    picking.write(draft, lane, after, *span)
    return []


def _bridged(envelope: Envelope, first: int, last: int, holds_only: bool) -> tuple[Envelope | None, tuple[int, int]]:
    """Without the points in ``[first, last)``; the neighbours outside join by one straight segment."""
    inside = (envelope.ticks >= first) & (envelope.ticks < last)
    keep = ~inside
    if not keep.any():
        return None, (0, LONGEST)
    ticks, values, bends = envelope.copies()
    ticks, values, bends = ticks[keep], values[keep], bends[keep]
    left = int(np.searchsorted(ticks, first)) - 1
    if 0 <= left < len(ticks) - 1 and inside.any():
        bends[left] = HOLD if holds_only else 0.0
    before = int(ticks[left]) if left >= 0 else 0
    after = int(ticks[left + 1]) if left + 1 < len(ticks) else LONGEST
    return Envelope(ticks, values, bends, envelope.axis), (min(before, first), max(after, last))


def _rested(session: Session, lanes: list[Lane], request: Clear) -> tuple[TrackSwap, ...]:
    """Tracks whose parameters rest at another static value now that their own lane is gone."""
    if request.static == "keep":
        return ()
    values = {x.parameter: _resting(session, x, request) for x in lanes if x.on_track}
    swaps = []
    for track in session.tracks:
        new = tuple(replace(p, value=values[p.id]) if p.id in values else p for p in track.parameters)
        if new != track.parameters:
            swaps.append(TrackSwap(track, replace(track, parameters=new)))
    return tuple(swaps)


def _resting(session: Session, lane: Lane, request: Clear) -> float:
    parameter = session.parameter(lane.parameter)
    if request.static == "default":
        return parameter.default
    if request.static == "cursor":
        return float(lane.envelope.at(request.cursor))
    return time_weighted_mean(lane.envelope, parameter, 0, session.length)


def _names(session: Session, lanes: list[Lane]) -> str:
    return session.lane_name(lanes[0]) if len(lanes) == 1 else f"{len(lanes)} lanes"


def _count(number: int, noun: str) -> str:
    return f"{number:,} {noun}{'' if number == 1 else 's'}"


OPERATION = Operation("clear", Clear, plan)
