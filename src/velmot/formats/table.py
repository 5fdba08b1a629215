"""The table of formats: whatever reads, writes or names files asks it, so a further format is one line here."""

from __future__ import annotations

from velmot.core.errors import RequestError
from velmot.formats import midi, points_table, session_file
from velmot.formats.format import Format

FORMATS: tuple[Format, ...] = (session_file.FORMAT, midi.FORMAT, points_table.FORMAT)

ACCEPTED = " or ".join(f.in_words for f in FORMATS)
LARGEST = max(f.largest for f in FORMATS)


def by_name(file_name: str) -> Format | None:
    """The format whose files are called like this."""
    return next((f for f in FORMATS if f.names(file_name)), None)


def to_write(file_name: str) -> Format:
    """The format a file's name asks to be written in; RequestError if it names none."""
    found = by_name(file_name)
    if found is None:
        raise RequestError(
            "ending", file_name=file_name, place="target", accepted=" or ".join(f.endings[0] for f in FORMATS)
        )
    return found
