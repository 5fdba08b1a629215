"""Phrases and their places: what is drawn, what goes back, and who decides."""

from dataclasses import replace

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st

from tests.strategies import LENGTH, envelopes
from velmot.core.curves import editing, warps
from velmot.core.curves.difference import differing_span
from velmot.core.curves.envelope import Envelope
from velmot.core.curves.shapes import Shape
from velmot.core.errors import RequestError
from velmot.core.parameters.parameter import level, pan
from velmot.core.session.honest_links import honest
from velmot.core.session.phrases import Phrase
from velmot.core.session.session import Session
from velmot.core.session.track import Lane, Mode, Region, Track
from velmot.core.time.ticks import TICKS_PER_BEAT as BEAT
from velmot.core.time.ticks import Tick
from velmot.core.verbs import plan
from velmot.core.verbs.carry.request import Carry
from velmot.core.verbs.points.request import MovePoints
from velmot.core.verbs.request import Picked
from velmot.core.verbs.reuse.request import ChangePhrase, ChangePlaces, KeepPhrase, Place, PlaceOn, SetFree
from velmot.core.verbs.shape.request import RaiseSpan


def b(beats):
    return Tick(round(beats * BEAT))


def session(tracks=4, **lanes):
    """Tracks t0, t1, … with a level and a pan each, 64 beats long."""
    made = tuple(
        Track(f"t{n}", f"T{n}", parameters=(level(f"t{n}.level", value=-20.0), pan(f"t{n}.pan"))) for n in range(tracks)
    )
    some = tuple(
        Lane(
            f"L{i}",
            id.replace("_", "."),
            "track",
            Envelope.of(rows, made[0].parameters[0].axis if "level" in id else Envelope.constant(0).axis),
        )
        for i, (id, rows) in enumerate(lanes.items())
    )
    return Session("s", 64 * BEAT, made, some).checked()


def do(state, verb, request, links="follow"):
    return plan(state, verb, request, links).applied_to(state)


def at(state, parameter, *beats, side="right"):
    return state.lane_at(parameter).envelope.at(np.array([b(x) for x in beats]), side).tolist()


SWELL = [(0, -40.0), (b(4), -20.0), (b(8), -40.0), (b(12), -30.0), (b(16), -40.0)]


@pytest.fixture
def swell():
    """A swell kept from beats 4 to 12 of T0, linked there, and placed on T1 and T2 at beat 20."""
    state = do(session(t0_level=SWELL), "keep phrase", KeepPhrase("L0", b(4), b(12), "swell"))
    wanted = Place((PlaceOn("t1.level"), PlaceOn("t2.level")), b(20), phrase=state.phrases[0].id, deep="unit")
    return do(state, "place", wanted)


def test_a_swell_is_kept_and_placed(swell):
    assert at(swell, "t1.level", 20, 24, 27.99) == pytest.approx([-20, -40, -30.025], abs=1e-9)
    assert at(swell, "t1.level", 19, 28) == [-20, -20]  # the static value outside
    assert [x.name for x in swell.phrases] == ["swell"] and len(swell.placements) == 3


def test_a_phrase_at_half_depth_about_the_middle():
    state = session()
    ramp = Phrase("p", "ramp", b(4), Envelope.of([(0, 0.0), (b(4), 127.0)]), None, "", low=0, high=127)
    state = replace(state, phrases=(ramp,))
    made = do(state, "place", Place((PlaceOn("t0.pan"),), b(8), phrase="p", depth=50.0))
    assert at(made, "t0.pan", 8, 10) == pytest.approx([-50, 0]) and at(
        made, "t0.pan", 12, side="left"
    ) == pytest.approx([50])
    upside = do(state, "place", Place((PlaceOn("t0.pan"),), b(8), phrase="p", depth=50.0, upside_down=True))
    assert at(upside, "t0.pan", 8) == pytest.approx([50])
    back = do(state, "place", Place((PlaceOn("t0.pan"),), b(8), phrase="p", backwards=True))
    assert at(back, "t0.pan", 8, 11) == pytest.approx([100, -50])


