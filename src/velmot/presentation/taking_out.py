"""What can be taken out as MIDI, in words."""

from __future__ import annotations

from collections.abc import Sequence
from typing import Annotated

from pydantic import BaseModel, Field

from velmot.core.errors import RequestError
from velmot.core.limits import MOST_PARAMETERS
from velmot.core.parameters.parameter import Parameter
from velmot.core.session.session import Session
from velmot.core.session.wording import limits_text, parameter_name
from velmot.formats import midi
from velmot.formats.report import Report


class ChoiceIO(BaseModel):
    """How a parameter is written to a MIDI file."""

    parameter: str
    name: str = ""
    controller: Annotated[str, Field(max_length=40)]
    low: Annotated[float, Field(allow_inf_nan=False)]
    high: Annotated[float, Field(allow_inf_nan=False)]


class MidiOut(BaseModel):
    """What goes into a MIDI file."""

    choices: Annotated[list[ChoiceIO], Field(max_length=MOST_PARAMETERS)]
    per_beat: int = 960


def midi_choices(session: Session, source: bytes | None = None) -> MidiOut:
    """The choices that are usual for a session, at the resolution of the file it came from."""
    choices = [
        ChoiceIO(
            parameter=c.parameter,
            name=parameter_name(session, c.parameter),
            controller=c.controller,
            low=c.low,
            high=c.high,
        )
        for c in midi.usual_choices(session)
    ]
    return MidiOut(choices=choices, per_beat=midi.resolution(source) if source else midi.PER_BEAT)


def midi_file(session: Session, wanted: MidiOut) -> tuple[bytes, Report]:
    """The file with some choices, and what it holds; RequestError for choices that cannot be."""
    choices: Sequence[midi.Choice] = [midi.Choice(c.parameter, c.controller, c.low, c.high) for c in wanted.choices]
    if not choices:
        raise RequestError("choices-none", place="choices", accepted="at least one lane")
    for choice in choices:
        _in_range(session.parameter(choice.parameter), choice)
    return midi.write(session, choices, wanted.per_beat)


def _in_range(parameter: Parameter, choice: midi.Choice) -> None:
    if choice.low < parameter.low or choice.high > parameter.high:
        accepted = limits_text(parameter.format(parameter.low), parameter.format(parameter.high))
        raise RequestError(
            "span-range",
            name=parameter.name,
            low=choice.low,
            high=choice.high,
            place=f"choices.{parameter.id}",
            accepted=accepted,
        )
