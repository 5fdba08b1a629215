"""Change regions: their name, and whether they are muted."""

from __future__ import annotations

from dataclasses import replace

from velmot.core.session.session import Session
from velmot.core.verbs.frame import telling as tell
from velmot.core.verbs.frame.change import Change
from velmot.core.verbs.frame.checks import name_of
from velmot.core.verbs.frame.chosen_regions import regions_of
from velmot.core.verbs.frame.heard_change import change_between
from velmot.core.verbs.frame.operation import Operation
from velmot.core.verbs.frame.working_copy import WorkingCopy
from velmot.core.verbs.regions.request import ChangeRegions


def plan(session: Session, request: ChangeRegions) -> Change:
    """The regions renamed or muted; the lanes of others that run at the same time stay as they are."""
    regions = regions_of(session, request.regions)
    name = None if request.name is None else name_of(request.name, "region")
    work = WorkingCopy(session)
    for track, region in regions:
        muted = region.muted if request.muted is None else request.muted
        work.put(track.id, replace(region, name=name or region.name, muted=muted))
        if muted != region.muted:
            for lane in session.lanes_in(region.id):
                work.name(lane.parameter, region.start, region.end)
    return change_between(session, work.after(), named=work.named)


def sentence(session: Session, request: ChangeRegions) -> tell.Told:
    """“Name toll 2 dawn.” or “Mute toll 2.”"""
    which = tell.regions(session, request.regions)
    if request.name is not None or request.muted is None:
        return tell.told(
            "Name {regions} {name}.", regions=which, name=(request.name or "").strip() or tell.Asked("type a name")
        )
    return tell.told(("Mute" if request.muted else "Unmute") + " {regions}.", regions=which)


OPERATION = Operation("change regions", ChangeRegions, plan, sentence, "moving")
