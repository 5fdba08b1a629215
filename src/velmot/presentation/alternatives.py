"""Alternatives as the screen shows them: what there is, which of it is in use, and what each would do in view."""

from __future__ import annotations

from collections.abc import Iterable

from pydantic import BaseModel, Field

from velmot.core.session.alternatives import Alternative, is_used, standing, using
from velmot.core.session.heard import heard, reading
from velmot.core.session.session import Session
from velmot.core.time.ticks import beats_of
from velmot.presentation.curves import Curve, View, curve_of


class AlternativeOut(BaseModel):
    """Another go at a parameter."""

    id: str
    name: str
    parameter: str
    kept: str = Field(description="When it was put aside, as ISO 8601 says it; empty where that is not known.")
    start: float | None = Field(description="Where the range it is about starts, if it is not all of it.")
    end: float | None
    lanes: int
    points: int
    used: bool = Field(description="Whether the parameter does just that now.")


class AlternativeCurve(BaseModel):
    """What would be heard of a parameter with an alternative in use; nothing where it cannot be used any more."""

    alternative: str
    curve: Curve | None


def alternatives_out(session: Session) -> list[AlternativeOut]:
    """All alternatives whose parameters are there."""
    return [_out(session, one) for one in session.alternatives if session.there("parameter", one.parameter)]


def _out(session: Session, one: Alternative) -> AlternativeOut:
    start, end = (None if at is None else beats_of(at) for at in (one.start, one.end))
    return AlternativeOut(
        id=one.id,
        name=one.name,
        parameter=one.parameter,
        kept=one.kept,
        start=start,
        end=end,
        lanes=len(one.lanes),
        points=one.points,
        used=one.span is None and is_used(session, one),
    )


def alternative_curves(session: Session, ids: Iterable[str], view: View) -> list[AlternativeCurve]:
    """What would be heard of each one's parameter in view, if it was used."""
    return [AlternativeCurve(alternative=id, curve=_curve(session, session.alternative(id), view)) for id in ids]


def _curve(session: Session, one: Alternative, view: View) -> Curve | None:
    if not session.there("parameter", one.parameter) or (one.lanes and not standing(session, one).lanes):
        return None
    state = session.remembered("with an alternative", one.id, lambda: using(session, [one]))
    return curve_of(one.id, heard(reading(state), one.parameter, groups=False).envelope, view)
