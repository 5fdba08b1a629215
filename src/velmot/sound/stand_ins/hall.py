"""A hall: a made impulse, noise that falls by 60 dB in so many seconds. Between lengths two are crossed over."""

from __future__ import annotations

from functools import lru_cache, partial

import numpy as np

from velmot.core.parameters.parameter import Parameter
from velmot.core.time.ticks import Floats
from velmot.sound.chance import chance
from velmot.sound.nodes import HALL, Node
from velmot.sound.ramps import Ramps
from velmot.sound.stand_ins.values import TIMES, Values, first

WORDS = ("hall", "room", "reverb", "chamber", "plate", "space", "cathedral")
DECAYS = (0.5, 1.0, 2.0, 4.0, 8.0)
DECAY, WET = 1.8, 1.0
DARK = 5000.0


def nodes(values: Values, parameters: tuple[Parameter, ...]) -> tuple[list[Node], set[str]]:
    """`says` holds no dry sound: a hall stands on a bus. With a mix in it, that says how much is wet."""
    length = first(parameters, TIMES, ("decay", "length"))
    wet = first(parameters, words=("mix", "wet", "amount", "blend"))
    decay = values.seconds(length) if length else Ramps.still(DECAY)
    ramps = {f"decay {i}": decay.mapped(partial(_share, i)) for i in range(len(DECAYS))}
    ramps = {name: ramp for name, ramp in ramps.items() if ramp.values.any()}
    ramps["wet"] = values.part(wet) if wet else Ramps.still(WET)
    ramps["dry"] = ramps["wet"].mapped(lambda v: 1.0 - v)
    return [Node(HALL, ramps)], {p.id for p in (length, wet) if p}


def _share(i: int, seconds: Floats) -> Floats:
    """How much of the i-th impulse there is: of its two neighbours by equal power on the logarithm of their lengths."""
    place = np.interp(np.log(np.maximum(seconds, 0.01)), np.log(DECAYS), range(len(DECAYS)))
    return np.asarray(np.cos(np.pi / 2 * np.clip(np.abs(place - i), 0, 1)).round(12))


@lru_cache(maxsize=16)
def impulse(i: int, rate: int) -> Floats:
    """The i-th impulse, shape (frames, 2), of energy 1 on each side; high sounds fall twice as fast."""
    frames = round(DECAYS[i] * rate)
    draw = chance("hall", i, rate)
    t = np.arange(frames) / rate
    spectrum = np.fft.rfft(draw.standard_normal((2, frames)) * np.exp(t * (-np.log(1000) / DECAYS[i])))
    dark = 1 / np.sqrt(1 + (np.fft.rfftfreq(frames, 1 / rate) / DARK) ** 2)
    made = np.fft.irfft(spectrum * dark, frames).T
    rise = np.minimum(t / 0.012, 1.0)[:, None]
    made = made * rise
    return np.asarray(made / np.sqrt((made**2).sum(axis=0)))
