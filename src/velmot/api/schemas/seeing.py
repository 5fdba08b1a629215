"""What is asked of a session without changing it: what is picked, selected or typed, and what the clipboard holds."""

from __future__ import annotations

from typing import Annotated, Literal

from ninja import Schema
from pydantic import Field

from velmot.core.limits import MOST_IDS, MOST_POINTS
from velmot.core.verbs.request import Picked
from velmot.formats.requests import Beats
from velmot.presentation.requests import AnyRequest


class PickedIO(Schema):
    """Some points of one lane, counted from 0."""

    lane: str
    points: Annotated[list[int], Field(max_length=MOST_POINTS)]


class PickIn(Schema):
    """Which points to pick, and from where: lanes, a way, a range, and what is picked already."""

    lanes: Annotated[list[str], Field(max_length=MOST_IDS)]
    way: Literal["all", "range", "same value", "next", "previous"]
    start: Beats = 0
    end: Beats = 0
    picked: Annotated[list[PickedIO], Field(max_length=MOST_IDS)] = []


class SelectionIn(Schema):
    """What is selected: picked points, or lanes over a range."""

    picked: Annotated[list[PickedIO], Field(max_length=MOST_IDS)] = []
    lanes: Annotated[list[str], Field(max_length=MOST_IDS)] = []
    start: Beats = 0
    end: Beats = 0


class Typed(Schema):
    """What someone typed, to be read as a position, a length, a length to shift by, or a value."""

    kind: Literal["position", "length", "shift", "value"]
    text: Annotated[str, Field(max_length=200)]
    start: Beats = 0
    parameter: str | None = None


class ClipIn(Schema):
    """Clipboard text, to be made a paste request."""

    text: str
    at: Beats | None = None
    onto: str | None = None
    how: Literal["unit", "range"] = "unit"


class ClipOut(Schema):
    """Clipboard text."""

    text: str


class RequestOut(Schema):
    """A request, ready to preview or apply."""

    request: AnyRequest


def picked_points(rows: list[PickedIO]) -> tuple[Picked, ...]:
    """The points as the core takes them."""
    return tuple(Picked(p.lane, tuple(p.points)) for p in rows)
