"""Birds: calls that rise and fall, alone and in flocks."""

from __future__ import annotations

from collections.abc import Iterator

import numpy as np

from velmot.core.session.sounds import Sound
from velmot.core.time.ticks import Floats
from velmot.sound.sources.pieces import SPAN, Event, events, harmonics, rounded

_LONGEST = 0.7


def made(sound: Sound, take: str, rate: int, start: int, frames: int) -> Floats:
    """Runs of two to five cries, up to six runs a span of 4 s, at four times the pitch and above."""

    def cries(draw: np.random.Generator, n: int) -> Iterator[Event]:
        for _ in range(int(draw.poisson(0.6 + 5.4 * sound.density)) + (n == 0)):
            at, base, far = (
                draw.uniform(0, SPAN * 0.75),
                sound.hz * 4 * 2 ** draw.uniform(-0.3, 0.8),
                draw.uniform(0.2, 1),
            )
            for _ in range(int(draw.integers(2, 6))):
                long = draw.uniform(0.12, 0.4)
                yield at, far * _cry(base * draw.uniform(0.95, 1.05), long, sound.brightness, rate)
                at = min(at + long * draw.uniform(1.05, 1.5), SPAN)

    words = ("birds", sound.seed, take)
    return events(cries, words, _LONGEST, rate, start, frames) * (sound.amplitude * 0.7)


def _cry(hz: float, long: float, brightness: float, rate: int) -> Floats:
    t = np.arange(round(long * rate)) / rate
    bow = 1 + 0.35 * np.sin(np.pi * np.minimum(t / long * 1.3, 1.0)) - 0.25 * t / long
    turns = np.cumsum(np.minimum(hz * bow, rate / 6)) / rate
    return rounded(harmonics(turns, (1.0, 0.25 + 0.4 * brightness)) / 1.5, rate, 0.02, 0.06)
