"""Rules: sets of parameters that are told by what they are or do, and need no list."""

from __future__ import annotations

from collections.abc import Iterable

from velmot.core.session.session import Session


def of_family(session: Session, family: str) -> list[str]:
    """The parameters of a family that have a lane: every send, every level."""
    return [id for id in _with_lanes(session) if session.parameter(id).family.value == family]


def of_group(session: Session, group: str) -> list[str]:
    """The parameters with a lane of a group and of all that is under it, at any depth."""
    under, todo = {group}, [group]
    while todo:
        for member in session.track(todo.pop()).members:
            if member not in under:
                under.add(member)
                todo.append(member)
    return [id for id in _with_lanes(session) if session.owner(id).id in under]


def moving(session: Session, start: int, end: int) -> list[str]:
    """The parameters of which some lane moves between two session ticks, as far as its home reaches."""
    found = []
    for id in _with_lanes(session):
        for lane in session.lanes_of(id):
            zero, last = session.span(lane)
            first, stop = max(start, zero) - zero, min(end, last) - zero
            if first < stop and lane.envelope.moves(first, stop):
                found.append(id)
                break
    return found


def of_lanes(session: Session, lanes: Iterable[str]) -> list[str]:
    """The parameters of some lanes, in the session's order."""
    wanted = {session.lane(id).parameter for id in lanes}
    return [id for id in _with_lanes(session) if id in wanted]


def _with_lanes(session: Session) -> list[str]:
    return [p.id for track in session.tracks for p in track.parameters if session.lanes_of(p.id)]
