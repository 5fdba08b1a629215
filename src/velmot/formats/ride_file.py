"""The velmot-ride file: a scripted hand, which plays on the desk as if a person did; some ship with Velmot."""

from __future__ import annotations

import json
from collections.abc import Sequence
from functools import cache
from pathlib import Path
from typing import Annotated, Literal

from pydantic import BaseModel, ConfigDict, Field

from velmot.core.curves.strokes import Does
from velmot.core.limits import LONGEST_NAME, MOST_RIDDEN, MOST_SPOTS
from velmot.formats.report import MEGABYTE
from velmot.formats.shaped import shaped

ENDING = ".velmot-ride.json"
ACCEPTED = "a velmot-ride file"
LARGEST = 8 * MEGABYTE
SHIPPED = Path(__file__).parent / "rides"

Name = Annotated[str, Field(max_length=LONGEST_NAME)]
Number = Annotated[float, Field(strict=True, allow_inf_nan=False)]
Place = Annotated[float, Field(strict=True, ge=0, le=1_000_000)]
Event = tuple[Place, Does, Number | None]
"""(beats from the start of the pass, what is done, the value there; null means where the control stands)."""


class HandShape(BaseModel):
    """A hand on one control: named by track and parameter, or, without names, the desk's next one."""

    model_config = ConfigDict(extra="ignore")

    track: Name = ""
    parameter: Name = ""
    mode: Literal["", "touch", "latch", "write"] = ""
    trim: Annotated[bool, Field(strict=True)] = False
    events: Annotated[list[Event], Field(max_length=MOST_SPOTS)]


class RideShape(BaseModel):
    """A file with a ride. Positions are beats from the start of the pass."""

    model_config = ConfigDict(extra="ignore")

    format: Literal["velmot-ride"]
    version: Literal[1]
    name: Name
    says: Annotated[str, Field(max_length=2000)] = ""
    length: Annotated[float, Field(strict=True, gt=0, le=1_000_000)]
    hands: Annotated[list[HandShape], Field(max_length=MOST_RIDDEN)]


def read(data: bytes) -> RideShape:
    """The ride of a file's bytes; FormatError names the first thing wrong and its place."""
    return shaped(RideShape, data, "ride", LARGEST, ACCEPTED)


def write(ride: RideShape) -> bytes:
    """A file's bytes, an event a line."""
    hands = ",\n".join(_hand(hand) for hand in ride.hands)
    head = {"format": ride.format, "version": ride.version, "name": ride.name, "says": ride.says, "length": ride.length}
    return f'{json.dumps(head, ensure_ascii=False)[:-1]}, "hands": [\n{hands}\n]}}\n'.encode()


def _hand(hand: HandShape) -> str:
    head = json.dumps(hand.model_dump(exclude={"events"}), ensure_ascii=False)[:-1]
    events = ",\n  ".join(json.dumps(event) for event in hand.events)
    return f'{head}, "events": [\n  {events}\n]}}'


@cache
def shipped() -> Sequence[RideShape]:
    """The rides that ship with Velmot, by name."""
    return sorted((read(path.read_bytes()) for path in SHIPPED.glob(f"*{ENDING}")), key=lambda ride: ride.name)
