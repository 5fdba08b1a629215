"""How loud tracks are, millisecond by millisecond: numbers by hand, a plain model beside it, and what following leaves heard."""

from dataclasses import replace

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st
from scipy.signal import lfilter

from tests.sound.test_worked_examples import SINE, lane, session
from velmot.core.curves.axes import Axis
from velmot.core.parameters.parameter import level
from velmot.core.session.heard import heard, reading
from velmot.core.session.sounds import Audio, Excerpt, Sound
from velmot.core.session.track import Region, Track
from velmot.core.time.ticks import ticks_of
from velmot.core.verbs import plan
from velmot.core.verbs.follow.request import Follow, FollowOn
from velmot.sound.detectors import Detector, _highest
from velmot.sound.library import Library
from velmot.sound.loudness import Weighting, loudness, window_means
from velmot.sound.scientific import filtered

TONE = Track("t", "Tone", parameters=(level("t.level"),), sound=SINE)
STANDS = {"after_level": False, "measure": "mean", "window": 0.1, "centred": False}
TWELVE_DOWN = lane("t.level", (0, -12.0, 0.0), axis=Axis.LEVEL)


def levels(on, tracks=("t",), start=0.0, end=4.0, detector=None, **how):
    return (detector or Detector(Library)).levels(on, tracks, start, end, **(STANDS | how)).values


