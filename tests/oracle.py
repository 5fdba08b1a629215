"""What is heard, worked out a second time in the plainest way: one tick, one loop, no arrays. Slow, and easy to check by eye."""

from __future__ import annotations

import math

from velmot.core.curves.axes import Axis
from velmot.core.curves.envelope import Envelope
from velmot.core.curves.segments import HOLD
from velmot.core.parameters.parameter import Family, Parameter
from velmot.core.session.session import Session
from velmot.core.session.track import Lane, Mode, Precedence, Track

SILENCE = -96.0


def coordinate(axis: Axis, value: float) -> float:
    return math.log2(value) if axis is Axis.LOG else value


def value_of(axis: Axis, place: float) -> float:
    return 2.0**place if axis is Axis.LOG else place


def coordinate_at(curve: Envelope, tick: int) -> float:
    """The axis coordinate of a curve at a tick, from its points alone."""
    rows = curve.points()
    if tick < rows[0][0]:
        return coordinate(curve.axis, rows[0][1])
    i = max(n for n, row in enumerate(rows) if row[0] <= tick)
    y = coordinate(curve.axis, rows[i][1])
    if i == len(rows) - 1 or rows[i][2] == HOLD:
        return y
    end, k = coordinate(curve.axis, rows[i + 1][1]), rows[i][2]
    x = (tick - rows[i][0]) / (rows[i + 1][0] - rows[i][0])
    way = y + (end - y) * (x if abs(k) < 1e-14 else math.expm1(k * x) / math.expm1(k))
    # What has set out is no more where it was, be it nearer to it than numbers tell: it is not silent.
    return math.nextafter(y, end) if way == y and x > 0 else way


def heard_at(session: Session, parameter: Parameter, tick: int, reads: bool = True, groups: bool = False) -> float:
    """The coordinate that is heard of a parameter at a tick; with `reads` as if its track read its lanes."""
    track = next(t for t in session.tracks if any(p.id == parameter.id for p in t.parameters))
    own = _own(session, track, parameter, tick, reads)
    if not groups or parameter.family is not Family.LEVEL:
        return own
    gains = [own]
    for group in _above(session, track):
        fader = next(p for p in group.parameters if p.family is Family.LEVEL)
        gains.append(_own(session, group, fader, tick, reads))
    return SILENCE if min(gains) <= SILENCE else max(sum(gains), SILENCE)


def _own(session: Session, track: Track, parameter: Parameter, tick: int, reads: bool) -> float:
    static = coordinate(parameter.axis, parameter.value)
    if track.mode is Mode.OFF and not reads:
        return static
    lanes = {x.home: x for x in session.lanes if x.parameter == parameter.id}
    speaking = [r for r in track.regions if r.id in lanes and not r.muted and r.start <= tick < r.start + r.length]
    wins = session.precedence is Precedence.TRACK and "track" in lanes
    if speaking and not wins:
        latest = max(r.start for r in speaking)
        region = [r for r in speaking if r.start == latest][-1]
        return coordinate_at(lanes[region.id].envelope, tick - region.start)
    return coordinate_at(lanes["track"].envelope, tick) if "track" in lanes else static


def _above(session: Session, track: Track) -> list[Track]:
    found: list[Track] = []
    todo = [track.id]
    while todo:
        member = todo.pop(0)
        for group in session.tracks:
            if member in group.members and group not in found:
                found.append(group)
                todo.append(group.id)
    return found


def landing_at(session: Session, lanes: list[Lane], tick: int) -> float | None:
    """What lands of some lanes of one parameter at a tick: of those that reach it the one that is heard, a muted region's
    only where no other does; None where none reaches.
    """
    track = next(t for t in session.tracks if any(p.id == lanes[0].parameter for p in t.parameters))
    regions = {r.id: r for r in track.regions}
    order = [r.id for r in track.regions]
    able = []
    for lane in lanes:
        if lane.home == "track":
            if 0 <= tick < session.length:
                able.append((True, session.precedence is Precedence.TRACK, 0, 0, coordinate_at(lane.envelope, tick)))
            continue
        region = regions[lane.home]
        if region.start <= tick < region.start + region.length:
            wins = session.precedence is Precedence.REGION
            value = coordinate_at(lane.envelope, tick - region.start)
            able.append((not region.muted, wins, region.start, order.index(region.id), value))
    return max(able)[-1] if able else None
