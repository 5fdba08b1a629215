"""Filters of second order whose corner moves, as the W3C's Web Audio recommendation has them.

Coefficients after Robert Bristow-Johnson's Audio EQ Cookbook; of lowpass and highpass Q is in decibels.
"""

from __future__ import annotations

from itertools import pairwise

import numpy as np

from velmot.core.time.ticks import Floats
from velmot.sound.scientific import filtered

STEADY = 64
"""Frames for which a filter that moves fast stays as it is in their middle: about 1 ms."""


def coefficients(word: str, rate: int, hz: float, q: float, decibels: float) -> tuple[Floats, Floats]:
    """(b, a) of a filter; the corner keeps below half the rate."""
    w = 2 * np.pi * min(max(hz, 1.0), rate / 2 * 0.999) / rate
    sine, cosine = np.sin(w), np.cos(w)
    gain = 10 ** (decibels / 40)
    b: tuple[float, ...]
    a: tuple[float, ...]
    narrow = sine / (2 * 10 ** (q / 20)) if word in ("lowpass", "highpass") else sine / (2 * max(q, 1e-4))
    if word == "lowpass":
        b, a = ((1 - cosine) / 2, 1 - cosine, (1 - cosine) / 2), (1 + narrow, -2 * cosine, 1 - narrow)
    elif word == "highpass":
        b, a = ((1 + cosine) / 2, -1 - cosine, (1 + cosine) / 2), (1 + narrow, -2 * cosine, 1 - narrow)
    elif word == "bandpass":
        b, a = (narrow, 0.0, -narrow), (1 + narrow, -2 * cosine, 1 - narrow)
    elif word == "peaking":
        b = (1 + narrow * gain, -2 * cosine, 1 - narrow * gain)
        a = (1 + narrow / gain, -2 * cosine, 1 - narrow / gain)
    else:
        b, a = _shelf(word, cosine, sine, gain)
    return np.array(b) / a[0], np.array(a) / a[0]


def _shelf(word: str, cosine: float, sine: float, gain: float) -> tuple[tuple[float, ...], tuple[float, ...]]:
    """A shelf of slope 1."""
    wide = 2 * np.sqrt(gain) * sine / 2 * np.sqrt(2.0)
    way = 1 if word == "lowshelf" else -1
    up, down = gain + 1, gain - 1
    b = (
        gain * (up - way * down * cosine + wide),
        way * 2 * gain * (down - way * up * cosine),
        gain * (up - way * down * cosine - wide),
    )
    a = (up + way * down * cosine + wide, -way * 2 * (down + way * up * cosine), up + way * down * cosine - wide)
    return b, a


class Filter:
    """A filter that goes on from block to block; samples are (frames, sides)."""

    def __init__(self, word: str, rate: int, sides: int) -> None:
        self.word, self.rate = word, rate
        self.state = np.zeros((2, sides))

    def run(self, samples: Floats, hz: Floats | float, q: float, decibels: Floats | float) -> Floats:
        """Pass a block through; `hz` and `decibels` are one number for all of it, or one a frame."""
        out = np.empty_like(samples)
        for a, b in _steady(len(samples), hz, decibels):
            middle = (a + b) // 2
            corner = hz if isinstance(hz, float) else float(hz[middle])
            gain = decibels if isinstance(decibels, float) else float(decibels[middle])
            numbers = coefficients(self.word, self.rate, corner, q, gain)
            out[a:b], self.state = filtered(*numbers, samples[a:b], 0, self.state)
        return out

    @property
    def quiet(self) -> bool:
        """Whether nothing is left in it of what came."""
        return not bool((np.abs(self.state) > _QUIET).any())


_QUIET = 1e-10
_OCTAVES, _DECIBELS = 1 / 96, 0.05
"""By how much a corner and a gain may be off for a run of frames: an eighth of a decibel where a filter is steepest."""


def _steady(frames: int, hz: Floats | float, decibels: Floats | float) -> list[tuple[int, int]]:
    """Runs of frames in which a filter hardly moves, none shorter than 1 ms."""
    marks = [0, frames]
    for moving, to, step in ((hz, np.log2, _OCTAVES), (decibels, np.asarray, _DECIBELS)):
        if not isinstance(moving, float):
            marks += (np.flatnonzero(np.diff(np.round(to(moving) / step))) + 1).tolist()
    runs: list[tuple[int, int]] = []
    for a, b in pairwise(sorted(marks)):
        if runs and runs[-1][1] - runs[-1][0] < STEADY:
            runs[-1] = (runs[-1][0], b)
        elif b > a:
            runs.append((a, b))
    return runs
