"""Retargeting: worked examples by hand, and what must hold for every mapping."""

from dataclasses import replace

import numpy as np
import pytest
from hypothesis import assume, given
from hypothesis import strategies as st

from tests.strategies import LENGTH, envelopes, probes
from velmot.core.curves.axes import Axis
from velmot.core.curves.envelope import Envelope
from velmot.core.curves.segments import HOLD
from velmot.core.errors import RequestError
from velmot.core.parameters.parameter import Family, Kind, Label, Parameter, level, mute, pan
from velmot.core.session.session import Session
from velmot.core.session.track import Lane, Mode, Region, Track
from velmot.core.time.ticks import TICKS_PER_BEAT as BEAT
from velmot.core.time.ticks import Tick
from velmot.core.verbs import plan
from velmot.core.verbs.retarget.request import Retarget, Target

WORDS = tuple(Label(float(n), word) for n, word in enumerate(("low", "mid", "high")))


def session(envelope: Envelope, of: str = "l", mode: Mode = Mode.READ) -> Session:
    """One track with a source of each kind, and a target track with a filter, a selector, a send and a mute."""
    cut = Parameter(
        "f", "Cutoff", Family.DEVICE, unit="Hz", axis=Axis.LOG, low=20, high=20000, default=1000, value=1000
    )
    step = Parameter("s", "Selector", Family.DEVICE, Kind.STEPPED, high=2, labels=WORDS)
    one = Track("one", "One", parameters=(level("l"), pan("p"), mute("m")))
    two = Track("two", "Two", mode=mode, parameters=(cut, step, level("x", "Send", -20.0), mute("n")))
    return Session("s", 64 * BEAT, (one, two), (Lane("L", of, "track", envelope),)).checked()


def landed(envelope, target, of="l", **fields):
    made = session(envelope, of)
    change = plan(made, "retarget", Retarget("L", (target,), **fields))
    return change, change.applied_to(made).lane_at(target.parameter).envelope


def at(envelope, *beats):
    return envelope.at(np.array([round(b * BEAT) for b in beats])).tolist()


RISE = Envelope.of([(0, -24), (20 * BEAT, -3.5)], Axis.LEVEL)


def test_a_level_onto_a_filter_is_fitted_in_octaves():
    """−24 to −3.5 dB onto 200 Hz to 6.4 kHz: five octaves, so half way, at −13.75 dB, 200·2^2.5 = 1131.37 Hz."""
    change, curve = landed(RISE, Target("f", 200, 6400))
    assert at(curve, 0, 4, 10, 16) == pytest.approx([200, 400, 1131.370849898476, 3200])
    assert (
        change.title.startswith("Retarget One Level, whole, to Two Cutoff, the same place, fitted") and len(curve) == 2
    )
    _, curve = landed(RISE, Target("f", 200, 6400), upside_down=True)
    assert at(curve, 0, 10) == pytest.approx([6400, 1131.370849898476])


def test_a_bend_stays_the_same_bend():
    bent = Envelope.of([(0, -24, 2.5), (20 * BEAT, -3.5)], Axis.LEVEL)
    _, curve = landed(bent, Target("f", 200, 6400), start=Tick(0), end=Tick(20 * BEAT))
    assert curve.bends[0] == 2.5


def test_the_same_number_and_movement_around_an_anchor():
    _, curve = landed(RISE, Target("x"), mapping="unit")
    assert at(curve, 0, 10) == pytest.approx([-24, -13.75])
    _, curve = landed(RISE, Target("f"), mapping="around", anchor=-13.75, to_anchor=440, depth=0.1)
    assert at(curve, 10) == pytest.approx([440]) and at(curve, 0) == pytest.approx([440 * 2**-1.025])


def test_a_pan_sweep_onto_a_selector_of_three_steps_with_hysteresis():
    """From −100 to 100 in 8 beats and back: steps at 0.6 and 1.6 going up, 1.4 and 0.4 going down,
    that is at pan −40 (beat 2.4), 60 (6.4), 40 (10.4) and −60 (14.4)."""
    sweep = Envelope.of([(0, -100), (8 * BEAT, 100), (16 * BEAT, -100)])
    _, curve = landed(sweep, Target("s", 0, 2), "p", hysteresis=0.2, start=Tick(0), end=Tick(16 * BEAT))
    assert [round(t / BEAT, 6) for t in curve.ticks.tolist()] == [0, 2.4, 6.4, 10.4, 14.4, 16]
    assert at(curve, 0, 2.39, 2.41, 6.5, 10.3, 10.5, 14.5) == [0, 0, 1, 2, 2, 1, 0]


def test_steps_on_a_log_axis_change_half_way_in_octaves():
    """Bands at 100, 200 and 800 Hz: between them it turns at 141 and 400 Hz, 1/6 and 2/3 of the three octaves up."""
    words = tuple(Label(float(hz), f"{hz} Hz") for hz in (100, 200, 800))
    band = Parameter("b", "Band", Family.DEVICE, Kind.STEPPED, "Hz", Axis.LOG, 100, 800, 100, 100, words)
    made = session(Envelope.of([(0, -100), (12 * BEAT, 100)]), "p")
    made = made.with_tracks([made.tracks[0], replace(made.tracks[1], parameters=(band,))])
    request = Retarget("L", (Target("b"),), Tick(0), Tick(12 * BEAT), mapping="range")
    curve = plan(made, "retarget", request).applied_to(made).lane_at("b").envelope
    assert at(curve, 1.99, 2.01, 7.99, 8.01) == [100, 200, 200, 800]


