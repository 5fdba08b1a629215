"""A murmur like speech: syllables in sentences, with breaths between, and no words."""

from __future__ import annotations

from collections.abc import Iterator

import numpy as np

from velmot.core.session.sounds import Sound
from velmot.core.time.ticks import Floats
from velmot.sound.sources.pieces import SPAN, Event, events, formant, harmonics, rounded

_LONGEST = 0.5
_MOUTHS = (
    ((730.0, 90.0), (1090.0, 110.0), (2440.0, 160.0)),
    ((270.0, 60.0), (2290.0, 150.0), (3010.0, 200.0)),
    ((300.0, 60.0), (870.0, 90.0), (2240.0, 160.0)),
    ((530.0, 80.0), (1840.0, 130.0), (2480.0, 160.0)),
    ((570.0, 80.0), (840.0, 90.0), (2410.0, 160.0)),
)
"""The first three formants of five vowels (Peterson and Barney 1952), and their widths."""


def made(sound: Sound, take: str, rate: int, start: int, frames: int) -> Floats:
    """A sentence of up to 3.4 s in every span of 4 s, three to six syllables a second."""

    def syllables(draw: np.random.Generator, n: int) -> Iterator[Event]:
        at, end = draw.uniform(0, 0.15) * (n > 0), SPAN * (0.6 + 0.3 * sound.density)
        while at < end:
            long = draw.uniform(0.11, 0.26)
            fall = 1.12 - 0.3 * at / SPAN
            yield at, _syllable(sound, draw, fall, long, rate)
            at += long + draw.exponential(0.03 + 0.1 * (1 - sound.density)) + (draw.random() < 0.12) * 0.22

    words = ("murmur", sound.seed, take)
    return events(syllables, words, _LONGEST, rate, start, frames) * sound.amplitude


def _syllable(sound: Sound, draw: np.random.Generator, fall: float, long: float, rate: int) -> Floats:
    t = np.arange(round(long * rate)) / rate
    hz = sound.hz * fall * draw.uniform(0.92, 1.1)
    turns = np.cumsum(hz * (1 + 0.06 * np.sin(np.pi * t / long))) / rate
    mouth = _MOUTHS[draw.integers(len(_MOUTHS))]
    weights = [formant(hz * k, mouth, 1.3 - 0.8 * sound.brightness) for k in range(1, 30) if hz * k < rate / 2.5]
    voice = harmonics(turns, weights) / sum(weights) * 1.6
    breath = draw.standard_normal(len(t)) * 0.05 * draw.random() * np.exp(-t * 30)
    return rounded((voice + breath) * draw.uniform(0.6, 1.0), rate, 0.02, 0.05)
