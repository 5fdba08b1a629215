"""Meters: peak, mean and loudness of what was rendered, and where it was loudest."""

from __future__ import annotations

from dataclasses import dataclass, field

import numpy as np

from velmot.core.time.ticks import Floats
from velmot.sound.library import Library
from velmot.sound.loudness import Power, Steps, gated
from velmot.sound.path import Score
from velmot.sound.render import RATE, blocks

MEAN_OVER, MEAN_STEP = 0.3, 0.01
"""Seconds of a mean (RMS), and between two of them."""


@dataclass(frozen=True)
class Reading:
    """Of the louder side: the highest peak and the loudest mean, in dB of full scale (−inf: silent); loudness in LUFS.

    `at` is where the loudest mean begins, in seconds; `clips` where the first sample went over full scale, if any.
    """

    peak: float
    mean: float
    loudness: float
    at: float | None
    clips: float | None


@dataclass
class Meter:
    """Takes blocks as they come, from `start` seconds on."""

    rate: int
    start: float
    peak: float = 0.0
    clips: float | None = None
    power: Power = field(init=False)
    squares: Steps = field(init=False)

    def __post_init__(self) -> None:
        self.power, self.squares = Power(self.rate), Steps(round(MEAN_STEP * self.rate))

    def take(self, samples: Floats, start: float) -> None:
        """The next samples, (frames, 2), which begin at `start` seconds."""
        highest = max(float(samples.max(initial=0.0)), -float(samples.min(initial=0.0)))
        if self.clips is None and highest > 1.0:
            self.clips = start + int(np.argmax((np.abs(samples) > 1.0).any(axis=1))) / self.rate
        self.peak = max(self.peak, highest)
        self.power.take(samples)
        self.squares.take(samples**2)

    def reading(self) -> Reading:
        """What was found."""
        means = self.squares.windows(round(MEAN_OVER / MEAN_STEP)).max(axis=1, initial=0.0)
        best = int(np.argmax(means)) if len(means) else 0
        mean = float(means[best]) ** 0.5 if len(means) else 0.0
        at = self.start + best * MEAN_STEP if mean > 0 else None
        return Reading(_decibels(self.peak), _decibels(mean), gated(self.power.blocks()), at, self.clips)


def _decibels(size: float) -> float:
    return 20 * float(np.log10(size)) if size > 0 else float(-np.inf)


def readings(
    score: Score, library: Library, rate: int = RATE, of_each: bool = True
) -> tuple[Reading, dict[str, Reading]]:
    """(of the master, of each channel at the master) over a whole score; of the master alone unless `of_each`."""
    master = Meter(rate, score.start)
    each = {channel.id: Meter(rate, score.start) for channel in score.channels if of_each}
    for block in blocks(score, library, rate):
        master.take(block.master, block.start)
        for id, samples in block.channels.items():
            if of_each:
                each[id].take(samples, block.start)
    return master.reading(), {id: meter.reading() for id, meter in each.items()}
