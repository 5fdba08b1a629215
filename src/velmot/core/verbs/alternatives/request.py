"""What can be asked for, and how: alternatives."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Literal

from velmot.core.limits import LONGEST_NAME, MOST_IDS
from velmot.core.time.ticks import Tick
from velmot.core.verbs.request import says

_WHEN = "When that is, as ISO 8601 says it; nothing leaves it open."


@dataclass(frozen=True)
class KeepAside:
    """Keep what parameters do now as alternatives, beside what is used; it stays in use."""

    parameters: tuple[str, ...] = says("The parameters, by id.", most=MOST_IDS)
    name: str = says("What it is called; nothing says what it was.", most=LONGEST_NAME, default="", label="Called")
    start: Tick | None = says("Where the range it is about starts; with no range it is all of it.", default=None)
    end: Tick | None = says("Where the range ends.", default=None)
    when: str = says(_WHEN, most=40, default="")


@dataclass(frozen=True)
class UseAlternatives:
    """Use alternatives in place of what their parameters do now, which is kept aside."""

    alternatives: tuple[str, ...] = says("The alternatives, by id: one for each parameter.", most=MOST_IDS)
    aside: bool = says(
        "Keep aside what was in use.",
        default=True,
        label="What was in use",
        words={"no": "is let go", "yes": "is kept aside"},
    )
    when: str = says(_WHEN, most=40, default="")


@dataclass(frozen=True)
class TakeRange:
    """Take what alternatives do over a range into what is used; outside of it nothing changes."""

    alternatives: tuple[str, ...] = says("The alternatives, by id: one for each parameter.", most=MOST_IDS)
    start: Tick | None = says("Where the range starts; with no range it is all, or what it was kept for.", default=None)
    end: Tick | None = says("Where the range ends.", default=None)
    edges: Literal["seal", "ramp"] = says(
        "Seal lets values jump at the edges, ramp leads in and out.",
        default="seal",
        label="At the edges",
        words={"seal": "jump", "ramp": "ramp"},
    )
    ramp: Tick = says("How long a ramp lasts, inside the range.", default=Tick(0))


@dataclass(frozen=True)
class RenameAlternative:
    """Give an alternative another name."""

    alternative: str = says("The alternative, by id.")
    name: str = says("What it is called from now on.", most=LONGEST_NAME, label="Called")


@dataclass(frozen=True)
class RemoveAlternatives:
    """Let alternatives go; what is used stays as it is."""

    alternatives: tuple[str, ...] = says("The alternatives, by id.", most=MOST_IDS)


@dataclass(frozen=True)
class BringBack:
    """Bring back what was at an earlier revision: all of it, some tracks, or what some parameters did, also over a range alone."""

    revision: int = says("The revision it comes from.")
    tracks: tuple[str, ...] = says(
        "The tracks, by id: they become as they were, with their regions and lanes; over a range all their parameters.",
        most=MOST_IDS,
        default=(),
    )
    parameters: tuple[str, ...] = says("The parameters, by id.", most=MOST_IDS, default=())
    start: Tick | None = says("Where the range starts; with no range it is all of it.", default=None)
    end: Tick | None = says("Where the range ends.", default=None)
    edges: Literal["seal", "ramp"] = says(
        "Seal lets values jump at the edges, ramp leads in and out.",
        default="seal",
        label="At the edges",
        words={"seal": "jump", "ramp": "ramp"},
    )
    ramp: Tick = says("How long a ramp lasts, inside the range.", default=Tick(0))

    @property
    def all_of_it(self) -> bool:
        """Whether the whole session goes back."""
        return not (self.tracks or self.parameters) and (self.start is None or self.end is None)
