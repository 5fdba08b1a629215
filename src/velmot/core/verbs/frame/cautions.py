"""Cautions that several verbs have to say: each worded once, here."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import replace
from typing import Any

from velmot.core.parameters.parameter import Parameter
from velmot.core.remedy import Remedy
from velmot.core.session.heard import speaking
from velmot.core.session.session import Session
from velmot.core.session.track import Lane, Precedence, Region, Track
from velmot.core.session.wording import limits_text, listed
from velmot.core.verbs.frame.change import Caution, caution
from velmot.core.verbs.modes.request import SetMode
from velmot.core.words import Arg, Several


def no_change() -> Caution:
    """What is asked for is so already."""
    return caution("no-change")


def not_reading(track: Track, request: Any = None) -> Caution:
    """What lands on a track that is off would not be heard; a request that can set it to read may do so along with it."""
    if hasattr(request, "set_to_read"):
        remedy = Remedy("set it to read in the same step", step=replace(request, set_to_read=True))
    else:
        remedy = Remedy("set it to read first", step=SetMode((track.id,), "read"))
    return caution("not-reading", name=track.name, track=track.id, remedy=remedy)


def beyond_end(session: Session, track: Track) -> Caution:
    """What would land beyond the end of the session is left out."""
    where = str(session.tempo.position(session.length))
    return caution("beyond-end/landing", where=where, track=track.id, start=session.length)


def pass_cut(session: Session) -> Caution:
    """A pass that goes on beyond the end of the session ends there."""
    return caution("beyond-end/pass", where=str(session.tempo.position(session.length)), start=session.length)


def no_such_parameter(track: Track, name: str, like: str, *remedies: Remedy) -> Caution:
    """The track lacks what is to land there: it is left out, or one of the remedies is taken."""
    first, others = remedies[0] if remedies else None, remedies[1:]
    said = {"name": track.name, "parameter": name, "like": like}
    return caution("no-such-parameter", said, track=track.id, remedy=first, others=others)


def limited_spans(spans: int, track: Track, target: Parameter, start: int, end: int) -> Caution:
    """Some spans go further than the target can."""
    name = f"{track.name} {target.name}"
    return caution("limited/spans", count=spans, name=name, track=track.id, start=start, end=end)


def limited_values(parameter: Parameter, count: int) -> list[Caution]:
    """Some values go further than the parameter can; nothing for none."""
    if not count:
        return []
    reach = limits_text(parameter.format(parameter.low), parameter.format(parameter.high))
    return [caution("limited/values", count=count, reach=reach)]


def takes(lanes: Sequence[Lane], noun: str = "lane") -> Caution:
    """How much goes."""
    points = sum(len(x.envelope) for x in lanes)
    return caution("takes", what=Several(len(lanes), noun), points=points)


def outside_range(session: Session, lane: Lane) -> Caution:
    """A lane that the range does not reach stays as it is."""
    return caution("nothing-here", name=session.lane_name(lane), lane=lane.id)


def holds_only(session: Session, lane: Lane, why: str) -> Caution:
    """A lane of named values has no in-between."""
    return caution("holds-only", name=session.lane_name(lane), why=why, lane=lane.id)


def other_unit(session: Session, lane: Lane, units: Sequence[str]) -> Caution:
    """An amount belongs to a unit: a lane of another one stays."""
    own = session.parameter(lane.parameter).distance_unit
    asked = " or ".join(unit or "plain numbers" for unit in units)
    return caution("other-unit", name=session.lane_name(lane), own=own or "plain numbers", asked=asked, lane=lane.id)


def limited_lane(session: Session, lane: Lane, spans: int, start: int, end: int) -> Caution:
    """Some spans of a lane would go further than it can, between two ticks of its own time."""
    zero, name = session.zero_of(lane), session.lane_name(lane)
    return caution("limited/lane", name=name, count=spans, lane=lane.id, start=zero + start, end=zero + end)


def about_region(
    kind: str,
    region: Region,
    track: str | None = None,
    remedy: Remedy | None = None,
    said: Mapping[str, Arg] | None = None,
) -> Caution:
    """Something about one region, over its span."""
    words = {"name": region.name, **(said or {})}
    return caution(kind, words, track=track, start=region.start, end=region.end, remedy=remedy)


def region_wins(session: Session, target: Parameter, track: Track, spans: Sequence[tuple[int, int]]) -> list[Caution]:
    """Regions whose own lanes speak where something lands on the track; none where the track's lanes win."""
    if session.precedence is Precedence.TRACK:
        return []
    start, end = min(a for a, _ in spans), max(b for _, b in spans)
    able = [(a, b, r) for a, b, r, _ in speaking(session, target.id).spans if a < end and start < b]
    names = dict.fromkeys(r.name for a, b, r in able if any(a < last and first < b for first, last in spans))
    if not names:
        return []
    said = {"regions": listed([*names], "region"), "parameter": target.name}
    return [caution("region-wins", said, track=track.id, start=start, end=end)]
