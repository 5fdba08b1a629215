"""Rails as the screen shows them: where they stand and where a request leads them, in values and in words."""

from __future__ import annotations

from typing import Any

import numpy as np
from pydantic import BaseModel, Field

from velmot.core.curves.rails import Rails
from velmot.core.parameters.parameter import Parameter
from velmot.core.session.session import Session
from velmot.core.time.ticks import beats_of
from velmot.core.verbs.shape.request import Reshape
from velmot.core.verbs.shape.reshape import Railed, railed

MOST_RAILED = 2000
"""Lanes whose rails are shown."""


class RailsOut(BaseModel):
    """The ends of both rails, in values that the parameter can have."""

    low_start: float
    low_end: float
    high_start: float
    high_end: float


class RailTexts(BaseModel):
    """The same, in words."""

    low_start: str
    low_end: str
    high_start: str
    high_end: str


class RailedOut(BaseModel):
    """One lane's rails over what is reshaped of it."""

    lane: str
    parameter: str
    start: float
    end: float
    flat: bool = Field(description="Whether both rails are one line: the lane does not move there.")
    before: RailsOut
    after: RailsOut
    texts: RailTexts


def rails_out(session: Session, request: Any) -> list[RailedOut]:
    """The rails that a request shows; none for other verbs."""
    if not isinstance(request, Reshape) or not (request.lanes or request.tracks):
        return []
    return [_railed_out(session, one) for one, _ in zip(railed(session, request), range(MOST_RAILED), strict=False)]


def _railed_out(session: Session, one: Railed) -> RailedOut:
    parameter = session.parameter(session.lane(one.lane).parameter)
    before, after = (_values(parameter, rails) for rails in (one.before, one.after))
    texts = [parameter.format(v) for v in after]
    return RailedOut(
        lane=one.lane,
        parameter=parameter.id,
        start=beats_of(one.start),
        end=beats_of(one.end),
        flat=one.before.low_start == one.before.high_start,
        before=RailsOut(**dict(zip(Rails._fields, before, strict=True))),
        after=RailsOut(**dict(zip(Rails._fields, after, strict=True))),
        texts=RailTexts(**dict(zip(Rails._fields, texts, strict=True))),
    )


def _values(parameter: Parameter, rails: Rails) -> list[float]:
    """Where rails stand, as values the parameter can have."""
    low, high = parameter.reach
    values = parameter.axis.value_of(np.clip(rails, low, high))
    return [float(v) for v in np.clip(values, parameter.low, parameter.high)]
