"""A session as sound in files: the mix, or a file for each track; and where its own audio and its notes come from."""

from __future__ import annotations

from collections.abc import Callable, Iterable, Iterator, Sequence
from contextlib import ExitStack
from dataclasses import dataclass
from pathlib import Path

import numpy as np

from velmot.core.errors import RequestError
from velmot.core.session.session import Session
from velmot.core.session.sounds import Audio
from velmot.core.time.ticks import Floats
from velmot.core.words import counted
from velmot.formats import audio_file
from velmot.formats.audio_file import Writer, form_of
from velmot.formats.midi.notes import notes_of
from velmot.formats.report import FormatError, Report
from velmot.sound.library import Library
from velmot.sound.path import Score, score_of
from velmot.sound.render import blocks
from velmot.sound.sources.notes import Note

Finds = Callable[[Audio], Path | None]
"""Where a file of one's own lies; None where it does not."""


@dataclass(frozen=True)
class Wanted:
    """What is to be rendered: a span of ticks, some tracks or all, at a rate, with so many bits."""

    start: int
    end: int
    tracks: frozenset[str] | None = None
    rate: int = 48_000
    bits: str = "24"

    def checked(self, session: Session) -> Wanted:
        """RequestError for what cannot be rendered."""
        if not 0 <= self.start < self.end <= session.length:
            end = session.tempo.position(session.length)
            raise RequestError("range/nothing", place="range", accepted=f"a span of 1.1.00 to {end}")
        for id in self.tracks or ():
            session.track(id)
        audio_file.checked_rate(self.rate)
        return self


def library_of(session: Session, source: bytes | None, finds: Finds) -> Library:
    """Notes from the MIDI file a session came from, audio from where it is found."""

    def audio(one: Audio, rate: int, start: int, frames: int) -> Floats | None:
        path = finds(one)
        if path is None:
            return None
        try:
            return audio_file.samples(path, rate, start, frames)
        except FormatError:
            return None

    notes = notes_of(session, source) if source else None

    def of(track: str) -> Sequence[Note]:
        return notes.of(track) if notes else ()

    return Library(audio, of)


def scored(session: Session, wanted: Wanted, finds: Finds) -> Score:
    """The score of what is wanted; files that are not there are named in it."""
    return score_of(session, wanted.start, wanted.end, wanted.tracks, lambda audio: finds(audio) is not None)


def write_mix(score: Score, library: Library, wanted: Wanted, target: Path, name: str) -> Report:
    """The mix as one file."""
    form_of(name, wanted.bits)
    report, writer = _report(score), Writer(target, name, wanted.rate, wanted.bits)
    try:
        for block in blocks(score, library, wanted.rate):
            writer.take(block.master)
    finally:
        writer.close()
    _say_cut(report, name, writer)
    return report


def write_each(score: Score, library: Library, wanted: Wanted, targets: dict[str, Path]) -> Report:
    """A file for each of some channels: what each sends to the master, so that all of them together are the mix."""
    report = _report(score)
    with ExitStack() as open_files:
        writers = {}
        for id, target in targets.items():
            writers[id] = Writer(target, target.name, wanted.rate, wanted.bits)
            open_files.callback(writers[id].close)
        for block in blocks(score, library, wanted.rate):
            silent = np.zeros_like(block.master)
            for id, writer in writers.items():
                writer.take(block.channels.get(id, silent))
    for id, writer in writers.items():
        _say_cut(report, targets[id].name, writer)
    return report


def names_of(score: Score, ending: str) -> Iterator[tuple[str, str]]:
    """(track id, file name) for a file of each channel; two of one name get a number."""
    taken: set[str] = set()
    for channel in reversed(score.channels):
        plain = "".join(c if c.isalnum() or c in " -_." else "_" for c in channel.name).strip(" .")[:80] or "track"
        name, n = plain, 2
        while name.lower() in taken:
            name, n = f"{plain} {n}", n + 1
        taken.add(name.lower())
        yield channel.id, f"{name}{ending}"


def _report(score: Score) -> Report:
    report = Report()
    seconds = score.end - score.start
    report.came.append(f"{counted(len(score.channels), 'track')}, {seconds:.1f} seconds")
    report.changed += [f"“{name}” is not there: a stand-in sounds for it" for name in score.missing]
    report.left_out += [f"{name}: it would feed a bus back into itself" for name in score.circles]
    return report


def unheard(session: Session, score: Score) -> Iterable[str]:
    """The parameters that have lanes and no stand-in, by name."""
    for channel in score.channels:
        for id in channel.unheard:
            if session.lanes_of(id):
                yield f"{channel.name} {session.parameter(id).name} is not heard: no stand-in"


def _say_cut(report: Report, name: str, writer: Writer) -> None:
    if writer.cut:
        report.changed.append(f"{name}: {counted(writer.cut, 'sample')} over full scale cut off")
