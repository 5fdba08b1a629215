"""Positions in time: integer ticks, the tempo map, meters, bars and the grid.

Positions are ticks (int64), 1,612,800 to the beat; the beat is a quarter note.
Intervals are half open: ``[start, end)``.
"""

from __future__ import annotations

import math
import re
from bisect import bisect_right
from collections.abc import Iterator
from dataclasses import dataclass
from decimal import Decimal, InvalidOperation
from fractions import Fraction
from functools import cached_property
from typing import NewType

import numpy as np
import numpy.typing as npt

from velmot.core.errors import RequestError

Tick = NewType("Tick", int)
Ticks = npt.NDArray[np.int64]
Floats = npt.NDArray[np.float64]
Flags = npt.NDArray[np.bool_]

TICKS_PER_BEAT = 1_612_800  # 2^10 · 3^2 · 5^2 · 7
MOST_TICKS = 1_000_000 * TICKS_PER_BEAT
SLOWEST, FASTEST = 1.0, 1000.0
_FEW = 24  # fewer positions are quicker one by one
_CLOCK_ERROR = 5e-5  # seconds
_DIGITS = 7  # half a tick is 3.1e-7 beat, so seven decimals always tell two ticks apart


_NEAR = 2.0**20
"""Beats up to which a plain product finds the same tick as exact fractions do, away from halves."""


def ticks_of(beats: float | Fraction | Decimal) -> Tick:
    """The tick nearest to a position in beats.

    >>> ticks_of(1.5)
    2419200
    """
    if isinstance(beats, float) and -_NEAR < beats < _NEAR:
        product = beats * TICKS_PER_BEAT  # its rounding is far smaller than what it lies away from a half
        tick = round(product)
        if abs(product - tick) < 0.49:
            return Tick(tick)
    return Tick(round(Fraction(beats) * TICKS_PER_BEAT))


def beats_of(tick: int) -> float:
    """The shortest decimal number of beats that reads back to the same tick.

    >>> beats_of(2419200), beats_of(537600)
    (1.5, 0.3333333)
    """
    exact = tick / TICKS_PER_BEAT  # off by less than a thousandth of a tick
    for digits in range(_DIGITS):
        short = round(exact, digits)
        if round(short * TICKS_PER_BEAT) == tick:
            return short
    return round(exact, _DIGITS)


def beats_array(ticks: Ticks) -> list[float]:
    """Many positions at once, shortest decimals as `beats_of` writes them."""
    if len(ticks) < _FEW:
        return [beats_of(tick) for tick in ticks.tolist()]
    out = np.full(ticks.shape, np.nan)
    left = np.ones(ticks.shape, dtype=bool)
    exact = ticks / TICKS_PER_BEAT
    for digits in range(_DIGITS + 1):
        if not left.any():
            break
        short = np.round(exact[left], digits)
        same = np.rint(short * TICKS_PER_BEAT).astype(np.int64) == ticks[left]
        where = np.flatnonzero(left)[same]
        out[where] = short[same]
        left[where] = False
    return [float(b) for b in out]


def ticks_array(beats: Floats) -> Ticks:
    """Many positions in beats as the nearest ticks: the same as `ticks_of` each."""
    products = beats * TICKS_PER_BEAT
    ticks = np.rint(products).astype(np.int64)
    odd = (np.abs(products - ticks) >= 0.49) | (np.abs(beats) >= _NEAR)
    for i in np.flatnonzero(odd).tolist():
        ticks[i] = ticks_of(float(beats[i]))
    return ticks


def merged(*lists: Ticks | list[int]) -> Ticks:
    """All ticks of some sorted lists, in order, each once."""
    every = np.concatenate(lists).astype(np.int64)
    every.sort(kind="stable")  # runs are merged, which is many times faster than hashing
    return every[np.append(True, every[1:] != every[:-1])] if len(every) else every


def among(ticks: Ticks, sorted_ticks: Ticks) -> Flags:
    """Which of the ticks are among some sorted ones."""
    if not len(sorted_ticks):
        return np.zeros(len(ticks), dtype=bool)
    where = np.minimum(np.searchsorted(sorted_ticks, ticks), len(sorted_ticks) - 1)
    return np.asarray(sorted_ticks[where] == ticks)


@dataclass(frozen=True)
class TempoEvent:
    """From `tick` on the tempo is `bpm`; with `ramp` it glides, straight over beats, to the next event."""

    tick: int
    bpm: float
    ramp: bool = False


@dataclass(frozen=True)
class Meter:
    """From `tick` on, bars of `count` beats of one `unit`-th note each."""

    tick: int
    count: int
    unit: int

    @property
    def beat_ticks(self) -> int:
        return 4 * TICKS_PER_BEAT // self.unit

    @property
    def bar_ticks(self) -> int:
        return self.count * self.beat_ticks


