"""Alternatives: kept, used, taken in part and brought back, with nothing lost on the way."""

from dataclasses import replace

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st

from tests.strategies import earlier, linked_sessions, probes
from velmot.core.curves.axes import Axis
from velmot.core.curves.envelope import Envelope
from velmot.core.curves.segments import HOLD
from velmot.core.errors import RequestError
from velmot.core.parameters.parameter import level, mute
from velmot.core.session.alternatives import Alternative, is_used, standing, together
from velmot.core.session.session import Session
from velmot.core.session.track import Lane, Region, Track, TrackKind
from velmot.core.time.ticks import TICKS_PER_BEAT, Tick
from velmot.core.verbs import plan
from velmot.core.verbs.alternatives.request import (
    BringBack,
    KeepAside,
    RemoveAlternatives,
    RenameAlternative,
    TakeRange,
    UseAlternatives,
)
from velmot.core.verbs.carry.request import Carry
from velmot.core.verbs.frame.with_kept import with_kept
from velmot.core.verbs.groups.request import DissolveGroup
from velmot.core.verbs.regions.request import RemoveRegions
from velmot.core.verbs.reuse.request import ChangePhrase, KeepPhrase
from velmot.core.verbs.shape.request import Move, Reshape
from velmot.formats import session_file


def b(beats: float) -> Tick:
    return Tick(round(beats * TICKS_PER_BEAT))


def done(session: Session, verb: str, request, **more) -> Session:
    return plan(session, verb, request, **more).applied_to(session)


def content(session: Session, parameter: str):
    """What a parameter does, bit for bit, with the places on it."""
    lanes = {x.home: (x.id, x.extra, x.envelope) for x in session.lanes_of(parameter)}
    places = {x.id: x for x in session.placements if x.parameter == parameter}
    return lanes, places


def a_level(*points, regions=(), more=()) -> Session:
    track = Track("t", "Keeper", parameters=(level("p"),), regions=regions)
    lane = Lane("L", "p", "track", Envelope.of([(b(at), value, 0.0) for at, value in points], Axis.LEVEL))
    return Session("s", b(32), (track,), (lane, *more)).checked()


@given(linked_sessions(), st.data())
def test_kept_aside_another_used_and_used_back_is_bit_for_bit(session, data):
    with_goes = list(dict.fromkeys(x.parameter for x in session.alternatives))
    parameter = data.draw(st.sampled_from(with_goes or [x.parameter for x in session.lanes] or ["none"]))
    if not session.lanes_of(parameter):
        return
    kept = done(session, "keep aside", KeepAside((parameter,), "mine"))
    assert content(kept, parameter) == content(session, parameter) and kept.lanes == session.lanes
    mine = next(x.id for x in kept.alternatives if x.name.startswith("mine") and x not in session.alternatives)
    other = next((x for x in session.alternatives_of(parameter)), None)
    if other is None:
        changed = kept.with_lanes(
            replace(x, envelope=Envelope.constant(0.0, x.envelope.axis, 0))
            if x.parameter == parameter and not kept.parameter(parameter).axis.logarithmic
            else x
            for x in kept.lanes
        )
        changed = replace(changed, placements=tuple(x for x in kept.placements if x.parameter != parameter))
    else:
        try:
            changed = done(kept, "use alternatives", UseAlternatives((other.id,)))
        except RequestError as refused:
            assert refused.code == "alternative-lanes"
            return
        if other.span is None:
            now = standing(kept, other)
            assert {x.home: x.envelope for x in changed.lanes_of(parameter)} == {x.home: x.envelope for x in now.lanes}
        assert {x.name for x in changed.alternatives} >= {x.name for x in kept.alternatives}
    back = done(changed, "use alternatives", UseAlternatives((mine,)))
    assert content(back, parameter) == content(session, parameter)
    others = {x.parameter for x in session.lanes} - {parameter}
    assert all(content(back, p) == content(session, p) for p in others)


@given(linked_sessions(), st.data())
def test_a_range_taken_is_the_alternative_inside_and_what_was_there_outside(session, data):
    goes = [x for x in session.alternatives if x.span is None]
    if not goes:
        return
    one = data.draw(st.sampled_from(goes))
    start = data.draw(st.integers(0, session.length - 1))
    end = data.draw(st.integers(start + 1, session.length))
    try:
        after = done(session, "take range", TakeRange((one.id,), Tick(start), Tick(end)))
    except RequestError as refused:
        assert refused.code == "alternative-lanes"
        return
    kept = {x.home: x for x in standing(session, one).lanes}
    for lane in after.lanes_of(one.parameter):
        zero = after.zero_of(lane)
        before = session.lane_at(one.parameter, lane.home)
        curves = [x.envelope for x in (lane, before, kept.get(lane.home)) if x]
        for tick in probes(*curves, extra=(start - zero, end - zero)).tolist():
            inside = start <= tick + zero < end
            source = kept.get(lane.home) if inside else before
            first, last = after.span(lane)
            if source is not None and first <= tick + zero < last:
                apart = abs(lane.envelope.coordinate_at(tick) - source.envelope.coordinate_at(tick))
                assert apart <= 1e-9, (lane.home, tick, inside)
    assert all(content(after, p) == content(session, p) for p in session._parameters if p != one.parameter)
    assert after.alternatives == session.alternatives


