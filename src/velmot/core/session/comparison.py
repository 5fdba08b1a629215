"""Comparing: two lanes, two tracks, or one session at two revisions; the difference, the largest, and where."""

from __future__ import annotations

from dataclasses import dataclass

from velmot.core.curves import editing
from velmot.core.curves.axes import Axis
from velmot.core.curves.difference import SAME, largest_difference
from velmot.core.curves.envelope import Envelope
from velmot.core.curves.sums import sum_axis
from velmot.core.errors import RequestError
from velmot.core.parameters.parameter import Family, Parameter
from velmot.core.session.alternatives import Alternative, usable, using
from velmot.core.session.heard import heard, reading
from velmot.core.session.matching import same_parameter
from velmot.core.session.session import Session
from velmot.core.session.track import Lane, Track
from velmot.core.session.wording import alternative_name, parameter_name

POSITIONS = Parameter("positions", "Position in the range", Family.DEVICE, unit="%", low=-100, high=100)
"""What a difference is measured in where the units differ."""


@dataclass(frozen=True)
class Side:
    """One side of a comparison: a curve in session ticks and the parameter it is of; None where there is none."""

    name: str
    parameter: Parameter
    envelope: Envelope | None


@dataclass(frozen=True)
class Compared:
    """Two curves over ``[0, length]``: the largest difference (in `measure`'s axis units) and its tick.

    `by_position` says that the units differ, so that places in the range (percent) are compared. A side
    that is missing counts as its parameter's static value; `kind` is "same", "changed", "only one" or
    "only other".
    """

    one: Side
    other: Side
    kind: str
    largest: float
    at: int
    by_position: bool = False

    @property
    def same(self) -> bool:
        return self.kind == "same"

    @property
    def measure(self) -> Parameter:
        """The parameter in whose axis the difference is said."""
        return POSITIONS if self.by_position else self.one.parameter


def compared(one: Side, other: Side, length: int) -> Compared:
    """Two curves compared over a whole session of `length` ticks."""
    by_position = not _same_measure(one.parameter, other.parameter)
    a, b = (_measured(side, by_position) for side in (one, other))
    largest, at = largest_difference(a, b, 0, length)
    kind = "same" if largest <= SAME else "changed"
    if one.envelope is None and other.envelope is not None:
        kind = "only other"
    elif other.envelope is None and one.envelope is not None:
        kind = "only one"
    return Compared(one, other, kind, largest, at, by_position)


def difference(pair: Compared) -> Envelope:
    """The other minus the one, on a straight axis in the units of `largest`; bends that meet slopes within 0.001."""
    a, b = (_straight(_measured(side, pair.by_position)) for side in (pair.one, pair.other))
    return sum_axis(b, editing.map_axis(a, -1.0, 0.0))


def lane_side(session: Session, lane: Lane, name: str = "") -> Side:
    """A lane as a side: its curve inside its span, its end values beyond."""
    return Side(name or session.lane_name(lane), session.parameter(lane.parameter), session.in_session_time(lane))


def alternative_side(session: Session, one: Alternative, when: str = "") -> Side:
    """An alternative as a side: what would be heard of its parameter with it in use, without group faders."""
    usable(session, one.id)
    heard_then = heard(reading(using(session, [one])), one.parameter, groups=False).envelope
    return Side(f"{alternative_name(session, one.id)}{when}", session.parameter(one.parameter), heard_then)


def tracks_compared(session: Session, one: Track, other: Track) -> list[Compared]:
    """Every parameter of two tracks that is the same one, as it is heard (without group faders)."""
    if one.id == other.id:
        raise RequestError("compare-itself", place="other", accepted="another track")
    rows = []
    for parameter in one.parameters:
        partner = same_parameter(session, parameter, other)
        if partner is not None:
            sides = [
                Side(parameter_name(session, p.id), p, heard(session, p.id, groups=False).envelope)
                for t, p in ((one, parameter), (other, partner))
            ]
            rows.append(compared(sides[0], sides[1], session.length))
    return rows


def only_on(session: Session, one: Track, other: Track) -> list[Parameter]:
    """The parameters of one track that the other has nothing like."""
    return [p for p in one.parameters if same_parameter(session, p, other) is None]


def revisions_compared(one: Session, other: Session, names: tuple[str, str] = ("", "")) -> list[Compared]:
    """Every lane that two states of one session hold differently, by its parameter and home; lanes alike are left out.

    `names` are those of the two states, which each side has behind its own.
    """
    homes = dict.fromkeys((x.parameter, x.home) for s in (one, other) for x in s.lanes)
    rows = []
    for parameter, home in homes:
        lanes = [s.lane_at(parameter, home) for s in (one, other)]
        if lanes[0] is not None and lanes[1] is not None and lanes[0].envelope is lanes[1].envelope:
            continue
        sides = [
            _at_revision(s, parameter, lane, name) for s, lane, name in zip((one, other), lanes, names, strict=True)
        ]
        partner = sides[0] or sides[1]
        assert partner is not None
        a, b = (side or Side(partner.name, partner.parameter, None) for side in sides)
        row = compared(a, b, max(one.length, other.length))
        if not row.same:
            rows.append(row)
    return rows


def _at_revision(session: Session, parameter: str, lane: Lane | None, name: str) -> Side | None:
    if lane is not None:
        return lane_side(session, lane, _called(session.lane_name(lane), name))
    if any(p.id == parameter for t in session.tracks for p in t.parameters):
        owner, p = session.owner(parameter), session.parameter(parameter)
        return Side(_called(f"{owner.name} {p.name}", name), p, None)
    return None


def _called(side: str, state: str) -> str:
    return f"{side}, {state}" if state else side


def _same_measure(one: Parameter, other: Parameter) -> bool:
    return (one.axis, one.unit, one.labels) == (other.axis, other.unit, other.labels)


def _measured(side: Side, by_position: bool) -> Envelope:
    """The curve to compare: as it is, or as percent of the parameter's range."""
    p = side.parameter
    envelope = side.envelope if side.envelope is not None else Envelope.constant(p.value, p.axis)
    if not by_position:
        return envelope
    low, high = float(p.axis.coordinate(p.low)), float(p.axis.coordinate(p.high))
    scale = 100.0 / (high - low)
    return Envelope(envelope.ticks, scale * (envelope.coordinates - low), envelope.bends, Axis.LINEAR)


def _straight(envelope: Envelope) -> Envelope:
    """Its coordinates as the values of a straight axis."""
    return Envelope(envelope.ticks, envelope.coordinates, envelope.bends, Axis.LINEAR)
