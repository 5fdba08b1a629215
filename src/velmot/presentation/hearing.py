"""What is heard, as strips and cards show it: values at a moment with their reasons, and curves in view."""

from __future__ import annotations

from collections.abc import Iterable

from pydantic import BaseModel, Field

from velmot.core.parameters.parameter import Family, Parameter
from velmot.core.session.above import groups_above
from velmot.core.session.heard import fader_of, heard, in_words
from velmot.core.session.session import Session
from velmot.core.time.ticks import beats_of, ticks_of
from velmot.presentation.curves import Curve, View, curve_of


class ShareOut(BaseModel):
    """What one group above adds to a level at a moment."""

    group: str
    name: str
    text: str


class ReadOut(BaseModel):
    """What is heard of a parameter at a moment, as people read it, and why; and what its lanes say."""

    parameter: str
    text: str
    why: str
    lanes: dict[str, str]
    own: str = Field(description="Without what groups add.")
    shares: list[ShareOut] = Field(description="What each group above adds, nearest first.")


class HeardSpan(BaseModel):
    """Why a parameter is heard as it is, over a span."""

    start: float
    end: float
    why: str


class HeardOut(BaseModel):
    """What is heard of a parameter: its curve in view, the reason for each span, its extremes in the whole session."""

    parameter: str
    curve: Curve
    spans: list[HeardSpan]
    low: float
    high: float


def read_outs(session: Session, parameters: Iterable[str], tick: int) -> list[ReadOut]:
    """What is heard of each parameter at a tick and why, and what each of its lanes says there."""
    out = []
    for id in parameters:
        parameter, now = session.parameter(id), heard(session, id)
        lanes = {}
        for lane in session.lanes_of(id):
            start, end = session.span(lane)
            zero = 0 if lane.on_track else start
            lanes[lane.id] = parameter.format(lane.envelope.value_at(min(max(tick, start), end) - zero))
        why = in_words(session, now.reason_at(tick), now.groups)
        text, own = (parameter.format(x.envelope.value_at(tick)) for x in (now, heard(session, id, groups=False)))
        shares = _shares(session, parameter, tick)
        out.append(ReadOut(parameter=id, text=text, why=why, lanes=lanes, own=own, shares=shares))
    return out


def _shares(session: Session, parameter: Parameter, tick: int) -> list[ShareOut]:
    """What every group above the track adds to its level at a tick."""
    if parameter.family is not Family.LEVEL:
        return []
    out = []
    for group in groups_above(session, session.owner(parameter.id).id):
        fader = fader_of(group)
        if fader is not None:
            value = heard(session, fader.id, groups=False).envelope.value_at(tick)
            out.append(ShareOut(group=group.id, name=group.name, text=fader.format(value)))
    return out


def heard_out(session: Session, parameter: str, view: View) -> HeardOut:
    """What is heard of a parameter in view, with the reasons of the spans that reach into it."""
    now = heard(session, parameter)
    start, end = ticks_of(view.start), ticks_of(view.end)
    spans = [
        HeardSpan(start=beats_of(r.start), end=beats_of(r.end), why=in_words(session, r))
        for r in now.reasons
        if r.start < end and start < r.end
    ]
    values = now.envelope.values
    low, high = float(values.min()), float(values.max())
    return HeardOut(parameter=parameter, curve=curve_of("", now.envelope, view), spans=spans, low=low, high=high)
