"""Copies: regions of a track whose lanes do the same, as copies do, and are not linked."""

from __future__ import annotations

from velmot.core.findings.finding import Finding, Kind
from velmot.core.findings.same import again, pooled
from velmot.core.session.session import Session
from velmot.core.session.wording import listed


def copies(session: Session) -> list[Finding]:
    """Every parameter with lanes in several regions that do the same."""
    found = []
    for group in again(session):
        lanes = [session.lane(id) for id in group]
        if len({x.parameter for x in lanes}) > 1 or any(x.on_track for x in lanes):
            continue
        regions = [session.region(x.home) for x in lanes]
        others = listed([f"{r.name} at {session.tempo.position(r.start)}" for r in regions[1:]], "region", 3)
        parameter = session.parameter(lanes[0].parameter)
        said = f"{parameter.name} in {others} does the same and is not linked"
        mend = pooled(session, lanes, f"{regions[0].name} {parameter.name}")
        found.append(Finding(KIND.name, parameter.id, *session.span(lanes[0]), said, lanes[0].id, sure=0.5, mend=mend))
    return found


KIND = Kind("copies", "copies that are not linked", None, look_all=copies)
