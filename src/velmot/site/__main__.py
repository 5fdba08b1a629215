"""`python -m velmot.site`: prepare the database, load the demo once, and serve on this machine only."""

from __future__ import annotations

import argparse
import os

import django
from django.core.management import call_command


def main() -> None:
    """Serve until stopped; prints the address."""
    options = argparse.ArgumentParser(prog="velmot.site", description="Serve Velmot on this machine.")
    options.add_argument("--port", type=int, default=8642)
    options.add_argument("--demo", action="store_true", help="load the demo session if it was never loaded")
    options.add_argument("--prepare", action="store_true", help="prepare the database and stop")
    chosen = options.parse_args()
    os.environ.setdefault("DJANGO_SETTINGS_MODULE", "velmot.site.settings")
    django.setup()
    call_command("migrate", verbosity=0)
    if chosen.demo:
        load_demo_once()
    if not chosen.prepare:
        serve(chosen.port)


def load_demo_once() -> None:
    """The demo is loaded at the first start only: deleted, it stays deleted."""
    from django.conf import settings

    from velmot.site.demo import skerry_light
    from velmot.storage import sessions

    mark = settings.DATA / "demo-loaded"
    if not mark.exists():
        sessions.create(skerry_light.session())
        mark.touch()


def serve(port: int) -> None:
    """Waitress on the loopback address; port 0 takes a free one."""
    from waitress import create_server

    from velmot.site.wsgi import application

    server = create_server(
        application, host="127.0.0.1", port=port, threads=6, ident=None, max_request_body_size=300 * 1024 * 1024
    )
    print(f"Velmot is at http://127.0.0.1:{server.effective_port}/", flush=True)
    server.run()


if __name__ == "__main__":
    main()
