"""Backups of a folder of data: one file each, made beside a running server, checked, and put back whole.

A backup is a ZIP archive: the database as it was at one moment, the files of own audio, and a list with the digest of each.
"""

from __future__ import annotations

import json
import os
import shutil
import sqlite3
import tempfile
import zipfile
import zlib
from contextlib import closing, suppress
from dataclasses import dataclass
from datetime import UTC, datetime
from hashlib import sha256
from pathlib import Path, PurePosixPath
from typing import IO

from velmot import __version__
from velmot.storage.disk import flush, free_at
from velmot.storage.errors import CannotStart

DATABASE = "velmot.sqlite3"
AUDIO = "audio"
LIST = "velmot-backup.json"
BEFORE = "before"
"""Where the folder keeps what it was before an upgrade or a restore."""
MOST_BEFORE = 3
_ROOM = ".restoring-"
_PIECE = 1024 * 1024
_HEAD = b"SQLite format 3\0"


class BackupError(Exception):
    """Why a backup was not made or put back, as one sentence."""


@dataclass(frozen=True)
class Kept:
    """What a backup holds: its files with their digests, and what made it when."""

    files: dict[str, str]
    version: str
    made: str

    @property
    def audio(self) -> int:
        """How many files of own audio are in it."""
        return sum(name.startswith(f"{AUDIO}/") for name in self.files)


def usual_name(now: datetime) -> str:
    """What a backup is called: “velmot-2026-12-01-0815.zip”."""
    return f"velmot-{now:%Y-%m-%d-%H%M}.zip"


def make(data: Path, target: Path) -> Kept:
    """Write a backup of a folder, whole or not at all, and read it through; nothing is ever written over. BackupError."""
    if not (data / DATABASE).exists():
        raise BackupError(f"nothing is kept in {data}: name the folder with --data")
    if target.exists():
        raise BackupError(f"{target} is there already: name another file")
    try:
        with tempfile.TemporaryDirectory(dir=target.absolute().parent, prefix=".velmot-backup") as room:
            whole = Path(room) / "backup.zip"
            kept = _write(data, Path(room) / DATABASE, whole)
            check(whole)
            whole.chmod(0o600)
            flush(whole)
            os.link(whole, target)  # which never takes the place of a file that came meanwhile
            flush(target.absolute().parent)
    except FileExistsError:
        raise BackupError(f"{target} is there already: name another file") from None
    except sqlite3.DatabaseError as error:
        raise BackupError(f"the database in {data} cannot be read ({error}): `velmot doctor` says more") from None
    except OSError as error:
        raise BackupError(f"{error.filename or target}: {error.strerror}") from None
    return kept


def _write(data: Path, copy: Path, target: Path) -> Kept:
    with closing(sqlite3.connect(data / DATABASE)) as source, closing(sqlite3.connect(copy)) as db:
        source.backup(db)
        db.execute("PRAGMA journal_mode = DELETE")
    sound = sorted(path for path in (data / AUDIO).glob("*") if path.is_file() and not path.name.startswith("."))
    files: dict[str, str] = {}
    with zipfile.ZipFile(target, "x", zipfile.ZIP_DEFLATED) as archive:
        for path in (copy, *sound):
            name = path.name if path == copy else f"{AUDIO}/{path.name}"
            files[name] = _digest_of(path)
            archive.write(path, name, zipfile.ZIP_DEFLATED if path == copy else zipfile.ZIP_STORED)
        kept = Kept(files, __version__, datetime.now(UTC).isoformat(timespec="seconds"))
        archive.writestr(LIST, json.dumps({"velmot": kept.version, "made": kept.made, "files": files}, indent=1))
    return kept


def _digest_of(path: Path) -> str:
    with path.open("rb") as file:
        return _digest(file)


def _digest(file: IO[bytes]) -> str:
    digest = sha256()
    while piece := file.read(_PIECE):
        digest.update(piece)
    return digest.hexdigest()


def check(backup: Path) -> Kept:
    """What a backup holds, once every file in it is what its list says; BackupError where one is not."""
    try:
        with zipfile.ZipFile(backup) as archive:
            kept = _listed(archive, backup)
            for name, digest in kept.files.items():
                with archive.open(name) as file:
                    if _digest(file) != digest:
                        raise BackupError(f"{backup} is damaged: {name} is not what was kept")
    except (zipfile.BadZipFile, zlib.error, EOFError, NotImplementedError, RuntimeError, ValueError) as error:
        raise BackupError(f"{backup} is damaged, or no backup ({error})") from None
    except OSError as error:
        raise BackupError(f"{backup}: {error.strerror or error}") from None
    return kept


