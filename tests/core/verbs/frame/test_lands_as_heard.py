"""What is carried lands as it was heard, all together; what is moved leaves nothing behind; what gives way is said."""

from dataclasses import replace

import numpy as np
import pytest
from hypothesis import assume, given
from hypothesis import strategies as st

from tests.core.verbs.test_regions import b, done
from tests.oracle import coordinate_at, landing_at
from tests.strategies import LENGTH, sessions
from velmot.core.curves.axes import Axis
from velmot.core.curves.envelope import Envelope
from velmot.core.curves.segments import HOLD
from velmot.core.errors import RequestError
from velmot.core.parameters.parameter import Family, Kind, Label, Parameter, level, pan
from velmot.core.session.heard import heard
from velmot.core.session.session import Session
from velmot.core.session.track import Lane, Mode, Precedence, Region, Track
from velmot.core.time.ticks import Tick
from velmot.core.verbs import plan
from velmot.core.verbs.carry.request import Carry, Match
from velmot.core.verbs.clear.request import Clear
from velmot.core.verbs.draw.request import Draw
from velmot.core.verbs.points.request import AddPoints, Spot
from velmot.core.verbs.regions.request import (
    CarryRegions,
    ChangeRegions,
    CutRegions,
    FillGap,
    JoinRegions,
    SetPrecedence,
)


def panned(*regions: tuple[float, float, float], own: float | None = None, muted=(), wins=Precedence.REGION) -> Session:
    """A track One with a pan (and a Width beside it); regions r0, r1 … (start, end, pan) in beats; Two has a pan as well."""
    made = tuple(Region(f"r{n}", f"r{n}", b(s), b(e - s), n in muted) for n, (s, e, _) in enumerate(regions))
    one = Track("one", "One", parameters=(pan("p"), pan("w", "Width")), regions=made)
    two = Track("two", "Two", parameters=(pan("q"),))
    lanes = [Lane(f"R{n}", "p", f"r{n}", Envelope.constant(v)) for n, (_, _, v) in enumerate(regions)]
    lanes += [] if own is None else [Lane("T", "p", "track", Envelope.constant(own))]
    return Session("panned", b(40), (one, two), tuple(lanes), precedence=wins).checked()


def on(session, parameter, *beats):
    return heard(session, parameter).envelope.at(np.array([b(x) for x in beats])).tolist()


def codes(change):
    return [c.code for c in change.cautions]


# ── carry ─────────────────────────────────────────────────────────────────────────────────────


def test_whole_lanes_keep_their_distance_and_repeat_by_their_length_together():
    """Regions at 2–4 and 8–10 to beat 16: they land at 16–18 and 22–24, the next time 8 beats later."""
    made = panned((2, 4, 30), (8, 10, -30))
    after = done(made, "carry", Carry(("R0", "R1"), ("two",), at=b(16)))
    assert on(after, "q", 15, 16, 17.9, 18, 22, 23.9, 24) == [0, 30, 30, 0, -30, -30, 0]
    again = done(made, "carry", Carry(("R0", "R1"), ("two",), at=b(16), times=2))
    assert on(again, "q", 17, 23, 25, 31, 33) == [30, -30, 30, -30, 0]
    other_way = done(made, "carry", Carry(("R1", "R0"), ("two",), at=b(16)))
    assert on(other_way, "q", 17, 23) == [30, -30]


