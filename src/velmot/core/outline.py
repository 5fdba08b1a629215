"""Outlines: an envelope reduced to the exact lowest and highest value of each of many columns."""

from __future__ import annotations

import numpy as np

from velmot.core.envelope import Envelope
from velmot.core.time import Floats, Ticks


def columns_between(start: int, end: int, columns: int) -> Ticks:
    """The `columns` + 1 ticks that part ``[start, end)`` into columns of (nearly) equal width."""
    return start + (np.arange(columns + 1, dtype=np.int64) * (end - start)) // columns


def outline(envelope: Envelope, edges: Ticks) -> tuple[Floats, Floats]:
    """Exact (lows, highs), each (len(edges) − 1,), of the columns between neighbouring `edges`.

    Segments never turn between points, so points and column edges hold every extreme.
    """
    lows = np.minimum(envelope.at(edges[:-1]), envelope.at(edges[1:], "left"))
    highs = np.maximum(envelope.at(edges[:-1]), envelope.at(edges[1:], "left"))
    index = np.searchsorted(envelope.ticks, edges)
    full = np.flatnonzero(index[:-1] < index[1:])
    if len(full):
        # Columns without points add nothing, so the groups of the others are neighbours.
        inside = envelope.values[: index[-1]]
        starts = index[:-1][full]
        lows[full] = np.minimum(lows[full], np.minimum.reduceat(inside, starts))
        highs[full] = np.maximum(highs[full], np.maximum.reduceat(inside, starts))
    return lows, highs
