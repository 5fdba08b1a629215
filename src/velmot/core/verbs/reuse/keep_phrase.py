"""Keep a phrase: what a lane does over a range becomes a phrase of its own, and its first placement if wished."""

from __future__ import annotations

from dataclasses import dataclass, replace

from velmot.core.curves import editing
from velmot.core.curves.envelope import Envelope
from velmot.core.errors import RequestError
from velmot.core.parameters.parameter import Parameter
from velmot.core.session.phrases import Phrase, Placement
from velmot.core.session.session import Lane, Session
from velmot.core.time.ticks import Tick
from velmot.core.verbs.frame import telling as tell
from velmot.core.verbs.frame.change import Change, PhraseSwap, PlacementSwap
from velmot.core.verbs.frame.given import name_of
from velmot.core.verbs.frame.operation import Operation, need_range
from velmot.core.verbs.request import says


@dataclass(frozen=True)
class KeepPhrase:
    """Keep what a lane does over a range as a phrase, in the session and in the phrase book."""

    lane: str = says("The lane, by id.")
    start: Tick = says("Where the range starts.")
    end: Tick = says("Where it ends.")
    name: str = says("What it is called.")
    place: bool = says("Also make the range its first place, linked.", default=True)


def plan(session: Session, request: KeepPhrase) -> Change:
    """The change that keeps it; the lane itself stays as it is."""
    need_range(request.start, request.end)
    if not request.lane:
        raise RequestError("lanes-none", "no lane is chosen", place="lane", accepted="a lane")
    lane = session.lane(request.lane)
    first, last = session.span(lane)
    start, end = max(first, request.start), min(last, request.end)
    if start >= end:
        said = f"{session.lane_name(lane)} does not reach into the range"
        raise RequestError("nothing-here", said, place="range", accepted="a range it reaches into")
    phrase = kept(session, lane, start, end, request.name, next(session.new_ids("phrase")))
    place = Placement(next(session.new_ids("place")), phrase.id, lane.parameter, lane.home, start - first, end - start)
    swaps = (PlacementSwap(None, place),) if request.place else ()
    return Change(phrases=(PhraseSwap(None, phrase),), placements=swaps)


def kept(session: Session, lane: Lane, start: int, end: int, name: str, id: str) -> Phrase:
    """What a lane does between two session ticks inside its home, as a phrase made for the values it reaches there."""
    parameter = session.parameter(lane.parameter)
    piece = editing.cut(session.in_session_time(lane), start, end)
    low, high = made_for(piece.envelope, parameter)
    return replace(
        Phrase(id, name_of(name), piece.length, piece.envelope, None, parameter.unit, parameter.axis),
        low=low,
        high=high,
    ).checked("phrase")


def made_for(curve: Envelope, parameter: Parameter) -> tuple[float, float]:
    """The values a curve reaches; the parameter's range, where it hardly moves."""
    low, high = float(curve.values.min()), float(curve.values.max())
    apart = float(parameter.axis.coordinate(high) - parameter.axis.coordinate(low))
    return (low, high) if apart >= parameter.span / 1e4 else (parameter.low, parameter.high)


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
