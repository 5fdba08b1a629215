"""`make release`: builds the wheel and the source archive twice, installs the wheel where nothing is, and uses it.

What is built lies in `release/` and is the same bytes for the same commit. Used: the version, the doctor, a curve carried in
a browser, a backup beside the running server, data of an older version upgraded, the backup put back, all of it removed.
"""

from __future__ import annotations

import contextlib
import hashlib
import os
import re
import shutil
import sqlite3
import subprocess
import sys
import tempfile
import time
import urllib.request
import venv
from collections.abc import Iterator
from pathlib import Path

from playwright.sync_api import expect, sync_playwright

from tests.browser.conftest import CHROMIUM, FLAGS
from velmot.formats import session_file

ROOT = Path(__file__).parents[1]
RELEASE = ROOT / "release"
LARGEST = 6 * 1024 * 1024


def said(*command: object, status: int = 0, **more) -> str:
    """What a command prints; it has to end with `status`."""
    done = subprocess.run([str(c) for c in command], capture_output=True, text=True, **more)
    assert done.returncode == status, f"{command}: {done.returncode}\n{done.stdout}\n{done.stderr}"
    return done.stdout + done.stderr


def built(into: Path) -> dict[str, Path]:
    """The wheel and the source archive, by their endings."""
    commit = said("git", "log", "-1", "--format=%ct", cwd=ROOT).strip()
    for left in ("build", "src/velmot.egg-info"):
        shutil.rmtree(ROOT / left, ignore_errors=True)
    command = (sys.executable, "-m", "build", "--no-isolation", "--skip-dependency-check", "--outdir", into)
    said(*command, cwd=ROOT, env=os.environ | {"SOURCE_DATE_EPOCH": commit})
    shutil.rmtree(ROOT / "build", ignore_errors=True)
    return {path.suffix: path for path in into.iterdir()}


@contextlib.contextmanager
def serving(velmot: Path, data: Path, *more: str) -> Iterator[str]:
    """The address of a server that is stopped in the end."""
    command = [velmot, "serve", "--port", "0", "--data", data, *more]
    server = subprocess.Popen(command, stdout=subprocess.PIPE, text=True, cwd=data.parent)
    try:
        yield re.search(r"http://\S+", server.stdout.readline())[0]
    finally:
        server.terminate()
        server.wait()


def carry(address: str) -> None:
    """What a newcomer does first: a range of one lane onto another track."""
    with sync_playwright() as playwright:
        browser = playwright.chromium.launch(executable_path=CHROMIUM, args=FLAGS)
        page = browser.new_page(viewport={"width": 1280, "height": 800})
        page.add_init_script("localStorage['velmot.folded'] ??= 'no'")
        page.goto(f"{address}sessions/1")
        plot = page.locator("[data-strip='bell.level'] .plot")
        box = plot.bounding_box()
        page.mouse.move(box["x"] + 200, box["y"] + 30)
        page.mouse.down()
        page.mouse.move(box["x"] + 400, box["y"] + 30, steps=5)
        page.mouse.up()
        page.locator(".el-select", has=page.get_by_role("combobox", name="Tracks to carry to")).click()
        page.keyboard.type("Gulls")
        page.get_by_role("option", name="Gulls", exact=True).click()
        page.keyboard.press("Tab")
        page.get_by_role("button", name="Apply", exact=True).click()
        expect(page.get_by_text("revision 1", exact=True)).to_be_visible()
        browser.close()


def exported(address: str) -> bytes:
    with urllib.request.urlopen(f"{address}api/sessions/1/export/session") as answer:
        return answer.read()


def aged(data: Path) -> None:
    """The database as the version before marks had made it."""
    with contextlib.closing(sqlite3.connect(data / "velmot.sqlite3")) as db:
        db.executescript("""
            DROP TABLE storage_storedmark;
            DROP TABLE storage_keptenvelope;
            DELETE FROM django_migrations WHERE app = 'storage' AND name > '0012';
        """)


def used(wheel: Path) -> None:
    """Install the wheel in an empty folder and do with it what its users do."""
    with tempfile.TemporaryDirectory() as base:
        home, data = Path(base) / "home", Path(base) / "data"
        begun = time.monotonic()
        venv.create(home, with_pip=True)
        said(home / "bin/pip", "install", "-q", "--disable-pip-version-check", wheel)
        velmot = home / "bin/velmot"
        print(f"installed in {time.monotonic() - begun:.0f} s: {said(velmot, '--version', cwd=base).strip()}")
        print(said(velmot, "doctor", "--data", data, cwd=base))
        with serving(velmot, data, "--demo") as address:
            assert f"at {address} already" in said(velmot, "serve", "--data", data, cwd=base)
            carry(address)
            kept = exported(address)
            said(velmot, "backup", "--data", data, "-o", f"{base}/kept.zip", cwd=base)
        session, _ = session_file.read(kept)
        assert session.lane_at("gulls.level") is not None
        (Path(base) / "carried.velmot.json").write_bytes(kept)
        assert "findings" in said(velmot, "--help", cwd=base)
        said(velmot, "convert", f"{base}/carried.velmot.json", f"{base}/carried.csv", cwd=base)
        database = data / "velmot.sqlite3"
        database.write_bytes(b"nothing that can be read" * 1000)
        assert "cannot be read" in said(velmot, "doctor", "--data", data, status=1, cwd=base)
        print(said(velmot, "restore", f"{base}/kept.zip", "--data", data, cwd=base))
        with serving(velmot, data) as address:
            assert exported(address) == kept
        aged(data)
        with serving(velmot, data) as address:
            assert exported(address) == kept
        assert list((data / "before").glob("*-upgrade.sqlite3"))
        said(home / "bin/pip", "uninstall", "-q", "-y", "velmot")
        assert not velmot.exists() and database.exists()


def main() -> None:
    """Build, compare, install, use."""
    shutil.rmtree(RELEASE, ignore_errors=True)
    once = built(RELEASE)
    with tempfile.TemporaryDirectory() as other:
        again = built(Path(other))
        one, two = (hashlib.sha256(x[".whl"].read_bytes()).hexdigest() for x in (once, again))
        assert one == two, "the wheel is other bytes the second time"
    wheel = once[".whl"]
    for path in sorted(RELEASE.iterdir()):
        print(
            f"{path.name}: {path.stat().st_size / 1024 / 1024:.2f} MB, {hashlib.sha256(path.read_bytes()).hexdigest()}"
        )
    assert wheel.stat().st_size < LARGEST
    used(wheel)
    print("The wheel does what it is for.")


if __name__ == "__main__":
    main()
