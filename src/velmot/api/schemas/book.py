"""The phrase book: its lines, and what can be changed of one."""

from __future__ import annotations

from typing import Annotated, Any

from ninja import Schema
from pydantic import Field

from velmot.core.verbs.request import GivenPhrase
from velmot.formats.requests import model_of

GivenIO: Any = model_of(GivenPhrase)


class BookIn(Schema):
    """A phrase to put into the book."""

    phrase: GivenIO
    says: Annotated[str, Field(max_length=2000)] = ""
    tags: Annotated[list[str], Field(max_length=20)] = []


class BookChange(Schema):
    """What is to be otherwise; what is not said stays. `deleted` puts it away, or brings it back."""

    name: Annotated[str, Field(max_length=600)] | None = None
    says: Annotated[str, Field(max_length=4000)] | None = None
    tags: Annotated[list[str], Field(max_length=100)] | None = None
    phrase: GivenIO | None = None
    deleted: bool | None = None


class BookMade(Schema):
    """The numbers of phrases that were put into the book."""

    ids: list[int]
