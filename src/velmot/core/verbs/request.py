"""Requests: what every verb's request is made of, and the parts of one that several verbs share."""

from __future__ import annotations

from dataclasses import dataclass, field
from typing import Any, Protocol

from velmot.core.curves.axes import Axis
from velmot.core.curves.shapes import Shape
from velmot.core.limits import MOST_POINTS, MOST_SPOTS
from velmot.core.time.ticks import Tick


class Request(Protocol):
    """A frozen dataclass that says what the user wants; its fields are the verb's settings."""

    __dataclass_fields__: Any


def says(
    text: str,
    *,
    most: int | None = None,
    label: str = "",
    words: dict[str, str] | None = None,
    unit: str = "",
    reach: tuple[float | None, float | None] = (None, None),
    **default: Any,
) -> Any:
    """A request's field with the sentence that documents it in every schema, and the most entries (or letters) it may hold.

    On a sheet it is called `label`, each of its choices (`yes` and `no` of a switch) what `words` says, in that order, and
    a number is typed in `unit` within its `reach`: the least and the most, nothing where there is none.
    """
    said = {"says": text, "most": most, "label": label, "words": words or {}, "unit": unit, "reach": reach}
    return field(metadata=said, **default)


@dataclass(frozen=True)
class Picked:
    """Some points of one lane, counted from 0."""

    lane: str = says("The lane's id.")
    points: tuple[int, ...] = says("The points, counted from 0.", most=MOST_POINTS)


@dataclass(frozen=True)
class ClipPoint:
    """A point of a clip: `bend` nothing means hold."""

    at: Tick = says("Where, from the clip's start.")
    value: float = says("The value, in the clip's unit.")
    bend: float | None = says("The shape of the segment that starts here.", default=0.0)


@dataclass(frozen=True)
class GivenPhrase:
    """A phrase brought along, as the phrase book keeps it."""

    name: str = says("Its name.")
    length: Tick = says("How long it is.")
    points: tuple[ClipPoint, ...] = says(
        "Its points, from 0 to its length; none with a shape.", most=MOST_SPOTS, default=()
    )
    shape: Shape | None = says("Its recipe, instead of points.", default=None)
    unit: str = says("The unit of its values.", default="")
    axis: Axis = says("The axis its segments are straight on.", default=Axis.LINEAR)
    low: float = says("The lowest value it was made for.", default=0.0)
    high: float = says("The highest.", default=1.0)
