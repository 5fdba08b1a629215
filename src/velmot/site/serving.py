"""Serving a folder of data: prepare its database, load the demo once, and answer on this machine only."""

from __future__ import annotations

import argparse
import errno
import os
import sqlite3
import sys
import threading
import urllib.error
import urllib.request
import webbrowser

import django

from velmot.site.folder import claim
from velmot.site.options import add_serving
from velmot.site.paths import DATA
from velmot.storage.errors import CannotStart

FAILED = 1
PATIENCE = 15.0
"""Seconds that a server which has just started may take for its first answer; where there is none, that is known at once."""
ADDRESS = "address"
"""The file in the folder that says where its server answers."""


def main() -> int:
    """`python -m velmot.site`: serve until stopped. What stands in the way is one sentence, and 1 is returned."""
    options = argparse.ArgumentParser(prog="velmot.site", description="Serve Velmot on this machine.")
    add_serving(options)
    options.add_argument("--prepare", action="store_true", help="prepare the database and stop")
    options.add_argument("--reload", action="store_true", help="start anew whenever the code changes")
    chosen = options.parse_args()
    if chosen.reload:
        from django.utils.autoreload import run_with_reloader

        run_with_reloader(lambda: sys.exit(run(chosen)))
    return run(chosen)


def run(chosen: argparse.Namespace) -> int:
    """Serve as chosen; what stands in the way is one sentence, and 1 is returned."""
    try:
        start(chosen)
    except CannotStart as reason:
        said = str(reason)
    except OSError as error:
        said = f"{error.filename or 'the data folder'}: {error.strerror or error}: make room or give yourself access"
    except KeyboardInterrupt:
        return 0
    else:
        return 0
    print(f"velmot: {said}", file=sys.stderr)
    return FAILED


def start(chosen: argparse.Namespace) -> None:
    """Everything from the empty folder to the last request; CannotStart where it cannot be."""
    if not 0 <= chosen.port <= 65535:
        raise CannotStart(f"{chosen.port} is no port: take one from 0 (any free one) to 65535 with --port")
    os.environ.setdefault("DJANGO_SETTINGS_MODULE", "velmot.site.settings")
    claim(DATA)
    django.setup()
    from django.conf import settings
    from django.db.utils import DatabaseError

    from velmot.storage import book, upkeep

    path = settings.DATA / settings.DATABASE
    try:
        upkeep.prepare(path)
        book.begin()
        if chosen.demo:
            load_demo_once()
    except (DatabaseError, sqlite3.Error) as error:
        raise CannotStart(f"the database {path} cannot be used ({error}): make room, or give yourself access") from None
    if not chosen.prepare:
        serve(chosen.port, chosen.open)


def running() -> str | None:
    """The address of the server that is at work in the folder; nothing where none answers."""
    try:
        address = (DATA / ADDRESS).read_text().strip()
        with urllib.request.urlopen(f"{address}api/sessions", timeout=PATIENCE) as answer:
            return address if answer.status == 200 else None
    except urllib.error.HTTPError:
        return address  # it answers, if only to a proxy
    except (OSError, ValueError):
        return None


def load_demo_once() -> None:
    """The demo is loaded at the first start only: deleted, it stays deleted."""
    from django.conf import settings
    from django.db import transaction

    from velmot.presentation.listening import outline_out
    from velmot.site.demo import skerry_light
    from velmot.sound.path import sounding
    from velmot.storage import sessions
    from velmot.storage.models import DoneOnce

    with transaction.atomic():
        _, first = DoneOnce.objects.get_or_create(what="demo loaded")
        if first and not (settings.DATA / "demo-loaded").exists():  # the mark of earlier versions
            id = sessions.create(skerry_light.session())
            for track in sounding(sessions.load(id)):
                outline_out(id, sessions.load(id), track)


SOON = 3.0
"""Seconds after which what a first listening needs is loaded."""


def serve(port: int, in_browser: bool = False) -> None:
    """Waitress on the loopback address; port 0 takes a free one. Of what a proxy adds only the scheme is believed."""
    from django.conf import settings
    from waitress import create_server

    from velmot.site.wsgi import application
    from velmot.sound import scientific

    try:
        server = create_server(
            application,
            host="127.0.0.1",
            port=port,
            threads=6,
            ident=None,
            trusted_proxy="127.0.0.1" if settings.BEHIND else None,
            trusted_proxy_headers={"x-forwarded-proto"} if settings.BEHIND else set(),
            max_request_body_size=max(settings.LARGEST_UPLOAD, settings.LARGEST_AUDIO),
        )
    except OSError as error:
        if error.errno not in (errno.EADDRINUSE, errno.EACCES):
            raise
        why = "is in use" if error.errno == errno.EADDRINUSE else "may not be used"
        raise CannotStart(
            f"port {port} {why} on this machine: stop what uses it, or take another with --port"
        ) from None
    address = f"http://127.0.0.1:{settings.DEVELOPING or server.effective_port}/"
    (settings.DATA / ADDRESS).write_text(address)
    print(f"Velmot is at {settings.BEHIND or address}", flush=True)
    if in_browser:
        webbrowser.open(address)
    soon = threading.Timer(SOON, scientific.load)  # before anyone wants to listen, and after the first page
    soon.daemon = True
    soon.start()
    server.run()
