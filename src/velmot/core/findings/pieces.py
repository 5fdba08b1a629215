"""Pieces: lanes with points that could go without changing anything, such as bends that a program cut up."""

from __future__ import annotations

from velmot.core.curves.lossless import without_loss
from velmot.core.findings.finding import Finding, Kind
from velmot.core.session.session import Session
from velmot.core.verbs.thin.request import Thin
from velmot.core.words import counted

FEWEST = 8
"""So many points have to be idle before they are worth a word."""


def pieces(session: Session, parameter: str) -> list[Finding]:
    """The parameter's lanes with idle points; none in which phrases lie."""
    found = []
    for lane in session.lanes_of(parameter):
        if session.placed_on(parameter, lane.home):
            continue
        idle = len(lane.envelope) - len(without_loss(lane.envelope))
        if idle >= FEWEST:
            said = f"{counted(idle, 'point')} of {len(lane.envelope):,} could go without changing anything"
            mend = Thin((lane.id,), way="without loss")
            span = session.span(lane)
            found.append(Finding(KIND.name, parameter, *span, said, lane.id, mend=mend, lossless=True))
    return found


KIND = Kind("pieces", "cut to pieces", pieces)
