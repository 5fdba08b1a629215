"""Loud: a level that with its groups is heard above 0 dB, though it does not go there by itself."""

from __future__ import annotations

from velmot.core.findings.finding import Finding, Kind
from velmot.core.parameters.parameter import Family
from velmot.core.session.heard import heard
from velmot.core.session.session import Session
from velmot.core.session.track import TrackKind
from velmot.core.verbs.shape.request import Move, Reshape

FULL = 0.0
"""dB above which a level is loud."""
SMALLEST = 0.05
"""dB by which it has to be."""


def loud(session: Session, parameter_id: str) -> list[Finding]:
    """A track's level whose net is above 0 dB while it alone is not, or beyond its range, with how far; none of a group, which only adds."""
    parameter, track = session.parameter(parameter_id), session.owner(parameter_id)
    if parameter.family is not Family.LEVEL or track.kind is TrackKind.GROUP:
        return []
    net, own = (heard(session, parameter_id, groups=groups).envelope.only_heard() for groups in (True, False))
    most = float(net.values.max())
    meant = float(own.values.max()) > FULL
    if most <= (parameter.high if meant else FULL) + SMALLEST:
        return []
    at = int(net.ticks[int(net.values.argmax())])
    said = f"is heard at {parameter.format(most)} with its groups at {session.tempo.position(at)}"
    lanes = tuple(lane.id for lane in session.lanes_of(parameter_id))
    over = most - (parameter.high if meant else FULL)
    mend = Reshape(lanes, moves=(Move(parameter.distance_unit, by=-over),)) if lanes else None
    return [Finding(KIND.name, parameter_id, at, at + 1, said, size=over, sure=0.6 if meant else 0.3, mend=mend)]


KIND = Kind("loud", "louder than it was meant", loud)
