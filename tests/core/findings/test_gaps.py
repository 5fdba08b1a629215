"""Gaps between regions: jumps and drifts by hand-made cases, and that filling one is the end of it."""

from dataclasses import replace

import pytest
from hypothesis import assume, given
from hypothesis import strategies as st

from tests.core.verbs.test_regions import b, small
from tests.strategies import sessions
from velmot.core.curves.axes import Axis
from velmot.core.curves.envelope import Envelope
from velmot.core.findings.gaps import SHORTEST_DRIFT, gaps
from velmot.core.session.track import Lane, Precedence
from velmot.core.verbs import plan
from velmot.core.verbs.regions.request import FillGap


def test_jumps_at_both_edges_of_a_gap_are_named_with_their_figures():
    """Wave goes from −10 to −2 dB; the track stands at −20 dB at beat 8 and at −16 dB at beat 16."""
    first, after = gaps(small(), "bell.level")
    assert (first.kind, first.start, first.end, first.words) == ("gap", 0, b(8), "jumps 10.00 dB at 3.1.00")
    assert (after.start, after.end, after.words) == (b(16), b(40), "jumps 14.00 dB at 5.1.00")
    assert (first.size, after.size) == pytest.approx((10, 14)) and first.lane is None


def test_a_long_straight_segment_through_a_gap_between_regions_is_a_drift():
    """Without lanes of their own, wave ends at beat 16 and ebb starts at 30: 14 beats, half a dB each."""
    made = small(own=False)
    bell = made.tracks[0]
    apart = replace(bell, regions=(bell.regions[0], replace(bell.regions[1], start=b(30))))
    made = made.with_tracks([apart, made.tracks[1]])
    (drift,) = gaps(made, "bell.level")
    assert (drift.size, drift.start, drift.end) == (pytest.approx(7), b(16), b(30))
    assert drift.words == "drifts from −16.0 dB to −9.0 dB"
    closer = made.with_tracks([replace(apart, regions=(apart.regions[0], replace(bell.regions[1], start=b(21))))])
    assert gaps(closer.with_tracks([*closer.tracks, made.tracks[1]]), "bell.level") == [], "five beats are not long"


@pytest.mark.parametrize("change", [{"precedence": Precedence.TRACK}, {"lanes": ()}])
def test_there_is_nothing_odd_where_no_region_is_heard(change):
    assert gaps(replace(small(), **change), "bell.level") == []
    mute = Lane("M", "choir.mute", "track", Envelope.of([(0, 0, float("inf")), (b(4), 1)], Axis.LINEAR))
    made = small()
    assert gaps(made.with_lanes([*made.lanes, mute]), "choir.mute") == [], "named values jump by their nature"


@given(st.data())
def test_joining_a_gap_leaves_nothing_odd_at_its_start(data):
    session = data.draw(sessions())
    every = [g for p in session._parameters if not p.endswith(("mute", "step")) for g in gaps(session, p)]
    found = [g for g in every if g.words.startswith("jumps") and g.start > 0 and g.end < session.length]
    assume(found)
    gap = data.draw(st.sampled_from(found))
    late = not any(str(session.tempo.position(gap.start)) in words for words in gap.words.split(" and "))
    # What only jumps at its end does so however long it is held; a short gap with two jumps is led through.
    short = gap.end - gap.start < SHORTEST_DRIFT and " and " in gap.words
    how = "join" if late or short else "hold"
    assert gap.mend == FillGap(gap.parameter, gap.start, gap.end, how), "it brings what would mend it"
    filled = replace(gap.mend, how="join")
    after = plan(session, "fill gap", filled).applied_to(session)
    again = [g for g in gaps(after, gap.parameter) if g.start == gap.start]
    assert all(g.words.startswith("drifts") for g in again)
