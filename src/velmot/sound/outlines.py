"""Outlines: how far a sound reaches in every fiftieth of a second, for the silhouettes behind strips."""

from __future__ import annotations

from collections.abc import Iterable

import numpy as np

from velmot.core.time import Floats
from velmot.sound.library import Library
from velmot.sound.path import Piece
from velmot.sound.render import faded

PER_SECOND = 50
RATE = 12_000
"""Frames a second that outlines are made from: what is higher shows no silhouette of its own."""


def outline(pieces: Iterable[Piece], library: Library, start: float, end: float) -> Floats:
    """The highest each column reaches, 0 to 1 and beyond, of what sounds on a track before its devices and its level."""
    columns = np.zeros(max(round((end - start) * PER_SECOND), 1))
    for piece in pieces:
        _lay(columns, piece, library, start)
    return columns


def _lay(columns: Floats, piece: Piece, library: Library, start: float) -> None:
    each = RATE // PER_SECOND
    a = max(round((piece.start - start) * PER_SECOND), 0)
    b = min(round((piece.end - start) * PER_SECOND), len(columns))
    if a >= b:
        return
    first = round((piece.offset + (start + a / PER_SECOND) - piece.start) * RATE)
    samples = np.abs(library.samples(piece.sound, piece.take, RATE, max(first, 0), (b - a) * each))
    flat = samples if samples.ndim == 1 else samples.max(axis=1)
    if piece.fades:
        flat = flat * faded(piece, start + a / PER_SECOND + np.arange(len(flat)) / RATE)
    columns[a:b] = np.maximum(columns[a:b], flat.reshape(b - a, each).max(axis=1))