def test_landings_closer_than_they_are_long_cover_each_other_later_over_earlier():
    """A rise from 0 to 80 over 8 beats, landing every 2: each is cut off by the next, the last one is whole."""
    made = panned()
    rise = Lane("T", "p", "track", Envelope.of([(0, 0), (b(8), 80)]))
    made = made.with_lanes([rise])
    span = {"start": b(0), "end": b(8), "at": b(10), "times": 3, "every": b(2)}
    curve = done(made, "carry", Carry(("T",), ("two",), **span)).lane_at("q").envelope
    assert curve.at(np.array([b(x) for x in (10, 11, 12, 13, 14, 18, 21.9)])).tolist() == pytest.approx(
        [0, 10, 0, 10, 0, 40, 79]
    )
    ramped = Carry(("T",), ("two",), **span | {"every": b(8)}, edges="ramp", ramp=b(1))
    curve = done(made, "carry", ramped).lane_at("q").envelope
    beats = (10, 10.5, 11, 17, 17.5, 18, 18.5, 19)
    assert curve.at(np.array([b(x) for x in beats])).tolist() == pytest.approx([0, 5, 10, 70, 35, 0, 5, 10])


def test_a_move_leaves_nothing_behind_and_what_lands_on_itself_stays():
    made = panned((2, 6, 40), own=10)
    moved = done(made, "carry", Carry(("R0",), ("one",), how="move"))
    assert [x.home for x in moved.lanes] == ["track"] and on(moved, "p", 1, 2, 5.9, 6) == [10, 40, 40, 10]
    onto = Match("p", "one", "land", "w")
    moved = done(made, "carry", Carry(("T",), ("one",), how="move", matches=(onto,)))
    assert [(x.parameter, x.home) for x in moved.lanes] == [("p", "r0"), ("w", "track")]
    stays = plan(made, "carry", Carry(("T",), ("one",), how="move", at=b(0)))
    assert stays.empty and codes(stays)[-1] == "already-there"
    nowhere = plan(made, "carry", Carry(("T",), ("two",), how="move", matches=(Match("p", "two", "leave out"),)))
    assert nowhere.empty, "what lands nowhere is not taken away"


def test_a_muted_regions_lane_never_wins_on_landing():
    """The track at 50, a muted region 2–6 at −50: where it lands it is 50 all along. Alone the muted lane does land."""
    made = panned((2, 6, -50), own=50, muted=(0,))
    after = done(made, "carry", Carry(("T", "R0"), ("two",)))
    assert on(after, "q", 1, 2, 4, 6) == [50, 50, 50, 50]
    alone = done(made, "carry", Carry(("R0",), ("two",)))
    assert on(alone, "q", 1, 3, 7) == [0, -50, 0]
    later = panned((2, 6, -50), (4, 8, 20), (4, 7, 70), own=50, muted=(0,))
    after = done(later, "carry", Carry(("R2", "T", "R1", "R0"), ("two",)))
    assert on(after, "q", 3, 5, 7.5) == on(later, "p", 3, 5, 7.5) == [50, 70, 20]
    track_wins = panned((2, 6, -50), own=50, wins=Precedence.TRACK)
    assert on(done(track_wins, "carry", Carry(("T", "R0"), ("two",))), "q", 1, 4) == [50, 50]


def test_lanes_of_one_parameter_share_one_map():
    """A track's lane from −100 to 100 and a region's from 0 to 10, onto 0 to 100 %: 10 becomes 55 %, not 100."""
    made = panned((20, 24, 0))
    wet = Parameter("x", "Wet", Family.DEVICE, unit="%", high=100.0)
    two = replace(made.track("two"), parameters=(wet,))
    lanes = [
        Lane("R0", "p", "r0", Envelope.of([(0, 0), (b(4), 10)])),
        Lane("T", "p", "track", Envelope.of([(0, -100), (b(16), 100)])),
    ]
    made = made.with_tracks([made.track("one"), two]).with_lanes(lanes).checked()
    match = Match("p", "two", "land", "x", 0.0, 100.0)
    after = done(made, "carry", Carry(("R0", "T"), ("two",), matches=(match,)))
    assert on(after, "x", 0, 16, 20, 23.99999) == pytest.approx([0, 100, 50, 55], abs=1e-3)


