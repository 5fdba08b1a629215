"""Strokes: what a hand on a control writes during a pass, by the control's mode, as a curve for each span it writes."""

from __future__ import annotations

from collections.abc import Callable, Sequence
from typing import Literal, NamedTuple

import numpy as np

from velmot.core.curves.envelope import Side
from velmot.core.errors import RequestError
from velmot.core.time.ticks import Floats, Ticks

Does = Literal["touch", "move", "release"]
"""What a hand does on a control."""

Writing = Literal["touch", "latch", "write"]
"""The modes that write."""

Spread = Literal["no", "to the start", "to the end", "everywhere"]
"""How far the last value of a hand is applied beyond where it arrived."""

Coordinates = Callable[[int, Side], float]
"""The axis coordinate that a control shows at a tick (from there on, or just before) while no hand is on it."""


class Hand(NamedTuple):
    """Events in order: ticks, what is done, and the coordinates where the control is then (NaN: where it stands)."""

    ticks: Ticks
    does: Sequence[Does]
    y: Floats


class Span(NamedTuple):
    """The span of a pass ``[start, end)``, and how long a control takes back to what is there; in ticks."""

    start: int
    end: int
    back: int = 0


class Stroke(NamedTuple):
    """A written span: ticks and coordinates from its start to its end, two of a tick being a jump.

    `corners` are the ticks where the hand took hold or let go.
    """

    ticks: Ticks
    y: Floats
    corners: tuple[int, ...] = ()

    @property
    def start(self) -> int:
        return int(self.ticks[0])

    @property
    def end(self) -> int:
        return int(self.ticks[-1])

    @property
    def last(self) -> float:
        """Where it ends."""
        return float(self.y[-1])

    def held_to(self, tick: int) -> Stroke:
        """The stroke, staying where it is until a tick."""
        return self.then([tick], [self.last]) if tick > self.end else self

    def then(self, ticks: Sequence[int] | Ticks, y: Sequence[float] | Floats, corners: tuple[int, ...] = ()) -> Stroke:
        """The stroke and what follows; of several rows at one tick the first and the last count, at its start the last."""
        every = np.concatenate((self.ticks, np.asarray(ticks, dtype=np.int64)))
        places = np.concatenate((self.y, np.asarray(y, dtype=np.float64)))
        first = np.append(True, every[1:] > every[:-1])
        last = np.append(every[1:] > every[:-1], True)
        keep = last | (first & (every > every[0]))
        return Stroke(every[keep], places[keep], (*self.corners, *corners))


def held_spans(hand: Hand, span: Span, shown: Coordinates, mode: Writing) -> list[Stroke]:
    """What the hand does from each touch to its release, in order; hands that overlap are one.

    A touch without a value takes the control where it stands: what it shows, the value it was left at (latch, write),
    or where it is on its way back (touch). RequestError for events that cannot be.
    """
    strokes: list[Stroke] = []
    for first, stop, freed in _touches(hand, span):
        start, y = int(hand.ticks[first]), float(hand.y[first])
        if np.isnan(y):
            y = _standing(strokes, start, span, shown, mode)
        known = first + 1 + np.flatnonzero(~np.isnan(hand.y[first + 1 : stop + 1]))
        let_go = int(hand.ticks[stop]) if freed else span.end
        taken = _stroke([start], [y]).then(hand.ticks[known], hand.y[known])
        strokes.append(taken.held_to(let_go)._replace(corners=(start, let_go)))
    return strokes


def written(held: list[Stroke], span: Span, shown: Coordinates, mode: Writing) -> list[Stroke]:
    """The strokes as the mode writes them: until each release and back, on to the pass's end, or from its start as well."""
    if mode == "touch":
        until = [stroke.start for stroke in held[1:]] + [span.end] * len(held[:1])
        return [_and_back(stroke, span, shown, later) for stroke, later in zip(held, until, strict=True)]
    if mode == "write":
        held = [_stroke([span.start], [shown(span.start, "right")]), *held]
    if not held:
        return []
    joined = held[0]
    for stroke in held[1:]:
        joined = joined.held_to(stroke.start).then(stroke.ticks, stroke.y, stroke.corners)
    return [joined.held_to(span.end)]


