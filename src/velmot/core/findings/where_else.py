"""Where else: every place of a session whose curve runs like a chosen one, up to a straight map of its values and another length.

Places are looked for in two ways. A copy has its points where the model has them: their ratios are compared along all points,
which takes time in proportion to the points. Anything else is compared by samples, by sliding correlation through a Fourier
transform: in proportion to lanes times the session's length over the model's. What either finds is then measured exactly.
"""

from __future__ import annotations

from collections.abc import Iterable, Iterator
from dataclasses import dataclass
from heapq import nlargest
from itertools import chain
from typing import NamedTuple

import numpy as np

from velmot.core.curves import editing
from velmot.core.curves.alike import Likeness, Ratios, likeness
from velmot.core.curves.editing import Fragment
from velmot.core.curves.envelope import Envelope
from velmot.core.curves.sampled import correlations, samples_of
from velmot.core.errors import RequestError
from velmot.core.findings.same import in_place
from velmot.core.session.phrases import Phrase
from velmot.core.session.session import Session
from velmot.core.session.track import Lane
from velmot.core.time.ticks import Floats, Ticks, among
from velmot.core.verbs.frame.checks import need_range

SAMPLES = 24
"""Samples of the model that places are found by, where they are as long or longer."""
FEW = 16
"""Samples of it for shorter places, of which there may be many more."""
LENGTHS = (1.0, 2.0, 0.5, 4.0, 0.25, 1.5, 3.0, 2 / 3, 1 / 3, 0.75, 4 / 3)
"""How many times as long places may be, those that are most likely first."""
MOST_SAMPLED = 18_000_000
"""Samples that are taken at most; of further lengths only copies are found then."""
ALIKE = 0.94
"""Correlation from which on a place is measured."""
TOGETHER = 32
"""Lanes that are compared at once."""
MOST_TOGETHER = 2_000_000
"""Samples that are compared at once: what has to be held of them at a time."""
MOST_MEASURED = 400
_LOOKED = 48
FAR = 0.12
"""How far from the model a place may be, in parts of its own depth."""
LEAST_DEPTH = 0.005
"""A place moves at least over this part of its parameter's range."""
MOST = 200


@dataclass(frozen=True)
class Alike:
    """A place, in session ticks; the model's coordinate y is scale·y + offset there, `far` apart at most (axis units).

    `near` is how near it is in parts of its own depth, 1 the same.
    """

    lane: str
    start: int
    end: int
    scale: float
    offset: float
    far: float
    near: float


class _Spot(NamedTuple):
    """Where a place may be, in ticks of its lane; `how` good it looks, 0 to 1."""

    lane: int
    start: int
    length: int
    how: float


def where_else(session: Session, lane_id: str, start: int, end: int) -> list[Alike]:
    """Every other place that runs like what a lane does from `start` to `end` (session ticks), the nearest first.

    RequestError where there is nothing to look for: no range, or one in which the lane does not move.
    """
    start, end = within_home(session, lane_id, start, end)
    model_lane = session.lane(lane_id)
    if end - start < 2 * SAMPLES:
        name = session.lane_name(model_lane)
        raise RequestError("nothing-here", name=name, place="range", accepted="a range it reaches into")
    model = editing.cut(session.in_session_time(model_lane), start, end)
    if np.ptp(model.envelope.coordinates) < LEAST_DEPTH * session.parameter(model_lane.parameter).span:
        name = session.lane_name(model_lane)
        raise RequestError("nothing-moves/shape", name=name, place="range", accepted="a range in which it moves")
    lanes = [x for x in in_place(session) if not session.parameter(x.parameter).holds_only]
    zero, there = session.zero_of(model_lane), model_lane.envelope.ticks
    ends = int(not among(np.array([start - zero]), there)[0]), int(not among(np.array([end - zero]), there)[0])
    every = chain(_copies(session, lanes, model, ends), _sampled(session, lanes, model))
    spots = nlargest(MOST_MEASURED, every, key=lambda spot: spot.how)
    found = [one for spot in spots if (one := _measured(session, lanes[spot.lane], model, spot)) is not None]
    own = Alike(lane_id, start, end, 1.0, 0.0, 0.0, 1.0)
    return _apart(sorted(found, key=lambda x: (-round(x.near, 6), x.start)), own)[:MOST]


