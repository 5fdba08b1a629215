"""Dense: lanes with more points than anyone sets by hand, as a recorded pass leaves them."""

from __future__ import annotations

from velmot.core.findings.finding import Finding, Kind
from velmot.core.session.session import Session
from velmot.core.session.thinned_before import spent_of
from velmot.core.session.track import Lane
from velmot.core.verbs.frame.usual_bound import usual_bound
from velmot.core.verbs.thin.request import Thin
from velmot.core.words import counted

MANY = 500
"""A lane with so many points is dense."""


def dense(session: Session, parameter: str) -> list[Finding]:
    """The parameter's lanes with very many points; none that was thinned within the usual bound and needs them."""
    found = []
    for lane in session.lanes_of(parameter):
        if len(lane.envelope) < MANY or _thinned(session, lane):
            continue
        mend = None if session.placed_on(parameter, lane.home) else Thin((lane.id,))
        words = counted(len(lane.envelope), "point")
        found.append(Finding(KIND.name, parameter, *session.span(lane), words, lane.id, sure=0.5, mend=mend))
    return found


def _thinned(session: Session, lane: Lane) -> bool:
    bound = usual_bound(session.parameter(lane.parameter))
    return bool((spent_of(lane) >= bound * (1 - 1e-9)).all())


KIND = Kind("dense", "dense", dense, of_lanes=True, on_strips=True)
