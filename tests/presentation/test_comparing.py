"""Comparisons as the screen shows them."""

from dataclasses import replace

import pytest
from pytest import approx

from tests.presentation.conftest import curve
from velmot.core import verbs
from velmot.core.curves.axes import Axis
from velmot.core.errors import RequestError
from velmot.core.time.ticks import ticks_of as b
from velmot.core.verbs.shape.request import Move, Reshape
from velmot.presentation.comparing import Asked, compare_out
from velmot.presentation.curves import View
from velmot.storage import history, sessions

VIEW = View(start=0, end=16, columns=160)


@pytest.fixture
def id(db, small) -> int:
    return sessions.create(small)


def test_two_lanes_with_their_curves_and_the_difference_of_the_other_from_the_one(id):
    said = compare_out(id, Asked(lane="B"), Asked(lane="H"), view=VIEW)
    (row,) = said.rows
    assert (row.one, row.other, row.kind, row.largest) == ("Bell Level", "Horn Level", "changed", "4.00 dB")
    assert (row.at, row.at_text) == (8, "3.1.00") and not said.same and row.pictures == []
    assert said.drawn.lows == approx([-12, -10, -4]) and said.drawn.highs == approx([-6, -10, 2])
    assert said.drawn.difference.values[0] == approx(2) and said.drawn.difference_scale.axis.unit == "dB"


def test_two_tracks_say_what_only_one_has_and_the_largest_comes_first(id):
    said = compare_out(id, Asked(track="bell"), Asked(track="horn"))
    assert sorted(said.only) == ["only Bell has Pan", "only Horn has Cut", "only Horn has Muted"]
    assert not said.same and said.drawn is None


def test_two_revisions_and_the_row_that_is_asked_for(id, small):
    change = verbs.plan(small, "reshape", Reshape(("B", "H"), start=b(0), end=b(16), moves=(Move("dB", by=-1.0),)))
    history.apply(id, 0, change, {"verb": "reshape"})
    said = compare_out(id, Asked(0), Asked(), "horn.level Horn Level, revision 0", VIEW)
    assert {(r.one, r.largest) for r in said.rows if r.kind == "changed"} == {
        ("Bell Level, revision 0", "1.00 dB"),
        ("Horn Level, revision 0", "1.00 dB"),
    }
    assert said.drawn.one.values[0] == approx(-10) and said.drawn.other.values[0] == approx(-11)
    assert all(len(row.pictures) == 2 for row in said.rows)
    assert compare_out(id, Asked(1), Asked()).same


def test_everything_as_it_stands_has_nothing_beside_it(id):
    with pytest.raises(RequestError, match="there is nothing to compare"):
        compare_out(id, Asked(), Asked())


def test_units_that_differ_are_compared_by_place_in_the_range(db, small):
    lanes = (
        *small.lanes,
        replace(small.lanes[0], id="P", parameter="bell.pan", envelope=curve((0, 100), axis=Axis.LINEAR)),
    )
    id = sessions.create(replace(small, lanes=lanes).checked())
    (row,) = compare_out(id, Asked(lane="P"), Asked(lane="H")).rows
    assert row.largest.endswith("of the range")
