"""Parameters: kinds, families and axes, and how their values are written and read."""

from __future__ import annotations

import math
import re
from dataclasses import dataclass, field
from enum import StrEnum

import numpy as np

from velmot.core.errors import RequestError
from velmot.core.limits import LARGEST_VALUE, SMALLEST_LOG, SMALLEST_RANGE
from velmot.core.time import Floats

SILENCE = -96.0
SILENCE_TEXT = "−∞"


class Family(StrEnum):
    """What a parameter belongs to; each family has its own ink."""

    LEVEL = "level"
    PAN = "pan"
    MUTE = "mute"
    SEND = "send"
    DEVICE = "device"


class Kind(StrEnum):
    """How a value moves: it glides, steps between labelled values, or switches between two."""

    CONTINUOUS = "continuous"
    STEPPED = "stepped"
    SWITCH = "switch"


class Axis(StrEnum):
    """The coordinate in which envelopes are straight and distances are measured."""

    LINEAR = "linear"
    LOG = "log"
    LEVEL = "level"

    def place(self, values: Floats | float) -> Floats:
        """Axis coordinates of values: octaves (log2) on a log axis, else the value itself."""
        y = np.asarray(values, dtype=np.float64)
        return np.log2(y) if self is Axis.LOG else y

    def value_at(self, places: Floats | float) -> Floats:
        """Values at axis coordinates, the inverse of `place`."""
        y = np.asarray(places, dtype=np.float64)
        return np.exp2(y) if self is Axis.LOG else y

    @property
    def unit(self) -> str:
        """The unit of distances, where it differs from the parameter's own."""
        return {Axis.LOG: "octaves", Axis.LEVEL: "dB"}.get(self, "")


def range_problem(axis: Axis, low: float, high: float) -> tuple[str, str, str] | None:
    """(which end, what is wrong, what would be right) of a range that no parameter can have; None for one it can."""
    if not (math.isfinite(low) and math.isfinite(high)):
        return "low", "the ends of a range must be finite numbers", "two numbers"
    if not low < high:
        return "high", f"the range {low:g} to {high:g} is empty", "low below high"
    if axis is Axis.LOG and low < SMALLEST_LOG:
        return "low", f"a log axis cannot start at {low:g}", f"a low above 0, from {SMALLEST_LOG:g} on"
    if max(-low, high) > LARGEST_VALUE:
        return "high", f"the range {low:g} to {high:g} reaches too far", f"values within ±{LARGEST_VALUE:g}"
    if float(axis.place(high) - axis.place(low)) < SMALLEST_RANGE:
        return "high", f"the range {low!r} to {high!r} is too small", f"a range of at least {SMALLEST_RANGE:g}"
    return None


@dataclass(frozen=True)
class Label:
    """One labelled value of a stepped or switch parameter."""

    value: float
    text: str


