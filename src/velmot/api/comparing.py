"""Match tables, mapping graphs and comparisons turned into the API's shapes."""

from __future__ import annotations

from typing import Any

import numpy as np

from velmot.api import schemas as s
from velmot.api.drawing import curve_of, parameter_out
from velmot.core import comparison
from velmot.core.axes import round_step
from velmot.core.comparison import Compared
from velmot.core.envelope import Envelope
from velmot.core.errors import RequestError
from velmot.core.mapping import affine, source_span
from velmot.core.operations.match_table import Landing
from velmot.core.operations.retarget import Retarget, Target, mapping_of, source_of
from velmot.core.parameters import Parameter
from velmot.core.session import Session, Track
from velmot.core.time import beats_of
from velmot.core.time_spent import time_spent
from velmot.core.useful_spans import useful_spans
from velmot.storage import history, sessions

BINS = 24


def cell_out(session: Session, cell: Landing) -> s.MatchCell:
    """One cell of a match table."""
    return s.MatchCell(
        parameter=cell.source.id,
        name=f"{session.owner(cell.source.id).name} {cell.source.name}",
        track=cell.track.id,
        do=cell.do,
        found=cell.found,
        onto=cell.onto.id if cell.onto else None,
        mapped=cell.mapping is not None,
    )


def resting_out(track: Track, source: Parameter, target: Parameter) -> s.RestingPair:
    """A static value that differs between a source and a target track."""
    return s.RestingPair(
        track=track.id,
        name=f"{track.name} {target.name}",
        source_text=source.format(source.value),
        target_text=target.format(target.value),
    )


# ── the mapping graph ─────────────────────────────────────────────────────────────────────────


def mapping_out(session: Session, request: Retarget) -> s.MappingOut:
    """The source's span, its histogram of time, and what each target makes of it."""
    lane, _, fragment = source_of(session, request)
    source = session.parameter(lane.parameter)
    low, high = _graph_span(source, fragment.envelope, request)
    edges = np.linspace(low, high, BINS + 1)
    edges[-1] += 1e-9
    shares = time_spent(fragment.envelope, fragment.length, edges)
    most = float(shares.max()) or 1.0
    values = source.axis.value_of(np.array([low, high])).tolist()
    targets = [
        _target_out(session, request, target, source, fragment.envelope, (low, high)) for target in request.targets
    ]
    return s.MappingOut(low=values[0], high=values[1], time=(shares / most).round(4).tolist(), targets=targets)


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
) -> s.MappingTarget:
    to = session.parameter(target.parameter)
    offers = [
        s.UsefulOut(low=u.low, high=u.high, text=f"{to.format(u.low)} to {to.format(u.high)}", why=u.why)
        for u in useful_spans(session, to)
    ]
    try:
        scale, offset = affine(source, [envelope], to, mapping_of(request, target))
    except RequestError as error:
        return s.MappingTarget(parameter=to.id, offers=offers, problem=error.message)
    ends = np.array(span) * scale + offset
    low, high = float(to.axis.coordinate(to.low)), float(to.axis.coordinate(to.high))
    values = to.axis.value_of(np.clip(ends, low, high)).tolist()
    places = ((ends - low) / (high - low)).tolist()
    return s.MappingTarget(
        parameter=to.id, low=values[0], high=values[1], low_place=places[0], high_place=places[1], offers=offers
    )


# ── comparing ─────────────────────────────────────────────────────────────────────────────────


def compare_out(id: int, body: s.CompareIn) -> s.CompareOut:
    """Two sides compared; with a view, the curves of one row."""
    (one, other), only, rows = _sides(id, body)
    drawn = None
    if body.view and rows:
        drawn = _drawn(one, other, rows[min(body.row, len(rows) - 1)], body.view)
    same = not only and all(row.same for row in rows)
    return s.CompareOut(same=same, rows=[_row_out(one, row) for row in rows], only=only, drawn=drawn)


def _sides(id: int, body: s.CompareIn) -> tuple[tuple[Session, Session], list[str], list[Compared]]:
    both = tuple(
        sessions.load(id) if x.revision is None else history.at_revision(id, x.revision) for x in (body.one, body.other)
    )
    one, other = both[0], both[1]
    if body.one.lane and body.other.lane:
        a, b = one.lane(body.one.lane), other.lane(body.other.lane)
        names = ["" if x.revision is None else f"at revision {x.revision}" for x in (body.one, body.other)]
        sides = [
            comparison.lane_side(own, lane, f"{own.lane_name(lane)} {name}".strip())
            for own, lane, name in ((one, a, names[0]), (other, b, names[1]))
        ]
        return (one, other), [], [comparison.compared(sides[0], sides[1], max(one.length, other.length))]
    if body.one.track and body.other.track:
        tracks = one.track(body.one.track), other.track(body.other.track)
        only = [f"only {tracks[0].name} has {p.name}" for p in comparison.only_on(one, *tracks)]
        only += [f"only {tracks[1].name} has {p.name}" for p in comparison.only_on(other, tracks[1], tracks[0])]
        return (one, other), only, comparison.tracks_compared(one, *tracks)
    if body.one.revision is None and body.other.revision is None:
        raise RequestError(
            "compare-what", "there is nothing to compare", place="one", accepted="two lanes, tracks or revisions"
        )
    said = ["as it stands" if x.revision is None else f"revision {x.revision}" for x in (body.one, body.other)]
    return (one, other), [], comparison.revisions_compared(one, other, (said[0], said[1]))


def _row_out(session: Session, row: Compared) -> s.ComparedOut:
    return s.ComparedOut(
        one=row.one.name,
        other=row.other.name,
        kind=row.kind,  # type: ignore[arg-type]
        largest=row.measure.format_distance(row.largest) + (" of the range" if row.by_position else ""),
        at=beats_of(row.at),
        at_text=str(session.tempo.position(row.at)),
    )


def _drawn(one: Session, other: Session, row: Compared, view: s.View) -> s.DrawnPair:
    gap = comparison.difference(row)
    curves = [_curve(side) for side in (row.one, row.other)]
    scale = _difference_scale(row, gap)
    scales = [_scale((one, other), side.parameter) for side in (row.one, row.other)]
    values: list[Any] = [c.values for c in (*curves, gap)]
    return s.DrawnPair(
        one=curve_of("one", curves[0], view),
        other=curve_of("other", curves[1], view),
        difference=curve_of("difference", gap, view),
        one_scale=scales[0],
        other_scale=scales[1],
        difference_scale=parameter_out(one, one.tracks[0], scale),
        lows=[float(v.min()) for v in values],
        highs=[float(v.max()) for v in values],
    )


def _scale(sessions: tuple[Session, Session], parameter: Parameter) -> s.ParameterOut:
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
    unit = row.measure.axis.distance_unit or row.measure.unit
    return Parameter("difference", "Difference", row.one.parameter.family, unit=unit, low=-far, high=far)
