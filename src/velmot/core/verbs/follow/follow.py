"""Follow: what a sound or a lane does drives parameters, as the fewest points within a bound."""

from __future__ import annotations

from dataclasses import replace

import numpy as np

from velmot.core.curves import editing
from velmot.core.curves.envelope import Envelope
from velmot.core.curves.followed import (
    Frames,
    Run,
    curve_through,
    evened,
    fewest,
    in_part,
    no_faster,
    opened,
    reduction,
    smoothed,
)
from velmot.core.curves.segments import HOLD
from velmot.core.curves.sums import sum_axis
from velmot.core.errors import RequestError
from velmot.core.parameters.parameter import Family, Parameter
from velmot.core.remedy import Remedy
from velmot.core.session.heard import heard, reading
from velmot.core.session.session import Session
from velmot.core.session.track import ON_THE_TRACK
from velmot.core.session.wording import parameter_name
from velmot.core.time.ticks import Floats
from velmot.core.verbs.follow.made import remembered_as
from velmot.core.verbs.follow.request import Follow, FollowOn
from velmot.core.verbs.follow.sources import check_loud, drives_itself, frames_of, level_text, measured, span_of
from velmot.core.verbs.frame import cautions as say
from velmot.core.verbs.frame import telling as tell
from velmot.core.verbs.frame.change import Change, caution
from velmot.core.verbs.frame.checks import need, need_range
from velmot.core.verbs.frame.landing import Landed
from velmot.core.verbs.frame.operation import Operation, home_span
from velmot.core.verbs.frame.sounding import Sounding
from velmot.core.verbs.frame.usual_bound import usual_bound
from velmot.core.verbs.frame.working_copy import WorkingCopy

USUAL_LOW, USUAL_HIGH = -48.0, -6.0
"""Between which levels a sound is followed, unless it is asked for."""

MOST_LINES = 100_000
"""Of a grid, in whose steps a lane lags."""


def plan(session: Session, request: Follow, sounding: Sounding | None) -> Change:
    """The change that lands the curves. RequestError for what cannot follow, or has nothing to follow."""
    _check(session, request)
    span = span_of(session, request)
    _check_lengths(session, request, span)
    frames = frames_of(session, request, span, sounding)
    check_loud(session, request, frames)
    work = WorkingCopy(session)
    for name in sounding.missing(session, request.tracks) if sounding and request.tracks else ():
        work.cautions.append(caution("source-missing", name=name))
    for target in request.targets:
        _drive(work, request, target, span, frames)
    tracks = {session.owner(t.parameter).id: session.owner(t.parameter) for t in request.targets}
    if request.set_to_read:
        work.set_to_read(tracks)
    hit = {session.owner(s.parameter).id for s in work.lane_swaps()}
    work.cautions += [
        say.not_reading(t, request) for t in tracks.values() if not work.track(t.id).reads and t.id in hit
    ]
    return work.change()


def _check(session: Session, request: Follow) -> None:
    need_range(request.start, request.end)
    need(request.targets, "parameter", place="targets")
    if not request.tracks and request.source is None:
        raise RequestError("follow-none", place="tracks", accepted="a track, or a lane")
    for id in request.tracks:
        session.track(id)
    if request.tracks and request.source is not None:
        raise RequestError("follow-none/both", place="tracks", accepted="tracks, or a lane")
    if request.does == "evens out" and request.source is not None:
        raise RequestError("follow-evens", place="tracks", accepted="a track")
    if request.does == "lags" and request.source is None:
        raise RequestError("follow-lags", place="source", accepted="a lane to follow")
    for name in ("window", "attack", "release", "hold", "lookahead", "least", "smooth", "knee", "hysteresis", "band"):
        if not 0 <= getattr(request, name) <= 60_000:
            raise RequestError("follow-time", name=name, place=name, accepted="0 to 60,000")
    if request.ratio is not None and not 1 < request.ratio <= 1000:
        raise RequestError("follow-ratio", ratio=request.ratio, place="ratio", accepted="above 1, to 1,000")
    for name in ("depth", "most"):
        if not 0 < getattr(request, name) <= 96:
            raise RequestError("follow-amount", name=name, place=name, accepted="above 0, to 96 dB")
    if request.slope is not None and not 0 < request.slope <= 1e6:
        raise RequestError("follow-amount", name="slope", place="slope", accepted="above 0")
    if request.grid is not None and request.grid < 1:
        raise RequestError("follow-grid", place="grid", accepted="a length such as 1/8")
    for target in request.targets:
        _check_target(session, request, target)


