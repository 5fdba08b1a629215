"""Hysteresis: how a curve that glides becomes steps between named values without flapping."""

from __future__ import annotations

import numpy as np

from velmot.core.curves.envelope import Envelope
from velmot.core.curves.segments import HOLD, unbend
from velmot.core.parameters.parameter import Parameter
from velmot.core.time.ticks import Floats


def stepped(envelope: Envelope, mapped_to: Floats, to: Parameter, hysteresis: float) -> Envelope:
    """The nearest named value at every moment, its crossings solved on each segment.

    `mapped_to` are the points' coordinates on the target's axis. A step is taken late by `hysteresis`: so far past the
    middle between two values, in halves of what lies between them, so that a curve that trembles there does not flap.
    """
    values = [label.value for label in to.labels]
    labels = to.axis.coordinate(np.array(values))
    middles = (labels[1:] + labels[:-1]) / 2
    widths = labels[1:] - labels[:-1]
    state = int(np.abs(labels - mapped_to[0]).argmin())
    rows: list[tuple[int, float, float]] = [(int(envelope.ticks[0]), values[state], HOLD)]
    for i in range(len(envelope) - 1):
        y0, y1, k = float(mapped_to[i]), float(mapped_to[i + 1]), float(envelope.bends[i])
        start, span = int(envelope.ticks[i]), int(envelope.ticks[i + 1] - envelope.ticks[i])
        rising = y1 > y0
        while (state < len(middles) if rising else state > 0) and y0 != y1:
            n = state if rising else state - 1
            bound = middles[n] + (1 if rising else -1) * hysteresis * widths[n] / 2
            if (y1 < bound) if rising else (y1 > bound):
                break
            progress = min(max((bound - y0) / (y1 - y0), 0.0), 1.0)
            x = progress if span == 0 else (1.0 if k == HOLD else float(unbend(progress, k)))
            state += 1 if rising else -1
            rows.append((start + int(np.ceil(x * span - 1e-6)), values[state], HOLD))
    last = {tick: (tick, value, shape) for tick, value, shape in rows}
    end = int(envelope.ticks[-1])
    kept = [row for row in last.values() if row[0] < end] or [rows[0]]
    return Envelope.of([*kept, (end, kept[-1][1], HOLD)], to.axis)
