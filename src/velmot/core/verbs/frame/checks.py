"""Checks that many verbs begin with: that something is chosen, that a range is whole, that a name can be one."""

from __future__ import annotations

from collections.abc import Sized

from velmot.core.errors import RequestError
from velmot.core.limits import LONGEST_NAME


def need(chosen: Sized, noun: str, *, place: str = "", accepted: str = "") -> None:
    """RequestError unless at least one of what the noun names is chosen (in the field of its plural, where no place is said)."""
    if not chosen:
        place = place or f"{noun}s"
        raise RequestError(f"{place}-none/chosen", noun=noun, place=place, accepted=accepted or f"at least one {noun}")


def need_range(start: int | None, end: int | None) -> None:
    """RequestError unless a range is whole and not empty, or there is none."""
    if (start is None) != (end is None):
        raise RequestError("range-half", place="range", accepted="both, or neither")
    if start is not None and end is not None and not 0 <= start < end:
        raise RequestError("range-empty", place="range", accepted="an end after the start")


def name_of(name: str, whose: str) -> str:
    """A name without air around it; RequestError for none or a very long one."""
    name = name.strip()
    if not 0 < len(name) <= LONGEST_NAME:
        raise RequestError("name", whose=whose, place="name", accepted=f"1 to {LONGEST_NAME} characters")
    return name
