"""The disk: how much room it has, and what has to be on it before anything goes on."""

from __future__ import annotations

import os
import shutil
from pathlib import Path

LITTLE = 200 * 1024 * 1024
"""Bytes below which a disk is getting full: a long pass takes some, an upgrade a copy of everything."""


def free_at(folder: Path) -> int:
    """The bytes that are free where a folder is, or will be made."""
    return shutil.disk_usage(standing(folder)).free


def standing(folder: Path) -> Path:
    """The folder itself, or the first above it that is there: folders are made when something comes."""
    return next(above for above in (folder, *folder.absolute().parents) if above.exists())


def flush(path: Path) -> None:
    """Have the disk take what was written to a file, or which files a folder has."""
    handle = os.open(path, os.O_RDONLY)
    try:
        os.fsync(handle)
    finally:
        os.close(handle)
