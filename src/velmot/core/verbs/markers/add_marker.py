"""Add a marker: a named place on the ruler."""

from __future__ import annotations

from velmot.core.session.session import Session
from velmot.core.session.track import Marker
from velmot.core.verbs.frame import telling as tell
from velmot.core.verbs.frame.change import Change, MarkerSwap
from velmot.core.verbs.frame.chosen_markers import change_of, checked_name, checked_place
from velmot.core.verbs.frame.operation import Operation
from velmot.core.verbs.markers.request import AddMarker


def plan(session: Session, request: AddMarker) -> Change:
    """The session with the marker in it."""
    marker = Marker(
        next(session.new_ids("marker")),
        checked_name(request.name),
        checked_place(session, request.at),
        request.cue,
    )
    return change_of([MarkerSwap(None, marker)])


def sentence(session: Session, request: AddMarker) -> tell.Told:
    """“Add the marker dawn at 9.1.00.”"""
    return tell.told(
        "Add {cue} {name} at {at}.",
        cue="the cue" if request.cue else "the marker",
        name=request.name.strip() or "without a name",
        at=tell.position(session, request.at),
    )


OPERATION = Operation("add marker", AddMarker, plan, sentence, "moving")
