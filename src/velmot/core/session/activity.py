"""Where in time a session's lanes move, and of which family they are: for the overview."""

from __future__ import annotations

import numpy as np

from velmot.core.session.session import Session
from velmot.core.session.summary import ink_of
from velmot.core.time.ticks import Ticks


def activity(session: Session, edges: Ticks) -> dict[str, Ticks]:
    """For each ink that lanes are drawn with, how many points stand between neighbouring edges; shape (len(edges) − 1,)."""
    totals: dict[str, Ticks] = {}
    for lane in session.lanes:
        counts = np.diff(np.searchsorted(session.in_session_time(lane).ticks, edges))
        ink = ink_of(session.parameter(lane.parameter))
        totals[ink] = totals[ink] + counts if ink in totals else counts
    return totals
