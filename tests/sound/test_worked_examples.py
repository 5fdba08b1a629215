"""What a session sounds like, against numbers calculated by hand."""

from dataclasses import replace

import numpy as np
import pytest

from velmot.core.curves.axes import Axis
from velmot.core.curves.envelope import Envelope
from velmot.core.curves.segments import HOLD
from velmot.core.parameters.parameter import Family, Kind, Label, Parameter, level, mute, pan
from velmot.core.session.session import Session
from velmot.core.session.sounds import Sound
from velmot.core.session.track import Device, Lane, Track, TrackKind
from velmot.core.time.tempo import TempoEvent, TempoMap
from velmot.core.time.ticks import ticks_of
from velmot.sound.library import Library
from velmot.sound.loudness import loudness
from velmot.sound.path import score_of
from velmot.sound.render import rendered

RATE = 48_000
SINE = Sound("tone", hz=440, amplitude=0.5)


def session(*tracks, lanes=(), beats=8, bpm=120.0):
    return Session("s", ticks_of(beats), tracks, tuple(lanes), TempoMap((TempoEvent(0, bpm),))).checked()


def lane(parameter, *points, axis=Axis.LINEAR):
    return Lane(f"L {parameter}", parameter, "track", Envelope.of([(ticks_of(p[0]), *p[1:]) for p in points], axis))


def heard(on, tracks=None):
    """The master, (frames, 2)."""
    return rendered(score_of(on, 0, on.length, tracks), Library(), RATE)


def db(x):
    return 20 * np.log10(max(float(x), 1e-12))


def rms(samples, start=0.0, end=None):
    part = samples[round(start * RATE) : None if end is None else round(end * RATE)]
    return db(np.sqrt((part**2).mean()))


def a_track(*more, sound=SINE, **other):
    return Track("t", "T", parameters=(level("t.level"), pan("t.pan"), mute("t.mute"), *more), sound=sound, **other)


def test_a_sine_of_half_in_the_middle_is_3_db_less_on_each_side():
    """Peak 20·log10(0.5) = −6.02 dB and RMS 3.01 less; cos(π/4) takes 3.01 more on each side."""
    out = heard(session(a_track()))
    assert out.shape == (4 * RATE, 2)
    for side in out.T:
        assert db(abs(side).max()) == pytest.approx(-6.02 - 3.01, abs=0.005)
        assert rms(side) == pytest.approx(-9.03 - 3.01, abs=0.005)
    assert out[:, 0] == pytest.approx(0.5 * np.sin(2 * np.pi * 440 * np.arange(len(out)) / RATE) / np.sqrt(2))


def test_a_level_and_a_group_of_minus_6_each_make_12_less():
    group = Track("g", "G", TrackKind.GROUP, parameters=(level("g.level", value=-6),), members=("t",))
    quiet = replace(a_track(), parameters=(level("t.level", value=-6),))
    loud = heard(session(a_track()))
    assert rms(heard(session(quiet, group))) == pytest.approx(rms(loud) - 12, abs=1e-6)


def test_a_level_straight_over_four_beats_is_half_way_at_half_time():
    """0 to −60 dB in 4 beats at 96 bpm, 2.5 s: −30 dB at 1.25 s; and a straight line in dB is a line all along."""
    on = session(a_track(), lanes=[lane("t.level", (0, 0), (4, -60), axis=Axis.LEVEL)], bpm=96)
    side = heard(on)[:, 0] / (0.5 / np.sqrt(2))
    sine = np.sin(2 * np.pi * 440 * np.arange(len(side)) / RATE)
    for seconds, expected in ((0.625, -15), (1.25, -30), (1.875, -45)):
        at = np.arange(round(seconds * RATE) - 30, round(seconds * RATE) + 30)
        at = at[np.argmax(abs(sine[at]))]
        assert db(abs(side[at] / sine[at])) == pytest.approx(expected, abs=0.05)
    assert rms(side, 2.6, 4) == pytest.approx(-60 - 3.01, abs=0.05)


def test_hard_left_leaves_nothing_on_the_right():
    out = heard(session(replace(a_track(), parameters=(level("t.level"), pan("t.pan", value=-100)))))
    assert rms(out[:, 1]) < -120 and rms(out[:, 0]) == pytest.approx(-9.03, abs=0.005)


def test_muted_from_beat_2_it_is_silent_5_ms_later_and_not_before():
    on = session(a_track(), lanes=[lane("t.mute", (0, 0, HOLD), (2, 1, HOLD))])
    out = heard(on)
    assert rms(out, 1.005 + 1 / RATE) < -200 and rms(out, 0.9, 1.0) == pytest.approx(-12.04, abs=0.05)
    slope = abs(np.diff(out[round(0.99 * RATE) : round(1.01 * RATE), 0])).max()
    assert slope < 0.5 * 2 * np.pi * 440 / RATE, "nothing clicks: no step is steeper than the sine itself"


def test_a_muted_group_silences_its_members():
    group = Track("g", "G", TrackKind.GROUP, parameters=(level("g.level"), mute("g.mute", value=1)), members=("t",))
    assert rms(heard(session(a_track(), group))) < -200


