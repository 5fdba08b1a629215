"""Carry: lanes to the same parameters of other tracks, or to another time; copied or moved."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass, replace
from typing import Literal

from velmot.core.curves import editing
from velmot.core.curves.editing import Fragment, Piece
from velmot.core.curves.envelope import Envelope
from velmot.core.curves.spans import runs, topmost
from velmot.core.errors import RequestError
from velmot.core.limits import MOST_TIMES
from velmot.core.parameters.mapping import Mapped, affine, mapped, possible
from velmot.core.parameters.parameter import Parameter
from velmot.core.remedy import Remedy
from velmot.core.session.alternatives import usable
from velmot.core.session.heard import winning_last
from velmot.core.session.matching import device_named, static_differences, with_device, with_same_parameter
from velmot.core.session.session import Session
from velmot.core.session.track import ON_THE_TRACK, Lane, Track
from velmot.core.session.wording import alternative_name, parameter_name, span_text
from velmot.core.verbs.carry.carry_linked import Linking, with_links_made
from velmot.core.verbs.carry.match_table import Landing, table
from velmot.core.verbs.carry.request import Carry, Match
from velmot.core.verbs.frame import cautions as say
from velmot.core.verbs.frame import telling as tell
from velmot.core.verbs.frame.change import Caution, Change, Went, caution
from velmot.core.verbs.frame.checks import need, need_range
from velmot.core.verbs.frame.landing import Landed
from velmot.core.verbs.frame.operation import Operation
from velmot.core.verbs.frame.working_copy import WorkingCopy
from velmot.core.words import counted


@dataclass(frozen=True)
class _Load:
    """What one lane does over ``[start, end)`` in session ticks."""

    lane: Lane
    parameter: Parameter
    start: int
    end: int


@dataclass(frozen=True)
class _Run:
    """What lands of one parameter in one stretch from `start` on: what is heard of its lanes that are carried."""

    parameter: Parameter
    start: int
    fragment: Fragment
    on_track: bool
    """Whether it is nothing but what the track's own lane does."""


def plan(session: Session, request: Carry) -> Change:
    """Everything carrying would replace. All sources are read before anything is written."""
    lanes, targets = _asked(session, request)
    work = WorkingCopy(session)
    loads = _loads(session, request, lanes, work.cautions)
    wider, cells = _with_missing(session, request, loads, targets)
    work.widen(wider)
    stretches = {id: _runs(wider, [x for x in loads if x.parameter.id == id]) for id in cells}
    shifts = _shifts(request, loads, wider.length)
    if request.how == "move":
        for load in loads:
            if not _stays(load, stretches[load.parameter.id], cells[load.parameter.id], shifts, wider.length):
                work.take_away(load.lane, load.start, load.end)
    for id, own in cells.items():
        for cell in own:
            _land(work, request, stretches[id], cell, shifts)
    if not request.linked and not request.alternative:
        work.went += _went(session, request, loads, stretches, cells, shifts)
    if request.match_static:
        pairs = (pair for target in targets for pair in _static_pairs(session, lanes, target))
        work.rest_at({there.id: here.value for here, there in pairs})
    if request.set_to_read:
        work.set_to_read(t.id for t in targets)
    hit = {wider.owner(s.parameter).id for s in work.lane_swaps()}
    work.cautions += [say.not_reading(t, request) for t in targets if not work.track(t.id).reads and t.id in hit]
    if request.linked:
        return with_links_made(work.session, work.change(), _linkings(work.session, loads, stretches, cells, shifts))
    return replace(work.change(), linking=_could_be_linked(request))


def _could_be_linked(request: Carry) -> Remedy | None:
    """What links a plain copy; None where it cannot be."""
    if request.alternative:
        return None
    wanted = replace(request, linked=True)
    return Remedy("link it", step=wanted) if _linked_problem(wanted) is None else None