@given(linked_sessions())
def test_going_back_gives_the_session_as_it_was(session):
    then = earlier(session)
    after = done(session, "bring back", BringBack(3), past={3: then}.__getitem__)
    assert {x.id: x for x in after.lanes} == {x.id: x for x in then.lanes}
    assert {x.id: x for x in after.tracks} == {x.id: x for x in then.tracks}
    listed = ("phrases", "placements", "markers", "let_be", "notes", "alternatives")
    assert all({x.id: x for x in getattr(after, n)} == {x.id: x for x in getattr(then, n)} for n in listed)
    assert after.precedence is then.precedence


@given(linked_sessions(), st.data())
def test_a_track_brought_back_is_as_it_was_and_no_other_changes(session, data):
    then = earlier(session)
    id = data.draw(st.sampled_from([t.id for t in session.tracks]))
    after = done(session, "bring back", BringBack(3, tracks=(id,)), past={3: then}.__getitem__)
    assert after.track(id) == then.track(id)
    for p in session._parameters:
        state = then if session.owner(p).id == id else session
        assert {x.home: x.envelope for x in after.lanes_of(p)} == {x.home: x.envelope for x in state.lanes_of(p)}


def test_names_say_what_was_there_and_two_of_one_name_are_told_apart():
    session = a_level((0, -30.0), (8, -6.0))
    kept = done(session, "keep aside", KeepAside(("p",), when="2026-12-01T14:10"))
    (one,) = kept.alternatives
    assert (one.name, one.kept) == ("2 points, −30.0 dB to −6.0 dB", "2026-12-01T14:10") and is_used(kept, one)
    again = done(done(kept, "keep aside", KeepAside(("p",), "calm")), "keep aside", KeepAside(("p",), "calm"))
    assert [x.name for x in again.alternatives] == [one.name, "calm", "calm (2)"]
    renamed = done(again, "rename alternative", RenameAlternative(again.alternatives[2].id, " first "))
    assert [x.name for x in renamed.alternatives] == [one.name, "calm", "first"]
    less = done(renamed, "remove alternatives", RemoveAlternatives((one.id,)))
    assert [x.name for x in less.alternatives] == ["calm", "first"] and less.lanes == session.lanes


def test_what_a_step_replaces_is_kept_under_what_came_after():
    session = a_level((0, -30.0), (8, -6.0))
    change = plan(session, "reshape", Reshape(("L",), b(0), b(4), (Move("dB", by=2.0),)))
    after = with_kept(session, change, "2026-12-01T14:10").applied_to(session)
    (one,) = after.alternatives
    assert one.name.startswith("before: reshape Keeper Level") and one.lanes == session.lanes
    back = plan(after, "use alternatives", UseAlternatives((one.id,), when="2026-12-01T14:12"))
    assert [x.after.name for x in back.alternatives] == [f"before “{one.name}”"]
    state = back.applied_to(after)
    assert state.lanes == session.lanes and with_kept(state, change).alternatives == (), "it is kept already"
    let_go = plan(after, "use alternatives", UseAlternatives((one.id,), aside=False))
    assert let_go.alternatives == ()


