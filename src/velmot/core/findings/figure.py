"""Figure: a shape that comes back, in one lane or in several, and is not linked."""

from __future__ import annotations

from collections.abc import Callable
from typing import NamedTuple

import numpy as np

from velmot.core.curves import editing
from velmot.core.curves.alike import (
    MOST_PLACES,
    Figure,
    Keys,
    Ratios,
    Sorted,
    Sought,
    by_chance,
    counts_of,
    figures,
    keys_of,
    likeness,
    sorted_keys,
    with_others,
)
from velmot.core.findings.finding import Finding, Kind
from velmot.core.findings.same import again, in_place
from velmot.core.findings.stairs import slopes
from velmot.core.session.session import Session
from velmot.core.session.track import Lane
from velmot.core.time.ticks import Flags, Floats, Tick, Ticks
from velmot.core.verbs.frame.telling import length
from velmot.core.verbs.frame.usual_bound import usual_bound
from velmot.core.verbs.reuse.request import Pool, PoolPlace
from velmot.core.words import counted

FEWEST = 3
"""A figure stands at so many places at least."""
MOST = 50
"""Figures that are told of."""
SLACK = 1.5
"""How many times the bound places may be apart at their points, laid on each other by these alone, to be measured."""
MODELS = 3
"""So many of a figure's places are tried as the one that others are like: chance may have laid a place before the others."""
FEW = 20
"""Curves that are put in one by one; where more changed, all keys are sorted anew."""
LEAST_DEPTH = 0.02
"""A figure moves at least over this part of its parameter's range."""


class _Row(NamedTuple):
    """The ratios of every lane one after the other, and from which on those of each are."""

    ratios: Ratios
    able: Flags
    counts: Ticks
    starts: Ticks

    def spot(self, place: int) -> tuple[int, int]:
        """The number of the lane that a ratio is of, and that of the point it begins with."""
        lane = int(np.searchsorted(self.starts, place, side="right")) - 1
        return lane, place - int(self.starts[lane])


def figure(session: Session) -> list[Finding]:
    """Every figure that comes back within the usual bound, up to a straight map of its values and another length."""
    return Figures()(session)


class Figures:
    """The figures of one session after another: of what is looked up only the keys of curves that changed are put in anew."""

    def __init__(self) -> None:
        self._lanes: list[str] = []
        self._made: list[_OfLane] = []
        self._grids: list[Sorted] = []

    def __call__(self, session: Session) -> list[Finding]:
        """All figures of a session."""
        lanes = [x for x in in_place(session) if not session.parameter(x.parameter).holds_only and len(x.envelope) > 4]
        if not lanes:
            return []
        row = self._row(session, lanes)
        sought = Sought(row.ratios, self._grids, row.able, row.counts)
        found: list[Finding] = []

        def taken(one: Figure) -> bool:
            made = _finding(session, lanes, sought, row, one) if len(found) < MOST else None
            found.extend([made] if made else [])
            return made is not None

        figures(sought, taken, FEWEST)
        return found

    def _row(self, session: Session, lanes: list[Lane]) -> _Row:
        known = {id for group in again(session) for id in group[1:]}
        made: list[_OfLane] = []
        for lane in lanes:
            counts, make = _counts(session, lane, lane.id in known), _of_lane(session, lane, known)
            made.append(lane.envelope.remembered("figure", counts, make))
        self._sort([lane.id for lane in lanes], made)
        starts = np.cumsum([0, *(len(one.able) for one in made)])
        whole = Ratios(*(np.concatenate(column) for column in zip(*(one.ratios for one in made), strict=True)))
        counts = np.sum([one.counts for one in made], axis=0)
        return _Row(whole, np.concatenate([one.able for one in made]), counts, starts)

    def _sort(self, lanes: list[str], made: list[_OfLane]) -> None:
        """Have the keys in order; where few curves changed since the last time, those alone are put in."""
        changed = [n for n, (one, was) in enumerate(zip(made, self._made, strict=False)) if one.keys is not was.keys]
        if lanes != self._lanes or len(changed) > FEW:
            every = np.concatenate([one.keys for one in made], axis=1)
            self._grids = [sorted_keys(grid) for grid in every]
        else:
            for n in changed:
                start = sum(len(one.able) for one in made[:n])
                stop = start + len(self._made[n].able)
                self._grids = [
                    with_others(grid, start, stop, keys) for grid, keys in zip(self._grids, made[n].keys, strict=True)
                ]
        self._lanes, self._made = lanes, made


def _counts(session: Session, lane: Lane, known: bool) -> tuple[object, ...]:
    """What decides which ratios of a lane's curve may belong to a figure."""
    start, end = session.span(lane)
    reach = session.parameter(lane.parameter).reach
    return start - end, reach, known, tuple(one.span for one in session.placed_on(lane.parameter, lane.home))


class _OfLane(NamedTuple):
    """A curve's ratios and keys, one more than there are, which stands between it and the next one and may belong to none."""

    ratios: Ratios
    keys: Keys
    able: Flags
    counts: Ticks


