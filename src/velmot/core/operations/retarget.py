"""Retarget: a curve onto parameters of other units and ranges, by one straight mapping between the axes."""

from __future__ import annotations

from dataclasses import dataclass, replace
from typing import Literal

import numpy as np

from velmot.core.change import Caution, Change, TrackSwap
from velmot.core.envelope import HOLD, Envelope, Fragment, unbend
from velmot.core.errors import RequestError
from velmot.core.operations import picking
from velmot.core.operations.frame import ON_THE_TRACK, Draft, Operation, fitted, need_range, says, straightened
from velmot.core.parameters import SILENCE, Axis, Parameter
from velmot.core.session import Lane, Mode, Session, Track
from velmot.core.time import Tick


@dataclass(frozen=True)
class Target:
    """A parameter to land on, with the span to fit into where one is asked for."""

    parameter: str = says("The parameter's id.")
    low: float | None = says("Fit: what the source's lowest becomes, in the target's unit.", default=None)
    high: float | None = says("Fit: what the source's highest becomes.", default=None)


@dataclass(frozen=True)
class Retarget:
    """Carry what a lane does over a range to other parameters, mapped."""

    lane: str = says("The source lane's id.")
    targets: tuple[Target, ...] = says("Where it lands.")
    start: Tick | None = says("Where the range starts; with no range the whole lane goes.", default=None)
    end: Tick | None = says("Where it ends.", default=None)
    at: Tick | None = says("Where it lands; nothing means the same place.", default=None)
    how: Literal["copy", "move"] = says("Copy leaves the source as it is, move clears it.", default="copy")
    mapping: Literal["unit", "range", "fit", "around"] = says(
        "Same number, same place in the range, fit into a span, or movement around an anchor.", default="fit"
    )
    upside_down: bool = says("High becomes low.", default=False)
    anchor: float = says("Around: the source value that lands on the target's anchor.", default=0.0)
    to_anchor: float | None = says(
        "Around: the target value it lands on; nothing means its static value.", default=None
    )
    depth: float = says("Around: target axis units for one source axis unit.", default=1.0)
    hysteresis: float = says("For named values: how far past the middle a step takes, in steps.", default=0.0)
    edges: Literal["seal", "ramp"] = says("Seal lets values jump at the edges, ramp leads in and out.", default="seal")
    ramp: Tick = says("How long a ramp lasts, inside the range.", default=Tick(0))
    set_to_read: bool = says("Also switch target tracks that are off to read.", default=False)


def plan(session: Session, request: Retarget) -> Change:
    """Everything retargeting would replace; the source is read before anything is written."""
    lane, start, fragment = _source(session, request)
    source = session.parameter(lane.parameter)
    draft, cautions = Draft(session), list[Caution]()
    if request.how == "move":
        zero = picking.start_of(session, lane)
        cleared = straightened(lane.envelope, start - zero, start - zero + fragment.length, source.holds_only)
        picking.write(draft, lane, cleared, start - zero, start - zero + fragment.length)
    tracks: list[Track] = []
    for target in request.targets:
        parameter = session.parameter(target.parameter)
        tracks.append(session.owner(parameter.id))
        cautions += _land(draft, request, source, fragment, start, target, parameter)
    return _change(draft, request, lane, list(dict.fromkeys(tracks)), cautions)


def _source(session: Session, request: Retarget) -> tuple[Lane, int, Fragment]:
    need_range(request.start, request.end)
    if not request.targets:
        raise RequestError("targets-none", "no parameter is chosen", place="targets", accepted="at least one parameter")
    if len({t.parameter for t in request.targets}) < len(request.targets):
        raise RequestError("lands-twice", "one parameter is named twice", place="targets", accepted="each once")
    if request.edges == "ramp" and request.ramp <= 0:
        raise RequestError("ramp-none", "a ramp needs a length", place="ramp", accepted="a length such as 80 ms")
    if request.hysteresis < 0 or request.hysteresis >= 1:
        raise RequestError(
            "hysteresis", "this hysteresis cannot be used", place="hysteresis", accepted="0 up to 1 step"
        )
    lane = session.lane(request.lane)
    first, last = session.span(lane)
    start = max(first, request.start) if request.start is not None else first
    end = min(last, request.end) if request.end is not None else last
    if start >= end:
        said = f"{session.lane_name(lane)} has nothing in this range"
        raise RequestError("nothing-to-carry", said, place="range", accepted="a range the lane reaches into")
    return lane, start, session.in_session_time(lane).cut(start, end)


