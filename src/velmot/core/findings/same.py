"""Same: lanes that do exactly the same, and are not linked."""

from __future__ import annotations

from hashlib import sha256

import numpy as np

from velmot.core.findings.finding import Finding, Kind
from velmot.core.session.session import Session
from velmot.core.session.track import Lane

FEWEST = 4
"""A curve of fewer points comes about by itself."""


def same(session: Session) -> list[Finding]:
    """Every lane that is the same as one before it, point by point: in unit, times from its home's start, values, bends."""
    first: dict[bytes, Lane] = {}
    found = []
    for lane in session.lanes:
        curve = lane.envelope
        if len(curve) < FEWEST or session.placed_on(lane.parameter, lane.home) or np.ptp(curve.values) == 0:
            continue
        known = first.setdefault(_digest(session, lane), lane)
        if known is not lane:
            said = f"is the same curve as {session.lane_name(known)}"
            found.append(Finding(KIND.name, lane.parameter, *session.span(lane), said, lane.id, sure=0.4))
    return found


def _digest(session: Session, lane: Lane) -> bytes:
    parameter, curve = session.parameter(lane.parameter), lane.envelope
    made = sha256(f"{parameter.unit} {parameter.axis.value}".encode())
    for part in (curve.ticks - curve.ticks[0], curve.values, curve.bends):
        made.update(np.ascontiguousarray(part).tobytes())
    return made.digest()


KIND = Kind("same", "the same again", None, look_all=same)
