"""Phrases as requests bring and keep them: one of the session, one brought along (from the phrase book), a shape, or what a lane does."""

from __future__ import annotations

from dataclasses import replace

from velmot.core.curves import editing
from velmot.core.curves.axes import Axis
from velmot.core.curves.envelope import Envelope
from velmot.core.curves.segments import HOLD
from velmot.core.parameters.parameter import Parameter
from velmot.core.session.phrases import Phrase
from velmot.core.session.session import Session
from velmot.core.session.track import Lane
from velmot.core.verbs.frame.checks import name_of
from velmot.core.verbs.request import ClipPoint, GivenPhrase


def curve_of(points: tuple[ClipPoint, ...], axis: Axis) -> Envelope:
    """The points of a request as a curve."""
    return Envelope.of([(p.at, p.value, HOLD if p.bend is None else p.bend) for p in points], axis)


def phrase_of(given: GivenPhrase, id: str) -> Phrase:
    """A phrase that is brought along, under an id of the session's."""
    curve = curve_of(given.points, given.axis) if given.shape is None else None
    made = Phrase(
        id,
        name_of(given.name, "phrase"),
        given.length,
        curve,
        given.shape,
        given.unit,
        given.axis,
        given.low,
        given.high,
    )
    return made.checked("given")


def same_phrase(session: Session, phrase: Phrase) -> Phrase | None:
    """A phrase of the session that is this one but for its id, so that it is not brought in twice."""

    def content(one: Phrase) -> tuple[object, ...]:
        return one.name, one.length, one.shape, one.unit, one.axis, one.low, one.high

    return next((x for x in session.phrases if content(x) == content(phrase) and x.curve == phrase.curve), None)


def kept(session: Session, lane: Lane, start: int, end: int, name: str, id: str) -> Phrase:
    """What a lane does between two session ticks inside its home, as a phrase made for the values it reaches there."""
    parameter = session.parameter(lane.parameter)
    piece = editing.cut(session.in_session_time(lane), start, end)
    low, high = made_for(piece.envelope, parameter)
    return replace(
        Phrase(id, name_of(name, "phrase"), piece.length, piece.envelope, None, parameter.unit, parameter.axis),
        low=low,
        high=high,
    ).checked("phrase")


def made_for(curve: Envelope, parameter: Parameter) -> tuple[float, float]:
    """The values a curve reaches; the parameter's range, where it hardly moves."""
    low, high = float(curve.values.min()), float(curve.values.max())
    apart = float(parameter.axis.coordinate(high) - parameter.axis.coordinate(low))
    return (low, high) if apart >= parameter.span / 1e4 else (parameter.low, parameter.high)
