"""What differs from one state of a session to a later one, in sentences."""

from __future__ import annotations

from collections.abc import Iterator

from velmot.core.session.comparison import revisions_compared
from velmot.core.session.session import Session
from velmot.core.session.track import Region, Track
from velmot.core.session.wording import marker_name, parameter_name, place, span_text


def changes_between(one: Session, other: Session) -> Iterator[str]:
    """A sentence for each thing that differs: of the whole, of tracks in their order, of lanes, of values at rest.

    Where all that differs is something no sheet tells, that is said.
    """
    said = [*_of_all(one, other), *_of_tracks(one, other), *_of_lanes(one, other), *_at_rest(one, other)]
    yield from said
    if not said and one != other:
        yield "Only what no sheet tells is otherwise: sounds, notes, phrases or what is kept aside"


def _of_all(one: Session, other: Session) -> Iterator[str]:
    if one.name != other.name:
        yield f"It is called {other.name}, before {one.name}"
    if one.tempo != other.tempo:
        yield "Tempo or meter is otherwise"
    if one.length != other.length:
        yield f"It ends at {place(other, other.length)}, before at {place(one, one.length)}"
    if one.precedence != other.precedence:
        yield f"{other.precedence} lanes win, before {one.precedence} lanes"
    before, now = ({m.id: m for m in s.markers} for s in (one, other))
    for marker in other.markers_in_time:
        if marker.id not in before:
            yield f"The marker {marker_name(other, marker)} is new, {place(other, marker.tick)}"
        elif before[marker.id] != marker:
            was = before[marker.id]
            yield f"The marker {marker_name(one, was)} is {marker_name(other, marker)}, {place(other, marker.tick)}"
    yield from (f"The marker {marker_name(one, m)} is gone" for m in one.markers_in_time if m.id not in now)


def _of_tracks(one: Session, other: Session) -> Iterator[str]:
    before, now = ({t.id: t for t in s.tracks} for s in (one, other))
    for track in other.tracks:
        if track.id in before:
            yield from _of_track(one, before[track.id], other, track)
        else:
            yield f"{track.name} is new"
    yield from (f"{track.name} is gone" for track in one.tracks if track.id not in now)


def _of_track(one: Session, was: Track, other: Session, track: Track) -> Iterator[str]:
    if was.name != track.name:
        yield f"{track.name} was called {was.name}"
    if was.mode != track.mode:
        yield f"{track.name} is set to {track.mode}, before to {was.mode}"
    for words, there, here in (("is", was.members, track.members), ("is no longer", track.members, was.members)):
        said = other if words == "is" else one
        yield from (f"{said.track(id).name} {words} in {track.name}" for id in here if id not in there)
    for words, devices, others in (("new", track.devices, was.devices), ("gone", was.devices, track.devices)):
        yield from (f"{track.name}: {d.name} is {words}" for d in devices if d.id not in {x.id for x in others})
    regions, old = ({r.id: r for r in t.regions} for t in (track, was))
    for region in track.regions:
        if region.id not in old:
            yield f"{track.name}: {region.name} is new, {span_text(other, region.start, region.end)}"
        else:
            yield from (f"{track.name}: {said}" for said in _of_region(one, old[region.id], other, region))
    yield from (f"{track.name}: {r.name} is gone" for r in was.regions if r.id not in regions)


def _of_region(one: Session, was: Region, other: Session, region: Region) -> Iterator[str]:
    if was.name != region.name:
        yield f"{region.name} was called {was.name}"
    if (was.start, was.length) != (region.start, region.length):
        before = span_text(one, was.start, was.end)
        yield f"{region.name} lies at {span_text(other, region.start, region.end)}, before at {before}"
    if was.muted != region.muted:
        yield f"{region.name} is {'muted' if region.muted else 'heard again'}"


def _of_lanes(one: Session, other: Session) -> Iterator[str]:
    for pair in revisions_compared(one, other):
        if pair.kind == "only other":
            yield f"{pair.other.name}: a lane that was not there"
        elif pair.kind == "only one":
            yield f"{pair.one.name}: its lane is gone"
        else:
            far = pair.measure.format_distance(pair.largest)
            yield f"{pair.other.name}: up to {far} otherwise, most at {place(other, pair.at)}"


def _at_rest(one: Session, other: Session) -> Iterator[str]:
    before = {p.id: p for t in one.tracks for p in t.parameters}
    for p in (p for t in other.tracks for p in t.parameters if p.id in before):
        if before[p.id].value != p.value:
            was = before[p.id]
            yield f"{parameter_name(other, p.id)} rests at {p.format(p.value)}, before at {was.format(was.value)}"
