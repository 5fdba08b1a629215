"""What can be asked for, and how: notes."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Literal

from velmot.core.limits import LONGEST_NOTE
from velmot.core.verbs.request import says


@dataclass(frozen=True)
class SetNote:
    """Put some words on a lane, a parameter, a region or a track, in place of those that are there."""

    about: Literal["lane", "parameter", "region", "track"] = says("What it is about.")
    of: str = says("Its id.")
    text: str = says("The words; none takes the note away.", most=LONGEST_NOTE, default="")
