"""Reshape: lanes moved between two rails over a range: trimmed, scaled about a pivot, squashed, tilted, faded."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass, replace
from itertools import pairwise

import numpy as np

from velmot.core.curves.axes import number_text
from velmot.core.curves.envelope import Envelope
from velmot.core.curves.rails import UNCHANGED, Map, Rails, exact, led, led_whole, maps_between, rails_of
from velmot.core.errors import RequestError
from velmot.core.limits import STEEPEST
from velmot.core.parameters.mean import time_weighted_mean
from velmot.core.parameters.parameter import Family, Parameter
from velmot.core.session.heard import heard, reading
from velmot.core.session.session import Session
from velmot.core.session.track import ON_THE_TRACK, Lane
from velmot.core.session.wording import parameter_name
from velmot.core.time.ticks import Floats, merged
from velmot.core.verbs.frame import cautions as say
from velmot.core.verbs.frame import telling as tell
from velmot.core.verbs.frame.change import Caution, Change, caution
from velmot.core.verbs.frame.checks import need, need_range
from velmot.core.verbs.frame.operation import Operation, part_of
from velmot.core.verbs.frame.working_copy import WorkingCopy
from velmot.core.verbs.shape.request import Ends, Move, Reshape
from velmot.core.words import Figure

MOST_SUMS = 12


@dataclass(frozen=True)
class Railed:
    """The rails of one lane over what is reshaped of it (session ticks), before and after."""

    lane: str
    start: int
    end: int
    before: Rails
    after: Rails


def plan(session: Session, request: Reshape) -> Change:
    """The change that reshapes; silence stays silence, named values stay."""
    _check(session, request)
    if not request.moves:
        return Change()
    work = WorkingCopy(session)
    lanes = lanes_of(session, request)
    rests: dict[str, float] = {}
    for lane in lanes:
        _reshape(work, lane, request)
    if request.start is None and request.resting:
        rests = _rests(session, request, lanes)
        work.rest_at(rests)
    change = work.change()
    if request.start is None and not change.empty:
        moved = dict.fromkeys([*(x.parameter for x in change.lanes), *rests])
        return replace(change, cautions=(*change.cautions, *_sums(session, change.applied_to(session), [*moved])))
    return change


def lanes_of(session: Session, request: Reshape) -> list[Lane]:
    """The lanes that are meant: those chosen, and all levels of the tracks."""
    chosen = [session.lane(id) for id in request.lanes]
    for level in _levels(session, request):
        chosen += session.lanes_of(level.id)
    return list({lane.id: lane for lane in chosen}.values())


def railed(session: Session, request: Reshape) -> Iterator[Railed]:
    """The rails of each lane that has some, as they are and as they would be."""
    for lane in lanes_of(session, request):
        part = part_of(session, lane, request.start, request.end)
        if session.parameter(lane.parameter).holds_only or part is None:
            continue
        before = rails_of(lane.envelope, *part)
        if before is not None:
            zero, move = session.zero_of(lane), _move_of(session, lane, request)
            after = before if move is None else _moved(session, lane, before, move, part)
            yield Railed(lane.id, zero + part[0], zero + part[1], before, after)


# ── one lane ──────────────────────────────────────────────────────────────────────────────────


def _reshape(work: WorkingCopy, lane: Lane, request: Reshape) -> None:
    session, parameter = work.session, work.session.parameter(lane.parameter)
    name, move = session.lane_name(lane), _move_of(session, lane, request)
    if parameter.holds_only:
        work.cautions.append(say.holds_only(session, lane, "has named values and stays"))
        return
    if move is None:
        work.cautions.append(say.other_unit(session, lane, [m.unit for m in request.moves]))
        return
    part = part_of(session, lane, request.start, request.end)
    if part is None:
        work.cautions.append(say.outside_range(session, lane))
        return
    rails = rails_of(lane.envelope, *part)
    if rails is None:
        work.cautions.append(caution("silence/lane", name=name, lane=lane.id))
        return
    _lead(work, lane, parameter, request, rails, _moved(session, lane, rails, move, part), part)


def _lead(
    work: WorkingCopy,
    lane: Lane,
    parameter: Parameter,
    request: Reshape,
    rails: Rails,
    target: Rails,
    part: tuple[int, int],
) -> None:
    """Lead a lane from its rails to others, with ramps beside them."""
    one, other = maps_between(rails, target)
    length = work.session.span(lane)[1] - work.session.zero_of(lane)
    (first, last), name = part, work.session.lane_name(lane)
    if part == (0, length) and one == other:
        lead, tail = part
        made, spans = led_whole(lane.envelope, one, parameter.low, parameter.high)
    else:
        lead, tail = max(first - request.before, 0), min(last + request.after, length)
        # A ramp that the lane's own edge cuts off is as far as it would have come by then.
        marks = [
            (lead, _between(UNCHANGED, one, first - lead, request.before)),
            (first, one),
            (last, other),
            (tail, _between(UNCHANGED, other, tail - last, request.after)),
        ]
        made, spans = led(lane.envelope, marks, parameter.low, parameter.high)
        if not all(exact(lane.envelope, *pair) for pair in pairwise(marks)):
            unit = f" {parameter.distance_unit}" if parameter.distance_unit else ""
            work.cautions.append(caution("pieces", name=name, unit=unit, lane=lane.id))
    work.rewrite(lane, made, lead, tail, spans)
    if spans:
        work.cautions.append(say.limited_lane(work.session, lane, spans, lead, tail))
    if target.crossed:
        work.cautions.append(caution("crossed", name=name, lane=lane.id))


def _between(outer: Map, inner: Map, reached: int, whole: int) -> Map:
    """The map at the outer end of a ramp of which only `reached` of `whole` ticks fit."""
    if reached >= whole:
        return outer
    share = reached / whole
    return Map(*(b + (a - b) * share for a, b in zip(outer, inner, strict=True)))


def _move_of(session: Session, lane: Lane, request: Reshape) -> Move | None:
    return _move_in(request, session.parameter(lane.parameter).distance_unit)


def _move_in(request: Reshape, unit: str) -> Move | None:
    return next((m for m in request.moves if m.unit == unit), None)


def _called(unit: str) -> str:
    return unit or "plain numbers"


def _moved(session: Session, lane: Lane, rails: Rails, move: Move, part: tuple[int, int]) -> Rails:
    """Where a lane's rails go."""
    parameter = session.parameter(lane.parameter)
    about = _pivot(lane, parameter, rails, move, part)
    scaled = [about + move.times * (y - about) + move.by for y in rails]
    shift = _ends(move.shift)
    if rails.low_start == rails.high_start:  # a flat lane has one rail: whichever goes further takes it along
        both = [max(shift[i] or 0, shift[i + 2] or 0, key=abs) for i in (0, 1)]
        shift = [*both, *both]
    ends = [y + (far or 0.0) for y, far in zip(scaled, shift, strict=True)]
    fixed = [None if v is None else float(parameter.axis.coordinate(_possible(parameter, v))) for v in _ends(move.to)]
    if rails.low_start == rails.high_start:
        fixed = [a if a is not None else b for a, b in zip(fixed, fixed[2:] + fixed[:2], strict=True)]
        fixed[2:] = fixed[:2]
    return Rails(*(y if at is None else at for y, at in zip(ends, fixed, strict=True)))


