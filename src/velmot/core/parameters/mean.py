"""The time-weighted mean of a curve: how high it is over a span, each moment counting alike; silence is no number in it."""

from __future__ import annotations

import numpy as np

from velmot.core.curves import editing
from velmot.core.curves.envelope import Envelope
from velmot.core.parameters.parameter import Parameter
from velmot.core.time.ticks import Floats


def time_weighted_mean(envelope: Envelope, parameter: Parameter, start: int, end: int) -> float:
    """The value at the time-weighted mean on the axis over ``[start, end)``; the commonest of named values.

    Where a level is silent it has no value to count; where it is so all along the mean is silence. A straight piece contributes its middle, a bend ∫(e^kx − 1)/(e^k − 1) = 1/k − 1/(e^k − 1) of its rise.
    """
    part = editing.cut(envelope, start, end).envelope
    spans = np.diff(part.ticks).astype(np.float64)
    if parameter.labels:
        times: dict[float, float] = {}
        for value, span in zip(part.values[:-1].tolist(), spans.tolist(), strict=True):
            times[value] = times.get(value, 0.0) + span
        return max(times, key=lambda v: times[v])
    spans = np.where(part.still_after[:-1] & part.axis.silent(part.values[:-1]), 0.0, spans)
    if not spans.any():
        return float(part.values[0])
    rise = np.diff(part.coordinates)
    mean = float(np.sum((part.coordinates[:-1] + rise * _mean_progress(part.bends[:-1])) * spans) / np.sum(spans))
    return min(max(float(parameter.axis.value_of(mean)), parameter.low), parameter.high)


def _mean_progress(bends: Floats) -> Floats:
    k = np.where(np.isfinite(bends) & (np.abs(bends) > 1e-4), bends, 1.0)
    curved = 1 / k - 1 / np.expm1(k)
    return np.where(np.isposinf(bends), 0.0, np.where(np.abs(bends) > 1e-4, curved, 0.5))
