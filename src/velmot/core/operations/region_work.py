"""A working copy for verbs that change regions: what they write becomes a session, and the change to it."""

from __future__ import annotations

from collections.abc import Iterable, Mapping, Sequence
from dataclasses import dataclass, field, replace

from velmot.core.change import HEARD, Caution, Change, LaneSwap, Touched, TrackSwap
from velmot.core.difference import differing_span
from velmot.core.editing import Fragment
from velmot.core.envelope import Envelope
from velmot.core.errors import RequestError
from velmot.core.heard import heard, reading
from velmot.core.operations.landing import Landed, laid
from velmot.core.parameters import Parameter
from velmot.core.session import ON_THE_TRACK, Lane, Region, Session, Track
from velmot.core.spans import runs


@dataclass
class RegionWork:
    """Regions and lanes as they are being rewritten. Reading gives what was written last."""

    session: Session
    cautions: list[Caution] = field(default_factory=list)
    named: dict[str, list[tuple[int, int]]] = field(default_factory=dict)

    def __post_init__(self) -> None:
        self._regions = {t.id: {r.id: r for r in t.regions} for t in self.session.tracks}
        self._envelopes: dict[tuple[str, str], Envelope | None] = {}
        self._landings: dict[str, list[Landed]] = {}
        self._region_ids = self.session.new_ids("region")
        self._lane_ids = self.session.new_ids("lane")

    def put(self, track: str, region: Region) -> None:
        """Add a region to a track, or replace the one of its id."""
        self._regions[track][region.id] = region

    def drop(self, track: str, region: str) -> None:
        """Take a region away; its lanes have to be taken away too."""
        del self._regions[track][region]

    def new_id(self) -> str:
        """An id for a new region."""
        return next(self._region_ids)

    def write(self, parameter: str, home: str, envelope: Envelope | None) -> None:
        """Put a lane at a home (None takes it away)."""
        self._envelopes[parameter, home] = envelope

    def track_curve(self, parameter: Parameter) -> Envelope:
        """A parameter's own lane on the track as it stands; its static value where there is none."""
        key = (parameter.id, ON_THE_TRACK)
        lane = self.session.lane_at(parameter.id)
        written = self._envelopes.get(key, lane.envelope if lane else None)
        return written or Envelope.constant(parameter.value, parameter.axis)

    def land(self, parameter: Parameter, fragment: Fragment, at: int) -> None:
        """Lay a fragment over a parameter's own lane on the track, and over what landed there before."""
        self._landings.setdefault(parameter.id, []).append(Landed(at, fragment))

    def name(self, parameter: str, start: int, end: int) -> None:
        """Say that a parameter may be heard differently in a span."""
        self.named.setdefault(parameter, []).append((start, end))

    def widen(self, session: Session) -> None:
        """Go on with a session whose tracks gained parameters or devices."""
        self.session = session

    def result(self) -> Session:
        """The session as it was written, checked."""
        for id, landings in self._landings.items():
            below = self.track_curve(self.session.parameter(id))
            self.write(id, ON_THE_TRACK, laid(below, landings).from_zero())
        tracks = (replace(t, regions=tuple(self._regions[t.id].values())) for t in self.session.tracks)
        lanes: list[Lane] = []
        for lane in self.session.lanes:
            key = (lane.parameter, lane.home)
            envelope = self._envelopes.pop(key) if key in self._envelopes else lane.envelope
            if envelope is not None:
                lanes.append(lane if envelope is lane.envelope else replace(lane, envelope=envelope))
        for (parameter, home), envelope in self._envelopes.items():
            if envelope is not None:
                lanes.append(Lane(next(self._lane_ids), parameter, home, envelope))
        return self.session.with_tracks(tracks).with_lanes(lanes).checked()


