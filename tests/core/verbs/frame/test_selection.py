"""Which points are meant, and the numbers of what is selected, by hand."""

import pytest

from tests.core.verbs.test_points import beats, session
from tests.core.verbs.test_regions import b, small
from velmot.core.errors import RequestError
from velmot.core.verbs.frame.selection import numbers_of_points, numbers_of_range, picked_points
from velmot.core.verbs.request import Picked

STEPS = ((0, -20), (4, -12), (8, -20), (12, -6), (16, -20))


def chosen(way, start=0, end=64, picked=(), lanes=("L",)):
    found = picked_points(session(*STEPS), lanes, way, beats(start), beats(end), picked)
    return {p.lane: p.points for p in found}


def test_all_points_and_those_of_a_range_whose_end_is_not_in_it():
    assert chosen("all", lanes=("L", "M", "L")) == {"L": (0, 1, 2, 3, 4), "M": (0, 1, 2)}
    assert chosen("range", 4, 12) == {"L": (1, 2)}
    assert chosen("range", 5, 7) == {}, "a lane without any is left away"


def test_points_of_the_same_value_as_the_picked_ones():
    assert chosen("same value", picked=(Picked("L", (0,)),)) == {"L": (0, 2, 4)}
    assert chosen("same value", picked=(Picked("L", (1, 3)),)) == {"L": (1, 3)}


@pytest.mark.parametrize(
    ("way", "points", "start", "found"),
    [
        ("next", (1, 2), 0, 3), ("next", (4,), 0, 4), ("next", (), 5, 2), ("next", (), 4, 1),
        ("previous", (2, 3), 0, 1), ("previous", (0,), 0, 0), ("previous", (), 5, 1), ("previous", (), 8, 2),
    ],
)  # fmt: skip
def test_the_next_and_the_previous_point(way, points, start, found):
    """Next counts from the last of those picked, previous from the first; without any, from the start of the range."""
    picked = (Picked("L", points),) if points else ()
    assert chosen(way, start, picked=picked) == {"L": (found,)}


def test_after_the_last_point_there_is_no_next_one():
    assert chosen("next", 20) == {}
    with pytest.raises(RequestError, match="has no point 6"):
        chosen("next", picked=(Picked("L", (5,)),))


def test_the_numbers_of_points_and_of_a_range():
    """From beat 4 to 12: −12 to −20 and on to −6 in straight lines, means −16 and −13, so −14.5 over both."""
    numbers = numbers_of_points(session(*STEPS), (Picked("L", (1, 3)),))
    assert (numbers.start, numbers.end, numbers.points) == (beats(4), beats(12), 2)
    assert (numbers.lowest, numbers.highest, numbers.mean) == (-12, -6, pytest.approx(-14.5))
    numbers = numbers_of_range(session(*STEPS), ("L",), beats(4), beats(12))
    assert (numbers.points, numbers.lowest, numbers.highest, numbers.mean) == (2, -20, -6, pytest.approx(-14.5))
    both = numbers_of_points(session(*STEPS), (Picked("L", (1,)), Picked("M", (2,))))
    assert (both.start, both.end, both.points, both.lowest) == (beats(4), beats(8), 2, None), "no values of two units"
    assert numbers_of_range(session(*STEPS), ("L", "M"), beats(0), beats(9)).mean is None
    one = numbers_of_points(session(*STEPS), (Picked("L", (3,)),))
    assert (one.mean, one.start, one.end) == (-6, beats(12), beats(12))


def test_a_regions_points_count_in_the_sessions_time():
    """Region wave starts at beat 8: its two points stand at beats 8 and 16."""
    assert picked_points(small(), ("L2",), "range", b(8), b(9)) == (Picked("L2", (0,)),)
    assert picked_points(small(), ("L2",), "next", b(9), b(40)) == (Picked("L2", (1,)),)
    assert picked_points(small(), ("L2",), "range", b(0), b(8)) == ()
