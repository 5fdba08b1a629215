"""A session: tracks with their parameters and regions, and the lanes that automate them."""

from __future__ import annotations

from collections.abc import Iterable, Iterator, Mapping
from dataclasses import dataclass, field, replace
from enum import StrEnum
from functools import cached_property
from itertools import count
from math import isfinite
from typing import Any, TypeVar

import numpy as np

from velmot.core.curves.envelope import Envelope
from velmot.core.curves.segments import HOLD
from velmot.core.errors import RequestError
from velmot.core.limits import (
    LARGEST_VALUE,
    LONGEST_NAME,
    LONGEST_UNIT,
    MOST_BARS,
    MOST_CLOCK,
    MOST_GROUPS,
    MOST_LANES,
    MOST_MARKERS,
    MOST_METERS,
    MOST_PARAMETERS,
    MOST_PHRASES,
    MOST_PLACEMENTS,
    MOST_POINTS,
    MOST_REGIONS,
    MOST_TEMPOS,
    MOST_TRACKS,
)
from velmot.core.parameters.parameter import Parameter
from velmot.core.session.phrases import Extra as Extra
from velmot.core.session.phrases import Phrase, Placement, over_each_other
from velmot.core.session.sounds import Clips, Sound, check_clips
from velmot.core.time.tempo import TempoMap
from velmot.core.time.ticks import MOST_TICKS

ON_THE_TRACK = "track"

T = TypeVar("T")


class TrackKind(StrEnum):
    """What a track is."""

    AUDIO = "audio"
    INSTRUMENT = "instrument"
    BUS = "bus"
    GROUP = "group"


class Mode(StrEnum):
    """The trade's automation modes. Only off is not heard."""

    OFF = "off"
    READ = "read"
    TOUCH = "touch"
    LATCH = "latch"
    WRITE = "write"


class Precedence(StrEnum):
    """Which lane wins where a region's and the track's both speak."""

    REGION = "region"
    TRACK = "track"


@dataclass(frozen=True)
class Region:
    """A named span of a track, ``[start, start + length)`` in ticks.

    The lanes of a muted region do not speak, and it is not heard itself. A `container` holds nothing but automation:
    it lies over the track like any region. `sound` is what it sounds like where that is not simply a take of its own.
    """

    id: str
    name: str
    start: int
    length: int
    muted: bool = False
    container: bool = False
    extra: Extra = ()
    sound: Clips = ()

    @property
    def end(self) -> int:
        return self.start + self.length


@dataclass(frozen=True)
class Marker:
    """A named place on the ruler, in ticks. A `cue` is one for whoever runs a show; the name may be empty.

    Two of one name, or on one tick, are two: the id tells them apart.
    """

    id: str
    name: str
    tick: int
    cue: bool = False
    extra: Extra = ()


@dataclass(frozen=True)
class Device:
    """A device on a track. `kind` says what it is, so that two of a kind can be matched."""

    id: str
    name: str
    kind: str
    extra: Extra = ()


@dataclass(frozen=True)
class Track:
    """A track, its parameters, devices and regions. A group's `members` are track ids."""

    id: str
    name: str
    kind: TrackKind = TrackKind.AUDIO
    mode: Mode = Mode.READ
    parameters: tuple[Parameter, ...] = ()
    devices: tuple[Device, ...] = ()
    regions: tuple[Region, ...] = ()
    members: tuple[str, ...] = ()
    extra: Extra = ()
    sound: Sound | None = None

    @property
    def reads(self) -> bool:
        """Whether the track's lanes are heard at all."""
        return self.mode is not Mode.OFF

    def device_of(self, parameter: Parameter) -> Device | None:
        return next((d for d in self.devices if d.id == parameter.device), None)


