"""Loudness as ITU-R BS.1770-4 measures it: K-weighting, blocks of 400 ms, gated at −70 LUFS and 10 LU below their mean."""

from __future__ import annotations

import numpy as np

from velmot.core.time.ticks import Floats
from velmot.sound.scientific import filtered

SILENT = -np.inf
_BLOCK, _STEP = 0.4, 0.1
_ABSOLUTE, _RELATIVE = -70.0, -10.0
_OFFSET = -0.691


class Weighting:
    """The standard's two filters, worked out anew for any rate, for sound that comes piece by piece.

    Analogue prototypes of the standard's 48 kHz coefficients: B. De Man, Evaluation of implementations of the EBU R128
    loudness measurement (AES 145, 2018).
    """

    def __init__(self, rate: int) -> None:
        self.filters = [_shelf(rate), _high_pass(rate)]
        self.states: list[Floats] = []

    def take(self, samples: Floats) -> Floats:
        """The next samples, (frames, sides), weighted."""
        if not self.states:
            self.states = [np.zeros((2, samples.shape[1])) for _ in self.filters]
        for n, numbers in enumerate(self.filters):
            samples, self.states[n] = filtered(*numbers, samples, 0, self.states[n])
        return samples


def _shelf(rate: int) -> tuple[Floats, Floats]:
    hz, decibels, q = 1681.974450955533, 3.999843853973347, 0.7071752369554196
    k, high = np.tan(np.pi * hz / rate), 10 ** (decibels / 20)
    band = high**0.4996667741545416
    under = 1 + k / q + k * k
    b = np.array([high + band * k / q + k * k, 2 * (k * k - high), high - band * k / q + k * k]) / under
    return b, np.array([1, 2 * (k * k - 1) / under, (1 - k / q + k * k) / under])


def _high_pass(rate: int) -> tuple[Floats, Floats]:
    hz, q = 38.13547087602444, 0.5003270373238773
    k = np.tan(np.pi * hz / rate)
    under = 1 + k / q + k * k
    return np.array([1.0, -2.0, 1.0]), np.array([1, 2 * (k * k - 1) / under, (1 - k / q + k * k) / under])


def loudness(samples: Floats, rate: int) -> float:
    """Integrated loudness in LUFS of samples, (frames, 2); −∞ where all of it is silent."""
    power = Power(rate)
    power.take(samples)
    return gated(power.blocks())


class Power:
    """The power of sound that comes piece by piece, in blocks of 400 ms, one each 100 ms."""

    def __init__(self, rate: int) -> None:
        self.weighting = Weighting(rate)
        self.steps = Steps(round(_STEP * rate))

    def take(self, samples: Floats) -> None:
        """The next samples, (frames, sides)."""
        self.steps.take((self.weighting.take(samples) ** 2).sum(axis=1, keepdims=True))

    def blocks(self) -> Floats:
        """The mean square of each block; of sound that is shorter than one, of all of it."""
        return self.steps.windows(round(_BLOCK / _STEP))[:, 0]


class Steps:
    """Sums over steps of some frames of what comes piece by piece, and means over windows of several steps."""

    def __init__(self, frames: int) -> None:
        self.frames = frames
        self.sums: list[Floats] = []
        self.left: Floats | None = None

    def take(self, rows: Floats) -> None:
        """The next rows, (frames, columns)."""
        rows = rows if self.left is None else np.concatenate([self.left, rows])
        whole = len(rows) // self.frames * self.frames
        self.sums.append(rows[:whole].reshape(-1, self.frames, rows.shape[1]).sum(axis=1))
        self.left = rows[whole:]

    def windows(self, steps: int) -> Floats:
        """The mean of every window of so many steps, (windows, columns); where there is none, that of all there is."""
        sums = np.concatenate(self.sums) if self.sums else np.zeros((0, 1))
        if len(sums) >= steps:
            return window_means(sums, steps) / self.frames
        left = self.left if self.left is not None else np.zeros((0, sums.shape[1]))
        frames = len(sums) * self.frames + len(left)
        whole = sums.sum(axis=0, keepdims=True) + left.sum(axis=0, keepdims=True)
        return whole / frames if frames else np.zeros((0, sums.shape[1]))


def window_means(rows: Floats, count: int) -> Floats:
    """The mean of every window of so many rows, none of them below zero, (windows, columns)."""
    run = np.concatenate([np.zeros((1, rows.shape[1])), np.cumsum(rows, axis=0)])
    return np.asarray(np.maximum(run[count:] - run[:-count], 0.0) / count)


def gated(power: Floats) -> float:
    """The mean of the blocks that count."""
    loud = power[power > 10 ** ((_ABSOLUTE - _OFFSET) / 10)]
    if not len(loud):
        return float(SILENT)
    least = 10 ** ((10 * np.log10(loud.mean()) + _RELATIVE) / 10)
    return _OFFSET + 10 * float(np.log10(loud[loud > least].mean()))
