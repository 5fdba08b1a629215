"""Chance that is the same for the same words: a take sounds alike wherever, whenever and in whatever pieces it is made."""

from __future__ import annotations

from hashlib import blake2b

import numpy as np

from velmot.core.time.ticks import Floats

GRAIN = 0.25
"""Seconds of white noise that are drawn at once."""


def chance(*words: object) -> np.random.Generator:
    """A generator that depends on nothing but the words."""
    digest = blake2b("\x1f".join(map(str, words)).encode(), digest_size=16).digest()
    return np.random.Generator(np.random.PCG64(int.from_bytes(digest)))


def white(rate: int, start: int, frames: int, *words: object) -> Floats:
    """White noise of deviation 1 from frame `start` of an endless take on."""
    grain = round(GRAIN * rate)
    first, last = start // grain, (start + frames - 1) // grain
    drawn = [chance(*words, rate, n).standard_normal(grain) for n in range(first, last + 1)]
    return np.concatenate(drawn)[start - first * grain :][:frames]