def _land(
    draft: Draft, request: Retarget, source: Parameter, fragment: Fragment, start: int, target: Target, to: Parameter
) -> list[Caution]:
    session = draft.session
    at = start if request.at is None else request.at + start - (request.start if request.start is not None else start)
    if not 0 <= at < session.length:
        raise RequestError("at-outside", "it would land outside the session", place="at", accepted="a place inside it")
    cautions: list[Caution] = []
    scale, offset = affine(source, fragment, request, target, to)
    piece = _mapped(source, fragment, to, scale, offset, request.hysteresis, cautions)
    if piece.length > session.length - at:
        said = f"What would land beyond the session's end, {session.tempo.position(session.length)}, is left out"
        cautions.append(Caution("beyond-end", said))
        piece = piece.envelope.cut(0, session.length - at)
    piece, spans = fitted(piece, to)
    if spans:
        owner = session.owner(to.id).name
        count = "1 span" if spans == 1 else f"{spans} spans"
        cautions.append(
            Caution("limited", f"{count} limited to what {owner} {to.name} can be", start=at, end=at + piece.length)
        )
    ramp = request.ramp if request.edges == "ramp" and not to.holds_only else 0
    base = draft.envelope(to, ON_THE_TRACK, at)
    draft.write(to, ON_THE_TRACK, base.splice(piece, at, ramp), at, at + piece.length, spans)
    return cautions


def affine(
    source: Parameter, fragment: Fragment, request: Retarget, target: Target, to: Parameter
) -> tuple[float, float]:
    """(scale, offset) of the mapping between the two axes; RequestError where it makes no sense."""
    if request.mapping == "unit":
        if (source.unit, source.axis) != (to.unit, to.axis) or source.holds_only != to.holds_only:
            said = f"{source.name} and {to.name} have different units"
            raise RequestError("unit-differs", said, place="mapping", accepted="range, fit or around")
        return 1.0, 0.0
    if request.mapping == "around":
        anchor = float(source.axis.place(_value(source, request.anchor, "anchor")))
        landing = to.value if request.to_anchor is None else _value(to, request.to_anchor, "to_anchor")
        depth = -request.depth if request.upside_down else request.depth
        return depth, float(to.axis.place(landing)) - depth * anchor
    low, high = _source_span(source, fragment, request)
    to_low, to_high = _target_span(request, target, to)
    if request.upside_down:
        to_low, to_high = to_high, to_low
    scale = (to_high - to_low) / (high - low)
    return scale, to_low - scale * low


def _source_span(source: Parameter, fragment: Fragment, request: Retarget) -> tuple[float, float]:
    """What the mapping reads from, in source axis units; silence is not a place on it."""
    if request.mapping == "range":
        return float(source.axis.place(source.low)), float(source.axis.place(source.high))
    if source.labels:
        return source.labels[0].value, source.labels[-1].value
    places = fragment.envelope.places
    if source.axis is Axis.LEVEL:
        places = places[places > SILENCE]
    if not len(places) or places.min() == places.max():
        said = f"{source.name} does not move in this range, so there is nothing to fit"
        raise RequestError("nothing-moves", said, place="mapping", accepted="a range in which it moves, or around")
    return float(places.min()), float(places.max())


def _target_span(request: Retarget, target: Target, to: Parameter) -> tuple[float, float]:
    if request.mapping == "range" or target.low is None or target.high is None:
        return float(to.axis.place(to.low)), float(to.axis.place(to.high))
    low, high = _value(to, target.low, "low"), _value(to, target.high, "high")
    if low == high:
        said = f"both ends are {to.format(low)}"
        raise RequestError("fit-equal", said, place="targets", accepted="two different values")
    return float(to.axis.place(low)), float(to.axis.place(high))


