"""What is followed, as strips draw it: how loud the source is in view, how it is eased, and where the threshold lies."""

from __future__ import annotations

from dataclasses import replace

import numpy as np
from pydantic import BaseModel, Field

from velmot.core.curves.followed import SILENT, smoothed
from velmot.core.session.session import Session
from velmot.core.time.ticks import Floats, Tick, beats_of
from velmot.core.verbs.follow.request import BY_THRESHOLD, Follow
from velmot.core.verbs.follow.sources import frames_of, measured, span_of
from velmot.core.verbs.frame.sounding import Sounding
from velmot.presentation.curves import View

QUIETEST = -72.0
"""The level at the foot of what is drawn, in dB."""

MOST_COLUMNS = 2000


class FollowedOut(BaseModel):
    """What a source does in view, in columns that part `start` to `end` evenly.

    Places are 0 to 1 from `low` to `high`, in `unit`: of a sound −72 to 0 dB, of a lane its parameter's range.
    """

    start: float
    end: float
    low: float
    high: float
    unit: str
    levels: list[float] = Field(description="The highest of each column.")
    eased: list[float] = Field(description="The same through attack and release, or smoothing.")
    threshold: float | None = Field(description="Where the threshold lies, for what has one.")
    shuts: float | None = Field(description="Where it shuts again, for what opens.")


def followed_out(session: Session, request: Follow, view: View, sounding: Sounding) -> FollowedOut:
    """The source of a follow in view; RequestError as its plan."""
    start, end = view.ticks
    asked = replace(request, start=Tick(max(start, 0)), end=Tick(min(max(end, start + 1), session.length)))
    span = span_of(session, asked)
    frames = frames_of(session, asked, span, sounding)
    seconds = session.tempo.seconds(np.array(span))
    count = min(view.columns, MOST_COLUMNS)
    low, high = _reach(session, request)
    ease = request.smooth if request.does == "lags" else None
    attack, release = (request.attack, request.release) if ease is None else (ease, ease)
    eased = smoothed(frames.values, frames.step, attack / 1000, release / 1000, request.hold / 1000).ends
    edges = np.linspace(seconds[0], seconds[1], count + 1)
    drawn = (measured(session, request, values) for values in (frames.values, eased))
    columns = [_columns(values, frames.first, frames.step, edges) for values in drawn]
    places = [np.round(np.clip((x - low) / (high - low), 0, 1), 4).tolist() for x in columns]
    threshold = (request.threshold - low) / (high - low) if request.does in BY_THRESHOLD else None
    shuts = threshold - request.hysteresis / (high - low) if threshold is not None and request.does == "opens" else None
    return FollowedOut(
        start=beats_of(span[0]),
        end=beats_of(span[1]),
        low=low,
        high=high,
        unit="dB" if request.source is None else session.parameter(request.source).unit,
        levels=places[0],
        eased=places[1],
        threshold=threshold,
        shuts=shuts,
    )


def _reach(session: Session, request: Follow) -> tuple[float, float]:
    if request.source is None:
        return QUIETEST, 0.0
    parameter = session.parameter(request.source)
    return parameter.low, parameter.high


def _columns(values: Floats, first: float, step: float, edges: Floats) -> Floats:
    """The highest value in each column; of one without a frame that of the frame before."""
    at = np.clip(((edges - first) / step).astype(np.int64), 0, max(len(values) - 1, 0))
    if not len(values):
        return np.full(len(edges) - 1, SILENT)
    starts = at[:-1]
    highest = np.maximum.reduceat(values, starts)
    return np.where(at[1:] > starts, highest, values[starts])