def test_stretches_that_lie_apart_share_one_map_too():
    """Regions of −100 to 0 and of 0 to 100 apart from each other, onto 0 to 100 %: 0 to 50 %, and 50 to 100 %."""
    made = panned((0, 4, 0), (8, 12, 0))
    wet = Parameter("x", "Wet", Family.DEVICE, unit="%", high=100.0)
    lanes = [
        Lane("R0", "p", "r0", Envelope.of([(0, -100), (b(4), 0)])),
        Lane("R1", "p", "r1", Envelope.of([(0, 0), (b(4), 100)])),
    ]
    made = made.with_tracks([made.track("one"), replace(made.track("two"), parameters=(wet,))]).with_lanes(lanes)
    for order in (("R0", "R1"), ("R1", "R0")):
        match = Match("p", "two", "land", "x", 0.0, 100.0)
        after = done(made, "carry", Carry(order, ("two",), matches=(match,)))
        assert on(after, "x", 0, 2, 8, 10) == pytest.approx([0, 25, 50, 75])


def test_switching_to_read_says_what_else_is_heard_then():
    made = panned((2, 4, 30), own=10)
    other = Lane("Q", "q", "track", Envelope.of([(0, 0), (b(40), 80)]))
    off = replace(made.track("two"), mode=Mode.OFF)
    made = made.with_tracks([made.track("one"), off]).with_lanes([*made.lanes, other])
    change = plan(made, "carry", Carry(("T",), ("two",), start=b(0), end=b(20), set_to_read=True))
    (said,) = [c for c in change.cautions if c.code == "heard-elsewhere"]
    assert "Two reads again" in said.message and "up to 80.00 differently" in said.message


def test_a_region_that_wins_is_named_and_none_that_only_touches_or_is_muted():
    """What lands over beats 10 to 14 on Two lies under r1 alone: r0 ends there, r2 starts there, r3 is muted."""
    made = panned(own=10)
    spans = ((6, 10), (11, 12), (14, 18), (12, 13))
    regions = tuple(Region(f"q{n}", f"q{n}", b(s), b(e - s), n == 3) for n, (s, e) in enumerate(spans))
    lanes = [Lane(f"Q{n}", "q", f"q{n}", Envelope.constant(1.0)) for n in range(4)]
    made = made.with_tracks([made.track("one"), replace(made.track("two"), regions=regions)])
    made = made.with_lanes([*made.lanes, *lanes]).checked()
    change = plan(made, "carry", Carry(("T",), ("two",), start=b(10), end=b(14)))
    (said,) = [c for c in change.cautions if c.code == "region-wins"]
    assert said.message == "In q1 the region's own Pan lane wins: the rest is heard"
    assert (said.start, said.end) == (b(10), b(14))


def test_static_values_that_change_are_said():
    made = panned(own=10)
    two = replace(made.track("two"), parameters=(replace(pan("q"), value=25.0),))
    made = made.with_tracks([made.track("one"), two])
    change = plan(made, "carry", Carry(("T",), ("two",), start=b(0), end=b(4), match_static=True))
    (said,) = [c for c in change.cautions if c.code == "rests"]
    assert said.message == "Two Pan would rest at 0.0 instead of 25.0" and said.track == "two"


# ── regions ───────────────────────────────────────────────────────────────────────────────────


def test_a_muted_regions_automation_cannot_stay_on_the_track_and_is_not_lost():
    made = panned((2, 6, 40), muted=(0,))
    with pytest.raises(RequestError) as caught:
        plan(made, "carry regions", CarryRegions(("r0",), at=b(10), automation="without"))
    assert "r0 is muted" in caught.value.message
    assert caught.value.remedy.step == ChangeRegions(("r0",), muted=False)
    alone = plan(made, "carry regions", CarryRegions(("r0",), at=b(10), automation="alone"))
    assert codes(alone) == ["muted"] and on(alone.applied_to(made), "p", 3, 11) == [0, 40]


