"""Curves as they are drawn: points while they are few enough to see, else exact lows and highs of each column."""

from __future__ import annotations

from functools import lru_cache
from typing import Annotated

import numpy as np
from pydantic import BaseModel, Field

from velmot.core.curves.envelope import Envelope
from velmot.core.curves.outline import last_outline
from velmot.core.curves.segments import HOLD
from velmot.core.limits import MOST_PARAMETERS
from velmot.core.session.session import Session
from velmot.core.session.track import Lane
from velmot.core.time.ticks import TICKS_PER_BEAT, Floats, beats_of, ticks_of
from velmot.formats.requests import Beats

_POINTS_A_COLUMN = 0.5


class View(BaseModel):
    """What is on screen: a span of beats, how many columns it has, and the parameters whose strips are shown."""

    start: Beats
    end: Beats
    columns: Annotated[int, Field(ge=1, le=8192)]
    strips: Annotated[list[str], Field(max_length=MOST_PARAMETERS)] = []
    pencil: Annotated[
        bool,
        Field(description="Whether lanes that are there are sent as they are now too; a window may have them."),
    ] = True

    @property
    def ticks(self) -> tuple[int, int]:
        """Its first and last tick, at least a tick a column."""
        return _ticks_in(self.start, self.end, self.columns)


class Curve(BaseModel):
    """A lane's curve in view: its points with neighbours on each side, or exact lows and highs a column.

    `shapes` holds a bend number, or null for hold. The columns part `start` to `end` evenly.
    """

    lane: str
    start: float
    end: float
    first: int = Field(description="Which of the lane's points comes first here.")
    beats: list[float]
    values: list[float]
    shapes: list[float | None]
    lows: list[float]
    highs: list[float]


def lane_curve(session: Session, lane: Lane, view: View) -> Curve:
    """The lane's curve in view, in session beats."""
    return curve_of(lane.id, session.in_session_time(lane), view)


def curve_of(id: str, envelope: Envelope, view: View) -> Curve:
    """A curve in view: points while they are few enough to see, else exact lows and highs of each column."""
    start, end = view.ticks
    drawn = Curve(
        lane=id, start=beats_of(start), end=beats_of(end), first=0, beats=[], values=[], shapes=[], lows=[], highs=[]
    )
    if envelope.count(start, end) <= max(view.columns * _POINTS_A_COLUMN, 32):
        first = max(int(np.searchsorted(envelope.ticks, start)) - 2, 0)
        last = int(np.searchsorted(envelope.ticks, end, side="right")) + 2
        part = slice(first, last)
        drawn.first = first
        drawn.beats = np.round(envelope.ticks[part] / TICKS_PER_BEAT, 7).tolist()  # near enough to draw
        drawn.values = envelope.values[part].tolist()
        drawn.shapes = [b if b != HOLD else None for b in envelope.bends[part].tolist()]
    else:
        lows, highs = last_outline(envelope, start, end, view.columns)
        drawn.lows, drawn.highs = _near_enough(lows, highs)
    return drawn


def _near_enough(lows: Floats, highs: Floats) -> tuple[list[float], list[float]]:
    """Lows and highs rounded to a hundred-thousandth of what they span: less to send, and no pixel's difference."""
    span = float(highs.max() - lows.min())
    digits = 5 - int(np.floor(np.log10(span))) if span > 0 else 9
    return np.round(lows, digits).tolist(), np.round(highs, digits).tolist()


@lru_cache(maxsize=16)
def _ticks_in(start: float, end: float, columns: int) -> tuple[int, int]:
    """Remembered, as it is asked for hundreds of curves in a row."""
    first = ticks_of(start)
    return first, max(ticks_of(end), first + columns)
