"""What can be asked for, and how: ride."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Literal

from velmot.core.curves.strokes import Does, Spread
from velmot.core.limits import MOST_PASSES, MOST_RIDDEN, MOST_SPOTS
from velmot.core.time.ticks import TICKS_PER_BEAT, Tick
from velmot.core.verbs.request import says
from velmot.core.verbs.thin.request import Within


@dataclass(frozen=True)
class Hand:
    """What hands do on a control, event by event in three columns of one length."""

    at: tuple[Tick, ...] = says("When, in session time, in order.", most=MOST_SPOTS, default=())
    does: tuple[Does, ...] = says("What is done: a hand takes hold, moves it, or lets go.", most=MOST_SPOTS, default=())
    value: tuple[float | None, ...] = says(
        "Where the control is then, in the parameter's unit; in a trim how far from 0, in its unit of distance. "
        "Nothing means where it stands.",
        most=MOST_SPOTS,
        default=(),
    )


@dataclass(frozen=True)
class Ridden:
    """One control in a pass: its mode and what hands do on it."""

    parameter: str = says("The parameter's id.")
    hand: Hand = says("What hands do.", default=Hand())
    mode: Literal["the track's", "off", "read", "touch", "latch", "write"] = says(
        "Touch writes from touch to release and goes back, latch from the first touch to the end of the pass, write all of it.",
        default="the track's",
    )
    trim: bool = says("Whether the control starts at 0 and writes a change of what is there.", default=False)
    shows: Literal["own", "heard"] = says(
        "Whether a level shows its own value, or with its groups what is heard (their share is then taken off).",
        default="own",
    )
    spread: Spread = says("How far the last value is applied beyond where it arrived.", default="no")
    first_from: Literal["the touch", "the pass's start", "the region's start"] = says(
        "From where the first value is held, for a hand that came late.", default="the touch"
    )


@dataclass(frozen=True)
class Pass:
    """A span of time in which controls are ridden."""

    start: Tick = says("Where the pass starts.")
    end: Tick = says("Where it ends.")
    controls: tuple[Ridden, ...] = says("The controls, each once.", most=MOST_RIDDEN)


@dataclass(frozen=True)
class Ride:
    """Write passes, one laid over the other; outside the spans they write nothing changes."""

    passes: tuple[Pass, ...] = says("The passes, in the order they were ridden.", most=MOST_PASSES)
    return_over: Tick = says(
        "In touch, how long a control takes back to what is there.",
        default=Tick(TICKS_PER_BEAT),
        label="Touch goes back over",
    )
    within: tuple[Within, ...] = says(
        "How far the thinned line may be from the hand's, for each unit; 0 keeps every point, nothing means the usual bound.",
        most=100,
        default=(),
    )
    lands: Literal["where it is heard", "on the track"] = says(
        "In a region's own lane where that speaks, or always on the track.",
        default="where it is heard",
        words={"where it is heard": "where it is heard", "on the track": "always on the track"},
    )
    set_to_read: bool = says("Whether ridden tracks that are off read their lanes from now on.", default=False)
