"""Phrases and their places as the screen shows them: pictures, numbers ready to show, and how far each reaches."""

from __future__ import annotations

from dataclasses import asdict
from typing import Any

import numpy as np
from pydantic import BaseModel, Field

from velmot.core.curves.axes import Axis
from velmot.core.curves.shapes import Shape
from velmot.core.session.phrases import Phrase, Placement, lands_between
from velmot.core.session.session import Session
from velmot.core.session.wording import parameter_name
from velmot.core.time.ticks import beats_of
from velmot.formats.requests import model_of

ShapeOut: Any = model_of(Shape)


class Outlined(BaseModel):
    """A phrase's outline in a few columns, 0 to 100 of the span it was made for."""

    lows: list[int]
    highs: list[int]


class PhraseOut(BaseModel):
    """A phrase of the session."""

    id: str
    name: str
    length: float
    unit: str
    axis: Axis
    points: int
    low: float
    high: float
    made_for: str = Field(description="The values it was made for, low to high, in words.")
    shape: ShapeOut | None
    picture: Outlined
    places: int
    tracks: int


class PlacementOut(BaseModel):
    """One place of a phrase; `start` in session beats, `low` and `high` where its span lands, as far as the range reaches."""

    id: str
    phrase: str
    name: str
    called: str = Field(description="Its parameter, in words.")
    parameter: str
    home: str
    lane: str
    start: float
    length: float
    ratio: str = Field(description="How long it is beside its phrase, in words.")
    low: str
    high: str
    depth: float = Field(description="In percent of the parameter's range.")
    upside_down: bool
    backwards: bool
    turn: float
    places: int = Field(description="How many places its phrase has.")


class LinkedOut(BaseModel):
    """All phrases and places of a session."""

    phrases: list[PhraseOut]
    placements: list[PlacementOut]


def linked_out(session: Session) -> LinkedOut:
    """Every phrase and place, in their order."""
    return LinkedOut(
        phrases=[_phrase_out(session, x) for x in session.phrases],
        placements=[_placement_out(session, x) for x in session.placements],
    )


def _phrase_out(session: Session, phrase: Phrase) -> PhraseOut:
    places, short = session.places_of(phrase.id), phrase.summary
    return PhraseOut(
        id=phrase.id,
        name=phrase.name,
        length=beats_of(phrase.length),
        unit=phrase.unit,
        axis=phrase.axis,
        points=short.points,
        low=phrase.low,
        high=phrase.high,
        made_for=short.made_for,
        shape=shape_out(phrase.shape),
        picture=Outlined(lows=short.lows, highs=short.highs),
        places=len(places),
        tracks=len({session.owner(x.parameter).id for x in places}),
    )


def shape_out(shape: Shape | None) -> Any:
    """A recipe as requests carry it."""
    if shape is None:
        return None
    row = asdict(shape)
    return ShapeOut(**row | {"cycle": None if shape.cycle is None else beats_of(shape.cycle)})


def _placement_out(session: Session, one: Placement) -> PlacementOut:
    phrase, parameter = session.phrase(one.phrase), session.parameter(one.parameter)
    lane = session.lane_at(one.parameter, one.home)
    assert lane is not None
    low, high = lands_between(phrase, one)
    ends = np.clip(
        parameter.axis.value_of(np.clip(sorted((low, high)), *parameter.reach)), parameter.low, parameter.high
    )
    texts = [parameter.format(value) for value in ends.tolist()]
    ratio = one.length / phrase.length
    return PlacementOut(
        id=one.id,
        phrase=phrase.id,
        name=phrase.name,
        called=parameter_name(session, one.parameter),
        parameter=one.parameter,
        home=one.home,
        lane=lane.id,
        start=beats_of(session.start_of(one.home) + one.start),
        length=beats_of(one.length),
        ratio="" if ratio == 1 else f"{ratio:.4g} × its length",
        low=texts[0],
        high=texts[1],
        depth=round(abs(high - low) / parameter.span * 100, 2),
        upside_down=one.upside_down,
        backwards=one.backwards,
        turn=beats_of(one.turn),
        places=len(session.places_of(phrase.id)),
    )
