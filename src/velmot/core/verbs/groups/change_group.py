"""Change a group: members come in or leave, with what is heard staying as it is or changing by what the group adds."""

from __future__ import annotations

from dataclasses import replace
from typing import Any

from velmot.core.curves.envelope import Envelope
from velmot.core.curves.sums import taken_off
from velmot.core.errors import RequestError
from velmot.core.parameters.parameter import Parameter
from velmot.core.session.heard import fader_of, shares_above
from velmot.core.session.session import Session
from velmot.core.session.track import Track, TrackKind
from velmot.core.verbs.frame import telling as tell
from velmot.core.verbs.frame.change import Caution, Change, caution
from velmot.core.verbs.frame.levels import add_to_level, as_read, fader, measured, not_read, set_to_read
from velmot.core.verbs.frame.operation import Operation
from velmot.core.verbs.frame.working_copy import WorkingCopy
from velmot.core.verbs.groups.fold import members_of
from velmot.core.verbs.groups.request import ChangeGroup


def plan(session: Session, request: ChangeGroup) -> Change:
    """The change; what is heard is measured, and said where it changes."""
    group = group_of(session, request.group)
    coming = [session.track(id) for id in dict.fromkeys(request.take_in) if id not in group.members]
    going = members_of(session, group, request.let_go) if request.let_go else []
    if not coming and not going:
        raise RequestError("members-none", place="take_in", accepted="tracks that are no members, or members")
    gone = {t.id for t in going}
    members = (*(m for m in group.members if m not in gone), *(t.id for t in coming))
    tracks = [replace(t, members=members) if t.id == group.id else t for t in session.tracks]
    regrouped = session.with_tracks(tracks).checked()
    taking = [*coming, *going]
    base = as_read(session, taking) if request.set_to_read else session
    cautions: list[Caution] = set_to_read(taking, session) if request.set_to_read else []
    after = as_read(regrouped, taking) if request.set_to_read else regrouped
    if request.heard == "stays":
        after = kept(base, after, request, coming, going, cautions)
    accept = request.accept or request.heard == "changes"
    return measured(session, base, after, all_levels(session), cautions, request, accept)


def group_of(session: Session, id: str) -> Track:
    """A group; RequestError for a track that is none."""
    group = session.track(id)
    if group.kind is not TrackKind.GROUP:
        groups = [t.name for t in session.tracks if t.kind is TrackKind.GROUP]
        raise RequestError("group-not", name=group.name, place="group", accepted=", ".join(groups[:8]) or "a group")
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
    """With the shares of all groups a track comes under taken from its level, and those it leaves given to it."""
    work = WorkingCopy(regrouped)
    for track in (*coming, *going):
        level, old, new = fader(track), shares_above(before, track.id), shares_above(regrouped, track.id)
        gained = {id: share for id, share in new.items() if id not in old}
        lost = {id: share for id, share in old.items() if id not in new}
        _say_silent(before, track, gained, lost, cautions)
        shares = [*lost.values(), *(taken_off(share) for share in gained.values())]
        moving = any(share.moves(0, before.length) for share in shares)
        if not before.track(track.id).reads and moving:
            cautions.append(not_read(track, request))
        if add_to_level(work, level, shares, 0, before.length).above:
            cautions.append(caution("limited/level", name=track.name, track=track.id))
    cautions += work.cautions
    return work.after()


def _say_silent(
    session: Session, track: Track, gained: dict[str, Envelope], lost: dict[str, Envelope], cautions: list[Caution]
) -> None:
    """Where a group is silent: what comes in is silent there, and what leaves has to be made so."""
    for shares, what in ((gained, "would be silent there"), (lost, "is made silent there, as it is now")):
        for id, share in shares.items():
            if share.axis.silent(share.extremes(0, session.length)[0]):
                said = {"name": session.track(id).name, "group": track.name, "what": what}
                cautions.append(caution("silence/between", said, track=track.id))


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
