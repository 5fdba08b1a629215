"""Regions: embed and lift leave what is heard as it was; moving, cutting, joining and the rest by hand-made cases."""

from dataclasses import replace

import numpy as np
import pytest
from hypothesis import assume, given
from hypothesis import strategies as st

from tests.strategies import LENGTH, envelopes, probes, sessions
from velmot.core.curves.axes import Axis
from velmot.core.curves.editing import Fragment
from velmot.core.curves.envelope import Envelope
from velmot.core.errors import RequestError
from velmot.core.parameters.parameter import Family, Kind, level, mute, pan
from velmot.core.session.heard import heard
from velmot.core.session.session import Session
from velmot.core.session.track import Lane, Mode, Precedence, Region, Track
from velmot.core.time.ticks import TICKS_PER_BEAT as BEAT
from velmot.core.time.ticks import Tick
from velmot.core.verbs import plan, verb_of
from velmot.core.verbs.carry.request import Carry
from velmot.core.verbs.draw.request import Draw
from velmot.core.verbs.paste.request import Clip
from velmot.core.verbs.points.request import AddPoints, Spot
from velmot.core.verbs.regions.request import (
    CarryRegions,
    ChangeRegions,
    CutRegions,
    Embed,
    FillGap,
    JoinRegions,
    Lift,
    MakeRegion,
    PlaceContainer,
    RemoveRegions,
    SetPrecedence,
)
from velmot.core.verbs.request import ClipPoint


def b(beats: float) -> Tick:
    return Tick(round(beats * BEAT))


def small(precedence=Precedence.REGION, own=True, mode=Mode.READ) -> Session:
    """Over 40 beats: a level rising from −24 to −4 dB (half a dB a beat), region wave (beats 8 to 16) and ebb
    (16 to 20), wave with a level lane of −10 to −2 dB of its own; and a choir without lanes, whose fader is at −10."""
    regions = (Region("wave", "wave", b(8), b(8)), Region("ebb", "ebb", b(16), b(4)))
    bell = Track("bell", "Bell", parameters=(level("bell.level"), pan("bell.pan")), regions=regions, mode=mode)
    choir = Track("choir", "Choir", parameters=(level("choir.level", value=-10.0), mute("choir.mute")))
    rise = Lane("L1", "bell.level", "track", Envelope.of([(0, -24), (b(40), -4)], Axis.LEVEL))
    inside = Lane("L2", "bell.level", "wave", Envelope.of([(0, -10), (b(8), -2)], Axis.LEVEL))
    lanes = (rise, inside) if own else (rise,)
    return Session("small", b(40), (bell, choir), lanes, precedence=precedence).checked()


def done(session, verb, request):
    return plan(session, verb, request).applied_to(session)


def at(session, parameter, *beats):
    return heard(session, parameter).envelope.at(np.array([b(x) for x in beats])).tolist()


def test_embedding_gives_the_regions_what_was_heard_and_leaves_the_gaps():
    """Ebb gets −16 to −14 dB; under it the track goes straight, so there is nothing left of the rise but its line."""
    made = small()
    change = plan(made, "embed", Embed(("wave", "ebb"), ("bell.level",)))
    after = change.applied_to(made)
    assert after.lane_at("bell.level", "ebb").envelope.points() == [(0, -16.0, 0.0), (b(4), -14.0, 0.0)]
    assert at(after, "bell.level", 0, 7, 8, 12, 17, 20, 30) == pytest.approx([-24, -20.5, -10, -6, -15.5, -14, -9])
    assert (change.heard.largest, change.heard.parameter) == (0.0, "bell.level")
    assert [c.code for c in change.cautions] == ["not-embedded"], "wave keeps its own lane"
    with pytest.raises(RequestError) as caught:
        plan(small(Precedence.TRACK), "embed", Embed(("ebb",)))
    assert caught.value.code == "precedence-track" and "switched first" in caught.value.accepted
    assert caught.value.remedy.step == SetPrecedence("region")


def test_lifting_puts_the_regions_moves_on_the_track():
    change = plan(small(), "lift", Lift(("wave",)))
    after = change.applied_to(small())
    assert [x.id for x in after.lanes] == ["L1"] and change.heard.largest == 0
    assert after.lane("L1").envelope.at(np.array([b(7), b(8), b(12), b(16)])).tolist() == [-20.5, -10, -6, -16]