def within_home(session: Session, lane_id: str, start: int, end: int) -> tuple[int, int]:
    """As much of a range as lies in a lane's home."""
    need_range(start, end)
    first, last = session.span(session.lane(lane_id))
    return max(start, first), min(end, last)


def phrases_like(model: Fragment, phrases: Iterable[Phrase]) -> list[tuple[Phrase, Likeness]]:
    """Of some phrases those that run like a piece, whatever their length and values, the nearest first."""
    found = []
    for phrase in phrases:
        depth = float(np.ptp(phrase.piece.envelope.coordinates))
        like = likeness(model, phrase.piece) if depth > 0 else None
        if like is not None and like.far <= FAR * depth:
            found.append((like.far / depth, phrase, like))
    return [(phrase, like) for _, phrase, like in sorted(found, key=lambda row: row[0])]


# ── copies, by the ratios of their points ─────────────────────────────────────────────────────


def _copies(session: Session, lanes: list[Lane], model: Fragment, ends: tuple[int, int]) -> Iterator[_Spot]:
    """Where the model's own points stand again; `ends` says at which of its ends it has one that is none of the lane's."""
    own = Ratios.of(model.envelope)
    first, count = ends[0], len(own.moves) - sum(ends)
    if count < 1:
        return
    how = 2.0 if count > 1 else ALIKE  # one ratio alone says little
    for n, lane in enumerate(lanes):
        curve = lane.envelope
        if len(curve) < count + 2:
            continue
        there = curve.remembered("ratios", None, lambda e=curve: Ratios.of(e))  # type: ignore[misc]
        both = Ratios(*(np.concatenate(pair) for pair in zip(there, own, strict=True)))
        at = np.arange(len(there.moves) - count + 1)
        for step in range(count):
            at = at[both.near(at + step, np.full(len(at), len(there.moves) + first + step))]
            if not len(at):
                break
        for place in at[:MOST_MEASURED].tolist():
            spot = _copy(n, curve.ticks[place : place + count + 2], model.envelope.ticks[first:], model.length, how)
            if spot is not None:
                yield spot


def _copy(n: int, there: Ticks, own: Ticks, whole: int, how: float) -> _Spot | None:
    """Where a copy of some points begins itself and how long it is, from the ticks of the copy's and the model's."""
    last = len(there) - 1
    a, b, c, d = int(there[0]), int(there[last]), int(own[0]), int(own[last])
    if b <= a or d <= c:
        return None
    times = (b - a) / (d - c)
    length = round(whole * times)
    return _Spot(n, a - round(c * times), length, how) if length > 1 else None


# ── whatever runs alike, by samples ───────────────────────────────────────────────────────────


