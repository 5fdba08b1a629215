"""What each kind of finding finds, what comes close and is none, and that its mend leaves nothing of it."""

from dataclasses import replace
from random import Random

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st
from pytest import approx

from tests.planted import planted
from tests.strategies import sessions
from velmot.core.curves.axes import Axis
from velmot.core.curves.envelope import Envelope
from velmot.core.curves.segments import HOLD
from velmot.core.findings import KINDS, Looked, all_findings
from velmot.core.parameters.parameter import Family, Parameter, level, mute, pan
from velmot.core.session.heard import heard
from velmot.core.session.phrases import Phrase, Placement
from velmot.core.session.session import Session
from velmot.core.session.track import Lane, Mode, Region, Track, TrackKind
from velmot.core.tidy.clean_up import cleaned
from velmot.core.tidy.request import CleanUp
from velmot.core.time.ticks import ticks_of as b
from velmot.core.verbs import plan, verb_of
from velmot.core.verbs.thin.request import Within

CUT = Parameter("cut", "Low cut", Family.DEVICE, axis=Axis.LOG, unit="Hz", low=20.0, high=2e4, value=80.0, default=80.0)


def session(points, parameter=None, bend=0.0, regions=(), **more) -> Session:
    """120 bpm, 4/4, 32 beats: a bell with one lane, whose points are (beat, value)."""
    parameter = parameter or level("level", value=-6.0)
    curve = Envelope.of([(b(at), value, bend) for at, value in points], parameter.axis)
    track = Track(
        "bell",
        "Bell",
        parameters=(parameter,),
        regions=tuple(Region(f"r{n}", "r", b(a), b(e - a)) for n, (a, e) in enumerate(regions)),
    )
    made = Session("s", b(32), (track,), (Lane("L", parameter.id, "track", curve),))
    return replace(made, **more).checked()


def found(made: Session, kind: str):
    return [one for one in all_findings(made) if one.kind == kind]


def mended(made: Session, one) -> Session:
    return plan(made, verb_of(one.mend), one.mend).applied_to(made)


def tidied(made: Session, *within: Within):
    return cleaned(made, CleanUp(within))


def points(made: Session) -> int:
    return sum(len(lane.envelope) for lane in made.lanes)


def sounds(made: Session, parameter: str = "level"):
    curve = heard(made, parameter).envelope
    return [float(curve.value_at(b(beat / 4))) for beat in range(128)]


def test_a_lane_at_its_resting_value_does_nothing():
    made = session([(0, -6), (9, -6), (12, -6)])
    (one,) = found(made, "nothing")
    assert (one.lane, one.start, one.end, one.sure) == ("L", 0, b(32), 1.0) and "−6.0 dB" in one.words
    after = mended(made, one)
    assert found(after, "nothing") == [] and after.lanes == () and sounds(after) == sounds(made)
    assert found(session([(0, -6), (9, -6.001)]), "nothing") == [], "it moves"
    from_file = session([(0, -6)], extra=(("came_from", "{}"),))
    assert found(from_file, "nothing") == [], "a file's first value is its set-up"


def test_a_flat_lane_could_rest():
    made = session([(0, -9), (20, -9)])
    (one,) = found(made, "flat")
    assert one.words == "stays at −9.0 dB from end to end" and one.lossless
    after = mended(made, one)
    assert after.lanes == () and after.parameter("level").value == approx(-9, abs=1e-12)
    assert sounds(after) == approx(sounds(made), abs=1e-9)
    assert found(session([(0, -6)]), "flat") == [] and found(session([(0, -9), (4, -8)]), "flat") == []
    off = replace(made, tracks=(replace(made.tracks[0], mode=Mode.OFF),))
    (one,) = found(off, "flat")
    assert one.mend is None and not one.lossless, "what rests would be heard, and the lane is not"


def test_idle_points_could_go():
    made = session([(n / 2, -20 + n / 2) for n in range(20)])
    (one,) = found(made, "pieces")
    assert one.words == "18 points of 20 could go without changing anything"
    after = mended(made, one)
    assert len(after.lane("L").envelope) == 2 and found(after, "pieces") == []
    assert sounds(after) == approx(sounds(made), abs=1e-9)
    assert found(session([(n, -20 + n) for n in range(9)]), "pieces") == [], "seven are few"
    assert found(session([(n, -20 + (n % 3)) for n in range(20)]), "pieces") == []


