"""Change a group: members come in or leave, with what is heard staying as it is or changing by what the group adds."""

from __future__ import annotations

from dataclasses import dataclass, replace
from typing import Any, Literal

from velmot.core import editing
from velmot.core.axes import Axis
from velmot.core.change import Caution, Change
from velmot.core.envelope import Envelope
from velmot.core.errors import RequestError
from velmot.core.heard import fader_of, heard
from velmot.core.limits import MOST_IDS
from velmot.core.operations import telling as tell
from velmot.core.operations.fold import members_of
from velmot.core.operations.frame import Operation, says
from velmot.core.operations.levels import add_to_level, as_read, fader, measured, not_read, set_to_read
from velmot.core.operations.working_copy import WorkingCopy
from velmot.core.parameters import Parameter
from velmot.core.session import Session, Track, TrackKind


@dataclass(frozen=True)
class ChangeGroup:
    """Take tracks into a group or out of it; all of them out dissolves it."""

    group: str = says("The group, by the id of its track.")
    take_in: tuple[str, ...] = says(
        "Tracks that become members, by id; groups may be nested.", most=MOST_IDS, default=()
    )
    let_go: tuple[str, ...] = says("Members that leave.", most=MOST_IDS, default=())
    heard: Literal["stays", "changes"] = says(
        "Whether what is heard of them stays (their own levels take over what the group adds) or changes.",
        default="stays",
    )
    set_to_read: bool = says("Whether members who do not read their lanes do from now on.", default=False)


def plan(session: Session, request: ChangeGroup) -> Change:
    """The change; what is heard is measured, and said where it changes."""
    group = group_of(session, request.group)
    coming = [session.track(id) for id in dict.fromkeys(request.take_in) if id not in group.members]
    going = members_of(session, group, request.let_go) if request.let_go else []
    if not coming and not going:
        said = "nothing is asked: no track comes in, and none leaves"
        raise RequestError("members-none", said, place="take_in", accepted="tracks that are no members, or members")
    gone = {t.id for t in going}
    members = (*(m for m in group.members if m not in gone), *(t.id for t in coming))
    tracks = [replace(t, members=members) if t.id == group.id else t for t in session.tracks]
    regrouped = session.with_tracks(tracks).checked()
    taking = [*coming, *going]
    base = as_read(session, taking) if request.set_to_read else session
    cautions: list[Caution] = set_to_read(taking) if request.set_to_read else []
    after = as_read(regrouped, taking) if request.set_to_read else regrouped
    if request.heard == "stays":
        after = kept(base, after, request, coming, going, cautions)
    return measured(session, base, after, all_levels(session), cautions, request.heard == "changes")


def group_of(session: Session, id: str) -> Track:
    """A group; RequestError for a track that is none."""
    group = session.track(id)
    if group.kind is not TrackKind.GROUP:
        groups = [t.name for t in session.tracks if t.kind is TrackKind.GROUP]
        said = f"{group.name} is no group"
        raise RequestError("group-not", said, place="group", accepted=", ".join(groups[:8]) or "a group")
    return group


def all_levels(session: Session) -> list[Parameter]:
    """The levels of all tracks that are no groups: what groups come to is heard there."""
    return [x for t in session.tracks if t.kind is not TrackKind.GROUP and (x := fader_of(t)) is not None]


def kept(
    before: Session,
    regrouped: Session,
    request: Any,
    coming: list[Track],
    going: list[Track],
    cautions: list[Caution],
) -> Session:
    """With the share of the request's `group` taken from those who come, and given to those who go."""
    group = before.track(request.group)
    adds = heard(before, fader(group).id, groups=False).envelope
    silent = bool(adds.axis.silent(adds.extremes(0, before.length)[0]))
    if silent and coming:
        said = f"{group.name} is silent in between: what comes in would be silent there"
        cautions.append(Caution("silence", said, track=group.id))
    work = WorkingCopy(regrouped)
    away = editing.map_axis(Envelope(adds.ticks, adds.values, adds.bends, Axis.LINEAR), -1.0, 0.0)
    for track, share in (*((t, away) for t in coming), *((t, adds) for t in going)):
        level = fader(track)
        rest = float(share.values[0]) if len(share) == 1 and regrouped.lanes_of(level.id) else 0.0
        if not before.track(track.id).reads and share.moves(0, before.length):
            cautions.append(not_read(track, request))
        if add_to_level(work, level, share, 0, before.length, rest):
            said = f"{track.name} would have to go further than its level can"
            cautions.append(Caution("limited", said, track=track.id))
    cautions += work.cautions
    return work.after()


def sentence(session: Session, request: ChangeGroup) -> tell.Told:
    """“Take Keeper into Swell; what is heard stays.”"""
    group = session.track(request.group).name if request.group else tell.Asked("choose a group")
    parts = []
    if request.take_in:
        parts.append("take {take_in} into {group}")
    if request.let_go:
        parts.append("let {let_go} out of {group}")
    said = " and ".join(parts) or "change {group}: {take_in}"
    return tell.told(
        said[0].upper() + said[1:] + "; what is heard {heard}.",
        take_in=tell.tracks(session, request.take_in),
        let_go=tell.tracks(session, request.let_go),
        group=group,
        heard=request.heard,
    )


OPERATION = Operation("change group", ChangeGroup, plan, sentence, "promising")
