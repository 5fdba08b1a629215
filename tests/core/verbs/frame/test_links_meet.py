"""Where links meet the verbs: who follows, what goes along, what is set free, and that what is said is what is saved."""

from dataclasses import replace

import numpy as np
import pytest

from tests.core.verbs.test_phrases import at, b, do, session
from velmot.core.curves.axes import SILENCE, Axis
from velmot.core.curves.envelope import Envelope
from velmot.core.curves.segments import HOLD
from velmot.core.curves.shapes import Shape
from velmot.core.errors import RequestError
from velmot.core.parameters.parameter import Family, Kind, level
from velmot.core.session.phrases import Phrase, says
from velmot.core.session.track import Lane, Region, Track, TrackKind
from velmot.core.verbs import OPERATIONS, plan
from velmot.core.verbs.carry.request import Carry
from velmot.core.verbs.clear.request import Clear
from velmot.core.verbs.draw.request import Draw
from velmot.core.verbs.groups.request import Fold
from velmot.core.verbs.paste.request import Clip, Paste
from velmot.core.verbs.points.request import MovePoints, Spot
from velmot.core.verbs.regions.request import CarryRegions, CutRegions, Embed, JoinRegions, Lift, RemoveRegions
from velmot.core.verbs.request import ClipPoint, Picked
from velmot.core.verbs.retarget.request import Retarget, Target
from velmot.core.verbs.retime.request import Retime
from velmot.core.verbs.reuse.request import ChangePlaces, KeepPhrase, Place, PlaceOn
from velmot.core.verbs.ride.request import Hand, Pass, Ridden, Ride
from velmot.core.verbs.shape.request import Move, RaiseSpan, Reshape
from velmot.core.verbs.thin.request import Thin

LEVEL = Axis.LEVEL
RISE = [(0, -40.0), (b(4), -20.0), (b(8), -40.0)]


def honest(state):
    """Every place of a session is what its lane says."""
    for one in state.placements:
        lane = state.lane_at(one.parameter, one.home)
        assert says(state.phrase(one.phrase), one, state.parameter(one.parameter), lane.envelope), one
    return state


def in_region():
    """T0 has regions a (8 to 16) and c (16 to 24); a's level is a swell, of which T1 has a place on its track at 32."""
    state = session()
    regions = (Region("a", "a", b(8), b(8)), Region("c", "c", b(16), b(8)))
    lanes = (Lane("L0", "t0.level", "a", Envelope.of(RISE, LEVEL)),)
    state = replace(state, tracks=(replace(state.tracks[0], regions=regions), *state.tracks[1:]), lanes=lanes).checked()
    state = do(state, "keep phrase", KeepPhrase("L0", b(8), b(16), "swell"))
    return do(state, "place", Place((PlaceOn("t1.level"),), b(32), phrase="phrase1", deep="unit"))


