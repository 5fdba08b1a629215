"""Where a session opens: on the lanes that move most, and on the bars in which they do."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np

from velmot.core.parameters.parameter import Family, Parameter
from velmot.core.session.session import Session
from velmot.core.session.track import Lane, Track, TrackKind

MOST_STRIPS = 7
MOST_BARS_SEEN = 64


@dataclass(frozen=True)
class Opening:
    """The parameters to show first, in the session's order, and the span of time (session ticks) to show them over."""

    parameters: tuple[str, ...]
    start: int
    end: int


def opening_of(session: Session) -> Opening:
    """Of each track its level, if that moves, else what moves most on it; then what else moves most. Whole bars from the
    first move of these lanes to their last.

    Where that is longer than 64 bars, the 64 in which most points stand. A session in which nothing moves opens on its
    first lanes and first bars.
    """
    far = {lane.id: _movement(session, lane) for lane in session.lanes}
    moving = sorted((lane for lane in session.lanes if far[lane.id] > 0), key=lambda lane: -far[lane.id])
    by_family = sorted(moving, key=lambda x: _rank(session.parameter(x.parameter)))
    best = {session.owner(lane.parameter).id: lane for lane in reversed(by_family)}
    firsts = sorted(best.values(), key=lambda x: (_sums_up(session.owner(x.parameter)), -far[x.id]))
    order = [*firsts, *by_family, *session.lanes]
    chosen = [*dict.fromkeys(lane.parameter for lane in order)][:MOST_STRIPS]
    shown = tuple(p.id for t in session.tracks for p in t.parameters if p.id in chosen)
    return Opening(shown, *_span(session, [x for p in shown for x in session.lanes_of(p)]))


def _rank(parameter: Parameter) -> int:
    """Levels before all else that glides, and that before what steps or switches."""
    return 2 if parameter.holds_only else 0 if parameter.family is Family.LEVEL else 1


def _sums_up(track: Track) -> bool:
    """Whether a track is one that others run into: it is shown after those."""
    return track.kind in (TrackKind.BUS, TrackKind.GROUP)


def _movement(session: Session, lane: Lane) -> float:
    """How much of its range a lane goes through, up and down together."""
    far = np.abs(np.diff(lane.envelope.coordinates)).sum() if len(lane.envelope) > 1 else 0.0
    return float(far) / session.parameter(lane.parameter).span


def _span(session: Session, lanes: list[Lane]) -> tuple[int, int]:
    starts = np.array([tick for _, tick, _ in session.tempo.bar_starts(session.length)] + [session.length])
    ticks = [session.in_session_time(x).ticks for x in lanes if len(x.envelope) > 1]
    every = np.sort(np.concatenate(ticks)) if ticks else np.zeros(1, dtype=np.int64)
    every = every[(every >= 0) & (every < session.length)]
    if not len(every):
        every = np.zeros(1, dtype=np.int64)
    counts = np.histogram(every, starts)[0]
    first, last = (int(n) for n in np.flatnonzero(counts)[[0, -1]])
    if last - first >= MOST_BARS_SEEN:
        sums = np.convolve(counts, np.ones(MOST_BARS_SEEN, dtype=np.int64), "valid")
        first = int(sums.argmax())
        last = first + MOST_BARS_SEEN - 1
    last = max(last, min(first + 15, len(counts) - 1))
    return int(starts[first]), int(starts[last + 1])
