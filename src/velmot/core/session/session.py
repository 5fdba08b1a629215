"""A session: tracks with their parameters and regions, and the lanes that automate them."""

from __future__ import annotations

from collections.abc import Callable, Hashable, Iterable, Iterator, Mapping
from dataclasses import dataclass, replace
from functools import cached_property
from itertools import count
from math import isfinite
from typing import Any, TypeVar

from velmot.core.curves.envelope import Envelope
from velmot.core.errors import RequestError
from velmot.core.limits import (
    LARGEST_VALUE,
)
from velmot.core.parameters.parameter import Parameter
from velmot.core.session.alternatives import Alternative
from velmot.core.session.phrases import Extra, Phrase, Placement
from velmot.core.session.possible import check_possible, some_of
from velmot.core.session.remarks import About, LetBe, Note
from velmot.core.session.track import ON_THE_TRACK, Lane, Marker, Precedence, Region, Track
from velmot.core.time.tempo import TempoMap

T = TypeVar("T")
Made = TypeVar("Made")


@dataclass(frozen=True)
class Session:
    """Everything one works on. Immutable; operations give a new one. Raises RequestError if it cannot be."""

    name: str
    length: int
    tracks: tuple[Track, ...] = ()
    lanes: tuple[Lane, ...] = ()
    tempo: TempoMap = TempoMap()
    precedence: Precedence = Precedence.REGION
    extra: Extra = ()
    phrases: tuple[Phrase, ...] = ()
    placements: tuple[Placement, ...] = ()
    markers: tuple[Marker, ...] = ()
    let_be: tuple[LetBe, ...] = ()
    notes: tuple[Note, ...] = ()
    alternatives: tuple[Alternative, ...] = ()

    # ── finding things ────────────────────────────────────────────────────────────────────────

    @cached_property
    def _tracks(self) -> dict[str, Track]:
        return {track.id: track for track in self.tracks}

    @cached_property
    def _lanes(self) -> dict[str, Lane]:
        return {lane.id: lane for lane in self.lanes}

    @cached_property
    def _parameters(self) -> dict[str, tuple[Track, Parameter]]:
        return {p.id: (track, p) for track in self.tracks for p in track.parameters}

    @cached_property
    def _regions(self) -> dict[str, tuple[Track, Region]]:
        return {r.id: (track, r) for track in self.tracks for r in track.regions}

    @cached_property
    def _homes(self) -> dict[tuple[str, str], Lane]:
        return {(lane.parameter, lane.home): lane for lane in reversed(self.lanes)}

    @cached_property
    def _parents(self) -> dict[str, list[Track]]:
        """The groups each track is a member of."""
        parents: dict[str, list[Track]] = {}
        for track in self.tracks:
            for member in dict.fromkeys(track.members):
                parents.setdefault(member, []).append(track)
        return parents

    @cached_property
    def _inside(self) -> dict[str, list[Lane]]:
        inside: dict[str, list[Lane]] = {}
        for lane in self.lanes:
            if not lane.on_track:
                inside.setdefault(lane.home, []).append(lane)
        return inside

    @cached_property
    def _track_order(self) -> dict[str, int]:
        return {track.id: n for n, track in enumerate(self.tracks)}

    def track_order(self, id: str) -> int:
        """Where a track stands in the list of all."""
        return self._track_order[id]

    def track(self, id: str) -> Track:
        return _found(self._tracks, id, "track")

    def lane(self, id: str) -> Lane:
        return _found(self._lanes, id, "lane")

    def parameter(self, id: str) -> Parameter:
        return _found(self._parameters, id, "parameter")[1]

    def region(self, id: str) -> Region:
        return _found(self._regions, id, "region")[1]

    def owner(self, parameter_id: str) -> Track:
        """The track a parameter belongs to."""
        return _found(self._parameters, parameter_id, "parameter")[0]

    @cached_property
    def _by_parameter(self) -> dict[str, list[Lane]]:
        found: dict[str, list[Lane]] = {}
        for lane in self.lanes:
            found.setdefault(lane.parameter, []).append(lane)
        return found

    def lanes_of(self, parameter_id: str) -> list[Lane]:
        """Every lane of a parameter, on the track and in regions."""
        return self._by_parameter.get(parameter_id, [])

    def lane_at(self, parameter_id: str, home: str = ON_THE_TRACK) -> Lane | None:
        """The lane for a parameter at a home, if there is one."""
        return self._homes.get((parameter_id, home))

    def region_lanes(self, parameter_id: str) -> list[tuple[Region, Lane]]:
        """The parameter's lanes that live in regions, the one that wins where they overlap last: by start, then as listed."""
        pairs = [(self.region(x.home), x) for x in self.lanes_of(parameter_id) if not x.on_track]
        return sorted(pairs, key=lambda pair: (pair[0].start, self.region_order(pair[0].id)))

    def region_order(self, id: str) -> int:
        """Where a region stands in the list of all; of two that start together the later one wins."""
        return self._order[id]

    @cached_property
    def _order(self) -> dict[str, int]:
        return {id: n for n, id in enumerate(self._regions)}

    def lanes_in(self, region_id: str) -> list[Lane]:
        """The lanes that live in a region."""
        return self._inside.get(region_id, [])

    @cached_property
    def _markers(self) -> dict[str, Marker]:
        return {marker.id: marker for marker in self.markers}

    def marker(self, id: str) -> Marker:
        return _found(self._markers, id, "marker")

    @cached_property
    def markers_in_time(self) -> tuple[Marker, ...]:
        """The markers by where they stand; of those on one tick as they are listed."""
        return tuple(sorted(self.markers, key=lambda marker: marker.tick))

    def track_of_region(self, id: str) -> Track:
        """The track a region lies on."""
        return _found(self._regions, id, "region")[0]

    @cached_property
    def _phrases(self) -> dict[str, Phrase]:
        return {phrase.id: phrase for phrase in self.phrases}

    @cached_property
    def _placements(self) -> dict[str, Placement]:
        return {placement.id: placement for placement in self.placements}

    @cached_property
    def _placed(self) -> dict[tuple[str, str], list[Placement]]:
        placed: dict[tuple[str, str], list[Placement]] = {}
        for one in sorted(self.placements, key=lambda one: one.start):
            placed.setdefault((one.parameter, one.home), []).append(one)
        return placed

    @cached_property
    def _places(self) -> dict[str, list[Placement]]:
        places: dict[str, list[Placement]] = {}
        for one in self.placements:
            places.setdefault(one.phrase, []).append(one)
        return places

    @cached_property
    def _alternatives(self) -> dict[str, Alternative]:
        return {one.id: one for one in self.alternatives}

    @cached_property
    def _other_goes(self) -> dict[str, list[Alternative]]:
        found: dict[str, list[Alternative]] = {}
        for one in self.alternatives:
            found.setdefault(one.parameter, []).append(one)
        return found

    def alternative(self, id: str) -> Alternative:
        return _found(self._alternatives, id, "alternative")

    def alternatives_of(self, parameter_id: str) -> list[Alternative]:
        """What is kept beside what a parameter does, the oldest first."""
        return self._other_goes.get(parameter_id, [])

    def phrase(self, id: str) -> Phrase:
        return _found(self._phrases, id, "phrase")

    def placement(self, id: str) -> Placement:
        return _found(self._placements, id, "placement")

    def places_of(self, phrase_id: str) -> list[Placement]:
        """Every placement of a phrase."""
        return self._places.get(phrase_id, [])

    def placed_on(self, parameter_id: str, home: str) -> list[Placement]:
        """The placements on one lane, by their start."""
        return self._placed.get((parameter_id, home), [])

    def span(self, lane: Lane) -> tuple[int, int]:
        """Where a lane can speak: its region's span, or the session's."""
        if lane.on_track:
            return 0, self.length
        region = self.region(lane.home)
        return region.start, region.end

    def start_of(self, home: str) -> int:
        """The session tick from which what lives at a home counts."""
        return 0 if home == ON_THE_TRACK else self.region(home).start

    def zero_of(self, lane: Lane) -> int:
        """The session tick from which a lane's points count."""
        return self.start_of(lane.home)

    def in_session_time(self, lane: Lane) -> Envelope:
        """A lane's envelope with its points at session ticks."""
        return lane.envelope if lane.on_track else lane.envelope.shift(self.region(lane.home).start)

    def lane_name(self, lane: Lane) -> str:
        """A lane as people say it: “Bell buoy Level”, “Foghorn Muted in horn A”."""
        inside = "" if lane.on_track else f" in {self.region(lane.home).name}"
        return f"{self.owner(lane.parameter).name} {self.parameter(lane.parameter).name}{inside}"

    def there(self, about: About, id: str) -> bool:
        """Whether there is a lane, a parameter, a region or a track of an id."""
        known: dict[About, Mapping[str, object]] = {
            "lane": self._lanes,
            "parameter": self._parameters,
            "region": self._regions,
            "track": self._tracks,
        }
        return id in known[about]

    def new_ids(self, stem: str) -> Iterator[str]:
        """Ids nothing in the session has yet: stem1, stem2, …"""
        devices = (d.id for t in self.tracks for d in t.devices)
        listed = {
            *self._phrases,
            *self._placements,
            *self._markers,
            *(x.id for x in self.let_be),
            *(x.id for x in self.notes),
            *self._alternatives,
            *(lane.id for x in self.alternatives for lane in x.lanes),
            *(place.id for x in self.alternatives for place in x.places),
        }
        taken = {*self._lanes, *self._tracks, *self._parameters, *self._regions, *devices, *listed}
        return (id for n in count(1) if (id := f"{stem}{n}") not in taken)

    # ── making the next one ───────────────────────────────────────────────────────────────────

    def with_lanes(self, lanes: Iterable[Lane]) -> Session:
        return replace(self, lanes=tuple(lanes))

    def with_tracks(self, tracks: Iterable[Track]) -> Session:
        return replace(self, tracks=tuple(tracks))

    def without_places(self) -> Session:
        """The session as its lanes alone say it; the same one at every call, as it remembers what is heard."""
        if not self.placements:
            return self
        return self.remembered("without places", None, lambda: replace(self, placements=()))

    def remembered(self, what: str, key: Hashable, made: Callable[[], Made]) -> Made:
        """What was made of it under a name and a key, once: a session never changes."""
        known: dict[Hashable, Made] = self._memory.setdefault(what, {})
        if key not in known:
            known[key] = made()
        return known[key]

    @cached_property
    def _memory(self) -> dict[str, Any]:
        return {}

    # ── being possible ────────────────────────────────────────────────────────────────────────

    def checked(self) -> Session:
        """The session itself, once everything in it is found possible; else RequestError with the place."""
        check_possible(self)
        return self

    def placement_problem(self, one: Placement) -> str:
        """Why a placement cannot be here, its neighbours aside; nothing where it can."""
        if one.phrase not in self._phrases:
            return f"the placement “{one.id}” is of “{one.phrase}”, which is no phrase"
        lane = self._homes.get((one.parameter, one.home))
        if lane is None:
            return f"the placement “{one.id}” has no lane to lie on"
        if not isfinite(one.scale) or not isfinite(one.offset) or max(abs(one.scale), abs(one.offset)) > LARGEST_VALUE:
            return f"the placement “{one.id}” is spread too far"
        start, end = self.span(lane)
        if one.length < 1 or one.start < 0 or one.end > end - start or not 0 <= one.turn < one.length:
            return f"the placement “{one.id}” does not lie inside its lane’s home"
        return ""


def _found(table: Mapping[str, T], id: str, noun: str) -> T:
    try:
        return table[id]
    except KeyError:
        raise RequestError(f"{noun}-unknown", id=id, place=noun, accepted=some_of(table)) from None
