"""Thin: the fewest points that say the same within a bound, without any loss, or a controller's steps as slopes."""

from __future__ import annotations

from dataclasses import replace

import numpy as np

from velmot.core.curves import editing
from velmot.core.curves.difference import SAME, largest_difference
from velmot.core.curves.editing import Fragment
from velmot.core.curves.envelope import Envelope
from velmot.core.curves.lossless import without_loss
from velmot.core.curves.staircases import in_steps, slopes_of_steps
from velmot.core.curves.within_bound import no_fewer, thinned_within
from velmot.core.errors import RequestError
from velmot.core.parameters.parameter import Parameter
from velmot.core.progress import come, part
from velmot.core.session.session import Session
from velmot.core.session.thinned_before import remembering, spent_of, stayed
from velmot.core.session.track import Lane
from velmot.core.time.ticks import Flags, Floats, Ticks
from velmot.core.verbs.frame import cautions as say
from velmot.core.verbs.frame import telling as tell
from velmot.core.verbs.frame.change import Caution, Change, caution
from velmot.core.verbs.frame.checks import need, need_range
from velmot.core.verbs.frame.operation import Operation, part_of
from velmot.core.verbs.frame.usual_bound import usual_bound
from velmot.core.verbs.frame.working_copy import WorkingCopy
from velmot.core.verbs.thin.request import Thin
from velmot.core.words import Arg, Figure


def plan(session: Session, request: Thin) -> Change:
    """The change that thins; the largest difference of each lane is said with it."""
    need_range(request.start, request.end)
    need(request.lanes, "lane")
    for bound in request.within:
        if not 0 < bound.amount < np.inf:
            raise RequestError(
                "within", amount=bound.amount, place="within", accepted="a number above 0, or without loss"
            )
    if request.step is not None and not 0 < request.step < np.inf:
        raise RequestError("step/none", place="step", accepted="a number above 0, or nothing")
    work = WorkingCopy(session)
    lanes = [session.lane(id) for id in dict.fromkeys(request.lanes)]
    whole, done = sum(len(lane.envelope) for lane in lanes), 0
    for lane in lanes:
        with part(done / whole, (done + len(lane.envelope)) / whole):
            come(0.0)
            _thin(work, lane, request)
        done += len(lane.envelope)
    return work.change()


def bound_of(session: Session, lane: Lane, request: Thin) -> float:
    """How far a lane may be from what it was, in axis units."""
    parameter = session.parameter(lane.parameter)
    asked = next((x.amount for x in request.within if x.unit == parameter.distance_unit), None)
    return usual_bound(parameter) if asked is None else asked


def _thin(work: WorkingCopy, lane: Lane, request: Thin) -> None:
    session, parameter = work.session, work.session.parameter(lane.parameter)
    zero, length = session.zero_of(lane), session.span(lane)[1] - session.span(lane)[0]
    part_asked = part_of(session, lane, request.start, request.end)
    if part_asked is None:
        work.cautions.append(say.outside_range(session, lane))
        return
    first, last = part_asked
    whole = first == 0 and last == length
    edges = _edges(session, lane, first, last) if request.region_edges else _NONE
    before = lane.envelope.split_at(edges) if len(edges) else lane.envelope
    kept = np.union1d(_protected(lane, request), edges)
    way = "without loss" if parameter.holds_only else request.way
    bound = bound_of(session, lane, request)
    spent = spent_of(replace(lane, envelope=before), kept)
    piece = Fragment(before, length) if whole else editing.cut(before, first, last)
    zero_of_piece = 0 if whole else first
    own = np.searchsorted(before.ticks, piece.envelope.ticks[:-1] + zero_of_piece, side="right") - 1
    taken = np.where(own >= 0, np.append(spent, 0.0)[np.clip(own, 0, len(spent))], 0.0)
    made = _made(piece.envelope, way, bound, kept - zero_of_piece, parameter, request, taken)
    curve = made if whole else editing.splice(before, Fragment(made, piece.length), first)
    if len(curve) >= len(lane.envelope):
        known = taken >= bound * (1 - 1e-9)
        work.cautions.append(_nothing(session, lane, request, way, bound, piece.envelope, kept - zero_of_piece, known))
        return
    work.rewrite(lane, curve, first, last)
    thinned = replace(lane, envelope=curve)
    if way == "within":
        inside = (curve.ticks[:-1] >= first) & (curve.ticks[1:] <= last)
        known_now = spent_of(thinned)
        all_kept = np.union1d(kept, stayed(thinned))
        work.remember(lane, remembering(thinned, np.where(inside, np.maximum(known_now, bound), known_now), all_kept))
    apart, at = largest_difference(lane.envelope, curve, 0, length)
    if apart > SAME:
        far, name = Figure(apart, parameter.format_distance(apart)), session.lane_name(lane)
        said: dict[str, Arg] = {"name": name, "before": len(lane.envelope), "after": len(curve), "far": far}
        work.cautions.append(caution("apart", said, lane=lane.id, start=zero + at, end=zero + at + 1))