def _listed(archive: zipfile.ZipFile, backup: Path) -> Kept:
    try:
        row = json.loads(archive.read(LIST))
        kept = Kept(dict(row["files"]), str(row["velmot"]), str(row["made"]))
    except (KeyError, ValueError, TypeError):
        raise BackupError(f"{backup} is no backup of Velmot: it has no list") from None
    strange = [name for name in {*archive.namelist(), *kept.files} - {LIST} if not _is_ours(str(name))]
    if strange or DATABASE not in kept.files or {*archive.namelist()} - {LIST} != {*kept.files}:
        raise BackupError(
            f"{backup} is no backup of Velmot: it holds {strange[0] if strange else 'other files than its list'}"
        )
    return kept


def _is_ours(name: str) -> bool:
    parts = PurePosixPath(name).parts
    return name == DATABASE or (len(parts) == 2 and parts[0] == AUDIO and parts[1] not in ("..", "."))


def restore(backup: Path, data: Path) -> tuple[Kept, Path | None]:
    """Put a backup in the place of what a folder holds, once it is checked; (what it holds, where what was there lies now).

    The folder must be held by nobody else. A kill leaves what was there, or what was put back. BackupError.
    """
    kept = check(backup)
    data.mkdir(parents=True, exist_ok=True, mode=0o700)
    for left in data.glob(f"{_ROOM}*"):  # of one that was killed
        shutil.rmtree(left, ignore_errors=True)
    try:
        with tempfile.TemporaryDirectory(dir=data, prefix=_ROOM) as room:
            with zipfile.ZipFile(backup) as archive:
                for name in kept.files:
                    archive.extract(name, room)
            _whole(Path(room) / DATABASE, backup)
            was = _aside(data)
            (data / AUDIO).mkdir(exist_ok=True, mode=0o700)
            for name in kept.files:
                if name != DATABASE:
                    flush(Path(room) / name)
                    (Path(room) / name).replace(data / name)  # named by their content, so that none stands in the way
            (Path(room) / DATABASE).chmod(0o600)
            flush(Path(room) / DATABASE)
            (Path(room) / DATABASE).replace(data / DATABASE)
            flush(data)
    except OSError as error:
        raise BackupError(f"{error.filename or data}: {error.strerror}") from None
    return kept, was


def _whole(database: Path, backup: Path) -> None:
    try:
        with closing(sqlite3.connect(database)) as db:
            said = db.execute("PRAGMA quick_check(1)").fetchone()[0]
        with database.open("rb") as file:
            said = said if file.read(len(_HEAD)) == _HEAD else "it is none"
    except sqlite3.DatabaseError as error:
        said = str(error)
    if said != "ok":
        raise BackupError(f"the database in {backup} is damaged ({said})")


def _aside(data: Path) -> Path | None:
    """Lay what the folder holds aside; nothing where it holds nothing."""
    if not (data / DATABASE).exists():
        return None
    # What a killed server has not taken into its file yet is taken in; a file that is damaged is laid aside as it is.
    with suppress(sqlite3.DatabaseError), closing(sqlite3.connect(data / DATABASE)) as db:
        db.execute("PRAGMA wal_checkpoint(TRUNCATE)")
    was = keep_before(data / DATABASE, "restore")
    for side in ("-wal", "-shm", "-journal"):
        if (path := data / (DATABASE + side)).exists():
            path.replace(was.with_name(was.name + side))
    return was


def keep_before(database: Path, what: str) -> Path:
    """Keep a database file as it is under a name of its own, without copying it; of several the newest few stay."""
    folder = database.parent / BEFORE
    folder.mkdir(exist_ok=True, mode=0o700)
    target = folder / f"{datetime.now(UTC):%Y-%m-%d-%H%M%S-%f}-{what}.sqlite3"
    try:
        os.link(database, target)
    except OSError:  # a disk that knows no second name for a file
        shutil.copy2(database, target)
    for old in sorted(folder.glob("*.sqlite3"))[:-MOST_BEFORE]:
        old.unlink()
    return target


def room_for(data: Path) -> None:
    """CannotStart where the disk has no room for another copy of the database."""
    path = data / DATABASE
    free = free_at(data)
    if path.exists() and free < 2 * path.stat().st_size:
        need = 2 * path.stat().st_size // 1024 // 1024 + 1
        raise CannotStart(
            f"the upgrade of {path} needs {need} MB on its disk, {free // 1024 // 1024} are free: make room"
        )
