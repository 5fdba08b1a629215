"""The numbers of a selection, and what was typed, in words."""

from __future__ import annotations

from typing import Literal

from pydantic import BaseModel

from velmot.core.session.session import Session
from velmot.core.session.typed_place import place_of
from velmot.core.time.ticks import beats_of, ticks_of
from velmot.core.time.typed import parse_length
from velmot.core.verbs.frame import selection
from velmot.core.verbs.frame.checks import need_range
from velmot.core.verbs.request import Picked


class NumbersOut(BaseModel):
    """The numbers of a selection, with values as texts where one parameter is meant."""

    start: float
    end: float
    points: int
    lowest: str | None
    highest: str | None
    mean: str | None
    low: float | None
    high: float | None


class Understood(BaseModel):
    """What a typed text means: beats for positions and lengths, the value otherwise."""

    number: float
    text: str


def numbers_out(
    session: Session, picked: tuple[Picked, ...], lanes: tuple[str, ...], start: int, end: int
) -> NumbersOut:
    """Start, end, count, lowest, highest and mean of picked points, else of a range of lanes."""
    if picked:
        numbers = selection.numbers_of_points(session, picked)
        lane = picked[0].lane
    else:
        need_range(start, end)
        numbers = selection.numbers_of_range(session, lanes, start, end)
        lane = lanes[0] if lanes else ""
    values = (numbers.lowest, numbers.highest, numbers.mean)
    texts = [None if v is None else session.parameter(session.lane(lane).parameter).format(v) for v in values]
    return NumbersOut(
        start=beats_of(numbers.start),
        end=beats_of(numbers.end),
        points=numbers.points,
        lowest=texts[0],
        highest=texts[1],
        mean=texts[2],
        low=numbers.lowest,
        high=numbers.highest,
    )


def understood(
    session: Session,
    kind: Literal["position", "length", "shift", "value"],
    text: str,
    start: float,
    parameter: str | None,
) -> Understood:
    """What someone typed, read as a position, a length from `start` (beats) on, one to shift by (with − earlier), or a value."""
    said = text.strip().replace("−", "-")
    if kind == "shift" and said.startswith(("-", "+")):
        far = parse_length(said[1:], session.tempo, ticks_of(start))
        return Understood(number=beats_of(far) * (-1 if said[0] == "-" else 1), text=text.strip())
    if kind == "position":
        tick = place_of(session, text)
        return Understood(number=beats_of(tick), text=str(session.tempo.position(tick)))
    if kind in ("length", "shift"):
        length = parse_length(text, session.tempo, ticks_of(start))
        return Understood(number=beats_of(length), text=text.strip())
    known = session.parameter(parameter or "")
    value = known.parse(text)
    return Understood(number=value, text=known.format(value))
