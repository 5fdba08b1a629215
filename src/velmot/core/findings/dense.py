"""Dense: lanes with more points than anyone sets by hand, as a recorded pass leaves them."""

from __future__ import annotations

from velmot.core.findings.finding import Finding, Kind
from velmot.core.session.session import Session
from velmot.core.words import counted

MANY = 500
"""A lane with so many points is dense."""


def dense(session: Session, parameter: str) -> list[Finding]:
    """The parameter's lanes with very many points."""
    return [
        Finding(KIND.name, parameter, *session.span(x), counted(len(x.envelope), "point"), x.id, sure=0.5)
        for x in session.lanes_of(parameter)
        if len(x.envelope) >= MANY
    ]


KIND = Kind("dense", "dense", dense, of_lanes=True, on_strips=True)