def test_a_step_that_nothing_explains_becomes_a_ramp_of_40_ms():
    made = session([(0, -20), (8, -20), (8, -10), (16, -12)])
    (one,) = found(made, "step")
    assert (one.start, one.size, one.lane) == (b(8), approx(10), "L") and one.words.startswith("steps 10.00 dB")
    after = mended(made, one)
    curve = heard(after, "level").envelope
    assert curve.value_at(b(8)) == approx(-15, abs=0.1), "half-way in the middle of it"
    # 20 ms at 120 bpm are 0.04 beats: outside of them all is as it was
    assert [curve.value_at(b(at)) for at in (7.95, 8.05)] == approx([-20, -10 - 2 / 8 * 0.05], abs=1e-6)
    assert found(after, "step") == []


@pytest.mark.parametrize(
    "made",
    [
        session([(0, -20), (8, -20), (8, -16), (16, -12)]),  # less than a twentieth of the range
        session([(0, -20), (8, -20), (8.1, -10), (16, -12)]),  # 50 ms
        session([(0, -20), (8, -20), (8, -10), (16, -12)], regions=[(8, 12)]),
        session([(0, -96), (8, -96), (8, -10), (16, -12)]),  # out of silence
        session([(n, -20 + 10 * (n % 2)) for n in range(12)], bend=HOLD),  # meant to step
        session([(0, 0), (8, 1)], parameter=mute("mute"), bend=HOLD),
    ],
)
def test_steps_that_are_none(made):
    assert found(made, "step") == []


def test_a_device_that_starts_after_the_sound():
    made = session([(8, 100), (16, 400)], parameter=CUT, regions=[(4, 20)])
    (one,) = found(made, "late")
    assert (one.start, one.end, one.words) == (b(4), b(8), "begins at 3.1.00, the sound at 2.1.00")
    after = mended(made, one)
    assert found(after, "late") == [] and sounds(after, "cut") == approx(sounds(made, "cut"))
    assert found(session([(4, 100), (16, 400)], parameter=CUT, regions=[(4, 20)]), "late") == []
    assert found(session([(8, -20), (16, -10)], regions=[(4, 20)]), "late") == [], "a level is no device"


def test_stuck_at_an_end_after_a_move():
    made = session([(0, 0), (8, 12), (16, 12), (17, 0)])
    (one,) = found(made, "stuck")
    assert (one.start, one.end) == (b(8), b(16)) and one.words == "stays at 12.0 dB, the end of its range, until 5.1.00"
    assert found(session([(0, 0), (8, 12), (11, 12), (17, 0)]), "stuck") == [], "less than a bar"
    assert found(session([(0, 0), (8, 12), (12, 12), (17, 0)]), "stuck") == [], "a bar, and no longer"
    assert found(session([(0, 12), (16, 12), (17, 0)]), "stuck") == [], "it did not move there"
    assert found(session([(0, 0), (8, -96), (24, -96)]), "stuck") == [], "silence is no end"


def grouped(lane: float, group: float) -> Session:
    bell = Track("bell", "Bell", parameters=(level("level"),))
    swell = Track("swell", "Swell", TrackKind.GROUP, parameters=(level("swell"),), members=("bell",))
    curves = [Envelope.of([(0, v), (b(8), v - 1)], Axis.LEVEL) for v in (lane, group)]
    lanes = (Lane("L", "level", "track", curves[0]), Lane("G", "swell", "track", curves[1]))
    return Session("s", b(32), (bell, swell), lanes).checked()


def test_louder_with_its_groups_than_0_db():
    made = grouped(-2.0, 5.0)
    (one,) = found(made, "loud")
    assert (one.parameter, one.start, one.size) == ("level", 0, approx(3.0)) and one.words.startswith(
        "is heard at 3.0 dB"
    )
    after = mended(made, one)
    assert found(after, "loud") == [] and max(sounds(after)) == approx(0)
    assert found(grouped(-6.0, 5.0), "loud") == [] and found(grouped(3.0, 0.0), "loud") == [], "it is meant there"


