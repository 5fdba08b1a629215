"""Follow: worked examples, a plain model of each way beside the quick one, and what cannot follow."""

import json
import math
from dataclasses import replace
from random import Random

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st

from velmot.core.curves.axes import Axis
from velmot.core.curves.envelope import Envelope
from velmot.core.curves.followed import SILENT, Frames, evened, opened, reduction, smoothed
from velmot.core.curves.segments import HOLD
from velmot.core.errors import RequestError
from velmot.core.findings import all_findings
from velmot.core.parameters.parameter import Family, Parameter, level, mute, pan
from velmot.core.session.session import Session
from velmot.core.session.sounds import Sound
from velmot.core.session.track import Lane, Region, Track, TrackKind
from velmot.core.tidy.request import Found, Mend
from velmot.core.time.tempo import TempoEvent, TempoMap
from velmot.core.time.ticks import TICKS_PER_BEAT, Tick
from velmot.core.verbs import plan, recipes
from velmot.core.verbs.follow.made import how_made
from velmot.core.verbs.follow.request import Follow, FollowOn, MakeAnew
from velmot.core.verbs.thin.request import Within
from velmot.formats import session_file
from velmot.presentation.tracks import lane_out

CUT = Parameter("cut", "Cut", Family.DEVICE, unit="Hz", axis=Axis.LOG, low=20, high=20000, default=80, value=80)


def b(beats: float) -> Tick:
    return Tick(round(beats * TICKS_PER_BEAT))


def session(*lanes, length=16.0) -> Session:
    """120 bpm: a beat takes half a second."""
    rain = Track("rain", "Rain", parameters=(level("rain.level"), mute("rain.mute"), pan("rain.pan"), CUT))
    voice = Track("voice", "Voice", parameters=(level("voice.level"),), regions=(Region("r", "line", 0, b(8)),))
    return Session("s", b(length), (rain, voice), lanes).checked()


class Heard:
    """Says how loud it is: pairs of (from which second, dB)."""

    def __init__(self, *steps: tuple[float, float], gone: tuple[str, ...] = ()) -> None:
        self.steps, self.gone, self.asked = steps, gone, {}

    def levels(self, session, tracks, start, end, **how) -> Frames:
        self.asked = how | {"tracks": tracks}
        times = start + np.arange(round((end - start) * 1000)) / 1000 + 0.0005
        values = np.full(len(times), SILENT)
        for at, size in self.steps:
            values[times >= at] = size
        return Frames(start, 0.001, values)

    def missing(self, session, tracks) -> tuple[str, ...]:
        return self.gone


BURST = Heard((0.0, SILENT), (1.0, -6.0), (2.0, SILENT))


def followed(request: Follow, sounding=BURST, on: Session | None = None) -> Session:
    state = on or session()
    return plan(state, "follow", request, sounding=sounding).applied_to(state)


def at(state: Session, parameter: str, *seconds: float) -> list[float]:
    curve = state.lane_at(parameter).envelope
    return [float(curve.at(int(state.tempo.tick_at(x)))) for x in seconds]


FINE = (Within("", 1e-9), Within("dB", 1e-9), Within("octaves", 1e-9))


def test_a_burst_is_63_2_percent_there_after_its_attack_and_36_8_percent_left_after_its_release():
    """−6 dB from 1 to 2 s: a pan from −100 to 100 stands at −100 + 200·0.632 after 10 ms, and at −100 + 200·0.368 after 100."""
    request = Follow(
        (FollowOn("rain.pan", -100, 100),), ("voice",), attack=10, release=100, low=-48, high=-6, within=FINE
    )
    made = followed(request)
    said = at(made, "rain.pan", 0.999, 1.010, 1.5, 1.999, 2.100, 3.5)
    whole = 1 - math.exp(-1)
    assert said == pytest.approx([-100, -100 + 200 * whole, 100, 100, -100 + 200 / math.e, -100], abs=1e-4)
    early = followed(replace(request, lookahead=20.0))
    assert at(early, "rain.pan", 0.990)[0] == pytest.approx(-100 + 200 * whole, abs=1e-3)
    held = followed(replace(request, hold=50.0))
    assert at(held, "rain.pan", 2.049, 2.150) == pytest.approx([100, -100 + 200 / math.e], abs=0.8)
    down = followed(replace(request, upside_down=True))
    assert at(down, "rain.pan", 0.5, 1.5) == pytest.approx([100, -100], abs=1e-6)
    octaves = followed(replace(request, targets=(FollowOn("cut", 100, 1600),)))
    assert at(octaves, "cut", 0.5, 1.010) == pytest.approx([100, 100 * 2 ** (4 * whole)], rel=1e-4)


