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
    LONGEST_NOTE,
    LONGEST_UNIT,
    MOST_ALTERNATIVES,
    MOST_BARS,
    MOST_CLOCK,
    MOST_GROUPS,
    MOST_KEPT,
    MOST_LANES,
    MOST_MARKERS,
    MOST_METERS,
    MOST_PARAMETERS,
    MOST_PHRASES,
    MOST_PLACEMENTS,
    MOST_POINTS,
    MOST_REGIONS,
    MOST_REMARKS,
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
        raise RequestError("length/session", place="length", accepted="1 to 1,000,000 beats")
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
    _check_notes(session)
    _check_alternatives(session)


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
        ("let_be", len(session.let_be), MOST_REMARKS),
        ("notes", len(session.notes), MOST_REMARKS),
        ("alternatives", len(session.alternatives), MOST_ALTERNATIVES),
        ("kept", sum(x.points for x in session.alternatives), MOST_KEPT),
        ("tempo", len(session.tempo.tempos), MOST_TEMPOS),
        ("meter", len(session.tempo.meters), MOST_METERS),
        ("bars", session.tempo.bar_count(session.length), MOST_BARS),
        ("clock", session.tempo.clock_count(session.length), MOST_CLOCK),
    )
    for what, number, most in counts:
        if number > most:
            place = {"clock": "tempo", "bars": "meter", "kept": "alternatives"}.get(what, what)
            raise RequestError(f"{what}-many/session", count=number, place=place, accepted=f"at most {most:,}")


def _check_texts(session: Session) -> None:
    """Raise RequestError for a name that is none, or for one or a unit that no file could hold."""
    for track in session.tracks:
        named: list[Track | Parameter | Region | Device] = [track, *track.parameters, *track.regions, *track.devices]
        for thing in named:
            if not 0 < len(thing.name) <= LONGEST_NAME:
                raise RequestError(
                    "name/long",
                    count=len(thing.name),
                    name=thing.name[:40],
                    place=f"track {track.id}",
                    accepted=f"1 to {LONGEST_NAME} characters",
                )
        for p in track.parameters:
            if len(p.unit) > LONGEST_UNIT:
                raise RequestError(
                    "unit/long",
                    name=p.name,
                    count=len(p.unit),
                    place=f"parameter {p.id}",
                    accepted=f"at most {LONGEST_UNIT} characters",
                )


def _check_markers(session: Session) -> None:
    """Raise RequestError for a marker that no session can have."""
    for i, marker in enumerate(session.markers):
        if not 0 <= marker.tick <= MOST_TICKS:
            raise RequestError(
                "marker-place/stands",
                name=marker.name[:40],
                place=f"markers[{i}].at",
                accepted="a place from 0 to 1,000,000 beats",
            )
        if len(marker.name) > LONGEST_NAME:
            raise RequestError(
                "name/long",
                count=len(marker.name),
                name=marker.name[:40],
                place=f"markers[{i}].name",
                accepted=f"at most {LONGEST_NAME} characters",
            )


def _check_notes(session: Session) -> None:
    """Raise RequestError for a note longer than one can be, or without a word."""
    for i, note in enumerate(session.notes):
        if not 0 < len(note.text) <= LONGEST_NOTE:
            accepted = f"1 to {LONGEST_NOTE:,} characters"
            raise RequestError("note-long", count=len(note.text), place=f"notes[{i}].text", accepted=accepted)


def _check_alternatives(session: Session) -> None:
    """Raise RequestError for an alternative that keeps what no parameter could do. It need not be one that could be used today."""
    for i, one in enumerate(session.alternatives):
        place = f"alternatives[{i}]"
        if not 0 < len(one.name) <= LONGEST_NAME:
            raise RequestError(
                "name/long",
                count=len(one.name),
                name=one.name[:40],
                place=f"{place}.name",
                accepted=f"1 to {LONGEST_NAME} characters",
            )
        if twice := _first_double([lane.home for lane in one.lanes]):
            raise RequestError("alternative-twice/home", name=one.name, home=twice, place=place, accepted="one each")
        for n, lane in enumerate(one.lanes):
            if not len(lane.envelope):
                where = f"{place}.lanes[{n}].points"
                raise RequestError("points-none/lane", place=where, accepted="at least one point")
        if one.span and not 0 <= one.span[0] < one.span[1] <= MOST_TICKS:
            raise RequestError("range-empty", place=f"{place}.end", accepted="an end after the start")


def check_values(parameter: Parameter, envelope: Envelope, place: str) -> None:
    """Raise RequestError unless every point is one the parameter can have."""
    if not len(envelope):
        raise RequestError("points-none/lane", place=f"{place}.points", accepted="at least one point")
    if envelope.values.min() < parameter.low or envelope.values.max() > parameter.high:
        i = int(((envelope.values < parameter.low) | (envelope.values > parameter.high)).argmax())
        value = f"{envelope.values[i]:g} {parameter.unit}".rstrip()
        accepted = f"{parameter.low:g} to {parameter.high:g} {parameter.unit}"
        where = f"{place}.points[{i}]"
        raise RequestError(
            "value-range/among", name=parameter.name, n=i + 1, value=value, place=where, accepted=accepted
        )
    if parameter.holds_only:
        _check_named_values(parameter, envelope, place)


