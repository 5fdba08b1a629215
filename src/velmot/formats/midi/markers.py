"""Markers and cue points of MIDI files: as they come into a session, and as they go back."""

from __future__ import annotations

from collections.abc import Callable, Iterable
from typing import NamedTuple

from velmot.core.limits import LONGEST_NAME
from velmot.core.session.track import Marker
from velmot.formats.midi.texts import Texts
from velmot.formats.midi.track_bytes import meta

MARKER, CUE = 0x06, 0x07

KNOWN = "midi_markers"
"""The key that a session from a file with markers has, so that those it has no more are known to be taken away."""


class Mark(NamedTuple):
    """A marker or a cue of a file: at which file tick, its name, and as which event of which track (both from 0)."""

    tick: int
    name: str
    cue: bool
    track: int
    event: int


def taken(marks: Iterable[Mark], tick_of: Callable[[int], int]) -> tuple[Marker, ...]:
    """The markers of a session: in the order of the file, so that reading it again gives them the same ids."""
    return tuple(Marker(f"m{n}", m.name, tick_of(m.tick), m.cue) for n, m in enumerate(marks, 1))


def name_of(text: str) -> str:
    """A marker's name as its text says it."""
    return text.strip()[:LONGEST_NAME]


def event_of(marker: Marker, texts: Texts) -> tuple[bytes, bool]:
    """The event of a marker, without the time before it; and whether all of its name could be said."""
    body, whole = texts.written(marker.name)
    return meta(CUE if marker.cue else MARKER, body), whole