def _pivot(lane: Lane, parameter: Parameter, rails: Rails, move: Move, part: tuple[int, int]) -> float:
    """The coordinate that stays where it is."""
    if move.times == 1.0 or move.pivot == "middle":
        return (rails.low_start + rails.high_start) / 2
    if move.pivot == "mean":
        return float(parameter.axis.coordinate(time_weighted_mean(lane.envelope, parameter, *part)))
    return float(
        parameter.axis.coordinate(parameter.value if move.pivot == "rest" else _possible(parameter, move.about))
    )


def _possible(parameter: Parameter, value: float) -> float:
    if parameter.axis.logarithmic and value <= 0:
        raise RequestError(
            "value-range/point",
            name=parameter.name,
            value=value,
            place="value",
            accepted=f"{parameter.format(parameter.low)} to {parameter.format(parameter.high)}",
        )
    return value


def _ends(ends: Ends) -> list[float | None]:
    return [ends.low_start, ends.low_end, ends.high_start, ends.high_end]


# ── whole tracks ──────────────────────────────────────────────────────────────────────────────


def _levels(session: Session, request: Reshape) -> list[Parameter]:
    """The levels of the tracks that are meant whole."""
    tracks = [session.track(id) for id in dict.fromkeys(request.tracks)]
    return [p for t in tracks for p in t.parameters if p.family is Family.LEVEL and not p.holds_only]


