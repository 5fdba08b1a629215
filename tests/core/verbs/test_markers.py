"""Markers: added, moved, named and removed as one asks, found by what is typed; nothing else of a session changes."""

from dataclasses import replace

import pytest
from hypothesis import given
from hypothesis import strategies as st

from tests.strategies import sessions
from velmot.core.errors import RequestError
from velmot.core.session.session import Session
from velmot.core.session.track import Marker
from velmot.core.session.typed_place import place_of
from velmot.core.time.tempo import Meter, TempoMap
from velmot.core.time.ticks import MOST_TICKS, TICKS_PER_BEAT, Tick
from velmot.core.verbs import OPERATIONS, plan
from velmot.core.verbs.markers.request import AddMarker, ChangeMarkers, RemoveMarkers
from velmot.formats import session_file


def b(beats: float) -> Tick:
    return Tick(round(beats * TICKS_PER_BEAT))


def small(*markers: tuple[str, float], length: float = 16) -> Session:
    made = tuple(Marker(f"k{n}", name, b(at)) for n, (name, at) in enumerate(markers, 1))
    return Session("S", b(length), tempo=TempoMap(meters=(Meter(0, 3, 4),)), markers=made).checked()


def done(session: Session, verb: str, request) -> list[tuple[str, float, bool]]:
    after = plan(session, verb, request).applied_to(session)
    return [(m.name, m.tick / TICKS_PER_BEAT, m.cue) for m in after.markers]


def test_they_are_added_moved_named_and_removed():
    session = small(("dusk", 4), ("", 10))
    assert done(session, "add marker", AddMarker(b(6), " dawn ", True))[2] == ("dawn", 6, True)
    assert done(session, "change markers", ChangeMarkers(("k1", "k2"), by=b(2.5))) == [
        ("dusk", 6.5, False),
        ("", 12.5, False),
    ]
    assert done(session, "change markers", ChangeMarkers(("k2", "k1"), at=b(1))) == [("dusk", 1, False), ("", 7, False)]
    assert done(session, "change markers", ChangeMarkers(("k2",), name="ebb", cue=True)) == [
        ("dusk", 4, False),
        ("ebb", 10, True),
    ]
    assert done(session, "remove markers", RemoveMarkers(("k1",))) == [("", 10, False)]


@pytest.mark.parametrize(("by", "ends", "where"), [(-6, (0, 6), "start"), (20, (10, 16), "end")])
def test_they_stop_together_at_the_ends_of_the_session(by, ends, where):
    session = small(("dusk", 4), ("", 10))
    change = plan(session, "change markers", ChangeMarkers(("k1", "k2"), by=b(by)))
    assert [m.tick / TICKS_PER_BEAT for m in change.applied_to(session).markers] == [*ends]
    assert [(c.code, c.message) for c in change.cautions] == [
        ("stopped", f"2 markers stop where the session has its {where}")
    ]


@pytest.mark.parametrize(
    ("verb", "request_", "code", "accepted"),
    [
        ("add marker", AddMarker(b(16.5)), "marker-place", "1.1.00 to 6.2.00"),
        ("add marker", AddMarker(Tick(-1)), "marker-place", "1.1.00 to 6.2.00"),
        ("add marker", AddMarker(b(1), "x" * 301), "name", "at most 300 characters"),
        ("change markers", ChangeMarkers(()), "markers-none", "at least one marker"),
        ("change markers", ChangeMarkers(("k9",)), "marker-unknown", "k1, k2"),
        ("change markers", ChangeMarkers(("k1",), by=b(1), at=b(2)), "marker-way", "one of the two"),
        ("remove markers", RemoveMarkers(()), "markers-none", "at least one marker"),
    ],
)
def test_what_cannot_be_is_refused(verb, request_, code, accepted):
    with pytest.raises(RequestError) as caught:
        plan(small(("dusk", 4), ("", 10)), verb, request_)
    assert (caught.value.code, caught.value.accepted) == (code, accepted)


def test_a_change_that_changes_nothing_says_so():
    change = plan(small(("dusk", 4)), "change markers", ChangeMarkers(("k1",), name="dusk"))
    assert change.empty and [c.code for c in change.cautions] == ["no-change"]


@pytest.mark.parametrize(
    "wrong",
    [
        Marker("k1", "twice", 0),
        Marker("k2", "early", -1),
        Marker("k2", "late", MOST_TICKS + 1),
        Marker("k2", "x" * 301, 0),
    ],
)
def test_a_session_that_cannot_have_them_is_none(wrong):
    with pytest.raises(RequestError):
        replace(small(("dusk", 4)), markers=(Marker("k1", "dusk", 0), wrong)).checked()


def test_a_place_is_typed_as_a_position_or_as_a_markers_name():
    session = small(("Dusk", 4), ("dawn", 10), ("dawn", 10), ("daw", 2), ("9", 5), ("noon", 1), ("noon", 2))
    assert [place_of(session, x) / TICKS_PER_BEAT for x in ("dUSK", "du", "dawn", "DAW", "2.2", "9")] == [
        4,
        4,
        10,
        2,
        4,
        24,
    ]
    for text, code, accepted in (
        ("noon", "marker-several", "1.2.00, 1.3.00"),
        ("d", "marker-several", "1.3.00, 2.2.00, 4.2.00, 4.2.00"),
        ("tide", "position-unread", "a marker (noon, daw, Dusk and 2 more markers)"),
        (" ", "position-unread", "or a marker"),
    ):
        with pytest.raises(RequestError) as caught:
            place_of(session, text)
        assert caught.value.code == code and accepted in caught.value.accepted
    with pytest.raises(RequestError) as caught:
        place_of(small(), "dusk")
    assert "marker" not in caught.value.accepted


@given(sessions(), st.data())
def test_what_is_done_to_markers_is_done_to_nothing_else_and_the_file_keeps_it(session, data):
    verb = data.draw(st.sampled_from(["add marker", "change markers", "remove markers"]))
    if verb != "add marker" and not session.markers:
        verb = "add marker"
    chosen = tuple(data.draw(st.sets(st.sampled_from([m.id for m in session.markers] or ["none"]), min_size=1)))
    asked = {
        "add marker": {
            "at": Tick(data.draw(st.integers(0, session.length))),
            "name": data.draw(st.sampled_from(("", "dawn"))),
        },
        "change markers": {"markers": chosen, "by": Tick(data.draw(st.integers(-session.length, session.length)))},
        "remove markers": {"markers": chosen},
    }[verb]
    after = plan(session, verb, OPERATIONS[verb].request(**asked)).applied_to(session)
    assert replace(after, markers=()) == replace(session, markers=())
    kept = {m.id: m for m in after.markers}
    if verb == "add marker":
        assert after.markers[:-1] == session.markers
    for m in session.markers:
        if verb == "remove markers" and m.id in chosen:
            assert m.id not in kept
        elif m.id not in chosen or verb == "add marker":
            assert kept[m.id] == m
        else:
            assert 0 <= kept[m.id].tick <= session.length and abs(kept[m.id].tick - m.tick) <= abs(asked["by"])
    if verb == "change markers":
        assert len({kept[id].tick - session.marker(id).tick for id in chosen}) == 1, "they keep their distances"
    assert session_file.read(session_file.write(after))[0] == after
