"""A session in words: moves as they are read off a curve by hand, what is left out of a short sheet, what changed."""

from dataclasses import replace

from hypothesis import given

from tests.strategies import sessions
from velmot.core.curves.envelope import Envelope
from velmot.core.curves.segments import HOLD
from velmot.core.parameters.parameter import level
from velmot.core.session.recall import SHORT, Cue, cues_of, recall_of
from velmot.core.session.session import Session
from velmot.core.session.track import Lane, Marker, Mode, Region, Track
from velmot.core.time.tempo import TempoEvent, TempoMap
from velmot.core.time.ticks import ticks_of as b


def curve(*points) -> Envelope:
    return Envelope.of([(b(at), *more) for at, *more in points], level("x").axis)


def moves(envelope: Envelope, start: float, end: float) -> list[tuple[float, float, float, float]]:
    return [(c.start / b(1), c.end / b(1), c.first, c.last) for c in cues_of(envelope, b(start), b(end))]


def test_each_move_goes_one_way_and_ends_where_it_stands_still_or_turns():
    rising = curve((0, -18.0), (4, -12.0), (6, -6.0, 3.0), (8, -6.0), (10, -9.0), (12, -3.0))
    assert moves(rising, 0, 16) == [(0, 6, -18, -6), (8, 10, -6, -9), (10, 12, -9, -3)]


def test_what_jumps_and_what_is_held_moves_at_once():
    steps = curve((0, -6.0, HOLD), (4, -3.0, HOLD), (8, -3.0), (8, -20.0), (10, -20.0))
    assert moves(steps, 0, 16) == [(4, 4, -6, -3), (8, 8, -3, -20)]


def test_a_span_shows_what_moves_in_it_and_no_jump_at_its_end():
    ramp = curve((0, 0.0), (8, -8.0), (8, -20.0))
    assert moves(ramp, 2, 8) == [(2, 8, -2, -8)]
    assert moves(ramp, 8, 9) == []


def session(**more) -> Session:
    """A bell with a region's lane of its own, an off track, and a group of the bell."""
    wiggles = curve(*((n, -6.0 - n % 2) for n in range(12)))
    bell = Track(
        "bell",
        "Bell",
        parameters=(level("bell.level"), replace(level("bell.more"), name="Trim")),
        regions=(Region("r", "toll", b(8), b(4), muted=True),),
    )
    still = Track("still", "Still", mode=Mode.OFF, parameters=(level("still.level"),))
    group = Track("g", "Swell", members=("bell",), parameters=(level("g.level"),))
    lanes = (Lane("L", "bell.level", "track", wiggles), Lane("R", "bell.level", "r", curve((0, -18.0), (2, -6.0))))
    tempo = TempoMap((TempoEvent(0, 96.0),))
    return Session(
        "Song", b(32), (bell, still, group), lanes, tempo=tempo, markers=(Marker("m", "go", b(16), cue=True),), **more
    )


def test_a_whole_sheet_has_every_track_and_a_short_one_only_what_moves():
    full = recall_of(session())
    assert full.lines == ("8 bars, 0:20.0", "3 tracks, 1 parameter automated, region lanes win")
    assert full.cues == ("5.1.00, 0:10.0: go (cue)",)
    bell, still, group = full.tracks
    assert bell.rest[0] == ("Level", "0.0 dB, automated") and bell.rest[1] == ("Trim", "0.0 dB")
    assert (
        bell.groups == ("Swell",) and group.members == ("Bell",) and still.what == "audio, off: its lanes are not heard"
    )
    assert bell.regions == ("toll, 3.1.00, 0:05.0 to 4.1.00, muted",)
    own, inside = bell.lanes
    assert (own.where, inside.where, own.more, len(own.cues)) == ("", "in toll", 0, 11)
    assert inside.cues == ("3.1.00, 0:05.0: from −18.0 dB to −6.0 dB over 2 beats",)
    short = recall_of(session(), full=False)
    assert [t.name for t in short.tracks] == ["Bell"]
    assert len(short.tracks[0].lanes[0].cues) == SHORT and short.tracks[0].lanes[0].more == 11 - SHORT
    assert full.changed is None


@given(sessions())
def test_the_moves_of_any_lane_lead_from_its_start_to_its_end(session):
    for lane in session.lanes:
        envelope, (start, end) = session.in_session_time(lane), session.span(lane)
        at, value = start, envelope.value_at(start)
        for cue in cues_of(envelope, start, end):
            assert isinstance(cue, Cue) and cue.first != cue.last and at <= cue.start <= cue.end <= end
            assert cue.first == value
            at, value = cue.end, cue.last
        assert value == envelope.value_at(end, "left") or at == end


def test_of_very_many_moves_some_are_told_and_all_are_counted():
    many = curve(*((n / 100, -6.0 - n % 2) for n in range(3001)))
    one = replace(session(), lanes=(Lane("L", "bell.level", "track", many),))
    (lane,) = recall_of(one).tracks[0].lanes
    assert (len(lane.cues), lane.more) == (2000, 1000)
