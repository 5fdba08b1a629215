"""The folder Velmot keeps its data in: made for its owner alone, and worked in by one server at a time."""

from __future__ import annotations

import fcntl
import os
import tempfile
import time
from pathlib import Path
from typing import IO

from velmot.storage.errors import CannotStart

_held: list[IO[str]] = []
_PATIENCE = 1.5  # seconds


def claim(folder: Path) -> None:
    """Make the folder if there is none and hold it for as long as this process lives; CannotStart where that cannot be."""
    os.umask(0o077)
    try:
        folder.mkdir(parents=True, exist_ok=True)
        with tempfile.TemporaryFile(dir=folder) as probe:
            probe.write(b"room for a start")
        lock = (folder / "lock").open("a")
    except OSError as error:
        raise CannotStart(
            f"the folder {folder} cannot be written to ({error.strerror}): "
            "make room or give yourself access, or name another folder (VELMOT_DATA)"
        ) from None
    if not _locked(lock):
        raise CannotStart(
            f"another Velmot is at work in {folder}: use that one, stop it, or name another folder (VELMOT_DATA)"
        )
    _held.append(lock)
    _close_to_others(folder)


def _locked(lock: IO[str]) -> bool:
    """Whether the lock is ours now; one that is just stopping is waited for."""
    until = time.monotonic() + _PATIENCE
    while True:
        try:
            fcntl.flock(lock, fcntl.LOCK_EX | fcntl.LOCK_NB)
            return True
        except OSError:
            if time.monotonic() > until:
                return False
            time.sleep(0.05)


def _close_to_others(folder: Path) -> None:
    """Velmot's own files are nobody else's to read, also those an earlier version has left open; others are let be."""
    for path in (*folder.glob("velmot.sqlite3*"), *folder.glob("secret*"), folder / "lock"):
        if path.is_file() and path.stat().st_uid == os.getuid():
            path.chmod(0o600)
