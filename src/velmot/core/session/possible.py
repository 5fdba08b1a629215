"""What a session has to be to be one: not too much of anything, names that are names, values its parameters can have."""

from __future__ import annotations

from collections.abc import Iterable
from typing import TYPE_CHECKING

import numpy as np

from velmot.core.curves.envelope import Envelope
from velmot.core.curves.segments import HOLD
from velmot.core.errors import RequestError
from velmot.core.limits import (
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
from velmot.core.session.above import groups_above
from velmot.core.session.phrases import over_each_other
from velmot.core.session.sounds import check_excerpts
from velmot.core.session.track import ON_THE_TRACK, Device, Lane, Region, Track
from velmot.core.time.ticks import MOST_TICKS

if TYPE_CHECKING:
    from velmot.core.session.session import Session


def check_possible(session: Session) -> None:
    """RequestError with the place unless everything in a session is possible."""
    if not 0 < session.length <= MOST_TICKS:
        raise _wrong("length", "the session's length must be above 0", "length", "1 to 1,000,000 beats")
    _check_amounts(session)
    _check_texts(session)
    _check_ids(session)
    for track in session.tracks:
        _check_track(session, track)
    for i, lane in enumerate(session.lanes):
        _check_home(session, lane, i)
    _check_all_values(session)
    _check_members(session)
    _check_links(session)
    _check_markers(session)


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


def _check_ids(session: Session) -> None:
    groups: list[tuple[str, list[str]]] = [
        ("track", [t.id for t in session.tracks]),
        ("parameter", [p.id for t in session.tracks for p in t.parameters]),
        ("region", [r.id for t in session.tracks for r in t.regions]),
        ("lane", [x.id for x in session.lanes]),
        ("phrase", [x.id for x in session.phrases]),
        ("placement", [x.id for x in session.placements]),
        ("marker", [x.id for x in session.markers]),
    ]
    for noun, ids in groups:
        if twice := _first_double(ids):
            raise _wrong("id-twice", f"two {noun}s have the id “{twice}”", f"{noun} {twice}", "one id each")
    if any(r.id == ON_THE_TRACK for t in session.tracks for r in t.regions):
        raise _wrong("region-id", "a region cannot have the id “track”", "regions", "any other id")


def _check_track(session: Session, track: Track) -> None:
    devices = {device.id for device in track.devices}
    for parameter in track.parameters:
        if parameter.device is not None and parameter.device not in devices:
            said = f"{track.name} has no device “{parameter.device}”"
            raise _wrong("device-unknown", said, f"parameter {parameter.id}", some_of(devices))
        if parameter.target is not None and parameter.target not in session._tracks:
            said = f"{parameter.name} feeds “{parameter.target}”, which is no track"
            raise _wrong("target-unknown", said, f"parameter {parameter.id}", "the id of a track")
    for region in track.regions:
        if region.start < 0 or region.length < 1 or region.end > MOST_TICKS:
            said = f"the region “{region.name}” does not lie in a session"
            raise _wrong("region-span", said, f"region {region.id}", "a start from 0 and a length above 0")
        check_excerpts(region.sound, region.length)


def _check_home(session: Session, lane: Lane, index: int) -> None:
    track, _ = session._parameters.get(lane.parameter, (None, None))
    if track is None:
        said = f"the lane “{lane.id}” is for “{lane.parameter}”, which is no parameter"
        raise _wrong("parameter-unknown", said, f"lanes[{index}]", "the id of a parameter")
    if session._homes[lane.parameter, lane.home] is not lane:
        said = f"two lanes for {session.lane_name(lane) if lane.on_track else lane.parameter} at “{lane.home}”"
        raise _wrong("lane-twice", said, f"lanes[{index}]", "one lane for each parameter and home")
    if not lane.on_track and session._regions.get(lane.home, (None,))[0] is not track:
        said = f"the lane “{lane.id}” lives in “{lane.home}”, which is no region of its track"
        raise _wrong("home-unknown", said, f"lanes[{index}]", "track, or the id of a region of the same track")


def _check_all_values(session: Session) -> None:
    """All lanes' values in one go; one by one only where some cannot be, or only some values can."""
    parameters = [session._parameters[lane.parameter][1] for lane in session.lanes]
    counts = np.array([len(lane.envelope.ticks) for lane in session.lanes], dtype=np.int64)
    odd = np.array([p.holds_only for p in parameters], dtype=bool)
    if len(counts) and counts.all():
        values = np.concatenate([lane.envelope.values for lane in session.lanes])
        first = np.cumsum(counts) - counts
        odd |= np.minimum.reduceat(values, first) < [p.low for p in parameters]
        odd |= np.maximum.reduceat(values, first) > [p.high for p in parameters]
    odd |= counts == 0
    for i in np.flatnonzero(odd).tolist():
        check_values(parameters[i], session.lanes[i].envelope, f"lanes[{i}]")


def _check_links(session: Session) -> None:
    """Phrases are possible; placements have a phrase and a lane, lie inside its home and not over each other."""
    for i, phrase in enumerate(session.phrases):
        phrase.checked(f"phrases[{i}]")
    for i, one in enumerate(session.placements):
        if problem := session.placement_problem(one):
            raise _wrong("placement", problem, f"placements[{i}]", "a phrase’s span on a lane that is there")
    for one, following in over_each_other(session.placements):
        said = f"the placements “{one.id}” and “{following.id}” lie over each other"
        raise _wrong("placements-overlap", said, f"placement {following.id}", "one after the other")


def some_of(ids: Iterable[str]) -> str:
    """The first ids, as what would be right."""
    some = sorted(ids)
    return ", ".join(some[:8]) + (" …" if len(some) > 8 else "") if some else "nothing yet"


def _first_double(ids: list[str]) -> str | None:
    seen: set[str] = set()
    return next((x for x in ids if x in seen or seen.add(x)), None)  # type: ignore[func-returns-value]


def _wrong(code: str, message: str, place: str, accepted: str) -> RequestError:
    return RequestError(code, message, place=place, accepted=accepted)
