"""Carry regions: moved, copied or repeated, on their track or to others, with their automation, without it, or it alone."""

from __future__ import annotations

from dataclasses import dataclass, replace
from typing import Literal

from velmot.core.curves import editing
from velmot.core.curves.editing import Fragment
from velmot.core.errors import RequestError
from velmot.core.limits import MOST_TIMES
from velmot.core.parameters.mapping import Mapped, possible
from velmot.core.parameters.parameter import Parameter
from velmot.core.remedy import Remedy
from velmot.core.session import takes
from velmot.core.session.matching import same_parameter, with_same_parameter
from velmot.core.session.session import Session
from velmot.core.session.track import ON_THE_TRACK, Region, Track
from velmot.core.session.wording import named
from velmot.core.verbs.frame import cautions as say
from velmot.core.verbs.frame import telling as tell
from velmot.core.verbs.frame.change import Caution, Change, Went
from velmot.core.verbs.frame.chosen_regions import regions_of
from velmot.core.verbs.frame.heard_change import change_between
from velmot.core.verbs.frame.landing import Landed
from velmot.core.verbs.frame.operation import Operation
from velmot.core.verbs.frame.working_copy import WorkingCopy
from velmot.core.verbs.regions import lift
from velmot.core.verbs.regions.request import CarryRegions, Lift
from velmot.core.words import counted

How = Literal["moved", "copied"]


@dataclass(frozen=True)
class _Landing:
    """One region on its way to one track: it starts at `at`, and is `length` long there."""

    source: Track
    region: Region
    target: str
    at: int
    length: int


def plan(session: Session, request: CarryRegions) -> Change:
    """The regions, their lanes and what lies under them where they go; everything is read before it is written.

    Raises RequestError where automation that is to stay on the track could not be heard there as it was.
    """
    regions = regions_of(session, request.regions)
    cautions: list[Caution] = []
    source = session
    if request.how == "move" and request.automation == "without":
        source, cautions = _left_behind(session, regions)
        regions = regions_of(source, request.regions)
    work = WorkingCopy(source, cautions)
    landings = _landings(source, request, regions, work)
    work.widen(_with_missing(session, source, request, landings))
    if request.how == "move":
        for track, region in regions:
            _take_away(work, session, request, track, region)
    if request.automation == "alone":
        landings.sort(key=lambda x: not x.region.muted)  # what is not heard is never laid over what is
        _say_muted(work, regions)
    for landing in landings:
        _land(work, session, request, landing)
    if request.set_to_read:
        work.set_to_read(dict.fromkeys(x.target for x in landings))
    after = work.after()
    change = change_between(session, after, work.cautions, work.named, went=work.went)
    hit = dict.fromkeys(after.owner(t.parameter).id for t in change.touched)
    unread = [say.not_reading(after.track(id), request) for id in hit if not after.track(id).reads]
    return replace(change, cautions=(*change.cautions, *unread))


def _left_behind(session: Session, regions: list[tuple[Track, Region]]) -> tuple[Session, list[Caution]]:
    """The session with the regions' automation on their tracks, heard as it was; RequestError where it cannot be."""
    holding = tuple(r.id for _, r in regions if session.lanes_in(r.id))
    if not holding:
        return session, []
    try:
        change = lift.plan(session, Lift(holding))
    except RequestError as refused:
        refused.remedy = _along(session, refused.remedy)
        raise
    after = change.applied_to(session)
    if any(after.lanes_in(id) for id in holding):
        stays = next((c for c in change.cautions if c.remedy), None)
        remedy = _along(session, stays.remedy if stays else None)
        accepted = "moving the regions with their automation"
        if stays:
            because = stays.message
            raise RequestError(
                "not-lifted/because", because=because, place="automation", accepted=accepted, remedy=remedy
            )
        raise RequestError("not-lifted", place="automation", accepted=accepted, remedy=remedy)
    return after, list(change.cautions)


def _along(session: Session, remedy: Remedy | None) -> Remedy | None:
    """A remedy that asks to lift others too is one that takes them along here."""
    if remedy is None or not remedy.also:
        return remedy
    name = named([session.region(id).name for id in remedy.also], "region")
    return replace(remedy, words=f"take {name} along too")


def _say_muted(work: WorkingCopy, regions: list[tuple[Track, Region]]) -> None:
    """Automation of a muted region that goes alone is heard where it lands."""
    for track, region in regions:
        if region.muted and work.session.lanes_in(region.id):
            work.cautions.append(say.about_region("muted/alone", region, track.id))