@dataclass(frozen=True)
class Parameter:
    """One thing that can be automated. `value` is its static value, which holds when no lane speaks.

    `device` names the track's device it belongs to; `target` the bus a send feeds; `controller` what a
    MIDI file carries it as ("cc 7", "bend", "program", "nrpn 1/8"); `useful` the span in which its device
    is described to do useful work.
    """

    id: str
    name: str
    family: Family
    kind: Kind = Kind.CONTINUOUS
    unit: str = ""
    axis: Axis = Axis.LINEAR
    low: float = 0.0
    high: float = 1.0
    default: float = 0.0
    value: float = 0.0
    labels: tuple[Label, ...] = ()
    device: str | None = None
    target: str | None = None
    controller: str | None = None
    useful: tuple[float, float] | None = None
    extra: tuple[tuple[str, str], ...] = field(default=(), compare=True)

    def __post_init__(self) -> None:
        for name in ("low", "high", "default", "value"):
            if not math.isfinite(getattr(self, name)):
                raise self._error(name, f"{name} must be a finite number", "a number")
        if wrong := range_problem(self.axis, self.low, self.high):
            raise self._error(*wrong)
        for name in ("default", "value"):
            if not self.low <= getattr(self, name) <= self.high:
                said = f"{name} {getattr(self, name):g} lies outside {self.low:g} to {self.high:g}"
                raise self._error(name, said, f"{self.low:g} to {self.high:g}")
        if self.useful is not None and not self.low <= self.useful[0] < self.useful[1] <= self.high:
            said = f"the useful span {self.useful[0]:g} to {self.useful[1]:g} cannot be"
            raise self._error("useful", said, f"a low below a high, within {self.low:g} to {self.high:g}")
        self._check_labels()

    def _check_labels(self) -> None:
        wanted = {Kind.SWITCH: (2, 2), Kind.STEPPED: (2, 1024), Kind.CONTINUOUS: (0, 0)}[self.kind]
        if not wanted[0] <= len(self.labels) <= wanted[1]:
            raise self._error(
                "labels",
                f"a {self.kind} parameter cannot have {len(self.labels)} labels",
                {"switch": "exactly 2", "stepped": "2 to 1024", "continuous": "none"}[self.kind],
            )
        values = [label.value for label in self.labels]
        if values != sorted(set(values)) or any(not self.low <= v <= self.high for v in values):
            raise self._error("labels", "label values must rise and lie in the range", "[[0, 'off'], [1, 'on']]")

    def _error(self, name: str, message: str, accepted: str) -> RequestError:
        return RequestError(
            "parameter", f"{self.name}: {message}", place=f"parameter {self.id}, {name}", accepted=accepted
        )

    @property
    def holds_only(self) -> bool:
        """Stepped and switch parameters have no in-between, so their envelopes only hold."""
        return self.kind is not Kind.CONTINUOUS

    def position(self, values: Floats | float) -> Floats:
        """Axis coordinates scaled to 0..1 over the range."""
        low, high = self.axis.place(self.low), self.axis.place(self.high)
        return np.asarray((self.axis.place(values) - low) / (high - low))

    def nearest(self, value: float) -> float:
        """The value itself, or the labelled value closest to it."""
        if not self.labels:
            return value
        return min((label.value for label in self.labels), key=lambda v: abs(v - value))

    def format(self, value: float, *, unit: bool = True) -> str:
        """A value as people read it, with its unit.

        >>> level = Parameter("l", "Level", Family.LEVEL, unit="dB", axis=Axis.LEVEL, low=-96, high=12)
        >>> level.format(-7.42), level.format(-96)
        ('−7.4 dB', '−∞ dB')
        """
        if self.labels:
            return next((x.text for x in self.labels if x.value == self.nearest(value)), "")
        if self.axis is Axis.LEVEL and value <= self.low and self.low <= SILENCE:
            number = SILENCE_TEXT
        else:
            number = _number(value, self.decimals(value))
        return f"{number} {self.unit}" if unit and self.unit else number

    def format_distance(self, distance: float) -> str:
        """A distance on the axis, in its unit: decibels, octaves, or the parameter's own."""
        if self.labels:
            return f"{distance:g} step" + ("" if distance == 1 else "s")
        unit = self.axis.unit or self.unit
        number = _number(distance, 2 if self.axis is Axis.LOG else self.decimals(distance) + 1)
        return f"{number} {unit}" if unit else number

    def decimals(self, value: float) -> int:
        """Decimals worth showing: a step is at most about a thousandth of the range."""
        if self.axis is Axis.LOG:
            return max(0, 2 - math.floor(math.log10(max(abs(value), 1e-6))))
        span = self.high - self.low
        return 0 if span > 1000 else 1 if span > 10 else 2 if span > 1.5 else 3

    def parse(self, text: str) -> float:
        """The value a typed text means, checked against the range. Words work for labelled values.

        Raises RequestError with what would be read.
        """
        said = text.strip().lower().replace("−", "-").replace("∞", "inf")
        for label in self.labels:
            if said == label.text.lower():
                return label.value
        value = self._parse_number(said, text)
        if self.labels and value not in [x.value for x in self.labels]:
            raise self._unread(text)
        if not self.low <= value <= self.high:
            raise RequestError(
                "value-range",
                f"{self.name} cannot be {self.format(value)}",
                place="value",
                accepted=f"{self.format(self.low)} to {self.format(self.high)}",
            )
        return value

    def _parse_number(self, said: str, text: str) -> float:
        if self.axis is Axis.LEVEL and said.replace(" ", "").removesuffix("db") in ("-inf", "silence"):
            return self.low
        match = re.match(r"^([+-]?(?:\d+\.?\d*|\.\d+))\s*(k?)\s*([^\d\s].*)?$", said.replace(",", "."))
        unit = (match[3] or "").strip() if match else ""
        if not match or unit not in ("", self.unit.lower()):
            raise self._unread(text)
        return float(match[1]) * (1000 if match[2] else 1)

    def _unread(self, text: str) -> RequestError:
        accepted = (
            ", ".join(x.text for x in self.labels[:12])
            if self.labels
            else f"{self.format(self.low)} to {self.format(self.high)}"
        )
        return RequestError("value-unread", f"“{text}” is not a value of {self.name}", place="value", accepted=accepted)

    def scale_marks(self) -> list[tuple[float, str]]:
        """Values worth marking on an axis from low to high, with their texts."""
        if self.labels:
            return [(x.value, x.text) for x in self.labels]
        if self.axis is Axis.LEVEL:
            marks = [v for v in (-72, -60, -48, -36, -24, -18, -12, -6, 0, 6, 12) if self.low < v <= self.high]
            return [(v, self.format(v, unit=False).removesuffix(".0")) for v in [self.low, *marks]]
        if self.axis is Axis.LOG:
            return self._log_marks()
        step = round_step((self.high - self.low) / 8)
        count = math.floor((self.high - self.low) / step + 1e-9)
        values = [self.low + i * step for i in range(count + 1)]
        return [(v, _number(v, 3).rstrip("0").rstrip(".")) for v in values]

    def _log_marks(self) -> list[tuple[float, str]]:
        decade = 10.0 ** math.floor(math.log10(self.low))
        marks = []
        while decade <= self.high:
            marks += [m * decade for m in (1, 2, 5) if self.low <= m * decade <= self.high]
            decade *= 10
        return [(v, _short_number(v)) for v in marks]


