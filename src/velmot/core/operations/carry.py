"""Carry: lanes to the same parameters of other tracks, or to another time; copied or moved."""

from __future__ import annotations

from dataclasses import dataclass, replace
from typing import Literal

from velmot.core.change import Caution, Change, TrackSwap
from velmot.core.envelope import Fragment
from velmot.core.errors import RequestError
from velmot.core.mapping import mapped
from velmot.core.matching import device_named, resting_like, static_differences, with_device, with_same_parameter
from velmot.core.operations.frame import (
    ON_THE_TRACK,
    Draft,
    Operation,
    fitted,
    need_range,
    says,
    span_text,
)
from velmot.core.operations.match_table import Landing, Match, table
from velmot.core.parameters import Parameter
from velmot.core.session import Lane, Mode, Precedence, Session, Track
from velmot.core.time import Tick

MOST_TIMES = 1000


@dataclass(frozen=True)
class Carry:
    """Take what lanes do over a range to the same parameters of one or more tracks."""

    lanes: tuple[str, ...] = says("The lanes to carry, by id.")
    targets: tuple[str, ...] = says("The tracks to carry them to, by id.")
    devices: tuple[str, ...] = says(
        "Devices to take along whole, by id: their static values and all their lanes.", default=()
    )
    matches: tuple[Match, ...] = says("Where lanes land, in place of the usual match.", default=())
    start: Tick | None = says("Where the range starts; with no range the whole lane goes.", default=None)
    end: Tick | None = says("Where the range ends; this position is not in it any more.", default=None)
    at: Tick | None = says("Where it lands; nothing means the same place.", default=None)
    how: Literal["copy", "move"] = says("Copy leaves the source as it is, move clears it.", default="copy")
    edges: Literal["seal", "ramp"] = says("Seal lets values jump at the edges, ramp leads in and out.", default="seal")
    ramp: Tick = says("How long a ramp lasts, inside the range.", default=Tick(0))
    times: int = says("How often it lands, one after the other.", default=1)
    every: Tick | None = says("How far apart; nothing means back to back.", default=None)
    missing: Literal["leave out", "add"] = says(
        "What to do where a target has no such parameter: leave the lane out, or add the parameter with its "
        "device or send and its static value.",
        default="leave out",
    )
    match_static: bool = says("Also give the targets the static values of the source tracks.", default=False)
    set_to_read: bool = says("Also switch target tracks that are off to read.", default=False)


@dataclass(frozen=True)
class _Load:
    """One piece on its way: what `lane` does over ``[start, start + length)`` in session ticks."""

    lane: Lane
    parameter: Parameter
    start: int
    fragment: Fragment


def plan(session: Session, request: Carry) -> Change:
    """Everything carrying would replace. All sources are read before anything is written."""
    lanes, targets = _asked(session, request)
    cautions: list[Caution] = []
    loads = _loads(session, request, lanes, cautions)
    wider, cells = _with_missing(session, request, loads, targets)
    targets = [wider.track(t.id) for t in targets]
    draft = Draft(wider)
    if request.how == "move":
        for load in loads:
            if not (request.at in (None, request.start) and session.owner(load.parameter.id) in targets):
                _clear(draft, load)
    for load in loads:
        for cell in cells[load.parameter.id]:
            _land(draft, request, load, cell, cautions)
    cautions = list(dict.fromkeys(cautions))
    swaps, touched = draft.finished()
    changed = _changed_tracks(session, request, lanes, targets)
    hit = {wider.owner(t.parameter).id for t in touched}
    cautions += [_not_reading(t) for t in targets if not t.reads and not request.set_to_read and t.id in hit]
    if not (swaps or changed or cautions):
        cautions.append(Caution("no-change", "It is already like this: nothing would change"))
    return Change(_title(request, session, lanes, targets), swaps, changed, touched, tuple(cautions))


def match_table(session: Session, request: Carry) -> list[Landing]:
    """Where each source parameter of a carry lands on each target, without carrying anything."""
    lanes, targets = _asked(session, request)
    sources = list({x.parameter: session.parameter(x.parameter) for x in lanes}.values())
    return table(session, request.matches, request.missing, sources, targets)


def _with_missing(
    session: Session, request: Carry, loads: list[_Load], targets: list[Track]
) -> tuple[Session, dict[str, list[Landing]]]:
    """The session with the devices and parameters that targets gain, and where each source parameter lands."""
    for target in targets:
        for device in request.devices:
            session = with_device(session, device, session.track(target.id))
    sources = {load.parameter.id: load.parameter for load in loads}
    cells: dict[str, list[Landing]] = {id: [] for id in sources}
    tracks = [session.track(t.id) for t in targets]
    for cell in table(session, request.matches, request.missing, list(sources.values()), tracks):
        if cell.do == "add":
            before = {p.id for p in session.track(cell.track.id).parameters}
            session = with_same_parameter(session, cell.source, session.track(cell.track.id))
            added = next((p for p in session.track(cell.track.id).parameters if p.id not in before), None)
            cell = replace(cell, onto=added)
        cells[cell.source.id].append(cell)
    return session, cells