def spread_out(strokes: list[Stroke], held: list[Stroke], how: Spread, span: Span, mode: Writing) -> list[Stroke]:
    """The strokes with the last value of the hand also before it, after it, or over the whole pass."""
    if how == "no" or not held:
        return strokes
    value, arrived = held[-1].last, held[-1].end
    if how == "everywhere":
        return [_stroke([span.start, span.end], [value, value])]
    if how == "to the start":
        after = strokes[-1].ticks > arrived
        spread = _stroke([span.start], [value]).held_to(arrived)
        return [spread.then(strokes[-1].ticks[after], strokes[-1].y[after], (arrived,))]
    if mode != "touch":  # which holds it to the end anyway
        return strokes
    return [*strokes[:-1], held[-1].held_to(span.end)]


def from_before(strokes: list[Stroke], held: list[Stroke], start: int) -> list[Stroke]:
    """The strokes with the first value of the hand held back to `start`, for a hand that came late."""
    if not held or start >= held[0].start:
        return strokes
    first = strokes[0]
    by_hand = int(np.searchsorted(first.ticks, held[0].start, side="right")) - 1
    late = _stroke([start], [float(first.y[by_hand])], first.corners)
    return [late.then(first.ticks[by_hand:], first.y[by_hand:]), *strokes[1:]]


def _stroke(ticks: list[int], y: list[float], corners: tuple[int, ...] = ()) -> Stroke:
    return Stroke(np.array(ticks, dtype=np.int64), np.array(y, dtype=np.float64), corners)


def _and_back(stroke: Stroke, span: Span, shown: Coordinates, until: int) -> Stroke:
    """A stroke that goes back to what is there; where a hand comes sooner, or the pass ends, only so far as that."""
    whole = min(stroke.end + span.back, span.end)
    stop = min(whole, until)
    if stop <= stroke.end:
        return stroke
    part = (stop - stroke.end) / (whole - stroke.end)
    return stroke.then([stop], [stroke.last + (shown(whole, "left") - stroke.last) * part], (stop,))


def _standing(strokes: list[Stroke], at: int, span: Span, shown: Coordinates, mode: Writing) -> float:
    """Where a control stands that is touched without being moved."""
    if not strokes:
        return shown(span.start if mode == "write" else at, "right")
    if mode != "touch":
        return strokes[-1].last
    back = _and_back(strokes[-1], span, shown, at)
    return back.last if back.end == at else shown(at, "right")


def _touches(hand: Hand, span: Span) -> list[tuple[int, int, bool]]:
    """(first event, last event, whether the last hand let go) of each time that some hand is on the control; RequestError
    for events that cannot be.
    """
    _check(hand, span)
    steps = np.array([_HANDS[does] for does in hand.does], dtype=np.int64)
    before = np.cumsum(steps) - steps
    # A release that frees nothing has been refused, so the count never falls below none.
    starts = np.flatnonzero((steps > 0) & (before == 0)).tolist()
    ends = np.flatnonzero((steps < 0) & (before == 1)).tolist()
    freed = [True] * len(ends) + [False]
    return list(zip(starts, [*ends, len(hand.does) - 1], freed, strict=False))[: len(starts)]


_HANDS = {"touch": 1, "move": 0, "release": -1}


def _check(hand: Hand, span: Span) -> None:
    """Raise RequestError, with its number, for the first event outside the pass, out of order, or without a touch."""
    hands, previous = 0, span.start
    for tick in (hand.ticks.min(initial=span.start), hand.ticks.max(initial=span.start)):
        if not span.start <= tick <= span.end:
            n = int(np.flatnonzero(hand.ticks == tick)[0])
            side = "before the pass starts" if tick < span.start else "after the pass ends"
            raise _wrong("outside", n, "events inside the pass", does=hand.does[n], side=side)
    for n, (tick, does) in enumerate(zip(hand.ticks.tolist(), hand.does, strict=True)):
        if tick < previous:
            raise _wrong("order", n, "events in order", does=does)
        if not hands and does != "touch":
            raise _wrong("untouched", n, "a touch before it", does=does)
        hands, previous = hands + _HANDS[does], tick


def _wrong(how: str, n: int, accepted: str, **args: str) -> RequestError:
    return RequestError(f"hand-events/{how}", n=n + 1, place=f"events[{n}]", accepted=accepted, remedy=None, **args)
