"""Whatever a step says of itself is what an independent reckoning finds in the session as saved, linked places included."""

from __future__ import annotations

from random import Random

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from tests.core.verbs.frame.test_heard_elsewhere import marks
from tests.oracle import coordinate_at, heard_at
from tests.strategies import linked_sessions, planned, requests
from velmot.core.errors import RequestError
from velmot.core.session.session import Session
from velmot.core.session.track import Lane
from velmot.core.verbs import OPERATIONS
from velmot.core.verbs.frame.change import HEARD, Change

FOLLOWING = ("points", "by hand", "drawing", "replacing", "linking")
NEAR = 2.5e-3
"""Sums of bends err by a thousandth, and what compares them by a little."""


@pytest.mark.parametrize("verb", OPERATIONS)
@settings(max_examples=max(settings().max_examples // 3, 4))
@given(st.data())
def test_what_is_said_is_so(verb, data):
    session = data.draw(linked_sessions(verb))
    links = data.draw(st.sampled_from([None, None, "follow", "here", "free"]))
    seed = data.draw(st.integers(0, 2**16))
    for request in data.draw(st.lists(requests(session, verb), min_size=4, max_size=4)):
        try:
            change = planned(session, verb, request, links)
        except RequestError as refused:
            assert refused.accepted or refused.remedy, (verb, request)
            continue
        after = change.applied_to(session)
        lanes_are_as_said(session, after, change, Random(seed))
        links_are_as_said(session, after, change, OPERATIONS[verb].kind, links)
        if change.heard is not None:
            heard_is_as_said(session, after, change, verb, Random(seed))
        return


def at(lane: Lane | None, rest: float, zero: int, tick: int) -> float:
    """The coordinate of a lane at a session tick, or that of what rests."""
    return rest if lane is None else coordinate_at(lane.envelope, tick - zero)


def lanes_are_as_said(session: Session, after: Session, change: Change, random: Random) -> None:
    """Points are counted, nothing outside the span of a lane changed, and no moment parts further than is said."""
    for t in change.touched:
        if t.home == HEARD or t.parameter not in session._parameters:
            continue
        before, now = session.lane_at(t.parameter, t.home), after.lane_at(t.parameter, t.home)
        assert (t.points_before, t.points_after) == tuple(len(x.envelope) if x else 0 for x in (before, now))
        if t.home not in {"track", *session._regions} or t.home not in {"track", *after._regions}:
            continue
        zeros = [s.start_of(t.home) for s in (session, after)]
        if zeros[0] != zeros[1] or not (before and now):
            continue
        zero, (first, last) = zeros[0], after.span(now)
        own = {int(x) + zero + d for lane in (before, now) for x in lane.envelope.ticks for d in (-1, 0, 1)}
        ticks = sorted(x for x in own | {t.start, t.end - 1, t.difference_at} if first <= x < last)
        for tick in ticks if len(ticks) < 60 else random.sample(ticks, 60):
            apart = abs(at(before, 0.0, zero, tick) - at(now, 0.0, zero, tick))
            if t.start <= tick < t.end:
                assert apart <= t.difference + 2e-9, (t.name, tick)
            else:
                assert apart <= 2e-9, (t.name, tick, t.start, t.end)
        if t.difference > 1e-6 and first <= t.difference_at < last:
            sides = [t.difference_at, max(t.difference_at - 1, first)]  # of a jump the limit counts as well
            nearest = [abs(at(before, 0.0, zero, x) - at(now, 0.0, zero, x)) for x in sides]
            steep = 1e-3 * t.difference + 1e-3
            assert max(nearest) >= t.difference - steep or jumps(before, now, t.difference_at - zero)


def jumps(one: Lane, other: Lane, tick: int) -> bool:
    """Whether either lane is so steep right before a tick that the tick before says nothing of it."""
    curves = (one.envelope, other.envelope)
    return any(abs(float(c.coordinate_at(tick, "left")) - coordinate_at(c, tick - 1)) > 1e-3 for c in curves)


def links_are_as_said(session: Session, after: Session, change: Change, kind: str, links: str | None) -> None:
    """Who is set free is named at its place, phrases change only where that is allowed, and all they reach are counted."""
    stay = {x.id for x in after.placements}
    declared = {swap.id for swap in change.placements if swap.after is None}
    gone = [x for x in session.placements if x.id not in stay]
    assert {x.id for x in gone} == declared
    changed = {s.id for s in change.phrases if s.before and s.after and s.before != s.after}
    if kind not in FOLLOWING:
        assert not changed
    if kind == "linking":
        return
    said = {(c.start, c.end) for c in change.cautions if c.code == "set-free"}
    for one in gone:
        zero = session.start_of(one.home)
        assert links == "free" or (zero + one.start, zero + one.end) in said
        assert change.links is not None and len(change.links.freed) == len(gone)
    if changed:
        assert change.links is not None and links != "free" and (kind != "replacing" or links == "follow")
        reached = [x for x in after.placements if x.phrase in changed]
        tracks = {after.owner(x.parameter).id for x in reached}
        assert (change.links.places, change.links.tracks) == (len(reached), len(tracks))
        assert [c.code for c in change.cautions].count("linked") == 1


def heard_is_as_said(session: Session, after: Session, change: Change, verb: str, random: Random) -> None:
    """The largest difference in what is heard is no less than anywhere, and is found where it is said to be."""
    figure, groups = change.heard, verb not in ("embed", "lift")
    assert figure is not None
    swapped = {s.parameter for s in change.lanes}
    meant = [
        p
        for t in session.tracks
        for p in t.parameters
        if p.id in after._parameters and (p.family == "level" and t.kind != "group" if groups else p.id in swapped)
    ]
    ticks = marks(session, after)
    for p in meant:
        for tick in ticks if len(ticks) < 40 else random.sample(ticks, 40):
            apart = heard_apart(session, after, p.id, tick, groups)
            assert apart <= figure.largest + NEAR, (verb, p.id, tick)
    if figure.largest > NEAR and 0 < figure.at < session.length:
        near = max(heard_apart(session, after, figure.parameter, figure.at - d, groups) for d in (0, 1))
        # Of a jump, or of a steep bend, the limit towards the place counts as well: a tick before is as far from it as that.
        ways = [[heard_at(s, s.parameter(figure.parameter), figure.at - d, not groups, groups) for d in (0, 1, 2)]
                for s in (session, after)]  # fmt: skip
        steep = sum(abs(way[0] - way[1]) + abs(way[1] - way[2]) for way in ways)
        assert near >= figure.largest - steep - NEAR


def heard_apart(session: Session, after: Session, parameter: str, tick: int, groups: bool) -> float:
    was, now = (heard_at(s, s.parameter(parameter), tick, not groups, groups) for s in (session, after))
    return abs(was - now)