def test_a_range_of_worked_numbers_sealed_and_ramped():
    """From −20 to −10 dB over 8 beats against a still −40: taken from 2 to 6 it stands at −17.5 there, outside nothing changes."""
    session = a_level((0, -40.0))
    go = Alternative(
        "a", "rise", "p", (Lane("K", "p", "track", Envelope.of([(0, -20.0, 0.0), (b(8), -10.0, 0.0)], Axis.LEVEL)),)
    )
    session = replace(session, alternatives=(go,)).checked()
    sealed = done(session, "take range", TakeRange(("a",), b(2), b(6))).lane("L").envelope
    assert sealed.points() == [
        (0, -40.0, HOLD),
        (b(2), -17.5, 0.0),
        (b(6), -12.5, 0.0),
        (b(6), -40.0, 0.0),
    ]
    ramped = done(session, "take range", TakeRange(("a",), b(2), b(6), "ramp", b(1))).lane("L").envelope
    assert [float(ramped.at(b(x))) for x in (1.9, 2, 3, 4, 5, 6)] == pytest.approx([-40, -40, -16.25, -15, -13.75, -40])
    whole = done(session, "take range", TakeRange(("a",), b(0), b(99)))
    assert whole.lane("L").envelope == go.lanes[0].envelope
    kept_for = replace(session, alternatives=(replace(go, start=b(2), end=b(6)),))
    assert done(kept_for, "take range", TakeRange(("a",))).lane("L").envelope == sealed
    assert done(kept_for, "use alternatives", UseAlternatives(("a",))).lane("L").envelope == sealed
    for asked, code in (
        (TakeRange(("a",), b(40), b(41)), "range-beyond"),
        (TakeRange(("a",), b(2), b(6), "ramp"), "ramp-none"),
    ):
        with pytest.raises(RequestError) as refused:
            plan(session, "take range", asked)
        assert refused.value.code == code


def test_what_cannot_be_used_as_it_was_is_said_before():
    region = Region("r", "verse", b(4), b(8))
    inside = Lane("R", "p", "r", Envelope.of([(0, -12.0, 0.0)], Axis.LEVEL))
    session = a_level((0, -30.0), regions=(region,), more=(inside,))
    kept = done(session, "keep aside", KeepAside(("p",), "calm"))
    less = done(kept, "remove regions", RemoveRegions(("r",), "goes"))
    change = plan(less, "use alternatives", UseAlternatives((kept.alternatives[0].id,)))
    assert [(c.code, dict(c.args)["count"]) for c in change.cautions] == [("alternative-left", 1)]
    narrow = replace(level("p"), high=-20.0, value=-30.0, default=-30.0)
    lower = replace(less.tracks[0], parameters=(narrow,))
    loud = replace(
        kept.alternatives[0],
        id="loud",
        lanes=(Lane("K", "p", "track", Envelope.of([(0, -30.0, 0.0), (b(8), -10.0, 0.0)], Axis.LEVEL)),),
    )
    limited = replace(less, tracks=(lower,), alternatives=(loud,)).checked()
    change = plan(limited, "use alternatives", UseAlternatives(("loud",)))
    (said,) = (c for c in change.cautions if c.code == "limited")
    assert (dict(said.args)["count"], said.start) == (1, b(8))
    assert change.applied_to(limited).lane("L").envelope.values.max() == -20.0
    switch = replace(less.tracks[0], parameters=(mute("p"),))
    turned = replace(less, tracks=(switch,), lanes=(), alternatives=(loud,)).checked()
    with pytest.raises(RequestError, match="no lane of “calm” fits"):
        plan(turned, "use alternatives", UseAlternatives(("loud",)))
    gone = replace(less, tracks=(replace(less.tracks[0], parameters=()),), lanes=())
    with pytest.raises(RequestError, match="parameter that is not there any more"):
        plan(gone, "use alternatives", UseAlternatives((kept.alternatives[0].id,)))
    twice = replace(less, alternatives=(loud, replace(loud, id="two", name="other")))
    with pytest.raises(RequestError, match="“calm” and “other” are both of Keeper Level"):
        plan(twice, "use alternatives", UseAlternatives(("loud", "two")))


def test_a_place_in_an_alternative_stays_linked_and_follows_its_phrase():
    session = a_level((0, -30.0), (8, -10.0))
    phrased = done(session, "keep phrase", KeepPhrase("L", b(0), b(8), "rise", True))
    kept = done(phrased, "keep aside", KeepAside(("p",), "linked"))
    moved = done(kept, "reshape", Reshape(("L",), None, None, (Move("dB", by=3.0),)), links="free")
    assert not moved.placements
    change = plan(moved, "use alternatives", UseAlternatives((kept.alternatives[0].id,)))
    back = change.applied_to(moved)
    assert content(back, "p") == content(phrased, "p")
    (phrase,) = moved.phrases
    deeper = replace(
        moved,
        phrases=(
            replace(
                phrase, curve=phrase.curve.with_points(phrase.curve.ticks, phrase.curve.values - 5, phrase.curve.bends)
            ),
        ),
    ).checked()
    follows = done(deeper, "use alternatives", UseAlternatives((kept.alternatives[0].id,)))
    assert len(follows.placements) == 1 and [float(follows.lane("L").envelope.at(b(x))) for x in (0, 4)] == [
        -35.0,
        -25.0,
    ]
    without = done(deeper, "change phrase", ChangePhrase(phrase.id, delete=True))
    alone = plan(without, "use alternatives", UseAlternatives((kept.alternatives[0].id,)))
    assert not alone.applied_to(without).placements and [c.code for c in alone.cautions] == ["alternative-freed"]


