"""Alternatives: other goes at a parameter, kept beside what is used. Nobody hears them until they are used.

An alternative keeps all lanes of its parameter as they were, with the linked places on them. With a range it is about that
range: to use it is to take that much of it. What it would say now is worked out when it is asked for (`standing`): a place
on it follows its phrase, a lane of a region that is gone is left out, a value that cannot be any more is limited.
"""

from __future__ import annotations

from collections.abc import Iterable
from dataclasses import dataclass, replace
from typing import TYPE_CHECKING

from velmot.core.curves import editing
from velmot.core.curves.envelope import Envelope
from velmot.core.curves.segments import HOLD
from velmot.core.errors import RequestError
from velmot.core.parameters.parameter import Parameter
from velmot.core.session.phrases import Extra, Placement, drawn, says
from velmot.core.session.track import ON_THE_TRACK, Lane

if TYPE_CHECKING:
    from velmot.core.session.session import Session

Span = tuple[int, int]


@dataclass(frozen=True)
class Alternative:
    """One go at a parameter under a name. `kept` is when it was put aside (ISO 8601, or nothing); the range is in session ticks."""

    id: str
    name: str
    parameter: str
    lanes: tuple[Lane, ...] = ()
    places: tuple[Placement, ...] = ()
    kept: str = ""
    start: int | None = None
    end: int | None = None
    extra: Extra = ()

    @property
    def span(self) -> Span | None:
        """The range it is about, if not all of the parameter."""
        return None if self.start is None or self.end is None else (self.start, self.end)

    @property
    def points(self) -> int:
        """How many points it keeps."""
        return sum(len(lane.envelope) for lane in self.lanes)


@dataclass(frozen=True)
class Standing:
    """What an alternative would put in use now: its lanes and the places on them; and what cannot be as it was kept.

    `limited` are the spans that had to be limited, by home; `left_out` the lanes that have nowhere to be; `freed` the
    places that cannot be linked any more.
    """

    lanes: tuple[Lane, ...]
    places: tuple[Placement, ...]
    limited: dict[str, tuple[Span, ...]]
    left_out: tuple[Lane, ...]
    freed: tuple[Placement, ...]


def kept_aside(
    session: Session, parameter: str, id: str, name: str, kept: str = "", span: Span | None = None
) -> Alternative:
    """What a parameter does now, as an alternative."""
    lanes = tuple(sorted(session.lanes_of(parameter), key=lambda lane: not lane.on_track))
    places = tuple(one for lane in lanes for one in session.placed_on(parameter, lane.home))
    start, end = span or (None, None)
    return Alternative(id, name, parameter, lanes, places, kept, start, end)


def is_used(session: Session, one: Alternative) -> bool:
    """Whether a parameter does just what an alternative of it keeps, with the same places on it."""
    lanes = session.lanes_of(one.parameter)
    if {lane.home: lane.envelope for lane in lanes} != {lane.home: lane.envelope for lane in one.lanes}:
        return False
    return {x for lane in lanes for x in session.placed_on(one.parameter, lane.home)} == set(one.places)


def kept_already(session: Session, parameter: str, then: Session | None = None) -> bool:
    """Whether what a parameter does now (or in another state) is kept in one of its alternatives; without lanes it does nothing."""
    then = then or session
    return not then.lanes_of(parameter) or any(
        one.span is None and is_used(then, one) for one in session.alternatives_of(parameter)
    )


def unlike_others(session: Session, parameter: str, name: str) -> str:
    """The name, with a number behind it where another alternative of the parameter has it."""
    taken = {one.name for one in session.alternatives_of(parameter)}
    numbered = (name if n == 1 else f"{name} ({n})" for n in range(1, len(taken) + 2))
    return next(x for x in numbered if x not in taken)


def together(session: Session, one: Alternative) -> tuple[Alternative, ...]:
    """The alternatives of other parameters that were kept in the same step, it first."""
    same = (x for x in session.alternatives if x.id != one.id and one.kept and _kept(x) == _kept(one))
    return (one, *{x.parameter: x for x in same if x.parameter != one.parameter}.values())


