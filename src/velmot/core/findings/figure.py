"""Figure: a shape that comes back, in one lane or in several, and is not linked."""

from __future__ import annotations

from typing import NamedTuple

import numpy as np

from velmot.core.curves import editing
from velmot.core.curves.alike import Figure, Ratios, figures, likeness
from velmot.core.findings.finding import Finding, Kind
from velmot.core.findings.same import again, in_place
from velmot.core.session.session import Session
from velmot.core.session.track import Lane
from velmot.core.time.ticks import Flags, Tick, Ticks
from velmot.core.verbs.frame.telling import length
from velmot.core.verbs.frame.usual_bound import usual_bound
from velmot.core.verbs.reuse.request import Pool, PoolPlace
from velmot.core.words import counted

FEWEST = 3
"""A figure stands at so many places at least."""
MOST = 50
"""Figures that are told of."""
LEAST_DEPTH = 0.02
"""A figure moves at least over this part of its parameter's range."""


class _Row(NamedTuple):
    """The ratios of every lane one after the other: whose each is, and which of its points it begins with."""

    ratios: Ratios
    able: Flags
    lane: Ticks
    point: Ticks


def figure(session: Session) -> list[Finding]:
    """Every figure that comes back within the usual bound, up to a straight map of its values and another length."""
    lanes = [x for x in in_place(session) if not session.parameter(x.parameter).holds_only and len(x.envelope) > 4]
    if not lanes:
        return []
    row = _row(session, lanes)
    found = [_finding(session, lanes, row, one) for one in figures(row.ratios, row.able, FEWEST)]
    return [one for one in found if one is not None][:MOST]


def _row(session: Session, lanes: list[Lane]) -> _Row:
    known = {id for group in again(session) for id in group[1:]}
    parts, ables, whose, points = [], [], [], []
    for n, lane in enumerate(lanes):
        curve = lane.envelope
        made = curve.remembered("ratios", None, lambda curve=curve: Ratios.of(curve))  # type: ignore[misc]
        able = np.zeros(len(made.moves) + 1, dtype=bool)
        able[:-1] = _able(session, lane) if lane.id not in known else False
        parts.append(made)
        ables.append(able)
        whose.append(np.full(len(able), n))
        points.append(np.arange(len(able)))
    whole = Ratios(
        *(np.concatenate([x for part in column for x in (part, [9.0])]) for column in zip(*parts, strict=True))
    )
    return _Row(whole, np.concatenate(ables), np.concatenate(whose), np.concatenate(points))


def _able(session: Session, lane: Lane) -> Flags:
    """Which three points of a lane may belong to a figure: heard in its home, in no place yet, not silent, no two on one tick."""
    curve, end = lane.envelope, session.span(lane)[1] - session.zero_of(lane)
    good = (curve.ticks >= 0) & (curve.ticks <= end) & ~session.parameter(lane.parameter).axis.silent(curve.values)
    for one in session.placed_on(lane.parameter, lane.home):
        good &= (curve.ticks < one.start) | (curve.ticks > one.end)
    apart = np.diff(curve.ticks) > 0
    return np.asarray(good[:-2] & good[1:-1] & good[2:] & apart[:-1] & apart[1:])


def _finding(session: Session, lanes: list[Lane], row: _Row, one: Figure) -> Finding | None:
    spots = []
    for place in one.places:
        lane, first = lanes[int(row.lane[place])], int(row.point[place])
        zero = session.zero_of(lane)
        spots.append(
            (lane, int(lane.envelope.ticks[first]) + zero, int(lane.envelope.ticks[first + one.ratios + 1]) + zero)
        )
    model, start, end = spots[0]
    parameter = session.parameter(model.parameter)
    piece = editing.cut(session.in_session_time(model), start, end)
    depth = float(np.ptp(piece.envelope.coordinates))
    if depth < LEAST_DEPTH * parameter.span or _taken(session, model, start, end):
        return None
    places, worst = [], 0.0
    for lane, a, b in spots[1:]:
        far = likeness(piece, editing.cut(session.in_session_time(lane), a, b)).far
        bound = usual_bound(session.parameter(lane.parameter))
        if far <= bound and not _taken(session, lane, a, b):
            places.append(PoolPlace(lane.id, Tick(a), Tick(b)))
            worst = max(worst, far / bound)
    if len(places) + 1 < FEWEST:
        return None
    on = counted(len({x.lane for x in places} | {model.id}), "lane")
    said = f"a figure of {length(end - start)} comes back: {counted(len(places) + 1, 'place')} on {on}"
    mend = Pool(model.id, Tick(start), Tick(end), f"figure of {parameter.name}"[:80], tuple(places))
    sure = 0.6 if worst < 1e-6 else 0.4
    return Finding(KIND.name, model.parameter, start, end, said, model.id, depth, sure, mend)


def _taken(session: Session, lane: Lane, start: int, end: int) -> bool:
    """Whether a place lies in a span of a lane already."""
    zero = session.zero_of(lane)
    return any(x.start < end - zero and start - zero < x.end for x in session.placed_on(lane.parameter, lane.home))


KIND = Kind("figure", "figures that come back", None, look_all=figure)