@pytest.mark.parametrize(
    ("change", "said", "words"),
    [
        (lambda s: _region(s, "wave", muted=True), "wave is muted", "unmute wave first"),
        (lambda s: replace(s, precedence=Precedence.TRACK), "track's own lane wins", "let region lanes win first"),
        (lambda s: _overlapped(s), "overlaps ebb", "lift ebb too"),
    ],
)
def test_what_cannot_be_lifted_says_why_and_what_helps(change, said, words):
    made, request = change(small()), Lift(("wave",))
    with pytest.raises(RequestError) as caught:
        plan(made, "lift", request)
    assert said in caught.value.message and caught.value.remedy.words == words
    made, request = taken(made, request, caught.value.remedy)
    assert "wave" not in {x.home for x in done(made, "lift", request).lanes}


def taken(session, request, remedy):
    """The session and the request after a click on what is offered."""
    if remedy.step is not None:
        change = plan(session, verb_of(remedy.step), remedy.step)
        assert not change.empty
        session = change.applied_to(session)
    assert not set(remedy.also) & set(request.regions)
    return session, replace(request, regions=(*request.regions, *remedy.also))


def test_removing_offers_to_unmute_but_never_to_remove_more():
    asked = RemoveRegions(("wave",), automation="stays")
    with pytest.raises(RequestError) as caught:
        plan(_region(small(), "wave", muted=True), "remove regions", asked)
    assert caught.value.remedy.words == "unmute wave first"
    with pytest.raises(RequestError) as caught:
        plan(_overlapped(small()), "remove regions", asked)
    assert "overlaps ebb" in caught.value.message and caught.value.remedy is None


@given(st.data())
def test_remedies_lead_to_where_nothing_more_can_be_done(data):
    """Taken one after the other, none is offered twice, and in the end every region chosen is lifted or embedded."""
    session = data.draw(sessions())
    regions = session.track("one").regions
    assume(regions)
    ids = tuple(r.id for r in data.draw(st.lists(st.sampled_from(regions), min_size=1, unique=True)))
    verb, request = data.draw(st.sampled_from([("embed", Embed(ids)), ("lift", Lift(ids))]))
    seen = []
    while True:
        try:
            offers = [c.remedy for c in plan(session, verb, request).cautions if c.remedy]
        except RequestError as refused:
            offers = [refused.remedy] if refused.remedy else []
        if not offers:
            break
        assert offers[0] not in seen
        seen.append(offers[0])
        session, request = taken(session, request, offers[0])
    if verb == "embed":
        assert session.precedence is Precedence.REGION and not any(session.region(id).muted for id in ids)
    else:
        after = session if not any(session.lanes_in(id) for id in ids) else done(session, verb, request)
        assert not any(after.lanes_in(id) for id in ids)


def _region(session, id, **fields):
    bell = session.tracks[0]
    regions = tuple(replace(r, **fields) if r.id == id else r for r in bell.regions)
    return session.with_tracks([replace(bell, regions=regions), *session.tracks[1:]])


def _overlapped(session):
    """Ebb starts before wave and reaches into it, with a lane of its own: wave wins over it."""
    longer = _region(session, "ebb", start=b(4), length=b(8))
    inside = Lane("L3", "bell.level", "ebb", Envelope.constant(-50.0, Axis.LEVEL))
    return longer.with_lanes([*longer.lanes, inside])


@given(st.data())
def test_embed_and_lift_change_nothing_that_is_heard(data):
    """Over random sessions with overlaps, bends, jumps, both precedences and muted regions."""
    session = data.draw(sessions())
    track = session.track("one")
    assume(track.regions)
    ids = tuple(r.id for r in data.draw(st.lists(st.sampled_from(track.regions), min_size=1, unique=True)))
    verb, request = data.draw(st.sampled_from([("embed", Embed(ids)), ("lift", Lift(ids))]))
    try:
        change = plan(session, verb, request)
    except RequestError as error:
        assert error.code in ("nothing-to-do", "precedence-track")
        return
    after = change.applied_to(session)
    for parameter in track.parameters:
        was, now = (heard(s, parameter.id).envelope for s in (session, after))
        ticks = probes(was, now, extra=tuple(t for r in track.regions for t in (r.start, r.end)))
        ticks = ticks[ticks < LENGTH]
        assert np.abs(was.coordinate_at(ticks) - now.coordinate_at(ticks)).max() < 1e-9
    assert change.heard.largest < 1e-9 and plan(session, verb, request) == change


