"""Notes of a MIDI file on a few plain instruments, by program family."""

from __future__ import annotations

from bisect import bisect_left
from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np

from velmot.core.time.ticks import Floats
from velmot.sound.chance import chance
from velmot.sound.sources.pieces import harmonics

DRUMS = 9
"""The channel of the percussion, counted from 0, as General MIDI has it."""


@dataclass(frozen=True)
class Note:
    """A note: `start` and `end` in seconds, `pitch` and `velocity` as MIDI says them, the program it is played with."""

    start: float
    end: float
    pitch: int
    velocity: int
    program: int = 0
    channel: int = 0


@dataclass(frozen=True)
class _Instrument:
    """How loud each harmonic is; how it begins, falls by 60 dB while held (0: not at all) and ends, in seconds."""

    weights: tuple[float, ...]
    attack: float
    fall: float
    release: float


_STRUCK = _Instrument((1, 0.5, 0.3, 0.2, 0.12, 0.08, 0.05), 0.004, 4.0, 0.15)
_PLUCKED = _Instrument((1, 0.6, 0.45, 0.3, 0.2, 0.15, 0.1, 0.06), 0.003, 2.2, 0.1)
_BELLS = _Instrument((1, 0, 0.3, 0, 0.15, 0.2), 0.002, 3.0, 0.6)
_ORGAN = _Instrument((1, 0.7, 0.3, 0.5, 0, 0.2, 0, 0.25), 0.015, 0.0, 0.06)
_BASS = _Instrument((1, 0.55, 0.25, 0.1, 0.05), 0.006, 3.0, 0.08)
_BOWED = _Instrument((1, 0.6, 0.4, 0.3, 0.2, 0.14, 0.1, 0.07, 0.05), 0.07, 0.0, 0.18)
_SUNG = _Instrument((1, 0.4, 0.5, 0.15, 0.08), 0.12, 0.0, 0.3)
_BLOWN = _Instrument((1, 0.8, 0.65, 0.5, 0.35, 0.25, 0.18, 0.1), 0.03, 0.0, 0.1)
_PIPED = _Instrument((1, 0.15, 0.1, 0.03), 0.04, 0.0, 0.1)

_FAMILIES = (
    _STRUCK, _BELLS, _ORGAN, _PLUCKED, _BASS, _BOWED, _SUNG, _BLOWN, _BLOWN, _PIPED, _ORGAN, _SUNG, _SUNG, _PLUCKED,
    _BELLS, _PIPED,
)  # fmt: skip
"""The sixteen families of eight programs that General MIDI names, each on one of nine instruments."""

_LONGEST_TAIL = 0.6
_LOUD = 0.22


def played(notes: Sequence[Note], rate: int, start: int, frames: int) -> Floats:
    """What the notes, by their start, sound like in some frames of the session."""
    out = np.zeros(frames)
    a, b = start / rate, (start + frames) / rate
    last = bisect_left(notes, b, key=lambda note: note.start)
    for note in notes[:last]:
        if note.end + _LONGEST_TAIL > a:
            _add(out, note, rate, start)
    return out


def _add(out: Floats, note: Note, rate: int, start: int) -> None:
    how = _FAMILIES[note.program // 8 % 16]
    tail = 0.25 if note.channel == DRUMS else how.release
    first = round(note.start * rate) - start
    a, b = max(first, 0), min(round((note.end + tail) * rate) - start, len(out))
    if note.channel == DRUMS:
        b = min(first + round(0.4 * rate), len(out))
    if a >= b:
        return
    t = (np.arange(a, b) - first) / rate
    if note.channel == DRUMS:
        out[a:b] += _struck(note, t, rate) * _force(note)
        return
    hz = 440.0 * 2 ** ((note.pitch - 69) / 12)
    weights = tuple(w for n, w in enumerate(how.weights, 1) if hz * n < rate / 2.2)
    if not weights:
        return
    shape = np.minimum(t / how.attack, 1.0)
    if how.fall:
        shape = shape * np.exp(t * (-np.log(1000) / how.fall))
    over = np.clip(1 - (t - (note.end - note.start)) / how.release, 0, 1)
    out[a:b] += harmonics(t * hz, weights) / sum(weights) * shape * over * over * _force(note)


def _force(note: Note) -> float:
    """40·log10(v/127) dB, as the standard recommends for what is said by velocity too."""
    return _LOUD * (note.velocity / 127) ** 2


def _struck(note: Note, t: Floats, rate: int) -> Floats:
    """A drum: low pitches a body that falls, high ones a hiss."""
    low = note.pitch < 42
    grain = chance("drum", note.pitch, rate).standard_normal(round(0.4 * rate) + 1)
    hiss = grain[np.minimum((t * rate).astype(np.int64), len(grain) - 1)] * np.exp(-t * (30 if low else 45))
    if not low:
        return np.asarray(hiss * 0.8)
    body = np.sin(2 * np.pi * (48 * t + 3.2 * (1 - np.exp(-t * 35)))) * np.exp(-t * 14)
    return np.asarray(1.6 * body + hiss * 0.25)
