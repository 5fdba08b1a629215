"""Cautions that several verbs have to say: each worded once, here."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import replace
from typing import Any

from velmot.core.parameters.parameter import Parameter
from velmot.core.remedy import Remedy
from velmot.core.session.heard import speaking
from velmot.core.session.session import Session
from velmot.core.session.track import Lane, Precedence, Region, Track
from velmot.core.session.wording import counted, limits_text, listed
from velmot.core.verbs.frame.change import Caution
from velmot.core.verbs.modes.request import SetMode


def no_change() -> Caution:
    """What is asked for is so already."""
    return Caution("no-change", "It is already like this: nothing would change")


def not_reading(track: Track, request: Any = None) -> Caution:
    """What lands on a track that is off would not be heard; a request that can set it to read may do so along with it."""
    said = f"{track.name} is not reading its lanes: this would not be heard"
    if hasattr(request, "set_to_read"):
        remedy = Remedy("set it to read in the same step", step=replace(request, set_to_read=True))
    else:
        remedy = Remedy("set it to read first", step=SetMode((track.id,), "read"))
    return Caution("not-reading", said, track=track.id, remedy=remedy)


def beyond_end(session: Session, track: Track) -> Caution:
    """What would land beyond the end of the session is left out."""
    said = f"What would land beyond the session's end, {session.tempo.position(session.length)}, is left out"
    return Caution("beyond-end", said, track=track.id, start=session.length)


def pass_cut(session: Session) -> Caution:
    """A pass that goes on beyond the end of the session ends there."""
    said = f"The pass is cut at the session's end, {session.tempo.position(session.length)}"
    return Caution("beyond-end", said, start=session.length)


def no_such_parameter(track: Track, name: str, like: str, *remedies: Remedy) -> Caution:
    """The track lacks what is to land there: it is left out, or one of the remedies is taken."""
    said = f"{track.name} has no {name} {like}: left out"
    first = remedies[0] if remedies else None
    return Caution("no-such-parameter", said, track=track.id, remedy=first, others=remedies[1:])


def limited_spans(spans: int, track: Track, target: Parameter, start: int, end: int) -> Caution:
    """Some spans go further than the target can."""
    said = f"{counted(spans, 'span')} limited to what {track.name} {target.name} can be"
    return Caution("limited", said, track=track.id, start=start, end=end)


def limited_values(parameter: Parameter, count: int) -> list[Caution]:
    """Some values go further than the parameter can; nothing for none."""
    if not count:
        return []
    reach = limits_text(parameter.format(parameter.low), parameter.format(parameter.high))
    return [Caution("limited", f"{counted(count, 'value')} limited to {reach}")]


def takes(lanes: Sequence[Lane], noun: str = "lane") -> Caution:
    """How much goes."""
    points = sum(len(x.envelope) for x in lanes)
    return Caution("takes", f"Takes {counted(len(lanes), noun)} with {counted(points, 'point')}")


def outside_range(session: Session, lane: Lane) -> Caution:
    """A lane that the range does not reach stays as it is."""
    return Caution("nothing-here", f"{session.lane_name(lane)} does not reach into the range", lane=lane.id)


def holds_only(session: Session, lane: Lane, why: str) -> Caution:
    """A lane of named values has no in-between."""
    return Caution("holds-only", f"{session.lane_name(lane)} {why}", lane=lane.id)


def other_unit(session: Session, lane: Lane, units: Sequence[str]) -> Caution:
    """An amount belongs to a unit: a lane of another one stays."""
    own = session.parameter(lane.parameter).distance_unit
    asked = " or ".join(unit or "plain numbers" for unit in units)
    said = f"{session.lane_name(lane)} is in {own or 'plain numbers'}, not in {asked}: it stays"
    return Caution("other-unit", said, lane=lane.id)


def limited_lane(session: Session, lane: Lane, spans: int) -> Caution:
    """Some spans of a lane would go further than it can."""
    return Caution("limited", f"{session.lane_name(lane)}: {counted(spans, 'span')} limited", lane=lane.id)


def about_region(code: str, message: str, region: Region, track: str | None = None) -> Caution:
    """Something about one region, over its span."""
    return Caution(code, message, track=track, start=region.start, end=region.end)


def region_wins(session: Session, target: Parameter, track: Track, spans: Sequence[tuple[int, int]]) -> list[Caution]:
    """Regions whose own lanes speak where something lands on the track; none where the track's lanes win."""
    if session.precedence is Precedence.TRACK:
        return []
    start, end = min(a for a, _ in spans), max(b for _, b in spans)
    able = [(a, b, r) for a, b, r, _ in speaking(session, target.id).spans if a < end and start < b]
    names = dict.fromkeys(r.name for a, b, r in able if any(a < last and first < b for first, last in spans))
    if not names:
        return []
    said = f"In {listed([*names], 'region')} the region's own {target.name} lane wins: the rest is heard"
    return [Caution("region-wins", said, track=track.id, start=start, end=end)]
