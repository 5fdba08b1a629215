"""Where a session opens."""

from dataclasses import replace

from tests.core.verbs.test_regions import b
from velmot.core.curves.envelope import Envelope
from velmot.core.parameters.parameter import pan
from velmot.core.session.opening import MOST_STRIPS, opening_of
from velmot.core.session.session import Session
from velmot.core.session.track import Lane, Track
from velmot.site.demo import skerry_light


def made(*lanes, length=400, tracks=10):
    parts = tuple(Track(f"t{n}", f"T{n}", parameters=(pan(f"t{n}.a"), pan(f"t{n}.b"))) for n in range(tracks))
    rows = [
        Lane(f"L{n}", p, "track", Envelope.of([(b(at), v) for at, v in points])) for n, (p, points) in enumerate(lanes)
    ]
    return Session("s", b(length), parts, tuple(rows)).checked()


def test_it_opens_on_the_bars_in_which_lanes_move_and_on_the_busiest_lane_of_each_track_first():
    """t1.a goes through 200 of 200 and back, t1.b through 20, t3.a through 50; the first move is in bar 11, the last in bar 31."""
    session = made(
        ("t0.a", [(0, 5)]),
        ("t1.b", [(60, 0), (64, 20)]),
        ("t1.a", [(41, -100), (60, 100), (120, -100)]),
        ("t3.a", [(50, 0), (55, 50)]),
    )
    found = opening_of(session)
    assert found.parameters == ("t0.a", "t1.a", "t1.b", "t3.a"), "what is still comes last, in the session's order"
    assert (found.start, found.end) == (b(40), b(124))


def test_of_many_lanes_seven_are_shown_and_of_a_long_session_the_64_busiest_bars():
    lanes = [(f"t{n}.{p}", [(300 + n, 0), (310, 10 + n), (320, 0)]) for n in range(10) for p in "ab"]
    session = made(*lanes, length=1200)
    found = opening_of(session)
    assert len(found.parameters) == MOST_STRIPS and set(found.parameters) == {f"t{n}.a" for n in range(3, 10)}
    far = replace(session.lanes[-1], envelope=Envelope.of([(0, 0.0), (b(900), 90.0), (b(904), -90.0), (b(908), 90.0)]))
    found = opening_of(session.with_lanes([*session.lanes[:-1], far]))
    assert found.end - found.start == b(256) and found.start <= b(300) < found.end


def test_an_empty_session_and_one_in_which_nothing_moves_open_at_their_start():
    assert opening_of(made()).parameters == () and opening_of(made()).start == 0
    still = opening_of(made(("t2.a", [(200, 5)])))
    assert still.parameters == ("t2.a",) and (still.start, still.end) == (0, b(64))


def test_a_tracks_level_goes_before_what_moves_more_on_it_and_steps_come_last():
    found = opening_of(skerry_light.session())
    assert {"bell.level", "foghorn.level", "choir.level", "keeper.level", "gulls.level"} <= set(found.parameters)
    assert not any(p.endswith("mute") for p in found.parameters) and len(found.parameters) == MOST_STRIPS
