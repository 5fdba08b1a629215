"""What the stand-ins are put together from: events laid over each other, noise in a colour, slow wandering."""

from __future__ import annotations

from collections import OrderedDict
from collections.abc import Callable, Iterable
from functools import lru_cache, partial
from threading import Lock

import numpy as np

from velmot.core.session.sounds import Sound
from velmot.core.time.ticks import Floats
from velmot.sound.chance import chance, white
from velmot.sound.scientific import filtered

SPAN = 4.0
"""Seconds of a take whose events are drawn at once."""

WARM = 0.2
"""Seconds after which a filter no longer knows where it began."""

Event = tuple[float, Floats]
"""(seconds after the span's start, samples)."""

Drawn = Callable[[np.random.Generator, int], Iterable[Event]]
"""(chance, number of the span) → its events."""


def silence(sound: Sound, take: str, rate: int, start: int, frames: int) -> Floats:
    """Nothing."""
    return np.zeros(frames)


def events(
    drawn: Drawn,
    words: tuple[object, ...],
    longest: float,
    rate: int,
    start: int,
    frames: int,
) -> Floats:
    """All events of an endless take that reach into some frames. `drawn` gives those of one span, none over `longest` s.

    The spans made last are kept: the next piece of a take begins with what is left of the one before.
    """
    out = np.zeros(frames)
    span = round(SPAN * rate)
    first = (start - round(longest * rate)) // span
    for n in range(max(first, 0), (start + frames - 1) // span + 1):
        samples = _kept_span((*words, rate, n), partial(_span, drawn, words, n, longest, rate))
        at = n * span - start
        a, b = max(at, 0), min(at + len(samples), frames)
        if a < b:
            out[a:b] += samples[a - at : b - at]
    return out


def _span(drawn: Drawn, words: tuple[object, ...], n: int, longest: float, rate: int) -> Floats:
    """The events of one span, laid over each other."""
    out = np.zeros(round((SPAN + longest) * rate))
    for seconds, samples in drawn(chance(*words, n), n):
        at = round(seconds * rate)
        fits = samples[: len(out) - at]
        out[at : at + len(fits)] += fits
    return out


_MOST_KEPT = 24
_kept: OrderedDict[tuple[object, ...], Floats] = OrderedDict()
_lock = Lock()


def _kept_span(key: tuple[object, ...], made: Callable[[], Floats]) -> Floats:
    with _lock:
        if key in _kept:
            _kept.move_to_end(key)
            return _kept[key]
    samples = made()
    with _lock:
        _kept[key] = samples
        while len(_kept) > _MOST_KEPT:
            _kept.popitem(last=False)
    return samples


def coloured(
    b: Iterable[float], a: Iterable[float], words: tuple[object, ...], rate: int, start: int, frames: int
) -> Floats:
    """White noise through a filter that has run long enough before the first frame."""
    warm = min(round(WARM * rate), start)
    noise = white(rate, start - warm, frames + warm, *words)
    return np.asarray(filtered(b, a, noise)[warm:])


def low_pass(hz: float, rate: int) -> tuple[tuple[float], tuple[float, float]]:
    """A one-pole low pass: (b, a)."""
    pole = float(np.exp(-2 * np.pi * min(hz, rate / 2.2) / rate))
    return (1 - pole,), (1.0, -pole)


def wandering(words: tuple[object, ...], every: float, rate: int, start: int, frames: int) -> Floats:
    """A slow curve between −1 and 1: a new place every so many seconds, and a soft way from one to the next."""
    seconds = (start + np.arange(frames)) / rate / every
    first, last = int(seconds[0]), int(seconds[-1]) + 2
    places = np.array([chance(*words, "place", n).uniform(-1, 1) for n in range(first, last + 1)])
    whole = np.floor(seconds).astype(np.int64)
    way = 0.5 - 0.5 * np.cos(np.pi * (seconds - whole))
    here = whole - first
    return np.asarray(places[here] + (places[here + 1] - places[here]) * way)


def decay(frames: int, seconds: float, rate: int) -> Floats:
    """From 1 down by 60 dB in so many seconds."""
    return np.asarray(np.exp(np.arange(frames) * (-np.log(1000) / (seconds * rate))))


def rounded(samples: Floats, rate: int, attack: float, release: float) -> Floats:
    """Samples that begin and end softly."""
    n = len(samples)
    up, down = min(round(attack * rate), n // 2), min(round(release * rate), n // 2)
    out = samples.copy()
    if up:
        out[:up] *= 0.5 - 0.5 * np.cos(np.pi * np.arange(up) / up)
    if down:
        out[n - down :] *= 0.5 + 0.5 * np.cos(np.pi * np.arange(down) / down)
    return out


_TABLE = 4096


def harmonics(turns: Floats, weights: Iterable[float]) -> Floats:
    """A sum of sines, read from a table of one turn: how far the fundamental has turned, and how much of each harmonic."""
    table = _turn(tuple(weights))
    place = np.mod(turns, 1.0) * _TABLE
    whole = place.astype(np.int64)
    return np.asarray(table[whole] + (place - whole) * (table[whole + 1] - table[whole]))


@lru_cache(maxsize=256)
def _turn(weights: tuple[float, ...]) -> Floats:
    spectrum = np.zeros(_TABLE // 2 + 1, dtype=np.complex128)
    spectrum[1 : len(weights) + 1] = -0.5j * _TABLE * np.array(weights)
    turn = np.fft.irfft(spectrum)
    return np.append(turn, turn[:2])


def formant(hz: float, peaks: Iterable[tuple[float, float]], tilt: float) -> float:
    """How much of a harmonic at `hz` a mouth lets through: a fall by octaves, and peaks as (hz, width in hz)."""
    return float(
        (100.0 / max(hz, 100.0)) ** tilt * (0.08 + sum(1 / (1 + ((hz - at) / wide) ** 2) for at, wide in peaks))
    )
