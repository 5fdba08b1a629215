"""Honest links: of a session that was read, only the placements whose lanes do what they say; the others are set free."""

from __future__ import annotations

from dataclasses import replace

from velmot.core.errors import RequestError
from velmot.core.session.phrases import Placement, says
from velmot.core.session.session import Session


def honest(session: Session) -> tuple[Session, list[str]]:
    """The session with the placements that hold, and in words which were set free and why."""
    kept: list[Placement] = []
    freed: list[str] = []
    ends: dict[tuple[str, str], int] = {}
    for one in sorted(session.placements, key=lambda one: one.start):
        key = (one.parameter, one.home)
        if problem := session.placement_problem(one) or _untrue(session, one):
            freed.append(problem)
        elif one.start < ends.get(key, 0):
            freed.append(f"the placement “{one.id}” lies over another one")
        else:
            kept.append(one)
            ends[key] = one.end
    if not freed:
        return session, []
    stay = {one.id for one in kept}
    return replace(session, placements=tuple(x for x in session.placements if x.id in stay)), freed


def _untrue(session: Session, one: Placement) -> str:
    """Why a placement that could be here does not hold; nothing where it does."""
    lane = session.lane_at(one.parameter, one.home)
    assert lane is not None
    phrase = session.phrase(one.phrase)
    try:
        if says(phrase, one, session.parameter(one.parameter), lane.envelope):
            return ""
    except RequestError as error:
        return f"the placement “{one.id}” cannot be drawn: {error.message}"
    return f"{session.lane_name(lane)} does something else where “{one.id}” lies than {phrase.name} says"
