"""Disagree: tracks of one group of which some read their lanes and some do not."""

from __future__ import annotations

from velmot.core.findings.finding import Finding, Kind
from velmot.core.session.session import Session
from velmot.core.session.wording import listed
from velmot.core.verbs.modes.request import SetMode


def disagree(session: Session) -> list[Finding]:
    """Every group whose members with lanes are partly off."""
    having = {session.owner(lane.parameter).id for lane in session.lanes}
    found = []
    for group in session.tracks:
        members = [session.track(id) for id in group.members if id in having]
        off = [track for track in members if not track.reads]
        if off and len(off) < len(members):
            are = "is off" if len(off) == 1 else "are off"
            said = f"{listed([t.name for t in off], 'track')} {are}, others of {group.name} read"
            mend = SetMode(tuple(t.id for t in off), "read")
            found.append(Finding(KIND.name, "", 0, session.length, said, sure=0.4, mend=mend, track=group.id))
    return found


KIND = Kind("disagree", "members disagree", None, look_all=disagree)
