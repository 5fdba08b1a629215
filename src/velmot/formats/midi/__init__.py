"""Standard MIDI Files, types 0 and 1: controllers become lanes, lanes become controllers."""

from velmot.formats.midi.read import read
from velmot.formats.midi.write import Choice, write

__all__ = ["Choice", "read", "write"]
