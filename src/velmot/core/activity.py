"""Where in time a session's lanes move: for the overview."""

from __future__ import annotations

import numpy as np

from velmot.core.session import Session
from velmot.core.time import Ticks


def activity(session: Session, edges: Ticks) -> Ticks:
    """How many points stand between neighbouring edges, all lanes together; shape (len(edges) − 1,)."""
    total = np.zeros(len(edges) - 1, dtype=np.int64)
    for lane in session.lanes:
        total += np.diff(np.searchsorted(session.in_session_time(lane).ticks, edges))
    return total