def _went(
    session: Session,
    request: Carry,
    loads: list[_Load],
    stretches: dict[str, list[_Run]],
    cells: dict[str, list[Landing]],
    shifts: list[int],
) -> Iterator[Went]:
    """Where what each lane did stands now: linked places are moved with it; a copy of one could be linked as well."""
    for load in loads:
        id, home, zero = load.parameter.id, load.lane.home, session.zero_of(load.lane)
        first, last = load.start - zero, load.end - zero
        stays = request.how == "copy" or _stays(load, stretches[id], cells[id], shifts, session.length)
        if stays and all(one.span != (first, last) for one in session.placed_on(id, home)):
            continue
        how: Literal["moved", "offered"] = "offered" if stays else "moved"
        for cell in cells[id]:
            if cell.onto is not None:
                line = _line(cell, stretches[id])
                for by in shifts:
                    yield Went(id, home, first, last, cell.onto.id, ON_THE_TRACK, load.start + by, *line, how)


def _linkings(
    session: Session,
    loads: list[_Load],
    stretches: dict[str, list[_Run]],
    cells: dict[str, list[Landing]],
    shifts: list[int],
) -> Iterator[Linking]:
    """What of a carry is to be linked: each stretch with everything it lands on."""
    for id, runs_of in stretches.items():
        for run in runs_of:
            end = run.start + run.fragment.length
            own = [x.lane for x in loads if x.parameter.id == id and x.start < end and run.start < x.end]
            landings = tuple(
                (cell.onto, run.start + shift, _line(cell, runs_of))
                for cell in cells[id]
                if cell.onto is not None
                for shift in shifts
                if not (shift == 0 and cell.onto.id == id)
            )
            if landings:
                yield Linking(own[0] if len(own) == 1 else None, run.parameter, run.start, end, landings)


def _line(cell: Landing, runs: list[_Run]) -> tuple[float, float]:
    """The straight line by which a parameter lands on its match."""
    if cell.mapping is None or cell.onto is None:
        return 1.0, 0.0
    return affine(cell.source, [run.fragment.envelope for run in runs], cell.onto, cell.mapping)


def _runs(session: Session, loads: list[_Load]) -> list[_Run]:
    """What is heard of one parameter's loads, in as few stretches as can be."""
    ordered = {x.id: n for n, x in enumerate(winning_last(session, [load.lane for load in loads]))}
    loads = sorted(loads, key=lambda load: ordered[load.lane.id])
    spans = [(load.start, load.end) for load in loads]
    pieces = [Piece(a, b, loads[n].lane.envelope, session.zero_of(loads[n].lane)) for a, b, n in topmost(spans)]
    alone = all(load.lane.on_track for load in loads)
    out = []
    for start, end in runs(spans):
        mine = [piece for piece in pieces if start <= piece.start < end]
        if len(mine) == 1:
            whole = mine[0].trimmed().curve
        else:
            base = Envelope.constant(loads[0].parameter.value, loads[0].parameter.axis, start)
            whole = editing.cut(editing.overlaid(base, mine), start, end).envelope
        out.append(_Run(loads[0].parameter, start, Fragment(whole, end - start), alone))
    return out


def _shifts(request: Carry, loads: list[_Load], length: int) -> list[int]:
    """How many ticks later everything lands, once for each time: all that is carried keeps its distances.

    Back to back means by the length of the range, or of all that is carried together.
    """
    if not loads:
        return []
    origin = min(load.start for load in loads) if request.start is None else request.start
    span = max(load.end for load in loads) - origin if request.end is None else request.end - origin
    first = 0 if request.at is None else request.at - origin
    step = span if request.every is None else request.every
    return [first + n * step for n in range(request.times) if n == 0 or origin + first + n * step < length]


def _stays(load: _Load, runs: list[_Run], cells: list[Landing], shifts: list[int], length: int) -> bool:
    """Whether a move leaves a load where it is: it lands on itself, or nowhere."""
    targets = [cell.onto for cell in cells if cell.onto is not None]
    if load.lane.on_track and 0 in shifts and any(t.id == load.parameter.id for t in targets):
        return True
    return not targets or not any(0 <= run.start + shift < length for run in runs for shift in shifts)


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


