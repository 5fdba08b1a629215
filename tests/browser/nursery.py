"""Servers that stand at once: one process that has read all of Velmot's code and the demo, and forks itself for each folder.

Run as a module it reads lines of a folder and a port, and answers each with a process and what its server prints.
"""

from __future__ import annotations

import os
import socket
import subprocess
import sys
from pathlib import Path

ROOT = Path(__file__).resolve().parents[2]


class Nursery:
    """Gives processes that serve as `python -m velmot.site --demo` does, without its start."""

    def __init__(self, demo: Path) -> None:
        """Servers of copies of a folder that holds the demo and nothing else."""
        self.parent = subprocess.Popen(
            [sys.executable, "-m", "tests.browser.nursery"],
            env=os.environ | {"VELMOT_DATA": str(demo)},
            cwd=ROOT,
            stdin=subprocess.PIPE,
            stdout=subprocess.PIPE,
            text=True,
        )

    def begin(self, data: Path, port: int) -> None:
        """Ask for a server; `ready` says which it is. One is asked for at a time."""
        print(f"{port} {data}", file=self.parent.stdin, flush=True)

    def ready(self) -> tuple[int, str]:
        """The server's process, and the line with its address."""
        return int(self.parent.stdout.readline()), self.parent.stdout.readline()

    def close(self) -> None:
        self.parent.stdin.close()
        self.parent.wait()


def _serve(data: Path, port: int) -> None:
    """In a fork: be the server of this folder, for as long as the process lives."""
    from django.conf import settings

    from velmot.site import serving as site

    site.DATA = settings.DATA = data
    settings.AUDIO = data / "audio"
    settings.DATABASES["default"]["NAME"] = data / settings.DATABASE
    sys.argv = ["velmot.site", "--demo", "--port", str(port if _is_free(port) else 0)]
    print(os.getpid(), flush=True)
    code = site.main()
    print(flush=True)  # where it has no address, instead of it: someone waits for that line
    os._exit(code)


def _look_at_the_demo() -> None:
    """What every server would work out at its first page, worked out before there is one."""
    from django.db import connections
    from django.test import Client

    from velmot.sound import scientific

    scientific.load()
    client = Client(HTTP_HOST="127.0.0.1")
    opened = client.get("/api/sessions/1?first=true").json()
    pins = "\n".join(opened["first"]["parameters"])
    for address in ("/sessions/1", "/api/book", "/api/recipes", "/api/sessions/1/head"):
        client.get(address)
    client.get("/api/sessions/1/values", {"parameters": pins, "beat": 0})
    connections.close_all()


def _is_free(port: int) -> bool:
    """Whether an address is still to be had: it may have gone to another program while no server had it."""
    with socket.socket() as trial:
        trial.setsockopt(socket.SOL_SOCKET, socket.SO_REUSEADDR, 1)
        try:
            trial.bind(("127.0.0.1", port))
        except OSError:
            return False
    return True


def main() -> None:
    import signal

    import django

    signal.signal(signal.SIGCHLD, signal.SIG_IGN)  # nobody waits for those that are killed
    os.environ["DJANGO_SETTINGS_MODULE"] = "velmot.site.settings"
    django.setup()
    import velmot.site.urls
    import velmot.site.wsgi  # noqa: F401 - what a server reads at its start

    _look_at_the_demo()
    for line in sys.stdin:
        port, data = line.rstrip("\n").split(" ", 1)
        if os.fork() == 0:
            os.close(0)
            _serve(Path(data), int(port))


if __name__ == "__main__":
    main()
