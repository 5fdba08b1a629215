"""What can be asked for, and how: tidying."""

from __future__ import annotations

from dataclasses import dataclass

from velmot.core.limits import MOST_SPOTS
from velmot.core.time.ticks import Tick
from velmot.core.verbs.request import says
from velmot.core.verbs.thin.request import Within


@dataclass(frozen=True)
class Found:
    """A finding, by what it is known by."""

    kind: str = says("Its kind.")
    of: str = says("The id of the lane, parameter, track or phrase it is about.")
    at: Tick = says("Where it begins, from where the lane's home does.", default=Tick(0))


@dataclass(frozen=True)
class Mend:
    """Mend what was found, all in one step, in an order in which no mend undoes another."""

    found: tuple[Found, ...] = says("What is to be mended.", most=MOST_SPOTS)


@dataclass(frozen=True)
class LetBeFound:
    """Keep findings quiet from now on, or list them again."""

    found: tuple[Found, ...] = says("What is to be let be.", most=MOST_SPOTS, default=())
    kinds: tuple[str, ...] = says("All of these kinds, also what is yet to come.", most=100, default=())
    again: bool = says("List them again instead.", default=False)


@dataclass(frozen=True)
class CleanUp:
    """Take out of the whole session what is there for nothing; nothing is heard differently."""

    within: tuple[Within, ...] = says(
        "Also thin, within a bound for each of these units; none leaves all other points.", most=100, default=()
    )
