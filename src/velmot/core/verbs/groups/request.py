"""What can be asked for, and how: groups."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Literal

from velmot.core.limits import MOST_IDS
from velmot.core.time.ticks import Tick
from velmot.core.verbs.request import says


@dataclass(frozen=True)
class ChangeGroup:
    """Take tracks into a group or out of it; all of them out dissolves it."""

    group: str = says("The group, by the id of its track.")
    take_in: tuple[str, ...] = says(
        "Tracks that become members, by id; groups may be nested.", most=MOST_IDS, default=(), label="Comes in"
    )
    let_go: tuple[str, ...] = says("Members that leave.", most=MOST_IDS, default=(), label="Goes")
    heard: Literal["stays", "changes"] = says(
        "Whether what is heard of them stays (their own levels take over what the group adds) or changes.",
        default="stays",
        label="What is heard",
        words={"stays": "stays", "changes": "changes"},
    )
    set_to_read: bool = says("Whether members who do not read their lanes do from now on.", default=False)
    accept: bool = says(
        "Go on where something is heard differently; how much is said.",
        default=False,
        words={"yes": "accept what is heard differently"},
    )


@dataclass(frozen=True)
class DissolveGroup:
    """Take a group away; its members stay."""

    group: str = says("The group, by the id of its track.")
    heard: Literal["stays", "changes"] = says(
        "Whether what is heard of the members stays (their own levels take over what the group adds) or changes.",
        default="stays",
        label="What is heard",
        words={"stays": "stays", "changes": "changes"},
    )
    set_to_read: bool = says("Whether members who do not read their lanes do from now on.", default=False)
    accept: bool = says(
        "Go on where something is heard differently; how much is said.",
        default=False,
        words={"yes": "accept what is heard differently"},
    )


@dataclass(frozen=True)
class Fold:
    """Write what groups add into their members: all of them, or some, who then leave the group."""

    groups: tuple[str, ...] = says("The groups, by the ids of their tracks.", most=MOST_IDS)
    start: Tick | None = says("Where the range starts; with no range everywhere, resting values too.", default=None)
    end: Tick | None = says("Where it ends.", default=None)
    members: tuple[str, ...] = says(
        "Some members, who leave the group; nothing means all of them, who stay.",
        most=MOST_IDS,
        default=(),
        label="Members",
    )
    set_to_read: bool = says("Whether members who do not read their lanes do from now on.", default=False)
    accept: bool = says(
        "Go on where something is heard differently; how much is said.",
        default=False,
        words={"yes": "accept what is heard differently"},
    )
    within: float = says(
        "Thin what it comes to, so that every level is heard within so many decibels; 0 leaves every point.",
        default=0.0,
        label="Thinned within",
        unit="dB",
        reach=(0, None),
    )


@dataclass(frozen=True)
class Gather:
    """Move what one member does, or what all do together, up into the group's fader."""

    group: str = says("The group, by the id of its track.")
    start: Tick | None = says("Where the range starts; with no range everywhere.", default=None)
    end: Tick | None = says("Where it ends.", default=None)
    what: Literal["common", "member"] = says(
        "What is common to the members (the mean of their moves about each one's own mean), or what one of them does.",
        default="common",
    )
    member: str = says("That member, with `member`.", default="")
    members: tuple[str, ...] = says(
        "Whose moves are looked at for what is common; nothing means all.", most=MOST_IDS, default=(), label="Looked at"
    )
    set_to_read: bool = says("Whether members who do not read their lanes do from now on.", default=False)
    accept: bool = says(
        "Go on where something is heard differently; how much is said.",
        default=False,
        words={"yes": "accept what is heard differently"},
    )
    within: float = says(
        "Thin what it comes to, so that every level is heard within so many decibels; 0 leaves every point.",
        default=0.0,
        label="Thinned within",
        unit="dB",
        reach=(0, None),
    )


@dataclass(frozen=True)
class MakeGroup:
    """Make a group of tracks (of groups as well); its fader stands at 0 dB."""

    name: str = says("The group's name.")
    members: tuple[str, ...] = says("The tracks in it, by id.", most=MOST_IDS, label="In it")
