"""Working on points: hand-made cases with numbers, and what must hold for every lane."""

from dataclasses import replace

import numpy as np
import pytest
from hypothesis import assume, given
from hypothesis import strategies as st

from tests.strategies import LENGTH, envelopes, probes, sessions
from velmot.core.curves.axes import Axis
from velmot.core.curves.envelope import Envelope
from velmot.core.curves.segments import HOLD
from velmot.core.curves.sums import TOLERANCE, sum_axis
from velmot.core.errors import RequestError
from velmot.core.parameters.mean import time_weighted_mean
from velmot.core.parameters.parameter import Family, Kind, Label, Parameter, level, mute
from velmot.core.session.session import Session
from velmot.core.session.track import Lane, Track
from velmot.core.time.ticks import TICKS_PER_BEAT as BEAT
from velmot.core.time.ticks import Tick
from velmot.core.verbs import plan
from velmot.core.verbs.clear.request import Clear
from velmot.core.verbs.draw.request import Draw
from velmot.core.verbs.frame.held_points import found_again
from velmot.core.verbs.paste.request import Clip, Paste
from velmot.core.verbs.points.request import AddPoints, MovePoints, RemovePoints, SetValues, ShapeSegments, Spot
from velmot.core.verbs.request import ClipPoint, Picked
from velmot.core.verbs.shape.request import RaiseSpan
from velmot.site.demo import skerry_light


def session(*rows, other=True) -> Session:
    """Bell: a level with points at beats (value dB), a mute from beat 4 to 8; Choir: a bare level."""
    rows = rows or ((0, -20), (10, -10), (20, -10), (30, -30))
    envelope = Envelope.of([(round(b * BEAT), *rest) for b, *rest in rows], Axis.LEVEL)
    bell = Track("bell", "Bell", parameters=(level("l"), mute("m")))
    choir = Track("choir", "Choir", parameters=(level("c", value=-7.0),))
    muted = Lane("M", "m", "track", Envelope.of([(0, 0, HOLD), (4 * BEAT, 1, HOLD), (8 * BEAT, 0)]))
    return Session("s", 64 * BEAT, (bell, choir), (Lane("L", "l", "track", envelope), muted)).checked()


def after(request, verb, on=None, lane="L"):
    change = plan(on or session(), verb, request)
    return change, change.applied_to(on or session()).lane(lane).envelope


def rows(envelope):
    return [(t / BEAT, v) for t, v, _ in envelope.points()]


def at(envelope, *beats):
    return envelope.at(np.array([round(b * BEAT) for b in beats])).tolist()


def beats(n) -> Tick:
    return Tick(round(n * BEAT))


def test_moving_two_points_in_time_and_value():
    _, curve = after(MovePoints((Picked("L", (1, 2)),), beats(2), 3.0), "move points")
    assert rows(curve) == [(0, -20), (12, -7), (22, -7), (30, -30)]


def test_points_stop_at_their_neighbours_and_say_so():
    change, curve = after(MovePoints((Picked("L", (1,)),), beats(15)), "move points")
    assert rows(curve)[1] == (20, -10) and [c.code for c in change.cautions] == ["stopped"]
    change, curve = after(MovePoints((Picked("L", (0,)),), beats(-3)), "move points")
    assert rows(curve)[0] == (0, -20), "not before the start"


def test_values_beyond_the_range_are_limited_and_counted():
    change, curve = after(MovePoints((Picked("L", (1, 2)),), Tick(0), 40.0), "move points")
    assert [v for _, v in rows(curve)][1:3] == [12, 12]
    assert [c.message for c in change.cautions] == ["2 values limited to −∞ dB to 12.0 dB"]


@pytest.mark.parametrize(
    ("text", "values"),
    [("-3", [-13, -33]), ("+2", [-8, -28]), ("*0.5", [-5, -15]), ("=-3", [-3, -3]), ("-3 dB", [-3, -3]), ("6", [6, 6]),
     ("-inf", [-96, -96])],
)  # fmt: skip
def test_typed_values(text, values):
    _, curve = after(SetValues((Picked("L", (2, 3)),), text), "set values")
    assert curve.values[2:].tolist() == pytest.approx(values)


def test_adding_a_point_keeps_the_curve_around_it_and_can_make_a_lane():
    _, curve = after(AddPoints("l", (Spot(beats(5), -15.0),)), "add points")
    assert at(curve, 2.5, 5, 7.5) == pytest.approx([-17.5, -15, -12.5])
    change = plan(session(), "add points", AddPoints("c", (Spot(beats(5), -3.0),)))
    assert change.lanes[0].before is None and rows(change.lanes[0].after.envelope) == [(5, -3)]


