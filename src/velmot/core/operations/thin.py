"""Thin: the fewest points that say the same within a bound, without any loss, or a controller's steps as slopes."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Literal

import numpy as np

from velmot.core import editing
from velmot.core.change import Caution, Change
from velmot.core.difference import SAME, largest_difference
from velmot.core.editing import Fragment
from velmot.core.envelope import Envelope
from velmot.core.errors import RequestError
from velmot.core.limits import MOST_IDS
from velmot.core.operations import cautions as say
from velmot.core.operations import telling as tell
from velmot.core.operations.chosen_points import Picked
from velmot.core.operations.frame import Operation, need_range, part_of, says
from velmot.core.operations.working_copy import WorkingCopy
from velmot.core.parameters import Parameter
from velmot.core.progress import come, part
from velmot.core.session import Lane, Session
from velmot.core.thinned import is_thinned, remembering
from velmot.core.thinning import slopes_of_steps, thinned_within, without_loss
from velmot.core.time import Tick, Ticks
from velmot.core.wording import counted

USUAL = {"dB": 0.1, "octaves": 0.01}
"""Bounds to begin with; of other units a two-hundredth of the parameter's range."""


@dataclass(frozen=True)
class Within:
    """How far lanes of one unit may be from what they were."""

    unit: str = says("The unit of distances: dB, octaves, or the parameters' own; empty for plain numbers.")
    amount: float = says("How far, in that unit.")


@dataclass(frozen=True)
class Thin:
    """Take points that are not needed out of lanes, over a range or over all of them."""

    lanes: tuple[str, ...] = says("The lanes, by id.", most=MOST_IDS)
    start: Tick | None = says("Where the range starts; with no range whole lanes are thinned.", default=None)
    end: Tick | None = says("Where it ends.", default=None)
    way: Literal["within", "without loss", "steps to slopes"] = says(
        "Within a bound of what it was, without changing anything, or a staircase of steps as the slope it came from.",
        default="within",
    )
    within: tuple[Within, ...] = says("The bound for each unit; nothing means the usual one.", most=100, default=())
    protected: tuple[Picked, ...] = says("Points that stay.", most=MOST_IDS, default=())


def plan(session: Session, request: Thin) -> Change:
    """The change that thins; the largest difference of each lane is said with it."""
    need_range(request.start, request.end)
    if not request.lanes:
        raise RequestError("lanes-none", "no lane is chosen", place="lanes", accepted="at least one lane")
    for bound in request.within:
        if not 0 < bound.amount < np.inf:
            said = f"a bound of {bound.amount:g} lets nothing be thinned"
            raise RequestError("within", said, place="within", accepted="a number above 0, or without loss")
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


def usual_bound(parameter: Parameter) -> float:
    """The bound to begin with, in axis units."""
    return USUAL.get(parameter.distance_unit, parameter.span / 200)


def _thin(work: WorkingCopy, lane: Lane, request: Thin) -> None:
    session, parameter = work.session, work.session.parameter(lane.parameter)
    zero, length = session.zero_of(lane), session.span(lane)[1] - session.span(lane)[0]
    part_asked = part_of(session, lane, request.start, request.end)
    if part_asked is None:
        work.cautions.append(say.outside_range(session, lane))
        return
    first, last = part_asked
    whole = first == 0 and last == length
    before = lane.envelope
    piece = Fragment(before, length) if whole else editing.cut(before, first, last)
    kept = _protected(lane, request)
    keep = kept - (0 if whole else first)
    way = "without loss" if parameter.holds_only else request.way
    bound = bound_of(session, lane, request)
    name = session.lane_name(lane)
    if way == "within" and is_thinned(lane, bound, first, last, kept):
        said = f"{name}: it was thinned within {parameter.format_distance(bound)} and nothing there was changed since"
        work.cautions.append(Caution("thinned-before", said, lane=lane.id))
        return
    made = _made(piece.envelope, way, bound, keep, parameter)
    curve = made if whole else editing.splice(before, Fragment(made, piece.length), first)
    if len(curve) >= len(before):
        said = f"{name}: nothing was found with fewer points"
        if way == "within" and not before.bends.any() and not len(keep):  # then it is known to be the least there is
            far = parameter.format_distance(bound)
            said = f"{name}: no curve of straight lines within {far} has fewer points"
        work.cautions.append(Caution("nothing-fewer", said, lane=lane.id))
        return
    work.rewrite(lane, curve, first, last)
    if way == "within":
        work.remember(lane, remembering(lane, curve, bound, first, last, kept))
    apart, at = largest_difference(before, curve, 0, length)
    if apart > SAME:
        said = f"{name}: {len(before):,} → {counted(len(curve), 'point')}, {parameter.format_distance(apart)} apart at most"
        work.cautions.append(Caution("apart", said, lane=lane.id, start=zero + at, end=zero + at + 1))


def _made(curve: Envelope, way: str, bound: float, keep: Ticks, parameter: Parameter) -> Envelope:
    if way == "without loss":
        return without_loss(curve, keep=keep)
    if way == "steps to slopes":
        return slopes_of_steps(curve)
    return editing.limit(thinned_within(curve, bound, keep, parameter.reach), parameter.low, parameter.high)[0]


def _protected(lane: Lane, request: Thin) -> Ticks:
    """The ticks of points of a lane that stay."""
    some = [i for x in request.protected if x.lane == lane.id for i in x.points if 0 <= i < len(lane.envelope)]
    return np.asarray(lane.envelope.ticks[some], dtype=np.int64) if some else np.zeros(0, dtype=np.int64)


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
