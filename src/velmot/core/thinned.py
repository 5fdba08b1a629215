"""What a lane remembers of having been thinned, so that thinning it again takes it no further from what it was.

A curve within a bound of the thinned one may need fewer points still, but it could be twice the bound from the curve
that was. Nothing in the points tells; so the lane keeps each span, its bound, and what it became there.
"""

from __future__ import annotations

import json
from collections.abc import Iterator
from dataclasses import dataclass, replace
from hashlib import blake2b
from typing import Any

from velmot.core.editing import cut
from velmot.core.envelope import Envelope
from velmot.core.session import Extra, Lane
from velmot.core.time import MOST_TICKS, Ticks, beats_of, ticks_of

KEY = "thinned"
"""The key it stands under among what a lane holds beside its points."""

MOST = 100
"""How many spans a lane remembers, the newest ones."""


@dataclass(frozen=True)
class Thinned:
    """A curve was thinned between two of its lane's ticks, within a bound in axis units; points at `kept` were to stay."""

    curve: str
    within: float
    start: int
    end: int
    kept: frozenset[int] = frozenset()

    def holds(self, curve: Envelope) -> bool:
        """Whether a lane's curve is still what it became there."""
        return self.curve == mark_of(curve, self.start, self.end)


def mark_of(curve: Envelope, start: int, end: int) -> str:
    """What tells a curve between two ticks from every other one: 32 hexadecimal digits of its points."""
    mark = blake2b(digest_size=16)
    for column in cut(curve, start, end).envelope.arrays():
        mark.update(column.tobytes())
    return mark.hexdigest()


def is_thinned(lane: Lane, within: float, start: int, end: int, keep: Ticks) -> bool:
    """Whether all of a span is as thinning within no more than that left it, be it in parts, with nothing else to stay."""
    stay, reached = set(keep.tolist()), start
    for known in sorted(_read(lane), key=lambda known: known.start):
        counts = known.within >= within and known.kept <= stay
        if counts and known.start <= reached < known.end and known.holds(lane.envelope):
            reached = known.end
    return reached >= end


def remembering(lane: Lane, curve: Envelope, within: float, start: int, end: int, kept: Ticks) -> Extra:
    """What a lane holds beside its points once it is this curve, thinned so in a span and unchanged beside it."""
    now = Thinned(mark_of(curve, start, end), within, start, end, frozenset(kept.tolist()))
    beside = [side for known in _read(lane) if known.holds(lane.envelope) for side in _beside(known, curve, start, end)]
    said = [_row(known) for known in [*beside, now][-MOST:]]
    return (*((k, v) for k, v in lane.extra if k != KEY), (KEY, json.dumps(said)))


def _beside(known: Thinned, curve: Envelope, start: int, end: int) -> Iterator[Thinned]:
    """What goes on being known of a span where another one is thinned: what comes before and after that."""
    for a, b in ((known.start, min(known.end, start)), (max(known.start, end), known.end)):
        if a < b:
            yield replace(
                known, curve=mark_of(curve, a, b), start=a, end=b, kept=frozenset(t for t in known.kept if a <= t <= b)
            )


def _row(known: Thinned) -> dict[str, Any]:
    return {
        "curve": known.curve,
        "within": known.within,
        "start": beats_of(known.start),
        "end": beats_of(known.end),
        "kept": [beats_of(tick) for tick in sorted(known.kept)],
    }


def _read(lane: Lane) -> list[Thinned]:
    """What the lane remembers; a file may say anything there, and what cannot be is nothing."""
    try:
        said: list[Any] = json.loads(dict(lane.extra)[KEY])
        known = [_thinned(row) for row in said[:MOST]]
    except (KeyError, TypeError, ValueError, OverflowError):
        return []
    return [one for one in known if 0 <= one.start < one.end <= MOST_TICKS]


def _thinned(row: Any) -> Thinned:
    kept = frozenset(map(_tick, row["kept"]))
    return Thinned(row["curve"], float(row["within"]), _tick(row["start"]), _tick(row["end"]), kept)


def _tick(beats: Any) -> int:
    if not isinstance(beats, (int, float)):
        raise TypeError(beats)
    return ticks_of(beats)