def test_automation_that_goes_alone_lands_as_heard_or_stays_where_it_is():
    """r1 (3–5, muted) starts later than r0 (2–6), but what lands is what is heard; what has no place on Two stays."""
    made = panned((2, 6, 40), (3, 5, -40), muted=(1,))
    both = CarryRegions(("r0", "r1"), targets=("two",), automation="alone")
    assert on(done(made, "carry regions", both), "q", 2.5, 4, 5.5) == [40, 40, 40]
    wide = made.with_lanes([Lane("W", "w", "r0", Envelope.constant(70.0))])
    change = plan(wide, "carry regions", CarryRegions(("r0",), targets=("two",), automation="alone"))
    assert "no-such-parameter" in codes(change)
    assert change.applied_to(wide).lane_at("w", "r0") == wide.lane_at("w", "r0")


def test_automation_that_stays_is_heard_as_it_was_or_the_move_is_refused_with_a_remedy():
    """Under r1 (4–8) lies r0 (2–10): moving r1 without its automation would uncover r0, unless r0 comes along."""
    made = panned((2, 10, 40), (4, 8, -40))
    with pytest.raises(RequestError) as caught:
        plan(made, "carry regions", CarryRegions(("r1",), at=b(20), automation="without"))
    assert caught.value.remedy.also == ("r0",) and caught.value.remedy.words == "take r0 along too"
    both = done(made, "carry regions", CarryRegions(("r1", "r0"), at=b(20), automation="without"))
    assert on(both, "p", 1, 3, 5, 9, 11) == [0, 40, -40, 40, 0] and not any(x.home != "track" for x in both.lanes)
    over = panned((2, 4, 40), (20, 24, 5), wins=Precedence.TRACK)
    with pytest.raises(RequestError) as caught:
        plan(over, "carry regions", CarryRegions(("r0",), at=b(10), automation="without"))
    assert caught.value.remedy.also == ("r1",), "a first track lane would silence it"


def test_regions_on_another_track_are_limited_and_matched_to_named_values():
    """11 dB onto a fader that ends at 0 dB; a step of 2 onto a selector that knows 0 and 10."""
    words, others = ((0, "dry"), (2, "wet")), ((0, "low"), (10, "high"))

    def track(id: str, high: float, labels, top) -> Track:
        named = tuple(Label(v, text) for v, text in labels)
        step = Parameter(f"{id}.s", "Step", Family.DEVICE, Kind.STEPPED, high=top, labels=named)
        return Track(id, id, parameters=(level(f"{id}.l", high=high), step))

    one = replace(track("one", 12.0, words, 2), regions=(Region("r", "r", b(2), b(4)),))
    lanes = (
        Lane("A", "one.l", "r", Envelope.constant(11.0, Axis.LEVEL)),
        Lane("B", "one.s", "r", Envelope.of([(0, 2, HOLD), (b(2), 0, HOLD)])),
    )
    made = Session("s", b(40), (one, track("two", 0.0, others, 10)), lanes).checked()
    change = plan(made, "carry regions", CarryRegions(("r",), how="copy", targets=("two",)))
    after = change.applied_to(made)
    assert on(after, "two.l", 3) == [0] and on(after, "two.s", 3, 5) == [0, 0]
    assert codes(change) == ["limited", "limited"] and "two Level" in change.cautions[0].message


def test_of_two_regions_that_start_together_the_later_in_the_list_wins():
    made = panned((2, 6, 40), (2, 4, -40))
    assert on(made, "p", 3, 5) == [-40, 40]
    assert on(panned((2, 4, -40), (2, 6, 40)), "p", 3, 5) == [40, 40]
    alone = done(made, "carry regions", CarryRegions(("r1", "r0"), how="copy", targets=("two",), automation="alone"))
    assert on(alone, "q", 3, 5) == [-40, 40]


