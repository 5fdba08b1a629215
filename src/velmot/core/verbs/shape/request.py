"""What can be asked for, and how: shape."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Literal

from velmot.core.limits import MOST_IDS
from velmot.core.time.ticks import Tick
from velmot.core.verbs.request import Picked, says


@dataclass(frozen=True)
class RaiseSpan:
    """Move a range of lanes up or down; inside it the shape is kept exactly."""

    lanes: tuple[str, ...] = says("The lanes, by id.", most=MOST_IDS)
    start: Tick = says("Where the range starts.")
    end: Tick = says("Where it ends.")
    amount: float = says("How far up, in the unit: dB, octaves, or the parameters' own.")
    before: Tick = says("How long the ramp before the range lasts.", default=Tick(0))
    after: Tick = says("How long the ramp after it lasts.", default=Tick(0))
    unit: str | None = says(
        "The unit of the amount; lanes of others stay. Nothing means that of the first lane.", default=None
    )


Pivot = Literal["middle", "mean", "rest", "value"]


@dataclass(frozen=True)
class Ends:
    """Something for each end of both rails."""

    low_start: float | None = says("For the low rail's start.", default=None)
    low_end: float | None = says("For the low rail's end.", default=None)
    high_start: float | None = says("For the high rail's start.", default=None)
    high_end: float | None = says("For the high rail's end.", default=None)


@dataclass(frozen=True)
class Move:
    """Where the rails of lanes of one unit go: first nearer or farther about a pivot, then by an amount, then each end."""

    unit: str = says("The unit of distances: dB, octaves, or the parameters' own; empty for plain numbers.")
    times: float = says("How many times as far from the pivot; below 0 upside down.", default=1.0)
    pivot: Pivot = says(
        "What stays where it is: the middle between the rails, the mean over time, the resting value, or a value.",
        default="middle",
    )
    about: float = says("That value.", default=0.0)
    by: float = says("How far up, in the unit.", default=0.0)
    shift: Ends = says("How far up each end of a rail goes by itself, in the unit.", default=Ends())
    to: Ends = says("Values at which ends of rails stand in the end, whatever else is asked for.", default=Ends())


@dataclass(frozen=True)
class Reshape:
    """Move lanes between their rails over a range, or whole; inside it the shape is kept as the rails say."""

    lanes: tuple[str, ...] = says("The lanes, by id.", most=MOST_IDS, default=())
    start: Tick | None = says("Where the range starts; with no range whole lanes move.", default=None)
    end: Tick | None = says("Where it ends.", default=None)
    moves: tuple[Move, ...] = says("What lanes of each unit get; others stay.", most=100, default=())
    before: Tick = says("How long the ramp before the range lasts.", default=Tick(0), label="Ramp before the range")
    after: Tick = says("How long the ramp after it lasts.", default=Tick(0), label="Ramp after it")
    resting: bool = says(
        "Whether resting values move with whole lanes.", default=True, words={"yes": "the resting values too"}
    )
    tracks: tuple[str, ...] = says(
        "Tracks of which all levels move: on the track and in its regions.",
        most=MOST_IDS,
        default=(),
        label="All levels of",
    )


@dataclass(frozen=True)
class SameValues:
    """Give points, or all that lanes do in a range, the same value; or round each to a multiple of a step."""

    lanes: tuple[str, ...] = says("The lanes, by id; their range becomes the same.", most=MOST_IDS, default=())
    start: Tick | None = says("Where the range starts; with no range whole lanes.", default=None)
    end: Tick | None = says("Where it ends.", default=None)
    picked: tuple[Picked, ...] = says("Points, instead of lanes and a range.", most=MOST_IDS, default=())
    to: Literal["value", "mean", "step"] = says(
        "One value; the mean (over time, or of the picked points); or each rounded to a step.",
        default="mean",
        words={"mean": "the mean", "value": "one value", "step": "rounded"},
    )
    text: str = says("The value as it was typed, with `value`.", default="", label="Value")
    step: float = says("The step in the parameters' own unit, with `step`.", default=1.0, label="To steps of")
