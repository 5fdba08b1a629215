"""Stale: lanes that were made by following something that is otherwise by now."""

from __future__ import annotations

from velmot.core.findings.finding import Finding, Kind
from velmot.core.session.session import Session
from velmot.core.session.track import Lane
from velmot.core.session.wording import parameter_name
from velmot.core.verbs.follow.made import how_made, is_stale
from velmot.core.verbs.follow.request import MakeAnew


def stale(session: Session) -> list[Finding]:
    """Every lane whose source has other rides, another sound, or lies elsewhere."""
    return [_found(session, lane) for lane in session.lanes if is_stale(session, lane)]


def _found(session: Session, lane: Lane) -> Finding:
    made = how_made(session, lane)
    assert made is not None
    request = made.request
    names = [session.track(id).name for id in request.tracks]
    if request.source is not None:
        names = [parameter_name(session, request.source)]
    said = f"was made after {', '.join(names)}, which has changed since"
    mend = MakeAnew((lane.id,))
    return Finding(KIND.name, lane.parameter, *session.span(lane), said, lane.id, sure=0.5, mend=mend)


KIND = Kind("stale", "made after what has changed", None, look_all=stale)
