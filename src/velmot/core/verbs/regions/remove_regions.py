"""Remove regions; their automation goes with them, or stays on the track as it was heard."""

from __future__ import annotations

from dataclasses import replace

from velmot.core.errors import RequestError
from velmot.core.remedy import Remedy
from velmot.core.session.session import Session
from velmot.core.verbs.frame import cautions as say
from velmot.core.verbs.frame import telling as tell
from velmot.core.verbs.frame.change import Caution, Change
from velmot.core.verbs.frame.chosen_regions import regions_of
from velmot.core.verbs.frame.heard_change import change_between
from velmot.core.verbs.frame.operation import Operation
from velmot.core.verbs.frame.working_copy import WorkingCopy
from velmot.core.verbs.regions import lift
from velmot.core.verbs.regions.request import Lift, RemoveRegions

BEHIND = "not all of the automation could stay"


def plan(session: Session, request: RemoveRegions) -> Change:
    """The regions and their lanes gone; with automation that stays, lifted onto the track first, where it can be."""
    regions = regions_of(session, request.regions)
    cautions: list[Caution] = []
    lifted = session
    if request.automation == "stays" and any(session.lanes_in(r.id) for _, r in regions):
        first = _lifting(session, request.regions)
        lifted = first.applied_to(session)
        cautions = [replace(c, remedy=_step_only(c.remedy)) for c in first.cautions]
    work = WorkingCopy(lifted)
    lanes = [lane for _, r in regions for lane in lifted.lanes_in(r.id)]
    for lane in lanes:
        work.write(lane.parameter, lane.home, None)
        if request.automation == "goes":
            work.name(lane.parameter, *lifted.span(lane))
    for track, region in regions:
        work.drop(track.id, region.id)
    if lanes:
        cautions.append(say.takes(lanes, "region lane"))
    return change_between(session, work.after(), cautions, work.named, BEHIND)


def _lifting(session: Session, regions: tuple[str, ...]) -> Change:
    try:
        return lift.plan(session, Lift(regions))
    except RequestError as refused:
        refused.remedy = _step_only(refused.remedy)
        raise


def _step_only(remedy: Remedy | None) -> Remedy | None:
    """A remedy that asks for more regions is none here: others are not to be removed to save these."""
    return remedy if remedy and remedy.step else None


def sentence(session: Session, request: RemoveRegions) -> tell.Told:
    """“Remove toll 2, its automation stays on the track.”"""
    stays = {"stays": "stays on the track", "goes": "goes too"}[request.automation]
    which = tell.regions(session, request.regions)
    return tell.told("Remove {regions}, automation {automation}.", regions=which, automation=stays)


OPERATION = Operation("remove regions", RemoveRegions, plan, sentence, "moving")
