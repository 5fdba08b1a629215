"""Markers chosen for a verb: found, named, and put where a session can have them."""

from __future__ import annotations

from collections.abc import Sequence

from velmot.core.errors import RequestError
from velmot.core.limits import LONGEST_NAME
from velmot.core.session.session import Session
from velmot.core.session.track import Marker
from velmot.core.session.wording import listed, marker_name
from velmot.core.verbs.frame import cautions as say
from velmot.core.verbs.frame.change import Change, MarkerSwap
from velmot.core.verbs.frame.checks import need
from velmot.core.verbs.frame.telling import Asked


def markers_of(session: Session, ids: Sequence[str]) -> list[Marker]:
    """The markers by where they stand; RequestError for none or unknown ones."""
    need(ids, "marker")
    return sorted((session.marker(id) for id in dict.fromkeys(ids)), key=lambda marker: marker.tick)


def in_words(session: Session, ids: Sequence[str]) -> str | Asked:
    """Markers by name, or how many."""
    names = [f"marker {marker_name(session, session.marker(id))}" for id in dict.fromkeys(ids)]
    return (listed(names, "marker", 1) if names else "") or Asked("choose markers")


def checked_place(session: Session, tick: int) -> int:
    """A place on the ruler; RequestError for one outside of the session."""
    if not 0 <= tick <= session.length:
        end = session.tempo.position(session.length)
        raise RequestError("marker-place", place="at", accepted=f"1.1.00 to {end}")
    return tick


def checked_name(name: str) -> str:
    """A name, which may be empty, without air around it; RequestError for a very long one."""
    if len(name.strip()) > LONGEST_NAME:
        raise RequestError("name/marker", place="name", accepted=f"at most {LONGEST_NAME} characters")
    return name.strip()


def change_of(swaps: Sequence[MarkerSwap]) -> Change:
    """The change of some markers; those that stay what they are are none."""
    real = tuple(swap for swap in swaps if swap.before != swap.after)
    return Change(markers=real, cautions=() if real else (say.no_change(),))
