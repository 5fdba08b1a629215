"""What can be asked for, and how: carry."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Literal

from velmot.core.limits import MOST_IDS, MOST_MATCHES
from velmot.core.time.ticks import Tick
from velmot.core.verbs.request import says


@dataclass(frozen=True)
class Carry:
    """Take what lanes do over a range to the same parameters of one or more tracks."""

    lanes: tuple[str, ...] = says("The lanes to carry, by id.", most=MOST_IDS)
    targets: tuple[str, ...] = says("The tracks to carry them to, by id.", most=MOST_IDS, label="Tracks")
    devices: tuple[str, ...] = says(
        "Devices to take along whole, by id: their static values and all their lanes.",
        most=MOST_IDS,
        default=(),
        label="Devices whole",
    )
    matches: tuple[Match, ...] = says("Where lanes land, in place of the usual match.", most=MOST_MATCHES, default=())
    start: Tick | None = says("Where the range starts; with no range the whole lane goes.", default=None)
    end: Tick | None = says("Where the range ends; this position is not in it any more.", default=None)
    at: Tick | None = says("Where it lands; nothing means the same place.", default=None, label="Starting at")
    how: Literal["copy", "move"] = says(
        "Copy leaves the source as it is, move clears it.",
        default="copy",
        label="Keep the original",
        words={"copy": "yes, copy", "move": "no, move"},
    )
    edges: Literal["seal", "ramp"] = says(
        "Seal lets values jump at the edges, ramp leads in and out.",
        default="seal",
        label="At the edges",
        words={"seal": "jump", "ramp": "ramp"},
    )
    ramp: Tick = says("How long a ramp lasts, inside the range.", default=Tick(0))
    times: int = says("How often it lands, one after the other.", default=1, label="How often", reach=(1, 1000))
    every: Tick | None = says("How far apart; nothing means back to back.", default=None, label="How far apart")
    missing: Literal["leave out", "add"] = says(
        "What to do where a target has no such parameter: leave the lane out, or add the parameter with its "
        "device or send and its static value.",
        default="leave out",
        label="What is missing there",
        words={"leave out": "leave out", "add": "add it"},
    )
    match_static: bool = says(
        "Also give the targets the static values of the source tracks.",
        default=False,
        label="Static values",
        words={"no": "stay", "yes": "match the source"},
    )
    set_to_read: bool = says("Also switch target tracks that are off to read.", default=False)
    linked: bool = says("Source and targets share phrases from then on: edit one, all follow.", default=False)
    alternative: str | None = says(
        "The alternative whose lanes are carried, by id, in place of what is used.", default=None
    )


@dataclass(frozen=True)
class Match:
    """A decision for one source parameter on one target track, in place of the usual match."""

    parameter: str = says("The source parameter's id.")
    track: str = says("The target track's id.")
    do: Literal["land", "add", "leave out"] = says(
        "Land on a parameter, add what is missing with its device or send, or leave its lanes out.", default="land"
    )
    onto: str | None = says("Land: the target's parameter, by id.", default=None)
    low: float | None = says(
        "On another unit: what the source's lowest becomes; nothing keeps the position in the range.", default=None
    )
    high: float | None = says("On another unit: what the source's highest becomes.", default=None)
