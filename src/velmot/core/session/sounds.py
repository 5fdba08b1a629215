"""What tracks and regions sound like: a track's recipe, and the clips of a region, which take its sound along."""

from __future__ import annotations

from collections.abc import Callable, Iterable
from dataclasses import dataclass, replace
from math import isfinite

from velmot.core.errors import RequestError
from velmot.core.limits import LONGEST_NAME, LONGEST_SOUND, MOST_SOUNDS

TONE, NOTES, FILE, NOTHING = "tone", "notes", "file", "nothing"
MADE = (TONE, "bell", "horn", "voices", "murmur", "birds", "machine", "rain", "noise", "pulse")
"""The stand-ins, made on the spot."""

KINDS = (*MADE, NOTES, FILE, NOTHING)
"""Whatever a track can sound like: a stand-in, the notes of the MIDI file it came from, one's own audio, or nothing."""

LOWEST_HZ, HIGHEST_HZ = 1.0, 20_000.0
_DIGITS = frozenset("0123456789abcdef")


@dataclass(frozen=True)
class Audio:
    """A file of one's own, by name and digest (SHA-256 of its bytes)."""

    name: str
    digest: str

    def __post_init__(self) -> None:
        if len(self.digest) != 64 or not set(self.digest) <= _DIGITS:
            raise RequestError("sound/digest", place="digest", accepted="64 digits, 0 to 9 and a to f")
        if not 0 < len(self.name) <= LONGEST_NAME:
            raise RequestError("sound/name", place="name", accepted=f"1 to {LONGEST_NAME} characters")


@dataclass(frozen=True)
class Sound:
    """What something sounds like.

    `hz` is its pitch, `amplitude` about its highest (of a tone exactly), `density` (0 to 1) how much goes on,
    `brightness` (0 to 1) how bright it is; `seed` tells two of one recipe apart. A tone sounds all along; every other
    stand-in where the track's regions are, or all along where there are none. Of a file the sound is `audio`, from
    `offset` seconds on, and begins at `start`, a tick of the session.
    """

    kind: str
    hz: float = 220.0
    amplitude: float = 0.5
    density: float = 0.5
    brightness: float = 0.5
    seed: int = 0
    audio: Audio | None = None
    offset: float = 0.0
    start: int = 0

    def __post_init__(self) -> None:
        if self.kind not in KINDS:
            raise RequestError("sound/kind", sort=self.kind, place="kind", accepted=", ".join(KINDS))
        if not LOWEST_HZ <= self.hz <= HIGHEST_HZ:
            raise RequestError("sound/hz", hz=self.hz, place="hz", accepted=f"{LOWEST_HZ:g} to {HIGHEST_HZ:g}")
        for name in ("amplitude", "density", "brightness"):
            if not 0 <= getattr(self, name) <= 1:
                raise RequestError("sound/share", name=name, value=getattr(self, name), place=name, accepted="0 to 1")
        if (self.kind == FILE) != (self.audio is not None):
            raise RequestError("sound/file", place="audio", accepted="its name and digest")
        _check_offset(self.offset)

    @property
    def all_along(self) -> bool:
        """Whether it takes no notice of regions."""
        return self.kind in (TONE, FILE)


@dataclass(frozen=True)
class Excerpt:
    """A part of a region's sound: from `at`, ticks after the region's start, `length` ticks long.

    It is what `take` sounds like from `offset` seconds on, by its own recipe, or else the track's.
    """

    at: int
    length: int
    take: str
    offset: float = 0.0
    sound: Sound | None = None

    def __post_init__(self) -> None:
        if self.at < 0 or self.length <= 0:
            raise RequestError("sound/excerpt", place="sound", accepted="an at from 0, a length above 0")
        _check_offset(self.offset)

    @property
    def end(self) -> int:
        return self.at + self.length


Excerpts = tuple[Excerpt, ...]
Elapsed = Callable[[int, int], float]
"""Seconds between two ticks, counted from the start of a region."""


