"""What is asked about findings."""

from __future__ import annotations

from typing import Annotated

from ninja import Schema
from pydantic import Field

from velmot.core.tidy.request import Found
from velmot.formats.requests import model_of
from velmot.presentation.tidying import MOST_PICTURES

FoundIn = model_of(Found)


class PicturesIn(Schema):
    """The findings of which pictures are wanted."""

    found: Annotated[list[FoundIn], Field(max_length=MOST_PICTURES)]  # type: ignore[valid-type]
