"""Noise: dark to bright, and with less density in slow waves."""

from __future__ import annotations

import numpy as np

from velmot.core.session.sounds import Sound
from velmot.core.time.ticks import Floats
from velmot.sound.sources.pieces import coloured, low_pass, wandering


def made(sound: Sound, take: str, rate: int, start: int, frames: int) -> Floats:
    """White noise below a corner of 300 Hz (dark) to 12 kHz (bright)."""
    words = ("noise", sound.seed, take)
    corner = 300.0 * 40.0**sound.brightness
    body = coloured(*low_pass(corner, rate), words, rate, start, frames)
    level = np.sqrt(np.pi * corner / rate) if corner < rate / 4 else 1.0  # what the filter leaves of it
    waves = 1 - (1 - sound.density) * (0.5 + 0.5 * wandering((*words, "waves"), 1.7, rate, start, frames))
    return np.asarray(body / max(float(level), 0.05) * waves * sound.amplitude / 4)
