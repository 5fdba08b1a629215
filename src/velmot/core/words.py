"""What stands in a sentence: counts with their nouns, figures with their units, and how a wording is written out."""

from __future__ import annotations

import re
from dataclasses import dataclass
from math import isfinite
from string import Formatter


def counted(number: int, noun: str, many: str = "") -> str:
    """A number of things.

    >>> counted(1, "lane"), counted(1200, "point"), counted(2, "switch", "switches")
    ('1 lane', '1,200 points', '2 switches')
    """
    return f"{number:,} {noun if number == 1 else many or f'{noun}s'}"


@dataclass(frozen=True)
class Figure:
    """A number and how it is said."""

    value: float
    text: str

    def __str__(self) -> str:
        return self.text


@dataclass(frozen=True)
class Several:
    """How many of what: a count that brings its noun."""

    count: int
    noun: str

    def __str__(self) -> str:
        return counted(self.count, self.noun)


Arg = str | int | float | Figure | Several
Args = tuple[tuple[str, Arg], ...]


MOST_EXACT = 2**53
"""Whole numbers below this one are read by every program as they are written."""


def plain_args(args: Args) -> dict[str, str | int | float]:
    """The arguments for machines: numbers as numbers, but for those that no JSON has."""
    return {key: _plain(arg) for key, arg in args}


def _plain(arg: Arg) -> str | int | float:
    number = arg.value if isinstance(arg, Figure) else arg.count if isinstance(arg, Several) else arg
    if isinstance(number, str):
        return number
    plain: int | float = number.item() if hasattr(number, "item") else number  # numpy's become Python's
    fits = abs(plain) < MOST_EXACT if isinstance(plain, int) else isfinite(plain)
    return plain if fits else str(plain)


class _Worded(Formatter):
    """Writes a count with what it counts."""

    def format_field(self, value: Arg, noun: str) -> str:
        is_format = bool(_FORMAT.fullmatch(noun))
        if isinstance(value, int) and not is_format:
            one, _, many = noun.partition("|")
            return counted(value, one, many) if one else f"{value:,}"
        return format(value, noun) if is_format or isinstance(value, float) else str(value)


_FORMAT = re.compile(r"[,.0-9]*[fg]|,")
"""What says how a number is written, and is no noun."""
_WORDED = _Worded()


def written(words: str, args: Args) -> str:
    """A wording with its arguments; a count brings what it counts, a number its format.

    >>> written("{count:lane|lanes} of {of:}, {step:g}", (("count", 1), ("of", 1200), ("step", 0.5)))
    '1 lane of 1,200, 0.5'
    """
    return _WORDED.vformat(words, (), dict(args))
