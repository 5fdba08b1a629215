"""The database file: made, upgraded and checked as a copy that is put in place whole, so that no kill leaves half of one.

Space that removed sessions took is given back to the disk.
"""

from __future__ import annotations

import os
import sqlite3
from contextlib import closing
from pathlib import Path

from django.core.management import call_command
from django.db import connection
from django.db.migrations.loader import MigrationLoader

from velmot.storage import backups, disk
from velmot.storage.errors import CannotStart

_SIDES = ("", "-wal", "-shm", "-journal")
CHECKED_WHOLE = 256 * 1024 * 1024  # a larger file's structure is not read through at every start
ELSEWHERE = "or start in an empty folder (VELMOT_DATA)"


def prepare(path: Path) -> None:
    """Make the database of the newest form stand at `path`; CannotStart, in one sentence, where it cannot be.

    An old one is copied, upgraded and checked beside the file, which stays as it is until the new one takes its
    name, and is kept under another until that one has been opened, and for later in the folder `before`.
    """
    new, old = path.with_name(path.name + ".new"), path.with_name(path.name + ".old")
    _remove(new)
    if path.exists():
        missing = _missing(path)
        if missing:
            backups.room_for(path.parent)
            _copy(path, new)
    else:
        missing = True
    if missing:
        _make(new)
        _check(new)
        if path.exists():
            backups.keep_before(path, "upgrade")
            _remove(old)
            os.link(path, old)
        new.replace(path)
        disk.flush(path.parent)
    _check(path)
    _remove(old)


def _missing(path: Path) -> bool:
    """Whether the file lacks a step of this version's; CannotStart if it is damaged or has one this version does not know."""
    try:
        with closing(sqlite3.connect(path)) as db:
            db.execute("PRAGMA wal_checkpoint(TRUNCATE)")
            tables = {name for (name,) in db.execute("SELECT name FROM sqlite_master WHERE type = 'table'")}
            rows = db.execute("SELECT name FROM django_migrations WHERE app = 'storage'") if tables else []
            applied = {name for (name,) in rows}
    except sqlite3.DatabaseError as error:
        raise damaged(path, error) from None
    known = {name for app, name in MigrationLoader(None).disk_migrations if app == "storage"}
    if applied - known:
        said = f"{path} was made by a newer Velmot than this one: start that one, {ELSEWHERE}"
        raise CannotStart(said)
    return applied != known


def damaged(path: Path, error: Exception) -> CannotStart:
    """What is said of a file that cannot be read as a database."""
    return CannotStart(f"the database {path} is damaged ({error}): put a copy of it back in its place, {ELSEWHERE}")


def _copy(path: Path, new: Path) -> None:
    with closing(sqlite3.connect(path)) as source, closing(sqlite3.connect(new)) as target:
        source.backup(target)
        source.execute("PRAGMA journal_mode = DELETE")  # so that no log of the old file stays beside the new one


def _make(new: Path) -> None:
    """Bring the file to the newest form, with room for giving space back."""
    with closing(sqlite3.connect(new)) as db:
        db.execute("PRAGMA auto_vacuum = INCREMENTAL")
        db.execute("VACUUM")
    new.chmod(0o600)
    connection.close()
    name, connection.settings_dict["NAME"] = connection.settings_dict["NAME"], str(new)
    try:
        call_command("migrate", verbosity=0, interactive=False)
    finally:
        connection.close()
        connection.settings_dict["NAME"] = name
    with closing(sqlite3.connect(new)) as db:
        db.execute("PRAGMA wal_checkpoint(TRUNCATE)")
        db.execute("PRAGMA journal_mode = DELETE")
    disk.flush(new)


def _check(path: Path) -> None:
    """Open the file and read through its structure; CannotStart if it is not whole."""
    try:
        with closing(sqlite3.connect(path)) as db:
            db.execute("SELECT count(*) FROM django_migrations")
            said = db.execute("PRAGMA quick_check(1)").fetchone()[0] if path.stat().st_size < CHECKED_WHOLE else "ok"
    except sqlite3.DatabaseError as error:
        raise damaged(path, error) from None
    if said != "ok":
        raise damaged(path, sqlite3.DatabaseError(said.splitlines()[-1]))


def _remove(path: Path) -> None:
    for side in _SIDES:
        path.with_name(path.name + side).unlink(missing_ok=True)


def room_left() -> int | None:
    """The bytes left on the disk that sessions are kept on, where they are few."""
    left = disk.free_at(Path(connection.settings_dict["NAME"]).parent)
    return left if left < disk.LITTLE else None


def give_back_space() -> None:
    """Shrink the database file by what is free in it."""
    if connection.in_atomic_block:
        return
    connection.ensure_connection()
    # As a script, which is stepped to its end: run as a statement the first page is all that comes back.
    connection.connection.executescript("PRAGMA incremental_vacuum; PRAGMA wal_checkpoint(TRUNCATE);")
