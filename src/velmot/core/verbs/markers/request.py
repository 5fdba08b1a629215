"""What can be asked for, and how: markers."""

from __future__ import annotations

from dataclasses import dataclass

from velmot.core.limits import MOST_IDS
from velmot.core.time.ticks import Tick
from velmot.core.verbs.request import says


@dataclass(frozen=True)
class AddMarker:
    """A new marker."""

    at: Tick = says("Where it stands.")
    name: str = says("Its name; it may be empty.", default="")
    cue: bool = says(
        "Whether it is a cue, for whoever runs a show.",
        default=False,
        words={"yes": "a cue, for whoever runs the show"},
    )


@dataclass(frozen=True)
class ChangeMarkers:
    """Move markers by a time, all together, or one to a place; rename them; make them cues or plain ones."""

    markers: tuple[str, ...] = says("The markers, by id.", most=MOST_IDS)
    by: Tick = says("How much later (earlier if negative).", default=Tick(0))
    at: Tick | None = says(
        "Where the first of them comes to stand, instead of `by`; the others keep their distance.", default=None
    )
    name: str | None = says("Their new name; nothing keeps it.", default=None)
    cue: bool | None = says("Whether they are cues; nothing keeps it.", default=None)


@dataclass(frozen=True)
class RemoveMarkers:
    """Take markers away."""

    markers: tuple[str, ...] = says("The markers, by id.", most=MOST_IDS)
