"""A bell: partials that are no harmonics, struck every few seconds, never quite alike."""

from __future__ import annotations

from collections.abc import Iterator
from functools import lru_cache

import numpy as np

from velmot.core.session.sounds import Sound
from velmot.core.time.ticks import Floats
from velmot.sound.sources.pieces import SPAN, Event, decay, events

_PARTIALS = ((0.5, 0.35, 5.0), (1.0, 0.5, 4.0), (1.19, 0.3, 3.0), (1.5, 0.22, 2.6), (2.0, 0.4, 2.2), (2.74, 0.2, 1.2),
             (3.0, 0.14, 1.0), (3.76, 0.12, 0.7), (5.4, 0.08, 0.4))  # fmt: skip
"""(of the pitch, how loud, seconds to fall by 60 dB): hum, prime, tierce, quint, nominal and above, as founders name them."""

_LONGEST = 5.0


def made(sound: Sound, take: str, rate: int, start: int, frames: int) -> Floats:
    """One stroke at the take's start, then one every 1 to 7 seconds, by density."""

    def strokes(draw: np.random.Generator, n: int) -> Iterator[Event]:
        every = 1.0 + 6.0 * (1 - sound.density)
        count = max(int(draw.poisson(SPAN / every)), int(n == 0))
        times = [0.0 if n == 0 and k == 0 else draw.uniform(0, SPAN) for k in range(count)]
        for at in sorted(times):
            yield at, _stroke(sound, draw.uniform(0.55, 1.0), rate)

    words = ("bell", sound.seed, take)
    return events(strokes, words, _LONGEST, rate, start, frames) * (sound.amplitude * 0.45)


def _stroke(sound: Sound, force: float, rate: int) -> Floats:
    """The harder it is struck, the brighter it is."""
    deep, high = _partials(sound.hz, rate, False), _partials(sound.hz, rate, True)
    return np.asarray((deep + high * (0.35 + 0.65 * force * (0.4 + 1.2 * sound.brightness))) * force)


@lru_cache(maxsize=16)
def _partials(pitch: float, rate: int, high: bool) -> Floats:
    t = np.arange(round(_LONGEST * rate))
    out = np.zeros(len(t))
    for ratio, size, fall in _PARTIALS:
        hz = pitch * ratio
        if (ratio > 1.5) == high and hz < rate / 2.2:
            out += size * np.sin(2 * np.pi * hz / rate * t) * decay(len(t), fall, rate)
    soft = round(0.002 * rate)
    out[:soft] *= np.arange(soft) / soft
    return out