def test_a_sine_between_two_values():
    wanted = Place((PlaceOn("t0.level", low=-20.0, high=-8.0),), b(8), b(12), shape=Shape("sine"), deep="between")
    made = do(session(), "place", wanted)
    assert at(made, "t0.level", 8, 9, 10, 11) == pytest.approx([-14, -8, -14, -20], abs=1e-9)
    low, high = (
        at(do(session(), "place", replace(wanted, deep="static", depth=d)), "t0.level", 9)[0] for d in (10.0, 20.0)
    )
    assert (low, high) == pytest.approx((-20 + 5.4, -20 + 10.8))  # a tenth and a fifth of 108 dB, half of it above


def test_a_wrapped_stagger_has_no_seam():
    """Eight lanes, a bar each, an eighth later each, over eight bars."""
    targets = tuple(PlaceOn(f"t{n}.{p}") for n in range(4) for p in ("pan", "level"))
    wanted = Place(
        targets, b(16), b(48), shape=Shape("sine"), length=b(4), times=None, deep="between", stagger=b(0.5), wrap=True
    )
    wanted = replace(wanted, targets=tuple(replace(t, low=-50.0, high=10.0) for t in targets))
    made = do(session(), "place", wanted)
    beats = np.arange(16, 48, 0.37)
    first = at(made, targets[0].parameter, *((beats - 16) % 32 + 16))
    for n, target in enumerate(targets):
        assert at(made, target.parameter, 16) == pytest.approx(at(made, target.parameter, 48, side="left"), abs=1e-9)
        later = at(made, target.parameter, *((beats + n / 2 - 16) % 32 + 16))
        assert later == pytest.approx(first, abs=1e-9)
    assert len(made.phrases) == 1 and len(made.placements) == 64


def moved(state, lane, index, value):
    axis = state.parameter(state.lane(lane).parameter).axis
    now = state.lane(lane).envelope.values[index]
    return MovePoints((Picked(lane, (index,)),), rise=float(axis.coordinate(value) - axis.coordinate(now)))


def test_an_edit_inside_one_place_reaches_all_of_them(swell):
    lane = swell.lane_at("t1.level")
    index = lane.envelope.ticks.tolist().index(b(24))
    change = plan(swell, "move points", moved(swell, lane.id, index, -60.0))
    assert change.links.places == 3 and change.links.tracks == 3 and change.links.choices == ("follow", "free")
    after = change.applied_to(swell)
    assert at(after, "t0.level", 8) == at(after, "t1.level", 24) == at(after, "t2.level", 24) == [-60]
    assert at(after, "t0.level", 2, 14) == at(swell, "t0.level", 2, 14)
    alone = do(swell, "move points", moved(swell, lane.id, index, -60.0), "free")
    assert at(alone, "t0.level", 8) == [-40] and at(alone, "t1.level", 24) == [-60]
    assert [x.parameter for x in alone.placements] == ["t0.level", "t2.level"]


def test_a_whole_place_lowered_here_only_stays_linked(swell):
    lower = RaiseSpan((swell.lane_at("t1.level").id,), b(20), b(28), -2.0)
    with pytest.raises(RequestError):
        plan(swell, "raise", replace(lower, start=b(21)), "here")
    after = do(swell, "raise", lower, "here")
    assert (
        len(after.placements) == 3
        and at(after, "t1.level", 24) == pytest.approx([-42])
        and at(after, "t2.level", 24) == [-40]
    )
    again = do(after, "move points", moved(after, "L0", SWELL.index((b(8), -40.0)), -50.0))
    assert at(again, "t1.level", 24) == pytest.approx([-52]) and at(again, "t2.level", 24) == pytest.approx([-50])


def test_what_covers_more_than_a_place_reads_it_otherwise_or_sets_it_free(swell):
    wide = do(swell, "raise", RaiseSpan((swell.lane_at("t1.level").id,), b(10), b(40), -2.0))
    assert len(wide.placements) == 3 and at(wide, "t2.level", 24) == [-40]
    half = plan(swell, "raise", RaiseSpan((swell.lane_at("t1.level").id,), b(24), b(40), -2.0))
    assert [x.parameter for x in half.applied_to(swell).placements] == ["t0.level", "t2.level"]
    assert any(c.code == "set-free" and "T1 Level at 6.1.00" in c.message for c in half.cautions)


