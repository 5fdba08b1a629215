"""Place a container from a file: a named span of automation, onto the parameters of a track that fit."""

from __future__ import annotations

from dataclasses import dataclass

from velmot.core import editing
from velmot.core.change import Caution, Change
from velmot.core.errors import RequestError
from velmot.core.limits import MOST_CLIPS
from velmot.core.operations.frame import Operation, fitted, says
from velmot.core.operations.landing import limited
from velmot.core.operations.paste import Clip, clip_envelope
from velmot.core.operations.region_work import RegionWork, change_between
from velmot.core.parameters import Parameter
from velmot.core.session import Region, Session, Track
from velmot.core.time import Tick


@dataclass(frozen=True)
class PlaceContainer:
    """Lay a container over a track."""

    track: str = says("The track it lies on, by id.")
    name: str = says("Its name.")
    at: Tick = says("Where it starts.")
    length: Tick = says("How long it is.")
    clips: tuple[Clip, ...] = says("What it holds.", most=MOST_CLIPS)


def plan(session: Session, request: PlaceContainer) -> Change:
    """The container with the lanes for which the track has the same parameter; the others are named and left out."""
    track = session.track(request.track)
    if not request.name.strip() or len(request.name) > 300:
        raise RequestError("name", "a container needs a name", place="name", accepted="1 to 300 characters")
    if request.length <= 0 or not request.at >= 0 or request.at + request.length > session.length:
        latest = session.tempo.position(max(session.length - max(request.length, 0), 0))
        raise RequestError("at-outside", "it would not lie in the session", place="at", accepted=f"1.1.00 to {latest}")
    work = RegionWork(session)
    region = Region(work.new_id(), request.name.strip(), request.at, request.length, container=True)
    work.put(track.id, region)
    taken: set[str] = set()
    for clip in request.clips:
        parameter = _same(track, clip, taken)
        if parameter is None:
            said = f"{track.name} has no {clip.name} in {clip.unit or 'plain numbers'}: left out"
            work.cautions.append(Caution("no-such-parameter", said, track=track.id))
            continue
        taken.add(parameter.id)
        piece, spans = fitted(editing.cut(clip_envelope(clip), 0, request.length), parameter)
        if spans:
            work.cautions.append(limited(spans, track, parameter, region.start, region.end))
        work.write(parameter.id, region.id, piece.envelope)
        work.name(parameter.id, region.start, region.end)
    return change_between(session, work.result(), f"Place {region.name} on {track.name}", work.cautions, work.named)


def _same(track: Track, clip: Clip, taken: set[str]) -> Parameter | None:
    form = (clip.name.casefold(), clip.family, clip.kind, clip.unit, clip.axis)
    alike = [p for p in track.parameters if (p.name.casefold(), p.family, p.kind, p.unit, p.axis) == form]
    return next((p for p in alike if p.id not in taken), None)


OPERATION = Operation("place container", PlaceContainer, plan)
