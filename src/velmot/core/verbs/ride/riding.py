"""Riding: what the hand on one control leaves on its lanes, added to or instead of what is there."""

from __future__ import annotations

from dataclasses import dataclass, replace

import numpy as np

from velmot.core.curves import editing
from velmot.core.curves.axes import SILENCE, Axis
from velmot.core.curves.editing import Fragment, Piece
from velmot.core.curves.envelope import Envelope, Side
from velmot.core.curves.segments import HOLD
from velmot.core.curves.spans import runs
from velmot.core.curves.strokes import (
    Coordinates,
    Hand,
    Span,
    Stroke,
    Writing,
    from_before,
    held_spans,
    spread_out,
    written,
)
from velmot.core.curves.sums import sum_all, sum_axis, taken_off
from velmot.core.curves.within_bound import ANYWHERE, thinned_within
from velmot.core.errors import RequestError
from velmot.core.parameters.parameter import Family, Parameter
from velmot.core.session.heard import shares_above, speaking
from velmot.core.session.session import Session
from velmot.core.session.track import ON_THE_TRACK
from velmot.core.time.ticks import Flags
from velmot.core.verbs.frame.cautions import limited_spans
from velmot.core.verbs.frame.landing import Landed
from velmot.core.verbs.frame.working_copy import WorkingCopy
from velmot.core.verbs.ride.request import Ridden

Ticked = tuple[int, int]
Parts = list[tuple[int, int, str]]
"""(start, end, home): which lane of a parameter is written where, over the whole session."""


@dataclass(frozen=True)
class Control:
    """A control as the session has it, in the `number`-th pass; `bound` is how far its line may be from the hand's, in axis
    units.
    """

    number: int
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


def write(work: WorkingCopy, control: Control, parts: Parts, before: Session) -> None:
    """Lay what one control's hand wrote over its lanes; `before` is the session as earlier passes left it."""
    ridden, span, mode = control.ridden, control.span, control.mode
    there = _standing(work, control.parameter, parts)
    shares = _shares(before, control)
    shown = _shown(there, shares, ridden)
    held = held_spans(_hand(control), span, shown, mode)
    if ridden.trim and not held:
        return
    strokes = spread_out(written(held, span, shown, mode), held, ridden.spread, span, mode)
    if held and ridden.first_from != "the touch" and ridden.spread in ("no", "to the end"):
        strokes = from_before(strokes, held, _first(work.session, control, held[0].start))
    for stroke in strokes:
        if stroke.start < stroke.end:
            _land(work, control, parts, _written(control, stroke, there, shares))


def _hand(control: Control) -> Hand:
    """The hand's events with coordinates a control can have; beyond its ends it stops there."""
    parameter, hand = control.parameter, control.ridden.hand
    if not len(hand.at) == len(hand.does) == len(hand.value):
        raise RequestError(
            "hand-columns",
            count=len(hand.at),
            count2=len(hand.does),
            count3=len(hand.value),
            place="hand",
            accepted="three columns of one length",
        )
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


def _shares(before: Session, control: Control) -> list[Envelope]:
    """What each group above adds to a level that shows what is heard; none where nothing is taken off."""
    if control.ridden.shows == "own" or control.ridden.trim or control.parameter.family is not Family.LEVEL:
        return []
    return [*shares_above(before, before.owner(control.parameter.id).id).values()]


def _shown(there: Envelope, shares: list[Envelope], ridden: Ridden) -> Coordinates:
    """The coordinate a control shows while no hand is on it; what is silent shows nothing else."""
    if ridden.trim:
        return lambda at, side: 0.0
    curves = [there, *shares]

    def shown(at: int, side: Side) -> float:
        values = [curve.value_at(at, side) for curve in curves]
        if any(bool(there.axis.silent(v)) for v in values):
            return SILENCE
        return sum(float(c.axis.coordinate(v)) for c, v in zip(curves, values, strict=True))

    return shown


