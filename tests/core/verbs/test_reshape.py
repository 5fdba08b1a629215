"""Reshape and same values: rails as they are asked for, exact where they are parallel, and nothing moved outside."""

import numpy as np
import pytest
from hypothesis import example, given
from hypothesis import strategies as st

from tests.strategies import LENGTH, envelopes, probes, ranges
from velmot.core.curves.axes import Axis
from velmot.core.curves.editing import cut
from velmot.core.curves.envelope import Envelope
from velmot.core.curves.rails import Map, Rails, led, maps_between, moved, rails_of
from velmot.core.curves.segments import HOLD
from velmot.core.errors import RequestError
from velmot.core.parameters.parameter import Family, Label, Parameter, level, mute, pan
from velmot.core.session.session import Session
from velmot.core.session.track import Lane, Region, Track
from velmot.core.time.ticks import TICKS_PER_BEAT as BEAT
from velmot.core.time.ticks import Tick
from velmot.core.verbs import plan
from velmot.core.verbs.request import Picked
from velmot.core.verbs.shape.request import Ends, Move, Reshape, SameValues
from velmot.core.verbs.shape.reshape import railed

CUTOFF = Parameter(
    "f", "Cutoff", Family.DEVICE, unit="Hz", axis=Axis.LOG, low=20.0, high=20000.0, default=200.0, value=200.0
)


def line(*rows, axis=Axis.LEVEL):
    return Envelope.of([(round(beat * BEAT), value, *rest) for beat, value, *rest in rows], axis)


def session(*rows, extra=()) -> Session:
    """A level with a lane, a pan, a cutoff and a mute with lanes of their own, on one track of 16 beats."""
    lanes = (
        Lane("L", "l", "track", line(*rows or [(0, -12.0), (2, -6.0), (4, -9.0)])),
        Lane("P", "p", "track", line((0, -100.0), (4, 100.0), axis=Axis.LINEAR)),
        Lane("F", "f", "track", line((0, 100.0), (4, 100.0), axis=Axis.LOG)),
        Lane("M", "m", "track", line((0, 0.0, HOLD), (4, 1.0), axis=Axis.LINEAR)),
    )
    track = Track(
        "t",
        "Voice",
        parameters=(level("l", value=-3.0), pan("p", value=10.0), CUTOFF, mute("m")),
        regions=(Region("r", "take", 8 * BEAT, 4 * BEAT),),
    )
    return Session("s", 16 * BEAT, (track, Track("u", "Bed", parameters=(level("ul", value=-6.0),))), (*lanes, *extra))


def reshaped(request, on=None, lane="L"):
    on = on or session()
    change = plan(on, "reshape", request)
    return change, change.applied_to(on).lane(lane).envelope


def over(lane, move, start=0, end=5, **more):
    return Reshape((lane,), Tick(round(start * BEAT)), Tick(round(end * BEAT)), (move,), **more)


def at(curve, *beats):
    return curve.at(np.array([round(b * BEAT) for b in beats])).tolist()


def test_half_about_a_value():
    """−12, −6, −9 at half about −9: −10.5, −7.5, −9; a pan of ±100 at half about 0: ±50."""
    change, curve = reshaped(over("L", Move("dB", times=0.5, pivot="value", about=-9.0)))
    assert at(curve, 0, 2, 4) == [-10.5, -7.5, -9.0] and change.cautions == ()
    assert change.title == "Reshape Voice Level from 1.1.00 to 2.2.00: 50 % about −9.0 dB"
    _, curve = reshaped(over("P", Move("", times=0.5, pivot="value")), lane="P")
    assert curve.extremes(0, 4 * BEAT) == (-50, 50)


def test_a_rail_typed_at_its_end():
    """Rails from (−12, −6) to (−12, −6) at the start and (−9, −9) at the end over 0 to 4: −12 at 0, −7.5 at 2, −9 at 4."""
    change, curve = reshaped(over("L", Move("dB", to=Ends(-12.0, -9.0, -6.0, -9.0)), end=4))
    assert at(curve, 0, 2, 3.999999, 4) == pytest.approx([-12, -7.5, -9, -9], abs=1e-5)
    assert [c.code for c in change.cautions] == ["pieces"]


@pytest.mark.parametrize(
    ("pivot", "values"),
    [("middle", [-15, -3, -9]), ("mean", [-15.75, -3.75, -9.75]), ("rest", [-21, -9, -15])],
)
def test_twice_about_each_pivot(pivot, values):
    """Rails −12 and −6, middle −9; over four beats the mean is (−9 · 2 − 7.5 · 2)/4 = −8.25; the resting value −3."""
    _, curve = reshaped(over("L", Move("dB", times=2.0, pivot=pivot), end=4))
    assert at(curve, 0, 2)[:2] == pytest.approx(values[:2])
    assert curve.value_at(4 * BEAT, "left") == pytest.approx(values[2])


