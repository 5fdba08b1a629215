"""Carry regions: moved, copied or repeated, on their track or to others, with their automation, without it, or it alone."""

from __future__ import annotations

from dataclasses import dataclass, replace
from typing import Literal

from velmot.core.change import Caution, Change
from velmot.core.errors import RequestError
from velmot.core.heard import heard
from velmot.core.matching import same_parameter, with_same_parameter
from velmot.core.operations.frame import Operation, says
from velmot.core.operations.region_work import RegionWork, change_between, names_of, reading, regions_named
from velmot.core.parameters import Parameter
from velmot.core.session import Mode, Region, Session, Track
from velmot.core.time import Tick

MOST_LANDINGS = 1000


@dataclass(frozen=True)
class CarryRegions:
    """Take regions to another time or another track; their lanes go along as asked."""

    regions: tuple[str, ...] = says("The regions, by id.")
    how: Literal["move", "copy", "repeat"] = says(
        "Move them, copy them once, or repeat them one after the other behind themselves.", default="move"
    )
    at: Tick | None = says("Where the first of them lands; nothing means the same place.", default=None)
    targets: tuple[str, ...] = says("The tracks they go to; nothing means their own.", default=())
    times: int = says("Repeat: how many more there will be.", default=1)
    until: Tick | None = says("Repeat: fill up to here instead, the last one cut to fit.", default=None)
    every: Tick | None = says("Repeat: how far apart; nothing means back to back.", default=None)
    automation: Literal["with", "without", "alone"] = says(
        "The regions with their automation, without it (it stays where it was), or the automation alone.",
        default="with",
    )
    under: Literal["stays", "goes along"] = says(
        "Whether the track's own automation under the regions stays or goes along.", default="stays"
    )
    missing: Literal["leave out", "add"] = says(
        "What to do where a target lacks a parameter: leave its lane out, or add the parameter.", default="leave out"
    )
    set_to_read: bool = says("Also switch target tracks that are off to read.", default=False)


@dataclass(frozen=True)
class _Landing:
    """One region on its way to one track: it starts at `at`, and is `length` long there."""

    source: Track
    region: Region
    target: str
    at: int
    length: int


def plan(session: Session, request: CarryRegions) -> Change:
    """The regions, their lanes and what lies under them where they go; everything is read before it is written."""
    regions = regions_named(session, request.regions)
    work = RegionWork(session)
    landings = _landings(session, request, regions, work)
    work.widen(_with_missing(session, request, landings))
    if request.how == "move":
        for track, region in regions:
            _take_away(work, request, track, region)
    for landing in landings:
        _land(work, request, landing)
    after = work.result()
    if request.set_to_read:
        targets = {x.target for x in landings}
        after = after.with_tracks(
            replace(t, mode=Mode.READ) if t.id in targets and not t.reads else t for t in after.tracks
        )
    change = change_between(session, after, _title(session, request, regions), work.cautions)
    hit = {after.owner(t.parameter) for t in change.touched}
    unread = [
        Caution("not-reading", f"{t.name} is not reading its lanes: this would not be heard", track=t.id)
        for t in hit
        if not t.reads
    ]
    return replace(change, cautions=(*change.cautions, *unread))


def _landings(
    session: Session, request: CarryRegions, regions: list[tuple[Track, Region]], work: RegionWork
) -> list[_Landing]:
    """Every place the regions land at, in order; RequestError where one cannot be."""
    first, last = regions[0][1].start, max(r.end for _, r in regions)
    shift = 0 if request.at is None else request.at - first
    shifts, step = [shift], _step(request, last - first)
    if request.how == "repeat":
        shifts = [shift + n * step for n in range(1, _count(request, first + shift, step) + 1)]
    out = []
    for by in shifts:
        for track, region in regions:
            out += _landing(session, request, track, region, region.start + by, work)
    return out


def _landing(
    session: Session, request: CarryRegions, track: Track, region: Region, at: int, work: RegionWork
) -> list[_Landing]:
    """Where one region lands; a repeat leaves out, or cuts, what would pass its end."""
    fill = request.how == "repeat" and request.until is not None
    end = min(request.until if fill and request.until is not None else session.length, session.length)
    length = region.length
    if at < 0:
        raise RequestError(
            "region-early", f"{region.name} would start before the session", place="at", accepted="1.1.00 or later"
        )
    if at + length > end:
        if fill and at < end:
            length = end - at
        elif request.how == "repeat":
            if not fill:
                said = f"What would pass the session's end, {session.tempo.position(session.length)}, is left out"
                work.cautions.append(Caution("beyond-end", said, track=track.id))
            return []
        else:
            latest = session.tempo.position(max(session.length - region.length, 0))
            raise RequestError(
                "region-late",
                f"{region.name} would pass the session's end",
                place="at",
                accepted=f"{latest} or earlier",
            )
    targets = request.targets or (track.id,)
    return [_Landing(track, region, session.track(id).id, at, length) for id in dict.fromkeys(targets)]


