"""The tempo map: between ticks, seconds, bars and beats."""

from __future__ import annotations

import math
from bisect import bisect_right
from collections.abc import Iterator
from dataclasses import dataclass
from fractions import Fraction
from functools import cached_property

import numpy as np

from velmot.core.errors import RequestError
from velmot.core.time.ticks import TICKS_PER_BEAT, Floats, Tick, Ticks, beats_of

_CLOCK_ERROR = 5e-5  # seconds
SLOWEST, FASTEST = 1.0, 1000.0


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

    def ticks_at(self, seconds: Floats) -> Ticks:
        """The ticks nearest to many times in seconds: the same as `tick_at` each."""
        beats, bpm, slope, starts = self._knots
        i = np.clip(np.searchsorted(starts, seconds, side="right") - 1, 0, None)
        left, even = seconds - starts[i], np.abs(slope[i]) < 1e-12
        steep = np.where(even, 1.0, slope[i])
        passed = np.where(even, left * bpm[i] / 60, bpm[i] / steep * np.expm1(steep * left / 60))
        return np.rint((beats[i] + passed) * TICKS_PER_BEAT).astype(np.int64)

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

        >>> str(TempoMap().position(33 * TICKS_PER_BEAT + TICKS_PER_BEAT // 4))
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
        raise RequestError("tempo-start", place="tempo[0]", accepted="[0, 120]")
    for i, event in enumerate(tempos):
        if not SLOWEST <= event.bpm <= FASTEST:
            raise RequestError(
                "tempo-range", bpm=event.bpm, place=f"tempo[{i}]", accepted=f"{SLOWEST:g} to {FASTEST:g} bpm"
            )
        if i and event.tick <= tempos[i - 1].tick:
            raise RequestError(
                "tempo-order", beat=beats_of(event.tick), place=f"tempo[{i}]", accepted="positions that rise"
            )


def _check_meters(meters: tuple[Meter, ...]) -> None:
    if not meters or meters[0].tick != 0:
        raise RequestError("meter-start", place="meter[0]", accepted="[0, 4, 4]")
    for i, meter in enumerate(meters):
        if not 1 <= meter.count <= 64 or meter.unit not in (1, 2, 4, 8, 16, 32, 64):
            raise RequestError(
                "meter-range",
                count=meter.count,
                unit=meter.unit,
                place=f"meter[{i}]",
                accepted="1 to 64 beats of 1, 2, 4, 8, 16, 32 or 64",
            )
        if i and meter.tick <= meters[i - 1].tick:
            raise RequestError(
                "meter-order", beat=beats_of(meter.tick), place=f"meter[{i}]", accepted="positions that rise"
            )
