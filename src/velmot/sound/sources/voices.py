"""Voices: a few singers on slow chords, each with a vibrato of its own."""

from __future__ import annotations

from collections.abc import Iterator

import numpy as np

from velmot.core.session.sounds import Sound
from velmot.core.time.ticks import Floats
from velmot.sound.sources.pieces import Event, events, formant, harmonics, rounded

_STEPS = (0, 3, 7, 10, 12, 15)
_LONG = 5.5
_VOWELS = (
    ((700.0, 110.0), (1150.0, 120.0), (2600.0, 200.0)),
    ((400.0, 90.0), (800.0, 100.0), (2500.0, 200.0)),
    ((330.0, 80.0), (1900.0, 150.0), (2700.0, 200.0)),
)


def made(sound: Sound, take: str, rate: int, start: int, frames: int) -> Floats:
    """Two to six tones of a chord in every span of 4 s, each a little longer than it, so that they overlap."""
    count = 2 + round(4 * sound.density)

    def singers(draw: np.random.Generator, n: int) -> Iterator[Event]:
        root, vowel = draw.choice((0, 0, -2, 3, 5)), _VOWELS[draw.integers(len(_VOWELS))]
        for step in draw.permutation(_STEPS)[:count]:
            hz = sound.hz * 2 ** ((root + step) / 12) * draw.uniform(0.996, 1.004)
            t = np.arange(round(_LONG * rate)) / rate
            sway = 1 + 0.006 * np.sin(2 * np.pi * draw.uniform(4.4, 5.8) * t + draw.uniform(0, 6))
            turns = np.cumsum(hz * sway) / rate
            tilt = 1.5 - sound.brightness
            weights = [formant(hz * k, vowel, tilt) for k in range(1, 25) if hz * k < rate / 2.5]
            voice = harmonics(turns, weights) / sum(weights)
            yield draw.uniform(0, 0.3) * (n > 0), rounded(voice, rate, 0.9, 1.3)

    words = ("voices", sound.seed, take)
    return np.asarray(events(singers, words, _LONG + 0.5, rate, start, frames) * (sound.amplitude * 1.4 / count**0.5))