def test_alternatives_go_with_their_parameter_and_come_back_with_it():
    fader = level("g.level", value=-3.0)
    lane = Lane("G", "g.level", "track", Envelope.of([(0, -3.0, 0.0), (b(4), -6.0, HOLD)], Axis.LEVEL))
    base = a_level((0, -30.0))
    group = Track("g", "All", parameters=(fader,), members=("t",), kind=TrackKind.GROUP)
    session = replace(base, tracks=(*base.tracks, group), lanes=(*base.lanes, lane)).checked()
    kept = done(session, "keep aside", KeepAside(("g.level", "p"), "calm", when="2026-12-01T14:10"))
    assert [x.parameter for x in together(kept, kept.alternatives[0])] == ["g.level", "p"]
    change = plan(kept, "dissolve group", DissolveGroup("g"))
    after = change.applied_to(kept)
    assert [x.parameter for x in after.alternatives] == ["p"]
    assert [dict(c.args) for c in change.cautions if c.code == "alternatives-go"] == [{"count": 1}]


def test_a_parameter_brought_back_over_some_bars_and_what_was_never_there():
    then = a_level((0, -40.0))
    now = a_level((0, -10.0))
    past = {7: then}.__getitem__
    some = done(now, "bring back", BringBack(7, parameters=("p",), start=b(2), end=b(6)), past=past).lane("L").envelope
    assert [float(some.at(b(x))) for x in (1, 2, 5.9, 6)] == [-10.0, -40.0, -40.0, -10.0]
    everything = done(now, "bring back", BringBack(7, start=b(2), end=b(6)), past=past).lane("L").envelope
    assert everything == some
    with pytest.raises(RequestError, match="a session file knows nothing"):
        plan(now, "bring back", BringBack(7))
    with pytest.raises(RequestError) as refused:
        plan(now, "bring back", BringBack(7, parameters=("q",)), past=past)
    assert refused.value.code == "parameter-unknown"


def test_a_carry_and_a_phrase_take_from_an_alternative_and_leave_it_and_the_lane_alone():
    calm = a_level((0, -30.0), (8, -10.0))
    two = replace(calm, tracks=(*calm.tracks, Track("u", "Gulls", parameters=(level("q"),)))).checked()
    kept = done(two, "keep aside", KeepAside(("p",), "calm"))
    now = done(kept, "reshape", Reshape(("L",), None, None, (Move("dB", by=-20.0),)))
    (one,) = now.alternatives
    after = done(now, "carry", Carry((), ("u",), start=b(0), end=b(4), alternative=one.id))
    assert [float(after.lane_at("q").envelope.at(b(x))) for x in (0, 2, 3.5)] == [-30.0, -25.0, -21.25]
    assert after.lane("L") == now.lane("L") and after.alternatives == now.alternatives
    home = done(now, "carry", Carry((), ("t",), start=b(0), end=b(4), alternative=one.id))
    assert float(home.lane("L").envelope.at(b(2))) == -25.0 and float(home.lane("L").envelope.at(b(5))) == -37.5
    phrased = done(now, "keep phrase", KeepPhrase("L", b(0), b(4), "rise", alternative=one.id))
    assert [float(phrased.phrases[0].curve.at(b(x))) for x in (0, 4)] == [-30.0, -20.0]
    assert not phrased.placements and phrased.lanes == now.lanes
    for asked in ({"how": "move"}, {"linked": True}):
        with pytest.raises(RequestError, match="what is kept aside stays there"):
            plan(now, "carry", Carry((), ("u",), alternative=one.id, **asked))
    with pytest.raises(RequestError, match="“calm” keeps no lane like that"):
        plan(now, "keep phrase", KeepPhrase("nowhere", b(0), b(4), "rise", alternative=one.id))


def test_a_file_keeps_them_in_version_5_and_names_what_is_wrong_in_one():
    session = done(
        a_level((0, -30.0), (8, -6.0)), "keep aside", KeepAside(("p",), "calm", b(2), b(6), "2026-12-01T14:10")
    )
    data = session_file.write(session)
    assert b'"version": 5' in data and session_file.read(data)[0] == session
    with pytest.raises(Exception, match="alternative alternative1, lane L") as refused:
        session_file.read(data.replace(b"[8, -6]]}]}", b"[-3, -6]]}]}"))
    assert refused.value.place == "alternatives[0].lanes[0].points[1]"
    assert np.isfinite(session.alternatives[0].lanes[0].envelope.values).all()