@given(st.data())
def test_embedding_then_lifting_gives_the_track_its_curve_back(data):
    curve = data.draw(envelopes(Axis.LINEAR))
    marks = sorted(data.draw(st.lists(st.integers(0, LENGTH), min_size=2, max_size=6, unique=True)))
    regions = tuple(
        Region(f"r{n}", "r", p, q - p) for n, (p, q) in enumerate(zip(marks[::2], marks[1::2], strict=False))
    )
    track = Track("t", "t", parameters=(pan("p"),), regions=regions)
    session = Session("s", LENGTH, (track,), (Lane("L", "p", "track", curve),))
    ids = tuple(r.id for r in regions)
    inside = done(session, "embed", Embed(ids))
    again = done(inside, "lift", Lift(ids)).lane("L").envelope
    ticks = probes(curve, again, extra=tuple(marks))
    ticks = ticks[ticks < LENGTH]
    assert np.abs(curve.coordinate_at(ticks) - again.coordinate_at(ticks)).max() < 1e-9


@given(st.data())
def test_cut_then_join_is_the_identity(data):
    session = data.draw(sessions())
    regions = [r for r in session.track("one").regions if r.length > 1]
    assume(regions)
    region = data.draw(st.sampled_from(regions))
    seam = data.draw(st.integers(region.start + 1, region.end - 1))
    cut = plan(session, "cut regions", CutRegions((region.id,), Tick(seam)))
    parts = cut.applied_to(session)
    second = next(r.id for r in parts.track("one").regions if session._regions.get(r.id) is None)
    back = done(parts, "join regions", JoinRegions((region.id, second)))
    assert back.region(region.id) == region
    for parameter in session.track("one").parameters:
        lane, again, halves = (s.lane_at(parameter.id, region.id) for s in (session, back, parts))
        assert (lane is None) == (again is None)
        if lane is None:
            continue
        ticks = probes(lane.envelope, again.envelope, extra=(region.length,))
        for side in ("left", "right"):
            gap = np.abs(lane.envelope.coordinate_at(ticks, side) - again.envelope.coordinate_at(ticks, side))
            assert gap[ticks > 0].max(initial=0) < 1e-9
        inside = int(lane.envelope.ticks[0]) < seam - region.start < int(lane.envelope.ticks[-1])
        assert len(again.envelope) <= len(lane.envelope) + (not inside) and halves is not None
        now, then = (heard(s, parameter.id).envelope for s in (session, parts))
        ticks = probes(now, then, extra=(seam,))
        ticks = ticks[ticks < LENGTH]
        alike = np.abs(now.coordinate_at(ticks) - then.coordinate_at(ticks)).max() < 1e-9
        assert alike or cut.cautions, "only where another region overlaps, and then it says so"


def test_a_moved_region_takes_its_lanes_along_and_leaves_the_track_alone():
    """Wave goes 20 beats later: its −6 dB stands at beat 32, and at beat 12 the track's −18 dB is heard again."""
    made = small()
    change = plan(made, "carry regions", CarryRegions(("wave",), at=b(28)))
    after = change.applied_to(made)
    assert at(after, "bell.level", 12, 28, 32, 36) == pytest.approx([-18, -10, -6, -6])
    assert after.lane("L1") == made.lane("L1") and after.region("wave").start == b(28)
    (seen,) = change.touched
    assert (seen.parameter, seen.start, seen.end) == ("bell.level", b(8), b(36))
    under = done(made, "carry regions", CarryRegions(("ebb",), at=b(30), under="goes along"))
    assert at(under, "bell.level", 18, 30, 32) == pytest.approx([-15, -16, -15])


