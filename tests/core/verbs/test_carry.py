"""Carrying lanes: hand-made cases with numbers, and what must hold for every carry."""

import copy
from dataclasses import replace

import numpy as np
import pytest
from hypothesis import assume, given
from hypothesis import strategies as st

from tests.strategies import LENGTH, carries, probes, sessions
from velmot.core.curves.envelope import Envelope
from velmot.core.errors import RequestError
from velmot.core.parameters.parameter import Family, Parameter, level, mute, pan
from velmot.core.session.heard import heard
from velmot.core.session.session import Session
from velmot.core.session.track import Device, Lane, Mode, Region, Track
from velmot.core.time.ticks import TICKS_PER_BEAT as BEAT
from velmot.core.time.ticks import Tick
from velmot.core.verbs import plan
from velmot.core.verbs.carry.carry import match_table, resting_pairs
from velmot.core.verbs.carry.request import Carry, Match


def small(**more) -> Session:
    """Bell has a level lane rising from −24 dB at beat 0 to −4 dB at beat 40; Choir's fader rests at −10 dB."""
    bell = Track("bell", "Bell", parameters=(level("bell.level"), mute("bell.mute")))
    choir = Track("choir", "Choir", parameters=(level("choir.level", value=-10.0),), **more)
    lane = Lane("L1", "bell.level", "track", Envelope.of([(0, -24), (40 * BEAT, -4)], level("x").axis))
    return Session("small", 64 * BEAT, (bell, choir), (lane,)).checked()


def carry(session: Session, **fields):
    settings = {"lanes": ("L1",), "targets": ("choir",), "start": Tick(8 * BEAT), "end": Tick(16 * BEAT)} | fields
    return plan(session, "carry", Carry(**settings))


def test_bars_3_and_4_to_a_track_without_a_lane():
    """At beat 8 the rise has reached −20 dB, at beat 16 −16 dB; around it Choir keeps its −10 dB."""
    change = carry(small())
    lane = change.applied_to(small()).lane_at("choir.level")
    beats = np.array([0, 8, 12, 15, 16, 60]) * BEAT
    assert lane.envelope.at(beats).tolist() == pytest.approx([-10, -20, -18, -16.5, -10, -10], abs=1e-9)
    assert float(lane.envelope.at(16 * BEAT, "left")) == pytest.approx(-16, abs=1e-9)
    (touched,) = change.touched
    assert (touched.points_before, touched.points_after) == (0, 4)
    assert touched.difference == pytest.approx(10) and touched.difference_at == 8 * BEAT
    assert (
        change.title == "Carry Bell Level from 3.1.00 to 5.1.00 to Choir, the same place, copied; edges jump"
        and not change.cautions
    )


def test_a_ramp_leads_in_and_out_inside_the_range():
    """Over the first 2 beats it goes straight from −10 to −19 dB: −14.5 dB after one."""
    lane = carry(small(), edges="ramp", ramp=Tick(2 * BEAT)).lanes[0].after
    beats = np.array([8, 9, 10, 14, 15, 16]) * BEAT
    assert lane.envelope.at(beats).tolist() == pytest.approx([-10, -14.5, -19, -17, -13.5, -10], abs=1e-9)


def test_what_ends_with_the_session_leads_back_to_nothing():
    """Whole, or a part that ends where the session does: no jump on the last tick, and no ramp out, only in."""
    whole = carry(small(), start=None, end=None).applied_to(small()).lane_at("choir.level")
    assert whole.envelope.points() == [(0, -24.0, 0.0), (40 * BEAT, -4.0, 0.0)]
    part = carry(small(), start=Tick(16 * BEAT), end=Tick(64 * BEAT)).applied_to(small()).lane_at("choir.level")
    assert part.envelope.ticks[-1] <= 64 * BEAT and part.envelope.value_at(64 * BEAT) == -4
    made = carry(small(), start=Tick(16 * BEAT), end=Tick(64 * BEAT), edges="ramp", ramp=Tick(8 * BEAT))
    ramped = made.applied_to(small()).lane_at("choir.level").envelope
    at = np.array([16, 20, 24, 32, 56, 60, 64]) * BEAT
    assert ramped.at(at).tolist() == pytest.approx([-10, -11, -12, -8, -4, -4, -4])
    before_the_end = carry(small(), end=Tick(60 * BEAT)).applied_to(small()).lane_at("choir.level")
    assert before_the_end.envelope.value_at(60 * BEAT) == -10, "what goes on is led back to"