def _kept(one: Alternative) -> tuple[str, str]:
    return one.kept, one.name


def standing(session: Session, one: Alternative) -> Standing:
    """What an alternative would put in use now. Its parameter has to be there."""
    return session.remembered("standing", one.id, lambda: standing_as(session, one, follow=True))


def usable(session: Session, id: str) -> Standing:
    """What an alternative of an id would put in use now; RequestError where its parameter is gone, or no lane of it fits."""
    one = session.alternative(id)
    if not session.there("parameter", one.parameter):
        raise RequestError("alternative-gone", name=one.name, place="alternative", accepted="another one")
    found = standing(session, one)
    if one.lanes and not found.lanes:
        raise RequestError("alternative-lanes", name=one.name, place="alternative", accepted="another one")
    return found


def standing_as(session: Session, one: Alternative, *, follow: bool) -> Standing:
    """The same; places whose phrase says something else by now `follow` it, or are as they were and free of it."""
    parameter, regions = session.parameter(one.parameter), {r.id for r in session.owner(one.parameter).regions}
    lanes, limited, left_out, places, freed = [], {}, [], [], []
    for lane in one.lanes:
        fits = lane.on_track or lane.home in regions
        made = _fitting(parameter, lane.envelope) if fits else None
        if made is None:
            left_out.append(lane)
            continue
        envelope, spans = made
        if spans:
            limited[lane.home] = spans
        mine = [x for x in one.places if x.home == lane.home]
        envelope, linked = _linked(session, parameter, envelope, mine, follow)
        places += linked
        freed += [x for x in mine if x not in linked]
        lanes.append(lane if envelope == lane.envelope else replace(lane, envelope=envelope))
    return Standing(tuple(lanes), tuple(places), limited, tuple(left_out), tuple(freed))


def _fitting(parameter: Parameter, curve: Envelope) -> tuple[Envelope, tuple[Span, ...]] | None:
    """A curve as the parameter can be by now, and what had to be limited; None where it knows other values only."""
    if curve.axis is not parameter.axis:
        if parameter.axis.logarithmic and curve.values.min() <= 0:
            return None
        curve = Envelope(curve.ticks, curve.values, curve.bends, parameter.axis)
    if parameter.holds_only:
        known = {label.value for label in parameter.labels}
        holds = bool((curve.bends[:-1] == HOLD).all())
        return (curve, ()) if holds and set(curve.values.tolist()) <= known else None
    if len(curve) and parameter.low <= curve.values.min() and curve.values.max() <= parameter.high:
        return curve, ()
    return editing.limited(curve, parameter.low, parameter.high)


def _linked(
    session: Session, parameter: Parameter, curve: Envelope, places: Iterable[Placement], follow: bool
) -> tuple[Envelope, list[Placement]]:
    """A curve with the places on it as their phrases say them today, and those that can be linked; if they are not to follow,
    the curve as it is, and those that still hold.
    """
    linked = []
    for one in places:
        if one.phrase not in session._phrases:
            continue
        phrase = session.phrase(one.phrase)
        try:
            if not says(phrase, one, parameter, curve):
                if not follow:
                    continue
                curve = editing.splice(curve, drawn(phrase, one, parameter).fragment, one.start)
        except RequestError:
            continue
        linked.append(one)
    return curve, linked


def using(session: Session, some: Iterable[Alternative]) -> Session:
    """The session as it would be with alternatives whole in use, for looking at and listening to; places aside."""
    chosen = {one.parameter: standing(session, one) for one in some}
    lanes = [lane for lane in session.lanes if lane.parameter not in chosen]
    for made in chosen.values():
        lanes += made.lanes
    return replace(session, lanes=tuple(lanes), placements=())


def span_of(session: Session, home: str) -> Span:
    """The session ticks that a home spans."""
    if home == ON_THE_TRACK:
        return 0, session.length
    region = session.region(home)
    return region.start, region.end