def test_one_rail_and_one_end_by_itself():
    """The high rail 3 dB lower squashes from above: the middle of the way, −9, by half of it; a flat lane goes along."""
    _, curve = reshaped(over("L", Move("dB", shift=Ends(high_start=-3.0, high_end=-3.0)), end=4))
    assert at(curve, 0, 1, 2) == pytest.approx([-12, -10.5, -9])
    _, flat = reshaped(over("F", Move("octaves", shift=Ends(high_end=2.0)), end=4), lane="F")
    assert flat.value_at(0) == pytest.approx(100) and flat.value_at(4 * BEAT, "left") == pytest.approx(400)
    assert flat.value_at(2 * BEAT) == pytest.approx(200) and flat.value_at(4 * BEAT) == 100


def test_ramps_lead_in_and_out_and_a_scale_is_led_too():
    """−9 to the left of beat 6 and 4 dB up from there: half way through a ramp of 2 beats, 2 dB."""
    change, curve = reshaped(over("L", Move("dB", by=4.0), 6, 8, before=Tick(2 * BEAT), after=Tick(BEAT)))
    assert at(curve, 3, 4, 5, 6, 7, 8.5, 9) == pytest.approx([-7.5, -9, -7, -5, -5, -7, -9])
    assert change.cautions == ()
    _, curve = reshaped(over("L", Move("dB", times=0.0, pivot="value", about=-6.0), 6, 8, before=Tick(2 * BEAT)))
    assert at(curve, 4, 5, 6, 8) == pytest.approx([-9, -7.5, -6, -9])


def test_amounts_belong_to_units_and_others_stay_until_they_have_theirs():
    two = (Move("dB", by=-2.0), Move("octaves", by=1.0))
    request = Reshape(("L", "P", "F", "M"), Tick(0), Tick(4 * BEAT), two)
    change = plan(session(), "reshape", request)
    assert [s.id for s in change.lanes] == ["L", "F"]
    assert [(c.code, c.lane) for c in change.cautions] == [("other-unit", "P"), ("holds-only", "M")]
    assert change.title == "Reshape 4 lanes from 1.1.00 to 2.1.00: by −2.00 dB, by +1.00 octaves"
    assert change.applied_to(session()).lane("F").envelope.value_at(BEAT) == pytest.approx(200)


def test_a_whole_track_is_2_db_softer_everywhere_and_its_mutes_and_pans_untouched():
    take = Lane("R", "l", "r", line((0, -20.0), (2, -10.0)))
    on = session(extra=(take,))
    change = plan(on, "reshape", Reshape(tracks=("t", "u"), moves=(Move("dB", by=-2.0),)))
    after = change.applied_to(on)
    assert [s.id for s in change.lanes] == ["L", "R"]
    assert after.parameter("l").value == -5.0 and after.parameter("ul").value == -8.0
    assert after.lane("R").envelope.points() == [(0, -22.0, 0.0), (2 * BEAT, -12.0, 0.0)]
    said = [c.message for c in change.cautions if c.code == "sum"]
    assert said == ["Voice Level is heard 2.00 dB lower everywhere", "Bed Level is heard 2.00 dB lower everywhere"]
    stays = plan(on, "reshape", Reshape(("L",), moves=(Move("dB", by=-2.0),), resting=False)).applied_to(on)
    assert stays.parameter("l").value == -3.0 and len(stays.lane("L").envelope) == 3
    region = plan(on, "reshape", Reshape(("R",), moves=(Move("dB", by=-2.0),))).applied_to(on)
    assert region.parameter("l").value == -3.0, "a region's lane has no resting value"


def test_silence_stays_and_what_is_too_far_is_limited():
    on = session((0, -96.0, HOLD), (2, -10.0), (4, -10.0))
    change, curve = reshaped(over("L", Move("dB", by=30.0)), on)
    assert at(curve, 1, 3) == [-96, 12] and [c.code for c in change.cautions] == ["limited"]
    change, curve = reshaped(over("L", Move("dB", shift=Ends(high_end=-20.0)), end=4), on)
    assert at(curve, 1) == [-96] and curve.value_at(4 * BEAT, "left") == pytest.approx(-30)
    only = plan(on, "reshape", over("L", Move("dB", by=3.0), end=2))
    assert only.empty and [c.code for c in only.cautions] == ["silence"]
    low = reshaped(over("F", Move("octaves", by=1e5)), lane="F")[1]
    assert low.value_at(0) == 20000


