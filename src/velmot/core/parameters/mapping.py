"""Mappings between parameters of different units: one straight line between the two axes, never a resampling."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from typing import Literal

import numpy as np

from velmot.core.curves import editing
from velmot.core.curves.axes import Axis
from velmot.core.curves.editing import Fragment
from velmot.core.curves.envelope import SAME, Envelope
from velmot.core.curves.segments import HOLD
from velmot.core.errors import RequestError
from velmot.core.limits import STEEPEST
from velmot.core.parameters.hysteresis import stepped
from velmot.core.parameters.parameter import Parameter
from velmot.core.time.ticks import Floats

How = Literal["unit", "range", "fit", "around"]


@dataclass(frozen=True)
class Mapping:
    """How a source becomes a target: the way and the numbers it needs, in the parameters' own units.

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


def affine(source: Parameter, curves: Sequence[Envelope], to: Parameter, mapping: Mapping) -> tuple[float, float]:
    """(scale, offset) of the mapping between the two axes; RequestError where it makes no sense.

    `curves` are all that is mapped together: what a fit reads its span from.
    """
    if mapping.how == "unit":
        if not same_unit(source, to):
            raise RequestError(
                "unit-differs", name=source.name, name2=to.name, place="mapping", accepted="range, fit or around"
            )
        return 1.0, 0.0
    if mapping.how == "around":
        return _around(source, to, mapping)
    low, high = source_span(source, curves, mapping.how)
    to_low, to_high = target_span(mapping, to)
    if mapping.upside_down:
        to_low, to_high = to_high, to_low
    scale = (to_high - to_low) / (high - low)
    if not abs(scale) <= STEEPEST:
        raise RequestError(
            "nothing-moves/little",
            name=source.name,
            name2=to.name,
            place="mapping",
            accepted="a range in which it moves, or around",
        )
    return scale, to_low - scale * low


def same_unit(one: Parameter, other: Parameter) -> bool:
    """Whether a value of one parameter means the same on another."""
    return (one.unit, one.axis, one.holds_only) == (other.unit, other.axis, other.holds_only)


def _around(source: Parameter, to: Parameter, mapping: Mapping) -> tuple[float, float]:
    if not abs(mapping.depth) <= STEEPEST:
        raise RequestError("depth", depth=mapping.depth, place="depth", accepted=f"−{STEEPEST:,.0f} to {STEEPEST:,.0f}")
    anchor = float(source.axis.coordinate(possible_value(source, mapping.anchor, "anchor")))
    landing = to.value if mapping.to_anchor is None else possible_value(to, mapping.to_anchor, "to_anchor")
    depth = -mapping.depth if mapping.upside_down else mapping.depth
    return depth, float(to.axis.coordinate(landing)) - depth * anchor


def source_span(source: Parameter, curves: Sequence[Envelope], how: How) -> tuple[float, float]:
    """What the mapping reads from, in source axis units.

    Silence that is held is no place on it; a glide from silence or to it starts or ends at silence.
    """
    if how == "range":
        return float(source.axis.coordinate(source.low)), float(source.axis.coordinate(source.high))
    if source.labels:
        low, high = source.axis.coordinate(np.array([source.labels[0].value, source.labels[-1].value])).tolist()
        return low, high
    places = np.concatenate([_glided(curve) for curve in curves])
    if not len(places) or places.min() == places.max():
        raise RequestError(
            "nothing-moves", name=source.name, place="mapping", accepted="a range in which it moves, or around"
        )
    return float(places.min()), float(places.max())


def _glided(curve: Envelope) -> Floats:
    """The coordinates a curve reaches, silence only where a glide does."""
    curve = curve.only_heard()
    silent = curve.axis.silent(curve.values)
    if not silent.any():
        return curve.coordinates
    moving = np.isfinite(curve.bends) & np.append(curve.ticks[1:] > curve.ticks[:-1], False)
    moving &= np.append(curve.values[1:] != curve.values[:-1], False)
    reached = ~silent | moving | np.append(False, moving[:-1])
    return np.asarray(curve.coordinates[reached])


def target_span(mapping: Mapping, to: Parameter) -> tuple[float, float]:
    """Where a fit or a range lands, in target axis units."""
    if mapping.how == "range" or mapping.low is None or mapping.high is None:
        return float(to.axis.coordinate(to.low)), float(to.axis.coordinate(to.high))
    low, high = possible_value(to, mapping.low, "low"), possible_value(to, mapping.high, "high")
    if low == high:
        raise RequestError("fit-equal", value=to.format(low), place="targets", accepted="two different values")
    return float(to.axis.coordinate(low)), float(to.axis.coordinate(high))


def possible_value(parameter: Parameter, value: float, place: str) -> float:
    """The value itself; RequestError with the place where the parameter cannot have it."""
    if not np.isfinite(value) or not parameter.low <= value <= parameter.high:
        accepted = f"{parameter.format(parameter.low)} to {parameter.format(parameter.high)}"
        raise RequestError(
            "value-range/typed",
            name=parameter.name,
            value=f"{value:g} {parameter.unit}".rstrip(),
            place=place,
            accepted=accepted,
        )
    return value