def test_removing_and_shaping():
    _, curve = after(RemovePoints((Picked("L", (1, 2)),)), "remove points")
    assert at(curve, 15) == pytest.approx([-25])
    _, curve = after(ShapeSegments((Picked("L", (0,)),), float(np.log(9))), "shape segments")
    assert at(curve, 5) == pytest.approx([-17.5]), "a quarter of the way after half the time"
    change, curve = after(ShapeSegments((Picked("M", (0,)),), 2.0), "shape segments", lane="M")
    assert [c.code for c in change.cautions] == ["holds-only"] and change.empty


def test_raising_a_sentence_by_4_db_with_ramps():
    """Beats 12 to 18 up by 4 dB, led in over 2 beats and out over 1; outside nothing moves."""
    _, curve = after(RaiseSpan(("L",), beats(12), beats(18), 4.0, beats(2), beats(1)), "raise")
    assert at(curve, 9, 10, 11, 12, 15, 18, 18.5, 19, 25) == pytest.approx([-11, -10, -8, -6, -6, -6, -8, -10, -20])


def test_an_amount_belongs_to_a_unit_and_lanes_of_others_stay_and_are_named():
    on = skerry_light.session()
    both = RaiseSpan(("L1", "L2", "L4"), beats(34), beats(36), 2.0)
    for unit, moved in ((None, "L1"), ("dB", "L1"), ("octaves", "L4"), ("", "L2")):
        change = plan(on, "raise", replace(both, unit=unit))
        assert [s.id for s in change.lanes] == [moved]
        assert {c.lane for c in change.cautions if c.code == "other-unit"} == {"L1", "L2", "L4"} - {moved}
    assert change.cautions[0].message == "Bell buoy Level is in dB, not in plain numbers: it stays"
    assert plan(on, "raise", replace(both, unit="octaves")).title.startswith(
        "Raise 3 lanes from 9.3.00 to 10.1.00 by 2.00 octaves"
    )
    with pytest.raises(RequestError) as caught:
        plan(on, "raise", replace(both, unit="Hz"))
    assert (caught.value.code, caught.value.accepted) == ("unit", "dB, plain numbers, octaves")


def test_raising_keeps_silence_silent_and_counts_what_is_limited():
    silent = session((0, -96, HOLD), (10, -10), (20, -10))
    change, curve = after(RaiseSpan(("L",), beats(0), beats(30), 30.0), "raise", silent)
    assert at(curve, 5, 15) == [-96, 12] and [c.code for c in change.cautions] == ["limited"]


@pytest.mark.parametrize(
    ("way", "values"), [("seal", [-12, -12, -11, -10, -10]), ("bridge", [-17.2, -16, -13, -10.4, -10])]
)
def test_clearing_a_range_both_ways(way, values):
    """Beats 8 to 18 of −20 → −10 (beat 10) → −10: sealed it runs from −12 to −10, bridged from beat 0 to 20."""
    on = session((0, -20), (10, -10), (12, 0), (20, -10), (30, -30)) if way == "bridge" else session()
    start = 8 if way == "seal" else 7
    _, curve = after(Clear("range", ("L",), (), beats(start), beats(18), way), "clear", on)
    if way == "seal":
        assert at(curve, 8, 13, 18, 25) == pytest.approx([-12, -11, -10, -20])
        assert at(curve, 4) == pytest.approx([-16])
    else:
        assert at(curve, 0, 10, 20, 25) == pytest.approx([-20, -15, -10, -20])


@pytest.mark.parametrize(("static", "value"), [("default", 0), ("cursor", -20), ("mean", -22.96875), ("keep", 0)])
def test_clearing_a_track_says_what_it_takes_and_rests_where_asked(static, value):
    """The mean: (−15·10 − 10·10 − 20·10 − 30·34)/64 = −1470/64 = −22.96875 dB."""
    change = plan(session(), "clear", Clear("tracks", (), ("bell",), static=static, cursor=beats(25)))
    assert change.cautions[0].message == "Takes 2 lanes with 7 points"
    result = change.applied_to(session())
    assert result.lanes == ()
    assert result.parameter("l").value == pytest.approx(value)


def test_each_scope_takes_only_what_it_names():
    assert [s.id for s in plan(session(), "clear", Clear("lanes", ("L",))).lanes] == ["L"]
    assert {s.id for s in plan(session(), "clear", Clear("session")).lanes} == {"L", "M"}
    with pytest.raises(RequestError, match="there is no lane to clear here"):
        plan(session(), "clear", Clear("tracks", (), ("choir",)))


