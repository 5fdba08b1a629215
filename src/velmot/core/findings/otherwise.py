"""Otherwise: a track's lane that moves under a region whose own lane says something else, so that its moves there are lost."""

from __future__ import annotations

from velmot.core.curves.difference import largest_difference
from velmot.core.findings.finding import Finding, Kind
from velmot.core.session.heard import speaking
from velmot.core.session.session import Session

SMALLEST_SHARE = 0.02
"""They are apart by at least this share of the parameter's range."""


def otherwise(session: Session, parameter_id: str) -> list[Finding]:
    """The spans of regions in which the track's own lane moves too and is not heard; none of named values."""
    parameter, own = session.parameter(parameter_id), session.lane_at(parameter_id)
    if own is None or parameter.holds_only:
        return []
    found = []
    for start, end, region, lane in speaking(session, parameter_id).spans:
        if not own.envelope.count(start + 1, end) or not own.envelope.moves(start, end):
            continue
        apart, _ = largest_difference(own.envelope, session.in_session_time(lane), start, end)
        if apart >= SMALLEST_SHARE * parameter.span:
            said = f"its track’s lane moves under {region.name} and says something else, by up to {parameter.format_distance(apart)}"
            found.append(Finding(KIND.name, parameter_id, start, end, said, lane.id, apart, 0.2))
    return found


KIND = Kind("otherwise", "region and track say different things", otherwise)
