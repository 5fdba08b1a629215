"""Dissolve a group: its members take its place in the groups above it, and it goes with its lanes."""

from __future__ import annotations

from dataclasses import replace

from velmot.core.errors import RequestError
from velmot.core.session.session import Session
from velmot.core.session.track import Track
from velmot.core.verbs.frame import telling as tell
from velmot.core.verbs.frame.cautions import takes
from velmot.core.verbs.frame.change import Caution, Change
from velmot.core.verbs.frame.levels import as_read, measured, set_to_read
from velmot.core.verbs.frame.operation import Operation
from velmot.core.verbs.groups.change_group import all_levels, group_of, kept
from velmot.core.verbs.groups.request import DissolveGroup


def plan(session: Session, request: DissolveGroup) -> Change:
    """The change; what is heard is measured, and said where it changes."""
    group = group_of(session, request.group)
    feeds = [t.name for t in session.tracks if t.id != group.id and any(p.target == group.id for p in t.parameters)]
    if feeds:
        raise RequestError(
            "group-fed",
            name=group.name,
            names=", ".join(feeds[:8]),
            place="group",
            accepted="a group that nothing is sent to",
        )
    members = [session.track(id) for id in group.members]
    base = as_read(session, members) if request.set_to_read else session
    cautions: list[Caution] = set_to_read(members, session) if request.set_to_read else []
    let_go = _in_place_of(base, group)
    after = let_go if request.heard == "changes" else kept(base, let_go, request, [], members, cautions)
    own = {p.id for p in group.parameters}
    if lanes := [lane for lane in session.lanes if lane.parameter in own]:
        cautions.append(takes(lanes))
    gone = after.with_lanes(lane for lane in after.lanes if lane.parameter not in own)
    gone = gone.with_tracks(t for t in gone.tracks if t.id != group.id).checked()
    accept = request.accept or request.heard == "changes"
    return measured(session, base, gone, all_levels(session), cautions, request, accept)


def _in_place_of(session: Session, group: Track) -> Session:
    """The session with the group empty, and its members in every group that it was in."""

    def members(track: Track) -> tuple[str, ...]:
        if track.id == group.id:
            return ()
        named = [m for id in track.members for m in (group.members if id == group.id else (id,))]
        return tuple(dict.fromkeys(named))

    return session.with_tracks(replace(t, members=members(t)) for t in session.tracks)


def sentence(session: Session, request: DissolveGroup) -> tell.Told:
    """“Dissolve Swell; what is heard stays.”"""
    group = session.track(request.group).name if request.group else tell.Asked("choose a group")
    return tell.told("Dissolve {group}; what is heard {heard}.", group=group, heard=request.heard)


OPERATION = Operation("dissolve group", DissolveGroup, plan, sentence, "promising")
