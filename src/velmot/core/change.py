"""Changes: what an operation would replace, with its figures and cautions. Preview and apply share it."""

from __future__ import annotations

from dataclasses import dataclass, replace

from velmot.core.envelope import Envelope
from velmot.core.heard import largest_difference
from velmot.core.session import Lane, Session, Track


@dataclass(frozen=True)
class LaneSwap:
    """One lane before and after; None where it is made or removed."""

    before: Lane | None
    after: Lane | None

    @property
    def id(self) -> str:
        lane = self.after or self.before
        assert lane is not None
        return lane.id


@dataclass(frozen=True)
class TrackSwap:
    """One track before and after, both of the same id."""

    before: Track
    after: Track


@dataclass(frozen=True)
class Caution:
    """Something the user should know before applying. `code` is for machines, the place for a click."""

    code: str
    message: str
    track: str | None = None
    lane: str | None = None
    start: int | None = None
    end: int | None = None


@dataclass(frozen=True)
class Touched:
    """What happens to one lane: over which span (session ticks), how many points, how far it moves.

    `difference` is in axis units, `difference_at` the tick where it is largest.
    """

    lane: str
    parameter: str
    home: str
    start: int
    end: int
    points_before: int
    points_after: int
    difference: float
    difference_at: int
    spans_limited: int = 0


@dataclass(frozen=True)
class Change:
    """Every lane and track an operation replaces, and what it says about that."""

    title: str
    lanes: tuple[LaneSwap, ...] = ()
    tracks: tuple[TrackSwap, ...] = ()
    touched: tuple[Touched, ...] = ()
    cautions: tuple[Caution, ...] = ()

    @property
    def empty(self) -> bool:
        """Whether applying would change nothing."""
        return not self.lanes and not self.tracks

    def tracks_applied_to(self, session: Session) -> Session:
        """The session with only the tracks changed, so that parameters the change adds can be named."""
        tracks = {s.before.id: s.after for s in self.tracks}
        return session.with_tracks(tracks.get(track.id, track) for track in session.tracks) if tracks else session

    def applied_to(self, session: Session) -> Session:
        """The session after the change, checked; the one given stays as it is."""
        swaps = {s.before.id: s.after for s in self.lanes if s.before}
        lanes = [swaps.get(lane.id, lane) for lane in session.lanes]
        lanes += [s.after for s in self.lanes if s.before is None]
        kept = tuple(lane for lane in lanes if lane is not None)
        return replace(self.tracks_applied_to(session), lanes=kept).checked()


def touched_lane(session: Session, swap: LaneSwap, start: int, end: int, spans_limited: int = 0) -> Touched:
    """The figures of one swapped lane over ``[start, end)`` in session ticks."""
    lane = swap.after or swap.before
    assert lane is not None
    static = session.parameter(lane.parameter)
    still = Envelope.constant(static.value, static.axis)
    before = session.in_session_time(swap.before) if swap.before else still
    after = session.in_session_time(swap.after) if swap.after else still
    difference, at = largest_difference(before, after, start, end)
    return Touched(
        lane.id,
        lane.parameter,
        lane.home,
        start,
        end,
        len(swap.before.envelope) if swap.before else 0,
        len(swap.after.envelope) if swap.after else 0,
        difference,
        at,
        spans_limited,
    )
