"""Outlines: how far a sound reaches in every fiftieth of a second, for the silhouettes behind strips."""

from __future__ import annotations

from collections.abc import Iterable
from dataclasses import replace

import numpy as np

from velmot.core.time.ticks import Floats
from velmot.sound.library import Library
from velmot.sound.path import Piece
from velmot.sound.render import faded

PER_SECOND = 50
LONGEST = 7200.0
"""Seconds of a session that have an outline: two hours."""

AT_ONCE = 30.0
"""Seconds that are made at once, so that a long sound needs no more memory than a short one."""

RATE = 12_000
"""Frames a second that outlines are made from: what is higher shows no silhouette of its own."""


def outline(pieces: Iterable[Piece], library: Library, start: float, end: float) -> Floats:
    """The highest each column reaches, 0 to 1 and beyond, of what sounds on a track before its devices and its level."""
    columns = np.zeros(max(round((min(end, start + LONGEST) - start) * PER_SECOND), 1))
    for piece in pieces:
        first = max(piece.start, start)
        last = min(piece.end, start + LONGEST)
        for n in range(max(int(np.ceil((last - first) / AT_ONCE)), 0)):
            a = first + n * AT_ONCE
            part = replace(piece, start=a, length=min(AT_ONCE, last - a), offset=piece.offset + a - piece.start)
            _lay(columns, part, library, start, piece)
    return columns


def _lay(columns: Floats, piece: Piece, library: Library, start: float, whole: Piece) -> None:
    each = RATE // PER_SECOND
    a = max(round((piece.start - start) * PER_SECOND), 0)
    b = min(round((piece.end - start) * PER_SECOND), len(columns))
    if a >= b:
        return
    first = round((piece.offset + (start + a / PER_SECOND) - piece.start) * RATE)
    samples = np.abs(library.samples(piece.sound, piece.take, RATE, max(first, 0), (b - a) * each))
    flat = samples if samples.ndim == 1 else samples.max(axis=1)
    if piece.fades:
        flat = flat * faded(whole, start + a / PER_SECOND + np.arange(len(flat)) / RATE)
    columns[a:b] = np.maximum(columns[a:b], flat.reshape(b - a, each).max(axis=1))
