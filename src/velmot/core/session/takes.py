"""Which sound a track has, and which take of it a region is: as was said, or as is usual where nothing was."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import replace

from velmot.core.session.session import Session
from velmot.core.session.sounds import (
    NOTES,
    NOTHING,
    SAME,
    Elapsed,
    Excerpt,
    Excerpts,
    Sound,
    joined,
    moved,
    part,
    usual,
)
from velmot.core.session.track import Region, Track, TrackKind

FROM_MIDI = "midi"
"""The key of what a track keeps that came from a MIDI file."""


def sound_of(session: Session, track: Track) -> Sound:
    """The track's sound: what was said of it, the notes it came with, or a stand-in by its name."""
    if track.sound is not None:
        return track.sound
    if track.kind in (TrackKind.BUS, TrackKind.GROUP):
        return Sound(NOTHING)
    if any(key == FROM_MIDI for key, _ in track.extra):
        return Sound(NOTES)
    return usual(track.name, session.track_order(track.id))


def clips_of(session: Session, track: Track, region: Region) -> Excerpts:
    """The clips of a region: its own, or one take of its own name; of notes those that were played there.

    A container holds automation alone.
    """
    if region.sound or region.container:
        return region.sound
    if sound_of(session, track).kind == NOTES:
        return (Excerpt(0, region.length, track.id, float(session.tempo.seconds(region.start))),)
    return (Excerpt(0, region.length, region.id),)


def elapsed_in(session: Session, region: Region) -> Elapsed:
    """Seconds between two ticks of a region, as the tempo has them where it lies."""

    def elapsed(a: int, b: int) -> float:
        return float(session.tempo.seconds(region.start + b)) - float(session.tempo.seconds(region.start + a))

    return elapsed


def taken_along(session: Session, track: Track, region: Region, target: Track, id: str, length: int) -> Excerpts:
    """The clips with which a region sounds the same elsewhere, on a target as region `id`, as long as it is there.

    Nothing where it is the take of its own name all the same.
    """
    clips = clips_of(session, track, region)
    if length < region.length:
        clips = cut(session, track, region, 0, length)
    own = sound_of(session, track)
    if target.id != track.id and own != sound_of(session, target):
        clips = tuple(clip if clip.sound else replace(clip, sound=own) for clip in clips)
    return () if clips == (Excerpt(0, length, id),) and sound_of(session, target).kind != NOTES else clips


def joined_over(session: Session, track: Track, parts: Sequence[Region]) -> Excerpts:
    """The sound of regions that touch, as that of one over all of them; nothing where it is the first's own take."""
    first, out = parts[0], tuple[Excerpt, ...]()
    whole = replace(first, length=parts[-1].end - first.start)
    for one in parts:
        out = joined(out, moved(clips_of(session, track, one), one.start - first.start), elapsed_in(session, whole))
    return () if _alike(out, clips_of(session, track, replace(whole, sound=()))) else _said(out, first, whole.length)


def _alike(one: Excerpts, other: Excerpts) -> bool:
    """Whether two runs of clips are the same, but for rounding."""
    far = [abs(a.offset - b.offset) for a, b in zip(one, other, strict=False)]
    return [replace(c, offset=0.0) for c in one] == [replace(c, offset=0.0) for c in other] and max(
        far, default=0
    ) <= SAME


def cut(session: Session, track: Track, region: Region, start: int, end: int) -> Excerpts:
    """What of a region's sound lies between two of its ticks."""
    return _said(part(clips_of(session, track, region), start, end, elapsed_in(session, region)), region, end - start)


_SILENT = Sound(NOTHING)


def _said(clips: Excerpts, region: Region, length: int) -> Excerpts:
    """Excerpts as a region says them: where there are none it says that it is silent, which no clip at all would not."""
    sounding = tuple(clip for clip in clips if clip.sound != _SILENT)
    return sounding or (() if region.container else (Excerpt(0, length, region.id, sound=_SILENT),))
