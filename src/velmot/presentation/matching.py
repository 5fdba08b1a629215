"""The match table of a carry as the screen shows it, and the static values of tracks that differ."""

from __future__ import annotations

from typing import Literal

from pydantic import BaseModel, Field

from velmot.core.parameters.parameter import Parameter
from velmot.core.session.session import Session
from velmot.core.session.track import Track
from velmot.core.session.wording import parameter_name
from velmot.core.verbs.carry import carry
from velmot.core.verbs.carry.match_table import Landing
from velmot.core.verbs.carry.request import Carry


class MatchCell(BaseModel):
    """Where a source parameter lands on a target track: what is done, how it was found, and onto what."""

    parameter: str
    name: str
    track: str
    do: Literal["land", "add", "leave out"]
    found: Literal["itself", "same", "other slot", "nothing", "chosen"]
    onto: str | None
    mapped: bool = Field(description="The units differ, so it lands by a mapping.")


class RestingPair(BaseModel):
    """A parameter that rests at different static values on two tracks."""

    track: str
    name: str
    source_text: str
    target_text: str


class MatchTableOut(BaseModel):
    """The match table of a carry, and the static values that differ."""

    cells: list[MatchCell]
    resting: list[RestingPair]


def match_table_out(session: Session, request: Carry) -> MatchTableOut:
    """Where each lane of a carry lands, and which static values of the tracks differ."""
    return MatchTableOut(
        cells=[_cell_out(session, cell) for cell in carry.match_table(session, request)],
        resting=[_resting_out(*pair) for pair in carry.resting_pairs(session, request)],
    )


def _cell_out(session: Session, cell: Landing) -> MatchCell:
    return MatchCell(
        parameter=cell.source.id,
        name=parameter_name(session, cell.source.id),
        track=cell.track.id,
        do=cell.do,
        found=cell.found,
        onto=cell.onto.id if cell.onto else None,
        mapped=cell.mapping is not None,
    )


def _resting_out(track: Track, source: Parameter, target: Parameter) -> RestingPair:
    return RestingPair(
        track=track.id,
        name=f"{track.name} {target.name}",
        source_text=source.format(source.value),
        target_text=target.format(target.value),
    )