def test_room_is_made_by_exactly_so_much_while_it_is_above_and_by_nothing_else():
    lane = Lane("L", "rain.level", "track", Envelope.of([(0, -20.0, 0.0), (b(16), -12.0, 0.0)], Axis.LEVEL))
    request = Follow((FollowOn("rain.level"),), ("voice",), does="makes room", attack=0, release=0, depth=6.0)
    state = session(lane)
    curve = followed(request, on=state).lane("L").envelope
    jumps = [int(t) for t in curve.ticks[1:][curve.ticks[1:] == curve.ticks[:-1]]]
    assert jumps == [b(2), b(4)], "two jumps: at 1 s and at 2 s"
    for beat, less in ((1.9, 0.0), (2.1, 6.0), (3.9, 6.0), (4.1, 0.0)):
        assert float(curve.at(b(beat))) == pytest.approx(-20 + beat / 2 - less, abs=1e-9)
    instead = followed(replace(request, instead=True), on=state).lane("L").envelope
    assert [float(instead.at(b(x))) for x in (1, 3, 5)] == [0.0, -6.0, 0.0]
    ranged = followed(replace(request, start=b(2.5), end=b(3.5)), on=state).lane("L").envelope
    assert [float(ranged.at(b(x))) for x in (2.4, 2.6, 3.6)] == pytest.approx([-18.8, -24.7, -18.2], abs=1e-9)


def test_room_by_a_ratio_comes_through_its_knee():
    """4 : 1 above −30: 12 dB above it 9 dB less; at the threshold itself, with a knee of 8 dB, 0.75·4²/16 = 0.75 dB."""
    levels = np.array([-40.0, -34.0, -30.0, -26.0, -18.0, 0.0])
    assert reduction(levels, -30, 96, 4.0).tolist() == [0, 0, 0, 3, 9, 22.5]
    assert reduction(levels, -30, 96, 4.0, 8.0).tolist() == [0, 0, 0.75, 3, 9, 22.5]
    assert reduction(levels, -30, 6, 4.0).tolist() == [0, 0, 0, 3, 6, 6]


def test_it_opens_above_a_threshold_and_shuts_below_it_by_the_hysteresis_each_for_the_least_time():
    steps = Heard((0.0, -60), (1.0, -20), (1.2, -31), (1.4, -34), (2.0, -20), (2.03, -60))
    request = Follow((FollowOn("rain.mute", 1.0, 0.0),), ("voice",), does="opens", least=100.0)
    curve = followed(request, steps).lane_at("rain.mute").envelope
    # Open at 1 s, still at −31 (the hysteresis is 3), shut at 1.4; the short one at 2 s stays for 100 ms.
    assert [(round(t / TICKS_PER_BEAT / 2, 4), v) for t, v in zip(curve.ticks.tolist(), curve.values.tolist(), strict=True)] == [
        (0.0, 1.0), (1.0, 0.0), (1.4, 1.0), (2.0, 0.0), (2.1, 1.0)]  # fmt: skip
    assert (curve.bends[:-1] == HOLD).all()


def test_a_tone_in_three_steps_is_evened_to_its_target_within_the_most():
    """−30, −20 and −25 dB for 2 s each, to −22 by 6 at most: +6, −2, +3 once settled."""
    tone = Heard((0.0, -30), (2.0, -20), (4.0, -25), (6.0, -70))
    request = Follow(
        (FollowOn("voice.level"),), ("voice",), does="evens out", to=-22.0, band=0.0, most=6.0, threshold=-50.0
    )
    made = followed(replace(request, instead=True), tone)
    assert at(made, "voice.level", 1.9, 3.9, 5.9, 7.9) == pytest.approx([6, -2, 3, 0], abs=0.1)
    assert tone.asked["centred"] is True
    within = followed(replace(request, instead=True, band=1.25), tone)
    assert at(within, "voice.level", 1.9, 3.9, 5.9) == pytest.approx([6, -1.5, 3], abs=0.1)
    lane = Lane("L", "voice.level", "track", Envelope.of([(0, -5.0, 0.0)], Axis.LEVEL))
    ridden = followed(request, tone, session(lane))
    # With the ride of −5 it is heard at −35, −25 and −30: by 6 up, to −22 and by 6 up.
    assert at(ridden, "voice.level", 1.9, 3.9, 5.9) == pytest.approx([1, -2, 1], abs=0.1)