def places(state):
    return sorted((x.parameter, x.home, x.start // b(1)) for x in state.placements)


ELSEWHERE = ("t1.level", "track", 32)


@pytest.mark.parametrize(
    ("verb", "request_", "then"),
    [
        ("lift", Lift(("a",)), [("t0.level", "track", 8)]),
        ("remove regions", RemoveRegions(("a",), "stays"), [("t0.level", "track", 8)]),
        ("remove regions", RemoveRegions(("a",), "goes"), []),
        ("carry regions", CarryRegions(("a",), automation="without", at=b(40)), [("t0.level", "track", 8)]),
        ("carry regions", CarryRegions(("a",), at=b(40)), [("t0.level", "a", 0)]),
        ("carry regions", CarryRegions(("a",), targets=("t2",)), [("t2.level", "a", 0)]),
        (
            "carry regions",
            CarryRegions(("a",), targets=("t2",), how="copy"),
            [("t0.level", "a", 0), ("t2.level", "region1", 0)],
        ),
        ("carry regions", CarryRegions(("a",), automation="alone", targets=("t2",)), [("t2.level", "track", 8)]),
        ("join regions", JoinRegions(("a", "c")), [("t0.level", "a", 0)]),
        ("cut regions", CutRegions(("a",), b(10)), []),
    ],
)
def test_a_place_goes_with_its_region_and_no_other_place_changes(verb, request_, then):
    state = in_region()
    change = plan(state, verb, request_)
    after = honest(change.applied_to(state))
    assert places(after) == sorted([*then, ELSEWHERE])
    assert after.lane_at("t1.level") == state.lane_at("t1.level") and after.phrases == state.phrases
    freed = [c for c in change.cautions if c.code == "set-free"]
    assert len(freed) == (not then) and all((c.start, c.end) == (b(8), b(16)) for c in freed)


def test_what_promises_sets_free_and_never_follows():
    """A fold with a moving group, and an embed over half of a place: T1's place of the same phrase stays as it is."""
    state = do(session(t0_level=[(0, -40.0), (b(8), -20.0)]), "keep phrase", KeepPhrase("L0", b(0), b(8), "rise"))
    state = do(state, "place", Place((PlaceOn("t1.level"),), b(16), phrase="phrase1", deep="unit"))
    group = Track("g", "G", TrackKind.GROUP, parameters=(level("g.level"),), members=("t0",))
    fader = Lane("G", "g.level", "track", Envelope.of([(0, 0.0), (b(2), -6.0), (b(8), 0.0)], LEVEL))
    grouped = replace(state, tracks=(*state.tracks, group), lanes=(*state.lanes, fader)).checked()
    for links in (None, "follow", "free"):
        change = plan(grouped, "fold", Fold(("g",)), links)
        after = honest(change.applied_to(grouped))
        assert change.heard.largest < 1e-9 and places(after) == [("t1.level", "track", 16)]
        assert after.lane_at("t1.level") == grouped.lane_at("t1.level") and after.phrases == grouped.phrases
    still = replace(fader, envelope=Envelope.constant(-6.0, LEVEL))
    lower = replace(grouped, lanes=(*state.lanes, still))
    along = plan(lower, "fold", Fold(("g",)))
    (kept,) = honest(along.applied_to(lower)).placed_on("t0.level", "track")
    assert kept.offset == pytest.approx(-6.0) and [c.code for c in along.cautions] == ["read-otherwise"]

    region = Region("r", "r", b(4), b(8))
    state = replace(state, tracks=(replace(state.tracks[0], regions=(region,)), *state.tracks[1:])).checked()
    after = honest(do(state, "embed", Embed(("r",)), None))
    assert places(after) == [("t1.level", "track", 16)] and after.phrases == state.phrases
    thinned = plan(state, "thin", Thin(("L0",), within=()), "follow")
    assert not thinned.phrases


def test_what_is_moved_takes_its_link_along_also_onto_another_unit():
    state = in_region()
    lane = state.lane_at("t1.level").id
    carried = honest(do(state, "carry", Carry((lane,), ("t2",), start=b(32), end=b(40), at=b(48), how="move"), None))
    assert places(carried) == [("t0.level", "a", 0), ("t2.level", "track", 48)]
    assert carried.lane_at("t0.level", "a") == state.lane_at("t0.level", "a")
    assert {x.id for x in carried.placements} == {x.id for x in state.placements}
    onto = Retarget(lane, (Target("t2.pan", -50.0, 50.0),), start=b(32), end=b(40), how="move")
    panned = honest(do(state, "retarget", onto, None))
    assert places(panned) == [("t0.level", "a", 0), ("t2.pan", "track", 32)]
    edited = do(panned, "move points", MovePoints((Picked("L0", (1,)),), rise=-10.0))
    assert at(edited, "t2.pan", 36) == pytest.approx([0.0])  # −20 dB was +50, −40 dB was −50: −30 dB is 0


def test_what_replaces_sets_free_and_offers_to_follow():
    state = in_region()
    lane = state.lane_at("t1.level").id
    hand = Hand((b(34), b(38)), ("touch", "release"), (-10.0, None))
    for verb, request in (
        ("clear", Clear("range", (lane,), start=b(34), end=b(38))),
        ("ride", Ride((Pass(b(34), b(39), (Ridden("t1.level", hand, "latch"),)),))),
        ("draw", Draw("t1.level", (Spot(b(32), -9.0), Spot(b(40), -9.0)))),
        ("paste", Paste((clip(b(8)),), b(0), b(8), at=b(32), onto="t1.level")),
    ):
        change = plan(state, verb, request)
        after = honest(change.applied_to(state))
        assert places(after) == [("t0.level", "a", 0)] and after.phrases == state.phrases
        (freed,) = (c for c in change.cautions if c.code == "set-free")
        assert (freed.start, freed.end) == (b(32), b(40)) and "replaced" in freed.message
        assert (change.links.does, {*change.links.choices} >= {"follow", "free"}) == (
            "free" if verb != "draw" else "follow",
            True,
        )
        follows = honest(do(state, verb, request, "follow"))
        assert len(follows.placements) == 2 and follows.phrases != state.phrases
    some = Draw("t1.level", (Spot(b(33), -9.0), Spot(b(35), -9.0)))
    assert at(do(state, "draw", some, None), "t1.level", 34) == [-9.0]
    assert do(state, "draw", some, None).lane_at("t0.level", "a").envelope.value_at(b(2)) == -9.0


def clip(length, *rows):
    points = tuple(ClipPoint(t, v) for t, v in (rows or ((0, -12.0), (length, -6.0))))
    return Clip("T1", "Level", Family.LEVEL, Kind.CONTINUOUS, "dB", LEVEL, -96.0, 12.0, points)


def test_copies_of_a_place_are_offered_a_link():
    state = in_region()
    lane = state.lane_at("t1.level").id
    plain = Carry((lane,), ("t2",), start=b(32), end=b(40))
    change = plan(state, "carry", plain)
    (said,) = (c for c in change.cautions if c.code == "not-linked")
    assert said.message == "1 linked place would land as plain points" and len(change.applied_to(state).placements) == 2
    assert len(honest(do(state, "carry", said.remedy.step)).placements) == 3
    copied = Paste((clip(b(8), *RISE),), b(32), b(8), at=b(44))
    change = plan(state, "paste", copied)
    (said,) = (c for c in change.cautions if c.code == "not-linked")
    assert ("t1.level", "track", 44) in places(honest(do(state, "paste", said.remedy.step)))
    other = replace(copied, clips=(clip(b(8), (0, -40.0), (b(8), -40.0)),))
    assert not [c for c in plan(state, "paste", other).cautions if c.code == "not-linked"]


def test_points_of_one_place_are_one_edit_and_an_edge_point_belongs_to_it():
    state = in_region()
    lane = state.lane_at("t1.level")
    ticks = lane.envelope.ticks.tolist()
    edges = [n for n, t in enumerate(ticks) if (t in (b(36), b(40)) and lane.envelope.values[n] != -20.0) or t == b(36)]
    for some in ([ticks.index(b(36))], edges):
        after = honest(do(state, "move points", MovePoints((Picked(lane.id, tuple(some)),), rise=-5.0), None))
        assert len(after.placements) == 2 and after.lane_at("t0.level", "a").envelope.value_at(b(4)) == -25.0
    assert len(edges) > 1 and after.lane_at("t0.level", "a").envelope.value_at(b(8), "left") == -45.0


def test_of_two_cycles_only_one_is_set_free_by_the_point_between_them():
    wanted = Place((PlaceOn("t0.pan"), PlaceOn("t1.pan")), b(8), shape=Shape("triangle"), length=b(4), times=3)
    state = do(session(2), "place", wanted)
    lane = state.lane_at("t0.pan")
    seam = lane.envelope.ticks.tolist().index(b(12))
    change = plan(state, "move points", MovePoints((Picked(lane.id, (seam,)),), rise=40.0))
    after = honest(change.applied_to(state))
    assert [x.start // b(1) for x in after.placed_on("t0.pan", "track")] == [12, 16]  # what begins there is written
    assert [at(after, "t1.pan", x)[0] for x in (8, 12, 16)] == [-60.0] * 3
    assert [c.code for c in change.cautions].count("set-free") == 1


def test_what_follows_and_what_is_read_otherwise_take_the_new_phrase():
    """T1's place is raised inside, T2's by a wider step: both say the new phrase, and no peak rises twice."""
    state = do(session(t0_level=RISE), "keep phrase", KeepPhrase("L0", b(0), b(8), "swell"))
    wanted = Place((PlaceOn("t1.level"), PlaceOn("t2.level")), b(20), phrase="phrase1", deep="unit")
    state = do(state, "place", wanted)
    lanes = tuple(state.lane_at(x).id for x in ("t1.level", "t2.level"))
    both = plan(state, "raise", RaiseSpan(lanes, b(20), b(28), 10.0))
    after = honest(both.applied_to(state))
    assert [at(after, x, 24) for x in ("t1.level", "t2.level")] == [[-10.0], [-10.0]] and at(after, "t0.level", 4) == [
        -10.0
    ]
    wide = plan(state, "raise", RaiseSpan((lanes[1],), b(18), b(30), 10.0))
    assert [c.code for c in wide.cautions] == ["read-otherwise"] and at(wide.applied_to(state), "t0.level", 4) == [
        -20.0
    ]


def test_what_a_phrase_cannot_say_is_refused_with_setting_free():
    """4 dB deep a phrase of 20 dB moves five times as far: 17 dB down would be below silence."""
    state = do(session(t0_level=RISE), "keep phrase", KeepPhrase("L0", b(0), b(8), "swell"))
    state = do(
        state, "place", Place((PlaceOn("t1.level", low=-24.0, high=-20.0),), b(20), phrase="phrase1", deep="between")
    )
    lane = state.lane_at("t1.level")
    peak = lane.envelope.ticks.tolist().index(b(24))
    lower = MovePoints((Picked(lane.id, (peak,)),), rise=-17.0)
    with pytest.raises(RequestError, match="cannot say this") as refused:
        plan(state, "move points", lower)
    assert (refused.value.code, refused.value.remedy.links) == ("links", "free")
    free = do(state, "move points", lower, "free")
    assert at(free, "t1.level", 24) == [-37.0] and len(free.placements) == 1
    after = do(state, "move points", replace(lower, rise=-2.0))
    assert at(after, "t0.level", 4) == pytest.approx([-30.0]) and (after.phrases[0].low, after.phrases[0].high) == (
        -40.0,
        pytest.approx(-30.0),
    )
    silent = do(state, "move points", MovePoints((Picked("L0", (1,)),), rise=-96.0))
    assert at(silent, "t1.level", 24) == [SILENCE]  # which was written, and is no number there


def test_a_fade_from_silence_read_lower_is_not_limited_and_can_be_edited():
    fade = [(0, SILENCE), (b(8), -20.0)]
    state = do(session(t0_level=fade), "keep phrase", KeepPhrase("L0", b(0), b(8), "fade"))
    state = do(state, "place", Place((PlaceOn("t1.level"),), b(20), phrase="phrase1", deep="unit"))
    one = state.placed_on("t1.level", "track")[0]
    lower = do(state, "raise", RaiseSpan((state.lane_at("t1.level").id,), b(18), b(30), -3.0))
    assert lower.placed_on("t1.level", "track")[0].offset == -3.0
    assert plan(state, "change places", ChangePlaces((one.id,), low=-96.0, high=-23.0)).touched[0].spans_limited == 0
    lane = lower.lane_at("t1.level")
    top = lane.envelope.ticks.tolist().index(b(28))
    after = honest(do(lower, "move points", MovePoints((Picked(lane.id, (top,)),), rise=5.0)))
    assert at(after, "t0.level", 8, side="left") == pytest.approx([-15.0]) and at(after, "t0.level", 0) == [SILENCE]
    assert at(after, "t1.level", 28, side="left") == pytest.approx([-18.0])


def test_named_values_never_go_back_into_what_glides():
    from velmot.core.parameters.parameter import mute

    state = session(1)
    track = replace(state.tracks[0], parameters=(*state.tracks[0].parameters, mute("t0.mute")))
    state = replace(state, tracks=(track,))
    placed = Place((PlaceOn("t0.mute"), PlaceOn("t0.pan")), b(8), b(12), shape=Shape("triangle"))
    state = do(state, "place", placed)
    lane = state.lane_at("t0.mute")
    with pytest.raises(RequestError, match="named values, which stand for many") as refused:
        plan(state, "move points", MovePoints((Picked(lane.id, (len(lane.envelope) // 2,)),), by=b(0.5)))
    assert refused.value.remedy.links == "free"


def test_what_is_shifted_moves_its_places():
    wanted = Place((PlaceOn("t0.pan"), PlaceOn("t1.pan")), b(8), shape=Shape("triangle"), length=b(4), times=3)
    state = do(session(2), "place", wanted)
    lane = state.lane_at("t0.pan").id
    whole = honest(do(state, "retime", Retime((lane,), way="shift", by=b(4)), None))
    assert [x.start // b(1) for x in whole.placed_on("t0.pan", "track")] == [
        12,
        16,
        20,
    ] and whole.phrases == state.phrases
    stretch = Retime((lane,), b(0), b(8), length=b(10), following="moves along")
    along = honest(do(state, "retime", stretch, None))
    assert [x.start // b(1) for x in along.placed_on("t0.pan", "track")] == [10, 14, 18]
    inside = do(state, "retime", Retime((lane,), b(8), b(12), way="backwards"), None)
    assert len(inside.placements) == 6


def test_wrapped_lanes_go_round_the_range_however_much_of_it_is_filled():
    """An 8 beat range with one 4 beat saw, each lane 3 later: the third one's saw is cut by the range's end."""
    targets = tuple(PlaceOn(f"t{n}.pan") for n in range(3))
    wanted = Place(targets, b(16), b(24), shape=Shape("saw up"), length=b(4), stagger=b(3), wrap=True)
    change = plan(session(), "place", wanted)
    made = honest(change.applied_to(session()))
    beats = np.arange(16, 24, 0.25)
    first = at(made, "t0.pan", *beats)
    for n in range(3):
        assert at(made, f"t{n}.pan", *((beats + 3 * n - 16) % 8 + 16)) == pytest.approx(first, abs=1e-9)
    assert [x.parameter for x in made.placements] == ["t0.pan", "t1.pan"]
    assert [c.message for c in change.cautions if c.code == "not-linked"] == [
        "1 place would go over the range’s end and come in at its start: plain points, not linked"
    ]


def test_depth_0_keeps_upside_down_and_a_silence_placed_is_silence():
    state = do(session(2), "place", Place((PlaceOn("t0.pan"),), b(8), b(12), shape=Shape("saw up"), upside_down=True))
    one = state.placements[0].id
    flat = do(state, "change places", ChangePlaces((one,), depth=0.0))
    assert at(flat, "t0.pan", 8, 11) == [0.0, 0.0]
    again = do(flat, "change places", ChangePlaces((one,), depth=100.0))
    assert at(again, "t0.pan", 8, 10) == pytest.approx([100.0, 0.0])
    for high in (-7.3, -13.13, 0.1):
        wanted = Place(
            (PlaceOn("t0.level", low=SILENCE, high=high),), b(8), b(12), shape=Shape("saw up"), deep="between"
        )
        made = do(session(1), "place", wanted)
        assert at(made, "t0.level", 8) == [SILENCE]


def test_a_steep_bend_out_of_silence_is_read_by_its_numbers():
    """Bend 40 stands so near silence for half its way that no number tells it apart; upside down that is the highest."""
    curve = Envelope.of([(0, SILENCE, 40.0), (b(4), -20.0)], LEVEL)
    phrase = Phrase("p", "steep", b(4), curve, None, "dB", LEVEL, low=SILENCE, high=12.0)
    state = replace(session(1), phrases=(phrase,)).checked()
    wanted = Place((PlaceOn("t0.level"),), b(8), phrase="p", deep="unit", upside_down=True)
    made = honest(do(state, "place", wanted))
    assert at(made, "t0.level", 8) == [SILENCE] and at(made, "t0.level", 9, 10) == pytest.approx([12.0, 12.0], abs=1e-6)
    assert at(made, "t0.level", 11) == pytest.approx([-84.0 + 96.0 - 76.0 * np.expm1(30) / np.expm1(40)], abs=1e-6)


def test_a_place_of_one_tick_and_the_last_tick_of_a_place_are_held():
    phrase = Phrase("p", "two", 2, Envelope.of([(0, 1.0, float("inf")), (1, 2.0, float("inf")), (2, 2.0)]), None)
    state = replace(session(1), phrases=(phrase,)).checked()
    one = do(state, "place", Place((PlaceOn("t0.pan"),), b(8), phrase="p", deep="unit", length=1))
    assert at(one, "t0.pan", 8) == [1.0]
    two = do(state, "place", Place((PlaceOn("t0.pan"),), b(8), phrase="p", deep="unit"))
    for state_, tick in ((one, b(8)), (two, b(8) + 1)):
        lane = state_.lane_at("t0.pan")
        place, phrase_ = state_.placements[0], state_.phrases[0]
        other = Envelope.of([(0, 0.0, float("inf")), (tick, 7.0, float("inf")), (tick + 1, 0.0)])
        assert says(phrase_, place, state_.parameter("t0.pan"), lane.envelope)
        assert not says(phrase_, place, state_.parameter("t0.pan"), other)


def test_every_verb_says_of_which_kind_it_is():
    kinds = {verb: operation.kind for verb, operation in OPERATIONS.items()}
    promising = {"embed", "lift", "fold", "gather", "change group", "make group", "dissolve group", "thin"}
    assert {verb for verb, kind in kinds.items() if kind == "promising"} == promising
    assert {kinds[x] for x in ("reshape", "retime", "same values")} == {"by hand"} and kinds["move points"] == "points"
    assert {kinds[x] for x in ("carry", "retarget", "paste", "clear", "ride")} == {"replacing"}


def test_what_fell_together_in_a_short_place_keeps_no_straight_map_from_being_read():
    """Two points of the phrase lie on one tick here, and the first, lowest of all, is heard at no moment."""
    rows = [(0, 0.5, HOLD), (b(4), 0.0, HOLD), (b(4) + 1, 1.0, HOLD), (b(8), 1.0, 0.0)]
    made = session()
    state = replace(made, phrases=(Phrase("ph", "step", b(8), Envelope.of(rows)),)).checked()
    state = do(state, "place", Place((PlaceOn("t0.pan"),), b(8), phrase="ph", length=b(1)))
    (before,) = state.placements
    lane = state.lane_at("t0.pan")
    half = Reshape((lane.id,), b(8), b(9), (Move("", times=0.5, pivot="value", about=0.0),))
    (after,) = honest(plan(state, "reshape", half, "here").applied_to(state)).placements
    assert (after.scale, after.offset) == pytest.approx((before.scale / 2, before.offset / 2))