def test_silence_is_silent_and_a_fade_to_it_ends_at_its_floor():
    points = ((0, 0), (2, -96), (4, -96), (6, 0))
    side = heard(session(a_track(), lanes=[lane("t.level", *points, axis=Axis.LEVEL)]))[:, 0]
    assert rms(side, 1.0 + 1 / RATE, 2.0) < -200
    assert rms(side, 0.999, 1.0) == pytest.approx(-12.04 - 96, abs=1.5) and rms(side, 2.0, 2.001) > -115


def test_a_full_sine_of_997_hz_on_one_side_is_minus_3_01_lufs():
    """The reference of ITU-R BS.1770-4; at other rates too."""
    for rate in (48_000, 44_100, 96_000):
        sine = np.sin(2 * np.pi * 997 * np.arange(3 * rate) / rate)
        assert loudness(np.column_stack((sine, 0 * sine)), rate) == pytest.approx(-3.01, abs=0.02)
        assert loudness(np.column_stack((sine, sine)), rate) == pytest.approx(0.0, abs=0.02)


def test_silence_between_does_not_count_for_loudness():
    """Of a second of sound 7 blocks are full and 3 hold 3/4, 1/2 and 1/4 of it: 10·log10(8.5/10) less, and no more."""
    sine = np.sin(2 * np.pi * 997 * np.arange(4 * RATE) / RATE) * 0.1
    sine[RATE:] = 0
    assert loudness(np.column_stack((sine, 0 * sine)), RATE) == pytest.approx(-23.01 + 10 * np.log10(0.85), abs=0.02)
    assert loudness(np.zeros((RATE, 2)), RATE) == -np.inf


def hertz(id, value, **more):
    return Parameter(id, "Corner", Family.DEVICE, unit="Hz", axis=Axis.LOG, low=20, high=20000, default=value,
                     value=value, device="d", **more)  # fmt: skip


@pytest.mark.parametrize(("hz", "less", "within"), [(100, 12.304, 0.01), (200, 3.0103, 0.01), (2000, 0.0, 0.1)])
def test_a_low_cut_at_200_hz_takes_what_its_formula_says(hz, less, within):
    """Butterworth of second order: 10·log10(1 + (200/f)^4); the bilinear transform changes nothing at its corner."""
    track = a_track(hertz("d.hz", 200), sound=Sound("tone", hz=hz), devices=(Device("d", "Low cut", "low cut"),))
    plain = a_track(sound=Sound("tone", hz=hz))
    cut, whole = heard(session(track)), heard(session(plain))
    assert rms(whole, 1, 4) - rms(cut, 1, 4) == pytest.approx(less, abs=within)


def test_a_device_that_is_off_or_has_no_stand_in_lets_everything_through_and_says_which():
    words = (Label(0.0, "off"), Label(1.0, "on"))
    switch = Parameter("d.on", "On", Family.DEVICE, Kind.SWITCH, labels=words, value=0, device="d")
    cut = a_track(switch, hertz("d.hz", 2000), devices=(Device("d", "Low cut", "low cut"),))
    odd = a_track(hertz("d.hz", 2000), devices=(Device("d", "Dust", "dust"),))
    plain = heard(session(a_track()))
    assert heard(session(cut)) == pytest.approx(plain, abs=1e-12) and heard(session(odd)) == pytest.approx(plain)
    (channel,) = score_of(session(odd), 0, 100).channels
    assert channel.unheard == ("d.hz",)
    assert score_of(session(cut), 0, 100).channels[0].unheard == ()


def test_what_is_sent_to_a_bus_comes_from_there_as_well():
    """A send of −6 dB beside the direct way: 1 + 0.501 as loud."""
    send = level("t.send", "Send", -6.0, family=Family.SEND, target="b")
    bus = Track("b", "B", TrackKind.BUS, parameters=(level("b.level"),))
    both, direct = heard(session(a_track(send), bus)), heard(session(a_track()))
    assert rms(both) - rms(direct) == pytest.approx(20 * np.log10(1 + 10 ** (-6 / 20)), abs=1e-6)
    assert rms(heard(session(a_track(send), bus), frozenset({"t"}))) == pytest.approx(rms(both))


def test_a_circle_of_sends_is_left_out_and_named():
    def bus(id, to):
        own = (level(f"{id}.level"), level(f"{id}.send", "Send", family=Family.SEND, target=to))
        return Track(id, id.upper(), TrackKind.BUS, parameters=own)

    send = level("t.send", "Send", family=Family.SEND, target="a")
    score = score_of(session(a_track(send), bus("a", "b"), bus("b", "a")), 0, 100)
    assert score.circles == ("B Send",) and [c.id for c in score.channels] == ["t", "a", "b"]


def test_a_level_from_midi_sounds_as_the_standard_says():
    """40·log10(64/127) = −11.9 dB, with expression on top of it: twice that."""
    volume = Parameter("t.cc7", "Volume", Family.LEVEL, unit="cc", high=127, value=64, controller="cc 7")
    swell = Parameter("t.cc11", "Expression", Family.DEVICE, unit="cc", high=127, value=64, controller="cc 11")
    one, two = (Track("t", "T", parameters=p, sound=SINE) for p in ((volume,), (volume, swell)))
    plain = rms(heard(session(a_track())))
    assert rms(heard(session(one))) == pytest.approx(plain - 11.90, abs=0.01)
    assert rms(heard(session(two))) == pytest.approx(plain - 23.81, abs=0.01)