def _landings(
    session: Session, request: CarryRegions, regions: list[tuple[Track, Region]], work: WorkingCopy
) -> list[_Landing]:
    """Every place the regions land at, in order; RequestError where one cannot be."""
    first, last = regions[0][1].start, max(r.end for _, r in regions)
    shift = 0 if request.at is None else request.at - first
    shifts, step = [shift], _step(request, last - first)
    if request.how == "repeat":
        shifts = [shift + n * step for n in range(1, _count(request, first + shift, step) + 1)]
    copies = len(shifts) * max(len(set(request.targets)), 1)
    points = sum(len(x.envelope) for _, r in regions for x in session.lanes_in(r.id))
    work.budget.spend(points * copies, len(regions) * copies)
    out = []
    for by in shifts:
        for track, region in regions:
            out += _landing(session, request, track, region, region.start + by, work)
    return out


def _landing(
    session: Session, request: CarryRegions, track: Track, region: Region, at: int, work: WorkingCopy
) -> list[_Landing]:
    """Where one region lands; a repeat leaves out, or cuts, what would pass its end."""
    fill = request.how == "repeat" and request.until is not None
    end = min(request.until if fill and request.until is not None else session.length, session.length)
    length = region.length
    if at < 0:
        raise RequestError("region-early", name=region.name, place="at", accepted="1.1.00 or later")
    if at + length > end:
        if fill and at < end:
            length = end - at
        elif request.how == "repeat":
            if not fill:
                work.cautions.append(say.beyond_end(session, track))
            return []
        else:
            latest = session.tempo.position(max(session.length - region.length, 0))
            raise RequestError("region-late", name=region.name, place="at", accepted=f"{latest} or earlier")
    targets = request.targets or (track.id,)
    return [_Landing(track, region, session.track(id).id, at, length) for id in dict.fromkeys(targets)]


def _step(request: CarryRegions, span: int) -> int:
    step = span if request.every is None else request.every
    if step <= 0:
        raise RequestError("every", place="every", accepted="a length such as 4 bars")
    return step