def _check_target(session: Session, request: Follow, target: FollowOn) -> None:
    parameter, name = session.parameter(target.parameter), parameter_name(session, target.parameter)
    home_span(session, parameter, target.home)
    if drives_itself(session, request, target.parameter):
        before = Remedy("before its level", step=replace(request, after_level=False)) if request.after_level else None
        raise RequestError("follow-circle", name=name, place="targets", accepted="another source", remedy=before)
    levels = request.does in ("makes room", "evens out")
    if levels and parameter.family not in (Family.LEVEL, Family.SEND):
        raise RequestError("follow-level", name=name, does=request.does, place="targets", accepted="a level, or a send")
    if parameter.holds_only and request.does in ("follows", "lags"):
        does = Remedy("let it open", step=replace(request, does="opens"))
        raise RequestError("follow-steps", name=name, place="does", accepted="opens", remedy=does)


def _check_lengths(session: Session, request: Follow, span: tuple[int, int]) -> None:
    first, last = session.tempo.seconds(np.array(span)).tolist()
    for name in ("lookahead", "window"):
        if getattr(request, name) / 1000 > last - first:
            accepted = f"at most {(last - first) * 1000:.0f} ms"
            raise RequestError("follow-wide", name=name, place=name, accepted=accepted)
    if request.does == "lags" and request.grid and (span[1] - span[0]) // request.grid > MOST_LINES:
        lines = (span[1] - span[0]) // request.grid
        raise RequestError("follow-grid/many", lines=lines, place="grid", accepted=f"at most {MOST_LINES:,}")


# ── one parameter ─────────────────────────────────────────────────────────────────────────────


def _drive(work: WorkingCopy, request: Follow, target: FollowOn, span: tuple[int, int], frames: Frames) -> None:
    session, parameter = work.session, work.session.parameter(target.parameter)
    zero, stop = home_span(session, parameter, target.home)
    start, end = max(span[0], zero), min(span[1], stop)
    name = parameter_name(session, parameter.id)
    if start >= end:
        work.cautions.append(caution("nothing-here", name=name, track=session.owner(parameter.id).id))
        return
    curve = _curve(session, request, target, frames, start, end)
    added = request.does in ("makes room", "evens out")
    gain = curve if added else None
    if added:
        base = work.curve(parameter, target.home, start - zero)
        now = editing.cut(base, start - zero, end - zero).envelope.shift(start)
        still = Envelope.constant(0.0, parameter.axis, start)
        curve = sum_axis(still if request.instead else now, curve)
    curve, limited = editing.limited(curve, parameter.low, parameter.high)
    piece = editing.cut(curve, start, end)
    spans = tuple((max(a - start, 0), b - start) for a, b in limited if a < end and start < b)
    landed = Landed(start - zero, piece, spans)
    if target.home == ON_THE_TRACK:
        work.land(parameter, [landed])
    else:
        work.lay(parameter, [landed], 0, target.home)
        if spans:
            owner = session.owner(parameter.id)
            work.cautions.append(say.limited_spans(len(spans), owner, parameter, start, end))
    if work.writes(parameter.id, target.home):
        remembered_as(work, request, target, gain)


def _bound(request: Follow, parameter: Parameter) -> float:
    return next((w.amount for w in request.within if w.unit == parameter.distance_unit), usual_bound(parameter))


def _curve(session: Session, request: Follow, target: FollowOn, frames: Frames, start: int, end: int) -> Envelope:
    """What a parameter does over ticks, in session time: its values, or the gain that is added to it."""
    parameter = session.parameter(target.parameter)
    if request.does == "lags" and not (request.smooth or request.slope or request.grid):
        return _later(session, request, target)
    ticks = session.tempo.ticks_at(frames.borders)
    if request.does == "lags":
        ticks = ticks + request.delay
    if request.does == "lags" and request.grid:
        return _in_steps(session, request, target, start, end)
    run = _made(session, request, target, parameter, frames)
    curve = curve_through(ticks, run, parameter.axis)
    curve = editing.cut(curve, start, end).envelope.shift(start)
    if parameter.holds_only:
        return _held(curve)
    # A gain knows no floor: what it is added to does.
    reach = (-np.inf, np.inf) if request.does in ("makes room", "evens out") else parameter.reach
    return fewest(curve, _bound(request, parameter), reach)


