"""The match table as the screen shows it."""

from velmot.core.verbs.carry.request import Carry
from velmot.presentation.matching import match_table_out


def test_where_lanes_land_and_which_values_differ(small):
    said = match_table_out(small, Carry(("B",), ("horn",)))
    (cell,) = said.cells
    assert (cell.parameter, cell.name, cell.track) == ("bell.level", "Bell Level", "horn")
    assert (cell.do, cell.found, cell.onto, cell.mapped) == ("land", "same", "horn.level", False)
    (pair,) = said.resting
    assert (pair.track, pair.name) == ("horn", "Horn Level")
    assert (pair.source_text, pair.target_text) == ("−3.0 dB", "0.0 dB")


def test_what_a_track_has_nothing_like_is_left_out_or_added(small):
    lanes = ("M",)
    (cell,) = match_table_out(small, Carry(lanes, ("bell",))).cells
    assert (cell.do, cell.found, cell.onto) == ("leave out", "nothing", None)
    (cell,) = match_table_out(small, Carry(lanes, ("bell",), missing="add")).cells
    assert cell.do == "add"
