"""What can be asked for, and how: thin."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Literal

from velmot.core.limits import MOST_IDS
from velmot.core.time.ticks import Tick
from velmot.core.verbs.request import Picked, says


@dataclass(frozen=True)
class Within:
    """How far lanes of one unit may be from what they were."""

    unit: str = says("The unit of distances: dB, octaves, or the parameters' own; empty for plain numbers.")
    amount: float = says("How far, in that unit.")


@dataclass(frozen=True)
class Thin:
    """Take points that are not needed out of lanes, over a range or over all of them."""

    lanes: tuple[str, ...] = says("The lanes, by id.", most=MOST_IDS)
    start: Tick | None = says("Where the range starts; with no range whole lanes are thinned.", default=None)
    end: Tick | None = says("Where it ends.", default=None)
    way: Literal["within", "without loss", "steps to slopes"] = says(
        "Within a bound of what it was, without changing anything, or a staircase of steps as the slope it came from.",
        default="within",
        words={"within": "within a bound", "without loss": "without loss", "steps to slopes": "steps to slopes"},
    )
    within: tuple[Within, ...] = says("The bound for each unit; nothing means the usual one.", most=100, default=())
    protected: tuple[Picked, ...] = says("Points that stay.", most=MOST_IDS, default=())
    region_edges: bool = says(
        "Whether lanes of tracks also stay exactly what they are where a region of their track starts or ends.",
        default=False,
        words={"yes": "stays where regions start and end"},
    )
    holds: Literal["stay", "steps"] = says(
        "Within a bound: whether what is held stays held, or is a step among others, which a slope may pass.",
        default="stay",
        words={"stay": "what is held stays", "steps": "what is held may become slopes"},
    )
    step: float | None = says(
        "Steps to slopes: how far apart the steps are, in the unit of distances; nothing finds it in each lane.",
        default=None,
        label="Steps of",
        reach=(0, None),
    )
