"""Backups: whole or not there, checked, put back over anything, and nothing of anyone else's is touched."""

import json
import sqlite3
import subprocess
import sys
import zipfile
from contextlib import closing
from datetime import datetime
from pathlib import Path

import pytest

from velmot.storage import backups
from velmot.storage.backups import BackupError
from velmot.storage.errors import CannotStart


def folder(path: Path, row: str, *sounds: str) -> Path:
    """A folder with one row in its database, written by someone who has it open, and files of sound."""
    (path / "audio").mkdir(parents=True)
    with closing(sqlite3.connect(path / "velmot.sqlite3")) as db:
        db.execute("PRAGMA journal_mode = WAL")
        db.execute("CREATE TABLE kept (row TEXT)")
        db.execute("INSERT INTO kept VALUES (?)", (row,))
        db.commit()
    for name in sounds:
        (path / "audio" / name).write_bytes(name.encode() * 1000)
    return path


def row_in(database: Path) -> str:
    with closing(sqlite3.connect(database)) as db:
        return db.execute("SELECT row FROM kept").fetchone()[0]


def test_a_backup_beside_an_open_database_is_put_back_elsewhere_and_over_another(tmp_path):
    data = folder(tmp_path / "data", "one", "a.wav", "b.flac")
    with closing(sqlite3.connect(data / "velmot.sqlite3")) as writer:
        writer.execute("UPDATE kept SET row = 'two'")
        writer.commit()  # which lies in the log beside the file
        kept = backups.make(data, tmp_path / "kept.zip")
        writer.execute("UPDATE kept SET row = 'three'")
        writer.commit()
    assert kept.audio == 2 and set(kept.files) == {"velmot.sqlite3", "audio/a.wav", "audio/b.flac"}
    assert backups.check(tmp_path / "kept.zip") == kept
    assert not list(tmp_path.glob(".velmot-backup*"))

    again, was = backups.restore(tmp_path / "kept.zip", tmp_path / "new" / "data")
    assert again == kept and was is None
    assert row_in(tmp_path / "new/data/velmot.sqlite3") == "two"
    assert (tmp_path / "new/data/audio/b.flac").read_bytes() == b"b.flac" * 1000

    (data / "audio" / "mine.wav").write_bytes(b"stays")
    _, was = backups.restore(tmp_path / "kept.zip", data)
    assert row_in(data / "velmot.sqlite3") == "two" and row_in(was) == "three"
    assert (data / "audio" / "mine.wav").read_bytes() == b"stays"
    assert was.parent == data / "before" and was.name.endswith("-restore.sqlite3")


def test_what_is_damaged_is_laid_aside_as_it_is(tmp_path):
    data = folder(tmp_path / "data", "one")
    backups.make(data, tmp_path / "kept.zip")
    (data / "velmot.sqlite3").write_bytes(b"no database " * 900)
    (data / "velmot.sqlite3-wal").write_bytes(b"nor a log")
    _, was = backups.restore(tmp_path / "kept.zip", data)
    assert row_in(data / "velmot.sqlite3") == "one" and was.read_bytes() == b"no database " * 900
    assert not (data / "velmot.sqlite3-wal").exists()


def test_what_a_killed_server_had_not_taken_in_yet_is_laid_aside_too(tmp_path):
    data = folder(tmp_path / "data", "one")
    backups.make(data, tmp_path / "kept.zip")
    code = (
        "import os, sqlite3; db = sqlite3.connect('velmot.sqlite3'); "
        "db.execute(\"UPDATE kept SET row = 'late'\"); db.commit(); os.kill(os.getpid(), 9)"
    )
    subprocess.run([sys.executable, "-c", code], cwd=data)
    assert (data / "velmot.sqlite3-wal").stat().st_size > 0
    _, was = backups.restore(tmp_path / "kept.zip", data)
    assert row_in(data / "velmot.sqlite3") == "one" and row_in(was) == "late"


def test_nothing_is_written_over_and_nothing_is_kept_of_nothing(tmp_path):
    data = folder(tmp_path / "data", "one")
    (tmp_path / "there.zip").write_bytes(b"somebody's")
    with pytest.raises(BackupError, match="is there already"):
        backups.make(data, tmp_path / "there.zip")
    assert (tmp_path / "there.zip").read_bytes() == b"somebody's"
    with pytest.raises(BackupError, match="nothing is kept in"):
        backups.make(tmp_path / "nowhere", tmp_path / "kept.zip")
    with pytest.raises(BackupError, match="nowhere"):
        backups.make(data, tmp_path / "nowhere" / "kept.zip")
    assert backups.usual_name(datetime(2026, 12, 1, 8, 15)) == "velmot-2026-12-01-0815.zip"


