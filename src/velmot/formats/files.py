"""Reading a file of whichever format: told by its first bytes, else by its name."""

from __future__ import annotations

import threading
from collections.abc import Iterator
from contextlib import contextmanager
from pathlib import PurePath

from velmot.core.session import Session
from velmot.formats.report import FormatError, Report
from velmot.formats.table import ACCEPTED, FORMATS, by_name

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
    name = PurePath(file_name).name
    found = next((f for f in FORMATS if f.fits(data)), None) or by_name(name)
    if found is not None:
        return found.read(data, found.stem(name) or "Imported")
    if not data:
        raise FormatError("file-empty", "the file is empty (0 bytes)", place="file", accepted=ACCEPTED)
    raise FormatError("file-unknown", f"“{name}” is in no format Velmot reads", place="file", accepted=ACCEPTED)
