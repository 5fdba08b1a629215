"""Ramps say what is heard, at every moment, as near as they promise."""

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st

from tests.strategies import sessions
from velmot.core.curves.axes import SILENCE, Axis
from velmot.core.curves.envelope import Envelope
from velmot.core.curves.segments import HOLD
from velmot.core.parameters.parameter import Family
from velmot.core.session.heard import heard
from velmot.core.time.tempo import TempoEvent, TempoMap
from velmot.core.time.ticks import ticks_of
from velmot.sound.path import _Maker, score_of
from velmot.sound.ramps import CURVE, FLOOR, LINE, SLOPE, STEP, Ramps, factors, of_envelope

TEMPO = TempoMap((TempoEvent(0, 120),))


def same(values):
    return np.asarray(values, dtype=np.float64)


def test_what_each_way_of_reaching_a_value_is_by_hand():
    """Half-way from 1 to 4: straight 2.5, by equal ratios 2; a step has not come yet."""
    for way, middle in ((LINE, 2.5), (CURVE, 2.0), (STEP, 1.0)):
        ramps = Ramps(np.array([0.0, 2.0]), np.array([1.0, 4.0]), np.array([STEP, way]))
        assert ramps.at(np.array([-1.0, 1.0, 2.0, 9.0])) == pytest.approx([1, middle, 4, 4])
        assert ramps.over(np.array([3.0, 4.0])) == 4.0


def test_a_held_step_takes_5_ms_and_a_jump_none():
    held = Envelope.of([(0, -6, HOLD), (ticks_of(2), -12, HOLD)], Axis.LEVEL)
    jump = Envelope.of([(0, -6), (ticks_of(2), -6), (ticks_of(2), -12)], Axis.LEVEL)
    times = np.array([0.999, 1.0, 1.0 + SLOPE / 2, 1.0 + SLOPE])
    for curve, expected in ((held, [-6, -6, -9, -12]), (jump, [-6, -12, -12, -12])):
        assert of_envelope(curve, TEMPO, 0, ticks_of(4), same).at(times) == pytest.approx(expected)


def test_a_straight_fader_is_one_ramp_and_a_bent_one_is_as_near_as_was_asked():
    straight = Envelope.of([(0, 0), (ticks_of(8), -40)], Axis.LEVEL)
    assert len(of_envelope(straight, TEMPO, 0, ticks_of(8), same, CURVE).times) == 2
    bent = Envelope.of([(0, 0, 5.0), (ticks_of(8), -40)], Axis.LEVEL)
    ramps = of_envelope(bent, TEMPO, 0, ticks_of(8), same, CURVE)
    times = np.linspace(0, 4, 1001)
    ticks = np.rint(times * 2 * ticks_of(1)).astype(np.int64)
    off = abs(np.interp(times, ramps.times, ramps.values) - bent.at(ticks))
    assert 0.001 < off.max() <= 0.011 and len(ramps.times) < 400


def test_what_is_straight_over_beats_is_not_over_time_where_the_tempo_glides():
    """60 to 120 bpm over 4 beats: beat 2 comes after 60/15·ln(90/60) = 1.6219 s of 2.7726, and there it is half-way."""
    tempo = TempoMap((TempoEvent(0, 60, True), TempoEvent(ticks_of(4), 120)))
    ramps = of_envelope(Envelope.of([(0, 0), (ticks_of(4), -40)], Axis.LEVEL), tempo, 0, ticks_of(4), same, LINE)
    assert ramps.at(np.array([1.62186]))[0] == pytest.approx(-20, abs=0.011)
    assert ramps.times[-1] == pytest.approx(2.7726, abs=1e-4)


def test_factors_of_silence_by_hand():
    """Into silence and out of it by the floor; held silence is nothing at all."""
    level = Ramps(np.arange(4.0), np.array([0.0, SILENCE, SILENCE, 0.0]), np.array([STEP, CURVE, LINE, CURVE]))
    made = factors(level)
    assert made.at(np.array([0.0, 0.5, 1.5, 2.5, 3.0])) == pytest.approx([1, FLOOR**0.5, 0, FLOOR**0.5, 1])
    assert not [1 for a, b, way in zip(made.values, made.values[1:], made.ways[1:], strict=False)
                if way == CURVE and min(a, b) <= 0], "no exponential ramp begins or ends at 0"  # fmt: skip


@given(st.data())
def test_levels_sound_as_they_are_heard_everywhere(data):
    """Over any session with its groups, regions, silence and tempo: within 0.02 dB but where a step is on its way."""
    session = data.draw(sessions())
    levels = [p for t in session.tracks for p in t.parameters if p.family is Family.LEVEL and p.unit == "dB"]
    maker = _Maker(session, 0, session.length, set())
    for p in levels[:3]:
        curve = heard(session, p.id).envelope
        ramps = maker._level(p.id)
        assert (np.diff(ramps.times) >= 0).all()
        ticks = np.unique(np.linspace(0, session.length, 301).astype(np.int64))
        times, before = session.tempo.seconds(ticks), curve.at(ticks, "left")
        now = curve.at(ticks)
        sounding = 20 * np.log10(np.maximum(ramps.at(times), 1e-9))
        close = np.minimum(abs(sounding - np.maximum(now, SILENCE)), abs(sounding - np.maximum(before, SILENCE)))
        silent = (now <= SILENCE) & (sounding < SILENCE + 0.1)
        steps = session.tempo.seconds(curve.ticks)
        soon = np.searchsorted(steps, times, side="right") - np.searchsorted(steps, times - SLOPE - 1e-6) > 0
        assert ((close < 0.02) | silent | soon).all(), (p.id, close.max())
        assert soon.mean() < 0.9, "most places are no steps"


def test_a_score_is_of_its_span_alone(demo_session):
    """Ramps of a part are those of the whole, cut there."""
    whole = score_of(demo_session, 0, demo_session.length)
    part = score_of(demo_session, ticks_of(32), ticks_of(48))
    times = np.linspace(part.start, part.end - 1e-6, 997)
    for one, other in zip(whole.channels, part.channels, strict=True):
        for a, b in zip((*one.gains, *one.pan), (*other.gains, *other.pan), strict=True):
            assert b.parameter == a.parameter
            assert b.ramps.at(times) == pytest.approx(a.ramps.at(times), abs=2e-3)
            assert len(b.ramps.times) <= len(a.ramps.times)
