"""Make anew: lanes that were made by following, after what their source does now; mends by hand stay in what was added to."""

from __future__ import annotations

from dataclasses import replace

from velmot.core.curves import editing
from velmot.core.curves.envelope import Envelope
from velmot.core.curves.sums import sum_axis, taken_off
from velmot.core.errors import RequestError
from velmot.core.session.session import Session
from velmot.core.session.track import Lane
from velmot.core.verbs.follow import follow
from velmot.core.verbs.follow.made import how_made
from velmot.core.verbs.follow.request import Follow, MakeAnew
from velmot.core.verbs.follow.sources import span_of
from velmot.core.verbs.frame import telling as tell
from velmot.core.verbs.frame.between import change_to
from velmot.core.verbs.frame.change import Change
from velmot.core.verbs.frame.checks import need
from velmot.core.verbs.frame.operation import Operation
from velmot.core.verbs.frame.sounding import Sounding


def plan(session: Session, request: MakeAnew, sounding: Sounding | None) -> Change:
    """The change that makes them anew. RequestError for a lane that was not made by following."""
    need(request.lanes, "lane")
    now = session
    said = []
    for id in dict.fromkeys(request.lanes):
        lane = now.lane(id)
        made = how_made(now, lane)
        if made is None:
            raise RequestError("anew-none", name=session.lane_name(lane), place="lanes", accepted="a lane that follows")
        state = now if made.gain is None else _without(now, lane, made.request, made.gain)
        change = follow.plan(state, made.request, sounding)
        said += [c for c in change.cautions if c.code != "no-change"]
        now = change.applied_to(state)
    return change_to(session, now, said)


def _without(session: Session, lane: Lane, request: Follow, gain: Envelope) -> Session:
    """The session with what was added to a lane taken off it again, over the range where it was; both in their home's time."""
    first, last = session.span(lane)
    start, end = (min(max(x, first), last) - first for x in span_of(session, request))
    if start >= end:
        return session
    piece = editing.cut(lane.envelope, start, end)
    less = taken_off(editing.cut(gain, start, end).envelope)
    parameter = session.parameter(lane.parameter)
    bare, _ = editing.limited(sum_axis(piece.envelope, less), parameter.low, parameter.high)
    curve = editing.splice(lane.envelope, editing.cut(bare, 0, end - start), start)
    return session.with_lanes(replace(x, envelope=curve) if x.id == lane.id else x for x in session.lanes)


def sentence(session: Session, request: MakeAnew) -> tell.Told:
    """“Make Glass rain Level anew, after what it follows.”"""
    return tell.told("Make {lanes} anew, after what it follows.", lanes=tell.lanes(session, request.lanes))


OPERATION = Operation("make anew", MakeAnew, plan, sentence, "replacing", of_sound=True)
