"""Sound behind levels: how far the sound of a parameter's track reaches, column by column of a span."""

from __future__ import annotations

from collections.abc import Callable, Iterable

import numpy as np

from velmot.core.parameters.parameter import Family
from velmot.core.session.session import Session
from velmot.core.session.sounds import Audio
from velmot.core.time.ticks import Floats
from velmot.sound.library import Library
from velmot.sound.outlines import outline
from velmot.sound.path import pieces_of


def silhouettes(
    session: Session,
    parameters: Iterable[str],
    start: int,
    end: int,
    library: Library,
    is_there: Callable[[Audio], bool],
) -> dict[str, Floats]:
    """For levels and mutes among parameters how high the sound of their track reaches, 0 to 1, in equal parts of a span of ticks."""
    found: dict[str, Floats] = {}
    a, b = (float(session.tempo.seconds(tick)) for tick in (start, end))
    edges = np.linspace(start, end, 800).astype(np.int64)
    seconds = session.tempo.seconds(edges)
    for id in parameters:
        if session.parameter(id).family not in (Family.LEVEL, Family.MUTE):
            continue
        columns = outline(pieces_of(session, session.owner(id), is_there), library, a, b)
        if columns.any():
            at = np.clip(((seconds - a) / max(b - a, 1e-9) * len(columns)).astype(int), 0, len(columns) - 1)
            found[id] = np.clip(columns[at], 0.0, 1.0)
    return found