def _made(
    curve: Envelope, way: str, bound: float, keep: Ticks, parameter: Parameter, request: Thin, spent: Floats
) -> Envelope:
    if way == "without loss":
        return without_loss(curve, keep=keep)
    if way == "steps to slopes":
        return slopes_of_steps(curve, request.step or 0.0, parameter.reach)
    if request.holds == "steps" and np.isposinf(curve.bends).any():
        return _fewer(curve, thinned_within(in_steps(curve), bound, keep, parameter.reach))
    return thinned_within(curve, bound, keep, parameter.reach, spent)


def _fewer(curve: Envelope, made: Envelope) -> Envelope:
    return made if len(made) < len(curve) else curve


def _nothing(
    session: Session,
    lane: Lane,
    request: Thin,
    way: str,
    bound: float,
    curve: Envelope,
    keep: Ticks,
    known: Flags,
) -> Caution:
    """Why a lane keeps its points: as much as is known of it."""
    name, far = session.lane_name(lane), Figure(bound, session.parameter(lane.parameter).format_distance(bound))
    if way == "within" and len(known) and known.all():
        return caution("thinned-before", name=name, far=far, lane=lane.id)
    if way == "within" and request.holds == "stay" and not known.any() and no_fewer(curve, bound, keep):
        stays = "its ends, its jumps and what is held" + (" and what is protected" if len(keep) else "")
        return caution("nothing-fewer/proven", name=name, stays=stays, far=far, lane=lane.id)
    return caution("nothing-fewer", name=name, lane=lane.id)


_NONE = np.zeros(0, dtype=np.int64)


def _edges(session: Session, lane: Lane, first: int, last: int) -> Ticks:
    """The edges of the regions of a lane's track inside a span of the lane."""
    if not lane.on_track:
        return _NONE
    marks = {t for r in session.owner(lane.parameter).regions for t in (r.start, r.end) if first < t < last}
    return np.array(sorted(marks), dtype=np.int64)


def _protected(lane: Lane, request: Thin) -> Ticks:
    """The ticks of points of a lane that stay."""
    some = [i for x in request.protected if x.lane == lane.id for i in x.points if 0 <= i < len(lane.envelope)]
    return np.asarray(lane.envelope.ticks[some], dtype=np.int64) if some else _NONE


def sentence(session: Session, request: Thin) -> tell.Told:
    """“Thin Bell buoy Level, whole, within 0.10 dB.”"""
    span = " from {start} to {end}" if request.start is not None else ", {start}"
    lanes = [session.lane(id) for id in dict.fromkeys(request.lanes)]
    bounds = dict.fromkeys(
        session.parameter(x.parameter).format_distance(bound_of(session, x, request))
        for x in lanes
        if not session.parameter(x.parameter).holds_only
    )
    way = ", {way} {within}." if request.way == "within" else ", {way}."
    return tell.told(
        "Thin {lanes}" + span + way,
        lanes=tell.lanes(session, request.lanes),
        start="whole" if request.start is None else tell.position(session, request.start),
        end=tell.position(session, request.end, "its end"),
        way=request.way,
        within=", ".join([*bounds][:3]) or "the usual bound",
    )


OPERATION = Operation("thin", Thin, plan, sentence, "promising")