def _made(session: Session, request: Follow, target: FollowOn, parameter: Parameter, frames: Frames) -> Run:
    """The frames as the parameter's axis coordinates, or as decibels to be added."""
    step, values = frames.step, frames.values
    attack, release, hold = request.attack / 1000, request.release / 1000, request.hold / 1000
    if request.does == "makes room":
        taken = reduction(
            measured(session, request, values), request.threshold, request.depth, request.ratio, request.knee
        )
        run = smoothed(taken, step, attack, release, hold)
        return Run(-run.starts, -run.ends)
    if request.does == "evens out":
        level = values if request.instead else values + _ride(session, target, frames)
        return smoothed(evened(level, request.to, request.band, request.most, request.threshold), step, attack, release)
    low, high = _ends(parameter, target, request.upside_down)
    if request.does == "opens":
        level = measured(session, request, values)
        flags = opened(level, step, request.threshold, request.hysteresis, request.least / 1000)
        part = flags.astype(np.float64)
        run = Run(part, part) if parameter.holds_only else smoothed(part, step, attack, release, hold)
    elif request.does == "lags":
        eased = smoothed(values, step, request.smooth / 1000, request.smooth / 1000)
        run = eased if request.slope is None else no_faster(eased.ends, step, request.slope)
        return _carried(session, request, target, run)
    else:
        part = in_part(values, *_source_ends(session, request))
        run = smoothed(part, step, attack, release, hold)
    return Run(low + (high - low) * run.starts, low + (high - low) * run.ends)


def _ride(session: Session, target: FollowOn, frames: Frames) -> Floats:
    """What the level that is ridden does already at each frame, so that it is brought to what is heard with it."""
    now = heard(reading(session), target.parameter, groups=False).envelope
    ticks = session.tempo.ticks_at(frames.borders[1:])
    return np.asarray(now.coordinate_at(ticks), dtype=np.float64)


def _ends(parameter: Parameter, target: FollowOn, upside_down: bool) -> tuple[float, float]:
    """The axis coordinates of a target's two values; RequestError for one that it cannot be."""
    said = []
    for value, usual in ((target.low, parameter.low), (target.high, parameter.high)):
        value = usual if value is None else value
        if not parameter.low <= value <= parameter.high:
            limits = f"{parameter.format(parameter.low)} to {parameter.format(parameter.high)}"
            raise RequestError("value-outside", name=parameter.name, place="targets", accepted=limits)
        said.append(float(parameter.axis.coordinate(value)))
    if parameter.holds_only:
        known = [label.value for label in parameter.labels]
        for value in (target.low, target.high):
            if value is not None and value not in known:
                accepted = ", ".join(parameter.format(v) for v in known)
                raise RequestError("value-outside", name=parameter.name, place="targets", accepted=accepted)
    return (said[1], said[0]) if upside_down else (said[0], said[1])


def _source_ends(session: Session, request: Follow) -> tuple[float, float]:
    """The two values of the source between which it is followed, as coordinates."""
    if request.source is None:
        low = USUAL_LOW if request.low is None else request.low
        high = USUAL_HIGH if request.high is None else request.high
    else:
        p = session.parameter(request.source)
        values = (p.low if request.low is None else request.low, p.high if request.high is None else request.high)
        if p.axis.logarithmic and min(values) <= 0:
            raise RequestError("follow-ends", place="low", accepted="values above 0")
        low, high = (float(p.axis.coordinate(v)) for v in values)
    if not low < high:
        raise RequestError("follow-ends", place="low", accepted="a lower value below the upper one")
    return low, high


def _carried(session: Session, request: Follow, target: FollowOn, run: Run) -> Run:
    """Coordinates of the source as those of the target."""
    scale, offset = _line(session, request, target)
    return Run(run.starts * scale + offset, run.ends * scale + offset)


