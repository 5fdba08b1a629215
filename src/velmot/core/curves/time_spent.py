"""Time spent: how long a curve stays in each part of its axis, solved on each segment, not sampled."""

from __future__ import annotations

import numpy as np

from velmot.core.curves import editing
from velmot.core.curves.envelope import Envelope
from velmot.core.curves.segments import unbend
from velmot.core.time.ticks import Floats


def time_spent(envelope: Envelope, length: int, edges: Floats) -> Floats:
    """The share of ``[0, length)`` (0..1) that the curve spends between neighbouring `edges`; shape (len(edges) − 1,).

    `edges` are rising axis coordinates; the last part includes its upper edge. Between two points a
    curve only rises or falls, so the moment it passes an edge is the inverse of its shape.
    """
    piece = editing.cut(envelope, 0, length).envelope
    y0, y1 = piece.coordinates[:-1], piece.coordinates[1:]
    spans = np.diff(piece.ticks).astype(np.float64)
    held = np.isposinf(piece.bends[:-1])
    below = _time_below(y0, np.where(held, y0, y1), np.where(held, 0.0, piece.bends[:-1]), edges)
    total = (below * spans[:, None]).sum(axis=0)
    return np.asarray(np.diff(total) / max(float(spans.sum()), 1.0))


def _time_below(y0: Floats, y1: Floats, bends: Floats, edges: Floats) -> Floats:
    """The share of each segment spent below each edge; shape (n, edges). The last edge counts as passed when touched."""
    rise = (y1 - y0)[:, None]
    still = np.abs(rise) < 1e-12
    part = np.clip((edges[None, :] - y0[:, None]) / np.where(still, 1.0, rise), 0.0, 1.0)
    x = unbend(part, bends[:, None])
    moving = np.where(rise > 0, x, 1.0 - x)
    top = np.arange(len(edges)) == len(edges) - 1
    resting = np.where(top, y0[:, None] <= edges, y0[:, None] < edges)
    return np.where(still, resting, moving)
