"""Findings of every kind: what is not heard and why, what is dense, and that mending one is the end of it."""

from dataclasses import replace

import numpy as np
import pytest
from hypothesis import assume, given
from hypothesis import strategies as st

from tests.core.verbs.test_regions import small
from tests.strategies import sessions
from velmot.core.curves.envelope import Envelope
from velmot.core.errors import RequestError
from velmot.core.findings import KINDS, findings, findings_of_lanes
from velmot.core.findings.dense import MANY
from velmot.core.findings.not_heard import not_heard
from velmot.core.session.heard import heard
from velmot.core.session.track import Lane, Mode, Precedence, Region
from velmot.core.verbs import plan, verb_of
from velmot.core.verbs.regions.request import ChangeRegions, SetPrecedence


def said(session, parameter="bell.level"):
    return {f.lane: (f.words, f.mend) for f in not_heard(session, parameter)}


def with_track(session, **changes):
    return session.with_tracks([replace(session.tracks[0], **changes), *session.tracks[1:]])


def test_a_lane_is_not_heard_for_one_reason_each_with_what_would_let_it_be():
    made = small()
    assert said(made) == {}, "a region's lane and the track's are both heard, each where it wins"
    assert set(said(with_track(made, mode=Mode.OFF))) == {x.id for x in made.lanes_of("bell.level")}
    (lane,) = [x for x in made.lanes_of("bell.level") if not x.on_track]
    region = made.region(lane.home)
    muted = with_track(made, regions=tuple(replace(r, muted=True) for r in made.tracks[0].regions))
    assert said(muted) == {lane.id: (f"the region {region.name} is muted", ChangeRegions((region.id,), muted=False))}
    wins = replace(made, precedence=Precedence.TRACK)
    assert said(wins) == {lane.id: ("the track's own lane wins in this session", SetPrecedence("region"))}


def test_what_other_lanes_cover_is_not_heard_either():
    made = small()
    (lane,) = [x for x in made.lanes_of("bell.level") if not x.on_track]
    whole = Region("over", "over", 0, made.length)
    covered = with_track(made, regions=(*made.tracks[0].regions, replace(whole, start=1, length=made.length - 1)))
    over = Lane("over", "bell.level", "over", Envelope.of([(0, -3.0)], lane.envelope.axis))
    assert said(covered.with_lanes([*covered.lanes, over])) == {}, (
        "before the first bar the track is heard, and wave starts later"
    )
    # Now the over-all region starts first and wave, which starts with it, stands later: one of the two is always heard.
    earlier = with_track(made, regions=(whole, replace(made.region(lane.home), start=0), *made.tracks[0].regions[1:]))
    words = said(earlier.with_lanes([*earlier.lanes, over]))
    own = made.lane_at("bell.level")
    assert words[own.id] == ("its regions' lanes win over all of it", None)


def test_dense_lanes_are_counted():
    made = small()
    ticks = np.arange(MANY, dtype=np.int64) * 100
    thick = Lane(
        "T",
        "choir.level",
        "track",
        Envelope(ticks, np.full(MANY, -3.0), np.zeros(MANY), made.parameter("choir.level").axis),
    )
    found = findings_of_lanes(made.with_lanes([*made.lanes, thick]), ["choir.level", "bell.level"])
    assert {id: [(f.kind, f.words) for f in some] for id, some in found.items()} == {"T": [("dense", "500 points")]}
    thin = replace(
        thick, envelope=Envelope(ticks[1:], np.full(MANY - 1, -3.0), np.zeros(MANY - 1), thick.envelope.axis)
    )
    assert findings_of_lanes(made.with_lanes([*made.lanes, thin]), ["choir.level"]) == {}


@given(st.data())
def test_what_is_not_heard_can_be_taken_away_and_everything_else_cannot(data):
    """Against the meaning: a lane is not heard if and only if its parameter is heard the same when it says something else."""
    session = data.draw(sessions())
    assume(session.lanes)
    lane = data.draw(st.sampled_from(session.lanes))
    parameter = session.parameter(lane.parameter)
    start, end = session.span(lane)
    assume(end > start)
    changed = []
    for value in (parameter.low, parameter.high):
        curve = Envelope.constant(value, parameter.axis)
        now = session.with_lanes(replace(x, envelope=curve) if x.id == lane.id else x for x in session.lanes)
        changed.append(heard(now, lane.parameter, groups=False).envelope)
    ticks = np.unique(np.concatenate([c.ticks for c in changed] + [np.array([0])]))
    ticks = ticks[ticks < session.length]
    alike = np.array_equal(changed[0].at(ticks), changed[1].at(ticks))
    assert (lane.id in {f.lane for f in not_heard(session, lane.parameter)}) == alike


@given(st.data())
def test_mending_a_finding_is_the_end_of_it(data):
    session = data.draw(sessions())
    found = [f for f in findings(session, session._parameters) if f.mend is not None]
    # In a gap shorter than a position is told, a jump held on to its end has the words of one at its start.
    found = [f for f in found if session.tempo.position(f.start) != session.tempo.position(f.end)]
    assume(found)
    one = data.draw(st.sampled_from(found))
    assert one.kind in KINDS
    try:
        after = plan(session, verb_of(one.mend), one.mend).applied_to(session)
    except RequestError as refused:
        pytest.fail(f"what is offered is refused: {refused.message}")
    again = [(f.kind, f.lane, f.start, f.end, f.words) for f in findings(after, [one.parameter])]
    assert (one.kind, one.lane, one.start, one.end, one.words) not in again
