"""The groups above a track."""

from __future__ import annotations

from typing import TYPE_CHECKING

from velmot.core.errors import RequestError
from velmot.core.session.track import Track

if TYPE_CHECKING:
    from velmot.core.session.session import Session


def groups_above(session: Session, track_id: str, most: int | None = None) -> list[Track]:
    """Every group fader above a track (or as many as `most`), nearest first; groups may be nested.

    Raises RequestError where a group contains itself.
    """
    above: dict[str, Track] = {}
    todo = [track_id]
    for member in todo:
        for track in session._parents.get(member, ()):
            if track.id == track_id:
                raise RequestError(
                    "group-circle",
                    name=track.name,
                    place=f"track {track.id}, members",
                    accepted="members that do not hold the group",
                )
            if track.id not in above:
                above[track.id] = track
                todo.append(track.id)
        if most is not None and len(above) >= most:
            break
    return list(above.values())
