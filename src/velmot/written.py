"""Files that are written from the command line: whole or not at all, never over an input, over others only if asked."""

from __future__ import annotations

import os
import tempfile
from collections.abc import Iterable
from pathlib import Path

from velmot.core.errors import RequestError


def check_free(target: Path, inputs: Iterable[Path], overwrite: bool) -> None:
    """RequestError where a file would be written over one that is read, or over one that is there without being asked to."""
    if any(_same(target, one) for one in inputs):
        raise RequestError("over-input", name=target.name, place="target", accepted="another name")
    if target.exists() and not overwrite:
        raise RequestError("exists", name=target.name, place="target", accepted="another name, or --overwrite")


def _same(one: Path, other: Path) -> bool:
    try:
        return one.samefile(other)
    except OSError:
        return one.resolve() == other.resolve()


def write(target: Path, data: bytes) -> None:
    """Put a file there in one go: a full disk or a kill leaves what was there before. OSError names the target."""
    try:
        handle, name = tempfile.mkstemp(prefix=".velmot-", dir=target.parent)
        beside = Path(name)
        try:
            with os.fdopen(handle, "wb") as file:
                file.write(data)
            beside.chmod(0o666 & ~_umask())
            beside.replace(target)
        except BaseException:
            beside.unlink()
            raise
    except OSError as error:
        error.filename = str(target)
        error.filename2 = None
        raise


def _umask() -> int:
    now = os.umask(0)
    os.umask(now)
    return now