def _line(session: Session, request: Follow, target: FollowOn) -> tuple[float, float]:
    """The straight line from the source's axis onto the target's: the same number, unless other values are asked for."""
    assert request.source is not None
    source, parameter = session.parameter(request.source), session.parameter(target.parameter)
    asked = any(x is not None for x in (request.low, request.high, target.low, target.high))
    if (source.axis, source.unit) == (parameter.axis, parameter.unit) and not asked and not request.upside_down:
        return 1.0, 0.0
    a, b = _source_ends(session, request)
    low, high = _ends(parameter, target, request.upside_down)
    scale = (high - low) / (b - a)
    return scale, low - scale * a


def _later(session: Session, request: Follow, target: FollowOn) -> Envelope:
    """What is heard of the source, later by the delay: every point is."""
    assert request.source is not None
    parameter = session.parameter(target.parameter)
    now = heard(reading(session), request.source, groups=False).envelope
    return editing.map_axis(now.shift(request.delay), *_line(session, request, target), parameter.axis)


def _in_steps(session: Session, request: Follow, target: FollowOn, start: int, end: int) -> Envelope:
    """The source's value at each line of a grid, held until the next, later by the delay."""
    assert request.source is not None and request.grid is not None
    parameter = session.parameter(target.parameter)
    now = heard(reading(session), request.source, groups=False).envelope
    lines = np.arange((start - request.delay) // request.grid, (end - request.delay) // request.grid + 1) * request.grid
    scale, offset = _line(session, request, target)
    places = np.asarray(now.coordinate_at(lines), dtype=np.float64) * scale + offset
    return Envelope(lines + request.delay, parameter.axis.value_of(places), np.full(len(lines), HOLD), parameter.axis)


def _held(curve: Envelope) -> Envelope:
    """A curve of two values as holds."""
    changes = np.concatenate(([True], curve.values[1:] != curve.values[:-1]))
    ticks, values = curve.ticks[changes], curve.values[changes]
    return Envelope(ticks, values, np.full(len(ticks), HOLD), curve.axis)


def sentence(session: Session, request: Follow) -> tell.Told:
    """“Glass rain Level makes room under Keeper from 9.4.50 to 15.2.00: −6 dB while it is above −30 dB.”"""
    ids = [t.parameter for t in request.targets]
    said: dict[str, str | tell.Asked] = {
        "targets": tell.parameters(session, ids) if ids else tell.Asked("choose what is driven"),
        "does": {
            "makes room": "makes room under",
            "opens": "opens with",
            "evens out": "evens out",
            "lags": "lags behind",
        }.get(request.does, "follows"),
    }
    if request.source is not None:
        said["source"] = parameter_name(session, request.source)
        from_what = "{source}"
    else:
        said["tracks"] = tell.tracks(session, request.tracks) if request.tracks else tell.Asked("choose a track")
        from_what = "{tracks}"
    words = f"{{targets}} {{does}} {from_what}"
    if request.start is not None and request.end is not None:
        said |= {"start": tell.position(session, request.start), "end": tell.position(session, request.end)}
        words += " from {start} to {end}"
    words += _how(session, request, said)
    return tell.told(f"{words}.", **said)


def _how(session: Session, request: Follow, said: dict[str, str | tell.Asked]) -> str:
    """What is said of the numbers, behind a colon."""
    said |= {
        "depth": f"−{request.depth:g} dB",
        "threshold": level_text(session, request, request.threshold),
        "attack": f"{request.attack:g} ms",
        "release": f"{request.release:g} ms",
        "to": f"{request.to:g} dB".replace("-", "−"),
        "most": f"{request.most:g} dB",
        "least": f"{request.least:g} ms",
        "delay": tell.length(request.delay),
    }
    return {
        "makes room": ": {depth} while it is above {threshold}, in {attack}, out {release}",
        "opens": ": while it is above {threshold}, for {least} at least",
        "evens out": ": to {to}, by {most} at most",
        "lags": ", {delay} later",
    }.get(request.does, ", in {attack}, out {release}")


OPERATION = Operation("follow", Follow, plan, sentence, "replacing", of_sound=True)
