"""Where things are on this machine: the project, its data, and the built front end."""

from __future__ import annotations

import os
from pathlib import Path

ROOT = Path(__file__).resolve().parents[3]
DATA = Path(os.environ.get("VELMOT_DATA") or ROOT / "var").absolute()
BUILT = ROOT / "frontend" / "dist"
