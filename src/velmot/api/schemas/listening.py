"""What is to be heard: a span of the session as it stands, and as a request would leave it."""

from __future__ import annotations

from typing import Annotated

from ninja import Schema
from pydantic import Field

from velmot.core.remedy import Links
from velmot.presentation.curves import View
from velmot.presentation.requests import AnyRequest

Seconds = Annotated[float, Field(ge=0, le=1e8, allow_inf_nan=False)]


class Hear(Schema):
    """A span in seconds, of all tracks or of some; with a request also what would be heard if it were applied."""

    start: Seconds
    end: Seconds
    tracks: Annotated[list[str], Field(max_length=5000)] | None = None
    request: AnyRequest | None = None
    links: Links | None = None
    each: bool = Field(default=True, description="Of readings: of every track, and not of all of it alone.")
    ticket: Annotated[str, Field(min_length=8, max_length=64)] | None = None


class FollowedIn(Schema):
    """A follow whose source is to be drawn in view."""

    request: AnyRequest
    view: View
    ticket: Annotated[str, Field(min_length=8, max_length=64)] | None = None


class AudioOut(Schema):
    """A file of one's own that is kept."""

    digest: str
    name: str
    seconds: float
    rate: int
    channels: int


class SoundWanted(Schema):
    """What is rendered to a file: a span in beats, some tracks or all, the mix or one file a track in an archive."""

    start: Annotated[float, Field(ge=0, le=1e6, allow_inf_nan=False)]
    end: Annotated[float, Field(ge=0, le=1e6, allow_inf_nan=False)]
    tracks: Annotated[list[str], Field(max_length=5000)] | None = None
    each: bool = False
    rate: int = 48_000
    bits: str = "24"
    ending: Annotated[str, Field(pattern=r"^\.(wav|flac)$")] = ".wav"
    ticket: Annotated[str, Field(min_length=8, max_length=64)] | None = None
