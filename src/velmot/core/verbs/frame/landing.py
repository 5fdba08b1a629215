"""Landing: how a piece is laid somewhere, and how much may be laid in one step. The working copy lays with this."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from itertools import pairwise

from velmot.core.curves import editing
from velmot.core.curves.editing import Fragment, Piece
from velmot.core.curves.envelope import Envelope
from velmot.core.curves.spans import topmost
from velmot.core.errors import RequestError
from velmot.core.limits import MOST_LANDED_POINTS, MOST_LANDINGS

Spans = tuple[tuple[int, int], ...]


@dataclass(frozen=True)
class Landed:
    """A fragment where it lands, in the lane's own ticks; `limited` are the spans of it that had to be limited."""

    at: int
    fragment: Fragment
    limited: Spans = ()

    @property
    def end(self) -> int:
        return self.at + self.fragment.length

    def before(self, end: int) -> Landed | None:
        """As much of it as lies in ``[0, end)``; None if nothing does."""
        room = end - self.at
        if room <= 0 or self.at < 0:
            return None
        if self.fragment.length <= room:
            return self
        limited = tuple((a, min(b, room)) for a, b in self.limited if a < room)
        return Landed(self.at, editing.cut(self.fragment.envelope, 0, room), limited)

    def part(self, start: int, end: int) -> Landed:
        """What of it lies between two of the lane's ticks."""
        a, b = start - self.at, end - self.at
        limited = tuple((max(x, a) - a, min(y, b) - a) for x, y in self.limited if x < b and a < y)
        return Landed(start, editing.cut(self.fragment.envelope, a, b), limited)


def spans_limited(landings: Sequence[Landed]) -> int:
    """How many spans had to be limited of what lands and is not covered by what lands later."""
    if not any(x.limited for x in landings):
        return 0
    seen = {
        (n, span)
        for a, b, n in topmost([(x.at, x.end) for x in landings])
        for span in landings[n].limited
        if landings[n].at + span[0] < b and a < landings[n].at + span[1]
    }
    return len(seen)


@dataclass
class Budget:
    """Counts what a step lays down; RequestError once it is more than Velmot takes on."""

    points: int = 0
    landings: int = 0

    def spend(self, points: int, landings: int = 1) -> None:
        """Count some more points and landings."""
        self.points += points
        self.landings += landings
        if self.points > MOST_LANDED_POINTS or self.landings > MOST_LANDINGS:
            accepted = f"at most {MOST_LANDINGS:,} pieces with {MOST_LANDED_POINTS:,} points together"
            raise RequestError("too-much", place="times", accepted=accepted)


def laid(base: Envelope, landings: Sequence[Landed], ramp: int = 0, stop: int | None = None) -> Envelope:
    """The curve with fragments laid over it, a later one over an earlier one.

    With `ramp` each goes straight from the value outside to its own over so many ticks, at both its edges. At `stop` time
    ends: there is nothing to lead out to.
    """
    spans = [(x.at, x.end) for x in landings]
    order = sorted(range(len(spans)), key=lambda i: spans[i])
    apart = all(spans[a][1] <= spans[b][0] for a, b in pairwise(order))
    if ramp and not apart:
        for x in landings:
            base = editing.splice(base, x.fragment, x.at, ramp, stop)
        return base
    if ramp:
        landings = _ramped(base, [landings[i] for i in order], ramp, stop)
        spans = [(x.at, x.end) for x in landings]
    pieces = [Piece(a, b, landings[i].fragment.envelope, landings[i].at) for a, b, i in topmost(spans)]
    return editing.overlaid(base, pieces, stop)


def _ramped(base: Envelope, landings: list[Landed], ramp: int, stop: int | None) -> list[Landed]:
    """Landings in order that do not overlap, each led in from what stands before it and out to what stands after."""
    out: list[Landed] = []
    for x in landings:
        meets = bool(out) and out[-1].end == x.at
        before = base.value_at(x.at, "right" if meets else "left")  # one that ends here has been led out to the base
        after = None if x.end == stop else base.value_at(x.end)
        out.append(Landed(x.at, x.fragment.ramped(before, after, ramp)))
    return out
