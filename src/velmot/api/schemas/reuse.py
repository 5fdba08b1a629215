"""Comparing, working out beforehand, and recipes."""

from __future__ import annotations

from typing import Annotated

from ninja import Schema
from pydantic import Field

from velmot.core.limits import MOST_IDS
from velmot.formats.requests import Beats
from velmot.presentation.curves import View
from velmot.presentation.requests import AnyRequest


class WorkedOut(Schema):
    """A request of which something is worked out beforehand: its match table, or its mapping graph."""

    request: AnyRequest


class SideIn(Schema):
    """One side to compare: a lane, an alternative, a track, or everything; at a revision, or as it stands."""

    revision: int | None = None
    lane: str | None = None
    alternative: str | None = None
    track: str | None = None


class CompareIn(Schema):
    """Two sides, and with a view the row whose curves to draw."""

    one: SideIn
    other: SideIn
    row: Annotated[str, Field(max_length=1000)] = ""
    view: View | None = None


class RecipeLine(Schema):
    """A recipe by name."""

    id: int
    name: str
    verb: str


class RecipeIn(Schema):
    """A request whose settings to keep."""

    name: Annotated[str, Field(max_length=2000)]
    request: AnyRequest


class RecipeUse(Schema):
    """What to use a recipe on."""

    lanes: Annotated[list[str], Field(max_length=MOST_IDS)]
    start: Beats | None = None
    end: Beats | None = None


class RecipeUsed(Schema):
    """The recipe's request on the selection, and what of it is not here."""

    request: AnyRequest
    missing: list[str]