def test_two_places_of_one_phrase_written_differently(swell):
    """The first goes back; the other, which was written otherwise, is set free as it was written."""
    picked = tuple(
        Picked(swell.lane_at(p).id, (swell.lane_at(p).envelope.ticks.tolist().index(b(24)),))
        for p in ("t1.level", "t2.level")
    )
    alike = do(swell, "move points", MovePoints(picked, rise=-5.0))
    assert len(alike.placements) == 3 and at(alike, "t0.level", 8) == [-45]
    shorter = do(swell, "change places", ChangePlaces((swell.placements[2].id,), low=-50.0, high=-20.0))
    apart = do(
        shorter,
        "move points",
        MovePoints(
            tuple(replace(p, points=(shorter.lane(p.lane).envelope.ticks.tolist().index(b(24)),)) for p in picked),
            rise=-5.0,
        ),
    )
    assert [x.parameter for x in apart.placements] == ["t0.level", "t1.level"]
    assert at(apart, "t2.level", 24) == pytest.approx([-55])


def test_places_are_moved_stretched_turned_and_set_free(swell):
    one = swell.placements[1].id
    moved_on = do(swell, "change places", ChangePlaces((one,), move=b(10), length=b(4)))
    assert at(moved_on, "t1.level", 30, 32) == pytest.approx([-20, -40]) and at(
        moved_on, "t1.level", 24
    ) == pytest.approx([-20])
    turned = do(swell, "change places", ChangePlaces((one,), turn=b(2)))
    assert at(turned, "t1.level", 22, 26) == pytest.approx([-20, -40])
    deeper = do(swell, "change places", ChangePlaces((one,), depth=50.0))
    assert at(deeper, "t1.level", 20, 24) == pytest.approx([-30 + 27, -30 - 27])
    again = Carry((swell.lane_at("t1.level").id,), ("t1",), start=b(20), end=b(28), at=b(28), linked=True)
    beside = do(swell, "carry", again)
    two = tuple(x.id for x in beside.placed_on("t1.level", "track"))
    assert [
        x.span for x in do(beside, "change places", ChangePlaces(two, length=b(8))).placed_on("t1.level", "track")
    ] == [
        (b(20), b(28)),
        (b(28), b(36)),
    ]
    with pytest.raises(RequestError, match="swell on .*: a place would lie over the next one") as refused:
        plan(beside, "change places", ChangePlaces(two, length=b(8) + 1))
    assert refused.value.accepted == "up to 8 beats, or one place at a time"
    free = do(swell, "set free", SetFree((one,)))
    assert free.lanes == swell.lanes and len(free.placements) == 2
    assert not do(swell, "set free", SetFree((one,), all=True)).placements


def test_a_phrase_changed_in_its_own_time_changes_all_places():
    wanted = Place(
        (PlaceOn("t0.level", low=-20.0, high=-8.0), PlaceOn("t1.pan")), b(8), b(12), shape=Shape("sine"), deep="between"
    )
    state = do(session(), "place", wanted)
    after = do(state, "change phrase", ChangePhrase(state.phrases[0].id, name=" wobble ", shape=Shape("saw up")))
    assert at(after, "t0.level", 8, 10) == pytest.approx([-20, -14]) and at(after, "t1.pan", 10) == pytest.approx([0])
    assert after.phrases[0].name == "wobble"
    gone = do(state, "change phrase", ChangePhrase(state.phrases[0].id, delete=True))
    assert gone.lanes == state.lanes and not gone.phrases and not gone.placements


