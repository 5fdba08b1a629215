"""Set a note: some words on a lane, a parameter, a region or a track."""

from __future__ import annotations

from velmot.core.errors import RequestError
from velmot.core.limits import LONGEST_NOTE
from velmot.core.session.remarks import Note
from velmot.core.session.session import Session
from velmot.core.session.wording import parameter_name
from velmot.core.verbs.frame import telling as tell
from velmot.core.verbs.frame.cautions import no_change
from velmot.core.verbs.frame.change import Change, NoteSwap
from velmot.core.verbs.frame.operation import Operation
from velmot.core.verbs.notes.request import SetNote

_SAID = 40
"""Letters of a note that its step is called by."""


def plan(session: Session, request: SetNote) -> Change:
    """The session with the note on it, or without."""
    _called(session, request)
    text = request.text.strip()
    if len(text) > LONGEST_NOTE:
        raise RequestError("note-long", count=len(text), place="text", accepted=f"at most {LONGEST_NOTE:,} characters")
    known = next((x for x in session.notes if (x.about, x.of) == (request.about, request.of)), None)
    id = known.id if known else next(session.new_ids("note"))
    note = Note(id, request.about, request.of, text, known.extra if known else ()) if text else None
    return Change(notes=(NoteSwap(known, note),)) if note != known else Change(cautions=(no_change(),))


def _called(session: Session, request: SetNote) -> str:
    """What the note is on, by name; RequestError where there is no such thing."""
    if request.about == "lane":
        return session.lane_name(session.lane(request.of))
    if request.about == "parameter":
        session.parameter(request.of)
        return parameter_name(session, request.of)
    if request.about == "region":
        return session.region(request.of).name
    return session.track(request.of).name


def sentence(session: Session, request: SetNote) -> tell.Told:
    """“Note on Bell buoy Level: too loud in the second verse.” or “Take the note off Bell buoy.”"""
    of = _called(session, request) if request.of else tell.Asked("choose what it is on")
    text = request.text.strip()
    if not text:
        return tell.told("Take the note off {of}.", of=of)
    return tell.told("Note on {of}: {text}.", of=of, text=text if len(text) <= _SAID else f"{text[:_SAID]}…")


OPERATION = Operation("note", SetNote, plan, sentence, "moving")
