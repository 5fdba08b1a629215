"""A pulse: short strokes in an even time, every fourth a little louder."""

from __future__ import annotations

from collections.abc import Iterator

import numpy as np

from velmot.core.session.sounds import Sound
from velmot.core.time.ticks import Floats
from velmot.sound.sources.pieces import SPAN, Event, decay, events

_LONG = 0.35


def made(sound: Sound, take: str, rate: int, start: int, frames: int) -> Floats:
    """4 to 32 strokes in every span of 4 s, by density."""

    def strokes(draw: np.random.Generator, n: int) -> Iterator[Event]:
        count = 4 * 2 ** round(3 * sound.density)
        t = np.arange(round(_LONG * rate)) / rate
        for k in range(count):
            fall = sound.hz * (1 + 2.5 * np.exp(-t * 60))
            body = np.sin(2 * np.pi * np.cumsum(fall) / rate) * decay(len(t), _LONG * 0.9, rate)
            tick = draw.standard_normal(len(t)) * np.exp(-t * 220) * (0.1 + 0.7 * sound.brightness)
            yield k * SPAN / count, (body * 0.8 + tick * 0.5) * (1.0 if k % 4 == 0 else 0.7)

    words = ("pulse", sound.seed, take)
    return events(strokes, words, _LONG, rate, start, frames) * (sound.amplitude * 0.8)
