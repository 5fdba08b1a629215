"""Levels as groups add them up: a curve added to all that a level does, and what that comes to in what is heard."""

from __future__ import annotations

from collections.abc import Iterable
from dataclasses import replace
from typing import Any

from velmot.core import editing
from velmot.core.change import Caution, Change, HeardFigure
from velmot.core.difference import largest_difference
from velmot.core.editing import Fragment
from velmot.core.envelope import Envelope
from velmot.core.errors import RequestError
from velmot.core.heard import fader_of, heard
from velmot.core.operations.first_lane import silences, take_over
from velmot.core.operations.heard_alike import lane_changes
from velmot.core.operations.heard_change import swaps_between
from velmot.core.operations.working_copy import WorkingCopy
from velmot.core.parameters import Parameter
from velmot.core.remedy import Remedy
from velmot.core.session import ON_THE_TRACK, Lane, Mode, Session, Track, TrackKind, groups_above
from velmot.core.sums import TOLERANCE, sum_axis
from velmot.core.wording import parameter_name

ALIKE = 2.2 * TOLERANCE
"""Differences in what is heard up to which it is alike: two sums of bends and slopes each may err by the tolerance."""


def fader(track: Track) -> Parameter:
    """A track's level; RequestError where it has none."""
    level = fader_of(track)
    if level is None:
        said = f"{track.name} has no level"
        raise RequestError("no-level", said, place="tracks", accepted="tracks with a level")
    return level


def add_to_level(work: WorkingCopy, level: Parameter, more: Envelope, start: int, end: int, rest: float = 0.0) -> int:
    """Add a curve (session ticks, decibels) to all lanes of a level in ``[start, end)``, and `rest` to its resting value.

    Where no lane speaks on the track one is made, unless the curve stays still over the whole session. Gives how many
    spans had to be limited.
    """
    session, limited = work.session, 0
    own = session.lane_at(level.id)
    whole = (start, end) == (0, session.length)
    for lane in session.lanes_of(level.id):
        limited += _add_to_lane(work, lane, level, more, start, end)
    still = not more.moves(start, end)
    if own is None and whole and still:
        rest = float(more.value_at(start))
    elif own is None:
        base = _first(work, level)
        made, spans = _sum(editing.cut(base, start, end), editing.cut(more, start, end).envelope, level)
        limited += spans
        curve = made if whole else editing.splice(base, Fragment(made, end - start), start)
        work.write(level.id, ON_THE_TRACK, curve, (start, end), spans)
    if rest:
        silent = bool(level.axis.silent(level.value)) or bool(more.axis.silent(rest))
        wanted = level.low if silent else level.value + rest
        work.rest_at({level.id: min(max(wanted, level.low), level.high)})
        limited += int(wanted > level.high)
    return limited


def _first(work: WorkingCopy, level: Parameter) -> Envelope:
    """What a first lane on the track is before anything is added: at rest, or what its regions do where it silences them."""
    if silences(work.session, level):
        take_over(work, level)
    return work.curve(level)


def _add_to_lane(work: WorkingCopy, lane: Lane, level: Parameter, more: Envelope, start: int, end: int) -> int:
    zero, stop = work.session.span(lane)
    a, b = max(start, zero), min(end, stop)
    if a >= b:
        return 0
    whole = (a, b) == (zero, stop)
    piece = Fragment(lane.envelope, b - a) if whole else editing.cut(lane.envelope, a - zero, b - zero)
    made, spans = _sum(piece, editing.cut(more, a, b).envelope, level)
    curve = made if whole else editing.splice(lane.envelope, Fragment(made, b - a), a - zero)
    work.rewrite(lane, curve, a - zero, b - zero, spans)
    return spans


def _sum(piece: Fragment, more: Envelope, level: Parameter) -> tuple[Envelope, int]:
    if more.moves(0, piece.length):
        made = sum_axis(piece.envelope, more)
    elif more.axis.silent(more.values[0]):
        made = Envelope.constant(level.low, level.axis)
    else:
        made = editing.map_axis(piece.envelope, 1.0, float(more.values[0]))
    return editing.limit(made, level.low, level.high)


