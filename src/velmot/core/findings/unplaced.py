"""Unplaced: phrases of a session that lie nowhere in it."""

from __future__ import annotations

from velmot.core.findings.finding import Finding, Kind
from velmot.core.session.session import Session


def unplaced(session: Session) -> list[Finding]:
    """Every phrase in no place."""
    used = {one.phrase for one in session.placements}
    said = [f"the phrase {phrase.name} lies in no place" for phrase in session.phrases if phrase.id not in used]
    return [Finding(KIND.name, "", 0, session.length, words, sure=0.4) for words in said]


KIND = Kind("unplaced", "phrases in no place", None, look_all=unplaced)
