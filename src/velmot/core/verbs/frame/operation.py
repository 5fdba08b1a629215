"""The frame of every verb: a request type, and a plan from a session and a request to a Change."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass
from typing import Any, Literal

from velmot.core.errors import RequestError
from velmot.core.parameters.parameter import Parameter
from velmot.core.session.session import Session
from velmot.core.session.track import ON_THE_TRACK, Lane
from velmot.core.session.wording import listed
from velmot.core.verbs.frame.change import Change
from velmot.core.verbs.frame.telling import Told

Kind = Literal["points", "by hand", "drawing", "replacing", "promising", "moving", "linking"]
"""What a verb does to linked places it writes on, unless it is asked otherwise (`core/verbs/frame/linking.py`).

Points, and by hand over ranges: they follow. Drawing: likewise, but one that is drawn over whole is replaced. Replacing: they are set free.
Promising (that nothing is heard differently) and moving: they are taken along or set free, and no other place changes.
Linking: the verb says itself what becomes of them, and looks at the session's places to do so.
"""


@dataclass(frozen=True)
class Operation:
    """A verb: its name, its request type, its plan, what a request says as a sentence, and its kind.

    The plan of a verb that is not `of_places` sees a session without any: what becomes of them is found afterwards. One that
    is `of_past` is given, third, the session as it stood at its request's revision; one `of_sound` whatever tells how loud
    tracks are, or nothing where nobody can.
    """

    verb: str
    request: type[Any]
    plan: Callable[..., Change]
    sentence: Callable[[Session, Any], Told]
    kind: Kind
    of_places: bool = False
    of_past: bool = False
    of_sound: bool = False


def part_of(session: Session, lane: Lane, start: int | None, end: int | None) -> tuple[int, int] | None:
    """The lane's own ticks in a range of the session (in all of it, without one); None where the range does not reach it."""
    zero, stop = session.span(lane)
    first = 0 if start is None else max(start - zero, 0)
    last = (stop if end is None else min(end, stop)) - zero
    return (first, last) if first < last else None


def stop_of(session: Session, lane: Lane) -> int | None:
    """Where time ends for a lane on its track, in its own ticks; of one in a region more may come after it."""
    return session.length if lane.on_track else None


def home_span(session: Session, parameter: Parameter, home: str) -> tuple[int, int]:
    """The session ticks a lane at a home spans; RequestError where it is a region of another track."""
    if home == ON_THE_TRACK:
        return 0, session.length
    owner, region = session.owner(parameter.id), session.region(home)
    if all(r.id != home for r in owner.regions):
        fitting = listed([r.name for r in owner.regions], "region", 8)
        accepted = f"the track, or {fitting}" if fitting else "the track"
        raise RequestError(
            "home-elsewhere",
            name=region.name,
            name2=session.track_of_region(home).name,
            name3=owner.name,
            place="home",
            accepted=accepted,
        )
    return region.start, region.end