def test_a_lag_of_an_eighth_has_every_point_an_eighth_later():
    points = [(0, -20.0, 0.0), (b(1), -10.0, 3.0), (b(2), -30.0, HOLD), (b(5), -5.0, 0.0)]
    lane = Lane("L", "voice.level", "track", Envelope.of(points, Axis.LEVEL))
    request = Follow((FollowOn("rain.level"),), source="voice.level", does="lags", delay=b(0.5))
    late = followed(request, None, session(lane)).lane_at("rain.level").envelope
    assert [(int(t), v) for t, v, _ in late.points()][1:] == [(t + b(0.5), v) for t, v, _ in points]
    steps = followed(replace(request, delay=Tick(0), grid=b(1)), None, session(lane)).lane_at("rain.level").envelope
    assert [float(steps.at(b(x))) for x in (0.9, 1.9, 4.9, 5.5)] == [-20.0, -10.0, -30.0, -5.0]
    slow = (
        followed(replace(request, delay=Tick(0), slope=10.0, within=FINE), None, session(lane))
        .lane_at("rain.level")
        .envelope
    )
    assert float(slow.at(b(7))) == pytest.approx(-20.0, abs=0.1), "from −30 at 2.5 s by 10 dB a second"
    on_a_filter = replace(request, targets=(FollowOn("cut", 100, 1600),), delay=Tick(0), low=-30.0, high=-10.0)
    filtered = followed(on_a_filter, None, session(lane)).lane_at("cut").envelope
    assert [round(float(filtered.at(b(x)))) for x in (0, 1, 3)] == [400, 1600, 100]


@given(st.integers(0, 2**32))
def test_each_way_is_its_plain_model_frame_by_frame(seed):
    random = Random(seed)
    levels = [random.uniform(-70, 0)]
    for _ in range(400):
        levels.append(random.choice((levels[-1], random.uniform(-70, 0), levels[-1] + random.uniform(-3, 3))))
    attack, release, hold = (random.choice((0.0, 0.004, 0.05)) for _ in range(3))
    run = smoothed(np.array(levels), 0.001, attack, release, hold)
    now, wait = levels[0], 0.0
    for n, x in enumerate(levels):
        if x >= now:
            now = x if attack == 0 else x + (now - x) * math.exp(-0.001 / attack)
            wait = hold
        elif wait > 1e-9:
            wait -= 0.001
        else:
            now = x if release == 0 else x + (now - x) * math.exp(-0.001 / release)
        assert abs(run.ends[n] - now) <= 1e-9
    threshold, hysteresis, least = random.uniform(-60, -10), random.uniform(0, 6), random.choice((0.0, 0.003, 0.02))
    flags = opened(np.array(levels), 0.001, threshold, hysteresis, least)
    is_open, since = levels[0] > threshold, 1e9
    for n, x in enumerate(levels):
        wanted = x >= threshold - hysteresis if is_open else x > threshold
        if wanted != is_open and since >= least - 1e-9:
            is_open, since = wanted, 0.0
        since += 0.001
        assert bool(flags[n]) == is_open
    to, band, most = random.uniform(-40, 0), random.uniform(0, 3), random.uniform(0.5, 12)
    gains = evened(np.array(levels), to, band, most, threshold)
    for n, x in enumerate(levels):
        off = to - x
        gain = math.copysign(min(2 * (abs(off) - band), abs(off), most), off)
        gain = 0.0 if abs(off) <= band or x < threshold else gain
        assert abs(gains[n] - gain) <= 1e-9


