"""Cut regions in two at one place; their lanes are cut exactly, and joining them again undoes it."""

from __future__ import annotations

from dataclasses import replace

from velmot.core.curves import editing
from velmot.core.errors import RequestError
from velmot.core.session import takes
from velmot.core.session.session import Session
from velmot.core.session.wording import span_text
from velmot.core.verbs.frame import telling as tell
from velmot.core.verbs.frame.change import Change
from velmot.core.verbs.frame.chosen_regions import names_of, regions_of
from velmot.core.verbs.frame.heard_change import change_between
from velmot.core.verbs.frame.operation import Operation
from velmot.core.verbs.frame.working_copy import WorkingCopy
from velmot.core.verbs.regions.request import CutRegions

LATER = "the second part starts later, and so wins over what overlaps it"


def plan(session: Session, request: CutRegions) -> Change:
    """The first part keeps the region's id, the second gets a new one; RequestError if none lies across the place."""
    regions = regions_of(session, request.regions)
    cut = [(t, r) for t, r in regions if r.start < request.at < r.end]
    if not cut:
        spans = ", ".join(span_text(session, r.start, r.end) for _, r in regions[:3])
        raise RequestError(
            "cut-edge",
            where=str(session.tempo.position(request.at)),
            names_of=names_of(regions),
            place="at",
            accepted=f"a place between the edges {spans}",
        )
    work = WorkingCopy(session)
    for track, region in cut:
        seam = request.at - region.start
        later = takes.cut(session, track, region, seam, region.length)
        second = replace(region, id=work.new_region_id(), start=request.at, length=region.end - request.at, sound=later)
        earlier = takes.cut(session, track, region, 0, seam) if region.sound else ()
        work.put(track.id, replace(region, length=seam, sound=earlier))
        work.put(track.id, second)
        for lane in session.lanes_in(region.id):
            work.write(lane.parameter, region.id, editing.until(lane.envelope, seam))
            work.write(lane.parameter, second.id, editing.since(lane.envelope, seam).shift(-seam))
    return change_between(session, work.after(), because=LATER)


def sentence(session: Session, request: CutRegions) -> tell.Told:
    """“Cut toll 2 at 11.1.00.”"""
    return tell.told(
        "Cut {regions} at {at}.", regions=tell.regions(session, request.regions), at=tell.position(session, request.at)
    )


OPERATION = Operation("cut regions", CutRegions, plan, sentence, "moving")