def test_moving_leaves_one_straight_segment_behind():
    change = carry(small(), how="move", at=Tick(20 * BEAT))
    after = change.applied_to(small())
    assert len(change.lanes) == 2
    bell = after.lane_at("bell.level").envelope
    assert bell.at(np.array([0, 12, 40]) * BEAT).tolist() == pytest.approx([-24, -18, -4], abs=1e-9)
    choir = after.lane_at("choir.level").envelope
    assert choir.at(np.array([19, 20, 24, 28]) * BEAT).tolist() == pytest.approx([-10, -20, -18, -10], abs=1e-9)


def test_moving_a_whole_lane_removes_it():
    after = carry(small(), how="move", start=None, end=None).applied_to(small())
    assert [(x.parameter, len(x.envelope)) for x in after.lanes] == [("choir.level", 2)]


def test_cautions_carry_code_and_place():
    session = small(mode=Mode.OFF, regions=(Region("r1", "verse", 0, 10 * BEAT),))
    inside = Lane("L2", "choir.level", "r1", Envelope.constant(-3.0, level("x").axis))
    session = session.with_lanes([*session.lanes, inside])
    change = carry(session, at=Tick(6 * BEAT))
    assert [(c.code, c.track) for c in change.cautions] == [("region-wins", "choir"), ("not-reading", "choir")]
    change = carry(session, at=Tick(60 * BEAT), set_to_read=True)
    assert [c.code for c in change.cautions] == ["beyond-end", "heard-elsewhere"]
    assert "up to 7.00 dB differently at 1.1.00" in change.cautions[1].message, "its region's −3 dB over −10"
    assert change.touched[0].end == 64 * BEAT and change.tracks[0].after.mode is Mode.READ


def test_a_narrower_target_limits_and_counts():
    narrow = small()
    choir = Track("choir", "Choir", parameters=(level("choir.level", low=-18.0, high=0.0, value=-10.0),))
    narrow = narrow.with_tracks([narrow.tracks[0], choir])
    change = carry(narrow)
    assert [c.code for c in change.cautions] == ["limited"] and change.touched[0].spans_limited == 1
    beats = np.array([8, 11, 12, 14]) * BEAT
    assert change.lanes[0].after.envelope.at(beats).tolist() == pytest.approx([-18, -18, -18, -17], abs=1e-9)


def test_what_has_no_match_is_said_and_left_out():
    session = small()
    mute_lane = Lane("L2", "bell.mute", "track", Envelope.of([(0, 0.0, float("inf")), (BEAT, 1.0)]))
    change = carry(session.with_lanes([*session.lanes, mute_lane]), lanes=("L1", "L2"))
    assert [c.code for c in change.cautions] == ["nothing-moves", "no-such-parameter"]
    assert [t.parameter for t in change.touched] == ["choir.level"]


