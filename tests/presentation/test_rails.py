"""Rails as the screen shows them."""

from pytest import approx

from velmot.core.time.ticks import ticks_of as b
from velmot.core.verbs.clear.request import Clear
from velmot.core.verbs.shape.request import Move, Reshape
from velmot.presentation.rails import rails_out


def test_where_the_rails_stand_and_where_they_lead_in_values_and_words(small):
    (one,) = rails_out(small, Reshape(("B",), start=b(0), end=b(8), moves=(Move("dB", by=2.0),)))
    assert (one.lane, one.parameter, one.start, one.end, one.flat) == ("B", "bell.level", 0, 8, False)
    assert [one.before.low_start, one.before.high_end] == approx([-12, -6])
    assert [one.after.low_start, one.after.high_end] == approx([-10, -4])
    assert (one.texts.low_start, one.texts.high_end) == ("−10.0 dB", "−4.0 dB")


def test_rails_of_a_lane_that_stands_still_are_one_line(small):
    (one,) = rails_out(small, Reshape(("H",), start=b(0), end=b(8), moves=(Move("dB", by=2.0),)))
    assert one.flat and one.before.low_start == one.before.high_start == -10


def test_rails_end_where_the_parameter_does(small):
    (one,) = rails_out(small, Reshape(("B",), start=b(0), end=b(8), moves=(Move("dB", by=90.0),)))
    assert one.after.high_end == 12 and one.texts.high_end == "12.0 dB"


def test_other_verbs_and_nothing_chosen_have_none(small):
    assert rails_out(small, Clear("lanes", ("B",))) == []
    assert rails_out(small, Reshape(())) == []
