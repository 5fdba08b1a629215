"""Remove alternatives: they are let go, and what is used stays as it is."""

from __future__ import annotations

from velmot.core.session.session import Session
from velmot.core.verbs.alternatives.chosen import called
from velmot.core.verbs.alternatives.request import RemoveAlternatives
from velmot.core.verbs.frame import telling as tell
from velmot.core.verbs.frame.change import AlternativeSwap, Change
from velmot.core.verbs.frame.checks import need
from velmot.core.verbs.frame.operation import Operation


def plan(session: Session, request: RemoveAlternatives) -> Change:
    """The session without them."""
    need(request.alternatives, "alternative")
    return Change(
        alternatives=tuple(AlternativeSwap(session.alternative(id), None) for id in dict.fromkeys(request.alternatives))
    )


def sentence(session: Session, request: RemoveAlternatives) -> tell.Told:
    """“Let “first go” go.”"""
    return tell.told("Let {alternatives} go.", alternatives=called(session, request.alternatives))


OPERATION = Operation("remove alternatives", RemoveAlternatives, plan, sentence, "moving")
