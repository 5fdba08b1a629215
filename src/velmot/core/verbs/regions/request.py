"""What can be asked for, and how: regions."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Literal

from velmot.core.limits import MOST_CLIPS, MOST_IDS
from velmot.core.time.ticks import Tick
from velmot.core.verbs.paste.request import Clip
from velmot.core.verbs.request import says


@dataclass(frozen=True)
class CarryRegions:
    """Take regions to another time or another track; their lanes go along as asked."""

    regions: tuple[str, ...] = says("The regions, by id.", most=MOST_IDS)
    how: Literal["move", "copy", "repeat"] = says(
        "Move them, copy them once, or repeat them one after the other behind themselves.", default="move"
    )
    at: Tick | None = says(
        "Where the first of them lands; nothing means the same place.", default=None, label="Starting at"
    )
    targets: tuple[str, ...] = says(
        "The tracks they go to; nothing means their own.", most=MOST_IDS, default=(), label="To tracks"
    )
    times: int = says("Repeat: how many more there will be.", default=1, label="How many more", reach=(1, 1000))
    until: Tick | None = says(
        "Repeat: fill up to here instead, the last one cut to fit.", default=None, label="Fill up to"
    )
    every: Tick | None = says("Repeat: how far apart; nothing means back to back.", default=None, label="How far apart")
    automation: Literal["with", "without", "alone"] = says(
        "The regions with their automation, without it (it stays where it was), or the automation alone.",
        default="with",
        label="Automation",
        words={"with": "goes along", "without": "stays", "alone": "it alone"},
    )
    under: Literal["stays", "goes along"] = says(
        "Whether the track's own automation under the regions stays or goes along.",
        default="stays",
        label="The track’s, under them",
        words={"stays": "stays", "goes along": "goes along"},
    )
    missing: Literal["leave out", "add"] = says(
        "What to do where a target lacks a parameter: leave its lane out, or add the parameter.", default="leave out"
    )
    set_to_read: bool = says("Also switch target tracks that are off to read.", default=False)


@dataclass(frozen=True)
class ChangeRegions:
    """Rename regions, mute them or let them sound."""

    regions: tuple[str, ...] = says("The regions, by id.", most=MOST_IDS)
    name: str | None = says("Their new name; nothing keeps it.", default=None)
    muted: bool | None = says("Whether their lanes are silent; nothing keeps it.", default=None)


@dataclass(frozen=True)
class CutRegions:
    """Cut every one of the regions that reaches over a place."""

    regions: tuple[str, ...] = says("The regions, by id.", most=MOST_IDS)
    at: Tick = says("Where to cut; it has to lie inside, edges aside.", label="Cut at")


@dataclass(frozen=True)
class Embed:
    """Cut track lanes to the spans of regions and make them the regions' own."""

    regions: tuple[str, ...] = says("The regions, by id.", most=MOST_IDS)
    parameters: tuple[str, ...] = says(
        "The parameters; none means all that have a lane on the track.", most=MOST_IDS, default=()
    )


@dataclass(frozen=True)
class FillGap:
    """Write a parameter's own lane on the track between two regions; outside the span nothing changes."""

    parameter: str = says("The parameter's id.")
    start: Tick = says("Where the gap starts.")
    end: Tick = says("Where it ends.")
    how: Literal["hold", "join"] = says(
        "Hold the value before the gap, or go straight to the value after it.",
        label="In the gap",
        words={"hold": "hold what was before", "join": "join both sides"},
    )


@dataclass(frozen=True)
class JoinRegions:
    """Make one region of several that follow each other without a gap."""

    regions: tuple[str, ...] = says("The regions, by id; all on one track.", most=MOST_IDS)


@dataclass(frozen=True)
class Lift:
    """Put what regions do onto their track's own lanes, and take the regions' lanes away."""

    regions: tuple[str, ...] = says("The regions, by id.", most=MOST_IDS)
    parameters: tuple[str, ...] = says(
        "The parameters; none means all that have a lane in them.", most=MOST_IDS, default=()
    )


@dataclass(frozen=True)
class MakeRegion:
    """A new region, with what lanes of its track do there if asked."""

    track: str = says("The track it lies on, by id.")
    name: str = says("Its name.")
    start: Tick = says("Where it starts.")
    end: Tick = says("Where it ends.")
    container: bool = says(
        "Whether it holds nothing but automation.",
        default=True,
        label="As",
        words={"yes": "a container", "no": "a region"},
    )
    parameters: tuple[str, ...] = says(
        "Parameters whose track lanes it takes over in its span.", most=MOST_IDS, default=()
    )


@dataclass(frozen=True)
class PlaceContainer:
    """Lay a container over a track."""

    track: str = says("The track it lies on, by id.")
    name: str = says("Its name.")
    at: Tick = says("Where it starts.")
    length: Tick = says("How long it is.")
    clips: tuple[Clip, ...] = says("What it holds.", most=MOST_CLIPS)
    muted: bool = says("Whether its lanes are silent until it is unmuted.", default=False)


@dataclass(frozen=True)
class RemoveRegions:
    """Take regions away."""

    regions: tuple[str, ...] = says("The regions, by id.", most=MOST_IDS)
    automation: Literal["goes", "stays"] = says(
        "Whether their automation goes too, or stays on the track.",
        label="Their automation",
        words={"stays": "stays on the track", "goes": "goes too"},
    )


@dataclass(frozen=True)
class SetPrecedence:
    """Let regions win over their track, or the track over its regions."""

    wins: Literal["region", "track"] = says(
        "Whose lane wins where both speak.",
        label="Where both speak",
        words={"region": "the region’s wins", "track": "the track’s wins"},
    )
