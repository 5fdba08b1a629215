"""Retarget: a curve onto parameters of other units and ranges, by one straight mapping between the axes."""

from __future__ import annotations

from velmot.core.curves import editing
from velmot.core.curves.editing import Fragment
from velmot.core.errors import RequestError
from velmot.core.parameters.mapping import Mapping, affine, mapped
from velmot.core.parameters.parameter import Parameter
from velmot.core.session.session import Session
from velmot.core.session.track import ON_THE_TRACK, Lane
from velmot.core.verbs.frame import cautions as say
from velmot.core.verbs.frame import telling as tell
from velmot.core.verbs.frame.change import Change, Went
from velmot.core.verbs.frame.checks import need, need_range
from velmot.core.verbs.frame.operation import Operation
from velmot.core.verbs.frame.working_copy import WorkingCopy
from velmot.core.verbs.retarget.request import Retarget, Target


def plan(session: Session, request: Retarget) -> Change:
    """Everything retargeting would replace; the source is read before anything is written."""
    lane, start, fragment = source_of(session, request)
    work = WorkingCopy(session)
    moved = request.how == "move" and not _onto_itself(session, request, lane, start)
    if moved:
        work.take_away(lane, start, start + fragment.length)
    for target in request.targets:
        line = _land(work, request, session.parameter(lane.parameter), fragment, start, target)
        if moved:
            first, at = start - session.zero_of(lane), _at(request, start)
            span = first, first + fragment.length
            work.went.append(Went(lane.parameter, lane.home, *span, target.parameter, ON_THE_TRACK, at, *line))
    tracks = dict.fromkeys(session.owner(t.parameter).id for t in request.targets)
    if request.set_to_read:
        work.set_to_read(tracks)
    work.cautions += [say.not_reading(work.track(id), request) for id in tracks if not work.track(id).reads]
    return work.change()


def mapping_of(request: Retarget, target: Target) -> Mapping:
    """The mapping a request asks for onto one of its targets."""
    return Mapping(
        request.mapping,
        target.low,
        target.high,
        request.upside_down,
        request.anchor,
        request.to_anchor,
        request.depth,
        request.hysteresis,
    )


def source_of(session: Session, request: Retarget) -> tuple[Lane, int, Fragment]:
    """The source lane, where its piece starts (session ticks) and the piece; RequestError where there is none."""
    need_range(request.start, request.end)
    need(request.targets, "parameter", place="targets")
    if len({t.parameter for t in request.targets}) < len(request.targets):
        raise RequestError("lands-twice/named", place="targets", accepted="each once")
    if request.edges == "ramp" and request.ramp <= 0:
        raise RequestError("ramp-none", place="ramp", accepted="a length such as 80 ms")
    if request.hysteresis < 0 or request.hysteresis >= 1:
        raise RequestError("hysteresis", place="hysteresis", accepted="0 up to 1 step")
    lane = session.lane(request.lane)
    first, last = session.span(lane)
    start = max(first, request.start) if request.start is not None else first
    end = min(last, request.end) if request.end is not None else last
    if start >= end:
        raise RequestError(
            "nothing-to-carry", name=session.lane_name(lane), place="range", accepted="a range the lane reaches into"
        )
    return lane, start, editing.cut(session.in_session_time(lane), start, end)


def _onto_itself(session: Session, request: Retarget, lane: Lane, start: int) -> bool:
    """Whether what is moved lands on the very lane and place it is taken from, where nothing may be cleared."""
    return lane.on_track and lane.parameter in {t.parameter for t in request.targets} and _at(request, start) == start


def _at(request: Retarget, start: int) -> int:
    """Where what starts at `start` lands."""
    return start if request.at is None else request.at + start - (request.start if request.start is not None else start)


def _land(
    work: WorkingCopy, request: Retarget, source: Parameter, fragment: Fragment, start: int, target: Target
) -> tuple[float, float]:
    """Land a piece on one target; gives the straight line between the two axes by which it is mapped."""
    at, to = _at(request, start), work.session.parameter(target.parameter)
    if not 0 <= at < work.session.length:
        raise RequestError("at-outside", place="at", accepted="a place inside it")
    mapping = mapping_of(request, target)
    line = affine(source, [fragment.envelope], to, mapping)
    made = mapped(source, fragment, to, mapping, line)
    work.land_mapped(to, made, at, request.ramp if request.edges == "ramp" else 0)
    return line


def sentence(session: Session, request: Retarget) -> tell.Told:
    """“Retarget Bell buoy Level from 9.1.00 to 13.1.00 to Engine room Cutoff, the same place, fitted, copied; edges jump.”"""
    span = " from {start} to {end}" if request.start is not None else ", {start},"
    edges = "edges ramp over {ramp}" if request.edges == "ramp" else "edges {edges}"
    one = request.targets[0] if len(request.targets) == 1 else None
    how = "{mapping}"
    low = high = ""
    if request.mapping == "fit" and one:
        parameter = session.parameter(one.parameter)
        how = "{mapping} between {low} and {high}"
        low = parameter.format(parameter.low if one.low is None else one.low)
        high = parameter.format(parameter.high if one.high is None else one.high)
    return tell.told(
        "Retarget {lane}" + span + " to {targets}, {at}, " + how + ", {how}; " + edges + ".",
        lane=tell.lanes(session, [request.lane] if request.lane else []),
        start="whole" if request.start is None else tell.position(session, request.start),
        end=tell.position(session, request.end, "its end"),
        targets=tell.parameters(session, [t.parameter for t in request.targets]),
        at=tell.position(session, request.at),
        mapping={
            "unit": "same numbers",
            "range": "same position in the range",
            "fit": "fitted",
            "around": "around an anchor",
        }[request.mapping]
        + (" upside down" if request.upside_down else ""),
        low=low,
        high=high,
        how={"copy": "copied", "move": "moved"}[request.how],
        edges="jump",
        ramp=tell.length(request.ramp),
    )


OPERATION = Operation("retarget", Retarget, plan, sentence, "replacing")
