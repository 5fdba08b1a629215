"""Sessions as a whole: brought in, renamed, asked where they stand."""

from __future__ import annotations

from typing import Annotated

from ninja import Schema
from pydantic import Field

from velmot.presentation.sessions import ReportOut


class Imported(Schema):
    """A session made from a file."""

    id: int
    report: ReportOut


class Rename(Schema):
    """A session's new name."""

    name: Annotated[str, Field(max_length=2000)]


class Head(Schema):
    """Where a session stands, and the name of the step that led there, if it had one."""

    revision: int
    step: str
