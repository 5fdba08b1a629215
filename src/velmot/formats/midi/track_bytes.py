"""A Standard MIDI File as bytes: tracks of timed messages, with delta times and lengths."""

from __future__ import annotations

from collections.abc import Iterable

Timed = tuple[int, bytes]
"""A file tick, and one message there or several with delta times of 0 between them."""

_NAME, _END = 0x03, 0x2F
_ONE = [bytes((n,)) for n in range(128)]


def meta(kind: int, body: bytes) -> bytes:
    """A meta event without its time."""
    return b"\xff" + bytes((kind,)) + number_bytes(len(body)) + body


def number_bytes(value: int) -> bytes:
    """A number of variable length: seven bits a byte, the highest first.

    >>> number_bytes(0x40).hex(), number_bytes(0x80).hex(), number_bytes(0x0FFFFFFF).hex()
    ('40', '8100', 'ffffff7f')
    """
    if value < 128:
        return _ONE[value]
    out = [value & 127]
    while value := value >> 7:
        out.append(value & 127 | 128)
    return bytes(reversed(out))


def track_bytes(name: str, events: Iterable[Timed], end: int) -> bytes:
    """A track's chunk: its name, its messages by time (those of one tick as they come), its end at `end` or later."""
    parts, now = [b"\x00", meta(_NAME, name.encode("utf-8", "replace"))], 0
    for tick, message in sorted(events, key=lambda e: e[0]):
        parts += [number_bytes(tick - now), message]
        now = tick
    body = b"".join((*parts, number_bytes(max(end - now, 0)), meta(_END, b"")))
    return b"MTrk" + len(body).to_bytes(4, "big") + body


def file_bytes(tracks: list[bytes], per_beat: int) -> bytes:
    """A file of type 1."""
    head = b"".join(n.to_bytes(2, "big") for n in (1, len(tracks), per_beat))
    return b"MThd" + len(head).to_bytes(4, "big") + head + b"".join(tracks)