def _parameters(session: Session, request: Reshape) -> list[Parameter]:
    """All parameters that are meant, with a lane or without."""
    return [*(session.parameter(x.parameter) for x in lanes_of(session, request)), *_levels(session, request)]


def _rests(session: Session, request: Reshape, lanes: list[Lane]) -> dict[str, float]:
    """The resting values that move, by parameter: those of whole lanes on tracks, and of levels without a lane."""
    made: dict[str, float] = {}
    own = {lane.parameter: lane for lane in lanes if lane.on_track}
    for id in dict.fromkeys([*own, *(p.id for p in _levels(session, request))]):
        parameter, lane = session.parameter(id), own.get(id)
        target = _rest_of(session, request, parameter, lane)
        if target is not None and target != parameter.value:
            made[parameter.id] = target
    return made


def _rest_of(session: Session, request: Reshape, parameter: Parameter, lane: Lane | None) -> float | None:
    """Where a resting value goes: under the map of its lane, where that is one map; without a lane as a flat lane would."""
    move = _move_in(request, parameter.distance_unit)
    if move is None or parameter.holds_only or bool(parameter.axis.silent(parameter.value)):
        return None
    y = float(parameter.axis.coordinate(parameter.value))
    curve = lane.envelope if lane else Envelope.constant(parameter.value, parameter.axis)
    still = lane or Lane("", parameter.id, ON_THE_TRACK, curve)
    part = (0, session.length)
    rails = rails_of(curve, *part)
    if rails is None:
        return None
    one, other = maps_between(rails, _moved(session, still, rails, move, part))
    if one != other:
        return None
    low, high = parameter.reach
    made = float(parameter.axis.value_of(min(max(one.gain * y + one.lift, low), high)))
    return min(max(made, parameter.low), parameter.high)


def _sums(before: Session, after: Session, parameters: list[str]) -> list[Caution]:
    """What whole lanes and resting values come to together, in what is heard."""
    said = []
    for id in parameters[:MOST_SUMS]:
        was, now = (heard(reading(s), id, groups=False).envelope for s in (before, after))
        apart = _apart(was, now)
        if not len(apart):
            continue
        parameter, furthest = after.parameter(id), float(apart[np.abs(apart).argmax()])
        even = bool(np.ptp(apart) < 1e-6)
        far = Figure(abs(furthest), parameter.format_distance(abs(furthest)))
        way, kind = "higher" if furthest > 0 else "lower", "sum/even" if even else "sum/most"
        said.append(caution(kind, name=parameter_name(after, id), far=far, way=way, track=after.owner(id).id))
    return said


def _apart(was: Envelope, now: Envelope) -> Floats:
    """How much higher one curve is than another, in axis units, on both sides of all points; not where that is silent."""
    ticks = merged(was.ticks, now.ticks, [0])
    jumps = merged(*(curve.ticks[1:][curve.jumps_to[1:]] for curve in (was, now)))
    before = np.concatenate([was.coordinate_at(ticks), was.coordinate_at(jumps, "left")])
    after = np.concatenate([now.coordinate_at(ticks), now.coordinate_at(jumps, "left")])
    return np.asarray((after - before)[~was.axis.silent(was.axis.value_of(before))])


