"""Remarks: what people say about a session and keep with it: notes on its parts, and findings that are to be let be."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Literal

from velmot.core.session.phrases import Extra

About = Literal["lane", "parameter", "region", "track"]


@dataclass(frozen=True)
class LetBe:
    """A finding that is kept quiet: its kind, whose it is, and where it begins there.

    `of` is the id of the lane, parameter, track or phrase it is about; empty lets all of the kind be. `at` is in ticks from
    where the lane's home begins, so that it holds when a region is moved.
    """

    id: str
    kind: str
    of: str = ""
    at: int = 0
    extra: Extra = ()


@dataclass(frozen=True)
class Note:
    """Some words on a lane, parameter, region or track, by its id."""

    id: str
    about: About
    of: str
    text: str
    extra: Extra = ()