def test_a_sine_of_half_its_size_is_at_minus_6_peak_and_minus_9_mean():
    """0.5: 20 log 0.5 = −6.02 dB; its mean square is 0.125: −9.03 dB. The standard's loudness is that of `loudness.py`."""
    on = session(TONE)
    assert levels(on, measure="peak")[1000:3000] == pytest.approx(-6.02, abs=0.01)
    assert levels(on)[1000:3000] == pytest.approx(-9.03, abs=0.01)
    t = np.arange(96_000) / 48_000
    both = np.repeat(0.5 * np.sqrt(0.5) * np.sin(2 * np.pi * 440 * t)[:, None], 2, axis=1)
    for measure, settled in (("momentary", 500), ("short-term", 3100)):
        said = levels(on, measure=measure)
        assert said[settled:3900] == pytest.approx(loudness(both, 48_000), abs=0.05)
        assert said[settled // 4] < said[settled] - 3, "a window that has begun before the sound is not full"
    twice = session(TONE, replace(TONE, id="u", name="Other", parameters=(level("u.level"),)))
    assert levels(twice, ("t", "u"), measure="peak")[1000] == pytest.approx(0.0, abs=0.02), (
        "together, and not one by one"
    )
    assert levels(twice, ("t", "t"), measure="peak")[1000] == pytest.approx(-6.02, abs=0.02), "said twice it is one"


def test_as_it_stands_knows_no_level_and_as_heard_does():
    on = session(TONE, lanes=[TWELVE_DOWN])
    before, after = levels(on), levels(on, after_level=True)
    assert levels(session(TONE), after_level=True)[1000:3000] - after[1000:3000] == pytest.approx(12.0, abs=0.01)
    assert before[1000:3000] == pytest.approx(-9.03, abs=0.01)


def test_a_window_ends_with_its_frame_or_lies_about_it():
    """A burst from 1 to 2 s by a region: a mean over 200 ms is full after 200 ms, or 100 ms after the beginning."""
    part = Region("r", "burst", ticks_of(2), ticks_of(2), sound=(Excerpt(0, ticks_of(2), "take", sound=SINE),))
    on = session(replace(TONE, sound=Sound("rain"), regions=(part,)))
    ends, about = levels(on, window=0.2), levels(on, window=0.2, centred=True)
    # Half of the window sounds: 3.01 dB less.
    half = [float(x) for x in (ends[1099], ends[1250], about[1000], about[1150])]
    assert half == pytest.approx([-12.04, -9.03, -12.04, -9.03], abs=0.3), "its edges are eased"
    assert ends[990] < -100 and ends[2300] < -100 and about[890] < -100
    peak = levels(on, measure="peak", window=0.2)
    assert peak[1010] == pytest.approx(-6.02, abs=0.05) and peak[2150] == pytest.approx(-6.02, abs=0.05)


@given(st.integers(0, 2**32), st.integers(1, 40))
def test_windows_are_those_of_a_plain_model(seed, long):
    values = np.random.default_rng(seed).random((120, 2))
    slow = [values[n : n + long].mean(axis=0) for n in range(120 - long + 1)]
    assert np.abs(window_means(values, long) - slow).max() <= 1e-9
    tops = [values[n : n + long, 0].max() for n in range(120 - long + 1)]
    assert _highest(values[:, 0], long).tolist() == tops


def test_what_is_costly_is_kept_until_what_sounds_is_otherwise():
    asked = []

    def library():
        asked.append(1)
        return Library()

    detector, on = Detector(library), session(TONE, lanes=[TWELVE_DOWN])
    for how in ({}, {"window": 0.3}, {"centred": True}):
        levels(on, detector=detector, **how)
    assert len(asked) == 1
    levels(replace(on, lanes=()), detector=detector)
    assert len(asked) == 1, "as it stands, its level is nothing to it"
    levels(on, detector=detector, after_level=True)
    levels(replace(on, lanes=()), detector=detector, after_level=True)
    assert len(asked) == 3
    levels(replace(on, tracks=(replace(TONE, sound=Sound("tone", hz=880, amplitude=0.5)),)), detector=detector)
    assert len(asked) == 4


def test_a_file_that_is_gone_is_named():
    gone = Sound("file", audio=Audio("take.wav", "0" * 64))
    on = session(replace(TONE, sound=gone))
    assert Detector(Library, is_there=lambda audio: False).missing(on, ("t",)) == ("take.wav",)
    assert Detector(Library).missing(on, ("t",)) == ()


# ── what following leaves heard ───────────────────────────────────────────────────────────────


def test_narration_that_is_evened_out_stays_in_its_band_for_95_percent_of_the_time_it_speaks(demo_session):
    """By short-term loudness to −24 within 3 dB: measured anew on what stands in the regions and the lane that was written."""
    detector, window = Detector(Library), 3000
    asked = Follow((FollowOn("keeper.level"),), ("keeper",), does="evens out", measure="short-term", to=-24.0, band=3.0,
                   most=12.0, threshold=-45.0, attack=50.0, release=50.0)  # fmt: skip
    now = plan(demo_session, "follow", asked, sounding=detector).applied_to(demo_session)
    end = float(now.tempo.seconds(now.length))
    frames = detector.levels(now, ("keeper",), 0, end, **(STANDS | {"measure": "short-term", "window": 0.001}))
    each = detector.levels(now, ("keeper",), 0, end, **(STANDS | {"window": 0.03, "centred": True})).values
    short = detector._whole(now, ("keeper",), False, "power", (0.0, end)).sum(axis=1)[: len(each)]

    def loud(state):
        """The short-term loudness of every frame with its level on it, and of none that is silent."""
        ticks = state.tempo.ticks_at(frames.first + (np.arange(len(short)) + 0.5) / 1000)
        ride = heard(reading(state), "keeper.level", groups=False).envelope.at(ticks)
        run = np.concatenate(([0.0], np.cumsum(short * 10 ** (np.asarray(ride) / 10))))
        at = np.arange(len(short))
        first, last = np.maximum(at - window // 2, 0), np.minimum(at + window // 2, len(short))
        return -0.691 + 10 * np.log10((run[last] - run[first]) / window + 1e-13)

    speaks = each > -40
    before, after = (np.abs(loud(state) + 24)[speaks] for state in (demo_session, now))
    within = before <= 12.0 + 3.0
    assert within.mean() > 0.95, "by 12 dB at most it can be reached nearly everywhere"
    assert (after[within] <= 3.05).mean() >= 0.95 and (before <= 3.05).mean() < 0.9


def test_the_rain_makes_room_by_what_is_said_and_only_then(demo_session):
    detector = Detector(Library)
    asked = Follow((FollowOn("rain.level"),), ("keeper",), does="makes room", threshold=-30.0, depth=6.0, window=50.0,
                   attack=0.0, release=0.0)  # fmt: skip
    now = plan(demo_session, "follow", asked, sounding=detector).applied_to(demo_session)
    end = float(now.tempo.seconds(now.length))
    voice = levels(demo_session, ("keeper",), 0, end, window=0.05, detector=detector)
    rain = [
        levels(s, ("rain",), 0, end, window=0.001, after_level=True, detector=detector) for s in (demo_session, now)
    ]
    count = min(len(voice), *map(len, rain))
    less = (rain[0] - rain[1])[:count]
    above = voice[:count] > -30
    edges = np.convolve(np.abs(np.diff(above.astype(float), prepend=above[0])), np.ones(41), "same") > 0
    sounds = (rain[0][:count] > -80) & ~edges
    assert less[sounds & above] == pytest.approx(6.0, abs=0.25) and (sounds & above).sum() > 5000
    assert less[sounds & ~above] == pytest.approx(0.0, abs=0.25) and (sounds & ~above).sum() > 5000


def test_a_filter_is_the_same_in_stretches_and_forgets_what_died_away():
    """90,000 samples are three stretches; after five silent seconds nothing near the smallest number is left in it."""
    b, a = Weighting(48_000).filters[0]
    samples = np.random.default_rng(4).normal(size=(90_000, 2))
    whole, state = filtered(b, a, samples, 0, np.zeros((2, 2)))
    assert np.abs(whole - lfilter(b, a, samples, axis=0)).max() <= 1e-12
    first, between = filtered(b, a, samples[:50_000], 0, np.zeros((2, 2)))
    rest, _ = filtered(b, a, samples[50_000:], 0, between)
    assert np.abs(np.concatenate((first, rest)) - whole).max() <= 1e-12
    _, after = filtered(b, a, np.zeros((240_000, 2)), 0, state)
    assert np.abs(state).max() > 0 and (after == 0).all()


@pytest.mark.parametrize("after_level", [False, True])
def test_of_a_very_long_session_only_what_is_asked_for_is_rendered(after_level):
    """Ten hours, of which a second is followed: the same as in a session of a minute, and at once."""
    part = Region("r", "burst", ticks_of(2), ticks_of(2), sound=(Excerpt(0, ticks_of(2), "take", sound=SINE),))
    track = replace(TONE, sound=Sound("rain"), regions=(part,))
    rendered, come = [], Detector(Library)
    of_a_minute, of_hours = (session(track, beats=beats) for beats in (120, 72_000))
    for on in (of_a_minute, of_hours):
        rendered.append(levels(on, start=0.5, end=2.5, after_level=after_level, detector=come, window=0.02))
    assert rendered[0][700:] == pytest.approx(rendered[1][700:], abs=0.1) and len(rendered[0]) == 2000
    assert max(len(x) for x in come.kept.values()) <= 60_000