def _of_lane(session: Session, lane: Lane, known: set[str]) -> Callable[[], _OfLane]:
    def made() -> _OfLane:
        curve = lane.envelope
        ratios = Ratios.of(curve)
        able = np.zeros(len(ratios.moves) + 1, dtype=bool)
        stepped = slopes(curve, session.parameter(lane.parameter).reach) is not None  # steps come back by themselves
        able[:-1] = False if stepped or lane.id in known else _able(session, lane)
        keys = np.concatenate((keys_of(ratios), np.zeros((2, 1), dtype=np.int32)), axis=1)
        counts = counts_of(ratios)
        return _OfLane(Ratios(*(np.append(part, np.float32(9.0)) for part in ratios)), keys, able, counts)

    return made


def _able(session: Session, lane: Lane) -> Flags:
    """Which three points of a lane may belong to a figure: heard in its home, in no place yet, not silent, no two on one tick."""
    curve, end = lane.envelope, session.span(lane)[1] - session.zero_of(lane)
    good = (curve.ticks >= 0) & (curve.ticks <= end) & ~session.parameter(lane.parameter).axis.silent(curve.values)
    for one in session.placed_on(lane.parameter, lane.home):
        good &= (curve.ticks < one.start) | (curve.ticks > one.end)
    apart = np.diff(curve.ticks) > 0
    return np.asarray(good[:-2] & good[1:-1] & good[2:] & apart[:-1] & apart[1:])


class _Spot(NamedTuple):
    """A place of a figure: the ratio it begins with, its lane and span (session ticks), and the coordinates of its points."""

    place: int
    lane: Lane
    start: int
    end: int
    y: Floats


def _finding(session: Session, lanes: list[Lane], sought: Sought, row: _Row, one: Figure) -> Finding | None:
    """What of a figure's places is alike within the bounds: as like the first of them that enough others are."""
    spots = []
    for place in one.places:
        number, first = row.spot(place)
        lane, last = lanes[number], first + one.ratios + 1
        curve, zero = lane.envelope, session.zero_of(lane)
        start, end = int(curve.ticks[first]) + zero, int(curve.ticks[last]) + zero
        if not _taken(session, lane, start, end):
            spots.append(_Spot(place, lane, start, end, curve.coordinates[first : last + 1]))
    models = range(min(MODELS, len(spots) - FEWEST + 1))
    tried = (_like(session, sought, one.ratios, spots[n:]) for n in models)
    return next((found for found in tried if found is not None), None)


def _like(session: Session, sought: Sought, ratios: int, spots: list[_Spot]) -> Finding | None:
    """What is like the first of some spots."""
    model, bounds = spots[0], [usual_bound(session.parameter(one.lane.parameter)) for one in spots]
    lane, parameter = model.lane, session.parameter(model.lane.parameter)
    depth = float(np.ptp(model.y))
    if depth < LEAST_DEPTH * parameter.span:
        return None
    apart = _apart_at_points(np.stack([one.y for one in spots]))
    near = [(one, bound) for one, bound, far in zip(spots, bounds, apart, strict=True) if far <= SLACK * bound][1:]
    if len(near) + 1 < FEWEST or by_chance(sought, Figure((model.place, *(one.place for one, _ in near)), ratios)):
        return None
    piece = editing.cut(session.in_session_time(lane), model.start, model.end)
    places, worst = [], 0.0
    for one, bound in near:
        far = likeness(piece, editing.cut(session.in_session_time(one.lane), one.start, one.end)).far
        if far <= bound:
            places.append(PoolPlace(one.lane.id, Tick(one.start), Tick(one.end)))
            worst = max(worst, far / bound)
    if len(places) + 1 < FEWEST:
        return None
    on = counted(len({x.lane for x in places} | {lane.id}), "lane")
    more = " or more" if len(spots) >= MOST_PLACES else ""
    said = (
        f"a figure of {length(model.end - model.start)} comes back: {counted(len(places) + 1, 'place')}{more} on {on}"
    )
    mend = Pool(lane.id, Tick(model.start), Tick(model.end), f"figure of {parameter.name}"[:80], tuple(places))
    sure = 0.6 if worst < 1e-6 else 0.4
    return Finding(KIND.name, parameter.id, model.start, model.end, said, lane.id, depth, sure, mend)


def _apart_at_points(rows: Floats) -> Floats:
    """How far each of some rows of coordinates is from the first laid on it: hardly any has to be measured between its points."""
    flat = rows - rows.mean(axis=1, keepdims=True)
    scale = flat @ flat[0] / float(flat[0] @ flat[0])
    return np.asarray(np.abs(flat - scale[:, None] * flat[0]).max(axis=1))


def _taken(session: Session, lane: Lane, start: int, end: int) -> bool:
    """Whether a place lies in a span of a lane already."""
    zero = session.zero_of(lane)
    return any(x.start < end - zero and start - zero < x.end for x in session.placed_on(lane.parameter, lane.home))


KIND = Kind("figure", "figures that come back", None, look_all=figure, keeping=Figures)
