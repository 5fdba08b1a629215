"""Not heard: lanes that do nothing to what is heard, and in words why."""

from __future__ import annotations

from typing import Any

from velmot.core.findings.finding import Finding, Kind
from velmot.core.session.heard import speaking
from velmot.core.session.session import Session
from velmot.core.session.track import Lane, Precedence
from velmot.core.verbs.modes.request import SetMode
from velmot.core.verbs.regions.request import ChangeRegions, SetPrecedence


def not_heard(session: Session, parameter: str) -> list[Finding]:
    """The parameter's lanes that are heard at no moment, each over its span."""
    lanes, reads = session.lanes_of(parameter), session.owner(parameter).reads
    speak = speaking(session, parameter).lanes(session.length) if lanes and reads else set()
    silent = [lane for lane in lanes if lane.id not in speak]
    found = [(lane, *why_not_heard(session, lane)) for lane in silent]
    return [Finding(KIND.name, parameter, *session.span(x), why, x.id, mend=mend) for x, why, mend in found]


def why_not_heard(session: Session, lane: Lane) -> tuple[str, Any]:
    """In words why a lane that speaks at no moment is not heard, and the request that would let it be."""
    track, now = session.owner(lane.parameter), speaking(session, lane.parameter)
    if not track.reads:
        return f"{track.name} is not reading its lanes", SetMode((track.id,), "read")
    if lane.on_track:
        return "its regions' lanes win over all of it", None
    region = session.region(lane.home)
    if region.muted:
        return f"the region {region.name} is muted", ChangeRegions((region.id,), muted=False)
    if session.precedence is Precedence.TRACK and now.own:
        return "the track's own lane wins in this session", SetPrecedence("region")
    return f"other regions' lanes win over all of {region.name}", None


KIND = Kind("not heard", "not heard", not_heard, of_lanes=True, on_strips=True)
