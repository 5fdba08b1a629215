"""The mapping graph: spans, time, and where targets lie."""

from pytest import approx

from velmot.core.time.ticks import ticks_of as b
from velmot.core.verbs.retarget.request import Retarget, Target
from velmot.core.verbs.reuse.request import Place, PlaceOn
from velmot.presentation.mapping_graph import BINS, mapping_out, placing_out


def test_the_source_spans_what_it_moves_and_each_target_says_where_its_ends_land(small):
    request = Retarget("B", (Target("bell.pan", low=-50.0, high=50.0),), start=b(0), end=b(8), mapping="fit")
    said = mapping_out(small, request)
    assert (said.low, said.high) == approx((-12, -6)) and len(said.time) == BINS
    assert said.time == approx([1.0] * BINS, abs=0.01), "a straight line spends as long everywhere"
    (target,) = said.targets
    assert (target.low, target.high, target.problem) == (approx(-50), approx(50), "")
    assert (target.low_position, target.high_position, target.same_unit) == (approx(0.25), approx(0.75), False)


def test_a_lane_that_does_not_move_says_why_it_cannot_be_fitted(small):
    request = Retarget("H", (Target("bell.pan", low=-50.0, high=50.0),), start=b(0), end=b(8), mapping="fit")
    said = mapping_out(small, request)
    assert (said.low, said.high) == (-96, 12) and said.targets[0].low is None
    assert "does not move" in said.targets[0].problem


def test_a_phrase_lands_where_the_placing_lays_it(linked):
    targets = (PlaceOn("horn.level", "track", low=-20.0, high=-8.0), PlaceOn("bell.pan", "track"))
    said = placing_out(linked, Place(targets, start=b(0), phrase="wave", deep="unit"))
    assert (said.low, said.high, said.source.name) == (-12, -6, "wave")
    level, pan = said.targets
    assert (level.low, level.high, level.same_unit) == (approx(-12), approx(-6), True)
    assert level.low_position == approx(84 / 108)
    assert pan.low is None and "different units" in pan.problem