@dataclass(frozen=True)
class Position:
    """A position as people say it: bar and beat count from 1, `part` is the fraction of the beat."""

    bar: int
    beat: int
    part: Fraction

    def __str__(self) -> str:
        return f"{self.bar}.{self.beat}.{int(self.part * 100):02d}"


@dataclass(frozen=True)
class TempoMap:
    """Converts ticks to seconds and to bar.beat.hundredths, both ways, and gives the grid.

    Tempo over a ramp is linear in beats, so the seconds of a ramp of slope s = Δbpm/Δbeat are
    60/s · ln(bpm(b)/bpm(a)) (the integral of 60/bpm).
    """

    tempos: tuple[TempoEvent, ...] = (TempoEvent(0, 120.0),)
    meters: tuple[Meter, ...] = (Meter(0, 4, 4),)

    def __post_init__(self) -> None:
        _check_tempos(self.tempos)
        _check_meters(self.meters)

    @cached_property
    def _knots(self) -> tuple[Floats, Floats, Floats, Floats]:
        """Per tempo event: its beat, bpm, slope in bpm per beat, and the seconds where it starts."""
        beats = np.array([t.tick / TICKS_PER_BEAT for t in self.tempos])
        bpm = np.array([t.bpm for t in self.tempos])
        slope = np.zeros(len(bpm))
        seconds = np.zeros(len(bpm))
        for i in range(len(bpm) - 1):
            span = beats[i + 1] - beats[i]
            if self.tempos[i].ramp:
                slope[i] = (bpm[i + 1] - bpm[i]) / span
            seconds[i + 1] = seconds[i] + float(_elapsed(span, bpm[i], slope[i]))
        return beats, bpm, slope, seconds

    def seconds(self, ticks: Ticks | int) -> Floats:
        """Seconds from the session's start, for one tick or an array of them."""
        beats, bpm, slope, seconds = self._knots
        at = np.asarray(ticks, dtype=np.int64) / TICKS_PER_BEAT
        i = np.clip(np.searchsorted(beats, at, side="right") - 1, 0, None)
        return np.asarray(seconds[i] + _elapsed(at - beats[i], bpm[i], slope[i]))

    def tick_at(self, seconds: float) -> Tick:
        """The tick nearest to a time in seconds."""
        beats, bpm, slope, starts = self._knots
        i = max(int(np.searchsorted(starts, seconds, side="right")) - 1, 0)
        left = seconds - float(starts[i])
        if abs(slope[i]) < 1e-12:
            passed = left * bpm[i] / 60
        else:
            passed = bpm[i] / slope[i] * math.expm1(slope[i] * left / 60)
        return Tick(round((float(beats[i]) + float(passed)) * TICKS_PER_BEAT))

    @cached_property
    def _bars(self) -> tuple[list[int], list[int]]:
        """Per meter: its tick, and the number of the bar that starts there."""
        ticks, numbers = [0], [1]
        for before, meter in zip(self.meters, self.meters[1:], strict=False):
            ticks.append(meter.tick)
            numbers.append(numbers[-1] + -(-(meter.tick - before.tick) // before.bar_ticks))
        return ticks, numbers

    def position(self, tick: int) -> Position:
        """Where a tick stands in bars and beats.

        >>> str(TempoMap().position(ticks_of(33.25)))
        '9.2.25'
        """
        ticks, numbers = self._bars
        i = max(bisect_right(ticks, tick) - 1, 0)
        meter = self.meters[i]
        bars, inside = divmod(tick - meter.tick, meter.bar_ticks)
        beat, rest = divmod(inside, meter.beat_ticks)
        return Position(numbers[i] + bars, beat + 1, Fraction(rest, meter.beat_ticks))

    def tick_of(self, bar: int, beat: int = 1, part: Fraction = Fraction(0)) -> Tick:
        """The tick of a bar, a beat in it, and a fraction of that beat."""
        ticks, numbers = self._bars
        i = max(bisect_right(numbers, bar) - 1, 0)
        meter = self.meters[i]
        inside = (beat - 1 + part) * meter.beat_ticks
        return Tick(ticks[i] + (bar - numbers[i]) * meter.bar_ticks + round(inside))

    def bar_starts(self, end: int) -> list[tuple[int, int, Meter]]:
        """(bar number, tick, meter) of every bar that starts in ``[0, end)``."""
        ticks, numbers = self._bars
        starts: list[tuple[int, int, Meter]] = []
        for i, meter in enumerate(self.meters):
            until = min(ticks[i + 1], end) if i + 1 < len(ticks) else end
            for n, tick in enumerate(range(ticks[i], until, meter.bar_ticks)):
                starts.append((numbers[i] + n, tick, meter))
        return starts

    def bar_count(self, end: int) -> int:
        """How many bars start in ``[0, end)``, without naming each."""
        ticks, _ = self._bars
        untils = [min(tick, end) for tick in (*ticks[1:], end)]
        spans = zip(self.meters, ticks, untils, strict=True)
        return sum(max(-(-(until - start) // meter.bar_ticks), 0) for meter, start, until in spans)

    def clock(self, end: int) -> list[tuple[int, float]]:
        """(tick, seconds) pairs; straight lines between them are within 0.05 ms of `seconds`.

        Exact where the tempo steps; a ramp is cut into pieces whose arrow h²/8·60·s/bpm² is that much at most.
        """
        ticks = [np.array([0, end], dtype=np.int64)]
        for event, after, pieces in self._glides(end):
            ticks.append(np.array([min(event.tick, end)], dtype=np.int64))
            if after is not None and event.tick < end:
                # Equal steps of the logarithm of the tempo are pieces of equal arrow.
                bpm = event.bpm * (after.bpm / event.bpm) ** (np.arange(1, pieces) / pieces)
                part = (bpm - event.bpm) / (after.bpm - event.bpm)
                inner = event.tick + np.rint(part * (after.tick - event.tick)).astype(np.int64)
                ticks.append(inner[inner < end])
        line = np.unique(np.concatenate(ticks))
        return list(zip(line.tolist(), self.seconds(line).tolist(), strict=True))

    def clock_count(self, end: int) -> int:
        """About how many pieces the clock has up to `end`, counted without making them."""
        return 1 + sum(pieces for event, _, pieces in self._glides(end) if event.tick < end)

    def _glides(self, end: int) -> Iterator[tuple[TempoEvent, TempoEvent | None, int]]:
        """Each tempo event, the one its ramp leads to (None where it steps), and into how many pieces its ramp is cut."""
        for event, after in zip(self.tempos, [*self.tempos[1:], None], strict=False):
            if not event.ramp or after is None or after.bpm == event.bpm:
                yield event, None, 1
                continue
            slope = abs(after.bpm - event.bpm) / ((after.tick - event.tick) / TICKS_PER_BEAT)
            exact = abs(math.log(after.bpm / event.bpm)) * math.sqrt(60 / (8 * _CLOCK_ERROR * slope))
            yield event, after, max(math.ceil(exact), 1)


def _elapsed(span: Floats, bpm: Floats, slope: Floats) -> Floats:
    """Seconds that `span` beats take from a tempo `bpm` changing by `slope` bpm a beat."""
    straight = span * 60 / bpm
    with np.errstate(divide="ignore", invalid="ignore"):
        curved = 60 / slope * np.log1p(slope * span / bpm)
    return np.where(np.abs(slope) < 1e-12, straight, curved)


def _check_tempos(tempos: tuple[TempoEvent, ...]) -> None:
    if not tempos or tempos[0].tick != 0:
        raise RequestError("tempo-start", "the tempo map must start at beat 0", place="tempo[0]", accepted="[0, 120]")
    for i, event in enumerate(tempos):
        if not SLOWEST <= event.bpm <= FASTEST:
            raise RequestError(
                "tempo-range",
                f"a tempo of {event.bpm:g} bpm cannot be used",
                place=f"tempo[{i}]",
                accepted=f"{SLOWEST:g} to {FASTEST:g} bpm",
            )
        if i and event.tick <= tempos[i - 1].tick:
            raise RequestError(
                "tempo-order",
                f"the tempo at beat {beats_of(event.tick):g} does not come after the one before it",
                place=f"tempo[{i}]",
                accepted="positions that rise",
            )


def _check_meters(meters: tuple[Meter, ...]) -> None:
    if not meters or meters[0].tick != 0:
        raise RequestError("meter-start", "the meters must start at beat 0", place="meter[0]", accepted="[0, 4, 4]")
    for i, meter in enumerate(meters):
        if not 1 <= meter.count <= 64 or meter.unit not in (1, 2, 4, 8, 16, 32, 64):
            raise RequestError(
                "meter-range",
                f"a meter of {meter.count}/{meter.unit} cannot be used",
                place=f"meter[{i}]",
                accepted="1 to 64 beats of 1, 2, 4, 8, 16, 32 or 64",
            )
        if i and meter.tick <= meters[i - 1].tick:
            raise RequestError(
                "meter-order",
                f"the meter at beat {beats_of(meter.tick):g} does not come after the one before it",
                place=f"meter[{i}]",
                accepted="positions that rise",
            )


_BAR_TEXT = re.compile(r"^(\d+)(?:\.(\d+)(?:\.(\d+))?)?$")
_CLOCK_TEXT = re.compile(r"^(?:(\d+):)?(\d+(?:\.\d+)?)\s*(?:s|sec|seconds)?$")
_BEAT_TEXT = re.compile(r"^(-?\d+(?:\.\d+)?)\s*(?:b|beat|beats)$")
_NOTE_TEXT = re.compile(r"^(\d{1,6})/(\d{1,6})\s*(t|triplet|d|dotted|\.)?$")
MOST_PARTS = 1024
"""The finest note that is read: a whole one in so many parts."""
ACCEPTED_POSITIONS = (
    "a bar (9), bar.beat (9.2), bar.beat.hundredths (9.2.50), seconds (12.5 s, 0:26.5), or beats (33.5 beats)"
)


def parse_position(text: str, tempo: TempoMap) -> Tick:
    """The tick a typed position means; raises RequestError naming what would be read.

    >>> parse_position("9.2.25", TempoMap()) == ticks_of(33.25)
    True
    """
    said = text.strip().lower().replace(",", ".")
    if match := _BAR_TEXT.match(said):
        tick = _tick_of_bar(match, tempo, text)
    elif match := _BEAT_TEXT.match(said):
        tick = ticks_of(Decimal(match[1]))
    elif (match := _CLOCK_TEXT.match(said)) and not said.isdigit():
        tick = tempo.tick_at(60 * int(match[1] or 0) + float(match[2]))
    else:
        raise RequestError(
            "position-unread", f"“{text}” is not a position", place="position", accepted=ACCEPTED_POSITIONS
        )
    if not 0 <= tick <= MOST_TICKS:
        raise RequestError(
            "position-range",
            f"“{text}” lies outside what a session can hold",
            place="position",
            accepted="a position from 1.1.00 on, up to a million beats",
        )
    return tick


def _tick_of_bar(match: re.Match[str], tempo: TempoMap, text: str) -> Tick:
    bar, beat, part = int(match[1]), int(match[2] or 1), match[3] or "0"
    if bar < 1 or beat < 1:
        raise RequestError(
            "position-range", f"“{text}”: bars and beats count from 1", place="position", accepted="1.1.00 or later"
        )
    if bar > 1_000_000 or beat > 1_000:
        raise RequestError(
            "position-range", f"“{text}” is beyond any session", place="position", accepted=ACCEPTED_POSITIONS
        )
    return tempo.tick_of(bar, beat, Fraction(int(part), 10 ** len(part)))


def parse_length(text: str, tempo: TempoMap, start: int = 0) -> Tick:
    """The ticks a typed length means, from `start` on: ``80 ms``, ``1.5 s``, ``2 beats``, ``1 bar``, or a note's value.

    >>> beats_of(parse_length("3/16", TempoMap())), beats_of(parse_length("1/8.", TempoMap()))
    (0.75, 0.75)
    """
    said = text.strip().lower().replace(",", ".")
    if (note := _NOTE_TEXT.match(said)) and 0 < int(note[2]) <= MOST_PARTS and int(note[1]) <= 250_000:
        return _note_length(note)
    match = re.match(r"^(\d+(?:\.\d+)?)\s*(ms|s|beats?|bars?)?$", said)
    try:
        amount = Decimal(match[1]) if match else None
    except InvalidOperation:  # pragma: no cover - the pattern only lets numbers through
        amount = None
    if match is None or amount is None or amount > 1_000_000:
        raise RequestError(
            "length-unread",
            f"“{text}” is not a length",
            place="length",
            accepted="80 ms, 1.5 s, 2 beats, 1 bar, or a note: 1/8, 1/8 t, 3/16",
        )
    unit = match[2] or "beats"
    if unit in ("ms", "s"):
        seconds = float(amount) / (1000 if unit == "ms" else 1)
        return Tick(tempo.tick_at(float(tempo.seconds(start)) + seconds) - start)
    if unit.startswith("bar"):
        here = tempo.position(start)
        whole = tempo.tick_of(here.bar + int(amount), here.beat, here.part)
        meter = next(m for m in reversed(tempo.meters) if m.tick <= max(whole, 0))
        return Tick(whole - start + round(Fraction(amount % 1) * meter.bar_ticks))
    return ticks_of(amount)


def _note_length(note: re.Match[str]) -> Tick:
    """Parts of a whole note, which is four beats long; a triplet's are two thirds of that, a dotted one's three halves."""
    times = {"t": Fraction(2, 3), "d": Fraction(3, 2), ".": Fraction(3, 2)}.get((note[3] or "")[:1], Fraction(1))
    return ticks_of(Fraction(4 * int(note[1]), int(note[2])) * times)
