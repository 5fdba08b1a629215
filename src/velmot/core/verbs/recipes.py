"""Recipes: the settings of a carry, a retarget or a follow, kept apart from what they were used on, and used again."""

from __future__ import annotations

from dataclasses import dataclass, replace
from typing import Any

from velmot.core.errors import RequestError
from velmot.core.session.session import Session
from velmot.core.session.track import Track
from velmot.core.session.wording import parameter_name
from velmot.core.time.ticks import Tick
from velmot.core.verbs.carry.request import Carry
from velmot.core.verbs.follow.request import Follow, FollowOn
from velmot.core.verbs.frame.checks import need
from velmot.core.verbs.retarget.request import Retarget, Target

VERBS: dict[str, type[Any]] = {"carry": Carry, "retarget": Retarget, "follow": Follow}


@dataclass(frozen=True)
class Recipe:
    """A request without its selection. `names` says what its target ids were called, to find them elsewhere.

    Where it lands is kept as a distance from the selection's start.
    """

    verb: str
    request: Any
    names: tuple[tuple[str, str], ...] = ()


@dataclass(frozen=True)
class Selection:
    """What a recipe is used on: lanes and a range (None: the lanes whole)."""

    lanes: tuple[str, ...]
    start: Tick | None = None
    end: Tick | None = None


def kept(session: Session, verb: str, request: Any) -> Recipe:
    """The recipe of a request; RequestError for a verb that has none."""
    if verb not in VERBS:
        raise RequestError("recipe-verb", verb=verb, place="verb", accepted=", ".join(VERBS))
    if isinstance(request, Follow):
        return _kept_follow(session, request)
    at = None if request.at is None else Tick(request.at - (request.start or 0))
    bare: dict[str, Any] = {"start": None, "end": None, "at": at}
    if isinstance(request, Carry):
        bare |= {"lanes": (), "devices": ()}
        names = {id: session.track(id).name for id in request.targets}
    else:
        bare |= {"lane": ""}
        names = {t.parameter: parameter_name(session, t.parameter) for t in request.targets}
    return Recipe(verb, replace(request, **bare), tuple(names.items()))


def used(session: Session, recipe: Recipe, on: Selection) -> tuple[Any, list[str]]:
    """The recipe's request on a selection, and in words what of it could not be found here."""
    need(on.lanes, "lane")
    missing: list[str] = []
    request = recipe.request
    if isinstance(request, Follow):
        return _followed(session, recipe, request, on)
    at = None if request.at is None else Tick(max(request.at + (on.start or 0), 0))
    common: dict[str, Any] = {"start": on.start, "end": on.end, "at": at}
    if isinstance(request, Carry):
        targets = tuple(t.id for id, name in recipe.names if (t := _track(session, id, name, missing)))
        matches = tuple(m for m in request.matches if _known(session, m.parameter, m.track, m.onto))
        return replace(request, lanes=on.lanes, targets=targets, matches=matches, **common), missing
    spans = {t.parameter: t for t in request.targets}
    found = [(spans[id], _parameter(session, id, name, missing)) for id, name in recipe.names if id in spans]
    landing = tuple(Target(p, t.low, t.high) for t, p in found if p is not None)
    return replace(request, lane=on.lanes[0], targets=landing, **common), missing


def _kept_follow(session: Session, request: Follow) -> Recipe:
    names = {id: session.track(id).name for id in request.tracks}
    if request.source is not None:
        names[request.source] = parameter_name(session, request.source)
    return Recipe("follow", replace(request, start=None, end=None), tuple(names.items()))


def _followed(session: Session, recipe: Recipe, request: Follow, on: Selection) -> tuple[Follow, list[str]]:
    """What is chosen is driven, from what a track or a parameter of that name does here."""
    missing: list[str] = []
    names = dict(recipe.names)
    ends = (request.targets[0].low, request.targets[0].high) if request.targets else (None, None)
    tracks = tuple(t.id for id in request.tracks if (t := _track(session, id, names.get(id, id), missing)))
    source = request.source
    if source is not None:
        source = _parameter(session, source, names.get(source, source), missing)
    targets = []
    for lane in dict.fromkeys(on.lanes):
        parameter = session.parameter(session.lane(lane).parameter)
        fits = all(x is None or parameter.low <= x <= parameter.high for x in ends)
        targets.append(FollowOn(parameter.id, *(ends if fits else (None, None)), home=session.lane(lane).home))
    driven = tuple(dict.fromkeys(targets))
    return replace(request, targets=driven, tracks=tracks, source=source, start=on.start, end=on.end), missing


def _track(session: Session, id: str, name: str, missing: list[str]) -> Track | None:
    found = next((t for t in session.tracks if t.id == id and t.name == name), None)
    found = found or next((t for t in session.tracks if t.name == name), None)
    if found is None:
        missing.append(f"there is no track {name} here")
    return found


def _parameter(session: Session, id: str, name: str, missing: list[str]) -> str | None:
    named = [p.id for t in session.tracks for p in t.parameters if f"{t.name} {p.name}" == name]
    if not named:
        missing.append(f"there is no {name} here")
    return id if id in named else next(iter(named), None)


def _known(session: Session, source: str, track: str, onto: str | None) -> bool:
    parameters = {p.id for t in session.tracks for p in t.parameters}
    return source in parameters and track in {t.id for t in session.tracks} and (onto is None or onto in parameters)
