"""What can be asked for, and how: paste."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Literal

from velmot.core.curves.axes import Axis
from velmot.core.limits import MOST_CLIPS, MOST_SPOTS
from velmot.core.parameters.parameter import Family, Kind
from velmot.core.time.ticks import Tick
from velmot.core.verbs.request import ClipPoint, says


@dataclass(frozen=True)
class Clip:
    """A piece of one lane, with what it needs to find its parameter again."""

    track: str = says("The name of the track it came from.")
    name: str = says("The parameter's name.")
    family: Family = says("The parameter's family.")
    kind: Kind = says("The parameter's kind.")
    unit: str = says("The parameter's unit.")
    axis: Axis = says("The axis its segments are straight on.")
    low: float = says("The lowest value the parameter had.")
    high: float = says("The highest.")
    points: tuple[ClipPoint, ...] = says("The points, from 0 to the length.", most=MOST_SPOTS)

    @property
    def measure(self) -> str:
        """The unit in words."""
        return self.unit or "plain numbers"


@dataclass(frozen=True)
class Paste:
    """Put clips into a session."""

    clips: tuple[Clip, ...] = says("What was copied.", most=MOST_CLIPS)
    start: Tick = says("Where the copied range started.")
    length: Tick = says("How long it is.")
    at: Tick | None = says("Where it lands; nothing means the same place.", default=None, label="Starting at")
    onto: str | None = says("A parameter to paste a single clip onto, instead of the one of its name.", default=None)
    how: Literal["unit", "range"] = says(
        "Keep the numbers (units must agree), or keep the position in the range.",
        default="unit",
        label="Where units differ",
        words={"unit": "refuse", "range": "same position in the range"},
    )
    linked: bool = says("Copies of linked places that are still what was copied are linked too.", default=False)