def _count(request: CarryRegions, start: int, step: int) -> int:
    """How often a repeat lands, or would if it reached that far."""
    if request.until is not None:
        times = -(-(request.until - start) // step) - 1
        if times < 1:
            raise RequestError("until", place="until", accepted="a place after the regions")
    else:
        times = request.times
    if not 1 <= times <= MOST_TIMES:
        raise RequestError("times/repeated", times=times, place="times", accepted=f"1 to {MOST_TIMES:,}")
    return times


def _with_missing(before: Session, session: Session, request: CarryRegions, landings: list[_Landing]) -> Session:
    """The session with the parameters that targets lack, where they are to be added."""
    if request.missing == "leave out":
        return session
    for source, region, target in dict.fromkeys((x.source.id, x.region.id, x.target) for x in landings):
        for p in _going(before, request, before.track(source), before.region(region)):
            if same_parameter(session, p, session.track(target)) is None:
                session = with_same_parameter(session, p, session.track(target))
    return session


def _going(session: Session, request: CarryRegions, track: Track, region: Region) -> list[Parameter]:
    """The parameters whose automation goes along with a region."""
    inside = [session.parameter(x.parameter) for x in session.lanes_in(region.id)]
    under = [p for p in track.parameters if request.under == "goes along" and session.lane_at(p.id)]
    return [*(inside if request.automation != "without" else []), *(p for p in under if p not in inside)]


def _take_away(work: WorkingCopy, before: Session, request: CarryRegions, track: Track, region: Region) -> None:
    """What a move takes from its old place; automation that goes alone and lands nowhere stays in its region.

    What was the region's own and was left behind on the track stays there.
    """
    session, targets = work.session, request.targets or (track.id,)
    for lane in session.lanes_in(region.id):
        parameter = session.parameter(lane.parameter)
        lands = any(same_parameter(session, parameter, session.track(id)) for id in targets)
        if request.automation == "alone" and not lands:
            continue
        work.write(parameter.id, region.id, None)
        work.name(parameter.id, region.start, region.end)
    if request.under == "goes along":
        left = {x.parameter for x in before.lanes_in(region.id)} if request.automation == "without" else set()
        for parameter in track.parameters:
            if before.lane_at(parameter.id) and parameter.id not in left:
                curve = work.curve(parameter)
                straight = editing.straightened(curve, [(region.start, region.end)], parameter.holds_only)
                work.write(parameter.id, ON_THE_TRACK, straight)
                work.name(parameter.id, region.start, region.end)
    if request.automation != "alone":
        work.drop(track.id, region.id)


def _land(work: WorkingCopy, before: Session, request: CarryRegions, landing: _Landing) -> None:
    """Put one region, and what goes along, at its new place."""
    session, region = work.session, landing.region
    home = region.id if request.how == "move" and len(set(request.targets)) <= 1 else work.new_region_id()
    how: How = "moved" if request.how == "move" else "copied"
    if request.automation != "alone":
        sound = takes.taken_along(before, landing.source, region, before.track(landing.target), home, landing.length)
        work.put(landing.target, replace(region, id=home, start=landing.at, length=landing.length, sound=sound))
    for lane in session.lanes_in(region.id):
        if request.automation == "without":
            break
        source = session.parameter(lane.parameter)
        target = _match(work, request, source, landing)
        if target is None:
            continue
        work.name(target.id, landing.at, landing.at + landing.length)
        to_home, at = (home, 0) if request.automation == "with" else (ON_THE_TRACK, landing.at)
        work.went.append(Went(lane.parameter, region.id, 0, landing.length, target.id, to_home, at, how=how))
        if request.automation == "with":
            made = _possible(work, Fragment(lane.envelope, landing.length), source, target, landing)
            work.write(target.id, home, made.fragment.envelope, limited=made.spans_limited)
        else:
            _lay_on_track(work, editing.cut(lane.envelope, 0, landing.length), source, target, landing)
    if request.under == "goes along":
        _carry_under(work, before, request, landing, how)


def _possible(work: WorkingCopy, piece: Fragment, source: Parameter, target: Parameter, landing: _Landing) -> Mapped:
    """A lane as the target can have it, with a caution where it had to give way."""
    if source.id == target.id:
        return Mapped(piece)
    made = possible(piece, target)
    made = replace(made, limited=tuple(span for span in made.limited if span[0] < landing.length))
    if made.spans_limited:
        track, end = work.session.track(landing.target), landing.at + landing.length
        work.cautions.append(say.limited_spans(made.spans_limited, track, target, landing.at, end))
    return made


def _lay_on_track(work: WorkingCopy, piece: Fragment, source: Parameter, target: Parameter, landing: _Landing) -> None:
    made = _possible(work, piece, source, target, landing)
    work.lay(target, [Landed(landing.at, made.fragment, made.limited)])


def _carry_under(work: WorkingCopy, before: Session, request: CarryRegions, landing: _Landing, how: How) -> None:
    """The track's own automation under a region, as it was before, to where the region lands."""
    start, end = landing.region.start, landing.region.start + landing.length
    for parameter in landing.source.parameters:
        lane = before.lane_at(parameter.id)
        target = _match(work, request, parameter, landing) if lane else None
        if lane and target:
            piece = editing.cut(lane.envelope, start, end)
            work.name(target.id, landing.at, landing.at + landing.length)
            went = Went(parameter.id, ON_THE_TRACK, start, end, target.id, ON_THE_TRACK, landing.at, how=how)
            work.went.append(went)
            _lay_on_track(work, piece, parameter, target, landing)


def _match(work: WorkingCopy, request: CarryRegions, parameter: Parameter, landing: _Landing) -> Parameter | None:
    """The same parameter on the target, or a caution that there is none."""
    track = work.session.track(landing.target)
    target = same_parameter(work.session, parameter, track)
    if target is None:
        ways = [] if request.missing == "add" else [Remedy("add it there", step=replace(request, missing="add"))]
        work.cautions.append(say.no_such_parameter(track, parameter.name, f"like {landing.source.name}'s", *ways))
    return target


def sentence(session: Session, request: CarryRegions) -> tell.Told:
    """“Move toll 2 to 9.1.00 on its own track, its automation goes along, what lies under it stays.”"""
    verb = {"move": "Move", "copy": "Copy", "repeat": "Repeat"}[request.how]
    filling = request.until is not None
    often = (" up to {until}" if filling else " {times}") + " every {every}," if request.how == "repeat" else ""
    return tell.told(
        f"{verb} {{regions}}{often} to {{at}} on {{targets}}, automation {{automation}}, the track’s under them {{under}}.",
        regions=tell.regions(session, request.regions),
        times=counted(request.times, "time"),
        until=tell.position(session, request.until),
        every="length" if request.every is None else tell.length(request.every),
        at=tell.position(session, request.at),
        targets=tell.tracks(session, request.targets) if request.targets else "their own tracks",
        automation={"with": "goes along", "without": "stays", "alone": "goes alone"}[request.automation],
        under=request.under,
    )


OPERATION = Operation("carry regions", CarryRegions, plan, sentence, "moving")
