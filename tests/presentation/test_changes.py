"""A plan as the screen shows it: its figures, what is listed, and which strips join."""

from dataclasses import replace

from pytest import approx

from velmot.core import verbs
from velmot.core.session.session import Session
from velmot.core.time.ticks import ticks_of as b
from velmot.core.verbs.carry.request import Carry
from velmot.core.verbs.frame.change import TrackSwap
from velmot.core.verbs.regions.request import CarryRegions
from velmot.core.verbs.shape.request import Move, Reshape
from velmot.presentation import changes
from velmot.presentation.changes import change_out, guests_of, placed
from velmot.presentation.curves import View

HERE = View(start=0, end=16, columns=160, strips=["bell.level"])


def raised(session: Session, *lanes: str, by: float = 2.0):
    return verbs.plan(session, "reshape", Reshape(lanes, start=b(0), end=b(8), moves=(Move("dB", by=by),)))


def test_figures_are_those_of_all_lanes(small):
    said = change_out(small, raised(small, "B", "H"), HERE)
    assert (said.lanes, said.empty, len(said.touched)) == (2, False, 2)
    assert said.points_before == sum(t.points_before for t in said.touched)
    assert said.points_after == sum(t.points_after for t in said.touched)
    one = next(t for t in said.touched if t.lane == "B")
    assert (one.track, one.home, one.name, one.difference_text) == ("bell", "track", "Bell Level", "2.00 dB")
    assert one.low == approx(-12) and one.high == approx(-4) and not one.stays and one.difference_at is not None
    assert one.before.values[0] == approx(-12) and one.after.values[0] == approx(-10)
    other = next(t for t in said.touched if t.lane == "H")
    assert said.guests == ["horn.level"] and other.after is not None, "it joins the strips on view"


def test_a_limited_span_is_counted_and_said_with_its_place(small):
    said = change_out(small, raised(small, "B", by=20.0), HERE)
    assert said.spans_limited == 1
    (caution,) = [c for c in said.cautions if c.code == "limited"]
    assert caution.args["count"] == 1 and caution.lane == "B" and (caution.start, caution.end) == (0, 8)


def test_curves_come_for_what_is_on_view_and_pencil_only_where_it_is_asked_for(small):
    change = raised(small, "B")
    away = HERE.model_copy(update={"start": 10.0})
    assert change_out(small, change, away).touched[0].after is None, "what differs lies before the view"
    without = HERE.model_copy(update={"pencil": False})
    assert change_out(small, change, without).touched[0].before is None
    assert change_out(small, change, None).touched[0].after is None


def test_strips_join_in_their_order_up_to_eight_and_the_first_in_any_case(small, monkeypatch):
    change = raised(small, "B", "H", "S")
    nowhere = HERE.model_copy(update={"strips": []})
    assert guests_of(change, nowhere) == ["bell.level", "horn.level", "swell.level"]
    monkeypatch.setattr(changes, "MOST_GUESTS", 2)
    assert guests_of(change, nowhere) == ["bell.level", "horn.level"]
    monkeypatch.setattr(changes, "MOST_DRAWN", 0)
    assert guests_of(change, nowhere) == ["bell.level"]


def test_lanes_are_listed_while_there_is_room_and_those_on_view_beyond_it(small, monkeypatch):
    change = raised(small, "B", "H", "S")
    monkeypatch.setattr(changes, "MOST_LISTED", 1)
    last = HERE.model_copy(update={"strips": ["swell.level"]})
    assert [(t.lane, drawn) for t, drawn in changes.listed(change, last, [])] == [("B", False), ("S", True)]


def test_of_lanes_beyond_the_first_no_difference_is_said(small, monkeypatch):
    monkeypatch.setattr(changes, "MOST_NAMED", 1)
    said = change_out(small, raised(small, "B", "H"), HERE)
    assert [t.difference_text for t in said.touched] == ["2.00 dB", ""]


def test_regions_are_drawn_where_they_would_be_and_only_those_that_differ(small):
    copied = verbs.plan(small, "carry regions", CarryRegions(("toll",), "copy", b(12)))
    said = change_out(small, copied, HERE)
    assert [(r.track, r.start, r.length) for r in said.regions] == [("horn", 12, 4)]
    track = small.track("horn")
    assert placed(TrackSwap(track, track)) == [] and placed(TrackSwap(track, None)) == []
    renamed = replace(track, regions=(replace(track.regions[0], name="knell"),))
    assert [r.name for r in placed(TrackSwap(track, renamed))] == ["knell"]


def test_what_happens_to_links_is_said_with_its_reach(linked):
    follow = change_out(linked, verbs.plan(linked, "reshape", _within(linked), "follow"), HERE)
    assert follow.links.does == "follow" and follow.links.reach == "2 places on 2 tracks" and follow.links.freed == 0
    free = change_out(linked, verbs.plan(linked, "reshape", _within(linked), "free"), HERE)
    assert free.links.does == "free" and free.links.reach == "" and free.links.freed == 1
    assert change_out(linked, verbs.plan(linked, "carry", Carry(("M",), ("horn",), at=b(2))), HERE).links is None


def _within(session: Session) -> Reshape:
    return Reshape(("B",), start=b(0), end=b(8), moves=(Move("dB", by=-1.0),))
