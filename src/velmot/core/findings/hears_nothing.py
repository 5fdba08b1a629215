"""Hears nothing: a group without members, or a bus that no send feeds, with automation of its own that does nothing."""

from __future__ import annotations

from velmot.core.findings.finding import Finding, Kind
from velmot.core.session.session import Session
from velmot.core.session.track import TrackKind


def hears_nothing(session: Session) -> list[Finding]:
    """Every group and bus with a lane to which nothing comes."""
    fed = {p.target for track in session.tracks for p in track.parameters if p.target}
    having = {session.owner(lane.parameter).id for lane in session.lanes}
    found = []
    for track in session.tracks:
        empty = track.kind is TrackKind.GROUP and not track.members
        unfed = track.kind is TrackKind.BUS and track.id not in fed
        if track.id in having and (empty or unfed):
            said = "is a group without members" if empty else "is a bus that no send feeds"
            found.append(Finding(KIND.name, "", 0, session.length, f"{track.name} {said}", sure=0.5, track=track.id))
    return found


KIND = Kind("hears nothing", "hears nothing", None, look_all=hears_nothing)
