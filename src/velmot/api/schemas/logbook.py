"""The log, its marks, and tidying the history."""

from __future__ import annotations

from typing import Annotated

from ninja import Schema
from pydantic import Field

from velmot.core.limits import LONGEST_NAME, LONGEST_NOTE


class MarkIn(Schema):
    """A name for a revision, and some words."""

    name: Annotated[str, Field(max_length=LONGEST_NAME)]
    note: Annotated[str, Field(max_length=LONGEST_NOTE)] = ""


class TidyIn(Schema):
    """Which steps are old: those of more than so many days ago. Without `sure` it is only said what that would free."""

    days: Annotated[float, Field(ge=0, le=36_500)] = 30
    sure: bool = False


class BetweenOut(Schema):
    """What changed between a mark and what came before it: the mark before, or the beginning."""

    since: int
    steps: int
    parameters: list[str] = Field(description="Whose lanes differ, by name; the first of them.")
    more: int = Field(description="How many more there are.")


class AsItWas(Schema):
    """The number under which a session is looked at as it was at a revision."""

    id: int