def _check_named_values(parameter: Parameter, envelope: Envelope, place: str) -> None:
    glides = (envelope.bends[:-1] != HOLD) & (envelope.ticks[1:] > envelope.ticks[:-1])
    if glides.any():
        i = int(glides.argmax())
        raise RequestError(
            "hold-only",
            name=parameter.name,
            sort=parameter.kind,
            n=i + 1,
            place=f"{place}.points[{i}]",
            accepted="hold",
        )
    labels = {label.value for label in parameter.labels}
    if odd := set(envelope.values.tolist()) - labels:
        i = envelope.values.tolist().index(min(odd))
        raise RequestError(
            "value-label",
            name=parameter.name,
            n=i + 1,
            value=min(odd),
            place=f"{place}.points[{i}]",
            accepted=", ".join(f"{v:g}" for v in sorted(labels)[:12]),
        )


def _check_members(session: Session) -> None:
    """Members are tracks, no group holds itself, and no track lies under more groups than can be added up."""
    for track in session.tracks:
        for member in track.members:
            if member not in session._tracks:
                raise RequestError(
                    "member-unknown",
                    name=track.name,
                    member=member,
                    place=f"track {track.id}, members",
                    accepted="ids of tracks",
                )
    for track in session.tracks if session._parents else ():
        if len(groups_above(session, track.id, MOST_GROUPS + 1)) > MOST_GROUPS:
            raise RequestError(
                "groups-many",
                name=track.name,
                most=MOST_GROUPS,
                place=f"track {track.id}",
                accepted=f"at most {MOST_GROUPS} group faders above a track",
            )


def _check_ids(session: Session) -> None:
    groups: list[tuple[str, list[str]]] = [
        ("track", [t.id for t in session.tracks]),
        ("parameter", [p.id for t in session.tracks for p in t.parameters]),
        ("region", [r.id for t in session.tracks for r in t.regions]),
        ("lane", [x.id for x in session.lanes]),
        ("phrase", [x.id for x in session.phrases]),
        ("placement", [x.id for x in session.placements]),
        ("marker", [x.id for x in session.markers]),
        ("finding let be", [x.id for x in session.let_be]),
        ("note", [x.id for x in session.notes]),
        ("alternative", [x.id for x in session.alternatives]),
    ]
    for noun, ids in groups:
        if twice := _first_double(ids):
            raise RequestError("id-twice", noun=noun, twice=twice, place=f"{noun} {twice}", accepted="one id each")
    if any(r.id == ON_THE_TRACK for t in session.tracks for r in t.regions):
        raise RequestError("region-id", place="regions", accepted="any other id")


def _check_track(session: Session, track: Track) -> None:
    devices = {device.id for device in track.devices}
    for parameter in track.parameters:
        if parameter.device is not None and parameter.device not in devices:
            raise RequestError(
                "device-unknown/parameter",
                name=track.name,
                device=parameter.device,
                place=f"parameter {parameter.id}",
                accepted=some_of(devices),
            )
        if parameter.target is not None and parameter.target not in session._tracks:
            raise RequestError(
                "target-unknown",
                name=parameter.name,
                target=parameter.target,
                place=f"parameter {parameter.id}",
                accepted="the id of a track",
            )
    for region in track.regions:
        if region.start < 0 or region.length < 1 or region.end > MOST_TICKS:
            raise RequestError(
                "region-span",
                name=region.name,
                place=f"region {region.id}",
                accepted="a start from 0 and a length above 0",
            )
        check_excerpts(region.sound, region.length)


def _check_home(session: Session, lane: Lane, index: int) -> None:
    track, _ = session._parameters.get(lane.parameter, (None, None))
    if track is None:
        raise RequestError(
            "parameter-unknown/lane",
            id=lane.id,
            parameter=lane.parameter,
            place=f"lanes[{index}]",
            accepted="the id of a parameter",
        )
    if session._homes[lane.parameter, lane.home] is not lane:
        raise RequestError(
            "lane-twice",
            what=session.lane_name(lane) if lane.on_track else lane.parameter,
            home=lane.home,
            place=f"lanes[{index}]",
            accepted="one lane for each parameter and home",
        )
    if not lane.on_track and session._regions.get(lane.home, (None,))[0] is not track:
        raise RequestError(
            "home-unknown",
            id=lane.id,
            home=lane.home,
            place=f"lanes[{index}]",
            accepted="track, or the id of a region of the same track",
        )


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
            raise RequestError(
                "placement",
                problem=problem,
                place=f"placements[{i}]",
                accepted="a phrase’s span on a lane that is there",
            )
    for one, following in over_each_other(session.placements):
        raise RequestError(
            "placements-overlap",
            id=one.id,
            id2=following.id,
            place=f"placement {following.id}",
            accepted="one after the other",
        )


def some_of(ids: Iterable[str]) -> str:
    """The first ids, as what would be right."""
    some = sorted(ids)
    return ", ".join(some[:8]) + (" …" if len(some) > 8 else "") if some else "nothing yet"


def _first_double(ids: list[str]) -> str | None:
    seen: set[str] = set()
    return next((x for x in ids if x in seen or seen.add(x)), None)  # type: ignore[func-returns-value]
