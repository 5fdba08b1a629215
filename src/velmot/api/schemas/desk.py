"""What the desk asks for."""

from __future__ import annotations

from typing import Annotated

from ninja import Schema
from pydantic import Field

from velmot.core.limits import MOST_RIDDEN
from velmot.formats.requests import Beats
from velmot.presentation.requests import AnyRequest


class DeskIn(Schema):
    """Controls and a span; `request` are the passes ridden so far, if any are."""

    parameters: Annotated[list[str], Field(max_length=MOST_RIDDEN)]
    start: Beats
    end: Beats
    columns: Annotated[int, Field(ge=1, le=8192)] = 2000
    request: AnyRequest | None = None


class RideIn(Schema):
    """A ride file's text, and the controls on the desk, which hands that name none are put on."""

    text: str
    desk: Annotated[list[str], Field(max_length=MOST_RIDDEN)] = []
