"""`velmot render`: a session file as sound, on the command line."""

from __future__ import annotations

import argparse
import tempfile
from hashlib import sha256
from pathlib import Path

from velmot import written
from velmot.core.errors import RequestError
from velmot.core.session.session import Session
from velmot.core.session.sounds import Audio
from velmot.core.session.typed_place import place_of
from velmot.formats import files, sound_out
from velmot.formats.audio_file import BITS, RATES, form_of
from velmot.formats.report import Report
from velmot.formats.sound_out import Finds, Wanted
from velmot.named import one
from velmot.sound.library import Library
from velmot.sound.path import Score


def add_to(command: argparse.ArgumentParser) -> None:
    """The options of the command."""
    command.add_argument("session", type=Path, help="a session, MIDI file or table")
    command.add_argument("-o", "--output", type=Path, help="the file to write: .wav or .flac")
    command.add_argument("--each", type=Path, metavar="FOLDER", help="a file for each track, into this folder")
    command.add_argument("--as", dest="ending", default=".wav", help="the format of those: .wav or .flac")
    command.add_argument("--range", dest="span", metavar="FROM-TO", help="positions or markers: 1.1.00-5.1.00")
    command.add_argument("--tracks", nargs="+", default=[], help="only these, by name or id, and the buses they reach")
    command.add_argument("--rate", type=int, default=48_000, help=", ".join(map(str, RATES)))
    command.add_argument("--bits", default="24", choices=[*BITS], help="of each sample; 32f: floating")
    command.add_argument("--notes", type=Path, help="the MIDI file the session came from, for its notes")
    command.add_argument("--audio", type=Path, help="the folder of your own files; without it where the session lies")
    command.add_argument("--overwrite", action="store_true", help="write over files that are there (never over inputs)")


def render(chosen: argparse.Namespace, session: Session, data: bytes) -> tuple[Report, list[Path]]:
    """Render what was chosen; the report, and the files that were written."""
    if (chosen.output is None) == (chosen.each is None):
        raise RequestError("output/each", place="-o", accepted="-o FILE, or --each FOLDER")
    start, end = span_of(session, chosen.span)
    wanted = Wanted(start, end, _tracks(session, chosen.tracks), chosen.rate, chosen.bits).checked(session)
    finds = _finder(chosen.audio or chosen.session.parent)
    source = _notes(chosen, session, data)
    score, library = sound_out.scored(session, wanted, finds), sound_out.library_of(session, source, finds)
    inputs = [chosen.session, *([chosen.notes] if chosen.notes else [])]
    if chosen.output:
        form_of(chosen.output.name, chosen.bits)
        written.check_free(chosen.output, inputs, chosen.overwrite)
        with _beside(chosen.output.parent) as folder:
            made = Path(folder) / chosen.output.name
            report = sound_out.write_mix(score, library, wanted, made, chosen.output.name)
            made.replace(chosen.output)
        targets = [chosen.output]
    else:
        report, targets = _each(chosen, score, library, wanted, inputs)
    report.left_out += sound_out.unheard(session, score)
    return report, targets


def _each(
    chosen: argparse.Namespace, score: Score, library: Library, wanted: Wanted, inputs: list[Path]
) -> tuple[Report, list[Path]]:
    form_of(f"x{chosen.ending}", chosen.bits)
    chosen.each.mkdir(parents=True, exist_ok=True)
    names = dict(sound_out.names_of(score, chosen.ending))
    for name in names.values():
        written.check_free(chosen.each / name, inputs, chosen.overwrite)
    with _beside(chosen.each) as folder:
        report = sound_out.write_each(score, library, wanted, {id: Path(folder) / name for id, name in names.items()})
        for name in names.values():
            (Path(folder) / name).replace(chosen.each / name)
    return report, [chosen.each / name for name in names.values()]


def _beside(folder: Path) -> tempfile.TemporaryDirectory[str]:
    """A folder on the same disk, so that what is whole takes its name in one step, and nothing half ever has it."""
    return tempfile.TemporaryDirectory(prefix=".velmot-", dir=folder)


def span_of(session: Session, text: str | None) -> tuple[int, int]:
    """The ticks of two positions with a dash between them; all of it where nothing is said. RequestError."""
    if not text:
        return 0, session.length
    first, dash, last = text.partition("-")
    if not dash:
        raise RequestError("range/unread", text=text, place="--range", accepted="two positions: 1.1.00-5.1.00")
    return place_of(session, first.strip()), place_of(session, last.strip())


def _tracks(session: Session, names: list[str]) -> frozenset[str] | None:
    if not names:
        return None
    return frozenset(one(session, "track", name, place="--tracks") for name in names)


def _notes(chosen: argparse.Namespace, session: Session, data: bytes) -> bytes | None:
    """The bytes of the MIDI file whose notes sound."""
    if chosen.notes is None:
        return data if files.comes_back(data) else None
    source: bytes = chosen.notes.read_bytes()
    if files.came_from(session) not in (None, files.digest_of(source)):
        raise RequestError("notes-another", name=chosen.notes.name, place="--notes", accepted="that file")
    return source


def _finder(folder: Path) -> Finds:
    """One's own files by name in a folder; one of that name whose bytes are others is not it."""
    known: dict[Audio, Path | None] = {}

    def finds(audio: Audio) -> Path | None:
        if audio not in known:
            path = folder / Path(audio.name).name
            same = path.is_file() and sha256(path.read_bytes()).hexdigest() == audio.digest
            known[audio] = path if same else None
        return known[audio]

    return finds