def test_what_cannot_go_back_is_refused_with_what_would():
    """A sine twice as deep as the pan is limited there."""
    state = do(session(), "place", Place((PlaceOn("t0.pan"),), b(8), b(12), shape=Shape("triangle"), depth=200.0))
    lane = state.lane_at("t0.pan")
    wanted = moved(state, lane.id, len(lane.envelope) // 2, 30.0)
    with pytest.raises(RequestError, match="limited") as refused:
        plan(state, "move points", wanted)
    assert refused.value.code == "links" and "free" in refused.value.accepted
    assert not do(state, "move points", wanted, "free").placements


def test_lanes_carried_linked_follow_each_other_also_by_another_map():
    state = session(t0_level=SWELL, t0_pan=[(0, -50.0), (b(16), 50.0)])
    linked = do(state, "carry", Carry(("L0", "L1"), ("t1", "t2"), start=b(0), end=b(16), linked=True))
    assert len(linked.placements) == 6 and len(linked.phrases) == 2
    index = linked.lane_at("t2.level").envelope.ticks.tolist().index(b(8))
    after = do(linked, "move points", moved(linked, linked.lane_at("t2.level").id, index, -60.0))
    assert [at(after, f"t{n}.level", 8) for n in range(3)] == [[-60]] * 3
    again = do(after, "carry", Carry(("L0",), ("t3",), start=b(0), end=b(16), linked=True))
    assert len(again.phrases) == 2 and len(again.placements) == 7
    with pytest.raises(RequestError):
        plan(state, "carry", Carry(("L0",), ("t1",), linked=True, how="move"))


def test_regions_take_their_places_along_and_copies_are_linked():
    from velmot.core.verbs.regions.request import CarryRegions

    state = session()
    region = Region("r", "r", b(8), b(8))
    tracks = (replace(state.tracks[0], regions=(region,)), *state.tracks[1:])
    lane = Lane(
        "L0", "t0.level", "r", Envelope.of([(0, -40.0), (b(4), -20.0), (b(8), -40.0)], state.parameter("t0.level").axis)
    )
    state = replace(state, tracks=tracks, lanes=(lane,)).checked()
    state = do(state, "keep phrase", KeepPhrase("L0", b(8), b(16), "swell"))
    copied = do(state, "carry regions", CarryRegions(("r",), how="repeat", times=2))
    assert len(copied.placements) == 3 and len({x.home for x in copied.placements}) == 3
    alone = do(state, "carry regions", CarryRegions(("r",), how="repeat", times=2), "free")
    assert len(alone.placements) == 1 and alone.lanes == copied.lanes
    first = next(x for x in copied.lanes if x.home == "r")
    after = do(copied, "move points", MovePoints((Picked(first.id, (1,)),), rise=-10.0))
    assert [x.envelope.value_at(b(4)) for x in after.lanes] == [-30.0] * 3


def test_what_is_not_heard_or_does_not_fit_is_said():
    state = session(2)
    region = Region("r", "r", b(8), b(8))
    tracks = (replace(state.tracks[0], regions=(region,), mode=Mode.OFF), state.tracks[1])
    lane = Lane("L0", "t0.level", "r", Envelope.constant(-9.0, state.parameter("t0.level").axis))
    state = replace(state, tracks=tracks, lanes=(lane,)).checked()
    wanted = Place((PlaceOn("t0.level"), PlaceOn("t1.pan")), b(10), shape=Shape("sine"), length=b(4), times=20)
    change = plan(state, "place", wanted)
    assert {c.code for c in change.cautions} >= {"region-wins", "not-reading", "beyond-end"}
    assert [len([x for x in change.placements if x.after.parameter == p]) for p in ("t0.level", "t1.pan")] == [13, 13]


def test_a_file_that_is_not_so_is_read_with_that_place_set_free(swell):
    other = replace(swell.placements[0], id="x", start=b(40))
    lying = replace(swell, placements=(*swell.placements, other, replace(other, id="y", phrase="none")))
    kept, freed = honest(lying)
    assert kept.placements == swell.placements and len(freed) == 2


@given(envelopes(), st.integers(1, 2 * LENGTH), st.integers(0, LENGTH))
def test_warps_say_what_they_should(curve, length, by):
    """Forwards again is the same; turned on by the rest too; stretched by a whole number every old moment is where it was."""
    piece = editing.cut(curve, 0, LENGTH)
    twice = warps.backwards(warps.backwards(piece))
    assert differing_span(twice.envelope, piece.envelope, 0, LENGTH - 1) is None
    round_ = warps.turned(warps.turned(piece, by), LENGTH - by % LENGTH)
    assert differing_span(round_.envelope, piece.envelope, 0, LENGTH - 1, least=1e-8) is None
    places = np.linspace(0, LENGTH - 1, 99).astype(np.int64)
    assert np.allclose(
        warps.stretched(piece, 3 * LENGTH).envelope.coordinate_at(3 * places),
        piece.envelope.coordinate_at(places),
        atol=1e-9,
    )
    assert np.allclose(
        warps.turned(piece, by).envelope.coordinate_at((places + by) % LENGTH),
        piece.envelope.coordinate_at(places),
        atol=1e-8,
    )
    short = warps.stretched(piece, length)
    assert short.length == length and short.envelope.ticks[-1] == length