@dataclass(frozen=True)
class Lane:
    """One envelope for one parameter. `home` is ON_THE_TRACK or a region's id.

    A region lane's points count from its region's start.
    """

    id: str
    parameter: str
    home: str
    envelope: Envelope
    extra: Extra = field(default=())

    @property
    def on_track(self) -> bool:
        return self.home == ON_THE_TRACK

    def __eq__(self, other: object) -> bool:
        return isinstance(other, Lane) and self._key() == other._key() and self.envelope == other.envelope

    def __hash__(self) -> int:
        return hash(self._key())

    def _key(self) -> tuple[Any, ...]:
        return self.id, self.parameter, self.home, self.extra


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

    def new_ids(self, stem: str) -> Iterator[str]:
        """Ids nothing in the session has yet: stem1, stem2, …"""
        devices = (d.id for t in self.tracks for d in t.devices)
        linked = {*self._phrases, *self._placements, *self._markers}
        taken = {*self._lanes, *self._tracks, *self._parameters, *self._regions, *devices, *linked}
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
        bare: Session | None = self.__dict__.get("_without_places")
        if bare is None:
            bare = self.__dict__["_without_places"] = replace(self, placements=())
        return bare

    # ── being possible ────────────────────────────────────────────────────────────────────────

    def checked(self) -> Session:
        """The session itself, once everything in it is found possible; else RequestError with the place."""
        if not 0 < self.length <= MOST_TICKS:
            raise _wrong("length", "the session's length must be above 0", "length", "1 to 1,000,000 beats")
        _check_amounts(self)
        _check_texts(self)
        self._check_ids()
        for track in self.tracks:
            self._check_track(track)
        for i, lane in enumerate(self.lanes):
            self._check_home(lane, i)
        self._check_values()
        _check_members(self)
        self._check_links()
        _check_markers(self)
        return self

    def _check_ids(self) -> None:
        groups: list[tuple[str, list[str]]] = [
            ("track", [t.id for t in self.tracks]),
            ("parameter", [p.id for t in self.tracks for p in t.parameters]),
            ("region", [r.id for t in self.tracks for r in t.regions]),
            ("lane", [x.id for x in self.lanes]),
            ("phrase", [x.id for x in self.phrases]),
            ("placement", [x.id for x in self.placements]),
            ("marker", [x.id for x in self.markers]),
        ]
        for noun, ids in groups:
            if twice := _first_double(ids):
                raise _wrong("id-twice", f"two {noun}s have the id “{twice}”", f"{noun} {twice}", "one id each")
        if any(r.id == ON_THE_TRACK for t in self.tracks for r in t.regions):
            raise _wrong("region-id", "a region cannot have the id “track”", "regions", "any other id")

    def _check_track(self, track: Track) -> None:
        devices = {device.id for device in track.devices}
        for parameter in track.parameters:
            if parameter.device is not None and parameter.device not in devices:
                said = f"{track.name} has no device “{parameter.device}”"
                raise _wrong("device-unknown", said, f"parameter {parameter.id}", _list(devices))
            if parameter.target is not None and parameter.target not in self._tracks:
                said = f"{parameter.name} feeds “{parameter.target}”, which is no track"
                raise _wrong("target-unknown", said, f"parameter {parameter.id}", "the id of a track")
        for region in track.regions:
            if region.start < 0 or region.length < 1 or region.end > MOST_TICKS:
                said = f"the region “{region.name}” does not lie in a session"
                raise _wrong("region-span", said, f"region {region.id}", "a start from 0 and a length above 0")
            check_clips(region.sound, region.length)

    def _check_home(self, lane: Lane, index: int) -> None:
        track, _ = self._parameters.get(lane.parameter, (None, None))
        if track is None:
            said = f"the lane “{lane.id}” is for “{lane.parameter}”, which is no parameter"
            raise _wrong("parameter-unknown", said, f"lanes[{index}]", "the id of a parameter")
        if self._homes[lane.parameter, lane.home] is not lane:
            said = f"two lanes for {self.lane_name(lane) if lane.on_track else lane.parameter} at “{lane.home}”"
            raise _wrong("lane-twice", said, f"lanes[{index}]", "one lane for each parameter and home")
        if not lane.on_track and self._regions.get(lane.home, (None,))[0] is not track:
            said = f"the lane “{lane.id}” lives in “{lane.home}”, which is no region of its track"
            raise _wrong("home-unknown", said, f"lanes[{index}]", "track, or the id of a region of the same track")

    def _check_values(self) -> None:
        """All lanes' values in one go; one by one only where some cannot be, or only some values can."""
        parameters = [self._parameters[lane.parameter][1] for lane in self.lanes]
        counts = np.array([len(lane.envelope.ticks) for lane in self.lanes], dtype=np.int64)
        odd = np.array([p.holds_only for p in parameters], dtype=bool)
        if len(counts) and counts.all():
            values = np.concatenate([lane.envelope.values for lane in self.lanes])
            first = np.cumsum(counts) - counts
            odd |= np.minimum.reduceat(values, first) < [p.low for p in parameters]
            odd |= np.maximum.reduceat(values, first) > [p.high for p in parameters]
        odd |= counts == 0
        for i in np.flatnonzero(odd).tolist():
            check_values(parameters[i], self.lanes[i].envelope, f"lanes[{i}]")

    def _check_links(self) -> None:
        """Phrases are possible; placements have a phrase and a lane, lie inside its home and not over each other."""
        for i, phrase in enumerate(self.phrases):
            phrase.checked(f"phrases[{i}]")
        for i, one in enumerate(self.placements):
            if problem := self.placement_problem(one):
                raise _wrong("placement", problem, f"placements[{i}]", "a phrase’s span on a lane that is there")
        for one, following in over_each_other(self.placements):
            said = f"the placements “{one.id}” and “{following.id}” lie over each other"
            raise _wrong("placements-overlap", said, f"placement {following.id}", "one after the other")

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


