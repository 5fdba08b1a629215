"""Time: tempo and meter conversions with numbers by hand, and exact reading of what was written."""

import math
from fractions import Fraction

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st

from velmot.core.errors import RequestError
from velmot.core.time.tempo import Meter, TempoEvent, TempoMap
from velmot.core.time.ticks import MOST_TICKS, TICKS_PER_BEAT, beats_array, beats_of, ticks_array, ticks_of
from velmot.core.time.typed import parse_length, parse_position

# 96 bpm for 32 beats, then a ramp from 96 down to 84 over 16 beats, then 84; one bar of 3/4 as bar 5.
MAP = TempoMap(
    (TempoEvent(0, 96.0), TempoEvent(32 * TICKS_PER_BEAT, 96.0, True), TempoEvent(48 * TICKS_PER_BEAT, 84.0)),
    (Meter(0, 4, 4), Meter(16 * TICKS_PER_BEAT, 3, 4), Meter(19 * TICKS_PER_BEAT, 4, 4)),
)


def test_seconds_by_hand():
    """32 beats at 96 take 20 s; the ramp takes 60·16/(84 − 96)·ln(84/96) = 10.6825 s; one more beat 60/84 s."""
    ramp = 60 * 16 / (84 - 96) * math.log(84 / 96)
    beats = np.array([16, 32, 48, 49]) * TICKS_PER_BEAT
    assert MAP.seconds(beats).tolist() == pytest.approx([10, 20, 20 + ramp, 20 + ramp + 60 / 84])


@given(st.integers(0, 200 * TICKS_PER_BEAT))
def test_seconds_read_back_to_the_tick(tick):
    assert MAP.tick_at(float(MAP.seconds(tick))) == tick


def test_bars_count_on_through_a_change_of_meter():
    assert [str(MAP.position(b * TICKS_PER_BEAT)) for b in (0, 15, 16, 18, 19, 23)] == [
        "1.1.00",
        "4.4.00",
        "5.1.00",
        "5.3.00",
        "6.1.00",
        "7.1.00",
    ]
    starts = MAP.bar_starts(24 * TICKS_PER_BEAT)
    assert [(n, t // TICKS_PER_BEAT) for n, t, _ in starts] == [
        (1, 0),
        (2, 4),
        (3, 8),
        (4, 12),
        (5, 16),
        (6, 19),
        (7, 23),
    ]


@given(st.integers(0, 300), st.integers(1, 4), st.integers(0, 99))
def test_positions_are_read_as_they_are_written(bar, beat, hundredth):
    tick = TempoMap().tick_of(bar + 1, beat) + math.ceil(hundredth * TICKS_PER_BEAT / 100)
    assert parse_position(str(TempoMap().position(tick)), TempoMap()) == pytest.approx(tick, abs=1)


@given(st.integers(0, MOST_TICKS))
def test_beats_read_back_to_the_tick(tick):
    assert ticks_of(beats_of(tick)) == tick
    assert beats_array(np.array([tick])) == [beats_of(tick)]


@given(st.floats(-1e6, 1e6) | st.builds(lambda n: (n + 0.5) / TICKS_PER_BEAT, st.integers(-(10**6), 10**6)))
def test_the_tick_nearest_to_a_position_is_that_of_exact_fractions(beats):
    wanted = round(Fraction(beats) * TICKS_PER_BEAT)
    assert ticks_of(beats) == wanted
    assert ticks_array(np.array([beats, 1e9, 0.0])).tolist() == [wanted, 10**9 * TICKS_PER_BEAT, 0]


@pytest.mark.parametrize(
    ("text", "beats"),
    [("9", 31), ("9.2", 32), ("9.2.50", 32.5), ("20 s", 32), ("0:20", 32), ("33.5 beats", 33.5), ("1.1.5", 0.5)],
)
def test_typed_positions(text, beats):
    assert parse_position(text, MAP) == ticks_of(beats)


@pytest.mark.parametrize("text", ["", "bar nine", "0.1", "9.1.1.1", "-3", "99999999999", "1e9", "9;DROP"])
def test_what_is_no_position_says_what_would_be(text):
    with pytest.raises(RequestError) as caught:
        parse_position(text, MAP)
    assert caught.value.place == "position" and caught.value.accepted


@pytest.mark.parametrize(
    ("text", "start", "beats"),
    [
        ("500 ms", 0, 0.8),
        ("1 bar", 16, 3),
        ("2 beats", 0, 2),
        ("2", 0, 2),
        ("1/8", 0, 0.5),
        ("3/16", 0, 0.75),
        ("1/8 t", 0, Fraction(1, 3)),
        ("1/4t", 0, Fraction(2, 3)),
        ("1/8.", 0, 0.75),
        ("1/2 dotted", 0, 3),
    ],
)
def test_typed_lengths(text, start, beats):
    assert parse_length(text, MAP, start * TICKS_PER_BEAT) == ticks_of(beats)


@pytest.mark.parametrize("text", ["", "1/0", "1/8 x", "1/2000", "999999/1", "-1/8", "1e9"])
def test_what_is_no_length_says_what_would_be(text):
    with pytest.raises(RequestError, match="is not a length") as caught:
        parse_length(text, MAP)
    assert "1/8 t" in caught.value.accepted


def test_the_clock_is_straight_between_its_entries():
    table = MAP.clock(64 * TICKS_PER_BEAT)
    ticks, seconds = np.array([t for t, _ in table]), np.array([s for _, s in table])
    probe = np.arange(0, 64 * TICKS_PER_BEAT, 33333)
    assert np.abs(np.interp(probe, ticks, seconds) - MAP.seconds(probe)).max() < 5e-5


@pytest.mark.parametrize(
    ("tempos", "place"),
    [
        ((), "tempo[0]"),
        ((TempoEvent(5, 120),), "tempo[0]"),
        ((TempoEvent(0, 1e9),), "tempo[0]"),
        ((TempoEvent(0, 120), TempoEvent(0, 90)), "tempo[1]"),
        ((TempoEvent(0, float("nan")),), "tempo[0]"),
    ],
)
def test_impossible_tempos_are_named(tempos, place):
    with pytest.raises(RequestError) as caught:
        TempoMap(tempos)
    assert caught.value.place == place
