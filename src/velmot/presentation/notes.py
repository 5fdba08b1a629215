"""Notes as the screen shows them, each where it is."""

from __future__ import annotations

from pydantic import BaseModel, Field

from velmot.core.session.remarks import About
from velmot.core.session.session import Session


class NoteOut(BaseModel):
    """Some words on a lane, a parameter, a region or a track."""

    about: About
    of: str = Field(description="The id of what it is on.")
    text: str


def notes_out(session: Session) -> list[NoteOut]:
    """The notes on what there is; those on what is gone come back with it."""
    return [NoteOut(about=x.about, of=x.of, text=x.text) for x in session.notes if session.there(x.about, x.of)]