def _step(request: CarryRegions, span: int) -> int:
    step = span if request.every is None else request.every
    if step <= 0:
        raise RequestError(
            "every", "landings must be some way apart", place="every", accepted="a length such as 4 bars"
        )
    return step


def _count(request: CarryRegions, start: int, step: int) -> int:
    """How often a repeat lands, or would if it reached that far."""
    if request.until is not None:
        times = -(-(request.until - start) // step) - 1
        if times < 1:
            raise RequestError(
                "until", "there is nothing to fill before this", place="until", accepted="a place after the regions"
            )
    else:
        times = request.times
    if not 1 <= times <= MOST_LANDINGS:
        said = f"it cannot be repeated {times:,} times"
        raise RequestError("times", said, place="times", accepted=f"1 to {MOST_LANDINGS:,}")
    return times


def _with_missing(session: Session, request: CarryRegions, landings: list[_Landing]) -> Session:
    """The session with the parameters that targets lack, where they are to be added."""
    if request.missing == "leave out":
        return session
    for source, region, target in {(x.source.id, x.region.id, x.target) for x in landings}:
        for p in _going(session, request, session.track(source), session.region(region)):
            if same_parameter(session, p, session.track(target)) is None:
                session = with_same_parameter(session, p, session.track(target))
    return session


def _going(session: Session, request: CarryRegions, track: Track, region: Region) -> list[Parameter]:
    """The parameters whose automation goes along with a region."""
    inside = [session.parameter(x.parameter) for x in session.lanes_in(region.id)]
    under = [p for p in track.parameters if request.under == "goes along" and session.lane_at(p.id)]
    return [*(inside if request.automation != "without" else []), *(p for p in under if p not in inside)]


def _take_away(work: RegionWork, request: CarryRegions, track: Track, region: Region) -> None:
    """What a move takes from its old place. Automation that stays behind stays on the track."""
    session = work.session
    for lane in session.lanes_in(region.id):
        parameter = session.parameter(lane.parameter)
        work.write(parameter.id, region.id, None)
        if request.automation == "without" and not region.muted:
            stays = heard(reading(session), parameter.id, groups=False).envelope.cut(region.start, region.end)
            work.splice(parameter, stays, region.start)
    if request.under == "goes along":
        for parameter in track.parameters:
            if session.lane_at(parameter.id):
                curve = work.track_curve(parameter)
                work.write(
                    parameter.id,
                    "track",
                    curve.straightened([(region.start, region.end)], parameter.holds_only).from_zero(),
                )
    if request.automation != "alone":
        work.drop(track.id, region.id)


def _land(work: RegionWork, request: CarryRegions, landing: _Landing) -> None:
    """Put one region, and what goes along, at its new place."""
    session, region = work.session, landing.region
    home = region.id if request.how == "move" and len(request.targets) <= 1 else work.new_id()
    if request.automation != "alone":
        work.put(landing.target, replace(region, id=home, start=landing.at, length=landing.length))
    for lane in session.lanes_in(region.id):
        if request.automation == "without":
            break
        target = _match(work, session.parameter(lane.parameter), landing)
        if target is None:
            continue
        if request.automation == "with":
            work.write(target.id, home, lane.envelope)
        else:
            work.splice(target, lane.envelope.cut(0, landing.length), landing.at)
    if request.under == "goes along":
        _carry_under(work, landing)


def _carry_under(work: RegionWork, landing: _Landing) -> None:
    """The track's own automation under a region, to where the region lands."""
    session, region = work.session, landing.region
    for parameter in landing.source.parameters:
        lane = session.lane_at(parameter.id)
        target = _match(work, parameter, landing) if lane else None
        if lane and target:
            work.splice(target, lane.envelope.cut(region.start, region.start + landing.length), landing.at)


def _match(work: RegionWork, parameter: Parameter, landing: _Landing) -> Parameter | None:
    """The same parameter on the target, or a caution that there is none."""
    track = work.session.track(landing.target)
    target = same_parameter(work.session, parameter, track)
    if target is None:
        said = f"{track.name} has no {parameter.name} like {landing.source.name}'s: left out"
        work.cautions.append(Caution("no-such-parameter", said, track=track.id))
    return target


def _title(session: Session, request: CarryRegions, regions: list[tuple[Track, Region]]) -> str:
    verb = {"move": "Move", "copy": "Copy", "repeat": "Repeat"}[request.how]
    what = names_of(regions) if request.automation != "alone" else f"the automation of {names_of(regions)}"
    where = ", ".join(session.track(t).name for t in request.targets[:2])
    if request.how == "repeat":
        where = f"{where} {request.times} times".strip() if request.until is None else f"{where} to fill".strip()
        return f"{verb} {what} {where}"
    return f"{verb} {what} to {where}" if where else f"{verb} {what}"


OPERATION = Operation("carry regions", CarryRegions, plan)
