"""Fold: a group's moves go into its members, and the group to 0 dB, with nothing heard differently."""

from __future__ import annotations

from dataclasses import replace

from velmot.core.curves.sums import TOLERANCE
from velmot.core.errors import RequestError
from velmot.core.remedy import Remedy
from velmot.core.session.above import groups_above
from velmot.core.session.heard import heard
from velmot.core.session.session import Session
from velmot.core.session.track import Track
from velmot.core.session.wording import listed
from velmot.core.verbs.frame import telling as tell
from velmot.core.verbs.frame.change import Caution, Change, caution
from velmot.core.verbs.frame.checks import need_range
from velmot.core.verbs.frame.fewer_points import check_within, many_points, thin_written
from velmot.core.verbs.frame.heard_change import swaps_between
from velmot.core.verbs.frame.levels import (
    add_to_level,
    as_read,
    fader,
    heard_below,
    measured,
    not_read,
    put_to_zero,
    set_to_read,
)
from velmot.core.verbs.frame.operation import Operation
from velmot.core.verbs.frame.working_copy import WorkingCopy
from velmot.core.verbs.groups.request import Fold
from velmot.core.verbs.shape.request import Move, Reshape
from velmot.core.words import Figure


def plan(session: Session, request: Fold) -> Change:
    """The change; it is measured, and refused where a level would be heard differently and that is not accepted."""
    groups = groups_of(session, request.groups)
    need_range(request.start, request.end)
    check_within(request.within)
    leaving = _leaving(session, request, groups)
    taking = [m for g in groups for m in members_of(session, g, tuple(leaving) if len(groups) == 1 else ())]
    base = as_read(session, taking) if request.set_to_read else session
    state, cautions = base, set_to_read(taking, session) if request.set_to_read else []
    for group in sorted(groups, key=lambda g: len(groups_above(session, g.id))):  # the outermost first
        state = _folded(state, state.track(group.id), request, leaving, cautions)
    levels = heard_below(session, [g.id for g in groups])
    if request.within:
        state = _thinned(session, state, request)
    cautions += many_points(swaps_between(session, state)[0], request)
    return measured(session, base, state, levels, cautions, request, request.accept, request.within)


def _thinned(session: Session, state: Session, request: Fold) -> Session:
    """The folded session with fewer points on what members took over; of several groups over each other two may stray."""
    work = WorkingCopy(state)
    swaps = [s for s in swaps_between(session, state)[0] if s.after is not None]
    start, end = request.start or 0, session.length if request.end is None else min(request.end, session.length)
    thin_written(work, swaps, start, end, request.within / min(len(request.groups), 2))
    return work.after()


def groups_of(session: Session, ids: tuple[str, ...]) -> list[Track]:
    """Some groups; RequestError for none, or for tracks without members."""
    tracks = [session.track(id) for id in dict.fromkeys(ids)]
    if not tracks:
        known = listed([t.name for t in session.tracks if t.members], "group", 8)
        accepted = known or "a session with a group in it"
        raise RequestError("groups-none", place="groups", accepted=accepted)
    for track in tracks:
        if not track.members:
            raise RequestError("group-empty", name=track.name, place="groups", accepted="a group with members")
    return tracks


def members_of(session: Session, group: Track, ids: tuple[str, ...]) -> list[Track]:
    """Some of a group's own members, all for none said; RequestError for what is no member."""
    for id in ids:
        if id not in group.members:
            names = listed([session.track(m).name for m in group.members], "track", 8)
            raise RequestError(
                "member-not", name=session.track(id).name, name2=group.name, place="members", accepted=names
            )
    return [session.track(m) for m in dict.fromkeys(group.members) if not ids or m in ids]


def _leaving(session: Session, request: Fold, groups: list[Track]) -> set[str]:
    if not request.members:
        return set()
    if len(groups) > 1 or request.start is not None:
        raise RequestError("members-range", place="members", accepted="one group and no range, or all members")
    leaving = {m.id for m in members_of(session, groups[0], request.members)}
    return set() if leaving == set(groups[0].members) else leaving


def _folded(session: Session, group: Track, request: Fold, leaving: set[str], cautions: list[Caution]) -> Session:
    """The session with one group folded."""
    level = fader(group)
    adds = heard(session, level.id, groups=False).envelope
    start, end = request.start or 0, session.length if request.end is None else min(request.end, session.length)
    whole = (start, end) == (0, session.length)
    if level.axis.silent(adds.extremes(start, end)[0]):
        cautions.append(caution("silence/group", name=group.name, track=group.id))
    work, above = WorkingCopy(session), 0.0
    tolerance = TOLERANCE / len(request.groups)  # one budget for what is heard below all of them
    for member in members_of(session, group, tuple(leaving)):
        own = fader(member)
        rest = level.value if whole and len(session.lanes_of(own.id)) else 0.0
        if not member.reads and adds.moves(start, end):
            cautions.append(not_read(member, request))
        above = max(above, add_to_level(work, own, [adds], start, end, rest, tolerance).above)
    if above:
        step = Reshape(tracks=(group.id,), moves=(Move("dB", by=-above),))
        remedy = Remedy(f"lower {group.name} by {level.format_distance(above)} first", step=step)
        far = Figure(above, level.format_distance(above))
        cautions.append(caution("limited/member", name=group.name, far=far, track=group.id, remedy=remedy))
    if not leaving:
        put_to_zero(work, level, start, end)
    cautions += work.cautions
    after = work.after()
    if not leaving:
        return after
    left = replace(after.track(group.id), members=tuple(m for m in group.members if m not in leaving))
    return after.with_tracks(left if t.id == group.id else t for t in after.tracks)


def sentence(session: Session, request: Fold) -> tell.Told:
    """“Fold Swell from 9.1.00 to 13.1.00 into all its members.”"""
    span = " from {start} to {end}" if request.start is not None else " {start}"
    into = "{members}, who leave it" if request.members else "{members}"
    return tell.told(
        "Fold {groups}" + span + " into " + into + ".",
        groups=tell.tracks(session, request.groups),
        start="everywhere" if request.start is None else tell.position(session, request.start),
        end=tell.position(session, request.end, "the end"),
        members=tell.tracks(session, request.members) if request.members else "all members",
    )


OPERATION = Operation("fold", Fold, plan, sentence, "promising")
