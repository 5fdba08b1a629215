"""Change markers: where they stand, their name, and whether they are cues."""

from __future__ import annotations

from dataclasses import replace

from velmot.core.errors import RequestError
from velmot.core.session.session import Session
from velmot.core.verbs.frame import telling as tell
from velmot.core.verbs.frame.change import Change, MarkerSwap, caution
from velmot.core.verbs.frame.chosen_markers import change_of, checked_name, checked_place, in_words, markers_of
from velmot.core.verbs.frame.operation import Operation
from velmot.core.verbs.markers.request import ChangeMarkers


def plan(session: Session, request: ChangeMarkers) -> Change:
    """The markers moved and named. They stop together at the ends of the session."""
    chosen = markers_of(session, request.markers)
    if request.at is not None and request.by:
        raise RequestError("marker-way", place="at", accepted="one of the two")
    first, last = chosen[0].tick, chosen[-1].tick
    wanted = request.by if request.at is None else checked_place(session, request.at) - first
    by = max(min(wanted, max(session.length - last, 0)), -first)
    name = None if request.name is None else checked_name(request.name)
    swaps = [
        MarkerSwap(
            marker,
            replace(
                marker,
                tick=marker.tick + by,
                name=marker.name if name is None else name,
                cue=marker.cue if request.cue is None else request.cue,
            ),
        )
        for marker in chosen
    ]
    made = change_of(swaps)
    if by == wanted:
        return made
    end = "its end" if by < wanted else "its start"
    return replace(made, cautions=(*made.cautions, caution("stopped/markers", count=len(chosen), edge=end)))


def sentence(session: Session, request: ChangeMarkers) -> tell.Told:
    """“Move marker dawn to 9.1.00.”, “Name marker at 9.1.00 dawn.” or “Make marker dawn a cue.”"""
    which = in_words(session, request.markers)
    if request.at is not None:
        return tell.told("Move {markers} to {at}.", markers=which, at=tell.position(session, request.at))
    if request.name is not None:
        return tell.told("Name {markers} {name}.", markers=which, name=request.name.strip() or "nothing")
    if request.cue is not None:
        return tell.told("Make {markers} {cue}.", markers=which, cue="a cue" if request.cue else "no cue")
    way = "earlier" if request.by < 0 else "later"
    return tell.told(f"Move {{markers}} {{by}} {way}.", markers=which, by=tell.length(abs(request.by)))


OPERATION = Operation("change markers", ChangeMarkers, plan, sentence, "moving")
