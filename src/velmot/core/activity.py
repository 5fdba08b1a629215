"""Where in time a session's lanes move: for the overview, and for lanes that move or do not."""

from __future__ import annotations

import numpy as np

from velmot.core.session import Lane, Session
from velmot.core.time import Ticks


def activity(session: Session, edges: Ticks) -> Ticks:
    """How many points stand between neighbouring edges, all lanes together; shape (len(edges) − 1,)."""
    total = np.zeros(len(edges) - 1, dtype=np.int64)
    for lane in session.lanes:
        total += np.diff(np.searchsorted(session.in_session_time(lane).ticks, edges))
    return total


def why_not_heard(session: Session, lane: Lane) -> str:
    """In words, why a lane is not heard at all; empty if it is."""
    track = session.owner(lane.parameter)
    if not track.reads:
        return f"{track.name} is not reading its lanes"
    if not lane.on_track and session.region(lane.home).muted:
        return f"the region {session.region(lane.home).name} is muted"
    if not lane.on_track and session.precedence == "track" and session.lane_at(lane.parameter):
        return "the track's own lane wins in this session"
    return ""
