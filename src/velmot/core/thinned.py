"""What a lane remembers of having been thinned, so that thinning it again takes it no further from what it was.

A curve within a bound of the thinned one may need fewer points still, but it could be twice the bound from the curve
that was. Nothing in the points tells; so the lane keeps the bound, the span, and which curve it is true of.
"""

from __future__ import annotations

import json
from dataclasses import dataclass
from hashlib import blake2b
from typing import Any

from velmot.core.envelope import Envelope
from velmot.core.session import Extra, Lane
from velmot.core.time import Ticks, beats_of, ticks_of

KEY = "thinned"
"""The key it stands under among what a lane holds beside its points."""


@dataclass(frozen=True)
class Thinned:
    """A curve was thinned between two of its lane's ticks, within a bound in axis units; points at `kept` were to stay."""

    curve: str
    within: float
    start: int
    end: int
    kept: frozenset[int] = frozenset()


def mark_of(curve: Envelope) -> str:
    """What tells a curve from every other one: 32 hexadecimal digits of its points."""
    mark = blake2b(digest_size=16)
    for column in curve.arrays():
        mark.update(column.tobytes())
    return mark.hexdigest()


def is_thinned(lane: Lane, within: float, start: int, end: int, keep: Ticks) -> bool:
    """Whether the lane, as it is now, was thinned within no more than that, there, and with nothing else to stay."""
    known = _read(lane)
    return (
        known is not None
        and known.within >= within
        and known.start <= start
        and end <= known.end
        and known.kept <= set(keep.tolist())
        and known.curve == mark_of(lane.envelope)
    )


def remembering(lane: Lane, thinned: Thinned) -> Extra:
    """What a lane holds beside its points, with this in it."""
    said = {
        "curve": thinned.curve,
        "within": thinned.within,
        "start": beats_of(thinned.start),
        "end": beats_of(thinned.end),
        "kept": [beats_of(tick) for tick in sorted(thinned.kept)],
    }
    return (*((k, v) for k, v in lane.extra if k != KEY), (KEY, json.dumps(said)))


def _read(lane: Lane) -> Thinned | None:
    """What the lane remembers; a file may say anything there, and what cannot be is nothing."""
    try:
        said: Any = json.loads(dict(lane.extra)[KEY])
        kept = frozenset(map(_tick, said["kept"]))
        return Thinned(said["curve"], float(said["within"]), _tick(said["start"]), _tick(said["end"]), kept)
    except (KeyError, TypeError, ValueError, OverflowError):
        return None


def _tick(beats: Any) -> int:
    if not isinstance(beats, (int, float)):
        raise TypeError(beats)
    return ticks_of(beats)
