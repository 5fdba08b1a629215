"""What can be asked for, and how: follow."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Literal

from velmot.core.limits import MOST_IDS, MOST_TARGETS
from velmot.core.session.track import ON_THE_TRACK
from velmot.core.time.ticks import Tick
from velmot.core.verbs.request import says
from velmot.core.verbs.thin.request import Within

Does = Literal["follows", "makes room", "opens", "evens out", "lags"]


@dataclass(frozen=True)
class FollowOn:
    """A parameter that is driven, where its lane lives, and between which two of its values."""

    parameter: str = says("The parameter's id.")
    low: float | None = says(
        "What it is at the lower value of the source, or while shut; nothing means its lowest.", default=None
    )
    high: float | None = says(
        "What it is at the upper value of the source, or while open; nothing means its highest.", default=None
    )
    home: str = says("Where its lane lives: track, or a region's id.", default=ON_THE_TRACK)


@dataclass(frozen=True)
class Follow:
    """Let what a sound or a lane does drive parameters, as a curve that is then edited like any other."""

    targets: tuple[FollowOn, ...] = says("What is driven.", most=MOST_TARGETS, default=(), label="Drives")
    tracks: tuple[str, ...] = says("The tracks whose sound is followed, together, by id.", most=MOST_IDS, default=())
    source: str | None = says("Or the parameter whose lanes are followed, as heard, by id.", default=None, label="Lane")
    does: Does = says(
        "Follows its level; makes room while it is above a threshold; opens while it is; evens out its level; or lags behind.",
        default="follows",
        label="What it does",
        words={
            "follows": "follows",
            "makes room": "makes room",
            "opens": "opens",
            "evens out": "evens out",
            "lags": "lags",
        },
    )
    start: Tick | None = says("Where the range starts; with no range it is the whole session.", default=None)
    end: Tick | None = says("Where it ends.", default=None)
    after_level: bool = says(
        "Whether the sound is taken as heard, after its level; else as it stands in its regions.",
        default=False,
        label="The sound",
        words={"no": "as it stands", "yes": "as heard"},
    )
    measure: Literal["peak", "mean", "momentary", "short-term"] = says(
        "The highest peak, the mean (RMS), or the standard's loudness over 400 ms or 3 s.",
        default="mean",
        label="By its",
        words={"peak": "peak", "mean": "mean", "momentary": "loudness", "short-term": "loudness, 3 s"},
    )
    window: float = says(
        "Over how many milliseconds a peak or a mean is taken.",
        default=10.0,
        label="Taken over",
        unit="ms",
        reach=(0, None),
    )
    low: float | None = says(
        "The lower value of the source, in dB or its own unit; nothing means −48 dB, or its lowest.", default=None
    )
    high: float | None = says("The upper value of the source; nothing means −6 dB, or its highest.", default=None)
    upside_down: bool = says(
        "High becomes low.", default=False, label="Which way", words={"no": "the same way", "yes": "upside down"}
    )
    attack: float = says(
        "Milliseconds in which it comes 63 % of the way to what is higher.",
        default=10.0,
        label="In",
        unit="ms",
        reach=(0, None),
    )
    release: float = says("Milliseconds to what is lower.", default=120.0, label="Out", unit="ms", reach=(0, None))
    hold: float = says(
        "Milliseconds before it begins to fall.", default=0.0, label="Held for", unit="ms", reach=(0, None)
    )
    lookahead: float = says(
        "Milliseconds by which the curve comes before the sound.",
        default=0.0,
        label="Before the sound by",
        unit="ms",
        reach=(0, None),
    )
    threshold: float = says(
        "From which level on, in dB (or the source's unit).", default=-30.0, label="Above", unit="dB"
    )
    depth: float = says("Makes room: by how many dB at most.", default=6.0, label="By", unit="dB")
    ratio: float | None = says(
        "Makes room: of what is above the threshold one in so many is left; nothing takes all of the depth at once.",
        default=None,
        unit=": 1",
    )
    knee: float = says(
        "Makes room by a ratio: over how many dB it begins.",
        default=0.0,
        label="Softly over",
        unit="dB",
        reach=(0, None),
    )
    hysteresis: float = says(
        "Opens: how far below the threshold it shuts again.",
        default=3.0,
        label="Shuts below it by",
        unit="dB",
        reach=(0, None),
    )
    least: float = says(
        "Opens: how many milliseconds it stays open, or shut, at least.",
        default=50.0,
        label="For at least",
        unit="ms",
        reach=(0, None),
    )
    to: float = says("Evens out: the level it is brought to, in dB.", default=-20.0, unit="dB")
    band: float = says(
        "Evens out: how far from it a level is left as it is; what is twice as far is brought to it wholly.",
        default=1.0,
        label="Left within",
        unit="dB",
        reach=(0, None),
    )
    most: float = says(
        "Evens out: by how many dB at most, up or down.", default=6.0, label="By at most", unit="dB", reach=(0, None)
    )
    delay: Tick = says("Lags: how much later.", default=Tick(0), label="Later by")
    smooth: float = says(
        "Lags: milliseconds of smoothing.", default=0.0, label="Smoothed over", unit="ms", reach=(0, None)
    )
    grid: Tick | None = says(
        "Lags: in steps of a grid, each with the value at its line.", default=None, label="In steps of"
    )
    slope: float | None = says(
        "Lags: by how much a second it moves at most, in the source's unit of distance.",
        default=None,
        label="No faster than",
        unit="a second",
    )
    instead: bool = says(
        "Whether it replaces what a level does there, or is added to it.",
        default=False,
        label="What is there",
        words={"no": "is added to", "yes": "is replaced"},
    )
    within: tuple[Within, ...] = says("The bound for each unit; nothing means the usual one.", most=100, default=())
    set_to_read: bool = says("Also switch target tracks that are off to read.", default=False)


BY_THRESHOLD: tuple[Does, ...] = ("makes room", "opens", "evens out")
"""What goes by a threshold."""


@dataclass(frozen=True)
class MakeAnew:
    """Make lanes that were made by following anew, after what their source does now; what was added before is taken off first."""

    lanes: tuple[str, ...] = says("The lanes, by id.", most=MOST_IDS)
