"""Comparisons as the screen shows them: what differs, by how much and where, and the curves of one row."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Any, Literal

import numpy as np
from pydantic import BaseModel, Field

from velmot.core.curves.axes import round_step
from velmot.core.curves.envelope import Envelope
from velmot.core.errors import RequestError
from velmot.core.parameters.parameter import Parameter
from velmot.core.session import comparison
from velmot.core.session.comparison import Compared
from velmot.core.session.session import Session
from velmot.core.session.summary import pictures_together
from velmot.core.time.ticks import beats_of
from velmot.presentation.curves import Curve, View, curve_of
from velmot.presentation.tracks import ParameterOut, Picture, parameter_out
from velmot.storage import history

SMALL = 60
"""Columns of a row's small curves."""


@dataclass(frozen=True)
class Asked:
    """One side to compare: a lane, an alternative, a track, or everything; at a revision, or as it stands."""

    revision: int | None = None
    lane: str | None = None
    alternative: str | None = None
    track: str | None = None


class ComparedOut(BaseModel):
    """One pair: what kind of difference, the largest, and where."""

    key: str
    one: str
    other: str
    kind: Literal["same", "changed", "only one", "only other"]
    largest: str
    at: float
    at_text: str
    parameters: list[str] = Field(description="The parameter of the one and of the other.")
    pictures: list[Picture] = Field(
        description="Both over the session, in one scale; none where there is a single pair."
    )


class DrawnPair(BaseModel):
    """Two curves and their difference (the other minus the one), with the scales to draw them on."""

    one: Curve
    other: Curve
    difference: Curve
    one_scale: ParameterOut
    other_scale: ParameterOut
    difference_scale: ParameterOut
    lows: list[float] = Field(description="The lowest values of the one, the other, and the difference.")
    highs: list[float]


class CompareOut(BaseModel):
    """What two sides have in common and what not."""

    same: bool
    rows: list[ComparedOut]
    only: list[str] = Field(description="What one side has and the other has nothing like, in words.")
    drawn: DrawnPair | None


def compare_out(id: int, one: Asked, other: Asked, row: str = "", view: View | None = None) -> CompareOut:
    """Two sides compared, the largest difference of the parameter's range first; with a view, the curves of one row."""
    sessions_of, only, rows = _sides(id, one, other)
    rows.sort(key=lambda x: -x.largest / x.measure.span)
    wanted = next((x for x in rows if _key(x) == row), rows[0] if rows else None)
    drawn = _drawn(*sessions_of, wanted, view) if view and wanted else None
    same = not only and all(row.same for row in rows)
    said = [_row_out(sessions_of[0], row, len(rows) > 1) for row in rows]
    return CompareOut(same=same, rows=said, only=only, drawn=drawn)


def _sides(id: int, this: Asked, that: Asked) -> tuple[tuple[Session, Session], list[str], list[Compared]]:
    one, other = history.at_revisions(id, this.revision, that.revision)
    both = one, other
    if (this.lane or this.alternative) and (that.lane or that.alternative):
        sides = _curve_side(one, this), _curve_side(other, that)
        return both, [], [comparison.compared(sides[0], sides[1], max(one.length, other.length))]
    if this.track and that.track:
        tracks = one.track(this.track), other.track(that.track)
        only = [f"only {tracks[0].name} has {p.name}" for p in comparison.only_on(one, *tracks)]
        only += [f"only {tracks[1].name} has {p.name}" for p in comparison.only_on(other, tracks[1], tracks[0])]
        return both, only, comparison.tracks_compared(one, *tracks)
    if this.revision is None and that.revision is None:
        raise RequestError("compare-what", place="one", accepted="two lanes, tracks or revisions")
    said = ["as it stands" if x.revision is None else f"revision {x.revision}" for x in (this, that)]
    return both, [], comparison.revisions_compared(one, other, (said[0], said[1]))


def _curve_side(session: Session, asked: Asked) -> comparison.Side:
    """A lane as a side, or what would be heard with an alternative in use."""
    when = "" if asked.revision is None else f" at revision {asked.revision}"
    if asked.alternative:
        return comparison.alternative_side(session, session.alternative(asked.alternative), when)
    lane = session.lane(asked.lane or "")
    return comparison.lane_side(session, lane, f"{session.lane_name(lane)}{when}")


def _key(row: Compared) -> str:
    return f"{row.one.parameter.id} {row.one.name}"


def _row_out(session: Session, row: Compared, small: bool) -> ComparedOut:
    curves = [(_curve(side), side.parameter) for side in (row.one, row.other)]
    pictures = pictures_together(curves, session.length, SMALL) if small else []
    return ComparedOut(
        key=_key(row),
        one=row.one.name,
        other=row.other.name,
        kind=row.kind,  # type: ignore[arg-type]
        largest=row.measure.format_distance(row.largest) + (" of the range" if row.by_position else ""),
        at=beats_of(row.at),
        at_text=str(session.tempo.position(row.at)),
        parameters=[row.one.parameter.id, row.other.parameter.id],
        pictures=[Picture(**vars(p)) for p in pictures],
    )


def _drawn(one: Session, other: Session, row: Compared, view: View) -> DrawnPair:
    gap = comparison.difference(row)
    curves = [_curve(side) for side in (row.one, row.other)]
    scale = _difference_scale(row, gap)
    scales = [_scale((one, other), side.parameter) for side in (row.one, row.other)]
    values: list[Any] = [c.values for c in (*curves, gap)]
    return DrawnPair(
        one=curve_of("one", curves[0], view),
        other=curve_of("other", curves[1], view),
        difference=curve_of("difference", gap, view),
        one_scale=scales[0],
        other_scale=scales[1],
        difference_scale=parameter_out(one, one.tracks[0], scale),
        lows=[float(v.min()) for v in values],
        highs=[float(v.max()) for v in values],
    )


def _scale(sessions: tuple[Session, Session], parameter: Parameter) -> ParameterOut:
    """A parameter's scale, from whichever side still has it."""
    session = next(x for x in sessions if any(parameter.id == p.id for t in x.tracks for p in t.parameters))
    return parameter_out(session, session.owner(parameter.id), parameter)


def _curve(side: comparison.Side) -> Envelope:
    if side.envelope is not None:
        return side.envelope
    return Envelope.constant(side.parameter.value, side.parameter.axis)


def _difference_scale(row: Compared, gap: Envelope) -> Parameter:
    """A straight axis round 0 for the difference, in the unit it is measured in."""
    far = 4 * round_step(max(float(np.abs(gap.values).max()), 1e-3) / 4)
    unit = row.measure.distance_unit
    return Parameter("difference", "Difference", row.one.parameter.family, unit=unit, low=-far, high=far)
