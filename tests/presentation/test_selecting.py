"""The numbers of a selection, and what was typed."""

import pytest
from pytest import approx

from velmot.core.errors import RequestError
from velmot.core.time.ticks import ticks_of as b
from velmot.core.verbs.request import Picked
from velmot.presentation.selecting import numbers_out, understood


def test_picked_points_of_one_lane_in_session_time(small):
    said = numbers_out(small, (Picked("R", (0, 1)),), (), 0, 0)
    assert (said.start, said.end, said.points) == (4, 8, 2), "the region starts at beat 4"
    assert (said.low, said.high) == (-20, -8) and said.mean == "−14.0 dB"
    assert (said.lowest, said.highest) == ("−20.0 dB", "−8.0 dB")


def test_a_range_counts_its_points_and_reckons_the_mean_over_time(small):
    said = numbers_out(small, (), ("B",), b(0), b(16))
    assert (said.start, said.end, said.points) == (0, 16, 2)
    assert said.mean == "−7.5 dB", "eight beats about -9, eight at -6"


def test_lanes_of_two_parameters_have_no_values(small):
    said = numbers_out(small, (), ("B", "H"), b(0), b(16))
    assert said.points == 3 and (said.lowest, said.mean, said.low) == (None, None, None)


def test_a_range_that_is_none_is_refused(small):
    with pytest.raises(RequestError, match="the range is empty"):
        numbers_out(small, (), ("B",), b(4), b(4))


@pytest.mark.parametrize(
    "kind, text, number, said",
    [
        ("position", "2.1", 4, "2.1.00"),
        ("length", "2 bars", 8, "2 bars"),
        ("length", "1 s", 2, "1 s"),
        ("shift", "-1/8", -0.5, "-1/8"),
        ("shift", "−1 beat", -1, "−1 beat"),
        ("shift", "+1 beat", 1, "+1 beat"),
        ("shift", "1/4", 1, "1/4"),
        ("value", "-6", -6, "−6.0 dB"),
    ],
)
def test_what_is_typed_is_read_by_what_it_is_for(small, kind, text, number, said):
    read = understood(small, kind, text, 0, "bell.level")
    assert (read.number, read.text) == (approx(number), said)


def test_a_value_needs_its_parameter(small):
    with pytest.raises(RequestError, match="there is no parameter"):
        understood(small, "value", "-6", 0, None)
