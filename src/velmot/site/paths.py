"""Where things are on this machine: the project, its data, and the built front end.

Worked on, all of it lies in the checkout; installed, the front end lies beside this file and the data where the platform
keeps a user's own.
"""

from __future__ import annotations

import os
from pathlib import Path

import platformdirs

ROOT = Path(__file__).resolve().parents[3]
IS_CHECKOUT = (ROOT / "frontend" / "package.json").exists()
BUILT = ROOT / "frontend" / "dist" if IS_CHECKOUT else Path(__file__).parent / "built"
HELP = ROOT / "help" if IS_CHECKOUT else Path(__file__).parent / "help"
"""The docs as a site, once `make docs-site` has built it; the wheel brings it."""


def usual_data() -> Path:
    """The folder that data is kept in where none is named."""
    return ROOT / "var" if IS_CHECKOUT else Path(platformdirs.user_data_dir("velmot", appauthor=False))


DATA = Path(os.environ.get("VELMOT_DATA") or usual_data()).absolute()
