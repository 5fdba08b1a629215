"""Wording: how names, counts and spans are said, the same in titles, cautions, the log and on the command line."""

from __future__ import annotations

from collections.abc import Sequence
from typing import TYPE_CHECKING

from velmot.core.time.ticks import TICKS_PER_BEAT
from velmot.core.words import counted

if TYPE_CHECKING:
    from velmot.core.session.session import Session
    from velmot.core.session.track import Marker


def named(names: Sequence[str], noun: str) -> str:
    """The one by its name, several by their number.

    >>> named(["Bell buoy Level"], "lane"), named(["a", "b"], "lane")
    ('Bell buoy Level', '2 lanes')
    """
    return names[0] if len(names) == 1 else counted(len(names), noun)


def listed(names: Sequence[str], noun: str, most: int = 3) -> str:
    """The first names, and how many more there are.

    >>> listed(["a", "b"], "region"), listed(["a", "b", "c", "d"], "region")
    ('a, b', 'a, b, c and 1 more region')
    """
    more = len(names) - most
    return ", ".join(names[:most]) + (f" and {more} more {noun if more == 1 else f'{noun}s'}" if more > 0 else "")


def is_or_are(number: int) -> str:
    """The verb for so many."""
    return "is" if number == 1 else "are"


def as_sentence(text: str) -> str:
    """With a capital letter in front."""
    return text[:1].upper() + text[1:]


def parameter_name(session: Session, parameter: str) -> str:
    """A parameter as people say it: “Bell buoy Level”."""
    return f"{session.owner(parameter).name} {session.parameter(parameter).name}"


def alternative_name(session: Session, id: str) -> str:
    """An alternative by its name, and whose it is: “calm” of Keeper Level."""
    one = session.alternative(id)
    there = session.there("parameter", one.parameter)
    return f"“{one.name}” of {parameter_name(session, one.parameter)}" if there else f"“{one.name}”"


def marker_name(session: Session, marker: Marker) -> str:
    """A marker by its name, or by where it stands."""
    return marker.name or f"at {session.tempo.position(marker.tick)}"


def span_text(session: Session, start: int, end: int) -> str:
    """A range as people say it: “9.1.00 to 13.1.00”."""
    return f"{session.tempo.position(start)} to {session.tempo.position(end)}"


def limits_text(low: str, high: str) -> str:
    """What a value may be: “−∞ dB to 12.0 dB”."""
    return f"{low} to {high}"


def place(session: Session, tick: int) -> str:
    """A place by bar and by the clock: “9.1.00, 0:20.6”."""
    return f"{session.tempo.position(tick)}, {clock_text(float(session.tempo.seconds(tick)))}"


def clock_text(seconds: float) -> str:
    """Minutes, seconds and tenths.

    >>> clock_text(20.61), clock_text(59.96), clock_text(3601)
    ('0:20.6', '1:00.0', '60:01.0')
    """
    tenths = round(seconds * 10)
    return f"{tenths // 600}:{tenths % 600 // 10:02d}.{tenths % 10}"


def length_text(ticks: int) -> str:
    """A length in beats.

    >>> length_text(TICKS_PER_BEAT), length_text(TICKS_PER_BEAT * 5 // 2)
    ('1 beat', '2.5 beats')
    """
    beats = ticks / TICKS_PER_BEAT
    return f"{beats:.3f}".rstrip("0").rstrip(".") + (" beat" if beats == 1 else " beats")
