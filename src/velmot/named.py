"""Requests that name lanes, tracks and parameters in place of their ids, which differ from file to file."""

from __future__ import annotations

from collections.abc import Callable, Iterable
from typing import Any

from velmot.core.errors import RequestError
from velmot.core.session.session import Session
from velmot.core.session.wording import parameter_name

Named = Iterable[tuple[str, str]]
"""(id, name) of everything of a kind."""


def _lanes(session: Session) -> Named:
    return ((lane.id, session.lane_name(lane)) for lane in session.lanes)


def _tracks(session: Session) -> Named:
    return ((track.id, track.name) for track in session.tracks)


def _parameters(session: Session) -> Named:
    return ((p.id, parameter_name(session, p.id)) for t in session.tracks for p in t.parameters)


def _regions(session: Session) -> Named:
    return ((region.id, region.name) for track in session.tracks for region in track.regions)


def _markers(session: Session) -> Named:
    return ((marker.id, marker.name) for marker in session.markers)


KINDS: dict[str, tuple[str, Callable[[Session], Named]]] = {
    **dict.fromkeys(("lane", "lanes"), ("lane", _lanes)),
    **dict.fromkeys(
        ("track", "tracks", "targets", "members", "member", "groups", "group", "take_in", "let_go"), ("track", _tracks)
    ),
    **dict.fromkeys(("parameter", "parameters", "source"), ("parameter", _parameters)),
    "regions": ("region", _regions),
    "markers": ("marker", _markers),
}
"""What the fields of requests name: the noun, and where it is looked up."""


def one(session: Session, field: str, said: str, place: str = "") -> str:
    """The id of what a field of that name says, by its id or its name; RequestError where it is nobody's, or several's."""
    noun, everything = KINDS[field]
    known = list(everything(session))
    if any(id == said for id, _ in known):
        return said
    hits = [id for id, name in known if name == said]
    if len(hits) == 1:
        return hits[0]
    accepted = " or ".join(hits[:8]) if hits else f"a {noun} by its name or id"
    kind = "named/several" if hits else "named/nobody"
    raise RequestError(kind, noun=noun, name=said, count=len(hits), place=place or field, accepted=accepted)


def with_ids(session: Session, row: dict[str, Any]) -> dict[str, Any]:
    """A request as JSON with the ids of this session for the names it says. RequestError as of `one`."""
    return {name: _found(session, name, value) for name, value in row.items()}


def _found(session: Session, field: str, value: Any) -> Any:
    if isinstance(value, list):
        return [_found(session, field, each) for each in value]
    if isinstance(value, dict):
        return with_ids(session, value)
    return one(session, field, value) if isinstance(value, str) and field in KINDS else value
