"""Markers as the ruler shows them."""

from __future__ import annotations

from pydantic import BaseModel, Field

from velmot.core.session.session import Session
from velmot.core.session.wording import marker_name
from velmot.core.time.ticks import beats_of


class MarkerOut(BaseModel):
    """A named place on the ruler, in beats."""

    id: str
    name: str = Field(description="It may be empty.")
    called: str = Field(description="Its name, or where it stands.")
    at: float
    cue: bool


def markers_out(session: Session) -> list[MarkerOut]:
    """All markers, by where they stand."""
    return [
        MarkerOut(id=m.id, name=m.name, called=marker_name(session, m), at=beats_of(m.tick), cue=m.cue)
        for m in session.markers_in_time
    ]
