"""Standard MIDI Files, types 0 and 1: controllers become lanes, lanes become controllers."""

from velmot.core.session import Session
from velmot.formats.format import Format
from velmot.formats.midi import read as reading
from velmot.formats.midi.write import Choice, usual_choices, write
from velmot.formats.report import MEGABYTE, Report


def read(data: bytes, name: str = "Imported") -> tuple[Session, Report]:
    """The session in a MIDI file's bytes, with what came, what was changed and what was left out. Raises FormatError."""
    FORMAT.check_size(len(data))
    return reading.read(data, name)


FORMAT = Format(
    called="a Standard MIDI File",
    endings=(".mid", ".midi"),
    fits=lambda data: data[:4] == b"MThd",
    read=read,
    write=lambda session: write(session, usual_choices(session)),
    largest=16 * MEGABYTE,
    media="audio/midi",
)

__all__ = ["FORMAT", "Choice", "read", "usual_choices", "write"]
