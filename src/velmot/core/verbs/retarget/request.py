"""What can be asked for, and how: retarget."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Literal

from velmot.core.limits import MOST_TARGETS
from velmot.core.time.ticks import Tick
from velmot.core.verbs.request import says


@dataclass(frozen=True)
class Target:
    """A parameter to land on, with the span to fit into where one is asked for."""

    parameter: str = says("The parameter's id.")
    low: float | None = says("Fit: what the source's lowest becomes, in the target's unit.", default=None)
    high: float | None = says("Fit: what the source's highest becomes.", default=None)


@dataclass(frozen=True)
class Retarget:
    """Carry what a lane does over a range to other parameters, mapped."""

    lane: str = says("The source lane's id.")
    targets: tuple[Target, ...] = says("Where it lands.", most=MOST_TARGETS, label="Parameters")
    start: Tick | None = says("Where the range starts; with no range the whole lane goes.", default=None)
    end: Tick | None = says("Where it ends.", default=None)
    at: Tick | None = says("Where it lands; nothing means the same place.", default=None, label="Starting at")
    how: Literal["copy", "move"] = says(
        "Copy leaves the source as it is, move clears it.",
        default="copy",
        label="Keep the original",
        words={"copy": "yes, copy", "move": "no, move"},
    )
    mapping: Literal["unit", "range", "fit", "around"] = says(
        "Same number, same position in the range, fit into a span, or movement around an anchor.",
        default="fit",
        label="Carry over",
        words={"fit": "fitted", "range": "range", "around": "around", "unit": "number"},
    )
    upside_down: bool = says("High becomes low.", default=False, words={"yes": "upside down"})
    anchor: float = says("Around: the source value that lands on the target's anchor.", default=0.0)
    to_anchor: float | None = says(
        "Around: the target value it lands on; nothing means its static value.", default=None
    )
    depth: float = says("Around: target axis units for one source axis unit.", default=1.0)
    hysteresis: float = says(
        "For named values: how far past the middle a step takes, in steps.", default=0.0, unit="steps", reach=(0, 0.99)
    )
    edges: Literal["seal", "ramp"] = says(
        "Seal lets values jump at the edges, ramp leads in and out.",
        default="seal",
        label="At the edges",
        words={"seal": "jump", "ramp": "ramp"},
    )
    ramp: Tick = says("How long a ramp lasts, inside the range.", default=Tick(0))
    set_to_read: bool = says("Also switch target tracks that are off to read.", default=False)