WAVE = Envelope.of([(b(n), -10.0 - n % 3) for n in range(6)], Axis.LEVEL)


def bells(*curves, regions=()) -> Session:
    """As many tracks with a level and a pan as there are curves: a level's, or a pan's."""
    tracks = tuple(
        Track(f"t{n}", f"Bell {n}", parameters=(level(f"l{n}"), pan(f"p{n}")), regions=regions if n == 0 else ())
        for n in range(len(curves))
    )
    lanes = tuple(
        Lane(f"L{n}", f"{'l' if curve.axis is Axis.LEVEL else 'p'}{n}", "track", curve)
        for n, curve in enumerate(curves)
    )
    return Session("s", b(32), tracks, lanes).checked()


def test_lanes_that_do_the_same_on_a_straight_map_are_pooled():
    """A curve; itself 6 dB lower; upside down, ten times as deep on a pan and twice as long."""
    turned = Envelope(WAVE.ticks * 2, 10.0 * (-12.0 - WAVE.values), WAVE.bends, Axis.LINEAR)
    made = bells(WAVE, Envelope(WAVE.ticks, WAVE.values - 6, WAVE.bends, Axis.LEVEL), turned)
    (one,) = found(made, "same")
    assert (one.lane, one.words) == ("L0", "does the same as 2 other lanes, Bell 1 Level among them")
    assert (one.size, one.sure) == (2.0, 0.6)
    after = mended(made, one)
    assert [(p.parameter, p.scale, p.offset, p.length) for p in after.placements] == [
        ("l0", 1.0, 0.0, b(5)),
        ("l1", 1.0, -6.0, b(5)),
        ("p2", approx(-10), approx(-120), b(10)),
    ]
    assert found(after, "same") == []
    for n, id in enumerate(("l0", "l1", "p2")):
        assert sounds(after, id) == approx(sounds(made, id), abs=1e-9), n


def test_what_only_comes_near_is_not_the_same():
    one_off = WAVE.values.copy()
    one_off[2] += 0.4
    near = Envelope(WAVE.ticks, one_off, WAVE.bends, Axis.LEVEL)
    later = Envelope(WAVE.ticks + np.array([0, 0, b(0.1), 0, 0, 0]), WAVE.values, WAVE.bends, Axis.LEVEL)
    assert found(bells(WAVE, near), "same") == found(bells(WAVE, later), "same") == []
    assert (
        found(
            bells(WAVE, near.with_points(WAVE.ticks, WAVE.values + np.array([0, 0, 0.05, 0, 0, 0]), WAVE.bends)), "same"
        )
        != []
    )
    three = Envelope.of([(b(n), -9.0 - n % 2) for n in range(3)], Axis.LEVEL)
    assert found(bells(three, three), "same") == [], "three points come about by themselves"


def test_members_of_a_group_of_which_some_are_off():
    tracks = tuple(Track(id, id.title(), parameters=(level(f"{id}.level"),)) for id in ("one", "two"))
    group = Track("g", "Swell", TrackKind.GROUP, members=("one", "two"), parameters=(level("g.level"),))
    lanes = tuple(
        Lane(id, f"{id}.level", "track", Envelope.of([(0, -3), (9, -4)], Axis.LEVEL)) for id in ("one", "two")
    )
    made = Session("s", b(32), (tracks[0], replace(tracks[1], mode=Mode.OFF), group), lanes).checked()
    (one,) = found(made, "disagree")
    assert (one.track, one.words) == ("g", "Two is off, others of Swell read")
    assert found(mended(made, one), "disagree") == []
    assert found(replace(made, lanes=lanes[:1]), "disagree") == [], "one without lanes has nothing to read"
    assert found(replace(made, tracks=(*tracks, group)), "disagree") == []


