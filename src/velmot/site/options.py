"""What can be chosen of serving on the command line."""

from __future__ import annotations

import argparse

PORT = 8642


def add_port(options: argparse.ArgumentParser) -> None:
    """Which port."""
    options.add_argument("--port", type=int, default=PORT, help=f"another port than {PORT}; 0 takes any free one")


def add_serving(options: argparse.ArgumentParser) -> None:
    """Which port, with the demo or without, and whether the browser is opened."""
    add_port(options)
    options.add_argument("--demo", action="store_true", help="load the demo session if it was never loaded")
    options.add_argument("--open", action="store_true", help="open it in the browser")