@given(st.integers(0, 2**32), st.sampled_from([0.1, 2.0]))
def test_what_is_made_stays_within_the_bound_of_every_frame(seed, bound):
    random = Random(seed)
    steps = [(n * random.uniform(0.01, 0.2), random.uniform(-70, 0)) for n in range(20)]
    sounding = Heard(*sorted(steps))
    request = Follow((FollowOn("rain.pan", -100, 100),), ("voice",), attack=random.choice((0, 5, 50)), release=80,
                     within=(Within("", bound),))  # fmt: skip
    made = followed(request, sounding).lane_at("rain.pan").envelope
    exact = followed(replace(request, within=FINE), sounding).lane_at("rain.pan").envelope
    ticks = np.linspace(0, b(8), 1500).astype(np.int64)
    jumps = exact.ticks[1:][exact.ticks[1:] == exact.ticks[:-1]]
    far = np.array([np.abs(jumps - t).min() > 2000 if len(jumps) else True for t in ticks])
    assert np.abs(made.coordinate_at(ticks) - exact.coordinate_at(ticks))[far].max() <= bound + 1e-6
    assert len(made) <= len(exact)


@pytest.mark.parametrize(
    ("asked", "sounding", "code"),
    [
        ({}, Heard((0.0, SILENT)), "follow-silent"),
        ({"does": "makes room", "targets": (FollowOn("rain.level"),), "threshold": -3.0}, BURST, "follow-threshold"),
        ({"lookahead": 30_000.0}, BURST, "follow-wide"),
        ({"window": 30_000.0}, BURST, "follow-wide"),
        ({"attack": -1.0}, BURST, "follow-time"),
        ({"ratio": 1.0}, BURST, "follow-ratio"),
        ({"depth": 0.0}, BURST, "follow-amount"),
        ({"low": -6.0, "high": -48.0}, BURST, "follow-ends"),
        ({"tracks": ()}, BURST, "follow-none"),
        ({"targets": ()}, BURST, "targets-none"),
        ({"does": "lags"}, BURST, "follow-lags"),
        (
            {"does": "evens out", "tracks": (), "source": "cut", "targets": (FollowOn("rain.level"),)},
            None,
            "follow-evens",
        ),
        ({"source": "cut"}, BURST, "follow-none"),
        (
            {"does": "opens", "tracks": (), "source": "cut", "threshold": 5000.0, "targets": (FollowOn("rain.mute"),)},
            None,
            "follow-threshold",
        ),
        ({"does": "lags", "tracks": (), "source": "voice.level", "grid": Tick(1)}, BURST, "follow-grid"),
        ({"does": "makes room"}, BURST, "follow-level"),
        ({"targets": (FollowOn("rain.mute"),)}, BURST, "follow-steps"),
        ({"targets": (FollowOn("rain.pan", -300, 0),)}, BURST, "value-outside"),
        ({"targets": (FollowOn("voice.level"),), "after_level": True}, BURST, "follow-circle"),
        ({"tracks": (), "source": "rain.pan"}, BURST, "follow-circle"),
        ({"start": b(20), "end": b(21)}, BURST, "range-beyond"),
        ({}, None, "sounding-none"),
    ],
)
def test_what_cannot_follow_is_refused(asked, sounding, code):
    request = replace(Follow((FollowOn("rain.pan"),), ("voice",)), **asked)
    with pytest.raises(RequestError) as refused:
        plan(session(), "follow", request, sounding=sounding)
    assert refused.value.code == code
    if code == "follow-threshold" and request.tracks:
        assert "the highest is −6.0 dB" in refused.value.message.replace("-", "−")
        assert refused.value.remedy.words == "above −12.0 dB" and refused.value.remedy.step.threshold == -12.0
    if refused.value.remedy:
        again = refused.value.remedy.step
        assert plan(session(), "follow", again, sounding=sounding).lanes


def test_a_region_is_written_in_its_own_time_and_a_file_that_is_gone_is_said():
    request = Follow((FollowOn("voice.level", -40, -6, "r"),), ("rain",), attack=0, release=0)
    state = session()
    moved = state.with_tracks(
        replace(t, regions=tuple(replace(r, start=b(1)) for r in t.regions)) for t in state.tracks
    )
    change = plan(
        moved, "follow", request, sounding=Heard((0.0, SILENT), (1.0, -6.0), (2.0, SILENT), gone=("take.wav",))
    )
    curve = change.applied_to(moved).lane_at("voice.level", "r").envelope
    assert [float(curve.at(b(x))) for x in (0.5, 1.5, 2.9, 3.5)] == [-40.0, -6.0, -6.0, -40.0]
    assert [(c.code, dict(c.args)["name"]) for c in change.cautions if c.code == "source-missing"] == [
        ("source-missing", "take.wav")
    ]


