"""What is heard, at a moment and in view, with its reasons."""

from pytest import approx

from velmot.core.time.ticks import ticks_of as b
from velmot.presentation.curves import View
from velmot.presentation.hearing import heard_out, read_outs


def test_a_level_under_a_group_is_said_with_and_without_it(small):
    (said,) = read_outs(small, ["bell.level"], b(4))
    assert (said.text, said.own) == ("−13.0 dB", "−9.0 dB")
    assert [(x.group, x.name, x.text) for x in said.shares] == [("swell", "Swell", "−4.0 dB")]
    assert said.lanes == {"B": "−9.0 dB"}


def test_lanes_say_what_they_are_at_their_own_ends_outside_of_them(small):
    early, late = (read_outs(small, ["horn.level"], b(at))[0] for at in (2, 14))
    assert early.lanes == {"H": "−10.0 dB", "R": "−20.0 dB"} and late.lanes["R"] == "−8.0 dB"
    inside = read_outs(small, ["horn.level"], b(6))[0]
    assert inside.text == "−14.0 dB" and inside.shares == [] and "toll" in inside.why


def test_in_view_the_reasons_that_reach_into_it_and_the_extremes_of_all(small):
    said = heard_out(small, "horn.level", View(start=9, end=16, columns=10))
    assert [(s.start, s.end) for s in said.spans] == [(8, 16)] and (said.low, said.high) == (-20, -8)
    assert said.curve.values[-1] == approx(-10)
    both = heard_out(small, "horn.level", View(start=0, end=8, columns=10))
    assert [(s.start, s.end) for s in both.spans] == [(0, 4), (4, 8)]
