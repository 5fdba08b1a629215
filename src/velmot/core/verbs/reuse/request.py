"""What can be asked for, and how: reuse."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Literal

from velmot.core.curves.shapes import Shape
from velmot.core.limits import MOST_IDS, MOST_SPOTS, MOST_TARGETS
from velmot.core.session.track import ON_THE_TRACK
from velmot.core.time.ticks import Tick
from velmot.core.verbs.request import ClipPoint, GivenPhrase, says
from velmot.core.verbs.thin.request import Within


@dataclass(frozen=True)
class ChangePhrase:
    """Change a phrase in its own time; what is not said stays."""

    phrase: str = says("The phrase, by id.")
    name: str | None = says("Another name.", default=None, label="Its name")
    points: tuple[ClipPoint, ...] = says(
        "Other points, from 0 to its length; none leaves them.", most=MOST_SPOTS, default=()
    )
    shape: Shape | None = says("Another recipe.", default=None)
    length: Tick | None = says("Another length, for other points or another recipe.", default=None)
    delete: bool = says("Take it out of the session; its places become plain points.", default=False)


@dataclass(frozen=True)
class ChangePlaces:
    """Change how and where phrases appear; what is not said stays as it is at each of them."""

    placements: tuple[str, ...] = says("The placements, by id.", most=MOST_IDS)
    move: Tick = says("How much later they lie (negative: earlier).", default=Tick(0))
    length: Tick | None = says("How long each is.", default=None)
    low: float | None = says("Where the lowest lands, in each parameter's unit.", default=None)
    high: float | None = says("Where the highest lands.", default=None)
    depth: float | None = says("How deep, in percent of the parameter's range, about the middle it has.", default=None)
    to_each_side: float | None = says(
        "How deep instead: how far to each side of that middle, in the parameter's axis units.", default=None
    )
    upside_down: bool | None = says("High becomes low, or is high again.", default=None, words={"yes": "upside down"})
    backwards: bool | None = says(
        "From the end to the start, or forwards again.", default=None, words={"yes": "backwards"}
    )
    turn: Tick | None = says("How much later the content comes inside the length.", default=None)
    phrase: str | None = says("Another phrase in its place, by id.", default=None)


@dataclass(frozen=True)
class KeepPhrase:
    """Keep what a lane does over a range as a phrase, in the session and in the phrase book."""

    lane: str = says("The lane, by id.")
    start: Tick = says("Where the range starts.")
    end: Tick = says("Where it ends.")
    name: str = says("What it is called.", label="Call it")
    place: bool = says(
        "Also make the range its first place, linked.",
        default=True,
        label="Here",
        words={"yes": "its first place, linked", "no": "the lane is left alone"},
    )
    alternative: str | None = says(
        "The alternative that does it, by id, in place of what is used; the lane is then left alone.", default=None
    )


@dataclass(frozen=True)
class PlaceOn:
    """A parameter to place on, with the values to lie between where they are asked for."""

    parameter: str = says("The parameter's id.")
    home: str = says("“track”, or the id of a region whose lane it is.", default=ON_THE_TRACK)
    low: float | None = says("Between: where its lowest lands, in the parameter's unit.", default=None)
    high: float | None = says("Between: where its highest lands.", default=None)


@dataclass(frozen=True)
class Place:
    """Lay a phrase or a shape on parameters; linked, they share it from then on."""

    targets: tuple[PlaceOn, ...] = says(
        "What it is placed on, in the order of the stagger.", most=MOST_TARGETS, label="Onto"
    )
    start: Tick = says("Where it starts.")
    end: Tick | None = says("Where the range ends, if there is one.", default=None)
    phrase: str | None = says("A phrase of the session, by id.", default=None)
    given: GivenPhrase | None = says("Or a phrase that is brought along.", default=None)
    shape: Shape | None = says("Or a shape, made here.", default=None)
    name: str = says("What a shape is called; nothing means by its kind.", default="")
    length: Tick | None = says(
        "How long each is; nothing means a phrase's own length, and the range for a shape.", default=None
    )
    times: int | None = says(
        "How often, one after the other; nothing means as often as the range holds.",
        default=1,
        label="How often",
        reach=(1, None),
    )
    deep: Literal["range", "between", "static", "unit"] = says(
        "About the middle of the range, between two values, about the static value, or with its own numbers.",
        default="range",
        words={"range": "range", "between": "between", "static": "its value", "unit": "own numbers"},
    )
    depth: float = says("How deep, in percent of the parameter's range.", default=100.0)
    to_each_side: float | None = says(
        "How deep instead: how far to each side of its middle, in the parameter's axis units (dB, octaves).",
        default=None,
    )
    upside_down: bool = says("High becomes low.", default=False, words={"yes": "upside down"})
    backwards: bool = says("From its end to its start.", default=False, words={"yes": "backwards"})
    stagger: Tick = says(
        "How much later each further parameter comes.", default=Tick(0), label="Each further lane later by"
    )
    wrap: bool = says(
        "What a stagger pushes past the end comes back in at the start.", default=False, words={"yes": "wrap round"}
    )
    edges: Literal["seal", "ramp"] = says(
        "Plain points only: seal lets values jump at the edges, ramp leads in and out.",
        default="seal",
        label="At the edges",
        words={"seal": "jump", "ramp": "ramp"},
    )
    ramp: Tick = says("How long a ramp lasts, inside the span.", default=Tick(0))
    linked: bool = says(
        "Linked to the phrase, or plain points.",
        default=True,
        label="It stays",
        words={"yes": "linked", "no": "plain points"},
    )
    set_to_read: bool = says("Also switch tracks that are off to read.", default=False)


@dataclass(frozen=True)
class SetFree:
    """Take the links of some placements away, or of all of a phrase."""

    placements: tuple[str, ...] = says("The placements, by id.", most=MOST_IDS)
    all: bool = says("Every other place of their phrases as well.", default=False)


@dataclass(frozen=True)
class PoolPlace:
    """Where a lane runs like the model."""

    lane: str = says("The lane, by id.")
    start: Tick = says("Where it begins, in session time.")
    end: Tick = says("Where it ends.")


@dataclass(frozen=True)
class Pool:
    """Keep what a lane does over a range as a phrase, and link every place that runs like it, each on its own straight line."""

    lane: str = says("The lane, by id.")
    start: Tick = says("Where the range starts.")
    end: Tick = says("Where it ends.")
    name: str = says("What the phrase is called.")
    places: tuple[PoolPlace, ...] = says("The other places.", most=MOST_SPOTS, default=())
    within: tuple[Within, ...] = says(
        "How far from the model a place may be, for each unit; nothing means the usual bound.", most=100, default=()
    )