def test_repeats_follow_each_other_fill_a_span_and_stop_at_the_end():
    made = small()
    after = done(made, "carry regions", CarryRegions(("ebb", "wave"), how="repeat", times=1))
    assert sorted((r.start // BEAT, r.length // BEAT) for r in after.tracks[0].regions) == [
        (8, 8),
        (16, 4),
        (20, 8),
        (28, 4),
    ]
    assert at(after, "bell.level", 20, 24) == pytest.approx([-10, -6])
    filled = done(made, "carry regions", CarryRegions(("wave",), how="repeat", until=b(30)))
    assert sorted((r.start // BEAT, r.length // BEAT) for r in filled.tracks[0].regions) == [
        (8, 8),
        (16, 4),
        (16, 8),
        (24, 6),
    ]
    change = plan(made, "carry regions", CarryRegions(("wave",), how="repeat", times=900))
    assert [c.code for c in change.cautions] == ["beyond-end", "silenced"] and len(change.tracks[0].after.regions) == 5


@pytest.mark.parametrize(
    ("automation", "regions", "bell", "choir"),
    [
        ("with", ["wave"], [-18, -16], [-6, -10]),
        ("without", ["wave"], [-6, -16], [-10, -10]),
        ("alone", [], [-18, -16], [-6, -10]),
    ],
)
def test_to_another_track_with_automation_without_it_or_it_alone(automation, regions, bell, choir):
    after = done(small(), "carry regions", CarryRegions(("wave",), targets=("choir",), automation=automation))
    assert [r.name for r in after.track("choir").regions] == regions
    assert at(after, "bell.level", 12, 16) == pytest.approx(bell)
    assert at(after, "choir.level", 12, 16) == pytest.approx(choir)
    assert len(after.track("bell").regions) == (2 if automation == "alone" else 1)


def test_what_a_target_lacks_is_said_or_added():
    made = small()
    inside = Lane("L3", "bell.pan", "wave", Envelope.constant(40.0))
    made = made.with_lanes([*made.lanes, inside])
    request = CarryRegions(("wave",), how="copy", targets=("choir",))
    assert [c.code for c in plan(made, "carry regions", request).cautions] == ["no-such-parameter"]
    after = done(made, "carry regions", replace(request, missing="add"))
    added = next(p for p in after.track("choir").parameters if p.name == "Pan")
    assert at(after, added.id, 12) == [40] and after.lane_at("bell.pan", "wave") == inside


def test_muting_renaming_and_removing():
    made = small()
    quiet = done(made, "change regions", ChangeRegions(("wave",), muted=True))
    assert at(quiet, "bell.level", 12) == [-18] and quiet.region("wave").muted
    named = done(made, "change regions", ChangeRegions(("wave", "ebb"), name=" tide "))
    assert {r.name for r in named.tracks[0].regions} == {"tide"}
    stays = done(made, "remove regions", RemoveRegions(("wave",), "stays"))
    assert at(stays, "bell.level", 12, 20) == [-6, -14] and [r.id for r in stays.tracks[0].regions] == ["ebb"]
    change = plan(made, "remove regions", RemoveRegions(("wave",), "goes"))
    assert at(change.applied_to(made), "bell.level", 12) == [-18]
    assert [c.message for c in change.cautions] == [
        "Takes 1 region lane with 2 points",
        "Bell’s own Level lane would be heard again, 3.1.00 to 5.1.00",
    ]


def test_containers_run_at_once_on_other_parameters_and_one_muted_leaves_the_other():
    made = small()
    pans = Lane("L3", "bell.pan", "track", Envelope.of([(0, -50), (b(40), 50)]))
    made = made.with_lanes([*made.lanes, pans])
    made = done(made, "make region", MakeRegion("bell", "sway", b(4), b(24), True, ("bell.pan",)))
    made = done(made, "make region", MakeRegion("bell", "swell", b(12), b(36), True, ("bell.level",)))
    assert at(made, "bell.pan", 4, 14, 30) == pytest.approx([-40, -15, 25])
    assert at(made, "bell.level", 12, 30) == pytest.approx([-6, -9])
    sway = next(r for r in made.tracks[0].regions if r.name == "sway")
    assert sway.container and made.lane_at("bell.pan").envelope == pans.envelope, "the track keeps its own below"
    far = done(made, "carry regions", CarryRegions((sway.id,), at=b(10)))
    assert at(far, "bell.pan", 10, 20) == pytest.approx([-40, -15])
    quiet = done(far, "change regions", ChangeRegions((sway.id,), muted=True))
    assert at(quiet, "bell.pan", 20) == pytest.approx([0]) and at(quiet, "bell.level", 30) == pytest.approx([-9])


def test_a_container_from_elsewhere_lands_on_what_fits():
    points = (ClipPoint(Tick(0), -20.0, 1.5), ClipPoint(b(4), 20.0))
    tilt = Clip("X", "Level", Family.LEVEL, Kind.CONTINUOUS, "dB", Axis.LEVEL, -96.0, 24.0, points)
    other = replace(tilt, name="Growl")
    change = plan(small(), "place container", PlaceContainer("choir", "tilt", b(2), b(4), (tilt, other)))
    after = change.applied_to(small())
    assert [c.code for c in change.cautions] == ["limited", "no-such-parameter"]
    assert at(after, "choir.level", 1, 2, 5.999, 6) == pytest.approx([-10, -20, 12, -10])


def test_a_gap_is_held_or_joined_and_nothing_else_moves():
    """Wave ends at −2 dB, the session rises from −14 dB at beat 20: held at −2, or straight to −14 from beat 16 on."""
    made = small()
    made = _region(made, "ebb", start=b(30), length=b(4))
    joined = done(made, "fill gap", FillGap("bell.level", b(16), b(20), "join"))
    assert at(joined, "bell.level", 15.999, 16, 18, 20, 25) == pytest.approx([-2, -2, -8, -14, -11.5], abs=0.01)
    held = done(made, "fill gap", FillGap("bell.level", b(16), b(20), "hold"))
    assert at(held, "bell.level", 16, 19.9, 20) == pytest.approx([-2, -2, -14])
    first = done(made, "fill gap", FillGap("bell.level", b(0), b(8), "hold"))
    assert at(first, "bell.level", 0, 7, 8) == pytest.approx([-10, -10, -10])
    with pytest.raises(RequestError) as caught:
        plan(made, "fill gap", FillGap("bell.level", b(10), b(12), "hold"))
    assert caught.value.code == "gap-covered"


def test_precedence_shows_what_would_be_heard_before_it_is_switched():
    made = small()
    change = plan(made, "set precedence", SetPrecedence("track"))
    (seen,) = change.touched
    assert (seen.parameter, seen.difference, seen.difference_at) == ("bell.level", 14, b(16))
    after = change.applied_to(made)
    assert at(after, "bell.level", 12) == [-18] and after.precedence is Precedence.TRACK
    assert plan(after, "set precedence", SetPrecedence("track")).empty


@pytest.mark.parametrize(
    ("verb", "request_", "code", "accepted"),
    [
        ("carry regions", CarryRegions(()), "regions-none", "at least one region"),
        ("carry regions", CarryRegions(("wave",), at=b(-1)), "region-early", "1.1.00 or later"),
        ("carry regions", CarryRegions(("wave",), at=b(33)), "region-late", "9.1.00 or earlier"),
        ("carry regions", CarryRegions(("wave",), how="repeat", times=1_000_000), "times", "1 to 1,000"),
        ("carry regions", CarryRegions(("wave",), how="repeat", until=b(9)), "until", "a place after the regions"),
        ("carry regions", CarryRegions(("wave",), how="repeat", every=Tick(0)), "every", "a length such as 4 bars"),
        ("carry regions", CarryRegions(("wave",), targets=("drum",)), "track-unknown", "bell, choir"),
        ("cut regions", CutRegions(("wave",), b(8)), "cut-edge", "a place between the edges 3.1.00 to 5.1.00"),
        ("join regions", JoinRegions(("wave",)), "join-one", "two regions that touch"),
        ("change regions", ChangeRegions(("wave",), name=" "), "name", "1 to 300 characters"),
        ("make region", MakeRegion("bell", "x", b(4), b(4)), "range-empty", "an end after the start"),
        ("make region", MakeRegion("bell", "x", b(4), b(44)), "range-late", "11.1.00 or earlier"),
        ("embed", Embed(("nowhere",)), "region-unknown", "ebb, wave"),
    ],
)
def test_requests_that_make_no_sense(verb, request_, code, accepted):
    with pytest.raises(RequestError) as caught:
        plan(small(), verb, request_)
    assert (caught.value.code, caught.value.accepted) == (code, accepted)


def test_regions_apart_do_not_join_and_a_lane_stays_with_its_track():
    apart = _region(small(), "ebb", start=b(20))
    with pytest.raises(RequestError) as caught:
        plan(apart, "join regions", JoinRegions(("wave", "ebb")))
    assert caught.value.message == "between wave and ebb there is a gap, 5.1.00 to 6.1.00"
    with pytest.raises(RequestError, match="no region of its track"):
        apart.with_lanes([Lane("X", "choir.level", "wave", Envelope.constant(0.0, Axis.LEVEL))]).checked()
    with pytest.raises(RequestError, match="does not lie in a session"):
        _region(small(), "ebb", length=0).checked()
    spots = (Spot(b(9), -3.0), Spot(b(12), -6.0))
    for verb, request in (
        ("add points", AddPoints("choir.level", spots, "wave")),
        ("draw", Draw("choir.level", spots, home="wave")),
    ):
        with pytest.raises(RequestError, match="wave is a region of Bell, not of Choir"):
            plan(small(), verb, request)


@given(st.data())
def test_no_region_verb_touches_other_tracks_or_makes_what_cannot_be(data):
    session = data.draw(sessions())
    regions = session.track("one").regions
    assume(regions)
    ids = tuple(r.id for r in data.draw(st.lists(st.sampled_from(regions), min_size=1, unique=True)))
    place = Tick(data.draw(st.integers(0, LENGTH)))
    verb, request = data.draw(
        st.sampled_from(
            [
                ("carry regions", CarryRegions(ids, at=place, under="goes along")),
                ("carry regions", CarryRegions(ids, how="copy", at=place, targets=("two",))),
                ("carry regions", CarryRegions(ids, how="repeat", times=3)),
                ("carry regions", CarryRegions(ids, at=place, targets=("two",), automation="without")),
                ("cut regions", CutRegions(ids, place)),
                ("change regions", ChangeRegions(ids, muted=True)),
                ("remove regions", RemoveRegions(ids, "stays")),
                ("remove regions", RemoveRegions(ids, "goes")),
                ("make region", MakeRegion("one", "c", Tick(0), Tick(max(place, 1)), parameters=("one.level",))),
            ]
        )
    )
    try:
        change = plan(session, verb, request)
    except RequestError:
        return
    after = change.applied_to(session)  # raises if it cannot be
    assert plan(session, verb, request) == change
    assert after.track("three") == session.track("three")
    for lane in session.lanes:
        if session.owner(lane.parameter).id == "three":
            assert after.lane(lane.id) is lane


def test_moved_without_its_automation_what_was_the_regions_stays_and_the_tracks_goes_along():
    """Wave moves to 24 without its level, which stays; under it the track's own level and pan went along as they were."""
    on = small()
    pans = (
        Lane("L3", "bell.pan", "track", Envelope.of([(0, -80.0), (b(40), 80.0)])),
        Lane("L4", "bell.pan", "wave", Envelope.of([(0, 50.0)])),
    )
    on = replace(on, lanes=(*on.lanes, *pans)).checked()
    after = done(on, "carry regions", CarryRegions(("wave",), at=b(24), automation="without", under="goes along"))
    assert at(after, "bell.level", 8, 12, 24, 28) == pytest.approx([-10, -6, -20, -18])
    assert at(after, "bell.pan", 8, 12, 24, 28, 33) == pytest.approx([50, 50, -48, -32, 52])
    assert not [x for x in after.lanes if not x.on_track]


def test_ramps_that_meet_at_a_jump_take_both_its_values():
    """From 0 outside to 10 outside over a length of 4 with a jump from 1 to 5 in its middle."""
    piece = Fragment(Envelope.of([(0, 1.0), (2, 1.0), (2, 5.0), (4, 5.0)]), 4)
    assert piece.ramped(0.0, 10.0, 2).envelope.points() == [(0, 0.0, 0.0), (2, 1.0, 0.0), (2, 5.0, 0.0), (4, 10.0, 0.0)]
    still = Fragment(Envelope.of([(0, 3.0), (4, 3.0)]), 4)
    assert still.ramped(0.0, 10.0, 9).envelope.points() == [(0, 0.0, 0.0), (2, 3.0, 0.0), (4, 10.0, 0.0)]


def test_limited_is_said_of_what_lands_and_of_nothing_else():
    """+9 dB onto a level that can be 0: three landings of which one is beyond the end, and one covers another."""
    tracks = (
        Track("a", "A", parameters=(level("a.l"),)),
        Track("c", "C", parameters=(replace(level("c.l"), high=0.0),)),
    )
    lane = Lane("L", "a.l", "track", Envelope.of([(0, 9.0), (b(2), 9.0), (b(2), -9.0)], Axis.LEVEL))
    on = Session("s", b(16), tracks, (lane,)).checked()

    def said(**how):
        change = plan(on, "carry", Carry(("L",), ("c",), start=Tick(0), end=b(8), **how))
        return [c.message for c in change.cautions if c.code == "limited"], [t.spans_limited for t in change.touched]

    assert said(times=2) == (["2 spans limited to what C Level can be"], [2])
    assert said(at=b(8), times=2) == (["1 span limited to what C Level can be"], [1])
    late = plan(on, "carry", Carry(("L",), ("c",), start=b(2), end=b(16), at=b(8)))
    assert not [c for c in late.cautions if c.code == "limited"]