def test_a_mute_onto_a_level_and_a_level_onto_a_mute():
    switch = Envelope.of([(0, 0, HOLD), (4 * BEAT, 1, HOLD), (8 * BEAT, 0)])
    _, curve = landed(switch, Target("x", -96, 0), "m", upside_down=True)
    assert at(curve, 2, 5, 9) == [0, -96, 0]
    _, curve = landed(RISE, Target("n", 0, 1))
    assert at(curve, 9.9, 10.1) == [0, 1], "muted above the middle of its span"


def test_silence_is_no_frequency():
    quiet = Envelope.of([(0, -96, HOLD), (10 * BEAT, -24), (20 * BEAT, -4)], Axis.LEVEL)
    change, curve = landed(quiet, Target("f", 200, 6400), start=Tick(0), end=Tick(20 * BEAT))
    assert at(curve, 5, 10) == pytest.approx([20, 200]) and "silence" in [c.code for c in change.cautions]


def test_moving_into_its_own_range_reads_the_source_first():
    _, curve = landed(
        RISE, Target("x"), mapping="unit", how="move", start=Tick(0), end=Tick(20 * BEAT), at=Tick(10 * BEAT)
    )
    assert at(curve, 5, 10, 20) == pytest.approx([-20, -24, -13.75])


def test_what_is_moved_whole_is_gone_from_where_it_was():
    """A whole lane leaves no straight line behind that would go on being heard; onto itself it stays."""
    made = session(RISE)
    change = plan(made, "retarget", Retarget("L", (Target("x"),), mapping="unit", how="move"))
    assert [x.parameter for x in change.applied_to(made).lanes] == ["x"]
    itself = plan(made, "retarget", Retarget("L", (Target("l"),), mapping="unit", how="move"))
    assert itself.applied_to(made).lane("L").envelope.at(np.array([0, 10 * BEAT])).tolist() == [-24, -13.75]
    region = Region("r", "r", 0, 20 * BEAT)
    inside = made.with_tracks([replace(made.tracks[0], regions=(region,)), made.tracks[1]])
    inside = inside.with_lanes([Lane("L", "l", "r", RISE)])
    moved = plan(inside, "retarget", Retarget("L", (Target("l"),), mapping="unit", how="move")).applied_to(inside)
    assert [x.home for x in moved.lanes] == ["track"]


@pytest.mark.parametrize(
    ("envelope", "target", "fields", "code"),
    [
        (RISE, Target("f", 400, 400), {}, "fit-equal"),
        (RISE, Target("f", 0, 400), {}, "value-range"),
        (Envelope.constant(-3.0, Axis.LEVEL), Target("f", 200, 400), {}, "nothing-moves"),
        (RISE, Target("f"), {"mapping": "unit"}, "unit-differs"),
        (RISE, Target("f"), {"at": Tick(99 * BEAT)}, "at-outside"),
        (RISE, Target("s", 0, 2), {"hysteresis": 3.0}, "hysteresis"),
    ],
)
def test_mappings_that_make_no_sense(envelope, target, fields, code):
    with pytest.raises(RequestError) as caught:
        landed(envelope, target, **fields)
    assert caught.value.code == code and caught.value.accepted


@given(envelopes(Axis.LEVEL).filter(lambda e: np.ptp(np.maximum(e.values, -90)) > 1 and e.values.min() > -96))
def test_fitted_there_and_back_is_the_same_curve(curve):
    made = session(curve)
    low, high = curve.extremes(0, LENGTH)
    assume(high - low > 1)
    there = plan(made, "retarget", Retarget("L", (Target("f", 100, 3200),))).applied_to(made)
    back = Retarget(there.lane_at("f").id, (Target("x", low, high),), Tick(0), Tick(LENGTH))
    again = plan(there, "retarget", back).applied_to(there).lane_at("x").envelope
    seen = there.lane_at("f").envelope.extremes(0, LENGTH)
    ticks = probes(curve)
    ticks = ticks[ticks < LENGTH]
    assert seen == pytest.approx((100, 3200))
    assert np.allclose(again.coordinate_at(ticks), curve.coordinate_at(ticks), rtol=0, atol=1e-6)


@given(st.lists(st.floats(-100, 100), min_size=2, max_size=20), st.floats(0, 0.9))
def test_steps_follow_the_nearest_within_the_hysteresis(values, hysteresis):
    sweep = Envelope.of([(n * BEAT, v) for n, v in enumerate(values)])
    if not sweep.moves(0, len(values) * BEAT):
        return
    _, curve = landed(sweep, Target("s"), "p", mapping="range", hysteresis=hysteresis)
    ticks = np.arange(0, (len(values) - 1) * BEAT, BEAT // 8)
    exact = (sweep.at(ticks) + 100) / 100
    assert np.abs(curve.at(ticks) - exact).max() <= 0.5 + hysteresis / 2 + 1e-6
