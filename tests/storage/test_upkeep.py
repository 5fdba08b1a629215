"""The database file: born, upgraded and opened whole, whatever kills it; and what stands in the way said in a sentence."""

import os
import random
import shutil
import signal
import sqlite3
import subprocess
import sys
import time
from contextlib import closing
from pathlib import Path

from tests.browser.nursery import Nursery

SERVE = [sys.executable, "-m", "velmot.site", "--demo", "--prepare"]


def start(data: Path, *more: str) -> subprocess.CompletedProcess:
    env = os.environ | {"VELMOT_DATA": str(data)}
    return subprocess.run([*SERVE, *more], env=env, capture_output=True, text=True, timeout=120)


def sessions_in(data: Path) -> list[str]:
    with closing(sqlite3.connect(data / "velmot.sqlite3")) as db:
        return [name for (name,) in db.execute("SELECT name FROM storage_storedsession")]


def as_version_2(data: Path) -> None:
    """The file as the version before chunks and summaries had made it, in its old journal mode."""
    with closing(sqlite3.connect(data / "velmot.sqlite3")) as db:
        db.executescript("""
            DROP TABLE storage_keptenvelope; DROP TABLE storage_storedmark; DROP TABLE storage_storedaudio; DROP TABLE storage_storedoutline; DROP TABLE storage_storedsource; DROP TABLE storage_bookphrase; DROP TABLE storage_keptbench; DROP TABLE storage_namedenvelope; DROP TABLE storage_storedchunk; DROP TABLE storage_doneonce;
            DROP INDEX sessions_by_change;
            ALTER TABLE storage_storedenvelope DROP COLUMN chunks;
            ALTER TABLE storage_storedlane DROP COLUMN changed;
            ALTER TABLE storage_storedsession DROP COLUMN summary;
            DELETE FROM django_migrations WHERE app = 'storage' AND name > '0003';
        """)


def test_a_start_killed_at_any_moment_can_be_started_again(tmp_path):
    """New folders and folders to upgrade, killed after anything from nothing to the whole of what a start does to them."""
    assert start(tmp_path / "first").returncode == 0
    starts = Starts(shutil.copytree(tmp_path / "first", tmp_path / "looked at"))
    old = shutil.copytree(tmp_path / "first", tmp_path / "old")
    as_version_2(old)
    (old / "demo-loaded").touch()
    whole = {is_old: starts.time_of(tmp_path / f"timed{is_old}", old if is_old else None) for is_old in (False, True)}
    chance = random.Random(7)
    for n in range(6):
        data, is_old = tmp_path / f"kill{n}", n % 2 == 1
        if is_old:
            shutil.copytree(old, data)
        starts.begin(data)
        time.sleep(whole[is_old] * chance.uniform(0, 1.05))
        starts.kill()
        starts.begin(data)
        assert starts.until_it_serves() and sessions_in(data) == ["Skerry Light"], f"kill {n}"
        starts.kill()
        assert not list(data.glob("*.new*")) and not list(data.glob("*.old*"))
    starts.close()


class Starts(Nursery):
    """Starts of servers from the moment on at which all code is read: what they do to their folder is what matters here."""

    def begin(self, data: Path, port: int = 0) -> None:
        super().begin(data, port)
        while not (line := self.parent.stdout.readline()).strip().isdigit():  # an address: one was killed too late
            assert line, "no server can be started here: is the front end built?"
        self.pid = int(line)

    def until_it_serves(self) -> bool:
        return "Velmot is at" in self.parent.stdout.readline()

    def kill(self) -> None:
        os.kill(self.pid, signal.SIGKILL)
        while Path(f"/proc/{self.pid}").exists():
            time.sleep(0.001)

    def time_of(self, data: Path, like: Path | None) -> float:
        if like:
            shutil.copytree(like, data)
        begun = time.monotonic()
        self.begin(data)
        assert self.until_it_serves()
        self.kill()
        return time.monotonic() - begun


def test_what_stands_in_the_way_is_one_sentence(tmp_path):
    start(tmp_path)
    file = tmp_path / "velmot.sqlite3"
    good = file.read_bytes()
    with closing(sqlite3.connect(file)) as db, db:
        db.execute("INSERT INTO django_migrations (app, name, applied) VALUES ('storage', '9999_later', '2030-01-01')")
    newer = start(tmp_path)
    file.write_bytes(b"no database at all" * 400)
    no_database = start(tmp_path)
    file.write_bytes(good[:8192] + b"\x07" * 40_000 + good[48_192:])
    damaged = start(tmp_path)
    file.write_bytes(good)
    said = {"made by a newer Velmot": newer, "is damaged": no_database, "is damaged (": damaged}
    for words, run in said.items():
        assert run.returncode == 1 and words in run.stderr and "Traceback" not in run.stderr
        assert run.stderr.count("\n") == 1
    assert start(tmp_path).returncode == 0


def test_a_port_that_cannot_be_had_and_a_second_server_are_said(tmp_path):
    command = [sys.executable, "-m", "velmot.site", "--port"]

    def served(folder: str, port: str) -> subprocess.Popen:
        env = os.environ | {"VELMOT_DATA": str(tmp_path / folder)}
        return subprocess.Popen([*command, port], env=env, stdout=subprocess.PIPE, stderr=subprocess.PIPE, text=True)

    server = served("one", "0")
    try:
        taken = server.stdout.readline().rsplit(":", 1)[1].strip("/\n")
        refused = {
            "another Velmot is at work in": served("one", "0"),
            "is no port": served("two", "70000"),
            "is in use": served("three", taken),
        }
        for words, other in refused.items():
            _, said = other.communicate(timeout=60)
            assert other.returncode == 1 and words in said and "Traceback" not in said
    finally:
        server.kill()
        server.wait()


def test_a_folder_that_cannot_be_written_to_is_said_and_what_is_kept_is_its_owners_alone(tmp_path):
    (tmp_path / "file").touch()
    blocked = start(tmp_path / "file" / "data")
    assert blocked.returncode == 1 and "cannot be written to" in blocked.stderr and "Traceback" not in blocked.stderr
    data = tmp_path / "open"
    start(data)
    assert oct(data.stat().st_mode & 0o777) == "0o700"
    for path in data.iterdir():
        path.chmod(0o644)
    (data / "mine.sh").touch(mode=0o755)
    start(data)
    modes = {path.name: oct(path.stat().st_mode & 0o777) for path in data.iterdir()}
    assert modes.pop("mine.sh") == "0o755" and set(modes.values()) == {"0o600"}
