"""A session in a few figures and small pictures: what the start page shows without opening it."""

from __future__ import annotations

from collections.abc import Iterable
from dataclasses import dataclass

import numpy as np

from velmot.core.curves.envelope import Envelope
from velmot.core.curves.outline import remembered_outline
from velmot.core.parameters.parameter import Parameter
from velmot.core.session.session import Session
from velmot.core.session.track import Lane
from velmot.core.time.ticks import Floats

PICTURE_COLUMNS = 60
MOST_PICTURES = 4


@dataclass(frozen=True)
class Picture:
    """A lane's outline in a few columns: lowest and highest, 0 to 100 of its own range. `family` is its ink."""

    family: str
    lows: list[int]
    highs: list[int]


@dataclass(frozen=True)
class Summary:
    """How much a session holds, and pictures of its busiest lanes."""

    tracks: int
    lanes: int
    points: int
    bars: int
    picture: list[Picture]


def summary_of(session: Session) -> Summary:
    """The figures and pictures of a session as it stands."""
    busiest = sorted(session.lanes, key=lambda x: -len(x.envelope))[:MOST_PICTURES]
    return Summary(
        len(session.tracks),
        len(session.lanes),
        sum(len(x.envelope) for x in session.lanes),
        session.tempo.bar_count(session.length),
        [picture_of(session, lane, PICTURE_COLUMNS) for lane in busiest],
    )


def picture_of(session: Session, lane: Lane, columns: int) -> Picture:
    """A lane's outline over its span in a few columns, 0 to 100 of what it spans itself."""
    parameter = session.parameter(lane.parameter)
    y = parameter.axis.coordinate(np.stack(outline_of(session, lane, columns)))
    least, most = y.min(), y.max()
    scaled = np.rint((y - least) / (most - least) * 100) if most > least else np.full_like(y, 50)
    return Picture(ink_of(parameter), scaled[0].astype(int).tolist(), scaled[1].astype(int).tolist())


def pictures_together(curves: Iterable[tuple[Envelope, Parameter]], length: int, columns: int) -> list[Picture]:
    """Outlines of several curves over ``[0, length]`` by their places in their ranges, 0 to 100 of what all of them span."""
    some = [*curves]
    outlines = [remembered_outline(curve, 0, max(length, columns), columns) for curve, _ in some]
    places = [p.position(np.stack(ends)) for (_, p), ends in zip(some, outlines, strict=True)]
    least, most = min(p.min() for p in places), max(p.max() for p in places)
    scaled = [np.rint((p - least) / ((most - least) or 1.0) * 100).astype(int) for p in places]
    return [Picture(ink_of(p), y[0].tolist(), y[1].tolist()) for (_, p), y in zip(some, scaled, strict=True)]


def outline_of(session: Session, lane: Lane, columns: int) -> tuple[Floats, Floats]:
    """A lane's (lows, highs) over its whole span, counted from where it starts."""
    start, end = session.span(lane)
    return remembered_outline(lane.envelope, 0, max(end - start, columns), columns)


def ink_of(parameter: Parameter) -> str:
    """The ink a lane is drawn with: by family, but slate for all that steps or switches."""
    return parameter.kind.value if parameter.holds_only else parameter.family.value
