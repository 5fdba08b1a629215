"""Telling: a request as a sentence of parts, each either plain words or what one of its fields says.

The sentence of a verb stands with its plan. A field that is still to be filled in asks for it.
"""

from __future__ import annotations

import re
from collections.abc import Sequence
from dataclasses import dataclass

from velmot.core.session.session import Session
from velmot.core.session.track import ON_THE_TRACK
from velmot.core.session.wording import length_text, listed, parameter_name
from velmot.core.words import counted

MOST_SAID = 2
"""Names that are said; more are counted."""


@dataclass(frozen=True)
class Part:
    """Some words of a sentence; `field` is the request's field they stand for, `missing` that it is still to be chosen."""

    text: str
    field: str = ""
    missing: bool = False


@dataclass(frozen=True)
class Asked:
    """What stands in place of a field that is empty: a request to fill it in."""

    text: str


Told = tuple[Part, ...]


def told(template: str, **texts: str | Asked) -> Told:
    """The template's words and, for each ``{field}`` in it, what is said of that field.

    >>> [p.text for p in told("Cut {regions} at {at}.", regions="toll 1", at=Asked("choose a position"))]
    ['Cut ', 'toll 1', ' at ', 'choose a position', '.']
    """
    parts = []
    for words in re.split(r"(\{\w+\})", template):
        if words.startswith("{"):
            said = texts[words[1:-1]]
            missing = isinstance(said, Asked)
            parts.append(Part(said.text if isinstance(said, Asked) else said, words[1:-1], missing))
        elif words:
            parts.append(Part(words))
    return tuple(parts)


def in_words(sentence: Sequence[Part]) -> str:
    """The sentence as plain text."""
    return "".join(part.text for part in sentence)


def lanes(session: Session, ids: Sequence[str]) -> str | Asked:
    """Lanes by name, or how many."""
    names = [session.lane_name(session.lane(id)) for id in dict.fromkeys(ids)]
    return _some(names, "lane") or Asked("choose lanes")


def tracks(session: Session, ids: Sequence[str]) -> str | Asked:
    """Tracks by name, or how many."""
    return _some([session.track(id).name for id in dict.fromkeys(ids)], "track") or Asked("choose a track")


def regions(session: Session, ids: Sequence[str]) -> str | Asked:
    """Regions by name, or how many."""
    return _some([session.region(id).name for id in dict.fromkeys(ids)], "region") or Asked("choose regions")


def parameters(session: Session, ids: Sequence[str]) -> str | Asked:
    """Parameters by name, or how many."""
    names = [parameter_name(session, id) for id in dict.fromkeys(ids)]
    return _some(names, "parameter") or Asked("choose a parameter")


def points(session: Session, picked: Sequence[tuple[str, int]], noun: str = "point") -> str | Asked:
    """How many points of which lanes."""
    count = sum(number for _, number in picked)
    if not count:
        return Asked("pick points")
    return f"{counted(count, noun)} of {_some([session.lane_name(session.lane(id)) for id, _ in picked], 'lane')}"


def home(session: Session, id: str) -> str:
    """Where a lane lives."""
    return "the track" if id == ON_THE_TRACK else session.region(id).name


def position(session: Session, tick: int | None, none: str = "the same place") -> str:
    """A position; what nothing means."""
    return none if tick is None else str(session.tempo.position(tick))


length = length_text


def _some(names: list[str], noun: str) -> str:
    return listed(names, noun, MOST_SAID) if len(names) <= MOST_SAID else counted(len(names), noun)