def check_excerpts(clips: Excerpts, length: int) -> None:
    """RequestError for clips that lie over each other, out of their region, or are too many."""
    if len(clips) > MOST_SOUNDS:
        raise RequestError("sound/many", count=len(clips), place="sound", accepted=f"at most {MOST_SOUNDS:,}")
    ends = [0, *(one.end for one in clips)]
    if any(one.at < end for one, end in zip(clips, ends, strict=False)):
        raise RequestError("sound/over", place="sound", accepted="clips one after the other")
    if ends[-1] > length:
        raise RequestError("sound/outside", place="sound", accepted="clips inside it")


def _check_offset(offset: float) -> None:
    if not (isfinite(offset) and 0 <= offset <= LONGEST_SOUND):
        raise RequestError("sound/offset", offset=offset, place="offset", accepted=f"0 to {LONGEST_SOUND:g} seconds")


# ── clips that are cut, and put one behind the other ──────────────────────────────────────────


def part(clips: Iterable[Excerpt], start: int, end: int, elapsed: Elapsed) -> Excerpts:
    """What of some clips lies in ``[start, end)`` of their region, counted from `start`: what is cut off stays unheard."""
    out = []
    for clip in clips:
        a, b = max(clip.at, start), min(clip.end, end)
        if a < b:
            out.append(replace(clip, at=a - start, length=b - a, offset=clip.offset + elapsed(clip.at, a)))
    return tuple(out)


SAME = 1e-6
"""Seconds by which a sound that goes on where it was cut may be off: rounding, far below a sample."""


def joined(first: Iterable[Excerpt], second: Iterable[Excerpt], elapsed: Elapsed) -> Excerpts:
    """Two runs of clips as one; what goes on where it was cut is one clip again."""
    out = list(first)
    for clip in second:
        last = out[-1] if out else None
        if last is not None and _goes_on(last, clip, elapsed):
            out[-1] = replace(last, length=last.length + clip.length)
        else:
            out.append(clip)
    return tuple(out)


def _goes_on(last: Excerpt, clip: Excerpt, elapsed: Elapsed) -> bool:
    if (last.take, last.sound, last.end) != (clip.take, clip.sound, clip.at):
        return False
    return abs(last.offset + elapsed(last.at, clip.at) - clip.offset) <= SAME


def moved(clips: Iterable[Excerpt], by: int) -> Excerpts:
    """Excerpts that count from another place."""
    return tuple(replace(clip, at=clip.at + by) for clip in clips)


# ── what sounds where nothing was said ────────────────────────────────────────────────────────

_BY_NAME: tuple[tuple[str, tuple[str, ...]], ...] = (
    ("bell", ("bell", "chime", "gong", "glocken", "cymbal", "piano", "key", "harp", "guitar")),
    ("horn", ("horn", "brass", "trumpet", "trombone", "sax", "reed", "organ", "clarinet", "bass", "cello", "string")),
    ("voices", ("choir", "vocal", "voices", "singer", "sing", "pad", "backing")),
    ("murmur", ("voice", "speech", "narrat", "dialog", "talk", "keeper", "reader", "actor", "speaker", "vox")),
    ("birds", ("bird", "gull", "flute", "whistle", "crow", "piccolo")),
    ("machine", ("engine", "machine", "motor", "train", "car", "hum", "fan", "pump")),
    ("rain", ("rain", "water", "sea", "river", "shower", "storm", "wave", "wind", "foam")),
    ("pulse", ("drum", "kick", "snare", "hat", "perc", "tom", "clap", "click", "beat", "clock")),
    ("noise", ("noise", "air", "room tone", "atmos", "ambien", "hiss")),
)
_PITCHES = (220.0, 164.81, 261.63, 130.81, 329.63, 196.0, 146.83, 293.66)


def usual(name: str, order: int) -> Sound:
    """The stand-in of a track of which nothing is said: by what its name says, else a tone of its own."""
    said = name.lower()
    kind = next((kind for kind, words in _BY_NAME if any(word in said for word in words)), "pulse")
    return Sound(kind, hz=_PITCHES[order % len(_PITCHES)], seed=order)
