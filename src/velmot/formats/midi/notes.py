"""The notes of a MIDI file, by the tracks they became, in seconds of the session that came from it."""

from __future__ import annotations

from collections import defaultdict
from collections.abc import Sequence
from functools import lru_cache

from velmot.core.session.session import Session
from velmot.core.time.tempo import TempoMap
from velmot.core.time.ticks import TICKS_PER_BEAT
from velmot.formats.midi.events import chunks_of, events_of, unwrapped
from velmot.formats.midi.read import read_placed
from velmot.sound.sources.notes import Note

_Row = tuple[int, int, int, int, int, int]
"""(start and end in file ticks, pitch, velocity, program, channel)."""


class Notes:
    """The notes of a file, for a session that came from it. Tracks are known by their ids."""

    def __init__(self, data: bytes, tempo: TempoMap) -> None:
        self.rows, self.per_beat = _rows(unwrapped(data))
        self.tempo = tempo
        self._made: dict[str, Sequence[Note]] = {}

    def of(self, track: str) -> Sequence[Note]:
        """The notes of a track by their start; none for one that the file does not have."""
        if track not in self._made:
            self._made[track] = self._timed(self.rows.get(track, []))
        return self._made[track]

    def _timed(self, rows: list[_Row]) -> Sequence[Note]:
        ticks = [(2 * t * TICKS_PER_BEAT + self.per_beat) // (2 * self.per_beat) for row in rows for t in row[:2]]
        times = self.tempo.seconds(ticks).tolist() if ticks else []  # type: ignore[arg-type]
        spans = zip(times[::2], times[1::2], strict=True)
        return sorted((Note(a, b, *row[2:]) for (a, b), row in zip(spans, rows, strict=True)), key=lambda n: n.start)


def notes_of(session: Session, data: bytes) -> Notes:
    """The notes of the file a session came from."""
    return Notes(data, session.tempo)


@lru_cache(maxsize=4)
def _rows(data: bytes) -> tuple[dict[str, list[_Row]], int]:
    """(notes by track id, ticks a beat) of a file."""
    _, places = read_placed(data)
    chunks = chunks_of(data)
    by_place = {place: id for id, place in places.tracks.items()}
    found: dict[str, list[_Row]] = defaultdict(list)
    for index, chunk in enumerate(chunks.tracks):
        sounding: dict[tuple[int, int], tuple[int, int, int]] = {}
        programs: dict[int, int] = {}
        last = 0
        for tick, status, first, second in events_of(data, chunk):
            last = max(last, tick)
            kind, channel = status & 0xF0, status & 0x0F
            if status >= 0xF0 or not isinstance(second, int):
                continue
            if kind == 0xC0:
                programs[channel] = first
            elif kind == 0x90 and second:
                sounding.setdefault((channel, first), (tick, second, programs.get(channel, 0)))
            elif kind in (0x80, 0x90) and (begun := sounding.pop((channel, first), None)):
                _add(found, by_place.get((index, channel)), begun, tick, first, channel)
        for (channel, pitch), begun in sounding.items():
            _add(found, by_place.get((index, channel)), begun, last, pitch, channel)
    return dict(found), chunks.per_beat


def _add(
    found: dict[str, list[_Row]], id: str | None, begun: tuple[int, int, int], end: int, pitch: int, channel: int
) -> None:
    start, velocity, program = begun
    if id is not None and end > start:
        found[id].append((start, end, pitch, velocity, program, channel))
