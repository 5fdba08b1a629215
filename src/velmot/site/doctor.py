"""`velmot doctor`: whether this machine can run Velmot, and whether what is kept is whole, in plain words."""

from __future__ import annotations

import os
import socket
import sqlite3
import sys
import webbrowser
from collections.abc import Iterator
from contextlib import closing
from dataclasses import dataclass
from pathlib import Path

from velmot import __version__
from velmot.core.words import counted
from velmot.site.paths import BUILT
from velmot.storage.backups import AUDIO, DATABASE
from velmot.storage.disk import LITTLE, free_at, standing

LEAST_SQLITE = (3, 31)


@dataclass(frozen=True)
class Said:
    """One thing that was looked at: whether it is as it should be, what it is, and what would help."""

    what: str
    fine: bool
    words: str
    remedy: str = ""


def examined(data: Path, port: int, address: str | None) -> list[Said]:
    """Everything that is looked at; `address` is where the folder's server answers."""
    return [
        Said("Velmot", True, f"{__version__}, in {Path(__file__).parents[1]}"),
        _python(),
        _sqlite(),
        _screen(),
        *_folder(data),
        *_kept(data),
        _port(port, address),
        _browser(),
    ]


def _python() -> Said:
    now = ".".join(map(str, sys.version_info[:3]))
    return Said("Python", sys.version_info >= (3, 11), now, "use Python 3.11 or newer")


def _sqlite() -> Said:
    fine = sqlite3.sqlite_version_info >= LEAST_SQLITE
    return Said("SQLite", fine, sqlite3.sqlite_version, f"use a Python with SQLite {'.'.join(map(str, LEAST_SQLITE))}")


def _screen() -> Said:
    there = (BUILT / "manifest.json").exists()
    words = f"in {BUILT}" if there else f"not in {BUILT}"
    return Said("The page", there, words, "install Velmot anew, or build it with `make demo`")


def _folder(data: Path) -> Iterator[Said]:
    if not data.exists():
        parent = standing(data)
        fine = parent.is_dir() and os.access(parent, os.W_OK)
        yield Said(
            "Folder", fine, f"{data} will be made", f"name one that can be made (--data): {parent} lets you make none"
        )
    else:
        fine = os.access(data, os.R_OK | os.W_OK | os.X_OK)
        yield Said("Folder", fine, f"{data}", "give yourself access, or name another (--data)")
    free = free_at(data)
    yield Said("Disk", free >= LITTLE, f"{free // 1024 // 1024} MB are free", "make room: what is saved needs some")


def _kept(data: Path) -> Iterator[Said]:
    path = data / DATABASE
    if not path.exists():
        yield Said("Kept", True, "nothing yet")
        return
    back = f"put a backup back: velmot restore FILE --data {data}"
    try:
        with closing(sqlite3.connect(f"file:{path}?mode=ro", uri=True)) as db:
            problem = db.execute("PRAGMA integrity_check(1)").fetchone()[0]
            if problem != "ok":
                yield Said("Kept", False, f"{path} is damaged ({problem.splitlines()[-1]})", back)
                return
            sessions = db.execute("SELECT count(*) FROM storage_storedsession WHERE deleted IS NULL").fetchone()[0]
            named = {row[0] for row in db.execute("SELECT digest FROM storage_storedaudio")}
    except sqlite3.DatabaseError as error:
        yield Said("Kept", False, f"{path} cannot be read ({error})", back)
        return
    yield Said("Kept", True, f"{counted(sessions, 'session')}, {path.stat().st_size / 1024 / 1024:.1f} MB, whole")
    there = {file.stem for file in (data / AUDIO).glob("*")}
    lost = len(named - there)
    words = f"{counted(len(named), 'file')} of your own" + (f", {lost} of them gone" if lost else "")
    yield Said("Sound", not lost, words, "choose them again on their tracks, or put a backup back")


def _port(port: int, address: str | None) -> Said:
    if address:
        return Said("Server", True, f"at work, at {address}")
    with socket.socket() as probe:
        probe.setsockopt(socket.SOL_SOCKET, socket.SO_REUSEADDR, 1)
        try:
            probe.bind(("127.0.0.1", port))
        except OSError as error:
            return Said("Port", False, f"{port}: {error.strerror}", "stop what uses it, or take another with --port")
    return Said("Port", True, f"{port} is free")


def _browser() -> Said:
    try:
        webbrowser.get()
    except webbrowser.Error:
        return Said("Browser", True, "none is known to Python: open the address that `velmot serve` prints by hand")
    return Said("Browser", True, "there is one")


def told(all_said: list[Said]) -> str:
    """It all, a line each."""
    width = max(len(s.what) for s in all_said)
    lines = [f"{'ok' if s.fine else '!!'}  {s.what.ljust(width)}  {s.words}" + (f": {s.remedy}" if not s.fine else "") for s in all_said]  # fmt: skip
    wrong = sum(not s.fine for s in all_said)
    return "\n".join([*lines, "All is well." if not wrong else f"{counted(wrong, 'thing')} to put right."])
