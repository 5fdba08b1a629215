"""Standard MIDI Files, types 0 and 1: controllers become lanes, lanes become controllers."""

from velmot.core.session.session import Session
from velmot.formats.format import Format
from velmot.formats.midi import into
from velmot.formats.midi import read as reading
from velmot.formats.midi.events import chunks_of, is_wrapped, unwrapped
from velmot.formats.midi.write import PER_BEAT, Choice, usual_choices, write
from velmot.formats.report import MEGABYTE, Report


def read(data: bytes, name: str = "Imported") -> tuple[Session, Report]:
    """The session in a MIDI file's bytes, with what came, what was changed and what was left out. Raises FormatError."""
    FORMAT.check_size(len(data))
    session, report = reading.read(unwrapped(data), name)
    if is_wrapped(data):
        report.changed.append("the file stood in a RIFF wrapper, which is taken off")
    return session, report


def resolution(data: bytes) -> int:
    """The ticks a beat of a MIDI file's bytes, as far as one can be written with them."""
    return max(chunks_of(unwrapped(data)).per_beat, 24)


FORMAT = Format(
    called="a Standard MIDI File",
    endings=(".mid", ".midi"),
    fits=lambda data: data[:4] == b"MThd" or is_wrapped(data),
    read=read,
    write=lambda session: write(session, usual_choices(session)),
    into=lambda session, source: into.write(session, unwrapped(source)),
    largest=16 * MEGABYTE,
    media="audio/midi",
)

__all__ = ["FORMAT", "PER_BEAT", "Choice", "read", "resolution", "usual_choices", "write"]
