"""Warps: what a piece does, stretched over another length, run backwards, or turned within its length.

Everything is exact but for the rounding of points to ticks, which keeps their order.
"""

from __future__ import annotations

import numpy as np

from velmot.core.curves import editing
from velmot.core.curves.editing import Fragment
from velmot.core.curves.envelope import Envelope, inserted
from velmot.core.curves.segments import HOLD
from velmot.core.time.ticks import Ticks

_TO_THE_LAST_DIGITS = 1e-13
"""A seam that only rounding tells from one segment; more would be read many times as deep."""


def stretched(piece: Fragment, length: int) -> Fragment:
    """The piece over `length` ticks. Of several points that fall on one tick the first and the last stay, as a jump."""
    if length == piece.length:
        return piece
    curve = piece.envelope
    ticks = scaled(curve.ticks, length, piece.length)
    first = np.append(True, ticks[1:] != ticks[:-1])
    last = np.append(ticks[1:] != ticks[:-1], True)
    keep = first | last
    return Fragment(curve.trusted(ticks[keep], curve.values[keep], curve.bends[keep]), length)


def scaled(ticks: Ticks, length: int, whole: int) -> Ticks:
    """Ticks of `whole` as ticks of `length`, rounded half up. Exact: the products are beyond 64 bits, so whole numbers do it."""
    made = [(2 * t * length + whole) // (2 * whole) for t in ticks.tolist()]
    return np.array(made, dtype=np.int64)


def backwards(piece: Fragment) -> Fragment:
    """The piece from its end to its start; at a jump the value from the other side is the one that counts."""
    curve = _closed_holds(piece.envelope.only_heard())
    flat = np.append(np.isposinf(curve.bends[:-1]), False)
    bends = np.append(np.where(flat[:-1], HOLD, -curve.bends[:-1])[::-1], 0.0)
    made = curve.trusted(piece.length - curve.ticks[::-1].copy(), curve.values[::-1].copy(), bends)
    return Fragment(_without_held_ends(made), piece.length)


def _closed_holds(curve: Envelope) -> Envelope:
    """The same with the held value standing at the end of each hold as well, before whatever it jumps to."""
    held = np.flatnonzero(np.isposinf(curve.bends[:-1]) & (curve.values[:-1] != curve.values[1:]))
    if not len(held):
        return curve
    pairs = [
        (curve.ticks, curve.ticks[held + 1]),
        (curve.values, curve.values[held]),
        (curve.bends, np.zeros(len(held))),
    ]
    return curve.trusted(*inserted(held + 1, pairs))


def _without_held_ends(curve: Envelope) -> Envelope:
    """Without points that end a hold and are followed, at their tick, by another: the hold says it all."""
    ends = np.zeros(len(curve), dtype=bool)
    ends[1:-1] = np.isposinf(curve.bends[:-2]) & (curve.ticks[1:-1] == curve.ticks[2:])
    if not ends.any():
        return curve
    return curve.trusted(curve.ticks[~ends], curve.values[~ends], curve.bends[~ends])


def turned(piece: Fragment, by: int) -> Fragment:
    """The piece later by `by` ticks; what leaves its end comes in at its start."""
    by %= piece.length
    if not by:
        return piece
    head, tail = editing.slices(piece.envelope, [(piece.length - by, piece.length), (0, piece.length - by)])
    made = editing.joined(head, tail.shift(by), by, _TO_THE_LAST_DIGITS)
    return Fragment(editing.slices(made, [(0, piece.length)])[0], piece.length)