def _sampled(session: Session, lanes: list[Lane], model: Fragment) -> Iterator[_Spot]:
    left = MOST_SAMPLED
    for times in LENGTHS:
        samples = SAMPLES if times >= 1 else FEW
        step = model.length * times / samples
        wanted = samples_of(model.envelope, samples, model.length / samples)
        if step < 1 or np.ptp(wanted) == 0:
            continue
        for count, some in _by_count(session, lanes, step).items():
            if not samples <= count <= MOST_TOGETHER:
                continue
            for few in _pieces(some, max(min(TOGETHER, MOST_TOGETHER // count), 1)):
                left -= count * len(few)
                if left < 0:
                    return
                rows = np.stack([samples_of(lanes[n].envelope, count, step) for n in few])
                there = correlations(rows, wanted)
                for row, i in zip(*_peaks(there), strict=True):
                    how = float(min(there[row, i], 1.0))
                    yield _Spot(few[row], round(i * step), round(model.length * times), how)


def _by_count(session: Session, lanes: list[Lane], step: float) -> dict[int, list[int]]:
    """The lanes by how many steps their homes are long."""
    found: dict[int, list[int]] = {}
    for n, lane in enumerate(lanes):
        first, last = session.span(lane)
        if len(lane.envelope) > 1:
            found.setdefault(int((last - first) / step), []).append(n)
    return found


def _pieces(some: list[int], most: int) -> Iterator[list[int]]:
    """A list in pieces."""
    return (some[i : i + most] for i in range(0, len(some), most))


def _peaks(there: Floats) -> tuple[list[int], list[int]]:
    """Where rows of numbers are high enough and no lower than what is beside it, as (rows, places); the highest of very many."""
    padded = np.pad(there, ((0, 0), (1, 1)))
    rows, places = np.nonzero((there >= ALIKE) & (there >= padded[:, :-2]) & (there >= padded[:, 2:]))
    if len(rows) > MOST_MEASURED:
        best = np.argpartition(-there[rows, places], MOST_MEASURED)[:MOST_MEASURED]
        rows, places = rows[best], places[best]
    return rows.tolist(), places.tolist()


# ── measuring ─────────────────────────────────────────────────────────────────────────────────


def _measured(session: Session, lane: Lane, model: Fragment, spot: _Spot) -> Alike | None:
    """A place as it is best laid: where points of both stand on each other, or just where it was found."""
    zero, last = session.zero_of(lane), session.span(lane)[1]
    curve, parameter = lane.envelope, session.parameter(lane.parameter)
    best: Alike | None = None
    for start in _starts(curve, model, spot):
        end = start + spot.length
        if start < 0 or end > last - zero or not _may_be(curve, model, start, spot.length):
            continue
        piece = editing.cut(curve, start, end)
        depth = float(np.ptp(piece.envelope.coordinates))
        if depth < LEAST_DEPTH * parameter.span or parameter.axis.silent(piece.envelope.values).any():
            continue
        like = likeness(model, piece)
        near = 1 - like.far / depth
        if 1 - near <= FAR and (best is None or near > best.near):
            best = Alike(lane.id, start + zero, end + zero, like.scale, like.offset, like.far, near)
    return best


def _may_be(curve: Envelope, model: Fragment, start: int, length: int) -> bool:
    """Whether a place is near enough where it is sampled: nine in ten of what is found by its samples is not."""
    y = samples_of(model.envelope, _LOOKED, model.length / _LOOKED)
    z = samples_of(curve, _LOOKED, length / _LOOKED, start)
    depth, flat = float(np.ptp(z)), y - y.mean()
    scale = float(flat @ (z - z.mean())) / max(float(flat @ flat), 1e-18)
    return depth > 0 and float(np.abs(z - z.mean() - scale * flat).max()) <= 1.1 * FAR * depth


def _starts(curve: Envelope, model: Fragment, spot: _Spot) -> list[int]:
    """Where a place may begin: as it was found, or so that a point of the model's first ones stands on one of the curve's."""
    if spot.how > 1:
        return [spot.start]
    step = spot.length // SAMPLES
    starts = [spot.start]
    for tick in model.envelope.ticks[1:4].tolist():
        there = spot.start + round(tick * spot.length / model.length)
        i, j = np.searchsorted(curve.ticks, [there - step, there + step]).tolist()
        near = curve.ticks[i:j][:4]
        starts += [int(t) - there + spot.start for t in near.tolist()]
    return list(dict.fromkeys(starts))


def _apart(found: list[Alike], own: Alike) -> list[Alike]:
    """The nearest, without those that lie over a nearer one or over the model itself."""
    taken: dict[str, list[Alike]] = {own.lane: [own]}
    out = []
    for one in found:
        others = taken.setdefault(one.lane, [])
        if all(one.end <= x.start or x.end <= one.start for x in others):
            others.append(one)
            out.append(one)
    return out
