"""Pool: what several places do alike becomes one phrase, to which all of them are linked."""

from __future__ import annotations

from typing import NamedTuple

from velmot.core.curves import editing
from velmot.core.curves.alike import likeness
from velmot.core.curves.difference import SAME
from velmot.core.curves.editing import Fragment
from velmot.core.errors import RequestError
from velmot.core.remedy import Remedy
from velmot.core.session.phrases import Placement
from velmot.core.session.session import Session
from velmot.core.session.track import Lane
from velmot.core.verbs.frame import telling as tell
from velmot.core.verbs.frame.change import Change, PhraseSwap, PlacementSwap, caution
from velmot.core.verbs.frame.checks import need_range
from velmot.core.verbs.frame.given import kept
from velmot.core.verbs.frame.operation import Operation
from velmot.core.verbs.frame.usual_bound import usual_bound
from velmot.core.verbs.reuse.request import Pool, PoolPlace, SetFree
from velmot.core.verbs.thin.request import Within
from velmot.core.words import Arg, Figure, counted


class _Laid(NamedTuple):
    """A place linked, and how far from the model it is, in axis units and in parts of what it may be."""

    placement: Placement
    lane: Lane
    far: float
    at: int
    part: float


def plan(session: Session, request: Pool) -> Change:
    """The change that makes the phrase, with the model as its first place; the others are drawn as it says."""
    if not request.lane:
        raise RequestError("lanes-none", place="lane", accepted="a lane")
    model = PoolPlace(request.lane, request.start, request.end)
    lane, start, end = _span(session, model, "range")
    phrase = kept(session, lane, start, end, request.name, next(session.new_ids("phrase")))
    ids = session.new_ids("place")
    first = _Laid(_placement(session, next(ids), phrase.id, lane, start, end), lane, 0.0, start, 0.0)
    laid = [
        first,
        *(_laid(session, next(ids), phrase.id, phrase.piece, request, n) for n in range(len(request.places))),
    ]
    _check_apart(session, laid)
    worst = max(laid, key=lambda one: one.part)
    swaps = tuple(PlacementSwap(None, one.placement) for one in laid)
    said: dict[str, Arg] = {"name": phrase.name, "count": len(laid), "where": str(session.tempo.position(worst.at))}
    far = Figure(worst.far, session.parameter(worst.lane.parameter).format_distance(worst.far))
    kind = "pooled" if worst.far > SAME else "pooled/exact"
    told = caution(kind, said, far=far, lane=worst.lane.id, start=worst.at)
    return Change(phrases=(PhraseSwap(None, phrase),), placements=swaps, cautions=(told,))


def _span(session: Session, place: PoolPlace, field: str) -> tuple[Lane, int, int]:
    """The lane of a place and its span as far as the lane's home reaches."""
    need_range(place.start, place.end)
    lane = session.lane(place.lane)
    first, last = session.span(lane)
    start, end = max(first, place.start), min(last, place.end)
    if start >= end:
        raise RequestError(
            "nothing-here", name=session.lane_name(lane), place=field, accepted="a range it reaches into"
        )
    return lane, start, end


def _placement(
    session: Session, id: str, phrase: str, lane: Lane, start: int, end: int, scale: float = 1.0, offset: float = 0.0
) -> Placement:
    zero = session.zero_of(lane)
    return Placement(id, phrase, lane.parameter, lane.home, start - zero, end - start, scale, offset)


def _laid(session: Session, id: str, phrase: str, model: Fragment, request: Pool, n: int) -> _Laid:
    """A place on the straight line that brings the model nearest to it; RequestError where that is too far."""
    field = f"places[{n}]"
    lane, start, end = _span(session, request.places[n], field)
    parameter = session.parameter(lane.parameter)
    found = likeness(model, editing.cut(session.in_session_time(lane), start, end))
    bound = _bound(parameter.distance_unit, usual_bound(parameter), request.within)
    same_values = found.scale == 1 and abs(found.offset) <= SAME
    if abs(found.scale) < SAME:
        name, where = session.lane_name(lane), str(session.tempo.position(start))
        raise RequestError("pool-flat", name=name, where=where, place=field, accepted="places in which it moves")
    if found.far > bound or (parameter.holds_only and not same_values):
        raise RequestError(
            "pool-far",
            name=session.lane_name(lane),
            where=str(session.tempo.position(start)),
            far=parameter.format_distance(found.far),
            place=field,
            accepted=f"places within {parameter.format_distance(bound)} of it",
        )
    placement = _placement(session, id, phrase, lane, start, end, found.scale, found.offset)
    return _Laid(placement, lane, found.far, start + found.at, found.far / bound)


def _bound(unit: str, usual: float, within: tuple[Within, ...]) -> float:
    return next((one.amount for one in within if one.unit == unit), usual)


def _check_apart(session: Session, laid: list[_Laid]) -> None:
    """RequestError where a place would lie over another one, new or old."""
    taken: dict[tuple[str, str], list[Placement]] = {}
    for one in laid:
        p = one.placement
        there = session.placed_on(p.parameter, p.home)
        others = taken.setdefault((p.parameter, p.home), [])
        if any(_over(x, p) for x in (*there, *others)):
            raise RequestError(
                "pool-over",
                name=session.lane_name(one.lane),
                where=str(session.tempo.position(session.zero_of(one.lane) + p.start)),
                place="places",
                accepted="places beside each other, none linked yet",
                remedy=_free(session, laid),
            )
        others.append(p)


def _over(one: Placement, other: Placement) -> bool:
    return one.start < other.end and other.start < one.end


def _free(session: Session, laid: list[_Laid]) -> Remedy | None:
    """To set free whatever is linked where something is to be; None where only new places are in the way of each other."""
    asked = [one.placement for one in laid]
    there = {x.id: None for p in asked for x in session.placed_on(p.parameter, p.home) if _over(x, p)}
    return Remedy("set free what is linked there first", step=SetFree(tuple(there))) if there else None


def sentence(session: Session, request: Pool) -> tell.Told:
    """“Pool Bell buoy Level from 9.1.00 to 13.1.00 as swell, with 4 other places.”"""
    return tell.told(
        "Pool {lane} from {start} to {end} as {name}, with {places}.",
        lane=tell.lanes(session, [request.lane] if request.lane else []),
        start=tell.position(session, request.start),
        end=tell.position(session, request.end),
        name=request.name.strip() or tell.Asked("name it"),
        places=counted(len(request.places), "other place") if request.places else "no other place",
    )


OPERATION = Operation("pool", Pool, plan, sentence, "linking", of_places=True)
