"""Change regions: their name, and whether they are muted."""

from __future__ import annotations

from dataclasses import dataclass, replace

from velmot.core.change import Change
from velmot.core.errors import RequestError
from velmot.core.limits import MOST_IDS
from velmot.core.operations.frame import Operation, says
from velmot.core.operations.region_work import RegionWork, change_between, names_of, regions_named
from velmot.core.session import Session


@dataclass(frozen=True)
class ChangeRegions:
    """Rename regions, mute them or let them sound."""

    regions: tuple[str, ...] = says("The regions, by id.", most=MOST_IDS)
    name: str | None = says("Their new name; nothing keeps it.", default=None)
    muted: bool | None = says("Whether their lanes are silent; nothing keeps it.", default=None)


def plan(session: Session, request: ChangeRegions) -> Change:
    """The regions renamed or muted; the lanes of others that run at the same time stay as they are."""
    regions = regions_named(session, request.regions)
    name = None if request.name is None else request.name.strip()
    if name is not None and not 0 < len(name) <= 300:
        raise RequestError("name", "a region needs a name", place="name", accepted="1 to 300 characters")
    work = RegionWork(session)
    for track, region in regions:
        muted = region.muted if request.muted is None else request.muted
        work.put(track.id, replace(region, name=name or region.name, muted=muted))
        if muted != region.muted:
            for lane in session.lanes_in(region.id):
                work.name(lane.parameter, region.start, region.end)
    verb = "Rename" if name is not None else "Mute" if request.muted else "Unmute"
    title = f"{verb} {names_of(regions)}{f' to {name}' if name else ''}"
    return change_between(session, work.result(), title, named=work.named)


OPERATION = Operation("change regions", ChangeRegions, plan)
