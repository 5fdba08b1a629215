"""Join regions that touch into one; their lanes are joined exactly."""

from __future__ import annotations

from dataclasses import replace
from itertools import pairwise

from velmot.core.curves import editing
from velmot.core.curves.envelope import Envelope
from velmot.core.errors import RequestError
from velmot.core.session import takes
from velmot.core.session.heard import heard, reading
from velmot.core.session.session import Session
from velmot.core.session.track import Region, Track
from velmot.core.session.wording import span_text
from velmot.core.verbs.frame import telling as tell
from velmot.core.verbs.frame.change import Change
from velmot.core.verbs.frame.chosen_regions import regions_of
from velmot.core.verbs.frame.heard_change import change_between
from velmot.core.verbs.frame.operation import Operation
from velmot.core.verbs.frame.working_copy import WorkingCopy
from velmot.core.verbs.regions.request import JoinRegions

EARLIER = "the joined region starts earlier, and so loses to what overlaps it"


def plan(session: Session, request: JoinRegions) -> Change:
    """The first region grows over the others; where one of them lacks a lane it takes what was heard there."""
    regions = regions_of(session, request.regions)
    _check(session, regions)
    track, first = regions[0]
    parts = [r for _, r in regions]
    work = WorkingCopy(session)
    sound = takes.joined_over(session, track, parts)
    work.put(track.id, replace(first, length=parts[-1].end - first.start, sound=sound))
    for part in parts[1:]:
        work.drop(track.id, part.id)
    for parameter in dict.fromkeys(x.parameter for r in parts for x in session.lanes_in(r.id)):
        work.write(parameter, first.id, _joined(session, parameter, parts))
        for part in parts[1:]:
            work.write(parameter, part.id, None)
    return change_between(session, work.after(), because=EARLIER)


def _check(session: Session, regions: list[tuple[Track, Region]]) -> None:
    if len(regions) < 2:
        raise RequestError("join-one", place="regions", accepted="two regions that touch")
    if len({t.id for t, _ in regions}) > 1:
        raise RequestError("join-tracks", place="regions", accepted="one track")
    for (_, a), (_, b) in pairwise(regions):
        if a.end != b.start:
            way = "a gap" if a.end < b.start else "an overlap"
            low, high = sorted((a.end, b.start))
            raise RequestError(
                "join-gap",
                name=a.name,
                name2=b.name,
                way=way,
                where=span_text(session, low, high),
                place="regions",
                accepted="regions that touch",
            )
        if (a.muted, a.container) != (b.muted, b.container):
            raise RequestError(
                "join-differs", name=a.name, name2=b.name, place="regions", accepted="regions of one kind"
            )


def _joined(session: Session, parameter: str, parts: list[Region]) -> Envelope:
    """One curve over all parts, counted from the first's start."""
    zero, curve = parts[0].start, None
    for part in parts:
        lane = session.lane_at(parameter, part.id)
        if lane:
            piece = lane.envelope.shift(part.start - zero)
        else:
            piece = heard(reading(session), parameter, groups=False).envelope.shift(-zero)
        curve = piece if curve is None else editing.joined(curve, piece, part.start - zero)
    assert curve is not None
    return curve if session.lane_at(parameter, parts[-1].id) else editing.until(curve, parts[-1].end - zero)


def sentence(session: Session, request: JoinRegions) -> tell.Told:
    """“Join 2 regions.”"""
    return tell.told("Join {regions}.", regions=tell.regions(session, request.regions))


OPERATION = Operation("join regions", JoinRegions, plan, sentence, "moving")
