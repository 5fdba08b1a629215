"""Which reader takes a file, told by its first bytes and never by its name alone."""

from __future__ import annotations

import threading
from collections.abc import Iterator
from contextlib import contextmanager
from pathlib import PurePath

from velmot.core.session import Session
from velmot.formats import midi, session_file
from velmot.formats.report import FormatError, Report

ACCEPTED = "a velmot-session file (.velmot.json) or a Standard MIDI File (.mid)"
LARGEST = session_file.LARGEST

_LARGE = 4 * 1024 * 1024
_turn = threading.Lock()


@contextmanager
def taking_turns(size: int) -> Iterator[None]:
    """Large files are read one after the other, so that several at once need no more memory than one."""
    if size < _LARGE:
        yield
        return
    with _turn:
        yield


def read(data: bytes, file_name: str) -> tuple[Session, Report]:
    """The session a file holds, whichever known format it is in. Raises FormatError."""
    stem = PurePath(file_name).name.removesuffix(session_file.ENDING)
    stem = stem.removesuffix(".mid").removesuffix(".midi") or "Imported"
    if data[:4] == b"MThd" or file_name.lower().endswith((".mid", ".midi")):
        return midi.read(data, stem)
    if data.lstrip(b"\xef\xbb\xbf \t\r\n")[:1] == b"{" or file_name.lower().endswith(".json"):
        return session_file.read(data.removeprefix(b"\xef\xbb\xbf"), stem)
    if not data:
        raise FormatError("file-empty", "the file is empty (0 bytes)", place="file", accepted=ACCEPTED)
    raise FormatError(
        "file-unknown", f"“{PurePath(file_name).name}” is in no format Velmot reads", place="file", accepted=ACCEPTED
    )
