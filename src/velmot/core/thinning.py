"""Thinning what was drawn by hand: fewer points, with the error held vertically."""

from __future__ import annotations

import math
from itertools import pairwise

Row = tuple[int, float]


def thinned(rows: list[Row], tolerance: float) -> list[Row]:
    """The points to keep so that straight lines between them pass every point within `tolerance`.

    Rows are (tick, axis coordinate), ticks rising. From each kept point the slopes that still pass
    all later ones are narrowed; when none is left, the point before is kept. Linear time.
    """
    if len(rows) < 3:
        return rows
    kept = [rows[0]]
    low, high = -math.inf, math.inf
    for before, row in pairwise(rows):
        span = row[0] - kept[-1][0]
        slope = (row[1] - kept[-1][1]) / span
        if not low <= slope <= high:
            kept.append(before)
            low, high = -math.inf, math.inf
            span = row[0] - before[0]
        low = max(low, (row[1] - tolerance - kept[-1][1]) / span)
        high = min(high, (row[1] + tolerance - kept[-1][1]) / span)
    kept.append(rows[-1])
    return kept
