"""Keep a phrase: what a lane does over a range becomes a phrase of its own, and its first placement if wished."""

from __future__ import annotations

from velmot.core.errors import RequestError
from velmot.core.session.phrases import Placement
from velmot.core.session.session import Session
from velmot.core.verbs.frame import telling as tell
from velmot.core.verbs.frame.change import Change, PhraseSwap, PlacementSwap
from velmot.core.verbs.frame.checks import need_range
from velmot.core.verbs.frame.given import kept
from velmot.core.verbs.frame.operation import Operation
from velmot.core.verbs.reuse.request import KeepPhrase


def plan(session: Session, request: KeepPhrase) -> Change:
    """The change that keeps it; the lane itself stays as it is."""
    need_range(request.start, request.end)
    if not request.lane:
        raise RequestError("lanes-none", place="lane", accepted="a lane")
    lane = session.lane(request.lane)
    first, last = session.span(lane)
    start, end = max(first, request.start), min(last, request.end)
    if start >= end:
        raise RequestError(
            "nothing-here", name=session.lane_name(lane), place="range", accepted="a range it reaches into"
        )
    phrase = kept(session, lane, start, end, request.name, next(session.new_ids("phrase")))
    place = Placement(next(session.new_ids("place")), phrase.id, lane.parameter, lane.home, start - first, end - start)
    swaps = (PlacementSwap(None, place),) if request.place else ()
    return Change(phrases=(PhraseSwap(None, phrase),), placements=swaps)


def sentence(session: Session, request: KeepPhrase) -> tell.Told:
    """“Keep Bell buoy Level from 9.1.00 to 13.1.00 as swell, linked where it is.”"""
    return tell.told(
        "Keep {lane} from {start} to {end} as {name}, {place}.",
        lane=tell.lanes(session, [request.lane] if request.lane else []),
        start=tell.position(session, request.start),
        end=tell.position(session, request.end),
        name=request.name.strip() or tell.Asked("name it"),
        place="linked where it is" if request.place else "the lane left alone",
    )


OPERATION = Operation("keep phrase", KeepPhrase, plan, sentence, "linking", of_places=True)
