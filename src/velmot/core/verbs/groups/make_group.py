"""Make a group: a new fader at 0 dB over some tracks, so that what is heard stays until it is moved."""

from __future__ import annotations

from velmot.core.parameters.parameter import level
from velmot.core.session.session import Session
from velmot.core.session.track import Track, TrackKind
from velmot.core.verbs.frame import telling as tell
from velmot.core.verbs.frame.change import Change
from velmot.core.verbs.frame.checks import name_of, need
from velmot.core.verbs.frame.levels import measured
from velmot.core.verbs.frame.operation import Operation
from velmot.core.verbs.groups.change_group import all_levels
from velmot.core.verbs.groups.request import MakeGroup


def plan(session: Session, request: MakeGroup) -> Change:
    """The change that adds the group as the last track; what is heard stays, which is measured."""
    name = name_of(request.name, "group")
    members = [session.track(id) for id in dict.fromkeys(request.members)]
    need(members, "track", place="members")
    id = next(id for id in session.new_ids("group") if f"{id}.level" not in session._parameters)
    fader = level(f"{id}.level")
    group = Track(id, name, TrackKind.GROUP, parameters=(fader,), members=tuple(t.id for t in members))
    after = session.with_tracks([*session.tracks, group]).checked()
    return measured(session, session, after, all_levels(session), (), request, accept=False)


def sentence(session: Session, request: MakeGroup) -> tell.Told:
    """“Make a group Horns of Foghorn and Bell buoy.”"""
    return tell.told(
        "Make a group {name} of {members}.",
        name=request.name.strip() or tell.Asked("give it a name"),
        members=tell.tracks(session, request.members),
    )


OPERATION = Operation("make group", MakeGroup, plan, sentence, "promising")
