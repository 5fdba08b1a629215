"""Segment shapes: how a straight, held or bent segment runs between its two points, and what is left of it when it is cut."""

from __future__ import annotations

from math import expm1

import numpy as np

from velmot.core.time.ticks import Floats

HOLD = float("inf")
"""The shape of a held segment: the limit of a bend as k grows without bound."""

MAX_BEND = 60.0
STRAIGHT = 1e-14
"""Bends below this are straight to the last digit."""

NEARLY_STRAIGHT = 1e-9
"""Bends below this are nearer to straight than a logarithm can tell."""


def bend(x: Floats, k: Floats) -> Floats:
    """How far a segment of bend `k` has come at `x` in 0..1: (e^(kx) − 1)/(e^k − 1).

    k → 0 is straight; k = HOLD stays at 0 until x reaches 1.

    >>> float(bend(np.array(0.5), np.array(0.0))), float(bend(np.array(0.5), np.array(HOLD)))
    (0.5, 0.0)
    """
    if not k.any():  # nothing is bent or held
        return np.array(np.broadcast_to(x, np.broadcast_shapes(x.shape, k.shape)), dtype=np.float64)
    if x.shape != k.shape:
        x, k = np.broadcast_arrays(x, k)
    progress = np.where(np.isposinf(k), x >= 1, x).astype(np.float64)
    curved = (x > 0) & (x < 1) & np.isfinite(k) & (np.abs(k) >= STRAIGHT)  # the ends are exact as they are
    if curved.any():
        bent = k[curved]
        progress[curved] = np.expm1(bent * x[curved]) / np.expm1(bent)  # no overflow: k is at most MAX_BEND
    return progress


def bend_at(x: float, k: float) -> float:
    """`bend` at one place inside a segment, without the arrays."""
    return x if abs(k) < STRAIGHT else expm1(k * x) / expm1(k)


def unbend(progress: Floats | float, k: Floats | float) -> Floats:
    """Where in a segment (0..1) of bend `k` it has come as far as `progress` (0..1): ln(1 + p(e^k − 1))/k, never beyond.

    >>> float(unbend(0.25, np.log(9))), float(unbend(1.0, -60.0))
    (0.5, 1.0)
    """
    p, bent = np.broadcast_arrays(np.asarray(progress, dtype=np.float64), np.asarray(k, dtype=np.float64))
    p = np.clip(p, 0.0, 1.0)
    straight = np.abs(bent) < NEARLY_STRAIGHT
    safe = np.where(straight, 1.0, bent)
    gentle, steep = np.clip(safe, -1.0, 1.0), np.maximum(np.abs(safe), 1.0)
    far = np.where(safe > 0, p, 1.0 - p)  # how far along as seen from the flat end
    curved = np.where(
        np.abs(safe) > 1,  # kept from overflowing, and from losing its digits at the flat end
        1.0 + np.log(np.maximum(far + (1.0 - far) * np.exp(-steep), np.exp(-steep))) / steep,
        np.log1p(p * np.expm1(gentle)) / gentle,
    )
    x = np.where((np.abs(safe) > 1) & (safe < 0), 1.0 - curved, curved)
    return np.asarray(np.clip(np.where(straight, p, x), 0.0, 1.0))


def cut_bend(k: Floats, lengths: Floats, whole: Floats) -> Floats:
    """The bends of parts `lengths` long of segments `whole` long: k·length/whole, so that the parts run as the whole did.

    A hold stays a hold, however short.

    >>> cut_bend(np.array([3.0, HOLD]), np.array([1, 1]), np.array([3, 3])).tolist()
    [1.0, inf]
    """
    bends = k.copy()
    shorter = np.isfinite(k) & (whole > lengths)
    bends[shorter] *= lengths[shorter] / whole[shorter]
    return bends
