"""Lift: regions' automation becomes their track's, with nothing heard differently."""

from __future__ import annotations

from velmot.core.curves import editing
from velmot.core.parameters.parameter import Parameter
from velmot.core.remedy import Remedy
from velmot.core.session.heard import heard, reading
from velmot.core.session.session import Session
from velmot.core.session.track import Precedence, Region
from velmot.core.session.wording import listed, named
from velmot.core.verbs.frame import cautions as say
from velmot.core.verbs.frame import telling as tell
from velmot.core.verbs.frame.change import Change
from velmot.core.verbs.frame.chosen_regions import names_of, regions_of
from velmot.core.verbs.frame.heard_alike import change_heard_alike, sounding
from velmot.core.verbs.frame.landing import Landed
from velmot.core.verbs.frame.operation import Operation
from velmot.core.verbs.frame.working_copy import WorkingCopy
from velmot.core.verbs.regions.embed import runs_of
from velmot.core.verbs.regions.request import Lift, SetPrecedence


def plan(session: Session, request: Lift) -> Change:
    """Each track lane takes over what was heard in the regions' spans; outside them it stays as it is."""
    regions = regions_of(session, request.regions)
    work = WorkingCopy(session)
    inside = {
        r.id: [
            x.parameter for x in session.lanes_in(r.id) if not request.parameters or x.parameter in request.parameters
        ]
        for _, r in regions
    }
    holding: dict[str, list[Region]] = {}
    for region in sounding([r for _, r in regions if inside[r.id]], work.cautions, "lift its lanes"):
        for parameter in inside[region.id]:
            holding.setdefault(parameter, []).append(region)
    for parameter, mine in holding.items():
        _lift(work, session.parameter(parameter), mine)
    name = names_of(regions)
    otherwise = f"{name} {'has' if len(regions) == 1 else 'have'} no lane of these parameters to lift"
    return change_heard_alike(session, work.after(), work.cautions, otherwise)


def _lift(work: WorkingCopy, parameter: Parameter, regions: list[Region]) -> None:
    session = work.session
    chosen = _possible(work, parameter, regions)
    if not chosen:
        return
    now = heard(reading(session), parameter.id, groups=False).envelope
    work.lay(parameter, [Landed(start, editing.cut(now, start, end)) for start, end in runs_of(chosen)])
    for region in chosen:
        work.write(parameter.id, region.id, None)


def _possible(work: WorkingCopy, parameter: Parameter, regions: list[Region]) -> list[Region]:
    """The regions whose lanes can be lifted without a change in what is heard; cautions say why not."""
    session, chosen = work.session, list(regions)
    order = {r.id: n for n, (r, _) in enumerate(session.region_lanes(parameter.id))}
    asked = {r.id for r in chosen}
    others = [r for r, _ in session.region_lanes(parameter.id) if not r.muted and r.id not in asked]
    if session.precedence is Precedence.TRACK:
        return _where_track_wins(work, parameter, chosen, others)
    while True:  # leaving one out may leave another covered
        covered = [(r, q) for r in chosen for q in others if _overlap(r, q) and order[r.id] > order[q.id]]
        if not covered:
            return chosen
        for region, other in covered:
            if region in chosen:
                remedy = _together([other])
                work.cautions.append(
                    say.about_region("not-lifted/covered", region, remedy=remedy, said={"other": other.name})
                )
                chosen.remove(region)
                others.append(region)


def _where_track_wins(
    work: WorkingCopy, parameter: Parameter, chosen: list[Region], others: list[Region]
) -> list[Region]:
    if work.session.lane_at(parameter.id):
        reason = "is not heard, as the track's own lane wins in this session: there is nothing to lift"
        remedy = Remedy("let region lanes win first", step=SetPrecedence("region"))
    elif others:
        names = listed([r.name for r in others], "region")
        reason = f"can only be lifted together with {names}, which a track lane would silence"
        remedy = _together(others)
    else:
        return chosen
    for region in chosen:
        said = {"parameter": parameter.name, "reason": reason}
        work.cautions.append(say.about_region("not-lifted", region, said=said, remedy=remedy))
    return []


def _together(others: list[Region]) -> Remedy:
    return Remedy(f"lift {named([r.name for r in others], 'region')} too", also=tuple(r.id for r in others))


def _overlap(one: Region, other: Region) -> bool:
    return one.start < other.end and other.start < one.end


def sentence(session: Session, request: Lift) -> tell.Told:
    """“Lift all parameters from toll 2.”"""
    what = tell.parameters(session, request.parameters) if request.parameters else "all parameters"
    return tell.told(
        "Lift {parameters} from {regions}.", parameters=what, regions=tell.regions(session, request.regions)
    )


OPERATION = Operation("lift", Lift, plan, sentence, "promising")
