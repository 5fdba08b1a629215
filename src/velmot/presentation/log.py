"""The log as the screen shows it: its lines, its marks, and small pictures of what steps changed."""

from __future__ import annotations

from collections.abc import Iterable
from datetime import datetime
from typing import Any

import numpy as np
from pydantic import BaseModel, Field

from velmot.core.curves.envelope import Envelope
from velmot.core.curves.outline import remembered_outline
from velmot.core.session.session import Session
from velmot.core.session.summary import ink_of
from velmot.core.time.ticks import beats_of
from velmot.presentation.changes import MOST_LISTED
from velmot.storage.history_tidying import Tidied
from velmot.storage.logbook import LogEntry, LogPage, Mark, Pictured

PICTURE_COLUMNS = 40


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
    parent: int
    title: str
    verb: str
    made: datetime
    undone: bool
    aside: bool = Field(description="Whether it lies on a way that was left: redo does not lead to it.")
    current: bool = Field(description="Whether the session stands at it.")
    window: str = Field(description="Which window made it; empty where that is not known.")
    folds: int = Field(description="How many steps before it were tidied away into it.")
    lanes: int = Field(description="How many lanes it touched; the first of them are listed.")
    touched: list[TouchedLine]
    request: dict[str, Any] | None = Field(description="Its settings, where the session stands at it.")


class MarkOut(BaseModel):
    """A revision under a name."""

    number: int
    name: str
    note: str
    made: datetime


class LogOut(BaseModel):
    """A page of the log, newest first, and all marks."""

    lines: list[LogLine]
    more: bool = Field(description="Whether older lines follow.")
    marks: list[MarkOut]


class StepPicture(BaseModel):
    """What a step changed of the first lane it touched: lowest and highest, 0 to 100 of what both span together."""

    number: int
    ink: str
    before: list[int] = Field(description="The lowest and the highest of each column, one after the other.")
    after: list[int]


class TidiedOut(BaseModel):
    """What tidying the history frees."""

    steps: int = Field(description="Steps that go into others, or go.")
    aside: int = Field(description="Those of them on ways that were left.")
    bytes: int = Field(description="About how much room that gives back.")


def log_out(page: LogPage) -> LogOut:
    """A page of the log."""
    return LogOut(
        lines=[_line_out(entry) for entry in page.entries],
        more=page.more,
        marks=[mark_out(mark) for mark in page.marks],
    )


def mark_out(mark: Mark) -> MarkOut:
    """A mark."""
    return MarkOut(number=mark.number, name=mark.name, note=mark.note, made=mark.made)


def tidied_out(found: Tidied) -> TidiedOut:
    """What tidying frees, or has freed."""
    return TidiedOut(steps=found.steps, aside=found.aside, bytes=found.bytes)


def _line_out(entry: LogEntry) -> LogLine:
    return LogLine(
        number=entry.number,
        parent=entry.parent,
        title=entry.title,
        verb=str(entry.request.get("verb", "")),
        made=entry.made,
        undone=entry.undone,
        aside=entry.aside,
        current=entry.current,
        window=entry.window,
        folds=entry.folds,
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


def pictures_out(session: Session, some: Iterable[Pictured]) -> list[StepPicture]:
    """Small pictures of what steps changed."""
    return [_picture_out(session, one) for one in some]


def _picture_out(session: Session, one: Pictured) -> StepPicture:
    there = session.there("parameter", one.parameter)
    ink = ink_of(session.parameter(one.parameter)) if there else "device"
    curves = [curve for curve in (one.before, one.after) if curve is not None]
    first, last = _reach(curves)
    rows = {id(curve): np.stack(remembered_outline(curve, first, last, PICTURE_COLUMNS)) for curve in curves}
    places = [curve.axis.coordinate(rows[id(curve)]) for curve in curves]
    least, most = (min(p.min() for p in places), max(p.max() for p in places)) if places else (0.0, 0.0)

    def drawn(curve: Envelope | None) -> list[int]:
        if curve is None:
            return []
        y = np.rint((curve.axis.coordinate(rows[id(curve)]) - least) / ((most - least) or 1.0) * 100).astype(int)
        return [int(place) for place in y.T.ravel()]

    return StepPicture(number=one.number, ink=ink, before=drawn(one.before), after=drawn(one.after))


def _reach(curves: list[Envelope]) -> tuple[int, int]:
    """The ticks that curves span together, at least one for each column."""
    first = min((int(curve.ticks[0]) for curve in curves), default=0)
    last = max((int(curve.ticks[-1]) for curve in curves), default=0)
    return first, max(last, first + PICTURE_COLUMNS)