def _asked(session: Session, request: Carry) -> tuple[list[Lane], list[Track]]:
    need_range(request.start, request.end)
    if request.alternative:
        _check_aside(request)
    else:
        need((*request.lanes, *request.devices), "lane")
    need(request.targets, "track", place="targets")
    if request.at is not None and request.at < 0:
        raise RequestError("at-early", place="at", accepted="1.1.00 or later")
    if request.edges == "ramp" and request.ramp <= 0:
        raise RequestError("ramp-none", place="ramp", accepted="a length such as 80 ms")
    if not 1 <= request.times <= MOST_TIMES:
        raise RequestError("times", times=request.times, place="times", accepted=f"1 to {MOST_TIMES:,}")
    if request.every is not None and request.every <= 0:
        raise RequestError("every", place="every", accepted="a length such as 4 bars")
    if request.linked and (problem := _linked_problem(request)):
        raise problem
    ids = dict.fromkeys((*request.lanes, *_lanes_of_devices(session, request)))
    lanes = [*usable(session, request.alternative).lanes] if request.alternative else [session.lane(id) for id in ids]
    return lanes, [session.track(id) for id in dict.fromkeys(request.targets)]


def _check_aside(request: Carry) -> None:
    """RequestError where what is kept aside is to be moved or linked: it stays as it is."""
    if request.how == "move" or request.linked:
        raise RequestError("alternative-stays", place="alternative", accepted="a copy that is not linked")


def _linked_problem(request: Carry) -> RequestError | None:
    """Why a carry cannot be linked; None where it can."""
    if request.how == "move" or request.edges == "ramp":
        return RequestError("linked/moves", place="linked", accepted="a copy with edges that jump, or plain points")
    length = request.end - request.start if request.start is not None and request.end is not None else 1
    if request.times > 1 and request.every is not None and request.every < length:
        accepted = "landings as far apart as the range is long, or more"
        return RequestError("linked/over", place="every", accepted=accepted)
    return None


def _lanes_of_devices(session: Session, request: Carry) -> list[str]:
    wanted = {device_named(session, id)[1].id for id in request.devices}
    return [x.id for x in session.lanes if session.parameter(x.parameter).device in wanted]


def _loads(session: Session, request: Carry, lanes: list[Lane], cautions: list[Caution]) -> list[_Load]:
    loads = []
    for lane in lanes:
        first, last = session.span(lane)
        start = max(first, request.start) if request.start is not None else first
        end = min(last, request.end) if request.end is not None else last
        if start >= end:
            where = span_text(session, request.start or 0, request.end or 0)
            cautions.append(caution("nothing-to-carry", name=session.lane_name(lane), where=where, lane=lane.id))
            continue
        zero = session.zero_of(lane)
        if not lane.envelope.moves(start - zero, end - zero):
            said = {"name": session.lane_name(lane), "where": span_text(session, start, end)}
            cautions.append(caution("nothing-moves/lane", said, lane=lane.id, start=start, end=end))
        loads.append(_Load(lane, session.parameter(lane.parameter), start, end))
    return loads


def _land(work: WorkingCopy, request: Carry, runs: list[_Run], cell: Landing, shifts: list[int]) -> None:
    """Lay a parameter's runs over its match on one target track, with cautions for what does not fit."""
    session, track, target, source = work.session, cell.track, cell.onto, cell.source
    if target is None:
        if cell.found != "chosen":
            like = f"like {session.owner(source.id).name}'s"
            work.cautions.append(say.no_such_parameter(track, source.name, like, *_ways_out(session, request, cell)))
        return
    made = _fitted(work, runs, cell, target)
    pieces: list[Landed] = []
    for shift in shifts:
        for run, one in zip(runs, made, strict=True):
            if shift == 0 and target.id == source.id and run.on_track and not request.alternative:
                if len(shifts) == 1:
                    name = parameter_name(session, source.id)
                    work.cautions.append(caution("already-there", name=name, track=track.id))
                continue
            pieces.append(Landed(run.start + shift, one.fragment, one.limited))
        work.budget.spend(sum(len(x.fragment.envelope) for x in made), len(made))
    if request.times > len(shifts):
        work.cautions.append(say.beyond_end(session, track))
    work.land(target, pieces, request.ramp if request.edges == "ramp" else 0)