def test_a_lane_knows_how_it_was_made_and_is_made_anew_with_its_mends_where_the_source_changes():
    lane = Lane("L", "rain.level", "track", Envelope.of([(0, -20.0, 0.0)], Axis.LEVEL))
    request = Follow((FollowOn("rain.level"),), ("voice",), does="makes room", attack=0, release=0, depth=6.0)
    made = followed(request, on=session(lane))
    assert session_file.read(session_file.write(made))[0] == made, "the file keeps how"
    assert not [f for f in all_findings(made) if f.kind == "stale"]
    mended = made.with_lanes(
        replace(x, envelope=Envelope.of([(t, v - 1, k) for t, v, k in x.envelope.points()], Axis.LEVEL))
        for x in made.lanes
    )
    other = mended.with_tracks(replace(t, sound=Sound("bell")) if t.id == "voice" else t for t in mended.tracks)
    (found,) = [f for f in all_findings(other) if f.kind == "stale"]
    assert found.words == "was made after Voice, which has changed since" and found.mend == MakeAnew(("L",))
    later = Heard((0.0, SILENT), (2.0, -6.0), (3.0, SILENT))
    for verb, asked in (("make anew", found.mend), ("mend", Mend((Found("stale", "L"),)))):
        anew = plan(other, verb, asked, sounding=later).applied_to(other)
        # The room moves to 2 to 3 s; the mend by hand, 1 dB less, stays everywhere.
        assert at(anew, "rain.level", 0.5, 1.5, 2.5, 3.5) == pytest.approx([-21, -21, -27, -21], abs=1e-9)
        assert not [f for f in all_findings(anew) if f.kind == "stale"]
    with pytest.raises(RequestError) as refused:
        plan(session(lane), "make anew", MakeAnew(("L",)), sounding=later)
    assert refused.value.code == "anew-none"


@pytest.mark.parametrize("after_level", [False, True])
def test_what_its_source_is_ridden_by_counts_where_it_is_heard_after_its_level(after_level):
    """The voice's own level, and that of a group above it, change: only what was heard after them is otherwise by now."""
    ride = Lane("V", "voice.level", "track", Envelope.of([(0, -6.0, 0.0)], Axis.LEVEL))
    group = Track("g", "All", TrackKind.GROUP, members=("voice",), parameters=(level("g.level"),))
    on = session(ride)
    on = on.with_tracks((*on.tracks, group)).with_lanes(
        (*on.lanes, Lane("G", "g.level", "track", Envelope.of([(0, 0.0, 0.0)], Axis.LEVEL)))
    )
    request = Follow((FollowOn("rain.level"),), ("voice",), does="makes room", after_level=after_level)
    made = followed(request, on=on)
    for id in ("V", "G"):
        louder = [
            replace(x, envelope=Envelope.of([(0, -3.0, 0.0)], Axis.LEVEL)) if x.id == id else x for x in made.lanes
        ]
        assert bool([f for f in all_findings(made.with_lanes(louder)) if f.kind == "stale"]) is after_level, id
    for driven in ("voice.level", "g.level"):
        asked = replace(request, targets=(FollowOn(driven),))
        if after_level:
            with pytest.raises(RequestError) as refused:
                followed(asked, on=on)
            assert refused.value.code == "follow-circle"
        else:
            followed(asked, on=on)


def test_what_was_before_the_range_still_counts_in_it():
    """A burst from 1 to 2 s and a release of 2 s: a range from 3 s on begins at e to the −0.5 of the way, not at nothing."""
    whole = Follow((FollowOn("rain.pan", 0, 100),), ("voice",), attack=0, release=2000.0, low=-48, high=-6, within=FINE)
    late = replace(whole, start=b(6), end=b(10))
    one, other = (at(followed(asked), "rain.pan", 3.001, 3.5, 4.9) for asked in (whole, late))
    assert other == pytest.approx(one, abs=0.6) and one[0] == pytest.approx(100 * np.exp(-0.5), abs=0.6)