def _check_amounts(session: Session) -> None:
    """Raise RequestError for more of anything than Velmot takes on."""
    counts = (
        ("tracks", len(session.tracks), MOST_TRACKS),
        ("parameters", sum(len(t.parameters) for t in session.tracks), MOST_PARAMETERS),
        ("regions", sum(len(t.regions) for t in session.tracks), MOST_REGIONS),
        ("lanes", len(session.lanes), MOST_LANES),
        ("points", sum(len(x.envelope) for x in session.lanes), MOST_POINTS),
        ("phrases", len(session.phrases), MOST_PHRASES),
        ("placements", len(session.placements), MOST_PLACEMENTS),
        ("markers", len(session.markers), MOST_MARKERS),
        ("tempo", len(session.tempo.tempos), MOST_TEMPOS),
        ("meter", len(session.tempo.meters), MOST_METERS),
        ("bars", session.tempo.bar_count(session.length), MOST_BARS),
        ("clock", session.tempo.clock_count(session.length), MOST_CLOCK),
    )
    nouns = {"tempo": "tempos", "meter": "meters", "clock": "steps of its clock, as the tempo glides so far"}
    for what, number, most in counts:
        if number > most:
            noun = nouns.get(what, what)
            said = f"the session would have {number:,} {noun}"
            raise _wrong(
                f"{what}-many",
                said,
                "tempo" if what == "clock" else "meter" if what == "bars" else what,
                f"at most {most:,}",
            )


def _check_texts(session: Session) -> None:
    """Raise RequestError for a name that is none, or for one or a unit that no file could hold."""
    for track in session.tracks:
        named: list[Track | Parameter | Region | Device] = [track, *track.parameters, *track.regions, *track.devices]
        for thing in named:
            if not 0 < len(thing.name) <= LONGEST_NAME:
                said = f"a name of {len(thing.name):,} characters: “{thing.name[:40]}”"
                raise _wrong("name", said, f"track {track.id}", f"1 to {LONGEST_NAME} characters")
        for p in track.parameters:
            if len(p.unit) > LONGEST_UNIT:
                said = f"{p.name} has a unit of {len(p.unit):,} characters"
                raise _wrong("unit", said, f"parameter {p.id}", f"at most {LONGEST_UNIT} characters")


def _check_markers(session: Session) -> None:
    """Raise RequestError for a marker that no session can have."""
    for i, marker in enumerate(session.markers):
        if not 0 <= marker.tick <= MOST_TICKS:
            said = f"the marker “{marker.name[:40]}” does not stand in a session"
            raise _wrong("marker-place", said, f"markers[{i}].at", "a place from 0 to 1,000,000 beats")
        if len(marker.name) > LONGEST_NAME:
            said = f"a name of {len(marker.name):,} characters: “{marker.name[:40]}”"
            raise _wrong("name", said, f"markers[{i}].name", f"at most {LONGEST_NAME} characters")