def test_what_a_target_lacks_can_be_added_taken_along_or_land_elsewhere_with_a_click_each():
    filter_ = Parameter(
        "bell.cut", "Cutoff", Family.DEVICE, unit="Hz", low=20, high=20000, default=20, value=20, device="f"
    )
    bell = Track("bell", "Bell", parameters=(level("bell.level"), filter_), devices=(Device("f", "Filter", "filter"),))
    choir = Track("choir", "Choir", parameters=(mute("choir.mute"), level("choir.level"), pan("choir.pan")))
    lane = Lane("L1", "bell.cut", "track", Envelope.of([(0, 20), (40 * BEAT, 2000)]))
    on = Session("lacks", 64 * BEAT, (bell, choir), (lane,)).checked()
    request = Carry(("L1",), ("choir",))
    (caution,) = [c for c in plan(on, "carry", request).cautions if c.code == "no-such-parameter"]
    ways = (caution.remedy, *caution.others)
    assert [w.words for w in ways] == ["add it there", "take Filter along whole", "land it on Pan"]
    for way in ways:
        made = plan(on, "carry", way.step)
        assert "no-such-parameter" not in [c.code for c in made.cautions] and not made.empty
    landed = plan(on, "carry", ways[2].step).applied_to(on).lane_at("choir.pan").envelope
    assert (landed.value_at(0), landed.value_at(40 * BEAT)) == pytest.approx((-100, -80.18), abs=0.1)


def test_what_is_missing_can_be_added_with_its_device_and_its_static_value():
    session = small()
    cut = Parameter("bell.cut", "Cut", Family.DEVICE, high=100, value=30, default=50, device="bell.filter")
    bell = replace(
        session.tracks[0],
        parameters=(*session.tracks[0].parameters, cut),
        devices=(Device("bell.filter", "Filter", "filter"),),
    )
    lane = Lane("L2", "bell.cut", "track", Envelope.of([(0, 10), (40 * BEAT, 90)]))
    session = session.with_tracks([bell, session.tracks[1]]).with_lanes([*session.lanes, lane]).checked()
    change = carry(session, lanes=("L2",), missing="add")
    after = change.applied_to(session)
    (device,) = after.track("choir").devices
    added = after.track("choir").parameters[-1]
    assert (device.kind, added.name, added.value, added.device) == ("filter", "Cut", 30, device.id)
    beats = np.array([0, 8, 12, 20]) * BEAT
    assert after.lane_at(added.id).envelope.at(beats).tolist() == pytest.approx([30, 26, 34, 30])
    assert carry(session, lanes=("L2",)).empty, "unless asked for, it is left out"


def test_carrying_onto_itself_says_so():
    assert [c.code for c in carry(small(), targets=("bell",)).cautions] == ["already-there"]


def test_repeating_back_to_back_and_every_so_often_up_to_the_end():
    """Two beats from beat 8 (−20 to −19 dB) land at 40, 42 and 44; or every 12 from 40 on: 40, 52, and 64 is the end."""
    span = {"start": Tick(8 * BEAT), "end": Tick(10 * BEAT), "at": Tick(40 * BEAT)}
    curve = carry(small(), **span, times=3).lanes[0].after.envelope
    beats = np.array([39, 40, 41, 42, 43, 45, 46]) * BEAT
    assert curve.at(beats).tolist() == pytest.approx([-10, -20, -19.5, -20, -19.5, -19.5, -10])
    change = carry(small(), **span, times=3, every=Tick(12 * BEAT))
    curve = change.lanes[0].after.envelope
    assert curve.at(np.array([41, 43, 53, 55]) * BEAT).tolist() == pytest.approx([-19.5, -10, -19.5, -10])
    assert [c.code for c in change.cautions] == ["beyond-end"]


@pytest.mark.parametrize(
    ("fields", "code", "accepted"),
    [
        ({"lanes": ()}, "lanes-none", "at least one lane"),
        ({"targets": ()}, "targets-none", "at least one track"),
        ({"lanes": ("L9",)}, "lane-unknown", "L1"),
        ({"targets": ("drum",)}, "track-unknown", "bell, choir"),
        ({"end": None}, "range-half", "both, or neither"),
        ({"end": Tick(8 * BEAT)}, "range-empty", "an end after the start"),
        ({"at": Tick(-1)}, "at-early", "1.1.00 or later"),
        ({"edges": "ramp"}, "ramp-none", "a length such as 80 ms"),
        ({"times": 1_000_000}, "times", "1 to 1,000"),
        ({"times": 2, "every": Tick(0)}, "every", "a length such as 4 bars"),
    ],
)
def test_requests_that_make_no_sense(fields, code, accepted):
    with pytest.raises(RequestError) as caught:
        carry(small(), **fields)
    assert (caught.value.code, caught.value.accepted) == (code, accepted)