# ── what can be wrong, and the sentence ───────────────────────────────────────────────────────


def _check(session: Session, request: Reshape) -> None:
    need_range(request.start, request.end)
    need((*request.lanes, *request.tracks), "lane")
    if request.before < 0 or request.after < 0:
        raise RequestError("ramp-negative", place="ramp", accepted="0 or more")
    for move in request.moves:
        numbers = [
            move.times,
            move.about,
            move.by,
            *(x for x in (*_ends(move.shift), *_ends(move.to)) if x is not None),
        ]
        if not all(abs(x) <= STEEPEST for x in numbers):
            raise RequestError("amount/reshape", place="moves", accepted=f"numbers within ±{STEEPEST:,.0f}")
    units = [move.unit for move in request.moves]
    if len(set(units)) < len(units):
        twice = _called(next(u for u in units if units.count(u) > 1))
        raise RequestError("unit/twice", twice=twice, place="moves", accepted="one for each unit")
    meant = _parameters(session, request)
    own = [p.distance_unit for p in meant]
    if request.moves and not set(units) & set(own):
        names = ", ".join(dict.fromkeys(_called(u) for u in own))
        raise RequestError("unit/called", said=_called(units[0]), place="moves", accepted=names)


def sentence(session: Session, request: Reshape) -> tell.Told:
    """“Reshape Bell buoy Level from 9.1.00 to 13.1.00: by −2.00 dB, ramps of 0 beats before and 1 beat after.”"""
    span = " from {start} to {end}" if request.start is not None else ", {start}"
    ramps = ", ramps of {before} before and {after} after" if request.before or request.after else ""
    resting = ", {resting}" if request.start is None else ""
    names = tell.lanes(session, request.lanes)
    if request.tracks:
        levels = tell.tracks(session, request.tracks)
        names = f"all levels of {levels}" if isinstance(names, tell.Asked) else f"{names} and all levels of {levels}"
    told = [_told(session, request, move) for move in request.moves]
    return tell.told(
        "Reshape {lanes}" + span + ": {moves}" + resting + ramps + ".",
        lanes=names,
        start="whole" if request.start is None else tell.position(session, request.start),
        end=tell.position(session, request.end, "its end"),
        moves=", ".join(x for x in told if x) or tell.Asked("pull a rail, or type an amount"),
        resting="resting values too" if request.resting else "resting values stay",
        before=tell.length(request.before),
        after=tell.length(request.after),
    )


def _told(session: Session, request: Reshape, move: Move) -> str:
    """What one move says."""
    parts = []
    meant = _parameters(session, request)
    parameter = next((p for p in meant if p.distance_unit == move.unit), None)
    if parameter is None:
        return ""
    if move.times != 1.0:
        where = {"middle": "their middle", "mean": "the mean", "rest": "the resting value"}
        about = where.get(move.pivot) or parameter.format(move.about)
        parts.append(f"{number_text(move.times * 100, 0)} % about {about}")
    if move.by:
        parts.append(f"by {_signed(parameter, move.by)}")
    words = ("the low rail’s start", "the low rail’s end", "the high rail’s start", "the high rail’s end")
    for word, far, at in zip(words, _ends(move.shift), _ends(move.to), strict=True):
        if at is not None:
            parts.append(f"{word} to {parameter.format(at)}")
        elif far:
            parts.append(f"{word} by {_signed(parameter, far)}")
    return ", ".join(parts)


def _signed(parameter: Parameter, distance: float) -> str:
    return ("+" if distance > 0 else "−") + parameter.format_distance(abs(distance))


OPERATION = Operation("reshape", Reshape, plan, sentence, "by hand")
