"""A machine: a hum of harmonics that turns, and a rhythm in it."""

from __future__ import annotations

import numpy as np

from velmot.core.session.sounds import Sound
from velmot.core.time.ticks import Floats
from velmot.sound.sources.pieces import coloured, harmonics, low_pass, wandering


def made(sound: Sound, take: str, rate: int, start: int, frames: int) -> Floats:
    """The pitch a third as high, turning 1 to 9 times a second by density, over dark noise."""
    words = ("machine", sound.seed, take)
    seconds = (start + np.arange(frames)) / rate
    hz = sound.hz / 3
    weights = [n ** -(2.0 - 1.3 * sound.brightness) for n in range(1, 17) if hz * n < rate / 2.5]
    hum = harmonics(hz * seconds, weights) / sum(weights)
    turn = 0.5 + 0.5 * np.sin(2 * np.pi * (1 + 8 * sound.density) * seconds)
    noise = coloured(*low_pass(250 + 1500 * sound.brightness, rate), words, rate, start, frames)
    slow = 1 + 0.15 * wandering((*words, "load"), 1.3, rate, start, frames)
    return np.asarray((hum * (0.6 + 0.4 * turn) + noise * turn**3 * 0.9) * slow * sound.amplitude * 0.8)
