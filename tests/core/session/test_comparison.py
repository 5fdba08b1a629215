"""Comparing, time spent, useful spans and recipes: numbers by hand, and what must hold for every curve."""

from dataclasses import replace

import numpy as np
import pytest
from hypothesis import assume, given
from hypothesis import strategies as st

from tests.strategies import LENGTH, envelopes, probes, sessions
from velmot.core.curves import editing
from velmot.core.curves.axes import Axis
from velmot.core.curves.difference import SAME, differing_span, largest_difference
from velmot.core.curves.envelope import Envelope
from velmot.core.curves.segments import HOLD
from velmot.core.curves.time_spent import time_spent
from velmot.core.errors import RequestError
from velmot.core.parameters.parameter import level, pan
from velmot.core.session import comparison
from velmot.core.session.session import Session
from velmot.core.session.track import Track
from velmot.core.session.useful_spans import useful_spans
from velmot.core.time.ticks import TICKS_PER_BEAT as BEAT
from velmot.core.time.ticks import Tick
from velmot.core.verbs import recipes
from velmot.core.verbs.carry.request import Carry, Match
from velmot.core.verbs.retarget.request import Retarget, Target
from velmot.site.demo import skerry_light

LINE = Envelope.of([(0, -20), (10 * BEAT, -10)], Axis.LEVEL)


def side(envelope, parameter=None):
    return comparison.Side("x", parameter or level("l"), envelope)


def test_two_lines_differ_most_where_the_jump_is():
    """−20 to −10 dB against the same with a jump of 3 dB from beat 4 on: nothing, then 3 dB at beat 4."""
    jump = Envelope.of([(0, -20), (4 * BEAT, -16), (4 * BEAT, -13), (10 * BEAT, -7)], Axis.LEVEL)
    pair = comparison.compared(side(LINE), side(jump), 16 * BEAT)
    assert (pair.kind, pair.largest) == ("changed", pytest.approx(3)) and pair.at == 4 * BEAT
    gap = comparison.difference(pair)
    assert gap.at(np.array([1, 3, 5, 12]) * BEAT).tolist() == pytest.approx([0, 0, 3, 3])
    assert comparison.compared(side(LINE), side(LINE.split_at(np.array([BEAT]))), 16 * BEAT).same


@given(st.data())
def test_the_largest_difference_and_its_span_are_those_of_a_fine_scan(data):
    """Curves that share most of their segments, or none; both sides of every tick of a range."""
    axis = data.draw(st.sampled_from(list(Axis)))
    one, other = data.draw(envelopes(axis)), data.draw(envelopes(axis))
    a, b = sorted(data.draw(st.lists(st.integers(0, LENGTH), min_size=2, max_size=2, unique=True)))
    if data.draw(st.booleans()):
        other = editing.splice(one, editing.cut(other, a, b), a)
    start, end = sorted(data.draw(st.lists(st.integers(0, LENGTH), min_size=2, max_size=2, unique=True)))
    at = np.unique(
        np.concatenate((probes(one, other, extra=(start, end)), np.linspace(start, end, 500, dtype=np.int64)))
    )
    at = at[(at >= start) & (at <= end)]
    right = np.abs(one.coordinate_at(at) - other.coordinate_at(at)) * (at < end)
    left = np.abs(one.coordinate_at(at, "left") - other.coordinate_at(at, "left")) * (at > start)
    most, place = largest_difference(one, other, start, end)
    assert max(right.max(), left.max()) <= most + 1e-9
    found = [
        abs(float(one.coordinate_at(place, side) - other.coordinate_at(place, side))) for side in ("left", "right")
    ]
    assert start <= place <= end and min(abs(gap - most) for gap in found) < 1e-9
    span = differing_span(one, other, start, end)
    assert (span is None) == (most <= SAME)
    low, high = span or (end, end)
    assert (right[(at < low) | (at >= high)] <= SAME).all() and (left[(at <= low) | (at > high)] <= SAME).all()


def test_other_units_are_compared_by_position_in_the_range():
    """0 dB lies at 96/108 of a fader, hard right at 100 % of a pan: 11.1 percent apart."""
    pair = comparison.compared(
        side(Envelope.constant(0.0, Axis.LEVEL)), side(Envelope.constant(100.0), pan("p")), 4 * BEAT
    )
    assert pair.by_position and pair.largest == pytest.approx(100 - 9600 / 108)
    assert pair.measure.format(pair.largest) == "11.1 %"


@given(st.data())
def test_the_difference_drawn_is_the_difference_found(data):
    axis = data.draw(st.sampled_from(list(Axis)))
    of = (
        level("l")
        if axis is Axis.LEVEL
        else replace(level("l"), axis=axis, low=20 if axis is Axis.LOG else -100, high=20000, default=20, value=20)
    )
    one, other = (data.draw(envelopes(axis)) for _ in "ab")
    pair = comparison.compared(side(one, of), side(other, of), LENGTH)
    drawn = comparison.difference(pair)
    at = probes(one, other)
    assert np.abs(drawn.at(at) - (other.coordinate_at(at) - one.coordinate_at(at))).max() <= 0.0011
    seen = np.abs(editing.cut(drawn, 0, LENGTH).envelope.values)
    assert abs(float(seen.max()) - pair.largest) < 0.0011


