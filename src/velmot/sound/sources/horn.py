"""A horn: long tones that swell and go, deep and rich in harmonics."""

from __future__ import annotations

from collections.abc import Iterator

import numpy as np

from velmot.core.session.sounds import Sound
from velmot.core.time.ticks import Floats
from velmot.sound.sources.pieces import SPAN, Event, events, harmonics, rounded


def made(sound: Sound, take: str, rate: int, start: int, frames: int) -> Floats:
    """A tone in every span of 4 s, 1.6 to 3.8 s long by density; harmonics fall the less the brighter it is."""
    weights = [n ** -(2.2 - 1.4 * sound.brightness) for n in range(1, 25) if sound.hz * n < rate / 2.5]

    def tones(draw: np.random.Generator, n: int) -> Iterator[Event]:
        long = SPAN * (0.4 + 0.55 * sound.density)
        t = np.arange(round(long * rate)) / rate
        drift = 1 + 0.004 * np.sin(2 * np.pi * 4.6 * t + draw.uniform(0, 6)) * np.minimum(t, 1.0)
        turns = np.cumsum(sound.hz * drift) / rate
        yield draw.uniform(0, 0.1) * SPAN * (n > 0), rounded(harmonics(turns, weights), rate, 0.12, 0.5)

    words = ("horn", sound.seed, take)
    return np.asarray(events(tones, words, SPAN, rate, start, frames) * (sound.amplitude * 0.9 / sum(weights)))