def drawn(data) -> tuple[Session, Carry]:
    session = data.draw(sessions())
    assume(any(x.on_track and session.owner(x.parameter).id == "one" for x in session.lanes))
    return session, data.draw(carries(session))


@given(st.data())
def test_outside_what_a_carry_names_nothing_changes(data):
    session, request = drawn(data)
    change = plan(session, "carry", request)
    after = change.applied_to(session)
    spans = {(t.parameter, t.home): (t.start, t.end) for t in change.touched}
    for lane in session.lanes:
        new = after.lane_at(lane.parameter, lane.home)
        if (lane.parameter, lane.home) not in spans:
            assert new == lane
            continue
        start, end = spans[lane.parameter, lane.home]
        if new is None:
            assert (start, end) == session.span(lane), "only a lane that went whole is removed"
            continue
        at = probes(lane.envelope, new.envelope, extra=(start, end))
        out = at[(at < start) | ((at >= end) & (at < session.length))]
        gap = np.abs(lane.envelope.coordinate_at(out) - new.envelope.coordinate_at(out))
        assert gap.max(initial=0.0) < 1e-9


@given(st.data())
def test_planning_is_pure_and_its_result_possible(data):
    session, request = drawn(data)
    before = copy.deepcopy(session)
    one, two = plan(session, "carry", request), plan(session, "carry", request)
    assert one == two and session == before
    one.applied_to(session)  # raises if any lane holds what cannot be


@given(st.data())
def test_there_and_back_is_heard_the_same(data):
    """Carry a range to an empty place on a spare track and back again: the source reads as before."""
    session, request = drawn(data)
    spare = Track(
        "spare",
        "spare",
        parameters=tuple(
            p.__class__(**{**p.__dict__, "id": p.id.replace("one", "spare")}) for p in session.track("one").parameters
        ),
    )
    session = session.with_tracks([*session.tracks, spare])
    span = {"start": request.start, "end": request.end}
    there = plan(session, "carry", Carry(lanes=request.lanes, targets=("spare",), **span)).applied_to(session)
    back = tuple(x.id for x in there.lanes if there.owner(x.parameter).id == "spare")
    again = plan(there, "carry", Carry(lanes=back, targets=("one",), **span)).applied_to(there)
    for id in request.lanes:
        was, now = session.lane(id).envelope, again.lane(id).envelope
        at = probes(was, now, extra=(request.start, request.end))
        at = at[at < LENGTH]
        assert np.allclose(was.coordinate_at(at), now.coordinate_at(at), rtol=0, atol=1e-9)


def devices() -> Session:
    """Bell has two filters with a Cut each (30 and 70, the second automated); Choir has one, resting at 5."""
    cuts = [
        Parameter(f"bell.cut{n}", "Cut", Family.DEVICE, high=100, value=v, device=f"bell.f{n}")
        for n, v in ((1, 30), (2, 70))
    ]
    own = Parameter("choir.cut", "Cut", Family.DEVICE, high=100, value=5, device="choir.f")
    bell = Track(
        "bell",
        "Bell",
        parameters=tuple(cuts),
        devices=tuple(Device(f"bell.f{n}", f"Filter {n}", "filter") for n in (1, 2)),
    )
    choir = Track("choir", "Choir", parameters=(own,), devices=(Device("choir.f", "Filter", "filter"),))
    lane = Lane("L2", "bell.cut2", "track", Envelope.of([(0, 10), (40 * BEAT, 90)]))
    return Session("devices", 64 * BEAT, (bell, choir), (lane,)).checked()  # fmt: skip


