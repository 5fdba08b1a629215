"""What is not made on the spot: files of one's own and the notes of MIDI files, asked of whoever keeps them."""

from __future__ import annotations

from collections.abc import Callable, Sequence
from dataclasses import dataclass

import numpy as np

from velmot.core.session.sounds import FILE, NOTES, Audio, Sound
from velmot.core.time.ticks import Floats
from velmot.sound import sources
from velmot.sound.sources.notes import Note, played

AudioReader = Callable[[Audio, int, int, int], Floats | None]
"""(file, rate, first frame, number of frames) → samples, (frames,) or (frames, 2); None for a file that is not there."""


def _no_audio(audio: Audio, rate: int, start: int, frames: int) -> Floats | None:
    return None


def _no_notes(track: str) -> Sequence[Note]:
    return ()


@dataclass(frozen=True)
class Library:
    """Where files and notes come from. `notes` gives those of a track by its id, by their start."""

    audio: AudioReader = _no_audio
    notes: Callable[[str], Sequence[Note]] = _no_notes

    def samples(self, sound: Sound, take: str, rate: int, start: int, frames: int) -> Floats:
        """Some frames of a take, one column or two; a file that is not there is silent."""
        if sound.kind == NOTES:
            return played(self.notes(take), rate, start, frames) * (sound.amplitude / 0.5)
        if sound.kind == FILE and sound.audio is not None:
            found = self.audio(sound.audio, rate, start, frames)
            return np.zeros(frames) if found is None else found * (sound.amplitude / 0.5)
        return sources.made(sound, take, rate, start, frames)
