"""The mapping graph of a retarget or of placing a phrase: the source's span, where it spends its time, and what each target makes of it."""

from __future__ import annotations

import numpy as np
from pydantic import BaseModel

from velmot.core.curves.envelope import Envelope
from velmot.core.curves.time_spent import time_spent
from velmot.core.errors import RequestError
from velmot.core.parameters.mapping import affine, same_unit, source_span
from velmot.core.parameters.parameter import Parameter
from velmot.core.session.session import Session
from velmot.core.session.useful_spans import useful_spans
from velmot.core.time.ticks import Floats
from velmot.core.verbs.retarget.request import Retarget, Target
from velmot.core.verbs.retarget.retarget import mapping_of, source_of
from velmot.core.verbs.reuse.place import line_of, phrase_of
from velmot.core.verbs.reuse.request import Place
from velmot.presentation.tracks import ParameterOut, phrase_parameter_out

BINS = 24


class UsefulOut(BaseModel):
    """A span on offer, and where it comes from."""

    low: float
    high: float
    text: str
    why: str


class MappingTarget(BaseModel):
    """The straight line of a mapping onto one target: what the source's ends become.

    `low` and `high` are values, `low_position` and `high_position` where they lie in the target's range (0 to 1, beyond
    where the mapping leaves it). `problem` says why there is none.
    """

    parameter: str
    same_unit: bool
    low: float | None = None
    high: float | None = None
    low_position: float | None = None
    high_position: float | None = None
    offers: list[UsefulOut] = []
    problem: str = ""


class MappingOut(BaseModel):
    """The mapping graph: the source's span, where it spends its time (0 to 1), and each target.

    `source` is what the span is of where that is no parameter of the session: a phrase.
    """

    source: ParameterOut | None = None
    low: float
    high: float
    time: list[float]
    targets: list[MappingTarget]


def mapping_out(session: Session, request: Retarget) -> MappingOut:
    """The source's span, its histogram of time, and what each target makes of it."""
    lane, _, fragment = source_of(session, request)
    source = session.parameter(lane.parameter)
    span = _graph_span(source, fragment.envelope, request)
    edges = np.linspace(*span, BINS + 1)
    edges[-1] += 1e-9
    shares = time_spent(fragment.envelope, fragment.length, edges)
    most = float(shares.max()) or 1.0
    low, high = source.axis.value_of(np.array(span)).tolist()
    targets = [_target_out(session, request, target, source, fragment.envelope, span) for target in request.targets]
    return MappingOut(low=low, high=high, time=(shares / most).round(4).tolist(), targets=targets)


def placing_out(session: Session, request: Place) -> MappingOut:
    """The span a phrase was made for, its histogram of time, and where each target of a placing lays it."""
    phrase = phrase_of(session, request)
    edges = np.linspace(*phrase.ends, BINS + 1)
    edges[-1] += 1e-9
    shares = time_spent(phrase.piece.envelope, phrase.length, edges)
    most = float(shares.max()) or 1.0
    targets = []
    for target in request.targets:
        to = session.parameter(target.parameter)
        alike = same_unit(phrase.source, to)
        try:
            scale, offset = line_of(request, phrase, to, target)
        except RequestError as error:
            targets.append(MappingTarget(parameter=to.id, same_unit=alike, problem=error.message))
            continue
        targets.append(_landing(to, alike, np.array(phrase.ends) * scale + offset, []))
    return MappingOut(
        source=phrase_parameter_out(phrase.source),
        low=phrase.low,
        high=phrase.high,
        time=(shares / most).round(4).tolist(),
        targets=targets,
    )


def _graph_span(source: Parameter, envelope: Envelope, request: Retarget) -> tuple[float, float]:
    """What the foot of the graph spans, in source axis units; the whole range where the lane does not move."""
    try:
        return source_span(source, [envelope], request.mapping)
    except RequestError:
        return source_span(source, [envelope], "range")


def _target_out(
    session: Session,
    request: Retarget,
    target: Target,
    source: Parameter,
    envelope: Envelope,
    span: tuple[float, float],
) -> MappingTarget:
    to = session.parameter(target.parameter)
    offers = [
        UsefulOut(low=u.low, high=u.high, text=f"{to.format(u.low)} to {to.format(u.high)}", why=u.why)
        for u in useful_spans(session, to)
    ]
    alike = same_unit(source, to)
    try:
        scale, offset = affine(source, [envelope], to, mapping_of(request, target))
    except RequestError as error:
        return MappingTarget(parameter=to.id, same_unit=alike, offers=offers, problem=error.message)
    return _landing(to, alike, np.array(span) * scale + offset, offers)


def _landing(to: Parameter, alike: bool, ends: Floats, offers: list[UsefulOut]) -> MappingTarget:
    """Where two coordinates on a target's axis lie."""
    low, high = to.axis.value_of(np.clip(ends, *to.reach)).tolist()
    positions = ((ends - to.reach[0]) / to.span).tolist()
    return MappingTarget(
        parameter=to.id,
        same_unit=alike,
        low=low,
        high=high,
        low_position=positions[0],
        high_position=positions[1],
        offers=offers,
    )