def test_more_than_an_hour_is_not_followed_at_once():
    long = session(length=7201.0)
    asked = Follow((FollowOn("rain.pan"),), ("voice",))
    with pytest.raises(RequestError) as refused:
        plan(long, "follow", asked, sounding=BURST)
    assert refused.value.code == "follow-long" and refused.value.accepted == "at most an hour"
    assert plan(long, "follow", replace(asked, start=Tick(0), end=b(7200)), sounding=BURST).lanes


def test_a_smoothed_lag_comes_later_by_its_delay_too():
    lane = Lane("L", "voice.level", "track", Envelope.of([(0, -20.0, HOLD), (b(4), -10.0, HOLD)], Axis.LEVEL))
    asked = Follow((FollowOn("rain.level"),), source="voice.level", does="lags", smooth=100.0, within=FINE)
    now, late = (followed(replace(asked, delay=d), None, session(lane)) for d in (Tick(0), b(1)))
    assert at(late, "rain.level", 2.6, 2.7) == pytest.approx(at(now, "rain.level", 2.1, 2.2), abs=1e-3)
    assert at(late, "rain.level", 2.3) == pytest.approx([-20.0], abs=1e-3) and at(now, "rain.level", 2.3)[0] > -11


@pytest.mark.parametrize("home", ["track", "r"])
def test_what_goes_beyond_the_range_is_limited_and_said_with_its_place(home):
    """A voice of 0 dB ridden at 9 is brought 6 down to 3; at −30 it would go 6 up to 15: 12 is the highest, from 1 to 2 s."""
    voice = Lane("V", "voice.level", home, Envelope.of([(0, 9.0, 0.0)], Axis.LEVEL))
    asked = Follow(
        (FollowOn("voice.level", home=home),),
        ("voice",),
        does="evens out",
        to=0.0,
        band=0.0,
        most=6.0,
        threshold=-60.0,
        attack=0,
        release=0,
        within=FINE,
    )
    change = plan(session(voice), "follow", asked, sounding=Heard((0.0, 0.0), (1.0, -30.0), (2.0, 0.0)))
    (said,) = [c for c in change.cautions if c.code == "limited"]
    assert (said.args, said.track, said.start, said.end) == (
        (("count", 1), ("name", "Voice Level")),
        "voice",
        0,
        b(16 if home == "track" else 8),
    )
    made = change.applied_to(session(voice)).lane_at("voice.level", home).envelope
    assert float(made.at(b(3))) == 12.0 and float(made.at(b(1))) == pytest.approx(3.0, abs=1e-6)


def test_a_lane_that_came_to_another_parameter_knows_nothing_of_how_it_was_made():
    made = followed(Follow((FollowOn("rain.level"),), ("voice",), does="makes room"))
    lane = made.lane_at("rain.level")
    assert how_made(made, lane) is not None
    assert how_made(made, replace(lane, parameter="voice.level")) is None


def test_a_threshold_on_a_lane_is_said_in_its_own_unit():
    """A filter rises by an octave a beat from 100 Hz: above 400 Hz from beat 2 on, and the sentence says Hz."""
    lane = Lane("C", "cut", "track", Envelope.of([(0, 100.0, 0.0), (b(4), 1600.0, 0.0)], CUT.axis))
    asked = Follow((FollowOn("rain.level"),), (), "cut", "makes room", threshold=400.0, attack=0, release=0)
    curve = followed(asked, None, session(lane)).lane_at("rain.level").envelope
    assert curve.at(np.array([b(1.9), b(2.1), b(9)])).tolist() == [0.0, -6.0, -6.0]
    opens = replace(asked, does="opens", targets=(FollowOn("rain.mute", 0.0, 1.0),))
    curve = followed(opens, None, session(lane)).lane_at("rain.mute").envelope
    assert curve.at(np.array([b(1.9), b(2.1)])).tolist() == [0.0, 1.0]
    said = plan(session(lane), "follow", asked, sounding=None).title
    assert "above 400 Hz" in said and "dB while" in said