@given(st.data())
def test_of_two_states_just_what_was_changed_differs_by_as_much_as_it_was(data):
    session = data.draw(sessions())
    again = [replace(x, envelope=Envelope(*x.envelope.copies(), x.envelope.axis)) for x in session.lanes]
    assert comparison.revisions_compared(session, session.with_lanes(again), ("a", "b")) == [], "the same, made anew"
    pans = [x for x in again if x.on_track and session.parameter(x.parameter).family == "pan"]
    assume(pans)
    lane = data.draw(st.sampled_from(pans))
    ticks, values, bends = lane.envelope.copies()
    moved = replace(lane, envelope=Envelope(ticks, values * 0.5 - 150.25, bends, lane.envelope.axis))
    other = session.with_lanes(moved if x.id == lane.id else x for x in again)
    (row,) = comparison.revisions_compared(session, other, ("a", "b"))
    before_all = np.append(ticks[1:] == 0, False)  # the first of two points at the very start
    heard = [*values[~lane.envelope.unheard & ~before_all & (ticks < LENGTH)], lane.envelope.value_at(LENGTH, "left")]
    # y − (y/2 − 150.25) is never 0, and largest at a point, as both curves have the same bends.
    assert row.largest == pytest.approx(max(heard) * 0.5 + 150.25) and row.kind == "changed"


@given(sessions())
def test_tracks_differ_as_a_look_at_every_point_finds(session):
    one, other = session.track("one"), session.track("two")
    rows = comparison.tracks_compared(session, one, other)
    assert [row.one.parameter.id for row in rows] == [p.id for p in one.parameters]
    for row in rows:
        a, b = row.one.envelope, row.other.envelope
        ticks = probes(a, b)
        sides = {"left": ticks[ticks > 0], "right": ticks[ticks < LENGTH]}
        far = max(np.abs(a.coordinate_at(at, s) - b.coordinate_at(at, s)).max() for s, at in sides.items())
        assert row.largest >= far - 1e-9 and (row.same or row.largest > 1e-9)


def test_a_line_spends_its_time_evenly_and_a_hold_all_at_once():
    """Half of 20 beats rising from 0 to 10, half held at 10: a quarter of the time in 0..5, the rest above."""
    curve = Envelope.of([(0, 0), (10 * BEAT, 10)])
    assert time_spent(curve, 20 * BEAT, np.array([0.0, 5.0, 10.0])).tolist() == pytest.approx([0.25, 0.75])
    switch = Envelope.of([(0, 1, HOLD), (5 * BEAT, 3)])
    assert time_spent(switch, 20 * BEAT, np.array([0.0, 2.0, 4.0])).tolist() == pytest.approx([0.25, 0.75])


@given(envelopes(Axis.LINEAR))
def test_time_spent_agrees_with_a_fine_count(curve):
    edges = np.linspace(-100.3, 100.7, 9)  # no value stands on one
    shares = time_spent(curve, LENGTH, edges)
    assert shares.sum() == pytest.approx(1)
    seen = curve.at(np.linspace(0, LENGTH - 1, 20_001).astype(np.int64))
    count, _ = np.histogram(seen, edges)
    assert np.abs(shares - count / len(seen)).max() < 0.01


def test_useful_spans_say_where_they_come_from():
    session = skerry_light.session()
    spans = useful_spans(session, session.parameter("choir.vowel.vowel-filter"))
    assert [s.why for s in spans] == ["described by Vowel filter", "as Kelp choir Vowel filter moves"]
    assert (spans[0].low, spans[0].high) == (300, 3200)
    silent = useful_spans(session, session.parameter("gulls.mute"))
    assert [(s.low, s.high, s.why) for s in silent] == [(0, 1, "as Foghorn Muted moves")], "the Keeper's spans as much"


def test_a_recipe_lands_as_far_from_another_selection_and_finds_its_targets_by_name():
    session = skerry_light.session()
    request = Carry(
        ("L1",), ("choir",), matches=(Match("bell.level", "choir", "leave out"),),
        start=Tick(32 * BEAT), end=Tick(48 * BEAT), at=Tick(40 * BEAT), how="move",
    )  # fmt: skip
    recipe = recipes.kept(session, "carry", request)
    on = recipes.Selection(("L5",), Tick(8 * BEAT), Tick(16 * BEAT))
    again, missing = recipes.used(session, recipe, on)
    assert again == replace(request, lanes=("L5",), start=on.start, end=on.end, at=Tick(16 * BEAT)) and not missing
    elsewhere = Session("e", 64 * BEAT, (Track("k", "Kelp choir", parameters=(level("k.level"),)),))
    again, missing = recipes.used(elsewhere, recipe, on)
    assert (again.targets, again.matches, missing) == (("k",), (), []), "decisions about what is not here are left out"
    onto = replace(request, matches=(Match("bell.level", "choir", "land", "choir.nothing"),))
    assert recipes.used(session, recipes.kept(session, "carry", onto), on)[0].matches == ()
    drive = Retarget("L1", (Target("engine.rumble.rumble-cutoff", 200, 900),), mapping="fit")
    again, missing = recipes.used(elsewhere, recipes.kept(session, "retarget", drive), on)
    assert (again.targets, missing) == ((), ["there is no Engine room Rumble cutoff here"])
    with pytest.raises(RequestError):
        recipes.kept(session, "clear", None)
