"""Remove markers from the ruler."""

from __future__ import annotations

from velmot.core.session.session import Session
from velmot.core.verbs.frame import telling as tell
from velmot.core.verbs.frame.change import Change, MarkerSwap
from velmot.core.verbs.frame.chosen_markers import change_of, in_words, markers_of
from velmot.core.verbs.frame.operation import Operation
from velmot.core.verbs.markers.request import RemoveMarkers


def plan(session: Session, request: RemoveMarkers) -> Change:
    """The session without the markers."""
    return change_of([MarkerSwap(marker, None) for marker in markers_of(session, request.markers)])


def sentence(session: Session, request: RemoveMarkers) -> tell.Told:
    """“Remove marker dawn.”"""
    return tell.told("Remove {markers}.", markers=in_words(session, request.markers))


OPERATION = Operation("remove markers", RemoveMarkers, plan, sentence, "moving")