def written(path: Path, files: dict[str, bytes], listed: dict[str, str] | None) -> Path:
    with zipfile.ZipFile(path, "w") as archive:
        for name, content in files.items():
            archive.writestr(name, content)
        if listed is not None:
            archive.writestr("velmot-backup.json", json.dumps({"velmot": "1", "made": "now", "files": listed}))
    return path


DATABASE = {"velmot.sqlite3": b"x"}
DIGEST = {"velmot.sqlite3": "2d711642b726b04401627ca9fbac32f5c8530fb1903cc4db02258717921a4881"}


@pytest.mark.parametrize(
    ("files", "listed", "why"),
    [
        (DATABASE, None, "has no list"),
        (DATABASE, {"velmot.sqlite3": "0" * 64}, "velmot.sqlite3 is not what was kept"),
        (DATABASE | {"../out.txt": b"x"}, DIGEST | {"../out.txt": DIGEST["velmot.sqlite3"]}, r"it holds \.\./out\.txt"),
        (DATABASE | {"audio/../x": b"x"}, DIGEST | {"audio/../x": DIGEST["velmot.sqlite3"]}, r"it holds audio/\.\./x"),
        (DATABASE | {"audio/more.wav": b"x"}, DIGEST, "other files than its list"),
        ({}, {}, "other files than its list"),
        (DATABASE, DIGEST, "the database in .* is damaged"),
    ],
)
def test_what_is_no_whole_backup_is_refused_and_touches_nothing(tmp_path, files, listed, why):
    data = folder(tmp_path / "data", "one")
    strange = written(tmp_path / "strange.zip", files, listed)
    with pytest.raises(BackupError, match=why):
        backups.restore(strange, data)
    assert row_in(data / "velmot.sqlite3") == "one" and not (data / "before").exists()
    assert sorted(p.name for p in data.iterdir()) == ["audio", "velmot.sqlite3"] and not (tmp_path / "out.txt").exists()


def test_a_backup_with_a_broken_byte_is_refused_or_what_it_was_and_one_cut_off_is_damaged(tmp_path):
    kept = backups.make(folder(tmp_path / "data", "one", "a.wav"), tmp_path / "kept.zip")
    whole = (tmp_path / "kept.zip").read_bytes()
    (tmp_path / "cut.zip").write_bytes(whole[: len(whole) // 2])
    with pytest.raises(BackupError, match="damaged"):
        backups.check(tmp_path / "cut.zip")
    refused = 0
    for at in range(0, len(whole), max(len(whole) // 150, 1)):
        (tmp_path / "bad.zip").write_bytes(whole[:at] + bytes([whole[at] ^ 0xFF]) + whole[at + 1 :])
        try:
            assert backups.check(tmp_path / "bad.zip").files == kept.files, at
        except BackupError:
            refused += 1
    assert refused > 100


def test_before_an_upgrade_the_newest_three_stay(tmp_path):
    data = folder(tmp_path / "data", "one")
    kept = [backups.keep_before(data / "velmot.sqlite3", "upgrade") for _ in range(5)]
    assert len({*kept}) == 5
    left = sorted((data / "before").iterdir())
    assert len(left) == 3 and row_in(left[0]) == "one"


def test_an_upgrade_without_room_is_refused_before_it_begins(tmp_path, monkeypatch):
    data = folder(tmp_path / "data", "one")
    monkeypatch.setattr(backups, "free_at", lambda _: 1024)
    with pytest.raises(CannotStart, match=r"needs 1 MB on its disk, 0 are free"):
        backups.room_for(data)
    monkeypatch.setattr(backups, "free_at", lambda _: 10**9)
    backups.room_for(data)


def test_what_a_killed_restore_left_is_taken_away_by_the_next(tmp_path):
    data = folder(tmp_path / "data", "one")
    backups.make(data, tmp_path / "kept.zip")
    (data / ".restoring-half").mkdir()
    (data / ".restoring-half" / "velmot.sqlite3").write_bytes(b"half")
    backups.restore(tmp_path / "kept.zip", data)
    assert row_in(data / "velmot.sqlite3") == "one" and not list(data.glob(".restoring*"))
