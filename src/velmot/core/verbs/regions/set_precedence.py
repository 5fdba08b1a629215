"""Set which lane wins in a session where a region's and the track's both speak."""

from __future__ import annotations

from dataclasses import replace

from velmot.core.curves.difference import SAME, largest_difference
from velmot.core.session.heard import heard
from velmot.core.session.session import Session
from velmot.core.session.track import Precedence
from velmot.core.verbs.frame import telling as tell
from velmot.core.verbs.frame.change import Change, caution
from velmot.core.verbs.frame.heard_change import heard_lane_change
from velmot.core.verbs.frame.operation import Operation
from velmot.core.verbs.regions.request import SetPrecedence


def plan(session: Session, request: SetPrecedence) -> Change:
    """The precedence switched, with every parameter that would be heard differently, and where it is most."""
    wanted = Precedence(request.wins)
    if wanted is session.precedence:
        return Change(cautions=(caution("no-change/precedence", wins=wanted.value.capitalize()),))
    after = replace(session, precedence=wanted)
    touched = []
    for parameter in dict.fromkeys(x.parameter for x in session.lanes if not x.on_track):
        if not session.lane_at(parameter):
            continue
        was, now = (heard(s, parameter, groups=False).envelope for s in (session, after))
        if largest_difference(was, now, 0, session.length)[0] > SAME:
            spans = [session.span(x) for _, x in session.region_lanes(parameter)]
            start, end = min(a for a, _ in spans), max(b for _, b in spans)
            touched.append(heard_lane_change(session, after, parameter, start, end))
    cautions = (caution("heard-differs/parameters", count=len(touched)),) if touched else ()
    return Change((), (), tuple(touched), cautions, precedence=wanted)


def sentence(session: Session, request: SetPrecedence) -> tell.Told:
    """“Let the region’s lane win where both speak.”"""
    return tell.told("Let the {wins} win where both speak.", wins=f"{request.wins}’s lane")


OPERATION = Operation("set precedence", SetPrecedence, plan, sentence, "moving")
