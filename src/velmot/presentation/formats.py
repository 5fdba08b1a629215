"""The formats as the start page shows them."""

from __future__ import annotations

from pydantic import BaseModel

from velmot.formats.table import FORMATS


class FormatOut(BaseModel):
    """A format of whole sessions: what it is called, how its files end, and how large they may be, in bytes."""

    called: str
    endings: list[str]
    largest: int


def formats_out() -> list[FormatOut]:
    """Every format that is read."""
    return [FormatOut(called=f.called, endings=[*f.endings], largest=f.largest) for f in FORMATS]
