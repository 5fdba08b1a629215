"""Rain: a bright wash in slow waves, and drops on something that rings."""

from __future__ import annotations

from collections.abc import Iterator

import numpy as np

from velmot.core.session.sounds import Sound
from velmot.core.time.ticks import Floats
from velmot.sound.sources.pieces import SPAN, Event, coloured, decay, events, low_pass, wandering

_RING = 0.09


def made(sound: Sound, take: str, rate: int, start: int, frames: int) -> Floats:
    """High noise, and up to 60 drops a second."""
    words = ("rain", sound.seed, take)
    b, a = low_pass(900.0 + 5000.0 * sound.brightness, rate)
    wash = coloured(b, a, words, rate, start, frames)
    wash = wash - coloured(*low_pass(400.0, rate), words, rate, start, frames)
    waves = 0.75 + 0.25 * wandering((*words, "waves"), 2.3, rate, start, frames)

    def drops(draw: np.random.Generator, n: int) -> Iterator[Event]:
        for _ in range(draw.poisson(60 * sound.density * SPAN)):
            at, hz, size = draw.uniform(0, SPAN), 1500 * 2 ** draw.uniform(0, 2.2), draw.exponential(0.12)
            t = np.arange(round(_RING * rate))
            yield at, size * np.sin(2 * np.pi * hz / rate * t) * decay(len(t), _RING * draw.uniform(0.3, 1), rate)

    struck = events(drops, (*words, "drops"), _RING, rate, start, frames)
    return np.asarray((wash * waves * 0.55 + struck * 0.5) * sound.amplitude)
