"""A place as it is typed: a position, or the name of a marker."""

from __future__ import annotations

from velmot.core.errors import RequestError
from velmot.core.session.session import Session
from velmot.core.session.track import Marker
from velmot.core.session.wording import listed
from velmot.core.time.ticks import Tick
from velmot.core.time.typed import parse_position


def place_of(session: Session, text: str) -> Tick:
    """The tick a typed place means. What can be a position is one; else the marker of that name, or the only one that
    begins so; letters may be large or small. Raises RequestError naming what would be read.
    """
    try:
        return parse_position(text, session.tempo)
    except RequestError as error:
        if error.code != "position-unread" or not session.markers:
            raise
        found = _markers_called(session, text)
        if len({m.tick for m in found}) == 1:
            return Tick(found[0].tick)
        if found:
            where = listed([str(session.tempo.position(m.tick)) for m in found], "place", 4)
            raise RequestError(
                "marker-several", text=text, count=len(found), place="position", accepted=where
            ) from None
        named = list(dict.fromkeys(m.name for m in session.markers_in_time if m.name))
        accepted = f"{error.accepted}, or a marker ({listed(named, 'marker')})" if named else error.accepted
        raise error.said_at(error.place, accepted) from None


def _markers_called(session: Session, text: str) -> list[Marker]:
    """The markers of a name, else those that begin with it."""
    said = text.strip().casefold()
    if not said:
        return []
    exact = [m for m in session.markers_in_time if m.name.casefold() == said]
    return exact or [m for m in session.markers_in_time if m.name.casefold().startswith(said)]
