"""The phrase book as its page shows it."""

from __future__ import annotations

from typing import Any

from pydantic import BaseModel

from velmot.core.verbs.request import GivenPhrase
from velmot.formats.requests import model_of, to_plain
from velmot.presentation.linked import Outlined
from velmot.storage import book
from velmot.storage.models import BookPhrase

Given: Any = model_of(GivenPhrase)


class BookLine(BaseModel):
    """A phrase of the book with its picture."""

    id: int
    name: str
    says: str
    tags: list[str]
    length: float
    made_for: str
    shape: str
    points: int
    picture: Outlined


class BookEntry(BookLine):
    """The whole phrase, as a request brings it along."""

    phrase: Given


def book_lines(deleted: bool) -> list[BookLine]:
    """Every phrase of the book by name."""
    return [BookLine(**_line(one)) for one in book.listed(deleted)]


def book_entry(id: int) -> BookEntry:
    """One phrase, whole."""
    one = book.row(id)
    return BookEntry(**_line(one), phrase=Given(**to_plain(book.kept(one).phrase)))


def _line(one: BookPhrase) -> dict[str, Any]:
    short = one.summary
    return {
        "id": one.pk,
        "name": one.name,
        "says": one.says,
        "tags": one.tags,
        "length": one.content["length"],
        "made_for": short["made_for"],
        "shape": short["shape"],
        "points": short["points"],
        "picture": {"lows": short["lows"], "highs": short["highs"]},
    }
