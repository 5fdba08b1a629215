"""Positions and lengths as they are typed."""

from __future__ import annotations

import re
from decimal import Decimal, InvalidOperation
from fractions import Fraction

from velmot.core.errors import RequestError
from velmot.core.time.tempo import TempoMap
from velmot.core.time.ticks import MOST_TICKS, Tick, ticks_of

_BAR_TEXT = re.compile(r"^(\d+)(?:\.(\d+)(?:\.(\d+))?)?$")
_CLOCK_TEXT = re.compile(r"^(?:(\d+):)?(\d+(?:\.\d+)?)\s*(?:s|sec|seconds)?$")
_BEAT_TEXT = re.compile(r"^(-?\d+(?:\.\d+)?)\s*(?:b|beat|beats)$")
_NOTE_TEXT = re.compile(r"^(\d{1,6})/(\d{1,6})\s*(t|triplet|d|dotted|\.)?$")
MOST_PARTS = 1024
"""The finest note that is read: a whole one in so many parts."""
ACCEPTED_POSITIONS = (
    "a bar (9), bar.beat (9.2), bar.beat.hundredths (9.2.50), seconds (12.5 s, 0:26.5), or beats (33.5 beats)"
)


def parse_position(text: str, tempo: TempoMap) -> Tick:
    """The tick a typed position means; raises RequestError naming what would be read.

    >>> parse_position("9.2.25", TempoMap()) == ticks_of(33.25)
    True
    """
    said = text.strip().lower().replace(",", ".")
    if match := _BAR_TEXT.match(said):
        tick = _tick_of_bar(match, tempo, text)
    elif match := _BEAT_TEXT.match(said):
        tick = ticks_of(Decimal(match[1]))
    elif (match := _CLOCK_TEXT.match(said)) and not said.isdigit():
        tick = tempo.tick_at(60 * int(match[1] or 0) + float(match[2]))
    else:
        raise RequestError("position-unread", text=text, place="position", accepted=ACCEPTED_POSITIONS)
    if not 0 <= tick <= MOST_TICKS:
        raise RequestError(
            "position-range", text=text, place="position", accepted="a position from 1.1.00 on, up to a million beats"
        )
    return tick


def _tick_of_bar(match: re.Match[str], tempo: TempoMap, text: str) -> Tick:
    bar, beat, part = int(match[1]), int(match[2] or 1), match[3] or "0"
    if bar < 1 or beat < 1:
        raise RequestError("position-range/from-one", text=text, place="position", accepted="1.1.00 or later")
    if bar > 1_000_000 or beat > 1_000:
        raise RequestError("position-range/beyond", text=text, place="position", accepted=ACCEPTED_POSITIONS)
    return tempo.tick_of(bar, beat, Fraction(int(part), 10 ** len(part)))


def parse_length(text: str, tempo: TempoMap, start: int = 0) -> Tick:
    """The ticks a typed length means, from `start` on: ``80 ms``, ``1.5 s``, ``2 beats``, ``1 bar``, or a note's value.

    >>> parse_length("3/16", TempoMap()) == parse_length("1/8.", TempoMap()) == ticks_of(0.75)
    True
    """
    said = text.strip().lower().replace(",", ".")
    if (note := _NOTE_TEXT.match(said)) and 0 < int(note[2]) <= MOST_PARTS and int(note[1]) <= 250_000:
        return _note_length(note)
    match = re.match(r"^(\d+(?:\.\d+)?)\s*(ms|s|beats?|bars?)?$", said)
    try:
        amount = Decimal(match[1]) if match else None
    except InvalidOperation:  # pragma: no cover - the pattern only lets numbers through
        amount = None
    if match is None or amount is None or amount > 1_000_000:
        raise RequestError(
            "length-unread",
            text=text,
            place="length",
            accepted="80 ms, 1.5 s, 2 beats, 1 bar, or a note: 1/8, 1/8 t, 3/16",
        )
    unit = match[2] or "beats"
    if unit in ("ms", "s"):
        seconds = float(amount) / (1000 if unit == "ms" else 1)
        return Tick(tempo.tick_at(float(tempo.seconds(start)) + seconds) - start)
    if unit.startswith("bar"):
        here = tempo.position(start)
        whole = tempo.tick_of(here.bar + int(amount), here.beat, here.part)
        meter = next(m for m in reversed(tempo.meters) if m.tick <= max(whole, 0))
        return Tick(whole - start + round(Fraction(amount % 1) * meter.bar_ticks))
    return ticks_of(amount)


def _note_length(note: re.Match[str]) -> Tick:
    """Parts of a whole note, which is four beats long; a triplet's are two thirds of that, a dotted one's three halves."""
    times = {"t": Fraction(2, 3), "d": Fraction(3, 2), ".": Fraction(3, 2)}.get((note[3] or "")[:1], Fraction(1))
    return ticks_of(Fraction(4 * int(note[1]), int(note[2])) * times)
