"""Sampled: curves in evenly spaced samples, and how alike rows of them run to a shorter row, at every place."""

from __future__ import annotations

import numpy as np

from velmot.core.curves.envelope import Envelope
from velmot.core.curves.segments import STRAIGHT, bend
from velmot.core.time.ticks import Floats

_BETWEEN = 3
"""Points that a bend is drawn with between its ends: it is looked for by these samples, and measured exactly where it is found."""


def samples_of(curve: Envelope, count: int, step: float, start: int = 0) -> Floats:
    """The coordinates of a curve in the middle of each of `count` steps (ticks), float64 (count,); bends in a few lines."""
    ticks, y = curve.remembered("in few lines", None, lambda: _in_few_lines(curve))
    return np.asarray(np.interp((np.arange(count) + 0.5) * step + start, ticks, y))


def _in_few_lines(curve: Envelope) -> tuple[Floats, Floats]:
    """(ticks, coordinates) of lines near a curve: a hold ends where the next point begins, a bend has points in between."""
    ticks, y, k = curve.ticks.astype(np.float64), curve.coordinates, curve.bends[:-1]
    special = np.isposinf(k) | (np.abs(k) >= STRAIGHT)
    if not special.any():
        return ticks, y
    at = np.flatnonzero(special)
    parts = np.arange(1, _BETWEEN + 1) / (_BETWEEN + 1)
    held = np.isposinf(k[at])[:, None]
    place = np.where(held, 1.0, parts[None, :])
    progress = np.where(held, 0.0, bend(place, np.where(held, 0.0, k[at][:, None])))
    more = ticks[at][:, None] + (ticks[at + 1] - ticks[at])[:, None] * place
    there = y[at][:, None] + (y[at + 1] - y[at])[:, None] * progress
    where = np.repeat(at + 1, _BETWEEN)
    return np.insert(ticks, where, more.ravel()), np.insert(y, where, there.ravel())


def correlations(rows: Floats, wanted: Floats) -> Floats:
    """The correlation of `wanted` (float64, k) with every k samples of each of some rows (float64, m × n): m × (n − k + 1),
    0 to 1, upside down as good as upright; 0 where nothing moves. Pearson's, the sum of products by a fast Fourier transform.
    """
    k, n = len(wanted), rows.shape[1]
    rows = rows - rows.mean(axis=1, keepdims=True)
    shape = wanted - wanted.mean()
    size = 1 << (n + k - 1).bit_length()
    wave = np.conj(np.fft.rfft(shape, size))
    products = np.fft.irfft(np.fft.rfft(rows, size, axis=1) * wave, size, axis=1)[:, : n - k + 1]
    none = np.zeros((len(rows), 1))
    sums, squares = (np.concatenate((none, np.cumsum(x, axis=1)), axis=1) for x in (rows, rows * rows))
    spread = (squares[:, k:] - squares[:, :-k]) - (sums[:, k:] - sums[:, :-k]) ** 2 / k
    moves = spread > 1e-9 * np.maximum(squares[:, -1:] / n, 1e-12) * k
    scale = np.sqrt(np.where(moves, spread, 1.0) * float(shape @ shape))
    return np.where(moves, np.abs(products) / scale, 0.0)
