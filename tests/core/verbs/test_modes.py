"""Modes: tracks set to read or off, and what is heard of that; worked out by hand."""

import pytest

from velmot.core.curves.axes import Axis
from velmot.core.curves.envelope import Envelope
from velmot.core.curves.segments import HOLD
from velmot.core.parameters.parameter import level, mute
from velmot.core.session.session import Session
from velmot.core.session.track import Lane, Mode, Track, TrackKind
from velmot.core.time.ticks import TICKS_PER_BEAT as BEAT
from velmot.core.verbs import plan
from velmot.core.verbs.carry.request import Carry
from velmot.core.verbs.clear.request import Clear
from velmot.core.verbs.modes.request import SetMode


def session(mode=Mode.OFF) -> Session:
    """Bell, off: a level from −20 to −10 dB over beats 8 to 16, resting at −20; Horn, reading, in a group that is off at −3 dB."""
    bell = Track("bell", "Bell", mode=mode, parameters=(level("b", value=-20.0), mute("m")))
    horn = Track("horn", "Horn", parameters=(level("h", value=-6.0),))
    swell = Track("swell", "Swell", TrackKind.GROUP, mode, parameters=(level("s", value=0.0),), members=("horn",))
    lanes = (
        Lane("B", "b", "track", Envelope.of([(8 * BEAT, -20), (16 * BEAT, -10)], Axis.LEVEL)),
        Lane("M", "m", "track", Envelope.of([(0, 0, HOLD), (4 * BEAT, 0)])),
        Lane("S", "s", "track", Envelope.of([(4 * BEAT, 0), (8 * BEAT, -3)], Axis.LEVEL)),
    )
    return Session("modes", 32 * BEAT, (bell, horn, swell), lanes).checked()


def test_a_track_set_to_read_shows_what_becomes_heard_and_changes_no_lane():
    change = plan(session(), "set mode", SetMode(("bell",)))
    (level_heard,) = change.touched  # the mute does nothing that is not so already
    assert (level_heard.parameter, level_heard.difference) == ("b", pytest.approx(10.0))
    assert level_heard.start == 8 * BEAT and level_heard.end == 32 * BEAT
    after = change.applied_to(session())
    assert after.track("bell").mode is Mode.READ and after.lanes == session().lanes
    assert not change.cautions


def test_off_takes_it_back_and_a_mode_that_reads_too_is_heard_the_same():
    reads = session(Mode.READ)
    off = plan(reads, "set mode", SetMode(("bell", "bell"), "off"))
    assert [t.difference for t in off.touched] == [pytest.approx(10.0)]
    assert off.applied_to(reads).track("bell").mode is Mode.OFF
    latch = plan(reads, "set mode", SetMode(("bell",), "latch"))
    assert not latch.empty and not latch.touched and latch.applied_to(reads).track("bell").mode is Mode.LATCH
    same = plan(reads, "set mode", SetMode(("bell", "horn"), "read"))
    assert same.empty and same.cautions[0].message == "Bell, Horn: set to read already, nothing would change"


def test_what_is_under_a_group_is_said_with_its_figure():
    change = plan(session(), "set mode", SetMode(("swell",)))
    assert [t.parameter for t in change.touched] == ["s"]
    (caution,) = change.cautions
    assert caution.message == "1 level under Swell would be heard up to 3.00 dB differently, most at 3.1.00"


def test_a_caution_that_nothing_would_be_heard_offers_the_step():
    (caution,) = [c for c in plan(session(), "carry", Carry(("S",), ("bell",))).cautions if c.code == "not-reading"]
    assert caution.remedy.step == Carry(("S",), ("bell",), set_to_read=True)
    (caution,) = [c for c in plan(session(), "clear", Clear("lanes", ("B",))).cautions if c.code == "not-reading"] or [
        None
    ]
    assert caution is None, "what goes need not be heard"
