"""Outlines: an envelope reduced to the exact lowest and highest value of each of many columns."""

from __future__ import annotations

import numpy as np

from velmot.core.curves.envelope import Envelope
from velmot.core.time.ticks import Floats, Ticks, among


def columns_between(start: int, end: int, columns: int) -> Ticks:
    """The `columns` + 1 ticks that part ``[start, end)`` into columns of (nearly) equal width."""
    return start + (np.arange(columns + 1, dtype=np.int64) * (end - start)) // columns


def outline(envelope: Envelope, edges: Ticks) -> tuple[Floats, Floats]:
    """Exact (lows, highs), each (len(edges) − 1,), of the columns between neighbouring `edges`.

    Segments never turn between points, so points and column edges hold every extreme.
    """
    index, beyond = (np.searchsorted(envelope.ticks, edges, side) for side in ("left", "right"))
    at_edges = envelope.at(edges, "right", beyond - 1)
    from_edge, to_edge = at_edges[:-1], at_edges[1:].copy()
    on_points = (index < beyond)[1:]  # elsewhere both sides are the same
    if on_points.any():
        to_edge[on_points] = envelope.at(edges[1:][on_points], "left")
    lows, highs = np.minimum(from_edge, to_edge), np.maximum(from_edge, to_edge)
    full = np.flatnonzero(index[:-1] < index[1:])
    if len(full):
        # Columns without points add nothing, so the groups of the others are neighbours.
        inside = _without_edge_limits(envelope, edges)[: index[-1]]
        starts = index[:-1][full]
        lows[full] = np.minimum(lows[full], np.minimum.reduceat(inside, starts))
        highs[full] = np.maximum(highs[full], np.maximum.reduceat(inside, starts))
    return lows, highs


def _without_edge_limits(envelope: Envelope, edges: Ticks) -> Floats:
    """The points' values; of a jump on an edge, and of one after a hold, only the value from there on: the other limit
    lies in the column before, or nowhere.
    """
    jumps = np.flatnonzero(envelope.ticks[:-1] == envelope.ticks[1:])
    jumps = jumps[among(envelope.ticks[jumps], edges) | envelope.unheard[jumps]]
    if not len(jumps):
        return envelope.values
    values = envelope.values.copy()
    values[jumps] = values[jumps + 1]
    return values


def remembered_outline(envelope: Envelope, start: int, end: int, columns: int) -> tuple[Floats, Floats]:
    """The outline of ``[start, end)``; an envelope never changes, so it keeps the outlines it was asked for.

    For sizes that are asked for again and again, such as those of sparks.
    """
    kept: dict[tuple[int, int, int], tuple[Floats, Floats]] = envelope.remembered("outlines", None, dict)
    key = (start, end, columns)
    if key not in kept:
        kept[key] = outline(envelope, columns_between(start, end, columns))
    return kept[key]


def last_outline(envelope: Envelope, start: int, end: int, columns: int) -> tuple[Floats, Floats]:
    """The outline of ``[start, end)``, remembered until another is asked for: a drag asks for the same view each time."""

    def made() -> tuple[Floats, Floats]:
        return outline(envelope, columns_between(start, end, columns))

    return envelope.remembered("last outline", (start, end, columns), made)
