"""Axes: the coordinate in which a parameter's segments are straight, with all that follows from it.

An axis knows its transform, its floor, the unit and the step of its distances, how many digits a value deserves and
which values are worth a mark. Whoever draws or words values asks it; nobody else repeats these rules.
"""

from __future__ import annotations

import math
from dataclasses import dataclass
from enum import StrEnum

import numpy as np

from velmot.core.time.ticks import Floats

SILENCE = -96.0
"""The floor of a level: a value of its own, which no gain lifts."""

SILENCE_TEXT = "−∞"
_MOST_DECIMALS = 9
LEVEL_MARKS = (-72, -60, -48, -36, -24, -18, -12, -6, 0, 6, 12)


class Axis(StrEnum):
    """The coordinate in which envelopes are straight and distances are measured."""

    LINEAR = "linear"
    LOG = "log"
    LEVEL = "level"

    def coordinate(self, values: Floats | float) -> Floats:
        """Axis coordinates of values: octaves (log2) on a log axis, else the value itself."""
        y = np.asarray(values, dtype=np.float64)
        return np.log2(y) if self is Axis.LOG else y

    def value_of(self, coordinates: Floats | float) -> Floats:
        """Values at axis coordinates, the inverse of `coordinate`."""
        y = np.asarray(coordinates, dtype=np.float64)
        return np.exp2(y) if self is Axis.LOG else y

    @property
    def logarithmic(self) -> bool:
        """Whether a coordinate is the value's logarithm to base 2; then there is no value at or below 0."""
        return self is Axis.LOG

    @property
    def floor(self) -> float | None:
        """The value at and below which there is silence, where the axis has such a floor."""
        return SILENCE if self is Axis.LEVEL else None

    def silent(self, values: Floats | float) -> np.ndarray:
        """Which of the values are silence."""
        y = np.asarray(values)
        return np.zeros(y.shape, dtype=bool) if self.floor is None else y <= self.floor

    @property
    def distance_unit(self) -> str:
        """The unit of distances, where it differs from the parameter's own."""
        return {Axis.LOG: "octaves", Axis.LEVEL: "dB"}.get(self, "")

    def nudges(self, low: float, high: float) -> Nudges:
        """How far nudges by keys go, in coordinates: round decibels, parts of an octave, else about a 200th of the range.

        >>> Axis.LINEAR.nudges(-100.0, 100.0)
        Nudges(usual=1.0, fine=0.1, coarse=10.0)
        """
        if self is Axis.LEVEL:
            return Nudges(0.5, 0.1, 1.0)
        if self is Axis.LOG:
            return Nudges(1 / 6, 1 / 24, 1.0)
        usual = round_step((high - low) / 200)
        return Nudges(usual, usual / 10, usual * 10)

    def digits(self, low: float, high: float) -> Digits:
        """How many digits values of a range deserve: a step is at most about a thousandth of the range."""
        if self is Axis.LOG:
            return Digits(significant=3)
        span = high - low
        return Digits(decimals=0 if span > 1000 else 1 if span > 10 else 2 if span > 1.5 else 3)

    def distance_text(self, distance: float, low: float, high: float, unit: str) -> str:
        """A distance in axis units, in words: decibels, octaves, or the parameter's own unit."""
        decimals = 2 if self is Axis.LOG else self.digits(low, high).decimals_of(distance) + 1
        if 0 < abs(distance) < 0.5 * 10.0**-decimals:  # which would read as none
            decimals = min(math.ceil(-math.log10(abs(distance))), _MOST_DECIMALS)
        return f"{number_text(distance, decimals)} {self.distance_unit or unit}".rstrip()

    def marks(self, low: float, high: float) -> list[tuple[float, str]]:
        """Values of a range worth marking, from low to high, with their texts."""
        if self is Axis.LEVEL:
            values = [low, *(v for v in LEVEL_MARKS if low < v <= high)]
            return [
                (v, SILENCE_TEXT if v <= SILENCE else _plain(v, self.digits(low, high).decimals_of(v))) for v in values
            ]
        if self is Axis.LOG:
            return [(v, _short(v)) for v in _log_marks(low, high)]
        step = round_step((high - low) / 8)
        count = math.floor((high - low) / step + 1e-9)
        return [(low + i * step, _plain(low + i * step, 3)) for i in range(count + 1)]


@dataclass(frozen=True)
class Digits:
    """How many digits a value is written with: so many after the point, or so many that signify."""

    decimals: int = 0
    significant: int | None = None

    def decimals_of(self, value: float) -> int:
        """The digits after the point that this value is written with."""
        if self.significant is None:
            return self.decimals
        return max(0, self.significant - 1 - math.floor(math.log10(max(abs(value), 1e-6))))


def number_text(value: float, decimals: int) -> str:
    """A number with a true minus sign and no negative zero.

    >>> number_text(-7.42, 1), number_text(-0.001, 1)
    ('−7.4', '0.0')
    """
    text = f"{value:.{decimals}f}"
    if float(text) == 0:
        text = text.lstrip("-")
    return text.replace("-", "−")


@dataclass(frozen=True)
class Nudges:
    """How far a key moves something, in coordinates: as it is, with Alt, and with Shift."""

    usual: float
    fine: float
    coarse: float


def round_step(rough: float) -> float:
    """The next round number: 1, 2, 2.5 or 5 times a power of ten.

    >>> round_step(0.3), round_step(12.5)
    (0.5, 20.0)
    """
    size = 10.0 ** math.floor(math.log10(rough))
    return next(m * size for m in (1.0, 2.0, 2.5, 5.0, 10.0) if m * size >= rough - 1e-12)


def _log_marks(low: float, high: float) -> list[float]:
    decade = 10.0 ** math.floor(math.log10(low))
    marks: list[float] = []
    while decade <= high:
        marks += [m * decade for m in (1, 2, 5) if low <= m * decade <= high]
        decade *= 10
    return marks


def _plain(value: float, decimals: int) -> str:
    text = number_text(value, decimals)
    return text.rstrip("0").rstrip(".") if "." in text else text


def _short(value: float) -> str:
    return f"{value / 1000:g}k" if value >= 1000 else f"{value:g}"
