"""Riding: what the hand on one control leaves on its lanes, added to or instead of what is there."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np

from velmot.core import editing
from velmot.core.axes import Axis
from velmot.core.editing import Fragment, Piece
from velmot.core.envelope import Envelope
from velmot.core.errors import RequestError
from velmot.core.heard import groups_add, speaking
from velmot.core.operations.cautions import limited_spans
from velmot.core.operations.landing import Landed
from velmot.core.operations.passes import Ridden
from velmot.core.operations.working_copy import WorkingCopy
from velmot.core.parameters import Family, Parameter
from velmot.core.segments import HOLD
from velmot.core.session import ON_THE_TRACK, Session
from velmot.core.strokes import Coordinates, Hand, Span, Stroke, Writing, from_before, held_spans, spread_out, written
from velmot.core.sums import sum_axis
from velmot.core.thinning import ANYWHERE, thinned_within

Parts = list[tuple[int, int, str]]
"""(start, end, home): which lane of a parameter is written where, over the whole session."""


@dataclass(frozen=True)
class Control:
    """A control as the session has it, in one pass; `bound` is how far its line may be from the hand's, in axis units."""

    ridden: Ridden
    parameter: Parameter
    mode: Writing
    span: Span
    bound: float


def parts_of(session: Session, parameter: Parameter, on_track: bool) -> Parts:
    """The lanes that speak, where each does; one on the track, if that is asked for."""
    if on_track:
        return [(0, session.length, ON_THE_TRACK)]
    speaks = speaking(session, parameter.id).over(session.length)
    return [(a, b, lane.home if lane else ON_THE_TRACK) for a, b, lane in speaks]


def write(work: WorkingCopy, control: Control, parts: Parts) -> None:
    """Lay what one control's hand wrote over its lanes."""
    ridden, span, mode = control.ridden, control.span, control.mode
    there = _standing(work, control.parameter, parts)
    adds = _groups_add(work.session, control)
    shown = _shown(there, adds, ridden)
    held = held_spans(_hand(control), span, shown, mode)
    if ridden.trim and not held:
        return
    strokes = spread_out(written(held, span, shown, mode), held, ridden.spread, span, mode)
    if held and ridden.first_from != "the touch" and ridden.spread in ("no", "to the end"):
        strokes = from_before(strokes, held, _first(work.session, control, held[0].start))
    for stroke in strokes:
        if stroke.start < stroke.end:
            _land(work, control, parts, _written(control, stroke, there, adds), stroke.start)


def _hand(control: Control) -> Hand:
    """The hand's events with coordinates a control can have; beyond its ends it stops there."""
    parameter, hand = control.parameter, control.ridden.hand
    if not len(hand.at) == len(hand.does) == len(hand.value):
        said = f"{len(hand.at)} times, {len(hand.does)} deeds and {len(hand.value)} values make no events"
        raise RequestError("hand-columns", said, place="hand", accepted="three columns of one length")
    y = np.array([np.nan if v is None else v for v in hand.value], dtype=np.float64)
    if not control.ridden.trim:
        y = np.minimum(np.maximum(y, parameter.low), parameter.high)
        if parameter.labels:
            y = np.array([v if np.isnan(v) else parameter.nearest(v) for v in y.tolist()])
        y = parameter.axis.coordinate(y)
    return Hand(np.array(hand.at, dtype=np.int64), hand.does, y)


def _standing(work: WorkingCopy, parameter: Parameter, parts: Parts) -> Envelope:
    """What a parameter's lanes do as they stand, in session ticks, as if its track read them."""
    pieces = [
        Piece(a, b, work.curve(parameter, home), work.session.start_of(home))
        for a, b, home in parts
        if home != ON_THE_TRACK
    ]
    return editing.overlaid(work.curve(parameter), pieces)


def _groups_add(session: Session, control: Control) -> Envelope | None:
    """What the groups above add to a level that shows what is heard; None where nothing is taken off."""
    if control.ridden.shows == "own" or control.ridden.trim or control.parameter.family is not Family.LEVEL:
        return None
    return groups_add(session, session.owner(control.parameter.id).id)


def _shown(there: Envelope, adds: Envelope | None, ridden: Ridden) -> Coordinates:
    """The coordinate a control shows while no hand is on it."""
    if ridden.trim:
        return lambda at, side: 0.0
    curves = [there] if adds is None else [there, adds]
    return lambda at, side: sum(float(c.axis.coordinate(c.value_at(at, side))) for c in curves)


def _written(control: Control, stroke: Stroke, there: Envelope, adds: Envelope | None) -> tuple[Fragment, int]:
    """What a stroke leaves on the lane, and in how many spans that had to be limited."""
    parameter, length = control.parameter, stroke.end - stroke.start
    plain = control.ridden.trim or adds is not None  # coordinates beyond what the parameter can be
    axis = Axis.LINEAR if plain else parameter.axis
    line = _line(stroke, axis, parameter.holds_only)
    keep = np.array(sorted(set(stroke.corners)), dtype=np.int64) - stroke.start
    if not parameter.holds_only:
        line = thinned_within(line, control.bound, keep, ANYWHERE if plain else parameter.reach)
    if control.ridden.trim:
        line = sum_axis(editing.cut(there, stroke.start, stroke.end).envelope, line)
    elif adds is not None:
        away = editing.map_axis(_plain(editing.cut(adds, stroke.start, stroke.end).envelope), -1.0, 0.0)
        net = sum_axis(line, away)
        line = Envelope(net.ticks, parameter.axis.value_of(net.values), net.bends, parameter.axis)
    made, limited = editing.limit(line, parameter.low, parameter.high)
    return Fragment(made, length), limited


def _line(stroke: Stroke, axis: Axis, steps: bool) -> Envelope:
    """A stroke as a curve from its start, straight between its rows or in steps."""
    line = Envelope(
        stroke.ticks - stroke.start, axis.value_of(stroke.y), np.full(len(stroke.y), HOLD if steps else 0.0), axis
    )
    return editing.cut(line, 0, stroke.end - stroke.start).envelope


def _plain(curve: Envelope) -> Envelope:
    """A level's decibels as plain numbers, of which silence is one."""
    return Envelope(curve.ticks, curve.values, curve.bends, Axis.LINEAR)


def _land(work: WorkingCopy, control: Control, parts: Parts, made: tuple[Fragment, int], start: int) -> None:
    """Lay a piece on the lanes under it."""
    session, parameter, (piece, limited) = work.session, control.parameter, made
    end = start + piece.length
    if limited:
        work.cautions.append(limited_spans(limited, session.owner(parameter.id), parameter, start, end))
    for a, b, home in parts:
        first, last = max(a, start), min(b, end)
        if first < last:
            fragment = editing.cut(piece.envelope, first - start, last - start)
            work.lay(parameter, [Landed(first - session.start_of(home), fragment)], home=home, limited=limited)


def _first(session: Session, control: Control, at: int) -> int:
    """From where the first value is held back: the pass's start, or that of the region under the hand."""
    if control.ridden.first_from == "the pass's start":
        return control.span.start
    spoken = [r for a, b, r, _ in speaking(session, control.parameter.id).spans if a <= at < b]
    under = [r for r in session.owner(control.parameter.id).regions if r.start <= at < r.end]
    found = spoken or sorted(under, key=lambda r: r.start)[-1:]
    return found[0].start if found else control.span.start
