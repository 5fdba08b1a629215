"""The alternatives that a request names, what has to be known of them first, and the places they bring along."""

from __future__ import annotations

from collections.abc import Iterable, Sequence
from dataclasses import replace

from velmot.core.errors import RequestError
from velmot.core.session.alternatives import Alternative, Span, Standing
from velmot.core.session.phrases import Placement
from velmot.core.session.session import Session
from velmot.core.session.wording import listed, parameter_name
from velmot.core.verbs.alternatives.request import BringBack, TakeRange
from velmot.core.verbs.frame import telling as tell
from velmot.core.verbs.frame.change import Caution, PlacementSwap, caution
from velmot.core.verbs.frame.checks import need
from velmot.core.words import Arg


def chosen(session: Session, ids: Sequence[str]) -> list[Alternative]:
    """The alternatives of some ids, one for each parameter; RequestError for none, two of one parameter, or of one that is gone."""
    need(ids, "alternative")
    found: dict[str, Alternative] = {}
    for id in dict.fromkeys(ids):
        one = session.alternative(id)
        if not session.there("parameter", one.parameter):
            raise RequestError("alternative-gone", name=one.name, place="alternatives", accepted="another one")
        if other := found.get(one.parameter):
            raise RequestError(
                "alternative-twice",
                name=other.name,
                name2=one.name,
                parameter=parameter_name(session, one.parameter),
                place="alternatives",
                accepted="one for each parameter",
            )
        found[one.parameter] = one
    return list(found.values())


def called(session: Session, ids: Sequence[str]) -> str | tell.Asked:
    """Alternatives by their names, or how many."""
    if not ids:
        return tell.Asked("choose an alternative")
    some = [session.alternative(id) for id in dict.fromkeys(ids)]
    names = [f"“{one.name}”" for one in some]
    return (
        listed(names, "alternative", tell.MOST_SAID) if len(names) <= tell.MOST_SAID else f"{len(names)} alternatives"
    )


def of_whom(session: Session, ids: Sequence[str]) -> str | tell.Asked:
    """Whose they are, by name, or how many."""
    some = [session.alternative(id).parameter for id in dict.fromkeys(ids)]
    there = [id for id in dict.fromkeys(some) if session.there("parameter", id)]
    return tell.parameters(session, there)


def said_of(session: Session, one: Alternative, now: Standing, span: Span) -> list[Caution]:
    """What of an alternative cannot be as it was kept, within a range of the session."""
    track, name = session.owner(one.parameter), parameter_name(session, one.parameter)
    said = []
    if now.left_out:
        gone = [lane for lane in now.left_out if not (lane.on_track or session.there("region", lane.home))]
        others = len(now.left_out) - len(gone)
        if gone:
            said.append(caution("alternative-left", name=one.name, count=len(gone), track=track.id))
        if others:
            said.append(caution("alternative-left/values", name=one.name, count=others, parameter=name, track=track.id))
    for home, spans in now.limited.items():
        lane = next(lane for lane in now.lanes if lane.home == home)
        zero = session.zero_of(lane)
        if within := [(zero + a, zero + b) for a, b in spans if zero + a < span[1] and span[0] < zero + b]:
            words: dict[str, Arg] = {"count": len(within), "name": name}
            said.append(caution("limited/spans", words, track=track.id, start=within[0][0], end=within[-1][1]))
    if now.freed:
        said.append(caution("alternative-freed", name=one.name, count=len(now.freed), track=track.id))
    return said


def places_of(session: Session, one: Alternative, now: Standing) -> list[PlacementSwap]:
    """What becomes of places where an alternative is used whole: those on it come, all others of its parameter go with what was."""
    there = {x.id: x for x in session.placements if x.parameter == one.parameter}
    coming = _named(session, now.places, set(there))
    swaps = [PlacementSwap(x, coming.pop(x.id, None)) for x in there.values()]
    return [swap for swap in (*swaps, *(PlacementSwap(None, x) for x in coming.values())) if swap.before != swap.after]


def places_in(session: Session, one: Alternative, now: Standing, span: Span) -> list[PlacementSwap]:
    """The places that come where a range of an alternative is taken: those that lie whole in it."""
    there = {x.id: x for x in session.placements if x.parameter == one.parameter}
    coming = _named(session, [x for x in now.places if _whole_in(session, x, span)], set(there))
    return [PlacementSwap(there.get(x.id), x) for x in coming.values() if there.get(x.id) != x]


def _named(session: Session, places: Iterable[Placement], own: set[str]) -> dict[str, Placement]:
    """Places by id; those whose id another parameter's place has by now get another one."""
    taken = {x.id for x in session.placements} - own
    ids = session.new_ids("place")
    named = (replace(x, id=next(ids)) if x.id in taken else x for x in places)
    return {x.id: x for x in named}


def _whole_in(session: Session, place: Placement, span: Span) -> bool:
    zero = session.start_of(place.home)
    return span[0] <= zero + place.start and zero + place.end <= span[1]


def ramp_of(request: TakeRange | BringBack) -> int:
    """How long the ramps at a range's edges are; RequestError where they are asked for and have no length."""
    if request.edges == "ramp" and request.ramp <= 0:
        raise RequestError("ramp-none", place="ramp", accepted="a length such as 80 ms")
    return request.ramp if request.edges == "ramp" else 0