def test_a_device_goes_whole_with_its_static_values_and_lanes():
    """The first filter meets Choir's own and sets it to 30; the second finds no slot, is added, and brings its lane."""
    after = plan(devices(), "carry", Carry((), ("choir",), devices=("bell.f1", "bell.f2"))).applied_to(devices())
    choir = after.track("choir")
    assert [(d.name, d.kind) for d in choir.devices] == [("Filter", "filter"), ("Filter 2", "filter")]
    assert [(p.name, p.value) for p in choir.parameters] == [("Cut", 30), ("Cut", 70)]
    (lane,) = [x for x in after.lanes if after.owner(x.parameter).id == "choir"]
    assert after.parameter(lane.parameter).device == choir.devices[1].id
    assert float(lane.envelope.at(20 * BEAT)) == pytest.approx(50)


def test_the_match_table_finds_slots_and_can_be_overruled():
    made = devices()
    (cell,) = match_table(made, Carry(("L2",), ("choir",)))
    assert (cell.found, cell.onto.id) == ("other slot", "choir.cut")
    out = Match("bell.cut2", "choir", "leave out")
    assert plan(made, "carry", Carry(("L2",), ("choir",), matches=(out,))).empty
    with pytest.raises(RequestError) as caught:
        plan(made, "carry", Carry(("L2",), ("choir",), matches=(Match("bell.cut2", "choir", "land", "bell.cut1"),)))
    assert caught.value.code == "match-elsewhere"


def test_a_match_on_another_unit_is_mapped_into_its_span():
    """−24 to −4 dB onto a pan from −50 to 50: at beat 20 half way, 0; in the whole range −24 dB lies at 72/108."""
    session = small()
    choir = session.tracks[1]
    session = session.with_tracks([session.tracks[0], replace(choir, parameters=(*choir.parameters, pan("choir.pan")))])
    fitted = Match("bell.level", "choir", "land", "choir.pan", -50.0, 50.0)
    after = carry(session, start=None, end=None, matches=(fitted,)).applied_to(session)
    beats = np.array([0, 20, 40]) * BEAT
    assert after.lane_at("choir.pan").envelope.at(beats).tolist() == pytest.approx([-50, 0, 50])
    placed = replace(fitted, low=None, high=None)
    after = carry(session, start=None, end=None, matches=(placed,)).applied_to(session)
    assert after.lane_at("choir.pan").envelope.at(beats[:1]).tolist() == pytest.approx([-100 + 200 * 72 / 108])


def test_static_values_are_compared_and_matched():
    session = small()
    request = Carry(("L1",), ("choir",), start=Tick(8 * BEAT), end=Tick(16 * BEAT))
    assert [(p.value, q.value) for _, p, q in resting_pairs(session, request)] == [(0, -10)]
    after = carry(session, match_static=True).applied_to(session)
    assert after.parameter("choir.level").value == 0 and not resting_pairs(after, request)


def test_a_track_lane_and_its_region_lanes_land_as_they_were_heard():
    """Bell's level is −10 dB in its region from beat 4 to 8 and −3 dB in the one from 6 to 12, over the track's −24."""
    session = small()
    spans = (Region("a", "a", 4 * BEAT, 4 * BEAT), Region("b", "b", 6 * BEAT, 6 * BEAT))
    bell = replace(session.tracks[0], regions=spans)
    inner = [Lane(r, "bell.level", r, Envelope.constant(v, level("x").axis)) for r, v in (("a", -10.0), ("b", -3.0))]
    session = session.with_tracks([bell, session.tracks[1]]).with_lanes([*inner, *session.lanes]).checked()
    after = carry(session, lanes=("b", "L1", "a"), start=Tick(0), end=Tick(16 * BEAT)).applied_to(session)
    at = probes(after.lane_at("choir.level").envelope, extra=(16 * BEAT,))
    at = at[at < 16 * BEAT]
    wanted = heard(session, "bell.level").envelope.at(at)
    assert after.lane_at("choir.level").envelope.at(at).tolist() == pytest.approx(wanted.tolist(), abs=1e-9)
