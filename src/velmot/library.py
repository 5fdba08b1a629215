"""Velmot as a library: open a session, plan and apply requests, hear, find what is odd, write. All of it without a server.

Sessions never change: what is applied is another session. Positions are ticks (`ticks_of` makes them of beats).
"""

from __future__ import annotations

from collections.abc import Mapping
from pathlib import Path
from typing import Any

from velmot import written
from velmot.core import verbs
from velmot.core.curves.envelope import Envelope
from velmot.core.findings import Finding, all_findings, is_let_be
from velmot.core.remedy import Links
from velmot.core.session import heard as hearing
from velmot.core.session.session import Session
from velmot.core.verbs.frame.change import Change
from velmot.formats import files, table
from velmot.formats.requests import from_row
from velmot.formats.sound_out import library_of
from velmot.named import one, with_ids
from velmot.sound.detectors import Detector
from velmot.sound.library import Library


def open(path: str | Path) -> Session:
    """The session of a file, in whichever known format. FormatError (a RequestError) for what holds none; OSError."""
    return files.read(Path(path).read_bytes(), Path(path).name)[0]


def plan(session: Session, request: Mapping[str, Any], links: Links | None = None) -> Change:
    """What a request would do, as the screen previews it: `title`, `lanes`, `cautions`. Its names may stand for ids.

    The request is the JSON of the API, positions in beats: ``{"verb": "carry", "lanes": ["Bell buoy Level"], …}``. RequestError.
    """
    verb, asked = from_row(with_ids(session, dict(request)))
    return verbs.plan(session, verb, asked, links, sounding=sounding(session))


def sounds(session: Session) -> Library:
    """What its tracks sound like where no file of one's own is at hand: stand-ins sound for those."""
    return library_of(session, None, lambda audio: None)


def sounding(session: Session) -> Detector:
    """Tells how loud its tracks are, with the same sounds."""
    return Detector(lambda: sounds(session), lambda audio: False)


def apply(session: Session, request: Mapping[str, Any], links: Links | None = None) -> Session:
    """The session a request leaves. RequestError where it cannot be done."""
    return plan(session, request, links).applied_to(session)


def heard(session: Session, parameter: str, groups: bool = True) -> Envelope:
    """What is heard of a parameter, by its id or its name: `at(ticks)` says values; with what groups add, unless told not to."""
    id = one(session, "parameter", parameter)
    return hearing.heard(session, id, groups).envelope


def findings(session: Session) -> list[Finding]:
    """What is odd or there for nothing, without what was let be; each may hold the request that mends it."""
    return [found for found in all_findings(session) if not is_let_be(session, found)]


def write(session: Session, path: str | Path, *, overwrite: bool = False) -> None:
    """Write it in the format of the file's ending, whole or not at all. RequestError where a file is there, or cannot be made so."""
    target = Path(path)
    written.check_free(target, [], overwrite)
    found = table.to_write(target.name)
    written.write(target, found.write(session)[0])