@pytest.mark.parametrize(
    ("verb", "request_", "said"),
    [
        ("carry", Carry(("T2",), ("one",), start=b(30), end=b(32)), "One Pan would be heard up to 40.00 differently at 1.3.00"),
        ("draw", Draw("p", (Spot(b(30), 0.0), Spot(b(32), 9.0))), "up to 40.00 differently"),
        ("fill gap", FillGap("p", b(30), b(32), "hold"), "up to 40.00 differently"),
    ],
)  # fmt: skip
def test_a_first_track_lane_that_silences_regions_says_so_and_offers_the_other_precedence(verb, request_, said):
    made = panned((2, 6, 40), wins=Precedence.TRACK)
    two = Lane("T2", "q", "track", Envelope.of([(0, 0), (b(40), 80)]))
    made = made.with_lanes([*made.lanes, two])
    (caution,) = [c for c in plan(made, verb, request_).cautions if c.code == "heard-elsewhere"]
    assert said in caution.message and caution.remedy.step == SetPrecedence("region") and caution.start == b(2)


def test_drawing_into_a_region_without_a_lane_leaves_the_rest_of_it_as_it_was_heard():
    """The track rises from 0 to 80 over 40 beats; in region 10–20 beats 12 to 14 are drawn over."""
    made = panned((10, 20, 0))
    made = made.with_lanes([Lane("T", "p", "track", Envelope.of([(0, 0), (b(40), 80)]))])
    change = plan(made, "draw", Draw("p", (Spot(b(12), 50.0), Spot(b(14), 50.0)), home="r0"))
    after = change.applied_to(made)
    assert on(after, "p", 9, 10, 11.5, 12, 13, 14, 19, 21) == pytest.approx([18, 20, 23, 50, 50, 28, 38, 42])
    assert after.lane_at("p") == made.lane_at("p") and not change.cautions
    point = done(made, "add points", AddPoints("p", (Spot(b(12), 50.0),), "r0"))
    assert on(point, "p", 9, 15) == [18, 50], "a single point is the region's whole lane, as it is named"


def test_joining_and_cutting_under_an_overlapping_region_say_what_is_heard_differently():
    """r2 (4–8) wins over r0 (2–6) but not over r1 (6–10); over both joined, which start at 2, it wins all along."""
    made = panned((2, 6, 10), (6, 10, 20), (4, 8, -40))
    change = plan(made, "join regions", JoinRegions(("r0", "r1")))
    assert on(made, "p", 7) == [20] and on(change.applied_to(made), "p", 7) == [-40]
    silenced, again, said = change.cautions
    assert (silenced.code, again.code) == ("silenced", "heard-again")
    assert {(c.start, c.end) for c in (silenced, again)} == {(b(6), b(8))}
    assert (said.code, said.start) == ("heard-elsewhere", b(6)) and "60.00" in said.message
    assert said.message.endswith("the joined region starts earlier, and so loses to what overlaps it")
    whole = panned((2, 10, 10), (4, 8, -40))
    *parts, said = plan(whole, "cut regions", CutRegions(("r0",), b(6))).cautions
    assert [c.code for c in parts] == ["silenced", "heard-again"]
    assert said.code == "heard-elsewhere" and said.message.endswith("wins over what overlaps it")


# ── the small ones ────────────────────────────────────────────────────────────────────────────


@pytest.mark.parametrize("seam", [1, 3, 9, 15])
@pytest.mark.parametrize("bend", [0.0, 60.0, -60.0, HOLD])
def test_cut_and_joined_again_a_lane_has_no_point_more(seam, bend):
    """Points at beats 2, 6 and 12 of a region 16 long, cut before the first, inside, and after the last."""
    made = panned((4, 20, 0))
    lane = Lane("R0", "p", "r0", Envelope.of([(b(2), -50, bend), (b(6), 50, bend), (b(12), 0)]))
    made = made.with_lanes([lane])
    cut = done(made, "cut regions", CutRegions(("r0",), b(4 + seam)))
    second = next(r.id for r in cut.track("one").regions if r.id != "r0")
    back = done(cut, "join regions", JoinRegions(("r0", second))).lane_at("p", "r0").envelope
    assert back.ticks.tolist() == lane.envelope.ticks.tolist()
    assert back.values.tolist() == lane.envelope.values.tolist()
    assert back.bends.tolist() == pytest.approx(lane.envelope.bends.tolist(), abs=1e-9)


