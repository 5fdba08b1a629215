"""Phrases and places as the screen shows them."""

from dataclasses import replace

from velmot.core.curves.shapes import Shape
from velmot.core.session.phrases import Phrase
from velmot.core.time.ticks import ticks_of as b
from velmot.presentation.linked import linked_out, shape_out


def test_a_phrase_says_what_it_was_made_for_and_how_far_it_reaches(linked):
    (said,) = linked_out(linked).phrases
    assert (said.name, said.length, said.unit, said.points) == ("wave", 8, "dB", 2)
    assert (said.low, said.high, said.places, said.tracks) == (-12, -6, 2, 2)
    assert said.picture.lows[0] == 0 and said.picture.highs[-1] == 100 and said.shape is None


def test_a_place_says_where_it_lands_how_long_and_how_deep(linked):
    first, second = linked_out(linked).placements
    assert (first.called, first.lane, first.start, first.length, first.ratio) == ("Bell Level", "B", 0, 8, "")
    assert (first.low, first.high, first.depth, first.upside_down) == ("−12.0 dB", "−6.0 dB", 5.56, False)
    assert (second.called, second.lane, second.home) == ("Horn Level", "R", "toll")
    assert (second.start, second.length, second.ratio) == (4, 4, "0.5 × its length"), "in session time"
    assert (second.low, second.high, second.depth) == ("−20.0 dB", "−8.0 dB", 11.11)
    assert second.upside_down and second.places == 2


def test_a_recipe_travels_in_beats(linked):
    shape = Shape("sine", cycle=b(2))
    made = replace(linked, phrases=(*linked.phrases, Phrase("s", "sway", b(8), shape=shape))).checked()
    assert linked_out(made).phrases[-1].shape.cycle == 2 and shape_out(None) is None