def test_crossed_rails_stand_upside_down_and_it_is_said():
    change, curve = reshaped(over("L", Move("dB", times=-1.0), end=4))
    assert at(curve, 0, 2) == [-6, -12] and [c.code for c in change.cautions] == ["crossed"]


@pytest.mark.parametrize(
    ("request_", "code"),
    [
        (Reshape(), "lanes-none"),
        (over("L", Move("dB", by=1e9)), "amount"),
        (over("L", Move("dB", to=Ends(low_end=float("nan")))), "amount"),
        (over("L", Move("Hz")), "unit"),
        (Reshape(("L",), moves=(Move("dB"), Move("dB"))), "unit"),
        (over("F", Move("octaves", times=2.0, pivot="value", about=0.0)), "value-range"),
        (over("F", Move("octaves", to=Ends(low_start=-5.0))), "value-range"),
        (over("L", Move("dB"), before=Tick(-1)), "ramp-negative"),
        (over("L", Move("dB"), 4, 4), "range-empty"),
    ],
)
def test_what_cannot_be_is_refused_in_words(request_, code):
    with pytest.raises(RequestError) as caught:
        plan(session(), "reshape", request_)
    assert caught.value.code == code and caught.value.accepted


def test_rails_are_told_before_and_after():
    asked = over("L", Move("dB", times=0.5, by=1.0, shift=Ends(low_end=-2.0)), end=4)
    (one,) = railed(session(), asked)
    assert (one.start, one.end) == (0, 4 * BEAT) and one.before == Rails(-12, -12, -6, -6)
    assert one.after == pytest.approx(Rails(-9.5, -11.5, -6.5, -6.5))
    assert [r.lane for r in railed(session(), over("M", Move("dB")))] == []


# ── properties ────────────────────────────────────────────────────────────────────────────────

gains = st.floats(-3, 3)
lifts = st.floats(-20, 20)
maps = st.builds(Map, gains, lifts)


@given(envelopes(most=12), ranges(), maps, maps)
@example(line((0, 1.0, 3.0), (8, -6.0)), (0, 4 * BEAT), Map(0.0, 1.0), Map(0.0, 2.0))
def test_between_any_two_maps_a_curve_is_within_a_thousandth(curve, span, one, other):
    piece = cut(curve, *span)
    made = moved(piece, one, other)
    ticks = probes(made, piece.envelope)
    ticks = ticks[(ticks >= 0) & (ticks < piece.length)]
    x = ticks / piece.length
    y, silent = piece.envelope.coordinate_at(ticks), curve.axis.silent(piece.envelope.at(ticks))
    gain, lift = (a + (b - a) * x for a, b in zip(one, other, strict=True))
    wanted = np.where(silent, y, gain * y + lift)
    assert np.abs(made.coordinate_at(ticks) - wanted).max() <= 0.001 * (1 + 1e-6)