@dataclass(frozen=True)
class Mapped:
    """A fragment on another parameter's axis, within its range: the spans that had to be limited, and what became of silence."""

    fragment: Fragment
    limited: tuple[tuple[int, int], ...] = ()
    silence: str = ""

    @property
    def spans_limited(self) -> int:
        """How many spans had to be limited."""
        return len(self.limited)


def mapped(source: Parameter, fragment: Fragment, to: Parameter, mapping: Mapping, line: tuple[float, float]) -> Mapped:
    """The fragment by the straight `line` (scale, offset) on the target's axis, limited to what it can be.

    It is limited before it becomes values, as a steep line may lead to none. The steps of named values are solved,
    not sampled. Every moment is mapped by its own value alone, so mapping and cutting give the same either way round.
    """
    ends = target_span(mapping, to) if mapping.how in ("range", "fit") and not to.labels else ()
    return _by_line(source, fragment, to, line, ends, mapping.hysteresis)


def mapped_by_line(
    source: Parameter, fragment: Fragment, to: Parameter, line: tuple[float, float], made_for: tuple[float, float]
) -> Mapped:
    """The same by a line alone, for a fragment that was made for a span of source coordinates."""
    return _by_line(source, fragment, to, line, tuple(line[0] * y + line[1] for y in made_for), 0.0)


def _by_line(
    source: Parameter,
    fragment: Fragment,
    to: Parameter,
    line: tuple[float, float],
    spanned: tuple[float, ...],
    hysteresis: float,
) -> Mapped:
    scale, offset = line
    if to.labels:
        mapped_to = scale * fragment.envelope.coordinates + offset
        return Mapped(Fragment(stepped(fragment.envelope, mapped_to, to, hysteresis), fragment.length))
    envelope, silence = fragment.envelope, _silence_lands(source, to, spanned, line)
    floor = source.axis.floor
    if floor is not None and silence != scale * floor + offset:
        envelope = envelope.apart_from_silence()
    mapped_to = _on_the_floor(scale * envelope.coordinates + offset, to)
    silent = source.axis.silent(envelope.values)
    low, high = float(to.axis.coordinate(to.low)), float(to.axis.coordinate(to.high))
    coordinates = Envelope(envelope.ticks, np.where(silent, silence, mapped_to), envelope.bends, Axis.LINEAR)
    clipped, spans = editing.limited(coordinates, low, high)
    if floor is not None and to.axis.floor == to.low:  # the lowest of a fade from silence loses nothing
        spans = tuple((a, b) for a, b in spans if not _beside_silence(coordinates, a, b, to.low))
    values = np.clip(to.axis.value_of(clipped.values), to.low, to.high)
    curve = Envelope(clipped.ticks, values, clipped.bends, to.axis)
    said = ""
    if silent.any() and to.axis.floor is None:
        lowest = float(np.clip(to.axis.value_of(min(max(silence, low), high)), to.low, to.high))
        said = f"Where the source is silent, {to.name} is {to.format(lowest)}"
    return Mapped(Fragment(curve, fragment.length), spans, said)


def _on_the_floor(coordinates: Floats, to: Parameter) -> Floats:
    """With what only rounding keeps from silence put there."""
    if to.axis.floor is None:
        return coordinates
    return np.where(np.abs(coordinates - to.axis.floor) <= SAME, to.axis.floor, coordinates)


def _beside_silence(curve: Envelope, start: int, end: int, floor: float) -> bool:
    """Whether a curve is silent right before or right after a span in which it lies below silence."""
    return curve.value_at(start) < floor and (curve.value_at(start - 1) == floor or curve.value_at(end) == floor)


def _silence_lands(source: Parameter, to: Parameter, spanned: tuple[float, ...], line: tuple[float, float]) -> float:
    """Where silence lands, in target axis units: silence stays silence on a level; elsewhere it is the end of what is
    mapped where that reaches down to silence, else the lowest there is (the highest, upside down).
    """
    scale, offset = line
    floor = source.axis.floor
    if floor is None:
        return 0.0
    if to.axis.floor is not None:
        return to.axis.floor
    ends = [float(to.axis.coordinate(v)) for v in (to.low, to.high)]
    reached = scale * floor + offset
    if any(abs(reached - end) <= SAME for end in spanned):
        return reached
    return ends[0] if scale > 0 else ends[1]


def possible(fragment: Fragment, parameter: Parameter) -> Mapped:
    """The fragment with every value one the parameter can have, its numbers kept: mapped to itself, and limited."""
    if not parameter.labels:
        envelope, spans = editing.limited(fragment.envelope, parameter.low, parameter.high)
        return Mapped(Fragment(envelope, fragment.length), spans)
    values = [parameter.nearest(v) for v in fragment.envelope.values.tolist()]
    ticks = fragment.envelope.ticks.tolist()
    given = fragment.envelope.values.tolist()
    moved = tuple((t, t + 1) for t, a, b in zip(ticks, values, given, strict=True) if a != b)
    rows = zip(ticks, values, [HOLD] * len(values), strict=True)
    return Mapped(Fragment(Envelope.of(rows, parameter.axis), fragment.length), moved)