def put_to_zero(work: WorkingCopy, level: Parameter, start: int, end: int) -> None:
    """Put a group's level to 0 dB in ``[start, end)``; over the whole session its lanes go and it rests at 0."""
    session = work.session
    if (start, end) == (0, session.length):
        for lane in session.lanes_of(level.id):
            work.write(level.id, lane.home, None, session.span(lane))
        work.rest_at({level.id: 0.0})
        return
    flat = Envelope.constant(0.0, level.axis)
    if session.lane_at(level.id) is None:
        base = _first(work, level)
        work.write(level.id, ON_THE_TRACK, editing.splice(base, Fragment(flat, end - start), start), (start, end))
    for lane in session.lanes_of(level.id):
        zero, stop = session.span(lane)
        a, b = max(start, zero) - zero, min(end, stop) - zero
        if a < b:
            work.rewrite(lane, editing.splice(lane.envelope, Fragment(flat, b - a), a), a, b)


def heard_below(session: Session, groups: Iterable[str]) -> list[Parameter]:
    """The levels of all tracks, groups themselves aside, that some of the groups add to."""
    wanted = set(groups)
    below = (t for t in session.tracks if t.kind is not TrackKind.GROUP)
    return [
        level
        for t in below
        if (level := fader_of(t)) is not None and wanted & {g.id for g in groups_above(session, t.id)}
    ]


def as_read(session: Session, tracks: Iterable[Track]) -> Session:
    """The session with some tracks reading their lanes."""
    off = {t.id for t in tracks if not t.reads}
    if not off:
        return session
    return session.with_tracks(replace(t, mode=Mode.READ) if t.id in off else t for t in session.tracks)


def set_to_read(tracks: Iterable[Track]) -> list[Caution]:
    """That tracks which did not read their lanes do from now on."""
    said = "reads its lanes from now on, which was not so"
    return [Caution("now-reading", f"{t.name} {said}", track=t.id) for t in tracks if not t.reads]


def not_read(track: Track, request: Any) -> Caution:
    """That what a track's level takes over would not be heard, with the way out."""
    said = f"{track.name} is not reading its lanes: what it takes over is not heard"
    remedy = Remedy("set who takes part to read, and go on", step=replace(request, set_to_read=True))
    return Caution("not-reading", said, track=track.id, remedy=remedy)


def measured(
    session: Session,
    before: Session,
    after: Session,
    levels: Iterable[Parameter],
    cautions: Iterable[Caution],
    accept: bool,
) -> Change:
    """The change from `session` to `after`, with the largest difference in what is heard of levels, groups added.

    It is found beside `before`: the session itself, or that with more of its tracks reading.

    Raises RequestError with that figure where they would be heard differently, unless it is accepted.
    """
    lanes, tracks = swaps_between(session, after)
    figures = [_figure(before, after, level.id) for level in levels]
    worst = max(figures, key=lambda f: f.largest, default=None)
    said = [*cautions]
    if worst is not None and worst.largest > ALIKE:
        name, far = parameter_name(after, worst.parameter), after.parameter(worst.parameter)
        where = after.tempo.position(worst.at)
        text = f"{name} would be heard up to {far.format_distance(worst.largest)} differently at {where}"
        if not accept:
            reason = said[0].message if said else ""
            raise RequestError(
                "heard-differs",
                f"{text}: {reason}" if reason else text,
                place="request",
                accepted="another choice, or the difference accepted",
                remedy=next((c.remedy for c in said if c.remedy), None),
            )
        said.insert(0, Caution("heard-differs", text, start=worst.at))
    touched = lane_changes(session, after, lanes)
    return Change(lanes, tracks, touched, tuple(dict.fromkeys(said)), heard=worst)


def _figure(before: Session, after: Session, level: str) -> HeardFigure:
    was, now = (heard(s, level).envelope for s in (before, after))
    return HeardFigure(level, *largest_difference(was, now, 0, before.length))
