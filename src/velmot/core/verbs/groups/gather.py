"""Gather: a movement that members share goes up into their group, and they keep the rest; nothing is heard differently."""

from __future__ import annotations

from velmot.core.curves import editing
from velmot.core.curves.axes import Axis
from velmot.core.curves.envelope import Envelope
from velmot.core.curves.sums import TOLERANCE, sum_all
from velmot.core.errors import RequestError
from velmot.core.parameters.mean import time_weighted_mean
from velmot.core.parameters.parameter import Parameter
from velmot.core.session.heard import heard
from velmot.core.session.session import Session
from velmot.core.session.track import Track
from velmot.core.verbs.frame import telling as tell
from velmot.core.verbs.frame.change import Caution, Change, caution
from velmot.core.verbs.frame.checks import need_range
from velmot.core.verbs.frame.fewer_points import check_within, many_points, thin_written
from velmot.core.verbs.frame.levels import add_to_level, as_read, fader, heard_below, measured, not_read, set_to_read
from velmot.core.verbs.frame.operation import Operation
from velmot.core.verbs.frame.working_copy import WorkingCopy
from velmot.core.verbs.groups.fold import groups_of, members_of
from velmot.core.verbs.groups.request import Gather


def plan(session: Session, request: Gather) -> Change:
    """The change; every member gives away what the group takes, so what is heard stays, and that is measured."""
    (group,) = groups_of(session, (request.group,))
    need_range(request.start, request.end)
    check_within(request.within)
    start, end = request.start or 0, session.length if request.end is None else min(request.end, session.length)
    members = members_of(session, group, ())
    taking = [*members, group]
    base = as_read(session, taking) if request.set_to_read else session
    cautions: list[Caution] = set_to_read(taking, session) if request.set_to_read else []
    levels = heard_below(session, [group.id])
    shared = _shared(base, group, request, start, end, cautions)
    if not shared.moves(start, end):
        who = session.track(request.member).name if request.what == "member" else "What the members share"
        cautions.append(caution("nothing-moves/gathered", name=who, track=group.id))
        return measured(session, base, base, levels, cautions, request, request.accept)
    work = WorkingCopy(base)
    cautions += [not_read(t, request) for t in taking if not base.track(t.id).reads]
    for track, share in (*((t, editing.map_axis(shared, -1.0, 0.0)) for t in members), (group, shared)):
        # Two such sums meet in what is heard, within one budget.
        if add_to_level(work, fader(track), [share], start, end, tolerance=TOLERANCE / 2).above:
            cautions.append(caution("limited/level", name=track.name, track=track.id))
    if request.within:
        # Each level is heard with its group: two of them stray.
        thin_written(work, work.lane_swaps(), start, end, request.within / 2)
    cautions += [*work.cautions, *many_points(work.lane_swaps(), request)]
    return measured(session, base, work.after(), levels, cautions, request, request.accept, request.within)


def _shared(session: Session, group: Track, request: Gather, start: int, end: int, cautions: list[Caution]) -> Envelope:
    """The movement that goes up, in plain decibels about 0."""
    if request.what == "member":
        (member,) = members_of(session, group, (request.member,))
        moves = [_about_mean(session, fader(member), start, end)]
    else:
        looked_at = members_of(session, group, request.members)
        moves = [_about_mean(session, fader(m), start, end) for m in looked_at]
        for member, move in zip(looked_at, moves, strict=True):
            if move is None:
                cautions.append(caution("silence/gathered", name=member.name, track=member.id))
    found = [m for m in moves if m is not None]
    if not found:
        raise RequestError("silence", place="members", accepted="members that sound all along, or a shorter range")
    return editing.map_axis(sum_all(found), 1 / len(found), 0.0)


def _about_mean(session: Session, level: Parameter, start: int, end: int) -> Envelope | None:
    """What a level does about its own mean over a span, 0 outside; None where it is silent in between."""
    now = heard(session, level.id, groups=False).envelope
    if level.axis.silent(now.extremes(start, end)[0]):
        return None
    mean = time_weighted_mean(now, level, start, end)
    piece = editing.cut(now, start, end)
    bare = Envelope(piece.envelope.ticks, piece.envelope.values - mean, piece.envelope.bends, Axis.LINEAR)
    return editing.splice(Envelope.constant(0.0), piece.map(lambda _: bare), start)


def sentence(session: Session, request: Gather) -> tell.Told:
    """“Gather what is common to all members up into Swell from 9.1.00 to 13.1.00.”"""
    span = " from {start} to {end}" if request.start is not None else " {start}"
    if request.what == "member":
        what = f"what {session.track(request.member).name} does" if request.member else tell.Asked("choose a member")
    elif request.members:
        names = tell.tracks(session, request.members)
        what = f"what is common to {names}"
    else:
        what = "what is common to all members"
    return tell.told(
        "Gather {what} up into {group}" + span + (", thinned within {within} dB" if request.within else "") + ".",
        what=what,
        group=session.track(request.group).name if request.group else tell.Asked("choose a group"),
        start="everywhere" if request.start is None else tell.position(session, request.start),
        end=tell.position(session, request.end, "the end"),
        within=f"{request.within:g}",
    )


OPERATION = Operation("gather", Gather, plan, sentence, "promising")
