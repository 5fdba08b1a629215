"""Sounds as session files say them: a row of what differs from the usual, and back."""

from __future__ import annotations

from dataclasses import fields
from typing import Any

from velmot.core.session.session import Session
from velmot.core.session.sounds import Audio, Excerpt, Sound
from velmot.core.time.ticks import beats_of, ticks_of
from velmot.formats.session_shape import ClipShape, SoundShape

_USUAL = {f.name: f.default for f in fields(Sound)}
_NUMBERS = ("hz", "amplitude", "density", "brightness", "seed", "offset")


def has_sounds(session: Session) -> bool:
    """Whether anything is said of how a session sounds."""
    return any(t.sound is not None or any(r.sound for r in t.regions) for t in session.tracks)


def sound_row(sound: Sound) -> dict[str, Any]:
    """A sound: its kind, and what is not as usual."""
    row: dict[str, Any] = {"kind": sound.kind}
    row |= {name: plain(getattr(sound, name)) for name in _NUMBERS if getattr(sound, name) != _USUAL[name]}
    if sound.audio is not None:
        row["audio"] = {"name": sound.audio.name, "digest": sound.audio.digest}
    if sound.start:
        row["start"] = plain(beats_of(sound.start))
    return row


def clip_row(clip: Excerpt) -> dict[str, Any]:
    """A clip of a region."""
    row: dict[str, Any] = {"at": plain(beats_of(clip.at)), "length": plain(beats_of(clip.length)), "take": clip.take}
    if clip.offset:
        row["offset"] = plain(clip.offset)
    return row | ({"sound": sound_row(clip.sound)} if clip.sound else {})


def sound_from(shape: SoundShape | None) -> Sound | None:
    """The sound a row says; RequestError for one that cannot be."""
    if shape is None:
        return None
    audio = Audio(shape.audio.name, shape.audio.digest) if shape.audio else None
    numbers = {name: getattr(shape, name) for name in _NUMBERS}
    return Sound(shape.kind, audio=audio, start=ticks_of(shape.start), **numbers)


def clip_from(shape: ClipShape) -> Excerpt:
    """The clip a row says."""
    return Excerpt(ticks_of(shape.at), ticks_of(shape.length), shape.take, shape.offset, sound_from(shape.sound))


def plain(number: float) -> float | int:
    """A whole number without its point, as session files write it."""
    return int(number) if float(number).is_integer() and abs(number) < 2**53 else number
