"""Ride: passes, in which time runs and hands move controls; what they do becomes lanes, by each control's mode."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import replace
from functools import partial
from itertools import groupby
from typing import cast, get_args

import numpy as np

from velmot.core.curves.strokes import Span, Writing
from velmot.core.errors import RequestError
from velmot.core.parameters.parameter import Parameter
from velmot.core.session.session import Session
from velmot.core.session.track import ON_THE_TRACK, Track
from velmot.core.session.wording import listed, parameter_name
from velmot.core.verbs.frame import cautions as say
from velmot.core.verbs.frame import telling as tell
from velmot.core.verbs.frame.change import Change
from velmot.core.verbs.frame.checks import need_range
from velmot.core.verbs.frame.first_lane import silences, take_over
from velmot.core.verbs.frame.levels import set_to_read
from velmot.core.verbs.frame.operation import Operation
from velmot.core.verbs.frame.usual_bound import usual_bound
from velmot.core.verbs.frame.working_copy import WorkingCopy
from velmot.core.verbs.ride.request import Pass, Ridden, Ride
from velmot.core.verbs.ride.riding import Control, mode_of, parts_of, write
from velmot.core.verbs.ride.riding_cautions import unheard
from velmot.core.words import counted

WRITING = get_args(Writing)


def plan(session: Session, request: Ride) -> Change:
    """The change that writes the passes, one laid over the other; outside the spans they write nothing changes."""
    _check(request)
    controls = [c for n, one in enumerate(request.passes) for c in _controls(session, request, one, n)]
    work = _ridden(session, request, controls, frozenset())
    silencing = frozenset(c.parameter.id for c in controls if _silences(session, c.parameter, work))
    if silencing and request.lands == "where it is heard":
        work = _ridden(session, request, controls, silencing)
    if request.set_to_read:
        work.cautions += set_to_read(_ridden_tracks(session, controls))
    work.cautions += [say.pass_cut(session) for one in request.passes if one.end > session.length][:1]
    change = work.change()
    if any(c.ridden.hand.at for c in controls):
        return change
    # Nothing was ridden yet: what there is to say before a pass starts is said, and no more.
    return replace(change, cautions=tuple(c for c in change.cautions if c.code != "no-change"))


def _ridden_tracks(session: Session, controls: list[Control]) -> list[Track]:
    return [*{t.id: t for c in controls for t in [session.owner(c.parameter.id)]}.values()]


def _silences(session: Session, parameter: Parameter, work: WorkingCopy) -> bool:
    return silences(session, parameter) and work.writes(parameter.id, ON_THE_TRACK)


def _ridden(session: Session, request: Ride, controls: list[Control], silencing: frozenset[str]) -> WorkingCopy:
    """The passes written; of parameters in `silencing` the new lane on the track takes over what regions do."""
    work = WorkingCopy(session)
    if request.set_to_read:
        work.set_to_read(t.id for t in _ridden_tracks(session, controls))
    for id in dict.fromkeys(c.parameter.id for c in controls if c.parameter.id in silencing):
        take_over(work, session.parameter(id))
    for _, together in groupby(controls, key=lambda control: control.number):
        before = work.so_far()
        for control in together:
            work.cautions += unheard(session, request, control.ridden, control.mode, control.span[:2])
            if control.mode in WRITING:
                on_track = request.lands == "on the track" or control.parameter.id in silencing
                write(work, control, parts_of(session, control.parameter, on_track), before)
    return work


def _check(request: Ride) -> None:
    if not any(one.controls for one in request.passes):
        raise RequestError("passes-none", place="passes", accepted="a pass with a control")
    if request.return_over < 0:
        raise RequestError("return", place="return_over", accepted="0 or more")
    if any(not 0 <= bound.amount < np.inf for bound in request.within):
        raise RequestError("within/negative", place="within", accepted="0 or more")


def _controls(session: Session, request: Ride, one: Pass, n: int) -> Iterator[Control]:
    """The controls of a pass; RequestError for a pass without length, or for a control that is in it twice."""
    need_range(one.start, one.end)
    span = Span(one.start, min(one.end, session.length), request.return_over)
    if span.start >= span.end:
        raise RequestError(
            "pass-beyond",
            where=str(session.tempo.position(session.length)),
            place=f"passes[{n}].start",
            accepted="a start inside the session",
        )
    seen: set[str] = set()
    for ridden in one.controls:
        if ridden.parameter in seen:
            raise RequestError(
                "control-twice",
                name=parameter_name(session, ridden.parameter),
                place=f"passes[{n}].controls",
                accepted="each control once",
            )
        seen.add(ridden.parameter)
        parameter = session.parameter(ridden.parameter)
        if ridden.trim and parameter.holds_only:
            raise RequestError(
                "trim-named",
                name=parameter_name(session, parameter.id),
                place=f"passes[{n}].controls",
                accepted="its values themselves",
            )
        mode = cast(Writing, mode_of(session, ridden))  # or read, or off, of which nothing is written
        back = span._replace(back=0) if parameter.holds_only else span
        bound = next((w.amount for w in request.within if w.unit == parameter.distance_unit), usual_bound(parameter))
        yield Control(n, ridden, parameter, mode, back, bound)


def sentence(session: Session, request: Ride) -> tell.Told:
    """“Ride Keeper Level from 9.1.00 to 13.1.00 in latch; touch goes back over 1 beat.”"""
    controls = [r for one in request.passes for r in one.controls]
    names = [*dict.fromkeys(parameter_name(session, r.parameter) for r in controls)]
    said: str | tell.Asked = listed(names, "control", 2) if len(names) <= 2 else counted(len(names), "control")
    if not names:
        said = tell.Asked("choose controls")
    ends = [t for one in request.passes for t in (one.start, one.end)]
    position = partial(tell.position, session)
    where = f" from {position(min(ends))} to {position(max(ends))}" if ends else ""
    many = f", {counted(len(request.passes), 'pass', 'passes')}" if len(request.passes) > 1 else ""
    modes = listed([*dict.fromkeys(_mode_text(session, r) for r in controls)], "mode", 3)
    words = "Ride {passes}" + where + (f" in {modes}" if modes else "") + many
    if any("touch" in _mode_text(session, r) for r in controls):
        words += "; touch goes back over {return_over}"
    return tell.told(words + ".", passes=said, return_over=tell.length(request.return_over))


def _mode_text(session: Session, ridden: Ridden) -> str:
    mode = mode_of(session, ridden)
    return f"trim {mode}" if ridden.trim else mode


OPERATION = Operation("ride", Ride, plan, sentence, "replacing")
