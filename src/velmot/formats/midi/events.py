"""The events of a Standard MIDI File as they stand in its bytes: chunks, delta times, running status, meta and system events.

After the Standard MIDI Files specification (RP-001). Nothing is taken for granted: whatever is not as it says ends in a
FormatError with the byte where it stands, and what it allows but nobody knows is passed on.
"""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass, field
from typing import NamedTuple

from velmot.formats.report import FormatError

MOST_EVENTS = 2_000_000
"""Events of a file: more would take too long to become lanes."""

META, SYSTEM = 0xFF, 0xF0
END_OF_TRACK = 0x2F
BEHIND_END = 0x100
"""The kind of what stands behind the end of a track: no kind that a file could name."""
_LONGEST_NUMBER = 4
_LENGTHS = {0x80: 2, 0x90: 2, 0xA0: 2, 0xB0: 2, 0xC0: 1, 0xD0: 1, 0xE0: 2}
_SYSTEM_LENGTHS = {0xF1: 1, 0xF2: 2, 0xF3: 1}

Event = tuple[int, int, int, int | bytes]
"""(tick, status, first, second): a channel event with its two data bytes (0 where it has one); a meta event as META with
its type and its bytes; a system event as SYSTEM with its own status and its bytes."""


class Chunk(NamedTuple):
    """Where a track's bytes lie."""

    start: int
    end: int


@dataclass
class Chunks:
    """A file's header and tracks; `others` are names of chunks of other kinds, `rest` bytes after the last whole chunk."""

    kind: int
    promised: int
    per_beat: int
    tracks: list[Chunk] = field(default_factory=list)
    others: list[str] = field(default_factory=list)
    rest: int = 0


def unwrapped(data: bytes) -> bytes:
    """A MIDI file's own bytes: some stand in a RIFF wrapper, whose `data` chunk they are."""
    if not is_wrapped(data):
        return data
    at = 12
    while at + 8 <= len(data):
        name, length = data[at : at + 4], int.from_bytes(data[at + 4 : at + 8], "little")
        if name == b"data":
            return data[at + 8 : at + 8 + length]
        at += 8 + length + length % 2
    raise damaged(len(data), "the wrapper holds no file")


def is_wrapped(data: bytes) -> bool:
    """Whether bytes are a MIDI file in a RIFF wrapper."""
    return data[:4] == b"RIFF" and data[8:12] == b"RMID"


def chunks_of(data: bytes) -> Chunks:
    """The chunks of a file. Raises FormatError for what is no MIDI file, or of a kind that has no beats in common."""
    if data[:4] != b"MThd":
        start = data[:4].decode("latin-1").encode("unicode_escape").decode()
        raise FormatError(
            "not-midi",
            f"the file starts with “{start}”, which no MIDI file does",
            place="byte 0",
            accepted="a Standard MIDI File, which starts with “MThd”",
        )
    length = int.from_bytes(data[4:8], "big")
    if length < 6 or len(data) < 8 + length:
        raise damaged(4, "the header ends too soon")
    kind, promised, per_beat = (int.from_bytes(data[n : n + 2], "big") for n in (8, 10, 12))
    found = Chunks(kind, promised, per_beat)
    if found.kind == 2:
        raise FormatError(
            "midi-type", "type 2 files hold separate patterns", place="byte 8", accepted="type 0 or type 1"
        )
    if found.per_beat & 0x8000:
        said = "the file counts video frames, not beats"
        raise FormatError("midi-frames", said, place="byte 12", accepted="ticks per beat")
    if found.per_beat < 1:
        raise FormatError("midi-ticks", "0 ticks per beat", place="byte 12", accepted="1 to 32767 ticks per beat")
    _find_chunks(data, 8 + length, found)
    if len(found.tracks) < found.promised:
        said = f"the header promises {found.promised} tracks, the file has {len(found.tracks)}"
        raise FormatError("midi-damaged", said, place="byte 10", accepted="a whole MIDI file")
    return found


def _find_chunks(data: bytes, at: int, found: Chunks) -> None:
    while at + 8 <= len(data):
        name, length = data[at : at + 4], int.from_bytes(data[at + 4 : at + 8], "big")
        start, end = at + 8, at + 8 + length
        if end > len(data):
            if name == b"MTrk":
                raise damaged(
                    at, f"a track of {length:,} bytes begins here, and the file ends {end - len(data):,} too soon"
                )
            break
        if name == b"MTrk":
            found.tracks.append(Chunk(start, end))
        else:
            found.others.append(name.decode("latin-1"))
        at = end
    found.rest = len(data) - at


def damaged(at: int, what: str) -> FormatError:
    """That the file is damaged at a byte."""
    return FormatError(
        "midi-damaged", f"damaged at byte {at:,}: {what}", place=f"byte {at}", accepted="a whole MIDI file"
    )


def events_of(data: bytes, chunk: Chunk) -> Iterator[Event]:
    """The events of one track in order, with their ticks from the start; stops at its end-of-track event. Bytes behind that
    come as one event of the kind BEHIND_END.
    """
    at, end = chunk
    tick = running = 0
    while at < end:
        delta = data[at]
        if delta < 0x80:
            at += 1
        else:
            delta, at = _number(data, at, end, "a delta time")
        tick += delta
        if at >= end:
            raise damaged(at, "the track ends after a delta time")
        status = data[at]
        if status < 0x80:
            if not running:
                raise damaged(at, "a data byte stands where an event has to begin")
            status = running
        else:
            at += 1
        if status < 0xF0:
            running = status
            count = _LENGTHS[status & 0xF0]
            if at + count > end:
                raise damaged(at, "the track ends inside an event")
            first = data[at]
            second = data[at + 1] if count == 2 else 0
            if first > 127 or second > 127:
                raise damaged(at, "a data byte above 127")
            at += count
            yield tick, status, first, second
        elif status == META:
            if at >= end:
                raise damaged(at, "the track ends inside a meta event")
            kind = data[at]
            body, at = _bytes(data, at + 1, end, "a meta event")
            yield tick, META, kind, body
            if kind == END_OF_TRACK:
                if at < end:
                    yield tick, META, BEHIND_END, data[at:end]
                return
        elif status in (0xF0, 0xF7):
            body, at = _bytes(data, at, end, "a system event")
            yield tick, SYSTEM, status, body
        else:  # what belongs on a wire and not into a file, but is found in some
            count = _SYSTEM_LENGTHS.get(status, 0)
            yield tick, SYSTEM, status, data[at : at + count]
            at += count


def _number(data: bytes, at: int, end: int, what: str) -> tuple[int, int]:
    """A number of variable length, and where it ends."""
    value = 0
    for n in range(_LONGEST_NUMBER):
        if at + n >= end:
            raise damaged(at, f"the track ends inside {what}")
        byte = data[at + n]
        value = value << 7 | byte & 0x7F
        if byte < 0x80:
            return value, at + n + 1
    raise damaged(at, f"{what} of more than {_LONGEST_NUMBER} bytes")


def _bytes(data: bytes, at: int, end: int, what: str) -> tuple[bytes, int]:
    """The bytes that follow their number, and where they end."""
    length, start = _number(data, at, end, what)
    if start + length > end:
        raise damaged(at, f"{what} of {length:,} bytes is longer than its track")
    return data[start : start + length], start + length