def test_the_mean_of_a_bend_by_hand():
    """From 0 to 8 with k = ln 9: 8·(1/ln 9 − 1/8) = 8·0.330120 = 2.640957."""
    curve = Envelope.of([(0, 0.0, float(np.log(9))), (10, 8.0)])
    assert time_weighted_mean(curve, level("x", low=-96.0), 0, 10) == pytest.approx(8 * (1 / np.log(9) - 1 / 8))


def test_drawing_a_line_replaces_what_lies_under_it():
    _, curve = after(Draw("l", (Spot(beats(25), -5.0), Spot(beats(5), -9.0))), "draw")
    assert at(curve, 4, 5, 15, 25, 27) == pytest.approx([-16, -9, -7, -20, -24])
    assert float(curve.at(25 * BEAT, "left")) == pytest.approx(-5)


def test_drawing_on_a_switch_steps_between_its_words():
    _, curve = after(
        Draw("m", tuple(Spot(beats(b), v) for b, v in ((10, 0.1), (12, 0.2), (14, 0.9), (16, 1)))), "draw", lane="M"
    )
    assert at(curve, 10, 13, 14, 15, 16) == [0, 0, 1, 1, 0]


def clip(**more) -> Clip:
    fields = {"track": "Bell", "name": "Level", "family": "level", "kind": "continuous", "unit": "dB", "axis": "level"}
    points = (ClipPoint(Tick(0), -3.0), ClipPoint(beats(4), -9.0))
    source = level("x")
    known = {"family": source.family, "kind": source.kind, "axis": source.axis}
    return Clip(**(fields | known | {"low": -96.0, "high": 12.0, "points": points} | more))


def test_pasting_to_the_same_place_another_place_and_onto_another_parameter():
    _, curve = after(Paste((clip(),), beats(40), beats(4)), "paste")
    assert at(curve, 39, 40, 42, 44) == pytest.approx([-30, -3, -6, -30])
    _, curve = after(Paste((clip(),), beats(40), beats(4), beats(50)), "paste")
    assert at(curve, 40, 52) == pytest.approx([-30, -6])
    change = plan(session(), "paste", Paste((clip(),), beats(40), beats(4), onto="c"))
    assert change.touched[0].parameter == "c"


def test_pasting_onto_other_units_is_offered_and_never_silent():
    percent = clip(
        unit="%", axis=Axis.LINEAR, low=0.0, high=100.0, points=(ClipPoint(Tick(0), 50.0), ClipPoint(beats(4), 100.0))
    )
    with pytest.raises(RequestError) as caught:
        plan(session(), "paste", Paste((percent,), beats(40), beats(4)))
    assert caught.value.code == "unit-differs" and "the same position in the range" in caught.value.accepted
    _, curve = after(Paste((percent,), beats(40), beats(4), how="range"), "paste")
    assert at(curve, 40) == pytest.approx([-42]), "half way from −96 to 12"


@pytest.mark.parametrize(
    ("fields", "code", "accepted"),
    [
        ({"unit": "Hz", "axis": Axis.LOG, "low": 0.0}, "clip-range", "above 0"),
        ({"low": 12.0, "high": 12.0}, "clip-range", "low below high"),
        ({"low": -40.0, "high": -30.0}, "clip-value", "-40 to -30"),
    ],
)
def test_a_clip_that_no_lane_can_have_been_is_refused(fields, code, accepted):
    with pytest.raises(RequestError) as caught:
        plan(session(), "paste", Paste((clip(**fields),), beats(40), beats(4), how="range"))
    assert caught.value.code == code and accepted in caught.value.accepted


def test_a_pasted_step_holds_to_the_end_of_the_range():
    """One point half a beat into four: before it its value holds too, after them all comes the lane's own again."""
    words = tuple(Label(float(v), text) for v, text in enumerate(("off", "light", "heavy")))
    step = Parameter("s", "Step", Family.DEVICE, kind=Kind.STEPPED, low=0, high=2, labels=words)
    lane = Lane("S", "s", "track", Envelope.of([(0, 2, HOLD), (beats(20), 0, HOLD)]))
    made = Session("steps", beats(32), (Track("t", "T", parameters=(step,)),), (lane,)).checked()
    one = Clip("T", "Step", step.family, step.kind, "", step.axis, 0.0, 2.0, (ClipPoint(beats(0.5), 1.0),))
    curve = plan(made, "paste", Paste((one,), beats(8), beats(4))).applied_to(made).lane("S").envelope
    assert at(curve, 7.9, 8, 11.9, 12, 21) == [2, 1, 1, 2, 0]


