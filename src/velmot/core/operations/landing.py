"""Landing: what every verb that lays something somewhere shares: its limits, what does not fit, and what is said about it."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from itertools import pairwise
from typing import TYPE_CHECKING

from velmot.core import editing
from velmot.core.change import Caution
from velmot.core.editing import Fragment, Piece
from velmot.core.envelope import Envelope
from velmot.core.errors import RequestError
from velmot.core.limits import MOST_LANDED_POINTS, MOST_LANDINGS
from velmot.core.parameters import Parameter
from velmot.core.session import Lane, Precedence, Session, Track
from velmot.core.spans import topmost

if TYPE_CHECKING:
    from velmot.core.mapping import Mapped
    from velmot.core.operations.frame import Draft


@dataclass(frozen=True)
class Landed:
    """A fragment where it lands, in the lane's own ticks."""

    at: int
    fragment: Fragment

    @property
    def end(self) -> int:
        return self.at + self.fragment.length


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
            said = "this would lay down too much in one step"
            accepted = f"at most {MOST_LANDINGS:,} pieces with {MOST_LANDED_POINTS:,} points together"
            raise RequestError("too-much", said, place="times", accepted=accepted)


def laid(base: Envelope, landings: Sequence[Landed], ramp: int = 0) -> Envelope:
    """The curve with fragments laid over it, a later one over an earlier one.

    With `ramp` each goes straight from the value outside to its own over so many ticks, at both its edges.
    """
    if len(landings) == 1:
        return editing.splice(base, landings[0].fragment, landings[0].at, ramp)
    spans = [(x.at, x.end) for x in landings]
    order = sorted(range(len(spans)), key=lambda i: spans[i])
    apart = all(spans[a][1] <= spans[b][0] for a, b in pairwise(order))
    if ramp and not apart:
        for x in landings:
            base = editing.splice(base, x.fragment, x.at, ramp)
        return base
    if ramp:
        landings = _ramped(base, [landings[i] for i in order], ramp)
        spans = [(x.at, x.end) for x in landings]
    pieces = [Piece(a, b, landings[i].fragment.envelope, landings[i].at) for a, b, i in topmost(spans)]
    return editing.overlaid(base, pieces)


def _ramped(base: Envelope, landings: list[Landed], ramp: int) -> list[Landed]:
    """Landings in order that do not overlap, each led in from what stands before it and out to what stands after."""
    out: list[Landed] = []
    for x in landings:
        meets = bool(out) and out[-1].end == x.at
        before = base.value_at(x.at, "right" if meets else "left")  # one that ends here has been led out to the base
        out.append(Landed(x.at, x.fragment.ramped(before, base.value_at(x.end), ramp)))
    return out


def within_session(session: Session, fragment: Fragment, at: int) -> Landed | None:
    """A fragment at `at` as far as the session reaches; None if it would lie wholly outside."""
    room = session.length - at
    if room <= 0 or at < 0:
        return None
    return Landed(at, fragment if fragment.length <= room else editing.cut(fragment.envelope, 0, room))


def put(draft: Draft, made: Mapped, target: Parameter, at: int, ramp: int = 0) -> list[Caution]:
    """Lay one mapped piece over a parameter's own lane, from a place inside the session on; what there is to say of it."""
    session, owner = draft.session, draft.session.owner(target.id)
    cautions = [Caution("silence", made.silence, track=owner.id)] if made.silence else []
    landed = within_session(session, made.fragment, at)
    assert landed is not None
    if landed.fragment.length < made.fragment.length:
        cautions.append(beyond_end(session, owner))
    if made.spans_limited:
        cautions.append(limited(made.spans_limited, owner, target, at, landed.end))
    draft.lay(target, [landed], ramp, made.spans_limited)
    return [*cautions, *region_wins(session, target, owner, [(at, landed.end)])]


def take_away(draft: Draft, lane: Lane, start: int, end: int) -> None:
    """Take from a lane what it does over a span in session ticks; a lane that goes whole is removed."""
    session, parameter = draft.session, draft.session.parameter(lane.parameter)
    if (start, end) == session.span(lane):
        draft.write(parameter, lane.home, None, start, end)
        return
    zero, before = session.zero_of(lane), draft.envelope(parameter, lane.home, start)
    straight = editing.straightened(before, [(start - zero, end - zero)], parameter.holds_only)
    draft.write(parameter, lane.home, straight, start, end)


# ── what is said ──────────────────────────────────────────────────────────────────────────────


def not_reading(track: Track) -> Caution:
    """What lands on a track that is off would not be heard."""
    return Caution("not-reading", f"{track.name} is not reading its lanes: this would not be heard", track=track.id)


def beyond_end(session: Session, track: Track) -> Caution:
    """What would land beyond the end of the session is left out."""
    said = f"What would land beyond the session's end, {session.tempo.position(session.length)}, is left out"
    return Caution("beyond-end", said, track=track.id, start=session.length)


def limited(spans: int, track: Track, target: Parameter, start: int, end: int) -> Caution:
    """Some spans go further than the target can."""
    count = "1 span" if spans == 1 else f"{spans:,} spans"
    said = f"{count} limited to what {track.name} {target.name} can be"
    return Caution("limited", said, track=track.id, start=start, end=end)


def region_wins(session: Session, target: Parameter, track: Track, spans: Sequence[tuple[int, int]]) -> list[Caution]:
    """Regions whose own lanes win over what lands on the track, where precedence says region."""
    if session.precedence is not Precedence.REGION:
        return []
    start, end = min(a for a, _ in spans), max(b for _, b in spans)
    able = [r for r, _ in session.region_lanes(target.id) if not r.muted and r.start < end and start < r.end]
    names = [r.name for r in able if any(r.start < b and a < r.end for a, b in spans)]
    if not names:
        return []
    said = f"In {_some(names)} the region's own {target.name} lane wins: the rest is heard"
    return [Caution("region-wins", said, track=track.id, start=start, end=end)]


def _some(names: list[str]) -> str:
    return ", ".join(names[:3]) + (f" and {len(names) - 3} more regions" if len(names) > 3 else "")
