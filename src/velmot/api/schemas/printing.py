"""What is put on paper."""

from __future__ import annotations

from typing import Annotated

from ninja import Schema
from pydantic import Field

from velmot.core.remedy import Links
from velmot.formats.requests import Beats
from velmot.paper.pictures import Form, Shows
from velmot.presentation.requests import AnyRequest


class PictureWanted(Schema):
    """Strips over a span of beats as a picture; with a request what it would change is in it, as `shows` says."""

    parameters: Annotated[list[str], Field(max_length=1000)]
    start: Beats
    end: Beats
    form: Form = "svg"
    shows: Shows = "now"
    sound: bool = Field(default=False, description="Whether the sound of each track lies behind its level.")
    request: AnyRequest | None = None
    links: Links | None = None
