"""Unplaced: phrases of a session that lie nowhere in it."""

from __future__ import annotations

from velmot.core.findings.finding import Finding, Kind
from velmot.core.session.session import Session
from velmot.core.verbs.reuse.request import ChangePhrase


def unplaced(session: Session) -> list[Finding]:
    """Every phrase in no place, also in none that an alternative keeps."""
    used = {one.phrase for one in session.placements}
    used |= {one.phrase for go in session.alternatives for one in go.places}
    return [
        Finding(
            KIND.name,
            "",
            0,
            session.length,
            f"the phrase {x.name} lies in no place",
            sure=0.4,
            about=x.id,
            mend=_gone(x.id),
        )
        for x in session.phrases
        if x.id not in used
    ]


def _gone(phrase: str) -> ChangePhrase:
    return ChangePhrase(phrase, delete=True)


KIND = Kind("unplaced", "phrases in no place", None, look_all=unplaced)