@given(st.data())
def test_sums_are_exact_or_within_the_stated_error(data):
    one, other = (data.draw(envelopes(Axis.LINEAR)) for _ in "ab")
    total = sum_axis(one, other)
    ticks = probes(one, other, total)
    for side in ("left", "right"):
        wanted = one.coordinate_at(ticks, side) + other.coordinate_at(ticks, side)
        assert np.abs(total.coordinate_at(ticks, side) - wanted).max() <= TOLERANCE * 1.01


@given(st.data())
def test_no_verb_touches_what_it_does_not_name_or_makes_what_cannot_be(data):
    random = data.draw(sessions())
    assume(random.lanes)
    lane = data.draw(st.sampled_from(random.lanes))
    count = len(lane.envelope)
    picked = (Picked(lane.id, tuple(data.draw(st.sets(st.integers(0, count - 1), min_size=1)))),)
    start = data.draw(st.integers(0, LENGTH - 2))
    end = data.draw(st.integers(start + 1, LENGTH))
    verb, request = data.draw(
        st.sampled_from(
            [
                (
                    "move points",
                    MovePoints(picked, Tick(data.draw(st.integers(-LENGTH, LENGTH))), data.draw(st.floats(-9, 9))),
                ),
                ("remove points", RemovePoints(picked)),
                ("shape segments", ShapeSegments(picked, data.draw(st.none() | st.floats(-9, 9)))),
                (
                    "raise",
                    RaiseSpan((lane.id,), Tick(start), Tick(end), data.draw(st.floats(-9, 9)), Tick(99), Tick(9)),
                ),
                (
                    "clear",
                    Clear(
                        "range", (lane.id,), (), Tick(start), Tick(end), data.draw(st.sampled_from(["seal", "bridge"]))
                    ),
                ),
            ]
        )
    )
    change = plan(random, verb, request)
    result = change.applied_to(random)
    assert [x for x in result.lanes if x.id != lane.id] == [x for x in random.lanes if x.id != lane.id]
    now = result.lane_at(lane.parameter, lane.home)
    if now and change.touched:
        (t,) = change.touched
        one, other = random.in_session_time(lane), result.in_session_time(now)
        ticks = probes(one, other, extra=(t.start, t.end))
        low, high = random.span(lane)
        ticks = ticks[((ticks < t.start) | (ticks >= t.end)) & (ticks >= low) & (ticks < high)]
        gap = np.abs(one.coordinate_at(ticks) - other.coordinate_at(ticks))
        assert gap.max(initial=0) < 1e-9


@pytest.mark.parametrize(
    ("now", "index", "found"),
    [
        (((0, -20), (5, -9), (10, -10), (20, -10)), 1, 2),  # one more came before it
        (((10, -30), (20, -10)), 1, 0),  # one before it went, and it has another value
        (((0, -20), (12, -10), (20, -10)), 1, None),  # it went elsewhere
        (((0, -20), (10, -1), (10, -10), (20, -10)), 1, 2),  # a jump now: the one with its value
        (((0, -20), (10, -1), (10, -2), (20, -10)), 1, None),
    ],
)
def test_a_held_point_is_found_again_or_the_step_is_refused(now, index, found):
    then, request = session(), MovePoints((Picked("L", (index,)),), beats(1), 0.0)
    if found is None:
        with pytest.raises(RequestError, match="point 2 of Bell Level, which was held") as refused:
            found_again(request, then, [({}, session(*now))])
        assert refused.value.code == "held-gone"
        return
    again = found_again(request, then, [({}, session(*now))])
    assert again == replace(request, picked=(Picked("L", (found,)),))


def test_of_two_points_on_a_beat_the_held_one_keeps_its_turn():
    then = session((0, -20), (10, -10), (10, -4), (20, -10))
    request = MovePoints((Picked("L", (1, 2)),), beats(0), 1.0)
    now = session((0, -20), (3, -3), (10, -6), (10, -5), (20, -10))
    assert found_again(request, then, [({}, now)]).picked == (Picked("L", (2, 3)),)


def test_a_held_point_goes_along_where_it_was_moved_itself():
    then, request = session((0, -20), (10, -10), (20, -10)), RemovePoints((Picked("L", (1,)),))
    moved, more = session((0, -20), (12, -10), (20, -10)), session((0, -20), (5, 0), (12, -10), (20, -10))
    step = {"verb": "move points", "picked": [{"lane": "L", "points": [1]}], "by": 2}
    assert found_again(request, then, [(step, moved)]) == request
    assert found_again(request, then, [(step, moved), ({"verb": "add points"}, more)]).picked == (Picked("L", (2,)),)
    with pytest.raises(RequestError, match="no longer where it was"):
        found_again(request, then, [({"verb": "carry"}, moved)])
