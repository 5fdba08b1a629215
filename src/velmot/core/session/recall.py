"""A session in words, for paper: what stands still, and what moves where, from what to what."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass

import numpy as np

from velmot.core.curves.envelope import Envelope
from velmot.core.parameters.parameter import Family, Parameter
from velmot.core.session.above import groups_above
from velmot.core.session.session import Session
from velmot.core.session.track import Lane, Track
from velmot.core.session.what_changed import changes_between
from velmot.core.session.wording import clock_text, length_text, place
from velmot.core.words import counted

SHORT, WHOLE, MOST = 8, 2000, 20_000
"""Of how many moves of a lane a short sheet, and a whole one, tells each, and how many all lanes together; the rest are counted."""


@dataclass(frozen=True)
class Cue:
    """A move of a lane: from `start` to `end` (ticks; the same for a jump) from one value to another, all one way."""

    start: int
    end: int
    first: float
    last: float

    @property
    def jumps(self) -> bool:
        return self.start == self.end


@dataclass(frozen=True)
class LaneRecall:
    """What a lane does: its name, where it lives, and its moves as sentences; `more` is how many are not told."""

    name: str
    where: str
    cues: tuple[str, ...]
    more: int = 0


@dataclass(frozen=True)
class TrackRecall:
    """A track on paper: what it is, its values at rest, its devices, sends and groups, and what moves."""

    name: str
    what: str
    rest: tuple[tuple[str, str], ...]
    sends: tuple[tuple[str, str], ...]
    devices: tuple[tuple[str, tuple[tuple[str, str], ...]], ...]
    groups: tuple[str, ...]
    members: tuple[str, ...]
    regions: tuple[str, ...]
    lanes: tuple[LaneRecall, ...]


@dataclass(frozen=True)
class Recall:
    """A session on paper. `changed` is what differs since some moment; nothing where none was asked for."""

    title: str
    lines: tuple[str, ...]
    cues: tuple[str, ...]
    tracks: tuple[TrackRecall, ...]
    changed: tuple[str, ...] | None = None


def recall_of(session: Session, *, full: bool = True, since: Session | None = None) -> Recall:
    """The whole session in words; a short one tells the first few moves of a lane, and no track that stands still."""
    tempo, length = session.tempo, session.length
    seconds = float(tempo.seconds(length))
    moving = len({lane.parameter for lane in session.lanes})
    lines = (
        f"{counted(tempo.bar_count(length), 'bar')}, {clock_text(seconds)}",
        f"{counted(len(session.tracks), 'track')}, {counted(moving, 'parameter')} automated, {session.precedence} lanes win",
    )
    cues = tuple(
        f"{place(session, m.tick)}: {m.name or 'a marker'}{' (cue)' if m.cue else ''}" for m in session.markers_in_time
    )
    tracks = (track_recall(session, track, full) for track in session.tracks)
    changed = None if since is None else tuple(changes_between(since, session))
    return Recall(session.name, lines, cues, tuple(t for t in tracks if full or t.lanes), changed)


def track_recall(session: Session, track: Track, full: bool) -> TrackRecall:
    """A track on paper."""
    at_rest = [(p, p.format(p.value)) for p in track.parameters]
    automated = {p.id for p in track.parameters if session.lanes_of(p.id)}
    rest = tuple(
        (p.name, _at_rest(text, p.id in automated))
        for p, text in at_rest
        if p.family not in (Family.SEND, Family.DEVICE)
    )
    sends = tuple((p.name, _at_rest(text, p.id in automated)) for p, text in at_rest if p.family is Family.SEND)
    devices = tuple(
        (
            device.name,
            tuple((p.name, _at_rest(text, p.id in automated)) for p, text in at_rest if p.device == device.id),
        )
        for device in track.devices
    )
    lanes = (lane_recall(session, lane, full) for p in track.parameters for lane in session.lanes_of(p.id))
    reads = "reads its lanes" if track.reads else "off: its lanes are not heard"
    return TrackRecall(
        track.name,
        f"{track.kind}, {reads}",
        rest,
        sends,
        devices,
        tuple(group.name for group in groups_above(session, track.id)),
        tuple(session.track(id).name for id in track.members),
        tuple(
            f"{r.name}, {place(session, r.start)} to {session.tempo.position(r.end)}{', muted' if r.muted else ''}"
            for r in track.regions
        ),
        tuple(lane for lane in lanes if full or lane.cues),
    )


def _at_rest(text: str, automated: bool) -> str:
    return f"{text}, automated" if automated else text


def lane_recall(session: Session, lane: Lane, full: bool) -> LaneRecall:
    """What a lane does, in sentences."""
    parameter = session.parameter(lane.parameter)
    found = list(cues_of(session.in_session_time(lane), *session.span(lane)))
    told = found[: _most_of_each(session) if full else SHORT]
    where = "" if lane.on_track else f"in {session.region(lane.home).name}"
    return LaneRecall(
        parameter.name, where, tuple(cue_text(session, parameter, c) for c in told), len(found) - len(told)
    )


def _most_of_each(session: Session) -> int:
    """Of how many moves of a lane a whole sheet tells each."""
    few = sum(len(lane.envelope) for lane in session.lanes) <= MOST
    return WHOLE if few else max(min(WHOLE, MOST // len(session.lanes)), SHORT)


def cues_of(curve: Envelope, start: int, end: int) -> Iterator[Cue]:
    """The moves of a curve inside ``[start, end]``, in order: each as long as it goes one way without standing still."""
    inner = curve.ticks[(curve.ticks > start) & (curve.ticks < end)]
    ticks = np.unique(np.concatenate(([start], inner, [end])))
    left, right = (curve.at(ticks, side).tolist() for side in ("left", "right"))
    last: Cue | None = None
    for found in _moves(ticks.tolist(), left, right):
        if last and not last.jumps and not found.jumps and last.end == found.start and _way(last) == _way(found):
            last = Cue(last.start, found.end, last.first, found.last)
            continue
        if last:
            yield last
        last = found
    if last:
        yield last


def _moves(ticks: list[int], left: list[float], right: list[float]) -> Iterator[Cue]:
    """What a curve does between each two neighbouring points, and at the later one; no jump at the end of all."""
    for n in range(1, len(ticks)):
        if right[n - 1] != left[n]:
            yield Cue(ticks[n - 1], ticks[n], right[n - 1], left[n])
        if left[n] != right[n] and n < len(ticks) - 1:
            yield Cue(ticks[n], ticks[n], left[n], right[n])


def _way(cue: Cue) -> bool:
    return cue.last > cue.first


def cue_text(session: Session, parameter: Parameter, cue: Cue) -> str:
    """A move as a sentence: “9.1.00, 0:20.6: from −18.0 dB to −6.0 dB over 2 beats”."""
    first, last = parameter.format(cue.first), parameter.format(cue.last)
    if cue.jumps:
        return f"{place(session, cue.start)}: from {first} to {last} at once"
    return f"{place(session, cue.start)}: from {first} to {last} over {length_text(cue.end - cue.start)}"