def test_names_that_several_have():
    made = session([(0, -6), (4, -3)])
    again = replace(made, tracks=(*made.tracks, Track("other", "Bell", parameters=(pan("p"),)))).checked()
    assert [(one.track, one.words) for one in found(again, "names")] == [("bell", "2 tracks are called “Bell”")]
    phrases = tuple(Phrase(id, "wave", b(1), Envelope.of([(0, 0), (b(1), 1)], Axis.LINEAR)) for id in ("a", "b"))
    assert [one.words for one in found(replace(made, phrases=phrases), "names")] == ["2 phrases are called “wave”"]
    assert found(made, "names") == []
    tolls = tuple(Region(f"r{n}", "toll", b(at), b(1)) for n, at in enumerate((0, 2, 8)))
    within = replace(made, tracks=(replace(made.tracks[0], regions=tolls),))
    (one,) = found(within, "names")
    assert (one.track, one.start, one.words) == ("bell", 0, "2 regions of Bell in bar 1 are called “toll”")


def test_a_group_and_a_bus_that_hear_nothing():
    made = grouped(-2.0, 5.0)
    lonely = replace(made.tracks[-1], members=())
    (one,) = found(replace(made, tracks=(*made.tracks[:-1], lonely)), "hears nothing")
    assert (one.track, one.words) == (lonely.id, f"{lonely.name} is a group without members")
    assert found(made, "hears nothing") == []
    hall = Track("hall", "Hall", TrackKind.BUS, parameters=(level("hall.level"),))
    lane = Lane("H", "hall.level", "track", Envelope.of([(0, -3), (b(4), -9)], Axis.LEVEL))
    alone = replace(made, tracks=(*made.tracks, hall), lanes=(*made.lanes, lane))
    assert [x.words for x in found(alone, "hears nothing")] == ["Hall is a bus that no send feeds"]
    send = Parameter("bell.send", "Send: Hall", Family.SEND, axis=Axis.LEVEL, unit="dB", low=-96, high=6, target="hall")
    fed = replace(made.tracks[0], parameters=(*made.tracks[0].parameters, send))
    assert found(replace(alone, tracks=(fed, *alone.tracks[1:])), "hears nothing") == []
    assert found(replace(alone, lanes=made.lanes), "hears nothing") == [], "without automation it is none"


def test_a_level_that_is_meant_to_be_high_and_goes_beyond_its_range():
    (one,) = found(grouped(9.0, 5.0), "loud")
    assert one.size == approx(2.0) and one.sure == 0.6
    assert found(mended(grouped(9.0, 5.0), one), "loud") == []


@given(sessions(), st.randoms(use_true_random=False))
def test_findings_do_not_depend_on_the_order_of_lanes(made: Session, random: Random):
    lanes = [*made.lanes]
    random.shuffle(lanes)

    def said(some: Session) -> set:
        return {
            (one.kind, one.parameter, one.track, one.start, one.end) for one in all_findings(some) if one.kind != "same"
        }

    assert said(replace(made, lanes=tuple(lanes))) == said(made)
    assert all(one.kind in KINDS and 0 <= one.start <= one.end <= made.length for one in all_findings(made))


@given(sessions())
def test_every_mend_can_be_done_and_is_the_end_of_what_was_found(made: Session):
    for one in all_findings(made):
        if one.mend is not None and one.kind not in ("not heard", "gap"):  # which have this of their own
            after = mended(made, one)
            same = [
                x
                for x in found(after, one.kind)
                if (x.parameter, x.track, x.start) == (one.parameter, one.track, one.start)
            ]
            assert same == [], (one, same)


