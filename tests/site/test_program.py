"""`velmot serve`, `doctor`, `backup`, `restore`: said in words, found again, refused where it would not be safe."""

import json
import os
import re
import shutil
import subprocess
import sys
import tomllib
import urllib.error
import urllib.request
from pathlib import Path

import pytest

from velmot import __version__
from velmot.site.network import behind
from velmot.site.paths import usual_data
from velmot.storage.errors import CannotStart

VELMOT = [sys.executable, "-c", "import sys; from velmot.site.program import main; sys.exit(main())"]
SECRET = "a secret of enough letters"


def velmot(*words: object, **more: str) -> subprocess.CompletedProcess:
    env = {k: v for k, v in os.environ.items() if not k.startswith("VELMOT_")} | more
    return subprocess.run([*VELMOT, *map(str, words)], capture_output=True, text=True, timeout=120, env=env)


def started(data: Path, **more: str) -> tuple[subprocess.Popen, str]:
    command = [*VELMOT, "serve", "--demo", "--port", "0", "--data", str(data)]
    server = subprocess.Popen(command, stdout=subprocess.PIPE, text=True, env=os.environ | more)
    said = server.stdout.readline()
    return server, re.search(r"https?://\S+", said)[0]


def test_served_found_again_looked_over_kept_and_put_back(tmp_path):
    data = tmp_path / "data"
    server, address = started(data)
    try:
        again = velmot("serve", "--data", data)
        assert (again.returncode, again.stdout) == (0, f"Velmot is at {address} already\n")
        well = velmot("doctor", "--data", data)
        assert well.returncode == 0, well.stdout
        assert f"ok  Server    at work, at {address}" in well.stdout and "1 session, " in well.stdout
        assert well.stdout.endswith("All is well.\n")
        held = velmot("restore", tmp_path / "none.zip", "--data", data)
        assert held.returncode == 2 and "none.zip" in held.stderr
        kept = velmot("backup", "--data", data, "-o", tmp_path / "kept.zip")
        assert kept.returncode == 0 and "the database and 0 of your own sound files, checked" in kept.stdout
        held = velmot("restore", tmp_path / "kept.zip", "--data", data)
        assert held.returncode == 2 and "another Velmot is at work" in held.stderr
    finally:
        server.kill()
        server.wait()
    (data / "velmot.sqlite3").write_bytes(b"no database" * 900)
    ill = velmot("doctor", "--data", data, "--port", "0")
    assert ill.returncode == 1 and "!!  Kept" in ill.stdout and "velmot restore FILE" in ill.stdout
    assert ill.stdout.endswith("1 thing to put right.\n")
    back = velmot("restore", tmp_path / "kept.zip", "--data", data)
    assert back.returncode == 0 and f"{data} is as it was on " in back.stdout
    assert velmot("doctor", "--data", data, "--port", "0").returncode == 0


def test_it_says_its_version_and_where_it_keeps_what_nobody_told_it(monkeypatch, tmp_path):
    assert velmot("--version").stdout == f"velmot {__version__}\n"
    monkeypatch.setattr("velmot.site.paths.IS_CHECKOUT", False)
    monkeypatch.setenv("XDG_DATA_HOME", str(tmp_path))
    assert usual_data() == tmp_path / "velmot"


def test_it_is_one_version_wherever_it_is_said():
    root = Path(__file__).parents[2]
    package = json.loads((root / "frontend" / "package.json").read_text())["version"]
    project = tomllib.loads((root / "pyproject.toml").read_text())["project"]["version"]
    newest = re.search(r"^## (\d+\.\d+\.\d+)", (root / "CHANGELOG.md").read_text(), re.M)[1]
    assert {package, project, newest} == {__version__}
    assert f"velmot-{__version__}-py3-none-any.whl" in (root / "README.md").read_text()


def test_a_folder_or_a_port_that_cannot_be_had_is_named(tmp_path):
    (tmp_path / "file").touch()
    said = velmot("doctor", "--data", tmp_path / "file" / "data", "--port", "0")
    assert said.returncode == 1 and "!!  Folder" in said.stdout
    import socket

    with socket.socket() as taken:
        taken.bind(("127.0.0.1", 0))
        taken.listen()
        said = velmot("doctor", "--data", tmp_path / "new", "--port", taken.getsockname()[1])
    assert said.returncode == 1 and "!!  Port" in said.stdout and "take another with --port" in said.stdout


@pytest.mark.parametrize(
    ("address", "secret", "why"),
    [
        ("http://velmot.example", SECRET, "is no address to be served at"),
        ("velmot.example", SECRET, "is no address to be served at"),
        ("https://velmot.example/under", SECRET, "is no address to be served at"),
        ("https://velmot.example", "", "could do anything"),
        ("https://velmot.example", "too short", "at least 24 letters"),
    ],
)
def test_a_network_is_served_only_where_it_is_safe(address, secret, why):
    with pytest.raises(CannotStart, match=why):
        behind({"VELMOT_BEHIND": address, "VELMOT_PROXY_SECRET": secret})
    assert behind({}) is None
    assert (
        behind({"VELMOT_BEHIND": "https://velmot.example:8443/", "VELMOT_PROXY_SECRET": SECRET})
        == "https://velmot.example:8443/"
    )


def asked(address: str, body: bytes | None = None, path: str = "sessions", **headers: str) -> tuple[int, str]:
    call = urllib.request.Request(f"{address}api/{path}", body, {k.replace("_", "-"): v for k, v in headers.items()})
    try:
        with urllib.request.urlopen(call) as answer:
            return answer.status, ""
    except urllib.error.HTTPError as error:
        return error.code, json.loads(error.read())["code"]


def test_behind_a_proxy_only_what_comes_through_it_is_answered(tmp_path):
    server, address = started(tmp_path / "data", VELMOT_BEHIND="https://velmot.example", VELMOT_PROXY_SECRET=SECRET)
    try:
        assert address == "https://velmot.example"
        local = (tmp_path / "data" / "address").read_text()
        through = {"Host": "velmot.example", "X_Velmot_Proxy": SECRET, "X_Forwarded_Proto": "https"}
        assert asked(local, **through) == (200, "")
        token = {"X_CSRFToken": "a" * 32, "Cookie": "velmot_csrf=" + "a" * 32, "Origin": "https://velmot.example"}
        assert asked(local, b"{}", "demo", **through | token) == (200, "")
        assert asked(local, b"{}", "demo", **through | token | {"Origin": "https://other.example"}) == (403, "csrf")
        assert asked(local) == (400, "host")
        assert asked(local, **through | {"Host": "other.example"}) == (400, "host")
        assert asked(local, **through | {"X_Velmot_Proxy": SECRET + "!"}) == (403, "proxy")
        assert asked(local, **{k: v for k, v in through.items() if k != "X_Velmot_Proxy"}) == (403, "proxy")
        assert asked(local, **through | {"X_Forwarded_Proto": "http"}) == (403, "plain")
        assert "already" in velmot("serve", "--data", tmp_path / "data").stdout
    finally:
        server.kill()
        server.wait()
    refused = velmot("serve", "--data", tmp_path / "other", VELMOT_BEHIND="https://velmot.example")
    assert refused.returncode == 1 and "VELMOT_PROXY_SECRET" in refused.stderr and "Traceback" not in refused.stderr
    assert not shutil.os.path.exists(tmp_path / "other" / "velmot.sqlite3")
