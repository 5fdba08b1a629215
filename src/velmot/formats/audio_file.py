"""Files of sound, through libsndfile: one's own read piece by piece at any rate, what was rendered written as it comes."""

from __future__ import annotations

from collections.abc import Iterator
from contextlib import contextmanager
from dataclasses import dataclass
from math import ceil
from pathlib import Path
from typing import BinaryIO

import numpy as np
import soundfile
import soxr

from velmot.core.limits import LONGEST_SOUND
from velmot.core.time.ticks import Floats
from velmot.formats.report import MEGABYTE, FormatError

ENDINGS = (".wav", ".flac", ".ogg", ".mp3")
ACCEPTED = "a WAV, FLAC, OGG or MP3 file"
LARGEST = 2048 * MEGABYTE
"""Bytes of one's own file."""

MOST_CHANNELS = 2
SLOWEST, FASTEST = 4_000, 384_000
"""Frames a second that a file may have."""

RATES = (44_100, 48_000, 88_200, 96_000)
BITS = {"16": "PCM_16", "24": "PCM_24", "32f": "FLOAT"}
_MARGIN = 0.05
"""Seconds beside a piece that its resampling needs to begin and end as if it went on."""


@dataclass(frozen=True)
class About:
    """What a file says of itself."""

    seconds: float
    rate: int
    channels: int


def about(source: Path | BinaryIO) -> About:
    """What a file holds, without reading all of it. Raises FormatError for what is no audio, or cannot be used."""
    with _opened(source) as file:
        return _checked(About(file.frames / max(file.samplerate, 1), file.samplerate, file.channels))


def _checked(said: About) -> About:
    if said.channels > MOST_CHANNELS:
        raise _wrong("channels", f"the file has {said.channels} channels", "one or two")
    if not SLOWEST <= said.rate <= FASTEST:
        raise _wrong("rate", f"the file has {said.rate:,} samples a second", f"{SLOWEST:,} to {FASTEST:,}")
    if said.seconds <= 0:
        raise _wrong("file", "the file is of no length", "some sound")
    if said.seconds > LONGEST_SOUND:
        hours = LONGEST_SOUND // 3600
        raise _wrong("file", f"the file is {said.seconds / 3600:.1f} hours long", f"at most {hours} hours")
    return said


def checked_through(source: Path) -> About:
    """What a file holds, read to its end: FormatError where it is cut off, or a value in it is no number."""
    said = about(source)
    with _opened(source) as file:
        at = 0
        try:
            for block in file.blocks(blocksize=1 << 18, dtype="float32"):
                if not np.isfinite(block).all():
                    raise _wrong(f"{at / said.rate:.2f} s", "a value in the file is no number", "finite samples")
                at += len(block)
        except soundfile.LibsndfileError as error:
            raise _wrong(f"{at / said.rate:.2f} s", f"the file is damaged: {error.error_string}", ACCEPTED) from None
    if at < file.frames:
        raise _wrong(f"{at / said.rate:.2f} s", "the file is cut off", f"{said.seconds:.2f} seconds, as it says")
    return said


def samples(source: Path, rate: int, start: int, frames: int) -> Floats:
    """Some frames of a file at a rate, (frames,) or (frames, 2); silence behind its end."""
    with _opened(source) as file:
        own = file.samplerate
        if own == rate:
            return _exactly(_part(file, start, frames), frames)
        margin = ceil(_MARGIN * own)
        first = max(start * own // rate - margin, 0)
        first -= first % own if first >= own else first  # on a whole second both rates have a frame
        last = ceil((start + frames) * own / rate) + margin
        made = soxr.resample(_part(file, first, last - first), own, rate)
        skipped = start - first * rate // own
        return _exactly(made[skipped:], frames)


def _part(file: soundfile.SoundFile, start: int, frames: int) -> Floats:
    if start >= file.frames:
        return np.zeros((0,) if file.channels == 1 else (0, file.channels))
    file.seek(start)
    return np.asarray(file.read(min(frames, file.frames - start), dtype="float64"))


def _exactly(made: Floats, frames: int) -> Floats:
    if len(made) >= frames:
        return made[:frames]
    return np.concatenate([made, np.zeros((frames - len(made), *made.shape[1:]))])


@contextmanager
def _opened(source: Path | BinaryIO) -> Iterator[soundfile.SoundFile]:
    try:
        with soundfile.SoundFile(source) as file:
            yield file
    except soundfile.LibsndfileError:
        raise _wrong("file", "the file is no audio that can be read", ACCEPTED) from None


def _wrong(place: str, said: str, accepted: str) -> FormatError:
    return FormatError("audio", said, place=place, accepted=accepted)


# ── writing ───────────────────────────────────────────────────────────────────────────────────


class Writer:
    """A file that is written as its samples come; it counts those that are over full scale and had to be cut."""

    def __init__(self, target: Path | BinaryIO, name: str, rate: int, bits: str) -> None:
        self.bits, self.cut = bits, 0
        form = form_of(name, bits)
        self.file = soundfile.SoundFile(target, "w", rate, 2, BITS[bits], format=form)

    def take(self, block: Floats) -> None:
        """The next samples, (frames, 2)."""
        if self.bits != "32f":
            self.cut += int(np.count_nonzero(np.abs(block) > 1.0))
            block = np.clip(block, -1.0, 1.0)
        self.file.write(block)

    def close(self) -> None:
        self.file.close()


def form_of(name: str, bits: str) -> str:
    """The format a name asks for; FormatError for one that cannot be written, or not with so many bits."""
    ending = Path(name).suffix.lower()
    if ending not in (".wav", ".flac"):
        raise _wrong("target", f"“{name}” has an ending that names no sound", ".wav or .flac")
    if bits not in BITS:
        raise _wrong("bits", f"there are no samples of {bits} bits", ", ".join(BITS))
    if ending == ".flac" and bits == "32f":
        raise _wrong("bits", "FLAC has no floating samples", "16 or 24, or a .wav file")
    return ending[1:].upper()


def checked_rate(rate: int) -> int:
    """A rate that can be rendered at; FormatError for another."""
    if rate not in RATES:
        raise _wrong("rate", f"{rate:,} samples a second are not offered", ", ".join(f"{r:,}" for r in RATES))
    return rate