def _value(parameter: Parameter, value: float, place: str) -> float:
    if not np.isfinite(value) or not parameter.low <= value <= parameter.high:
        accepted = f"{parameter.format(parameter.low)} to {parameter.format(parameter.high)}"
        raise RequestError(
            "value-range",
            f"{parameter.name} cannot be {value:g} {parameter.unit}".rstrip(),
            place=place,
            accepted=accepted,
        )
    return value


def _mapped(
    source: Parameter,
    fragment: Fragment,
    to: Parameter,
    scale: float,
    offset: float,
    hysteresis: float,
    cautions: list[Caution],
) -> Fragment:
    envelope = fragment.envelope
    if to.labels:
        places = scale * envelope.places + offset
        return Fragment(_stepped(envelope, places, to, hysteresis), fragment.length)
    mapped = envelope.map_axis(scale, offset, to.axis)
    silent = envelope.values <= SILENCE
    if source.axis is Axis.LEVEL and to.axis is not Axis.LEVEL and silent.any():
        lowest = to.low if scale > 0 else to.high
        values = np.where(silent, lowest, mapped.values)
        mapped = Envelope(mapped.ticks, values, mapped.bends, to.axis)
        cautions.append(Caution("silence", f"Where the source is silent, {to.name} is {to.format(lowest)}"))
    return Fragment(mapped, fragment.length)


def _stepped(envelope: Envelope, places: np.ndarray, to: Parameter, hysteresis: float) -> Envelope:
    """The nearest step at every moment, its crossings solved on each segment; a step is taken late by the hysteresis."""
    labels = np.array([label.value for label in to.labels])
    middles = (labels[1:] + labels[:-1]) / 2
    widths = labels[1:] - labels[:-1]
    state = int(np.abs(labels - places[0]).argmin())
    rows: list[tuple[int, float, float]] = [(int(envelope.ticks[0]), float(labels[state]), HOLD)]
    for i in range(len(envelope) - 1):
        y0, y1, k = float(places[i]), float(places[i + 1]), float(envelope.bends[i])
        start, span = int(envelope.ticks[i]), int(envelope.ticks[i + 1] - envelope.ticks[i])
        rising = y1 > y0
        while (state < len(middles) if rising else state > 0) and y0 != y1:
            n = state if rising else state - 1
            bound = middles[n] + (1 if rising else -1) * hysteresis * widths[n] / 2
            if (y1 < bound) if rising else (y1 > bound):
                break
            part = min(max((bound - y0) / (y1 - y0), 0.0), 1.0)
            x = part if span == 0 else (1.0 if k == HOLD else unbend(part, k))
            state += 1 if rising else -1
            rows.append((start + int(np.ceil(x * span - 1e-6)), float(labels[state]), HOLD))
    last = {tick: (tick, value, shape) for tick, value, shape in rows}
    end = int(envelope.ticks[-1])
    kept = [row for row in last.values() if row[0] < end] or [rows[0]]
    return Envelope.of([*kept, (end, kept[-1][1], HOLD)], to.axis)


def _change(draft: Draft, request: Retarget, lane: Lane, tracks: list[Track], cautions: list[Caution]) -> Change:
    session = draft.session
    reading = tuple(TrackSwap(t, replace(t, mode=Mode.READ)) for t in tracks if request.set_to_read and not t.reads)
    for track in tracks:
        if not track.reads and not request.set_to_read:
            said = f"{track.name} is not reading its lanes: this would not be heard"
            cautions.append(Caution("not-reading", said, track=track.id))
    first = session.parameter(request.targets[0].parameter)
    one = f"{session.owner(first.id).name} {first.name}"
    where = one if len(request.targets) == 1 else f"{len(request.targets)} parameters"
    change = picking.finished(draft, f"Retarget {session.lane_name(lane)} to {where}", cautions)
    return replace(change, tracks=reading)


OPERATION = Operation("retarget", Retarget, plan)
