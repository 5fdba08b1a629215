"""A sine, all along, from the session's first tick."""

from __future__ import annotations

import numpy as np

from velmot.core.session.sounds import Sound
from velmot.core.time.ticks import Floats


def made(sound: Sound, take: str, rate: int, start: int, frames: int) -> Floats:
    """amplitude · sin(2π · hz · t)."""
    turns = np.mod((start + np.arange(frames)) * (sound.hz / rate), 1.0)
    return np.asarray(sound.amplitude * np.sin(2 * np.pi * turns))