def _written(control: Control, stroke: Stroke, there: Envelope, shares: list[Envelope]) -> Landed:
    """What a stroke leaves on the lane, in session ticks."""
    parameter, length = control.parameter, stroke.end - stroke.start
    plain = control.ridden.trim or bool(shares)  # coordinates beyond what the parameter can be
    line = _line(stroke, Axis.LINEAR if plain else parameter.axis, parameter.holds_only)
    silences = stroke.ticks[stroke.y == SILENCE].tolist() if shares else []
    keep = np.array(sorted({*stroke.corners, *silences}), dtype=np.int64) - stroke.start
    if not parameter.holds_only:
        line = thinned_within(line, control.bound, keep, ANYWHERE if plain else parameter.reach)
    if control.ridden.trim:
        line = sum_axis(editing.cut(there, stroke.start, stroke.end).envelope, line)
    elif shares:
        line = _less(line, [editing.cut(share, stroke.start, stroke.end).envelope for share in shares], parameter)
        own = [Piece(a, b, there, -stroke.start) for a, b in _under_silence(shares, stroke)]
        line = editing.cut(editing.overlaid(line, own), 0, length).envelope
    made, limited = editing.limited(line, parameter.low, parameter.high)
    return Landed(stroke.start, Fragment(made, length), limited)


def _less(line: Envelope, shares: list[Envelope], parameter: Parameter) -> Envelope:
    """A hand's line in plain decibels, less what groups add: as a level's own. A hand at silence writes silence."""
    bare = sum_all([line, *map(taken_off, shares)])
    silence = Envelope.constant(SILENCE, parameter.axis)
    pieces = [Piece(a, b, silence) for a, b in _spans_of(line, line.values == SILENCE)]
    return editing.overlaid(bare.trusted(bare.ticks, bare.values, bare.bends, parameter.axis), pieces)


def _under_silence(shares: list[Envelope], stroke: Stroke) -> list[Ticked]:
    """Where a group is silent under a stroke: nothing a hand does is heard there, and a level keeps its own value."""
    parts = [editing.cut(share, stroke.start, stroke.end).envelope for share in shares]
    return runs([span for part in parts for span in _spans_of(part, part.axis.silent(part.values))])


def _spans_of(curve: Envelope, silent: Flags) -> list[Ticked]:
    """The spans in which a curve stays at those of its points that are silent; no more than their tick where it leaves them."""
    which = np.flatnonzero(silent[:-1])
    ends = np.where(curve.still_after[which], curve.ticks[which + 1], curve.ticks[which] + 1)
    spans = zip(curve.ticks[which].tolist(), ends.tolist(), strict=True)
    return runs([(a, b) for a, b in spans if a < b])


def _line(stroke: Stroke, axis: Axis, steps: bool) -> Envelope:
    """A stroke as a curve from its start, straight between its rows or in steps."""
    line = Envelope(
        stroke.ticks - stroke.start, axis.value_of(stroke.y), np.full(len(stroke.y), HOLD if steps else 0.0), axis
    )
    return editing.cut(line, 0, stroke.end - stroke.start).envelope


def _land(work: WorkingCopy, control: Control, parts: Parts, made: Landed) -> None:
    """Lay a piece on the lanes under it."""
    session, parameter = work.session, control.parameter
    if made.limited:
        said = limited_spans(len(made.limited), session.owner(parameter.id), parameter, made.at, made.end)
        work.cautions.append(said)
    for a, b, home in parts:
        first, last = max(a, made.at), min(b, made.end)
        if first < last:
            part = made.part(first, last)
            work.lay(parameter, [replace(part, at=first - session.start_of(home))], home=home)


def _first(session: Session, control: Control, at: int) -> int:
    """From where the first value is held back: the pass's start, or that of the region under the hand."""
    if control.ridden.first_from == "the pass's start":
        return control.span.start
    spoken = [r for a, b, r, _ in speaking(session, control.parameter.id).spans if a <= at < b]
    under = [r for r in session.owner(control.parameter.id).regions if r.start <= at < r.end]
    found = spoken or sorted(under, key=lambda r: r.start)[-1:]
    return found[0].start if found else control.span.start


def mode_of(session: Session, ridden: Ridden) -> str:
    """The mode a control is ridden in."""
    return session.owner(ridden.parameter).mode.value if ridden.mode == "the track's" else ridden.mode