def _number(value: float, decimals: int) -> str:
    """A number with a true minus sign and no negative zero."""
    text = f"{value:.{decimals}f}"
    if float(text) == 0:
        text = text.lstrip("-")
    return text.replace("-", "−")


def _short_number(value: float) -> str:
    return f"{value / 1000:g}k" if value >= 1000 else f"{value:g}"


def round_step(rough: float) -> float:
    """The next round number: 1, 2, 2.5 or 5 times a power of ten."""
    size = 10.0 ** math.floor(math.log10(rough))
    return next(m * size for m in (1.0, 2.0, 2.5, 5.0, 10.0) if m * size >= rough - 1e-12)


def level(id: str, name: str = "Level", value: float = 0.0, **more: object) -> Parameter:
    """A fader: decibels from silence to +12."""
    fields = {"family": Family.LEVEL, "unit": "dB", "axis": Axis.LEVEL, "low": SILENCE, "high": 12.0} | more
    return Parameter(id, name, value=value, **fields)  # type: ignore[arg-type]


def pan(id: str, name: str = "Pan", value: float = 0.0) -> Parameter:
    """A pan from full left (−100) to full right (100)."""
    return Parameter(id, name, Family.PAN, low=-100.0, high=100.0, value=value)


def mute(id: str, name: str = "Muted", value: float = 0.0) -> Parameter:
    """The mute switch, in words at both ends."""
    words = (Label(0.0, "sounding"), Label(1.0, "muted"))
    return Parameter(id, name, Family.MUTE, Kind.SWITCH, labels=words, value=value)