def test_a_threshold_that_a_lane_never_reaches_is_offered_a_tenth_of_its_range_lower():
    """Of a range from 20 Hz to 20 kHz a tenth is 1998 Hz: below 4000 Hz that is 2002 Hz, and never below the lowest."""
    for top, offered in ((4000.0, 2002.0), (1600.0, 20.0)):
        lane = Lane("C", "cut", "track", Envelope.of([(0, 100.0, 0.0), (b(4), top, 0.0)], CUT.axis))
        asked = Follow((FollowOn("rain.level"),), (), "cut", "makes room", threshold=9000.0)
        with pytest.raises(RequestError, match="nothing is above") as refused:
            plan(session(lane), "follow", asked, sounding=None)
        assert refused.value.remedy.step == replace(asked, threshold=pytest.approx(offered))


@pytest.mark.parametrize("always", [False, True])
def test_a_region_that_was_moved_is_made_anew_where_it_lies_now(always):
    """Its room of 6 dB from 1 to 2 s (or all along) goes with it by a beat; anew it stands where the sound is, once."""
    lane = Lane("L", "voice.level", "r", Envelope.of([(0, -20.0, 0.0)], Axis.LEVEL))
    asked = Follow((FollowOn("voice.level", home="r"),), ("rain",), does="makes room", attack=0, release=0,
                   start=b(0), end=b(8))  # fmt: skip
    sounding = Heard((0.0, -6.0)) if always else BURST
    made = followed(asked, sounding, session(lane))
    moved = made.with_tracks(replace(t, regions=tuple(replace(r, start=b(1)) for r in t.regions)) for t in made.tracks)
    here = how_made(moved, moved.lane("L")).request
    assert (here.start, here.end, here.targets[0].home) == (b(1), b(9), "r")
    anew = plan(moved, "make anew", MakeAnew(("L",)), sounding=sounding).applied_to(moved).lane("L").envelope
    low = [-26.0, -26.0, -26.0] if always else [-20.0, -26.0, -20.0]
    assert anew.at(np.array([b(0.5), b(1.5), b(4)])).tolist() == pytest.approx(low, abs=1e-9)


def test_what_was_added_in_a_region_that_starts_later_is_taken_off_in_its_own_time():
    """A region from 2 to 6 s: room from 3 to 4 s, anew from 4 to 5 s, and nothing of the first is left."""
    base = session(Lane("L", "voice.level", "r", Envelope.of([(0, -20.0, 0.0)], Axis.LEVEL)))
    base = base.with_tracks(replace(t, regions=tuple(replace(r, start=b(4)) for r in t.regions)) for t in base.tracks)
    asked = Follow((FollowOn("voice.level", home="r"),), ("rain",), does="makes room", attack=0, release=0)
    first, later = (Heard((0.0, SILENT), (x, -6.0), (x + 1, SILENT)) for x in (3.0, 4.0))
    made = followed(asked, first, base)
    other = made.with_tracks(replace(t, sound=Sound("bell")) if t.id == "rain" else t for t in made.tracks)
    anew = plan(other, "make anew", MakeAnew(("L",)), sounding=later).applied_to(other).lane("L").envelope
    assert anew.at(np.array([b(1), b(3), b(5), b(7)])).tolist() == pytest.approx([-20.0, -20.0, -26.0, -20.0], abs=1e-9)


def test_what_an_earlier_version_kept_of_a_lane_is_read_where_it_lies():
    """It kept the gain in the session's time and no zero: read it is the same as what is kept now."""
    base = session(Lane("L", "voice.level", "r", Envelope.of([(0, -20.0, 0.0)], Axis.LEVEL)))
    base = base.with_tracks(replace(t, regions=tuple(replace(r, start=b(4)) for r in t.regions)) for t in base.tracks)
    asked = Follow((FollowOn("voice.level", home="r"),), ("rain",), does="makes room", start=b(4), end=b(12))
    made = followed(asked, Heard((0.0, SILENT), (3.0, -6.0), (4.0, SILENT)), base)
    lane = made.lane("L")
    row = json.loads(dict(lane.extra)["followed"])
    zero = row.pop("zero")
    row["gain"] = [[t + zero, v, k] for t, v, k in row["gain"]]
    old = replace(lane, extra=(("followed", json.dumps(row)),))
    assert zero == b(4) and how_made(made, old) == how_made(made, lane)


