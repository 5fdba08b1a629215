"""Set free: placements become plain points of their lanes; nothing that is heard changes."""

from __future__ import annotations

from velmot.core.session.session import Session
from velmot.core.session.wording import listed
from velmot.core.verbs.frame import telling as tell
from velmot.core.verbs.frame.change import Change, PlacementSwap
from velmot.core.verbs.frame.checks import need
from velmot.core.verbs.frame.operation import Operation
from velmot.core.verbs.reuse.request import SetFree
from velmot.core.words import counted


def plan(session: Session, request: SetFree) -> Change:
    """The change: the links go, the points stay."""
    need(request.placements, "place", place="placements")
    ones = [session.placement(id) for id in dict.fromkeys(request.placements)]
    if request.all:
        ones = [x for phrase in dict.fromkeys(x.phrase for x in ones) for x in session.places_of(phrase)]
    return Change(placements=tuple(PlacementSwap(one, None) for one in ones))


def sentence(session: Session, request: SetFree) -> tell.Told:
    """“Set 1 place of swell free, and all others of it.”"""
    ones = [session.placement(id) for id in dict.fromkeys(request.placements)]
    names = listed([*dict.fromkeys(session.phrase(x.phrase).name for x in ones)], "phrase", 2)
    return tell.told(
        "Set {placements} free, {all}.",
        placements=f"{counted(len(ones), 'place')} of {names}" if ones else tell.Asked("choose places"),
        all="and all others of it" if request.all else "no others",
    )


OPERATION = Operation("set free", SetFree, plan, sentence, "linking", of_places=True)
