"""What regions silence, and let be heard again, is said by every step with them; and switches set over a range."""

from dataclasses import replace

import pytest
from hypothesis import given
from hypothesis import strategies as st

from tests.oracle import heard_at
from tests.strategies import linked_sessions
from velmot.core.curves.axes import Axis
from velmot.core.curves.envelope import Envelope
from velmot.core.errors import RequestError
from velmot.core.parameters.parameter import level, mute
from velmot.core.session.session import Session
from velmot.core.session.track import Lane, Mode, Region, Track
from velmot.core.time.ticks import TICKS_PER_BEAT as BEAT
from velmot.core.time.ticks import Tick
from velmot.core.verbs import plan
from velmot.core.verbs.modes.request import SetSwitch
from velmot.core.verbs.regions.request import CarryRegions, ChangeRegions, CutRegions, JoinRegions, Lift, SetPrecedence


def flat(value: float) -> Envelope:
    return Envelope.of([(0, value)], Axis.LEVEL)


def session(mode: Mode = Mode.READ) -> Session:
    """Bell: its own level; one (bars 1 and 2), two (bars 3 and 4), low (bars 5 to 8) with lanes; all apart."""
    regions = (
        Region("one", "one", 0, 8 * BEAT),
        Region("two", "two", 8 * BEAT, 8 * BEAT),
        Region("low", "low", 16 * BEAT, 16 * BEAT),
    )
    bell = Track("bell", "Bell", mode=mode, parameters=(level("b", value=-20.0), mute("m")), regions=regions)
    lanes = [Lane("own", "b", "track", flat(-5.0))]
    lanes += [Lane(id, "b", id, flat(-10.0 - n)) for n, id in enumerate(("one", "two", "low"))]
    return Session("bell", 64 * BEAT, (bell,), tuple(lanes)).checked()


def said(change) -> list[str]:
    return [c.message for c in change.cautions if c.code in ("silenced", "heard-again")]


def test_a_muted_region_is_no_longer_heard_and_its_track_is_again():
    change = plan(session(), "change regions", ChangeRegions(("two",), muted=True))
    assert said(change) == [
        "two’s Level lane would no longer be heard, 3.1.00 to 5.1.00: it is muted",
        "Bell’s own Level lane would be heard again, 3.1.00 to 5.1.00",
    ]
    silenced = next(c for c in change.cautions if c.code == "silenced")
    assert silenced.remedy.step == Lift(("two",)) and (silenced.start, silenced.end) == (8 * BEAT, 16 * BEAT)
    back = plan(change.applied_to(session()), "change regions", ChangeRegions(("two",), muted=False))
    assert [m.split(" would ")[1][:9] for m in said(back)] == ["no longer", "be heard "]


def test_a_copy_over_others_says_what_it_covers_and_offers_to_go_without():
    request = CarryRegions(("two",), "copy", Tick(20 * BEAT))
    change = plan(session(), "carry regions", request)
    assert said(change) == ["low’s Level lane would no longer be heard, 6.1.00 to 8.1.00: two lies over it"]
    (caution,) = [c for c in change.cautions if c.code == "silenced"]
    assert caution.remedy.step == replace(request, automation="without")
    over_track = plan(session(), "carry regions", CarryRegions(("two",), "copy", Tick(40 * BEAT)))
    assert said(over_track) == ["Bell’s own Level lane would no longer be heard, 11.1.00 to 13.1.00: two lies over it"]


def test_a_region_moved_under_a_later_one_says_that_it_would_not_be_heard_there():
    change = plan(session(), "carry regions", CarryRegions(("one",), "move", Tick(12 * BEAT)))
    assert said(change) == [
        "one’s Level lane would no longer be heard, 5.1.00 to 6.1.00: low lies over it",
        "two’s Level lane would no longer be heard, 4.1.00 to 5.1.00: one lies over it",
        "Bell’s own Level lane would be heard again, 1.1.00 to 3.1.00",
    ]