def change_between(
    before: Session,
    after: Session,
    title: str,
    cautions: Iterable[Caution] = (),
    named: Mapping[str, Sequence[tuple[int, int]]] | None = None,
    because: str = "",
) -> Change:
    """The change that makes one session the other, shown as what would be heard if every track read its lanes.

    `named` are the spans in which parameters may be heard differently, none meaning nowhere; `because` says in
    words why they could be all the same.
    """
    lanes, tracks = swaps_between(before, after)
    said = tuple(dict.fromkeys(cautions))
    if not lanes and not tracks and not said:
        said = (Caution("no-change", "It is already like this: nothing would change"),)
    spans = {p: tuple(runs(some)) for p, some in (named or {}).items()}
    touched = _heard_touched(before, after, lanes, tracks)
    return Change(title, lanes, tracks, touched, said, named=spans, because=because)


def swaps_between(before: Session, after: Session) -> tuple[tuple[LaneSwap, ...], tuple[TrackSwap, ...]]:
    """Every lane and track that two states of a session hold differently."""
    old, new = {x.id: x for x in before.lanes}, {x.id: x for x in after.lanes}
    ids = dict.fromkeys((*old, *new))
    lanes = tuple(LaneSwap(old.get(i), new.get(i)) for i in ids if not _alike(old.get(i), new.get(i)))
    tracks = tuple(TrackSwap(a, b) for a, b in zip(before.tracks, after.tracks, strict=True) if a != b)
    return lanes, tracks


def _alike(one: Lane | None, other: Lane | None) -> bool:
    return one is other or (one is not None and other is not None and one == other)


def _heard_touched(
    before: Session, after: Session, lanes: tuple[LaneSwap, ...], tracks: tuple[TrackSwap, ...]
) -> tuple[Touched, ...]:
    """What is heard of every parameter with a lane in a region that changes, or with a lane that does."""
    moved = {r.id: r for s in tracks for a, b in ((s.before, s.after), (s.after, s.before)) for r in _changed(a, b)}
    spans: dict[str, list[int]] = {}
    for session in (before, after):
        for lane in session.lanes:
            if lane.home in moved:
                spans.setdefault(lane.parameter, []).extend(session.span(lane))
    for swap in lanes:
        for swapped, session in ((swap.before, before), (swap.after, after)):
            if swapped is not None:
                spans.setdefault(swapped.parameter, []).extend(session.span(swapped))
    return tuple(heard_touched(before, after, parameter, min(ends), max(ends)) for parameter, ends in spans.items())


def _changed(one: Track, other: Track) -> list[Region]:
    """The regions of one state of a track that the other has not, or has otherwise."""
    known = {r.id: r for r in other.regions}
    return [r for r in one.regions if known.get(r.id) != r]


def heard_touched(before: Session, after: Session, parameter: str, start: int, end: int) -> Touched:
    """What is heard of a parameter before and after in (at most) a span, its own lanes' points counted."""
    counts = [sum(len(x.envelope) for x in s.lanes_of(parameter)) for s in (before, after)]
    owner, p = after.owner(parameter), after.parameter(parameter)
    now = heard(reading(after), parameter, groups=False).envelope
    known = any(q.id == parameter for t in before.tracks for q in t.parameters)
    was = heard(reading(before), parameter, groups=False).envelope if known else Envelope.constant(p.value, p.axis)
    start, end = differing_span(was, now, start, end) or (start, end)
    name = f"{owner.name} {p.name}"
    return Touched("", parameter, HEARD, start, end, counts[0], counts[1], lambda: name, (lambda: was, lambda: now))


def regions_named(session: Session, ids: tuple[str, ...]) -> list[tuple[Track, Region]]:
    """The regions and their tracks, by start, then as listed; RequestError for none or unknown ones."""
    if not ids:
        raise RequestError("regions-none", "no region is chosen", place="regions", accepted="at least one region")
    found = [(session.track_of_region(id), session.region(id)) for id in dict.fromkeys(ids)]
    return sorted(found, key=lambda pair: (pair[1].start, session.region_order(pair[1].id)))


def names_of(regions: list[tuple[Track, Region]]) -> str:
    """“toll 1” or “3 regions”."""
    return regions[0][1].name if len(regions) == 1 else f"{len(regions)} regions"
