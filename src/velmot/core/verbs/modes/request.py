"""What can be asked for, and how: modes."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Literal

from velmot.core.limits import MOST_IDS
from velmot.core.time.ticks import Tick
from velmot.core.verbs.request import says


@dataclass(frozen=True)
class SetMode:
    """Set tracks to read their lanes, or off: then none of them is heard."""

    tracks: tuple[str, ...] = says("The tracks, by id.", most=MOST_IDS)
    mode: Literal["off", "read", "touch", "latch", "write"] = says(
        "Off, read, or read and how a ride on them writes: touch, latch or write.",
        default="read",
        label="Mode",
        words={"read": "read", "off": "off", "touch": "touch", "latch": "latch", "write": "write"},
    )


@dataclass(frozen=True)
class SetSwitch:
    """Hold switches at one of their two values over a range of their tracks' own lanes."""

    parameters: tuple[str, ...] = says("The switches, by id.", most=MOST_IDS, label="Switches")
    start: Tick = says("Where the range starts.")
    end: Tick = says("Where it ends.")
    on: bool = says("At their higher value (on, muted), or at their lower one.", default=True)