def check_values(parameter: Parameter, envelope: Envelope, place: str) -> None:
    """Raise RequestError unless every point is one the parameter can have."""
    if not len(envelope):
        raise _wrong("points-none", "a lane needs a point", f"{place}.points", "at least one point")
    if envelope.values.min() < parameter.low or envelope.values.max() > parameter.high:
        i = int(((envelope.values < parameter.low) | (envelope.values > parameter.high)).argmax())
        said = f"{parameter.name}: point {i + 1} is {envelope.values[i]:g} {parameter.unit}".rstrip()
        raise _wrong(
            "value-range", said, f"{place}.points[{i}]", f"{parameter.low:g} to {parameter.high:g} {parameter.unit}"
        )
    if parameter.holds_only:
        _check_named_values(parameter, envelope, place)


def _check_named_values(parameter: Parameter, envelope: Envelope, place: str) -> None:
    glides = (envelope.bends[:-1] != HOLD) & (envelope.ticks[1:] > envelope.ticks[:-1])
    if glides.any():
        i = int(glides.argmax())
        said = f"{parameter.name} is {parameter.kind} and cannot glide after point {i + 1}"
        raise _wrong("hold-only", said, f"{place}.points[{i}]", "hold")
    labels = {label.value for label in parameter.labels}
    if odd := set(envelope.values.tolist()) - labels:
        i = envelope.values.tolist().index(min(odd))
        said = f"{parameter.name}: point {i + 1} is {min(odd):g}, which has no label"
        raise _wrong("value-label", said, f"{place}.points[{i}]", ", ".join(f"{v:g}" for v in sorted(labels)[:12]))


def _check_members(session: Session) -> None:
    """Members are tracks, no group holds itself, and no track lies under more groups than can be added up."""
    for track in session.tracks:
        for member in track.members:
            if member not in session._tracks:
                said = f"the group {track.name} has a member “{member}”, which is no track"
                raise _wrong("member-unknown", said, f"track {track.id}, members", "ids of tracks")
    for track in session.tracks if session._parents else ():
        if len(groups_above(session, track.id, MOST_GROUPS + 1)) > MOST_GROUPS:
            said = f"{track.name} lies under more than {MOST_GROUPS} groups"
            raise _wrong("groups-many", said, f"track {track.id}", f"at most {MOST_GROUPS} group faders above a track")


def groups_above(session: Session, track_id: str, most: int | None = None) -> list[Track]:
    """Every group fader above a track (or as many as `most`), nearest first; groups may be nested.

    Raises RequestError where a group contains itself.
    """
    above: dict[str, Track] = {}
    todo = [track_id]
    for member in todo:
        for track in session._parents.get(member, ()):
            if track.id == track_id:
                said = f"the group {track.name} contains itself"
                raise _wrong("group-circle", said, f"track {track.id}, members", "members that do not hold the group")
            if track.id not in above:
                above[track.id] = track
                todo.append(track.id)
        if most is not None and len(above) >= most:
            break
    return list(above.values())


def _found(table: Mapping[str, T], id: str, noun: str) -> T:
    try:
        return table[id]
    except KeyError:
        raise RequestError(
            f"{noun}-unknown", f"there is no {noun} “{id}” in this session", place=noun, accepted=_list(table)
        ) from None


def _list(ids: Iterable[str]) -> str:
    some = sorted(ids)
    return ", ".join(some[:8]) + (" …" if len(some) > 8 else "") if some else "nothing yet"


def _first_double(ids: list[str]) -> str | None:
    seen: set[str] = set()
    return next((x for x in ids if x in seen or seen.add(x)), None)  # type: ignore[func-returns-value]


def _wrong(code: str, message: str, place: str, accepted: str) -> RequestError:
    return RequestError(code, message, place=place, accepted=accepted)
