"""Levels as groups add them up: a curve added to all that a level does, and what that comes to in what is heard."""

from __future__ import annotations

from collections.abc import Iterable, Sequence
from dataclasses import replace
from typing import Any, NamedTuple

from velmot.core.curves import editing
from velmot.core.curves.axes import SILENCE
from velmot.core.curves.difference import SAME, largest_difference
from velmot.core.curves.editing import Fragment
from velmot.core.curves.envelope import Envelope
from velmot.core.curves.sums import TOLERANCE, sum_all
from velmot.core.errors import RequestError
from velmot.core.parameters.parameter import Parameter
from velmot.core.remedy import Remedy
from velmot.core.session.above import groups_above
from velmot.core.session.heard import fader_of, heard
from velmot.core.session.session import Session
from velmot.core.session.track import ON_THE_TRACK, Lane, Mode, Track, TrackKind
from velmot.core.session.wording import parameter_name
from velmot.core.verbs.frame.change import Caution, Change, HeardFigure, caution
from velmot.core.verbs.frame.first_lane import silences, take_over
from velmot.core.verbs.frame.heard_alike import lane_changes
from velmot.core.verbs.frame.heard_change import swaps_between
from velmot.core.verbs.frame.operation import stop_of
from velmot.core.verbs.frame.working_copy import WorkingCopy
from velmot.core.words import Figure

FINE = TOLERANCE / 20
"""How near sums are worked out to be compared."""

ALIKE = TOLERANCE + 3 * FINE
"""Differences in what is heard up to which it is alike: what is written may err by one budget, what compares it by its own."""


class Added(NamedTuple):
    """What adding to a level came to: how many spans had to be limited, and how far above its range some of it would be."""

    limited: int = 0
    above: float = 0.0

    def and_(self, other: Added) -> Added:
        """Both together."""
        return Added(self.limited + other.limited, max(self.above, other.above))


def fader(track: Track) -> Parameter:
    """A track's level; RequestError where it has none."""
    level = fader_of(track)
    if level is None:
        raise RequestError("no-level", name=track.name, place="tracks", accepted="tracks with a level")
    return level


def add_to_level(
    work: WorkingCopy,
    level: Parameter,
    shares: Sequence[Envelope],
    start: int,
    end: int,
    rest: float = 0.0,
    tolerance: float = TOLERANCE,
) -> Added:
    """Add curves (session ticks, decibels) to all lanes of a level in ``[start, end)``, and `rest` to its resting value.

    Where no lane speaks on the track one is made, unless the curves stay still over the whole session: then what they
    add goes into the resting value, also of a track that does not read its lanes.
    """
    session, added = work.session, Added()
    own = session.lane_at(level.id)
    whole = (start, end) == (0, session.length)
    for lane in session.lanes_of(level.id):
        added = added.and_(_add_to_lane(work, lane, level, shares, start, end, tolerance))
    still = not any(share.moves(start, end) for share in shares)
    if whole and still:
        silent = any(share.axis.silent(share.value_at(start)) for share in shares)
        rest = SILENCE if silent else float(sum(share.value_at(start) for share in shares))
    elif own is None:
        base = _first(work, level)
        made, one = _sum(editing.cut(base, start, end), _cut(shares, start, end), level, tolerance)
        added = added.and_(one)
        curve = made if whole else editing.splice(base, Fragment(made, end - start), start, stop=session.length)
        work.write(level.id, ON_THE_TRACK, curve, (start, end), one.limited)
    if rest:
        silent = bool(level.axis.silent(level.value)) or bool(level.axis.silent(rest))
        wanted = level.low if silent else level.value + rest
        work.rest_at({level.id: min(max(wanted, level.low), level.high)})
        above = wanted - level.high if wanted - level.high > SAME else 0.0
        added = added.and_(Added(int(above > 0), above))
    return added


def _cut(shares: Sequence[Envelope], start: int, end: int) -> list[Envelope]:
    return [editing.cut(share, start, end).envelope for share in shares]


def _first(work: WorkingCopy, level: Parameter) -> Envelope:
    """What a first lane on the track is before anything is added: at rest, or what its regions do where it silences them."""
    if silences(work.session, level):
        take_over(work, level)
    return work.curve(level)


def _add_to_lane(
    work: WorkingCopy, lane: Lane, level: Parameter, shares: Sequence[Envelope], start: int, end: int, tolerance: float
) -> Added:
    zero, stop = work.session.span(lane)
    a, b = max(start, zero), min(end, stop)
    if a >= b:
        return Added()
    whole = (a, b) == (zero, stop)
    piece = Fragment(lane.envelope, b - a) if whole else editing.cut(lane.envelope, a - zero, b - zero)
    made, added = _sum(piece, _cut(shares, a, b), level, tolerance)
    curve = (
        made
        if whole
        else editing.splice(lane.envelope, Fragment(made, b - a), a - zero, stop=stop_of(work.session, lane))
    )
    work.rewrite(lane, curve, a - zero, b - zero, added.limited)
    return added


