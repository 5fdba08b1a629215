"""JSON as every file and the clipboard are read: plain, finite, valid text, not nested too deeply, and not too much of it."""

from __future__ import annotations

import json
import math
from typing import Any

from velmot.core.limits import MOST_POINTS

DEEPEST = 64
_MOST_OBJECTS = 500_000
_MOST_LISTS = MOST_POINTS + 500_000
_MOST_VALUES = 4 * MOST_POINTS


class NotPlain(ValueError):
    """What is wrong, where, and what would be right."""

    def __init__(self, code: str, message: str, place: str, accepted: str) -> None:
        super().__init__(message)
        self.code, self.message, self.place, self.accepted = code, message, place, accepted


def parsed(data: bytes) -> Any:
    """What some bytes say; NotPlain with the place of the first thing wrong. Whether numbers are finite is for whoever uses
    them to say, who knows the place.
    """
    _not_too_much(data)
    try:
        return json.loads(data.decode("utf-8"))
    except UnicodeDecodeError as error:
        place = f"byte {error.start}"
        raise NotPlain("not-utf8", f"{place} is not UTF-8 text", place, "JSON in UTF-8") from None
    except json.JSONDecodeError as error:
        place = f"line {error.lineno}, column {error.colno}"
        raise NotPlain("not-json", f"not JSON at {place}: {error.msg}", place, "JSON") from None
    except RecursionError:
        raise NotPlain("nested", "it is nested too deeply", "file", f"at most {DEEPEST} levels") from None
    except ValueError:  # whole numbers of thousands of digits
        raise NotPlain("number", "it holds a number that is too long", "file", "finite numbers") from None


def _not_too_much(data: bytes) -> None:
    """Counted before anything is made of it: a byte of text can become a hundred of memory."""
    for sign, most, noun in (
        (b"{", _MOST_OBJECTS, "parts"),
        (b"[", _MOST_LISTS, "lists"),
        (b",", _MOST_VALUES, "values"),
    ):
        if data.count(sign) > most:
            raise NotPlain("too-much", f"it holds too many {noun}", "file", f"at most {most:,} {noun}")


def check_plain(value: Any, place: str) -> None:
    """Raise NotPlain for a value that could not be written so that others can read it: kept without being used, it is
    looked through here and nowhere else.
    """
    todo: list[tuple[Any, int]] = [(value, 0)]
    while todo:
        item, depth = todo.pop()
        if depth > DEEPEST:
            raise NotPlain("nested", f"{place} is nested too deeply", place, f"at most {DEEPEST} levels")
        if isinstance(item, dict):
            todo += [(x, depth + 1) for pair in item.items() for x in pair]
        elif isinstance(item, list):
            todo += [(x, depth + 1) for x in item]
        elif isinstance(item, str):
            check_text(item, place)
        elif isinstance(item, float) and not math.isfinite(item):
            raise NotPlain("number", f"{place} holds a number that is not finite", place, "finite numbers")
        elif isinstance(item, int) and item.bit_length() > 1000:
            raise NotPlain("number", f"{place} holds a number that is too long", place, "finite numbers")


def check_text(text: str, place: str) -> None:
    """Raise NotPlain for text with half of a character."""
    try:
        text.encode("utf-8")
    except UnicodeEncodeError:
        raise NotPlain("text", f"{place} holds half of a character", place, "valid text") from None
