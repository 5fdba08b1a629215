"""Place a container from a file: a named span of automation, onto the parameters of a track that fit."""

from __future__ import annotations

from velmot.core.curves import editing
from velmot.core.errors import RequestError
from velmot.core.parameters.mapping import possible
from velmot.core.parameters.parameter import Parameter
from velmot.core.session.session import Session
from velmot.core.session.track import Region, Track
from velmot.core.verbs.frame import cautions as say
from velmot.core.verbs.frame import telling as tell
from velmot.core.verbs.frame.change import Change
from velmot.core.verbs.frame.checks import name_of
from velmot.core.verbs.frame.clips import clip_envelope
from velmot.core.verbs.frame.heard_change import change_between
from velmot.core.verbs.frame.operation import Operation
from velmot.core.verbs.frame.working_copy import WorkingCopy
from velmot.core.verbs.paste.request import Clip
from velmot.core.verbs.regions.request import PlaceContainer


def plan(session: Session, request: PlaceContainer) -> Change:
    """The container with the lanes for which the track has the same parameter; the others are named and left out."""
    track = session.track(request.track)
    name = name_of(request.name, "container")
    if request.length <= 0 or not request.at >= 0 or request.at + request.length > session.length:
        latest = session.tempo.position(max(session.length - max(request.length, 0), 0))
        raise RequestError("at-outside/container", place="at", accepted=f"1.1.00 to {latest}")
    work = WorkingCopy(session)
    region = Region(work.new_region_id(), name, request.at, request.length, request.muted, container=True)
    work.put(track.id, region)
    taken: set[str] = set()
    for clip in request.clips:
        parameter = _same(track, clip, taken)
        if parameter is None:
            work.cautions.append(say.no_such_parameter(track, clip.name, f"in {clip.measure}"))
            continue
        taken.add(parameter.id)
        made = possible(editing.cut(clip_envelope(clip), 0, request.length), parameter)
        if made.spans_limited:
            work.cautions.append(say.limited_spans(made.spans_limited, track, parameter, region.start, region.end))
        work.write(parameter.id, region.id, made.fragment.envelope)
        work.name(parameter.id, region.start, region.end)
    return change_between(session, work.after(), work.cautions, work.named)


def _same(track: Track, clip: Clip, taken: set[str]) -> Parameter | None:
    form = (clip.name.casefold(), clip.family, clip.kind, clip.unit, clip.axis)
    alike = [p for p in track.parameters if (p.name.casefold(), p.family, p.kind, p.unit, p.axis) == form]
    return next((p for p in alike if p.id not in taken), None)


def sentence(session: Session, request: PlaceContainer) -> tell.Told:
    """“Place dawn on Bell buoy at 9.1.00.”"""
    return tell.told(
        "Place {name} on {track} at {at}.",
        name=request.name.strip() or tell.Asked("type a name"),
        track=tell.tracks(session, [request.track] if request.track else []),
        at=tell.position(session, request.at),
    )


OPERATION = Operation("place container", PlaceContainer, plan, sentence, "replacing")