@given(sessions())
def test_tidying_changes_nothing_that_is_heard_and_twice_is_once(made: Session):
    after = tidied(made)
    for track in made.tracks:
        for p in track.parameters:
            one, other = heard(made, p.id).envelope, heard(after.session, p.id).envelope
            for at in sorted(
                {*one.ticks.tolist(), *other.ticks.tolist(), *range(0, made.length, made.length // 40 + 1)}
            ):
                for side in ("left", "right"):
                    pair = [p.axis.coordinate(x.value_at(at, side)) for x in (one, other)]
                    assert pair[0] == approx(pair[1], abs=1e-6 if not track.reads else 1e-9), (p.id, at, side)
    again = tidied(after.session)
    assert again.done == () and again.session == after.session


def test_tidying_counts_what_went_and_thins_where_a_bound_is_given():
    made = session([(0, -6), (9, -6), (12, -6)])
    after = tidied(made)
    assert [one.kind for one in after.done] == ["nothing"] and points(after.session) == 0
    wavy = session([(n / 4, -20 + 0.01 * (n % 2)) for n in range(40)])
    assert tidied(wavy).done == () and points(tidied(wavy, Within("dB", 0.05)).session) == 2


def muted(points, moves, regions=()) -> Session:
    """A bell with a mute over beats as said, and a level that moves."""
    track = Track("bell", "Bell", parameters=(level("level"), mute("mute")), regions=regions)
    lanes = (
        Lane("L", "level", "track", Envelope.of([(b(at), value) for at, value in moves], Axis.LEVEL)),
        Lane("M", "mute", "track", Envelope.of([(b(at), value, HOLD) for at, value in points], Axis.LINEAR)),
    )
    return Session("s", b(32), (track,), lanes).checked()


def test_moves_only_where_nothing_sounds():
    region = Region("r", "toll", b(16), b(8))
    (one,) = found(muted([(0, 0), (4, 1), (12, 0)], [(0, -6), (5, -6), (11, -20)]), "silent")
    assert (one.lane, one.start, one.end, one.words) == ("L", b(5), b(11), "moves only where Bell is muted")
    assert found(muted([(0, 0), (4, 1), (10, 0)], [(0, -6), (5, -6), (11, -20)]), "silent") == [], (
        "a beat of it is heard"
    )
    assert found(muted([(0, 0), (4, 1), (12, 0)], [(0, -6), (9, -6)]), "silent") == [], "it does not move"
    (one,) = found(muted([(0, 0)], [(2, -6), (8, -9), (28, -9), (30, -6)], (region,)), "silent")
    assert one.words == "moves only where Bell has no region" and (one.start, one.end) == (b(2), b(30))
    both = muted([(0, 0), (15, 1), (20, 0)], [(2, -6), (8, -9), (17, -9), (19, -6)], (region,))
    assert [x.words for x in found(both, "silent")] == ["moves only where Bell has no region and Bell is muted"]
    assert found(muted([(0, 0)], [(2, -6), (17, -9)], (region,)), "silent") == []


def test_phrases_in_no_place():
    points = Envelope.of([(0, 0), (b(1), 1)], Axis.LINEAR)
    made = session([(0, -6), (4, -3)], phrases=(Phrase("a", "wave", b(1), points),))
    assert [one.words for one in found(made, "unplaced")] == ["the phrase wave lies in no place"]
    assert found(session([(0, -6), (4, -3)]), "unplaced") == []


def test_what_a_phrase_says_is_left_to_it():
    curve = Envelope.of([(b(n / 2), -20 + 0.01 * (n % 2)) for n in range(17)], Axis.LEVEL)
    phrase = Phrase("p", "wave", b(8), curve, unit="dB", axis=Axis.LEVEL, low=-20.0, high=-19.99)
    place = Placement("one", "p", "level", "track", 0, b(8))
    made = session([(n / 2, -20 + 0.01 * (n % 2)) for n in range(17)], phrases=(phrase,), placements=(place,))
    after = tidied(made, Within("dB", 0.05))
    assert after.session == made and after.done == () and found(made, "pieces") == found(made, "same") == []
    still = replace(phrase, curve=Envelope.of([(0, -9.0), (b(8), -9.0)], Axis.LEVEL), low=-9.0, high=-8.0)
    flat = session([(0, -9.0), (8, -9.0)], phrases=(still,), placements=(place,))
    assert found(flat, "flat") == []


def in_region(points, other=()) -> Session:
    """A bell with a region from beat 8 to 16 and its own lane there; `other` is the track's lane."""
    track = Track("bell", "Bell", parameters=(level("level", value=-6.0),), regions=(Region("r", "toll", b(8), b(8)),))
    lanes = [Lane("R", "level", "r", Envelope.of([(b(at), value) for at, value in points], Axis.LEVEL))]
    if other:
        lanes.append(Lane("T", "level", "track", Envelope.of([(b(at), value) for at, value in other], Axis.LEVEL)))
    return Session("s", b(32), (track,), tuple(lanes)).checked()


def test_a_move_that_is_cut_off_where_its_region_ends():
    made = in_region([(0, -30), (6, -30), (10, -10)])
    (one,) = found(made, "open")
    assert (one.lane, one.start, one.end, one.size) == ("R", b(14), b(16), approx(10))
    assert one.words == "is still moving, at −20.0 dB, where toll ends; it would go to −10.0 dB"
    after = mended(made, one)
    assert after.lane("R").envelope.points()[-1] == (b(8), -10.0, 0.0) and found(after, "open") == []
    assert found(in_region([(0, -30), (6, -30), (8, -10)]), "open") == [], "it has arrived"
    assert found(in_region([(0, -30), (6, -10), (10, -10)]), "open") == [], "it does not move any more"
    assert found(in_region([(0, -30), (7, -10.5), (10, -10)]), "open") == [], "half a dB of it is cut off"


def test_a_tracks_lane_that_is_lost_under_a_region():
    made = in_region([(0, -30), (8, -20)], other=[(0, -12), (9, -12), (12, -6), (20, -12)])
    (one,) = found(made, "otherwise")
    assert (one.lane, one.start, one.end, one.mend) == ("R", b(8), b(16), None)
    assert one.size == approx(19.0, abs=0.5) and "under toll" in one.words
    assert found(in_region([(0, -30), (8, -20)], other=[(0, -12), (4, -12), (20, -12)]), "otherwise") == [], "it stays"
    again = [(0, -12), (1, -12), (4, -6), (8, -9)]
    assert found(in_region(again, other=[(8 + at, value) for at, value in again]), "otherwise") == [], (
        "they say the same"
    )


def test_steps_of_a_controller_become_slopes_and_gates_stay():
    rows = [(n, float(n if n < 20 else 40 - n)) for n in range(30)]
    made = session(rows, pan("pan"), bend=HOLD)
    (one,) = found(made, "stairs")
    assert one.words == "goes in steps: 30 points, as slopes 5" or one.words.startswith(
        "goes in steps: 30 points, as slopes"
    )
    after = mended(made, one)
    assert found(after, "stairs") == [] and points(after) <= 8
    assert max(abs(x - y) for x, y in zip(sounds(made, "pan"), sounds(after, "pan"), strict=True)) <= 0.5 + 1e-9
    gate = [(n, 0.0 if n % 2 else 50.0) for n in range(30)]
    assert found(session(gate, pan("pan"), bend=HOLD), "stairs") == [], "a gate goes there and back"
    assert found(session(rows[:8], pan("pan"), bend=HOLD), "stairs") == [], "eight are few"


def test_a_dense_lane_is_thinned_once():
    wave = [(n / 20, -20 + (n % 40) / 4 + (n % 3) / 50) for n in range(600)]
    made = session(wave)
    (one,) = found(made, "dense")
    assert one.words == "600 points"
    after = mended(made, one)
    assert points(after) < 100 and found(after, "dense") == []
    assert found(session(wave[:499]), "dense") == []


def test_what_is_found_is_found_again_only_where_something_changed():
    """Every finding of one session after another is what a fresh look says; what is untouched is not looked at again."""
    random, looked = Random(3), Looked()
    made, _ = planted(3, clean=4)
    for _ in range(4):
        assert looked.all(made) == all_findings(made)
        lane = random.choice(made.lanes)
        values = lane.envelope.values.copy()
        values[0] = made.parameter(lane.parameter).value
        moved = replace(lane, envelope=lane.envelope.with_points(lane.envelope.ticks, values, lane.envelope.bends))
        made = replace(made, lanes=tuple(moved if x.id == lane.id else x for x in made.lanes)).checked()
    seen = []
    for kind in KINDS.values():
        if kind.look:
            real = kind.look
            object.__setattr__(kind, "look", lambda s, p, real=real: (seen.append(p), real(s, p))[1])
    try:
        looked.all(made)
        assert len({made.owner(p).id for p in seen}) == 1, "only the track of the last edit"
    finally:
        for kind in KINDS.values():
            if kind.look:
                object.__setattr__(kind, "look", kind.look.__defaults__[0])
