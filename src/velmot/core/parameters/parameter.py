"""Parameters: their kinds and families, and how their values are written and read."""

from __future__ import annotations

import math
import re
from dataclasses import dataclass, field
from enum import StrEnum

import numpy as np

from velmot.core.curves.axes import SILENCE, SILENCE_TEXT, Axis, number_text
from velmot.core.errors import RequestError
from velmot.core.limits import LARGEST_VALUE, SMALLEST_LOG, SMALLEST_RANGE
from velmot.core.time.ticks import Floats


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


def range_problem(axis: Axis, low: float, high: float) -> tuple[str, str, str] | None:
    """(which end, what is wrong, what would be right) of a range that no parameter can have; None for one it can."""
    if not (math.isfinite(low) and math.isfinite(high)):
        return "low", "the ends of a range must be finite numbers", "two numbers"
    if not low < high:
        return "high", f"the range {low:g} to {high:g} is empty", "low below high"
    if axis.logarithmic and low < SMALLEST_LOG:
        return "low", f"a log axis cannot start at {low:g}", f"a low above 0, from {SMALLEST_LOG:g} on"
    if max(-low, high) > LARGEST_VALUE:
        return "high", f"the range {low:g} to {high:g} reaches too far", f"values within ±{LARGEST_VALUE:g}"
    if float(axis.coordinate(high) - axis.coordinate(low)) < SMALLEST_RANGE:
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
            "parameter", name=self.name, why=message, place=f"parameter {self.id}, {name}", accepted=accepted
        )

    @property
    def holds_only(self) -> bool:
        """Stepped and switch parameters have no in-between, so their envelopes only hold."""
        return self.kind is not Kind.CONTINUOUS

    @property
    def reach(self) -> tuple[float, float]:
        """The axis coordinates of the lowest and the highest value."""
        return float(self.axis.coordinate(self.low)), float(self.axis.coordinate(self.high))

    @property
    def span(self) -> float:
        """How far the range reaches, in axis units."""
        low, high = self.reach
        return high - low

    @property
    def distance_unit(self) -> str:
        """The unit of distances: that of its axis, else its own; empty for plain numbers."""
        return self.axis.distance_unit or self.unit

    def position(self, values: Floats | float) -> Floats:
        """Where values lie in the range, on the axis: 0 at its low end, 1 at its high end."""
        return np.asarray((self.axis.coordinate(values) - self.reach[0]) / self.span)

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
        floor = self.axis.floor
        if floor is not None and value <= self.low <= floor:
            number = SILENCE_TEXT
        else:
            number = number_text(value, self.axis.digits(self.low, self.high).decimals_of(value))
        return f"{number} {self.unit}" if unit and self.unit else number

    def format_distance(self, distance: float) -> str:
        """A distance on the axis, in its unit: decibels, octaves, or the parameter's own."""
        if self.labels:
            return f"{distance:g} step" + ("" if distance == 1 else "s")
        return self.axis.distance_text(distance, self.low, self.high, self.unit)

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
                name=self.name,
                value=self.format(value),
                place="value",
                accepted=f"{self.format(self.low)} to {self.format(self.high)}",
            )
        return value

    def _parse_number(self, said: str, text: str) -> float:
        if self.axis.floor is not None and said.replace(" ", "").removesuffix("db") in ("-inf", "silence"):
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
        return RequestError("value-unread", text=text, name=self.name, place="value", accepted=accepted)

    def marks(self) -> list[tuple[float, str]]:
        """Values worth marking from low to high, with their texts: the named ones, else those of the axis."""
        return [(x.value, x.text) for x in self.labels] or self.axis.marks(self.low, self.high)


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