def resting_pairs(session: Session, request: Carry) -> list[tuple[Track, Parameter, Parameter]]:
    """(target track, source's, target's) parameters of the tracks of a carry that rest at different values."""
    lanes, targets = _asked(session, request)
    return [(t, p, q) for t in targets for p, q in _static_pairs(session, lanes, t)]


def _static_pairs(session: Session, lanes: list[Lane], target: Track) -> list[tuple[Parameter, Parameter]]:
    owners = {t.id: t for t in (session.owner(x.parameter) for x in lanes)}
    return [pair for owner in owners.values() for pair in static_differences(session, owner, target)]


def _changed_tracks(session: Session, request: Carry, lanes: list[Lane], targets: list[Track]) -> tuple[TrackSwap, ...]:
    """Targets that gained parameters, rest elsewhere now, or are switched to read."""
    out = []
    for target in targets:
        after = resting_like(target, _static_pairs(session, lanes, target)) if request.match_static else target
        if request.set_to_read and not after.reads:
            after = replace(after, mode=Mode.READ)
        if after != session.track(target.id):
            out.append(TrackSwap(session.track(target.id), after))
    return tuple(out)


def _asked(session: Session, request: Carry) -> tuple[list[Lane], list[Track]]:
    need_range(request.start, request.end)
    if not request.lanes and not request.devices:
        raise RequestError("lanes-none", "no lane is chosen", place="lanes", accepted="at least one lane")
    if not request.targets:
        raise RequestError("targets-none", "no track is chosen", place="targets", accepted="at least one track")
    if request.at is not None and request.at < 0:
        raise RequestError(
            "at-early", "it cannot land before the session starts", place="at", accepted="1.1.00 or later"
        )
    if request.edges == "ramp" and request.ramp <= 0:
        raise RequestError("ramp-none", "a ramp needs a length", place="ramp", accepted="a length such as 80 ms")
    if not 1 <= request.times <= MOST_TIMES:
        said = f"it cannot land {request.times} times"
        raise RequestError("times", said, place="times", accepted=f"1 to {MOST_TIMES:,}")
    if request.every is not None and request.every <= 0:
        raise RequestError(
            "every", "landings must be some way apart", place="every", accepted="a length such as 4 bars"
        )
    lanes = [session.lane(id) for id in dict.fromkeys((*request.lanes, *_lanes_of_devices(session, request)))]
    return _winner_last(session, lanes), [session.track(id) for id in dict.fromkeys(request.targets)]


def _lanes_of_devices(session: Session, request: Carry) -> list[str]:
    wanted = {device_named(session, id)[1].id for id in request.devices}
    return [x.id for x in session.lanes if session.parameter(x.parameter).device in wanted]


def _winner_last(session: Session, lanes: list[Lane]) -> list[Lane]:
    """The lanes so that of one parameter's the one that wins is written last: what lands is what was heard."""
    region_wins = session.precedence is Precedence.REGION
    return sorted(lanes, key=lambda x: (x.on_track != region_wins, session.span(x)[0]))


def _loads(session: Session, request: Carry, lanes: list[Lane], cautions: list[Caution]) -> list[_Load]:
    loads = []
    for lane in lanes:
        first, last = session.span(lane)
        start = max(first, request.start) if request.start is not None else first
        end = min(last, request.end) if request.end is not None else last
        if start >= end:
            said = (
                f"{session.lane_name(lane)} has nothing in {span_text(session, request.start or 0, request.end or 0)}"
            )
            cautions.append(Caution("nothing-to-carry", said, lane=lane.id))
            continue
        fragment = session.in_session_time(lane).cut(start, end)
        if not fragment.envelope.moves(0, fragment.length):
            said = f"{session.lane_name(lane)} does not move in {span_text(session, start, end)}"
            cautions.append(Caution("nothing-moves", said, lane=lane.id, start=start, end=end))
        loads.append(_Load(lane, session.parameter(lane.parameter), start, fragment))
    return loads


def _clear(draft: Draft, load: _Load) -> None:
    """Take the load away from its source; a lane that went whole is removed."""
    lane, session = load.lane, draft.session
    end = load.start + load.fragment.length
    if (load.start, end) == session.span(lane):
        draft.write(load.parameter, lane.home, None, load.start, end)
        return
    zero = 0 if lane.on_track else session.region(lane.home).start
    before = draft.envelope(load.parameter, lane.home, load.start)
    cleared = before.straightened([(load.start - zero, end - zero)], load.parameter.holds_only)
    draft.write(load.parameter, lane.home, cleared, load.start, end)