def test_cutting_and_joining_where_nothing_lies_over_say_nothing_and_repeats_are_counted():
    cut = plan(session(), "cut regions", CutRegions(("two",), Tick(12 * BEAT)))
    assert said(cut) == []
    assert said(plan(cut.applied_to(session()), "join regions", JoinRegions(("two", "region1")))) == []
    many = plan(session(), "carry regions", CarryRegions(("one",), "repeat", Tick(0), times=6, every=Tick(9 * BEAT)))
    assert said(many) == [
        "Bell’s own Level lane would no longer be heard, 9.1.00 to 9.4.00 and in 3 more places: one lies over it",
        "two’s Level lane would no longer be heard, 3.2.00 to 5.1.00: one lies over it",
        "low’s Level lane would no longer be heard, 5.3.00 to 7.3.00 and in 1 more place: one lies over it",
        "one’s Level lane would not be heard, 5.1.00 to 5.2.00: low lies over it",
    ]


def test_a_cut_whose_second_part_wins_over_what_lay_over_it_says_so():
    lies = replace(session().tracks[0].regions[1], start=4 * BEAT, length=4 * BEAT)  # two, over one's second bar
    bell = replace(session().tracks[0], regions=(session().tracks[0].regions[0], lies, session().tracks[0].regions[2]))
    over = replace(session(), tracks=(bell,)).checked()
    change = plan(over, "cut regions", CutRegions(("one",), Tick(6 * BEAT)))
    assert said(change) == [
        "two’s Level lane would no longer be heard, 2.3.00 to 3.1.00: one lies over it",
        "one’s Level lane would be heard again, 2.3.00 to 3.1.00",
    ]
    (caution,) = [c for c in change.cautions if c.code == "silenced"]
    assert caution.remedy is None  # what wins comes with this step


def test_where_the_tracks_lanes_win_a_copy_is_not_heard_and_that_can_be_switched():
    wins = plan(session(), "set precedence", SetPrecedence("track")).applied_to(session())
    change = plan(wins, "carry regions", CarryRegions(("two",), "copy", Tick(40 * BEAT)))
    assert said(change) == []  # two was not heard before either: it is no news that its copy is not
    off = plan(session(Mode.OFF), "carry regions", CarryRegions(("two",), "copy", Tick(20 * BEAT)))
    assert said(off) == [] and any(c.code == "not-reading" for c in off.cautions)


@given(linked_sessions("change regions"), st.data())
def test_what_a_mute_silences_is_what_an_independent_ear_misses(state, data):
    track = data.draw(st.sampled_from([t for t in state.tracks if t.regions]))
    region = data.draw(st.sampled_from(track.regions))
    change = plan(state, "change regions", ChangeRegions((region.id,), muted=not region.muted))
    after, codes = change.applied_to(state), {c.code for c in change.cautions}
    for parameter in track.parameters:
        for tick in (region.start, region.start + region.length // 2, region.end - 1):
            if tick < state.length and track.reads:
                was, now = (heard_at(s, s.parameter(parameter.id), tick) for s in (state, after))
                assert abs(was - now) < 1e-9 or codes & {"silenced", "heard-again"}
    if not any(state.lanes_in(region.id)):
        assert not codes & {"silenced", "heard-again"}


def test_a_switch_is_held_over_a_range_and_as_it_was_beside_it():
    change = plan(session(), "set switch", SetSwitch(("m",), Tick(4 * BEAT), Tick(8 * BEAT)))
    (lane,) = [s.after for s in change.lanes]
    values = [lane.envelope.value_at(at * BEAT) for at in (0, 3, 4, 7, 8, 20)]
    assert values == [0, 0, 1, 1, 0, 0]
    after = change.applied_to(session())
    off = plan(after, "set switch", SetSwitch(("m",), Tick(6 * BEAT), Tick(7 * BEAT), on=False))
    values = [off.lanes[0].after.envelope.value_at(at * BEAT) for at in (4, 5.5, 6, 6.5, 7, 7.5)]
    assert values == [1, 1, 0, 0, 1, 1]
    assert change.title == "Set Bell Muted to muted from 2.1.00 to 3.1.00"
    with pytest.raises(RequestError, match="Bell Level is no switch"):
        plan(session(), "set switch", SetSwitch(("b",), Tick(0), Tick(4)))
    with pytest.raises(RequestError) as none:
        plan(session(), "set switch", SetSwitch((), Tick(0), Tick(4)))
    assert none.value.accepted == "Bell Muted"
    silent = plan(session(Mode.OFF), "set switch", SetSwitch(("m",), Tick(0), Tick(4)))
    assert [c.code for c in silent.cautions] == ["not-reading"]