def _sum(piece: Fragment, shares: Sequence[Envelope], level: Parameter, tolerance: float) -> tuple[Envelope, Added]:
    """A piece of a level with curves added to it, as the level can have it."""
    moving = [share for share in shares if share.moves(0, piece.length)]
    still = [share for share in shares if not share.moves(0, piece.length)]
    if any(bool(share.axis.silent(share.values[0])) for share in still):
        made = Envelope.constant(level.low, level.axis)
    else:
        rest = float(sum(share.values[0] for share in still))
        made = sum_all([piece.envelope, *moving], tolerance, rest)
    above = float(made.values.max()) - level.high
    limited, spans = editing.limited(made, level.low, level.high)
    if level.low == level.axis.floor:  # what falls below silence is as silent as that
        spans = tuple((a, b) for a, b in spans if made.value_at(a) > level.high)
    return limited, Added(len(spans), above if above > SAME else 0.0)


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
        work.write(
            level.id,
            ON_THE_TRACK,
            editing.splice(base, Fragment(flat, end - start), start, stop=session.length),
            (start, end),
        )
    for lane in session.lanes_of(level.id):
        zero, stop = session.span(lane)
        a, b = max(start, zero) - zero, min(end, stop) - zero
        if a < b:
            work.rewrite(
                lane, editing.splice(lane.envelope, Fragment(flat, b - a), a, stop=stop_of(session, lane)), a, b
            )


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


def set_to_read(tracks: Iterable[Track], session: Session | None = None) -> list[Caution]:
    """That tracks which did not read their lanes do from now on; of a session, how differently that lets levels be heard."""
    off = [t for t in tracks if not t.reads]
    return [_now_reading(t, session, as_read(session, off) if session else None) for t in off]


def _now_reading(track: Track, session: Session | None, base: Session | None) -> Caution:
    level, plain = fader_of(track), caution("now-reading", name=track.name, track=track.id)
    if session is None or base is None or level is None:
        return plain
    was, now = (heard(s, level.id).envelope for s in (session, base))
    far, at = largest_difference(was, now, 0, session.length)
    if far <= SAME:
        return plain
    said = {"name": track.name, "parameter": level.name, "where": str(session.tempo.position(at))}
    return caution("now-reading/heard", said, far=Figure(far, level.format_distance(far)), track=track.id, start=at)


def not_read(track: Track, request: Any) -> Caution:
    """That what a track's level takes over would not be heard, with the way out."""
    remedy = Remedy("set who takes part to read, and go on", step=replace(request, set_to_read=True))
    return caution("not-reading/takes-over", name=track.name, track=track.id, remedy=remedy)


def measured(
    session: Session,
    before: Session,
    after: Session,
    levels: Iterable[Parameter],
    cautions: Iterable[Caution],
    request: Any,
    accept: bool,
    within: float = 0.0,
) -> Change:
    """The change from `session` to `after`, with the largest difference in what is heard of levels, groups added.

    What is promised is held against `before`: the session itself, or that with more of its tracks reading. What is said
    is said of what is heard today.

    Raises RequestError with that figure where they would be heard differently by more than `within` and what sums may
    err by, unless it is accepted.
    """
    levels = [*levels]
    lanes, tracks = swaps_between(session, after)
    broken = _worst(before, after, levels)
    said = [*cautions]
    if broken is not None and broken.largest > ALIKE + within:
        name, level = parameter_name(after, broken.parameter), after.parameter(broken.parameter)
        far = Figure(broken.largest, level.format_distance(broken.largest))
        where = str(after.tempo.position(broken.at))
        differs = caution("heard-differs", name=name, far=far, where=where, start=broken.at)
        if not accept:
            reason = said[0].message if said else ""
            remedy = next((c.remedy for c in said if c.remedy), None)
            if remedy is None and hasattr(request, "accept"):
                remedy = Remedy("accept the difference", step=replace(request, accept=True))
            kind = "heard-differs/because" if reason else "heard-differs"
            args = {"differs": differs.message} | ({"because": reason} if reason else {})
            accepted = "another choice, or the difference accepted"
            raise RequestError(kind, place="request", accepted=accepted, remedy=remedy, **args)
        said.insert(0, differs)
    touched = lane_changes(session, after, lanes)
    heard_today = broken if before is session else _worst(session, after, levels)
    return Change(lanes, tracks, touched, tuple(dict.fromkeys(said)), heard=heard_today)


def _worst(before: Session, after: Session, levels: Iterable[Parameter]) -> HeardFigure | None:
    """The largest difference in what is heard of any of the levels; None for no levels."""
    figures = (_figure(before, after, level.id) for level in levels)
    return max(figures, key=lambda f: f.largest, default=None)


def _figure(before: Session, after: Session, level: str) -> HeardFigure:
    was, now = (heard(s, level, tolerance=FINE).envelope for s in (before, after))
    return HeardFigure(level, *largest_difference(was, now, 0, before.length))