def _land(draft: Draft, request: Carry, load: _Load, cell: Landing, cautions: list[Caution]) -> None:
    """Splice a load into its match on one target track, with cautions for what does not fit."""
    session, track, target = draft.session, cell.track, cell.onto
    if target is None:
        if cell.found != "chosen":
            said = f"{track.name} has no {load.parameter.name} like {session.owner(load.parameter.id).name}'s: left out"
            cautions.append(Caution("no-such-parameter", said, track=track.id, lane=load.lane.id))
        return
    if cell.wish is not None:
        fragment, silence = mapped(load.parameter, load.fragment, target, cell.wish)
        load = replace(load, fragment=fragment)
        if silence:
            cautions.append(Caution("silence", silence, track=track.id))
    shift = 0 if request.at is None else request.at - (load.start if request.start is None else request.start)
    step = request.every if request.every is not None else _stride(request, load)
    for n in range(request.times):
        if load.start + shift + n * step >= session.length and n:
            cautions.append(_beyond(session, track, load, session.length))
            break
        _place(draft, request, load, track, target, shift + n * step, cautions)


def _stride(request: Carry, load: _Load) -> int:
    """From one landing to the next when they follow back to back: the whole range's length."""
    return load.fragment.length if request.start is None or request.end is None else request.end - request.start


def _place(
    draft: Draft, request: Carry, load: _Load, track: Track, target: Parameter, shift: int, cautions: list[Caution]
) -> None:
    """Splice a load into a target's lane, `shift` ticks from where it was."""
    session, at = draft.session, load.start + shift
    if shift == 0 and target.id == load.parameter.id and load.lane.on_track:
        if request.times == 1:
            said = f"{session.lane_name(load.lane)} is already there: nothing would change"
            cautions.append(Caution("already-there", said, track=track.id, lane=load.lane.id))
        return
    fragment = _within_session(session, load, track, at, cautions)
    if fragment is None:
        return
    fragment, spans = fitted(fragment, target)
    if spans:
        said = f"{_times(spans)} limited to what {track.name} {target.name} can be"
        cautions.append(Caution("limited", said, track=track.id, start=at, end=at + fragment.length))
    ramp = request.ramp if request.edges == "ramp" and not target.holds_only else 0
    base = draft.envelope(target, ON_THE_TRACK, at)
    end = at + fragment.length
    draft.write(target, ON_THE_TRACK, base.splice(fragment, at, ramp), at, end, spans)
    cautions += _overruled(session, target, track, at, end)


def _beyond(session: Session, track: Track, load: _Load, at: int) -> Caution:
    said = f"What would land beyond the session's end, {session.tempo.position(session.length)}, is left out"
    return Caution("beyond-end", said, track=track.id, lane=load.lane.id, start=at)


def _within_session(session: Session, load: _Load, track: Track, at: int, cautions: list[Caution]) -> Fragment | None:
    """The fragment as far as the session reaches, None if it lies wholly outside."""
    room = session.length - at
    if load.fragment.length <= room and at >= 0:
        return load.fragment
    cautions.append(_beyond(session, track, load, at))
    if room <= 0 or at < 0:
        return None
    return load.fragment.envelope.cut(0, room)


def _overruled(session: Session, target: Parameter, track: Track, start: int, end: int) -> list[Caution]:
    """Regions whose own lanes win over what lands, where precedence says region."""
    if session.precedence is not Precedence.REGION:
        return []
    names = [r.name for r, _ in session.region_lanes(target.id) if r.start < end and start < r.end]
    if not names:
        return []
    said = f"In {_some(names)} the region's own {target.name} lane wins: the rest is heard"
    return [Caution("region-wins", said, track=track.id, start=start, end=end)]


def _not_reading(track: Track) -> Caution:
    return Caution("not-reading", f"{track.name} is not reading its lanes: this would not be heard", track=track.id)


def _title(request: Carry, session: Session, lanes: list[Lane], targets: list[Track]) -> str:
    verb = "Carry" if request.how == "copy" else "Move"
    what = session.lane_name(lanes[0]) if len(lanes) == 1 else f"{len(lanes)} lanes"
    where = targets[0].name if len(targets) == 1 else f"{len(targets)} tracks"
    return f"{verb} {what} to {where}"


def _times(spans: int) -> str:
    return "1 span" if spans == 1 else f"{spans} spans"


def _some(names: list[str]) -> str:
    return ", ".join(names[:3]) + (f" and {len(names) - 3} more regions" if len(names) > 3 else "")


OPERATION = Operation("carry", Carry, plan)
