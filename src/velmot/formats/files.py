"""Reading a file of whichever format: told by its first bytes, else by its name."""

from __future__ import annotations

import json
from collections.abc import Callable, Iterator
from contextlib import contextmanager
from dataclasses import replace
from hashlib import sha256
from pathlib import PurePath

from velmot.core.session.session import Session
from velmot.formats.report import FormatError, Report
from velmot.formats.table import ACCEPTED, FORMATS, by_name
from velmot.formats.turns import Turns

LARGE = 4 * 1024 * 1024
"""Bytes from which on files wait for each other."""

_turns = Turns()


@contextmanager
def taking_turns(size: int, told: Callable[[int], None]) -> Iterator[None]:
    """Large files are read one after the other, so that several at once need no more memory than one.

    `told` hears how many are before this one.
    """
    if size < LARGE:
        yield
        return
    with _turns.taken(told):
        yield


def comes_back(data: bytes) -> bool:
    """Whether a file is one that can be written back into, and so is kept with its session."""
    return _writer_into(data) is not None


CAME_FROM = "came_from"
"""Under which key a session says which file it came from: its name and the digest of its bytes."""


def digest_of(data: bytes) -> str:
    """What tells a file from any other."""
    return sha256(data).hexdigest()


def came_from(session: Session) -> str | None:
    """The digest of the file a session came from, if it says so."""
    said = dict(session.extra).get(CAME_FROM)
    kept = json.loads(said) if said else None
    digest = kept.get("sha256") if isinstance(kept, dict) else None
    return digest if isinstance(digest, str) else None


def into(session: Session, source: bytes) -> tuple[bytes, Report]:
    """The file a session came from, with what was changed in it, and the report of that."""
    write_into = _writer_into(source)
    assert write_into is not None, "only such files are kept"
    return write_into(session, source)


def _writer_into(data: bytes) -> Callable[[Session, bytes], tuple[bytes, Report]] | None:
    return next((f.into for f in FORMATS if f.into is not None and f.fits(data)), None)


def read(data: bytes, file_name: str) -> tuple[Session, Report]:
    """The session a file holds, whichever known format it is in. Raises FormatError."""
    name = PurePath(file_name).name
    found = next((f for f in FORMATS if f.fits(data)), None) or by_name(name)
    if found is not None:
        session, report = found.read(data, found.stem(name) or "Imported")
        if found.into is not None:
            said = json.dumps({"name": name, "sha256": digest_of(data)}, ensure_ascii=False)
            session = replace(session, extra=(*session.extra, (CAME_FROM, said)))
        return session, report
    if not data:
        raise FormatError("file-empty", "the file is empty (0 bytes)", place="file", accepted=ACCEPTED)
    raise FormatError("file-unknown", f"“{name}” is in no format Velmot reads", place="file", accepted=ACCEPTED)
