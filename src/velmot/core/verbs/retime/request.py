"""What can be asked for, and how: retime."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Literal

from velmot.core.limits import MOST_IDS
from velmot.core.time.ticks import Tick
from velmot.core.verbs.request import says


@dataclass(frozen=True)
class Retime:
    """Stretch, shift or turn round in time what lanes do, over a range or whole."""

    lanes: tuple[str, ...] = says("The lanes, by id.", most=MOST_IDS)
    start: Tick | None = says("Where the range starts; with no range whole lanes.", default=None)
    end: Tick | None = says("Where it ends.", default=None)
    way: Literal["stretch", "shift", "backwards"] = says(
        "What to do with it.",
        default="stretch",
        words={"stretch": "stretch", "shift": "shift", "backwards": "backwards"},
    )
    factor: float = says(
        "How many times as long it gets, with `stretch` and no length.",
        default=1.0,
        label="To",
        unit="times its length",
    )
    length: Tick | None = says("How long it gets, with `stretch`.", default=None, label="or to a length of")
    following: Literal["stays", "moves along"] = says(
        "Whether what follows stays where it is, or moves along with the end of what is stretched.",
        default="stays",
        label="What follows",
        words={"stays": "stays", "moves along": "moves along"},
    )
    by: Tick = says("How much later, with `shift` (negative: earlier).", default=Tick(0), label="Later by")
    milliseconds: float = says(
        "How many milliseconds later, with `shift`, added to that.", default=0.0, label="and by", unit="ms"
    )
