"""Keep a phrase: what a lane does over a range becomes a phrase of its own, and its first placement if wished."""

from __future__ import annotations

from velmot.core.errors import RequestError
from velmot.core.session.alternatives import usable
from velmot.core.session.phrases import Placement
from velmot.core.session.session import Session
from velmot.core.session.track import Lane
from velmot.core.session.wording import alternative_name
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
    lane = _lane(session, request)
    first, last = session.span(lane)
    start, end = max(first, request.start), min(last, request.end)
    if start >= end:
        raise RequestError(
            "nothing-here", name=session.lane_name(lane), place="range", accepted="a range it reaches into"
        )
    phrase = kept(session, lane, start, end, request.name, next(session.new_ids("phrase")))
    place = Placement(next(session.new_ids("place")), phrase.id, lane.parameter, lane.home, start - first, end - start)
    swaps = (PlacementSwap(None, place),) if request.place and not request.alternative else ()
    return Change(phrases=(PhraseSwap(None, phrase),), placements=swaps)


def _lane(session: Session, request: KeepPhrase) -> Lane:
    """The lane that is used, or the one of its home that an alternative keeps."""
    if not request.alternative:
        return session.lane(request.lane)
    lanes = usable(session, request.alternative).lanes
    home = session.lane(request.lane).home if session.there("lane", request.lane) else ""
    found = next((x for x in lanes if x.id == request.lane), None) or next((x for x in lanes if x.home == home), None)
    if found is None:
        name = session.alternative(request.alternative).name
        raise RequestError("alternative-lane", name=name, place="lane", accepted="a lane that it keeps")
    return found


def sentence(session: Session, request: KeepPhrase) -> tell.Told:
    """“Keep Bell buoy Level from 9.1.00 to 13.1.00 as swell, linked where it is.”"""
    what: dict[str, str | tell.Asked]
    if request.alternative:
        kept, what = "what {alternative} does", {"alternative": alternative_name(session, request.alternative)}
    else:
        kept, what = "{lane}", {"lane": tell.lanes(session, [request.lane] if request.lane else [])}
    return tell.told(
        f"Keep {kept} from {{start}} to {{end}} as {{name}}, {{place}}.",
        **what,
        start=tell.position(session, request.start),
        end=tell.position(session, request.end),
        name=request.name.strip() or tell.Asked("name it"),
        place="linked where it is" if request.place and not request.alternative else "the lane left alone",
    )


OPERATION = Operation("keep phrase", KeepPhrase, plan, sentence, "linking", of_places=True)
