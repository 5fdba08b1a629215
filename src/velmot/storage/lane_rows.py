"""A lane's row: its columns stand here once, for making it, for swapping it and for what was there before."""

from __future__ import annotations

from typing import Any

from velmot.core.session.track import Lane
from velmot.storage.models import StoredLane

COLUMNS = ("position", "parameter", "home", "extra", "envelope_id", "changed")


def columns_of(row: StoredLane) -> dict[str, Any]:
    """What stands in a row."""
    return {name: getattr(row, name) for name in COLUMNS}


def new_columns(lane: Lane, position: int, digest: str, changed: int = 0) -> dict[str, Any]:
    """What is to stand in the row of a lane: its place among the lanes, its envelope's digest, the revision that touched it."""
    extra = [list(pair) for pair in lane.extra]
    return dict(zip(COLUMNS, (position, lane.parameter, lane.home, extra, digest, changed), strict=True))
