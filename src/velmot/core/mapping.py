"""Mappings between parameters of different units: one straight line between the two axes, never a resampling."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Literal

import numpy as np

from velmot.core.envelope import HOLD, Envelope, Fragment, unbend
from velmot.core.errors import RequestError
from velmot.core.parameters import SILENCE, Axis, Parameter

How = Literal["unit", "range", "fit", "around"]


@dataclass(frozen=True)
class Wish:
    """How a source becomes a target: the mapping and the numbers it needs, in the parameters' own units.

    `low` and `high` are where a fit lands (nothing means the target's whole range); `anchor` becomes
    `to_anchor` (nothing means the target's static value) and one source axis unit `depth` target axis units.
    """

    how: How = "fit"
    low: float | None = None
    high: float | None = None
    upside_down: bool = False
    anchor: float = 0.0
    to_anchor: float | None = None
    depth: float = 1.0
    hysteresis: float = 0.0


def affine(source: Parameter, envelope: Envelope, to: Parameter, wish: Wish) -> tuple[float, float]:
    """(scale, offset) of the mapping between the two axes; RequestError where it makes no sense."""
    if wish.how == "unit":
        if (source.unit, source.axis) != (to.unit, to.axis) or source.holds_only != to.holds_only:
            said = f"{source.name} and {to.name} have different units"
            raise RequestError("unit-differs", said, place="mapping", accepted="range, fit or around")
        return 1.0, 0.0
    if wish.how == "around":
        anchor = float(source.axis.place(_value(source, wish.anchor, "anchor")))
        landing = to.value if wish.to_anchor is None else _value(to, wish.to_anchor, "to_anchor")
        depth = -wish.depth if wish.upside_down else wish.depth
        return depth, float(to.axis.place(landing)) - depth * anchor
    low, high = source_span(source, envelope, wish.how)
    to_low, to_high = target_span(wish, to)
    if wish.upside_down:
        to_low, to_high = to_high, to_low
    scale = (to_high - to_low) / (high - low)
    return scale, to_low - scale * low


def source_span(source: Parameter, envelope: Envelope, how: How) -> tuple[float, float]:
    """What the mapping reads from, in source axis units; silence is not a place on it."""
    if how == "range":
        return float(source.axis.place(source.low)), float(source.axis.place(source.high))
    if source.labels:
        return source.labels[0].value, source.labels[-1].value
    places = envelope.places
    if source.axis is Axis.LEVEL:
        places = places[places > SILENCE]
    if not len(places) or places.min() == places.max():
        said = f"{source.name} does not move in this range, so there is nothing to fit"
        raise RequestError("nothing-moves", said, place="mapping", accepted="a range in which it moves, or around")
    return float(places.min()), float(places.max())


def target_span(wish: Wish, to: Parameter) -> tuple[float, float]:
    """Where a fit or a range lands, in target axis units."""
    if wish.how == "range" or wish.low is None or wish.high is None:
        return float(to.axis.place(to.low)), float(to.axis.place(to.high))
    low, high = _value(to, wish.low, "low"), _value(to, wish.high, "high")
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


def mapped(source: Parameter, fragment: Fragment, to: Parameter, wish: Wish) -> tuple[Fragment, str]:
    """The fragment on the target's axis, and in words what became of silence (empty if there was none).

    Values may still lie outside the target's range; the steps of named values are solved, not sampled.
    """
    envelope = fragment.envelope
    scale, offset = affine(source, envelope, to, wish)
    if to.labels:
        places = scale * envelope.places + offset
        return Fragment(_stepped(envelope, places, to, wish.hysteresis), fragment.length), ""
    curve = envelope.map_axis(scale, offset, to.axis)
    said, silent = "", envelope.values <= SILENCE
    if source.axis is Axis.LEVEL and to.axis is not Axis.LEVEL and silent.any():
        lowest = to.low if scale > 0 else to.high
        values = np.where(silent, lowest, curve.values)
        curve = Envelope(curve.ticks, values, curve.bends, to.axis)
        said = f"Where the source is silent, {to.name} is {to.format(lowest)}"
    return Fragment(curve, fragment.length), said


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