@given(envelopes(most=12), ranges(), maps, maps, st.integers(0, LENGTH // 8))
def test_outside_the_range_and_its_ramps_nothing_changes(curve, span, one, other, ramp):
    first, last = span
    lead, tail = max(first - ramp, 0), min(last + ramp, LENGTH)
    marks = [(lead, Map(1.0, 0.0)), (first, one), (last, other), (tail, Map(1.0, 0.0))]
    low, high = (1e-3, 1e5) if curve.axis is Axis.LOG else (-1e4, 1e4)
    made, _ = led(curve, marks, low, high)
    ticks = probes(made, curve)
    ticks = ticks[(ticks < lead) | (ticks >= tail)]
    assert np.abs(made.coordinate_at(ticks) - curve.coordinate_at(ticks)).max(initial=0) <= 1e-9


@given(envelopes(most=12), ranges(), st.floats(0.1, 3), lifts)
def test_parallel_rails_keep_the_shape_and_go_back_by_the_inverse(curve, span, times, by):
    rails = rails_of(curve, *span)
    if rails is None:
        return
    new = Rails(*(times * y + by for y in rails))
    one, other = maps_between(rails, new)
    piece = cut(curve, *span)
    made = moved(piece, one, other)
    assert one == other and (len(made) == len(piece.envelope) or piece.envelope.beside_silence().size)
    if curve.axis.silent(made.values).sum() != curve.axis.silent(piece.envelope.values).sum():
        return  # what fell silent stays so
    back = moved(piece.map(lambda _: made), *maps_between(new, rails))
    ticks = probes(piece.envelope)
    ticks = ticks[(ticks >= 0) & (ticks < piece.length)]
    assert np.abs(back.coordinate_at(ticks) - piece.envelope.coordinate_at(ticks)).max() <= 1e-9


def test_no_more_pieces_than_a_thousandth_needs():
    """A line of 12 dB under a gain from 1 to 0 has an arrow of 3 dB; in √(0.001/12) wide steps 1+√2, √8 …, 1+√2 long."""
    made = moved(cut(line((0, -12.0), (4, 0.0)), 0, 4 * BEAT), Map(1, 0), Map(0, 0))
    width = np.sqrt(12 / 0.001)
    assert len(made) - 1 == int(np.ceil((width - 2 * (1 + np.sqrt(2))) / np.sqrt(8))) + 2


# ── same values ───────────────────────────────────────────────────────────────────────────────


def same(on=None, lane="L", **asked):
    on = on or session()
    change = plan(on, "same values", SameValues(**asked))
    return change, change.applied_to(on).lane(lane).envelope


def test_a_range_becomes_one_value_or_its_mean():
    """Over four beats the mean of −12, −6, −9 is −8.25."""
    span = {"lanes": ("L",), "start": Tick(0), "end": Tick(4 * BEAT)}
    change, curve = same(**span)
    assert (
        at(curve, 0, 2, 3.9, 4) == [-8.25, -8.25, -8.25, -9]
        and change.cautions[0].message == "Voice Level: the mean is −8.2 dB"
    )
    change, curve = same(to="value", text="-7 dB", **span)
    assert (
        at(curve, 0, 3.9, 4) == [-7, -7, -9]
        and change.title == "Same values: Voice Level from 1.1.00 to 2.1.00 to -7 dB"
    )
    assert len(same(lanes=("L",), to="value", text="-7")[1]) == 1
    assert same(lanes=("M",), to="value", text="muted", lane="M")[1].points() == [(0, 1.0, 0.0)]


def test_points_to_their_mean_to_a_value_or_rounded():
    picked = (Picked("L", (0, 1)),)
    assert at(same(picked=picked)[1], 0, 2, 4) == [-9, -9, -9]
    assert at(same(picked=picked, to="value", text="-8")[1], 0, 2, 4) == [-8, -8, -9]
    on = session((0, -12.3), (2, -96.0, HOLD), (4, -9.26))
    assert at(same(on, picked=(Picked("L", (0, 2)),), to="step", step=0.5)[1], 0, 4) == [-12.5, -9.5]
    assert same(on, lanes=("L",), to="step", step=5.0)[1].values.tolist() == [-10, -96, -10]
    rounded = same(on, lanes=("L",), to="step", step=5.0, start=Tick(0), end=Tick(BEAT))[1]
    assert at(rounded, 0, 2, 4) == [-10, -96, -9.26]
    assert same(lanes=("F",), lane="F", to="step", step=30.0)[1].values.tolist() == [90, 90]


@pytest.mark.parametrize(
    ("asked", "code"),
    [
        ({}, "lanes-none"),
        ({"lanes": ("L",), "to": "step", "step": 0.0}, "step"),
        ({"lanes": ("F",), "to": "step", "step": 1e6}, "step"),
        ({"lanes": ("L",), "to": "value", "text": "loud"}, "value-unread"),
        ({"lanes": ("L",), "to": "value", "text": "40 dB"}, "value-range"),
    ],
)
def test_values_that_cannot_be_are_refused(asked, code):
    with pytest.raises(RequestError) as caught:
        same(**asked)
    assert caught.value.code == code and caught.value.accepted


def test_labels_are_not_rounded():
    assert [c.code for c in same(lanes=("M",), to="step", lane="M")[0].cautions] == ["holds-only"]
    steps = Parameter("x", "Mode", Family.DEVICE, low=0, high=2, kind="stepped", labels=(Label(0, "a"), Label(2, "c")))
    on = Session(
        "s",
        8 * BEAT,
        (Track("t", "V", parameters=(steps,)),),
        (Lane("X", "x", "track", line((0, 0.0, HOLD), (1, 2.0, HOLD), (2, 2.0), axis=Axis.LINEAR)),),
    )
    assert same(on, "X", picked=(Picked("X", (0, 1, 2)),))[1].values.tolist() == [2, 2, 2]


def test_a_bend_moved_out_of_all_measure_is_refused_at_once_and_not_worked_at_for_minutes():
    bent = session((0, -12.0, 3.0), (4, -6.0))
    ramped = over("L", Move("dB", times=1e5, pivot="value", about=-9.0), 1, 3, before=Tick(BEAT), after=Tick(BEAT))
    with pytest.raises(RequestError, match="takes more than 20,000 points") as caught:
        reshaped(ramped, bent)
    assert caught.value.code == "bend-far" and caught.value.accepted
    reshaped(over("L", Move("dB", times=30.0, pivot="value", about=-9.0), 1, 3, before=Tick(BEAT)), bent)
