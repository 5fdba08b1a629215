"""Rename an alternative."""

from __future__ import annotations

from dataclasses import replace

from velmot.core.session.session import Session
from velmot.core.verbs.alternatives.chosen import called
from velmot.core.verbs.alternatives.request import RenameAlternative
from velmot.core.verbs.frame import telling as tell
from velmot.core.verbs.frame.cautions import no_change
from velmot.core.verbs.frame.change import AlternativeSwap, Change
from velmot.core.verbs.frame.checks import name_of
from velmot.core.verbs.frame.operation import Operation


def plan(session: Session, request: RenameAlternative) -> Change:
    """The session with the alternative under the name; two may be called alike."""
    one = session.alternative(request.alternative)
    made = replace(one, name=name_of(request.name, "alternative"))
    return Change(alternatives=(AlternativeSwap(one, made),)) if made != one else Change(cautions=(no_change(),))


def sentence(session: Session, request: RenameAlternative) -> tell.Told:
    """“Call “before: ridden” “first go”.”"""
    one = called(session, [request.alternative] if request.alternative else [])
    name = f"“{request.name.strip()}”" if request.name.strip() else tell.Asked("type a name")
    return tell.told("Call {alternative} {name}.", alternative=one, name=name)


OPERATION = Operation("rename alternative", RenameAlternative, plan, sentence, "moving")