def _ways_out(session: Session, request: Carry, cell: Landing) -> Iterator[Remedy]:
    """Where a target has no such parameter: it is added there, its device is taken along whole, or it lands on another one."""
    source, track = cell.source, cell.track
    if source.target != track.id:
        added = Match(source.id, track.id, "add")
        yield Remedy("add it there", step=replace(request, matches=(*request.matches, added)))
    owner = session.owner(source.id)
    if (device := owner.device_of(source)) is not None:
        along = replace(request, devices=(*request.devices, device.id))
        yield Remedy(f"take {device.name} along whole", step=along)
    if (near := _nearest(source, track)) is not None:
        other = Match(source.id, track.id, "land", near.id)
        yield Remedy(f"land it on {near.name}", step=replace(request, matches=(*request.matches, other)))


def _nearest(source: Parameter, track: Track) -> Parameter | None:
    """The parameter of a track that is most like another: of its kind, then of its unit, then of its family."""
    able = [p for p in track.parameters if p.kind is source.kind]
    return min(
        able, key=lambda p: (p.unit != source.unit, p.axis != source.axis, p.family != source.family), default=None
    )


def _fitted(work: WorkingCopy, runs: list[_Run], cell: Landing, target: Parameter) -> list[Mapped]:
    """The runs as the target can have them, all by one map where the units differ."""
    if cell.mapping is None:
        made = [possible(run.fragment, target) for run in runs]
    else:
        line = _line(cell, runs)
        made = [mapped(cell.source, run.fragment, target, cell.mapping, line) for run in runs]
    silences = dict.fromkeys(x.silence for x in made if x.silence)
    work.cautions += [caution("silence/mapped", what=said, track=cell.track.id) for said in silences]
    return made


def sentence(session: Session, request: Carry) -> tell.Told:
    """“Carry Bell buoy Level from 9.1.00 to 13.1.00 to Kelp choir, the same place, copied; edges jump.”"""
    span = " from {start} to {end}" if request.start is not None else ", {start},"
    often = "" if request.times == 1 else ", {times} every {every}"
    edges = "edges ramp over {ramp}" if request.edges == "ramp" else "edges {edges}"
    more = ("; {devices} whole" if request.devices else "") + (
        "; static values matched" if request.match_static else ""
    )
    more += "; {linked}" if request.linked else ""
    lanes = "" if request.alternative else tell.lanes(session, request.lanes)
    lanes = "no lane by itself" if request.devices and not request.lanes else lanes
    return tell.told(
        f"Carry {{{'alternative' if request.alternative else 'lanes'}}}"
        + span
        + " to {targets}, {at}"
        + often
        + ", {how}; "
        + edges
        + more
        + ".",
        lanes=lanes,
        alternative=alternative_name(session, request.alternative) if request.alternative else "",
        start="whole" if request.start is None else tell.position(session, request.start),
        end=tell.position(session, request.end, "its end"),
        targets=tell.tracks(session, request.targets),
        at=tell.position(session, request.at),
        times=counted(request.times, "time"),
        every="length" if request.every is None else tell.length(request.every),
        how={"copy": "copied", "move": "moved"}[request.how],
        edges="jump",
        ramp=tell.length(request.ramp),
        devices=counted(len(request.devices), "device"),
        linked="linked from then on",
    )


OPERATION = Operation("carry", Carry, plan, sentence, "replacing", of_places=True)
