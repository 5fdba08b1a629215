"""Make a region over a span of a track: an ordinary one, or a container that holds nothing but automation."""

from __future__ import annotations

from velmot.core.errors import RequestError
from velmot.core.session.session import Session
from velmot.core.session.track import Region
from velmot.core.verbs.frame import telling as tell
from velmot.core.verbs.frame.change import Caution, Change
from velmot.core.verbs.frame.checks import name_of, need_range
from velmot.core.verbs.frame.heard_change import change_between
from velmot.core.verbs.frame.operation import Operation
from velmot.core.verbs.frame.working_copy import WorkingCopy
from velmot.core.verbs.regions.embed import embed_into
from velmot.core.verbs.regions.request import MakeRegion


def plan(session: Session, request: MakeRegion) -> Change:
    """The region, and in it what was heard of the parameters; what is heard stays the same."""
    track = session.track(request.track)
    need_range(request.start, request.end)
    if request.end > session.length:
        end = session.tempo.position(session.length)
        raise RequestError("range-late", place="end", accepted=f"{end} or earlier")
    name = name_of(request.name, "region")
    work = WorkingCopy(session)
    region = Region(work.new_region_id(), name, request.start, request.end - request.start, False, request.container)
    work.put(track.id, region)
    made = work.after()
    cautions: list[Caution] = []
    if request.parameters:
        made, cautions = embed_into(made, [(made.track(track.id), region)], request.parameters, keep_under=True)
    return change_between(session, made, cautions)


def sentence(session: Session, request: MakeRegion) -> tell.Told:
    """“Make a container dawn on Bell buoy from 9.1.00 to 13.1.00, taking over 1 parameter.”"""
    taken = tell.parameters(session, request.parameters) if request.parameters else "nothing"
    return tell.told(
        "Make {container} {name} on {track} from {start} to {end}, taking over {parameters}.",
        container="a container" if request.container else "a region",
        name=request.name.strip() or tell.Asked("type a name"),
        track=tell.tracks(session, [request.track] if request.track else []),
        start=tell.position(session, request.start),
        end=tell.position(session, request.end),
        parameters=taken,
    )


OPERATION = Operation("make region", MakeRegion, plan, sentence, "moving")
