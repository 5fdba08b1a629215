"""What changed, in sentences: each thing that may differ is said with what it was, and nothing of what stayed."""

from dataclasses import replace

import pytest
from hypothesis import given

from tests.core.session.test_recall import curve, session
from tests.strategies import sessions
from velmot.core.parameters.parameter import level
from velmot.core.session.phrases import Phrase
from velmot.core.session.track import Device, Lane, Marker, Mode, Precedence, Region, Track
from velmot.core.session.what_changed import changes_between
from velmot.core.time.tempo import TempoEvent, TempoMap
from velmot.core.time.ticks import ticks_of as b

THEN = session()
BELL, STILL, GROUP = THEN.tracks


def now(*tracks: Track, **other):
    known = {t.id: t for t in (*THEN.tracks, *tracks)}
    return replace(THEN, tracks=tuple(known.values()), **other)


def region(**other) -> Track:
    return replace(BELL, regions=(replace(BELL.regions[0], **other),))


@pytest.mark.parametrize(
    ("later", "said"),
    [
        (THEN, []),
        (now(replace(BELL, name="Big bell")), ["Big bell was called Bell"]),
        (now(replace(STILL, mode=Mode.READ)), ["Still is set to read, before to off"]),
        (now(replace(GROUP, members=("bell", "still"))), ["Still is in Swell"]),
        (now(replace(GROUP, members=())), ["Bell is no longer in Swell"]),
        (now(replace(BELL, devices=(Device("d", "Echo", "echo"),))), ["Bell: Echo is new"]),
        (now(region(muted=False)), ["Bell: toll is heard again"]),
        (now(region(name="ring")), ["Bell: ring was called toll"]),
        (now(region(start=b(12))), ["Bell: toll lies at 4.1.00 to 5.1.00, before at 3.1.00 to 4.1.00"]),
        (now(replace(BELL, regions=(*BELL.regions, Region("n", "new one", b(20), b(4))))), ["Bell: new one is new, 6.1.00 to 7.1.00"]),
        (now(replace(STILL, parameters=(replace(STILL.parameters[0], value=-3.0),))), ["Still Level rests at −3.0 dB, before at 0.0 dB"]),
        (now(precedence=Precedence.TRACK), ["track lanes win, before region lanes"]),
        (now(length=b(36)), ["It ends at 10.1.00, 0:22.5, before at 9.1.00, 0:20.0"]),
        (now(tempo=TempoMap((TempoEvent(0, 97.0),))), ["Tempo or meter is otherwise"]),
        (now(markers=(Marker("m", "go", b(20), cue=True), Marker("x", "stop", b(24)))), ["The marker go is go, 6.1.00, 0:12.5", "The marker stop is new, 7.1.00, 0:15.0"]),
        (now(name="Tune"), ["It is called Tune, before Song"]),
        (now(markers=()), ["The marker go is gone"]),
        (now(lanes=THEN.lanes[:1]), ["Bell Level in toll: its lane is gone"]),
        (now(lanes=(replace(THEN.lanes[0], envelope=curve((0, -6.0), (10, -26.0))), THEN.lanes[1])), ["Bell Level: up to 20.00 dB otherwise, most at 3.3.00, 0:06.2"]),
        (now(phrases=(Phrase("p", "swell", b(4), curve((0, 0.0), (4, 1.0))),)), ["Only what no sheet tells is otherwise: sounds, notes, phrases or what is kept aside"]),
    ],
)  # fmt: skip
def test_each_thing_that_differs_is_said(later, said):
    assert list(changes_between(THEN, later)) == said


def test_tracks_and_their_lanes_come_and_go():
    new = Track("n", "New", parameters=(level("n.level"),))
    later = replace(
        THEN, tracks=(BELL, STILL, new), lanes=(*THEN.lanes, Lane("N", "n.level", "track", curve((0, 0.0), (1, -1.0))))
    )
    assert list(changes_between(THEN, later)) == ["New is new", "Swell is gone", "New Level: a lane that was not there"]
    assert list(changes_between(later, THEN)) == ["Swell is new", "New is gone", "New Level: its lane is gone"]


@given(sessions(), sessions())
def test_of_any_two_sessions_something_is_said_where_they_differ(one, other):
    assert list(changes_between(one, one)) == []
    assert bool(list(changes_between(one, other))) == (one != other)