def test_bridging_away_the_last_points_names_the_whole_lane():
    made = panned().with_lanes([Lane("T", "p", "track", Envelope.of([(b(6), 20), (b(8), 40)]))])
    change = plan(made, "clear", Clear("range", ("T",), (), b(5), b(9), "bridge"))
    assert not change.applied_to(made).lanes
    assert (change.touched[0].start, change.touched[0].end) == (0, made.length)


def test_the_first_point_of_a_jump_after_a_hold_counts_for_nothing():
    """Held at −22 up to beat 6, where −12 is never heard: cleared from 6 to 9 it starts at −22, and fits −22 to −2."""
    rows = [(b(3), -22, HOLD), (b(6), -12), (b(6), -22), (b(9), -2)]
    made = panned().with_lanes([Lane("T", "p", "track", Envelope.of(rows))])
    curve = done(made, "clear", Clear("range", ("T",), (), b(6), b(9))).lane("T").envelope
    assert curve.at(np.array([b(6), b(7.5), b(9)])).tolist() == pytest.approx([-22, -12, -2])
    odd = Envelope.of([(0, -22, HOLD), (b(6), 90), (b(6), -22), (b(9), -2)])
    assert odd.extremes(0, b(9)) == (-22.0, -2.0)


# ── for any carry ─────────────────────────────────────────────────────────────────────────────


@given(st.data())
def test_any_lanes_carried_whole_land_as_heard_with_their_distances_as_often_as_asked(data):
    """Random lanes of a track, some in muted or overlapping regions, to any place, up to three times."""
    session = data.draw(sessions())
    own = [x for x in session.lanes if session.owner(x.parameter).id == "one"]
    assume(own)
    chosen = data.draw(st.lists(st.sampled_from(own), min_size=1, unique_by=lambda x: x.id))
    request = Carry(
        tuple(x.id for x in chosen),
        ("two",),
        at=data.draw(st.none() | st.integers(0, LENGTH - 1).map(Tick)),
        times=data.draw(st.integers(1, 3)),
        every=data.draw(st.none() | st.integers(1, LENGTH).map(Tick)),
        how=data.draw(st.sampled_from(["copy", "move"])),
    )
    after = plan(session, "carry", request).applied_to(session)
    spans = [session.span(x) for x in chosen]
    origin, end = min(a for a, _ in spans), max(b for _, b in spans)
    first = 0 if request.at is None else request.at - origin
    shifts = [first + n * (request.every or end - origin) for n in range(request.times)]
    for parameter in {x.parameter for x in chosen}:
        mine = [x for x in chosen if x.parameter == parameter]
        target = next(p for p in after.track("two").parameters if p.id == parameter.replace("one", "two"))
        was, now = (s.lane_at(target.id) for s in (session, after))
        ticks = data.draw(st.lists(st.integers(0, LENGTH - 1), min_size=8, max_size=8))
        edges = [t + s for x in mine for t in session.span(x) for s in shifts]
        for tick in {*ticks, *(t + d for t in edges for d in (-1, 0))}:
            if not 0 <= tick < LENGTH:
                continue
            landed = [landing_at(session, mine, tick - shift) for shift in shifts if 0 <= tick - shift < LENGTH]
            wanted = next((v for v in reversed(landed) if v is not None), None)
            if wanted is None:
                wanted = coordinate_at(was.envelope, tick) if was else float(target.axis.coordinate(target.value))
            got = coordinate_at(now.envelope, tick) if now else float(target.axis.coordinate(target.value))
            assert got == pytest.approx(wanted, abs=1e-9)
        if request.how == "move":
            inside = any(0 <= a + s < LENGTH for a, _ in (session.span(x) for x in mine) for s in shifts)
            assert not inside or not any(after.lane_at(x.parameter, x.home) for x in mine)
