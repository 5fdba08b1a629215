"""What can be taken out as MIDI, in words."""

import pytest

from velmot.core.errors import RequestError
from velmot.presentation.taking_out import MidiOut, midi_choices, midi_file


def test_every_parameter_with_a_lane_has_a_choice_and_takes_part(small):
    said = midi_choices(small)
    assert {c.parameter for c in said.choices} == {"bell.level", "horn.level", "horn.mute", "swell.level"}
    assert said.per_beat == 960 and next(c for c in said.choices if c.parameter == "bell.level").name == "Bell Level"
    assert midi_file(small, said)[0][:4] == b"MThd"


def test_nothing_chosen_and_spans_that_cannot_be_are_refused(small):
    with pytest.raises(RequestError, match="no lane is chosen"):
        midi_file(small, MidiOut(choices=[]))
    choice = next(c for c in midi_choices(small).choices if c.parameter == "bell.level")
    for wide in ({"high": 13.0}, {"low": -97.0}):
        with pytest.raises(RequestError, match="cannot be written over") as refused:
            midi_file(small, MidiOut(choices=[choice.model_copy(update=wide)]))
        assert refused.value.place == "choices.bell.level" and "12.0 dB" in refused.value.accepted
