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


def with_ids(session: Session, row: dict[str, Any]) -> dict[str, Any]:
    """A request as JSON with the ids of this session for the names it says. RequestError where a name is nobody's, or several's."""
    return {name: _found(session, name, value) for name, value in row.items()}


def _found(session: Session, field: str, value: Any) -> Any:
    if isinstance(value, list):
        return [_found(session, field, one) for one in value]
    if isinstance(value, dict):
        return with_ids(session, value)
    if not isinstance(value, str) or field not in KINDS:
        return value
    noun, everything = KINDS[field]
    known = list(everything(session))
    if any(id == value for id, _ in known):
        return value
    hits = [id for id, name in known if name == value]
    if len(hits) == 1:
        return hits[0]
    kind = "named/several" if hits else "named/nobody"
    raise RequestError(
        kind, noun=noun, name=value, count=len(hits), place=field, accepted=f"a {noun} by its name or id"
    )