def test_making_anew_what_comes_out_the_same_says_so_once():
    made = followed(Follow((FollowOn("rain.pan"),), ("voice",)))
    lane = made.lane_at("rain.pan").id
    assert [c.code for c in plan(made, "make anew", MakeAnew((lane,)), sounding=BURST).cautions] == ["no-change"]


def test_time_is_the_sessions_own_tempo_map():
    tempo = TempoMap((TempoEvent(0, 60.0, True), TempoEvent(b(8), 180.0)))
    state = replace(session(), tempo=tempo)
    request = Follow((FollowOn("rain.pan", -100, 100),), ("voice",), attack=0, release=0)
    curve = followed(request, on=state).lane_at("rain.pan").envelope
    jumps = [int(t) for t in curve.ticks[1:][curve.ticks[1:] == curve.ticks[:-1]]]
    assert jumps == pytest.approx([tempo.tick_at(1.0), tempo.tick_at(2.0)], abs=2)
    seconds = np.linspace(0, 9, 50)
    assert tempo.ticks_at(seconds).tolist() == [tempo.tick_at(x) for x in seconds.tolist()]


ODD = (None, 1, "x", [], {}, -1e300, 10**40, "rain.level", [["x"]], True, [[1, 2]], [[0, 0, 0], [0, 0, 0], [0, 0, 0]])


@given(st.integers(0, 2**32))
def test_whatever_a_file_says_of_how_a_lane_was_made_does_no_harm(seed):
    """A value, anywhere in it, is something else: it is read as something that can be, or as nothing."""
    random = Random(seed)
    lane = Lane("L", "rain.level", "track", Envelope.of([(0, -20.0, 0.0)], Axis.LEVEL))
    request = Follow((FollowOn("rain.level"),), ("voice",), does="makes room", attack=0, release=0, within=FINE)
    made = followed(request, on=session(lane))
    key, text = made.lane("L").extra[-1]
    row = json.loads(text)
    place = random.choice(
        (row, row["request"], row["request"], row["request"]["targets"][0], row["request"]["within"][0])
    )
    place[random.choice(sorted(place))] = random.choice(ODD)
    said = random.choice(
        (json.dumps(row), text[: random.randrange(len(text))], "[" * 5000, text.replace("-30.0", "NaN"))
    )
    other = made.with_lanes(replace(x, extra=((key, said),)) for x in made.lanes)
    all_findings(other)
    asked = lane_out(other, other.lane("L"), 0, []).follows
    assert (asked is None) == (how_made(other, other.lane("L")) is None)
    try:
        plan(other, "make anew", MakeAnew(("L",)), sounding=BURST).applied_to(other)
    except RequestError as refused:
        assert refused.message


def test_a_recipe_finds_its_source_by_name_and_keeps_ends_only_where_they_fit():
    """Kept where the source is called “Voice Level”; used where that name has another id, on a pan and on a filter."""
    asked = Follow((FollowOn("rain.pan", -50.0, 50.0),), source="voice.level", start=b(0), end=b(4))
    recipe = recipes.kept(
        session(Lane("L", "voice.level", "track", Envelope.of([(0, -6.0)], Axis.LEVEL))), "follow", asked
    )
    assert (recipe.request.start, recipe.request.end, dict(recipe.names)) == (
        None,
        None,
        {"voice.level": "Voice Level"},
    )
    here = session(
        Lane("P", "rain.pan", "track", Envelope.of([(0, 0.0)])),
        Lane("C", "cut", "track", Envelope.of([(0, 100.0)], CUT.axis)),
    )
    voice = next(t for t in here.tracks if t.id == "voice")
    here = here.with_tracks(
        (*(t for t in here.tracks if t is not voice), replace(voice, id="v", parameters=(level("v.level"),)))
    )
    made, missing = recipes.used(here, recipe, recipes.Selection(("P", "C", "P"), b(2), b(6)))
    assert (made.source, made.start, made.end, missing) == ("v.level", b(2), b(6), [])
    assert made.targets == (FollowOn("rain.pan", -50.0, 50.0), FollowOn("cut"))
    silent = here.with_tracks(t for t in here.tracks if t.id != "v")
    nobody, missing = recipes.used(silent, recipe, recipes.Selection(("P",)))
    assert nobody.source is None and missing == ["there is no Voice Level here"]
