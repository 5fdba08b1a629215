"""Ticks: positions in time as whole numbers, 1,612,800 to the beat; the beat is a quarter note.

Intervals are half open: ``[start, end)``.
"""

from __future__ import annotations

from decimal import Decimal
from fractions import Fraction
from typing import NewType

import numpy as np
import numpy.typing as npt

Tick = NewType("Tick", int)
Ticks = npt.NDArray[np.int64]
Floats = npt.NDArray[np.float64]
Flags = npt.NDArray[np.bool_]

TICKS_PER_BEAT = 1_612_800  # 2^10 · 3^2 · 5^2 · 7
MOST_TICKS = 1_000_000 * TICKS_PER_BEAT
_FEW = 24  # fewer positions are quicker one by one
_DIGITS = 7  # half a tick is 3.1e-7 beat, so seven decimals always tell two ticks apart


_NEAR = 2.0**20
"""Beats up to which a plain product finds the same tick as exact fractions do, away from halves."""


def ticks_of(beats: float | Fraction | Decimal) -> Tick:
    """The tick nearest to a position in beats.

    >>> ticks_of(1.5)
    2419200
    """
    if isinstance(beats, float) and -_NEAR < beats < _NEAR:
        product = beats * TICKS_PER_BEAT  # its rounding is far smaller than what it lies away from a half
        tick = round(product)
        if abs(product - tick) < 0.49:
            return Tick(tick)
    return Tick(round(Fraction(beats) * TICKS_PER_BEAT))


def beats_of(tick: int) -> float:
    """The shortest decimal number of beats that reads back to the same tick.

    >>> beats_of(2419200), beats_of(537600)
    (1.5, 0.3333333)
    """
    exact = tick / TICKS_PER_BEAT  # off by less than a thousandth of a tick
    for digits in range(_DIGITS):
        short = round(exact, digits)
        if round(short * TICKS_PER_BEAT) == tick:
            return short
    return round(exact, _DIGITS)


def beats_array(ticks: Ticks) -> list[float]:
    """Many positions at once, shortest decimals as `beats_of` writes them."""
    if len(ticks) < _FEW:
        return [beats_of(tick) for tick in ticks.tolist()]
    out = np.full(ticks.shape, np.nan)
    left = np.ones(ticks.shape, dtype=bool)
    exact = ticks / TICKS_PER_BEAT
    for digits in range(_DIGITS + 1):
        if not left.any():
            break
        short = np.round(exact[left], digits)
        same = np.rint(short * TICKS_PER_BEAT).astype(np.int64) == ticks[left]
        where = np.flatnonzero(left)[same]
        out[where] = short[same]
        left[where] = False
    return [float(b) for b in out]


def ticks_array(beats: Floats) -> Ticks:
    """Many positions in beats as the nearest ticks: the same as `ticks_of` each."""
    products = beats * TICKS_PER_BEAT
    ticks = np.rint(products).astype(np.int64)
    odd = (np.abs(products - ticks) >= 0.49) | (np.abs(beats) >= _NEAR)
    for i in np.flatnonzero(odd).tolist():
        ticks[i] = ticks_of(float(beats[i]))
    return ticks


def merged(*lists: Ticks | list[int]) -> Ticks:
    """All ticks of some sorted lists, in order, each once."""
    every = np.concatenate(lists).astype(np.int64)
    every.sort(kind="stable")  # runs are merged, which is many times faster than hashing
    return every[np.append(True, every[1:] != every[:-1])] if len(every) else every


def among(ticks: Ticks, sorted_ticks: Ticks) -> Flags:
    """Which of the ticks are among some sorted ones."""
    if not len(sorted_ticks):
        return np.zeros(len(ticks), dtype=bool)
    where = np.minimum(np.searchsorted(sorted_ticks, ticks), len(sorted_ticks) - 1)
    return np.asarray(sorted_ticks[where] == ticks)
