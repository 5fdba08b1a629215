"""The log as the screen shows it."""

from __future__ import annotations

from datetime import datetime
from typing import Any

from pydantic import BaseModel, Field

from velmot.core.time.ticks import beats_of
from velmot.presentation.changes import MOST_LISTED
from velmot.storage.history import LogEntry, LogPage


class TouchedLine(BaseModel):
    """A location a log line names, for going there."""

    lane: str
    parameter: str
    name: str = Field(description="As it was called then; it may be gone by now. Empty in old logs.")
    start: float
    end: float


class LogLine(BaseModel):
    """One line of the log."""

    number: int
    title: str
    made: datetime
    undone: bool
    lanes: int = Field(description="How many lanes it touched; the first of them are listed.")
    touched: list[TouchedLine]
    request: dict[str, Any] | None = Field(description="Its settings, where the session stands at it.")


class LogOut(BaseModel):
    """A page of the log, newest first."""

    lines: list[LogLine]
    more: bool = Field(description="Whether older lines follow.")


def log_out(page: LogPage) -> LogOut:
    """A page of the log."""
    return LogOut(lines=[_line_out(entry) for entry in page.entries], more=page.more)


def _line_out(entry: LogEntry) -> LogLine:
    return LogLine(
        number=entry.number,
        title=entry.title,
        made=entry.made,
        undone=entry.undone,
        request=entry.request if entry.current else None,
        lanes=len(entry.touched),
        touched=[
            TouchedLine(
                lane=t["lane"],
                parameter=t["parameter"],
                name=t.get("name", ""),
                start=beats_of(t["start"]),
                end=beats_of(t["end"]),
            )
            for t in entry.touched[:MOST_LISTED]
        ],
    )
