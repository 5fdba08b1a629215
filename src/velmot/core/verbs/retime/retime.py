"""Retime: what lanes do in a range, stretched over another length, shifted by beats or milliseconds, or run backwards."""

from __future__ import annotations

import numpy as np

from velmot.core.curves import editing, warps
from velmot.core.curves.editing import Piece
from velmot.core.curves.envelope import Envelope
from velmot.core.errors import RequestError
from velmot.core.limits import LARGEST_FACTOR, MOST_MILLISECONDS
from velmot.core.session.session import Session
from velmot.core.session.track import Lane
from velmot.core.session.wording import is_or_are
from velmot.core.time.ticks import MOST_TICKS, Ticks
from velmot.core.verbs.frame import cautions as say
from velmot.core.verbs.frame import telling as tell
from velmot.core.verbs.frame.change import Change, Went, caution
from velmot.core.verbs.frame.checks import need, need_range
from velmot.core.verbs.frame.operation import Operation, part_of, stop_of
from velmot.core.verbs.frame.working_copy import WorkingCopy
from velmot.core.verbs.retime.request import Retime


def plan(session: Session, request: Retime) -> Change:
    """The change; points stand on whole ticks, everything else is exact."""
    _check(request)
    work = WorkingCopy(session)
    for lane in (session.lane(id) for id in dict.fromkeys(request.lanes)):
        part = part_of(session, lane, request.start, request.end)
        if part is None:
            work.cautions.append(say.outside_range(session, lane))
        elif request.way == "backwards":
            piece = warps.backwards(editing.cut(lane.envelope, *part))
            work.rewrite(lane, editing.splice(lane.envelope, piece, part[0], stop=stop_of(session, lane)), *part)
        elif request.way == "shift":
            _shift(work, lane, request, *part)
        else:
            _stretch(work, lane, request, *part)
    return work.change()


# ── stretched ─────────────────────────────────────────────────────────────────────────────────


def _stretch(work: WorkingCopy, lane: Lane, request: Retime, first: int, last: int) -> None:
    curve, whole = lane.envelope, work.session.span(lane)[1] - work.session.zero_of(lane)
    length = _new_length(request, first, last)
    if length == last - first:
        return
    _reach_said(work, lane, first + length, whole)
    stop = first + length
    pieces = [Piece(first, min(stop, whole), warps.stretched(editing.cut(curve, first, last), length).envelope, first)]
    reach = max(last, min(stop, whole))
    if request.following == "moves along":
        reach = whole
        if stop < whole and last < whole:
            end = min(stop + whole - last, whole)
            pieces.append(Piece(stop, end, editing.cut(curve, last, whole).envelope, stop))
            _went(work, lane, last, whole, stop)
            stop = end
    elif stop > last:
        _over_said(work, lane, last, min(stop, whole))
    if stop < reach:  # what was there is used up: its last value holds
        pieces.append(_held(pieces[-1].curve.values[-1], curve, stop, reach))
    work.rewrite(lane, editing.overlaid(curve, pieces, stop_of(work.session, lane)), first, reach)


def _new_length(request: Retime, first: int, last: int) -> int:
    if request.length is None or request.start is None or request.end is None:
        length = round((last - first) * request.factor) if request.length is None else request.length
    else:  # a lane that has only a part of the range gets that part of the length
        length = round((last - first) * request.length / (request.end - request.start))
    if not 1 <= length <= MOST_TICKS:
        raise RequestError("length/stretch", place="length", accepted="a length above 0, within the session")
    return length


def _held(value: float, curve: Envelope, start: int, end: int) -> Piece:
    return Piece(start, end, Envelope.constant(float(value), curve.axis), start)


# ── shifted ───────────────────────────────────────────────────────────────────────────────────


def _shift(work: WorkingCopy, lane: Lane, request: Retime, first: int, last: int) -> None:
    session, curve = work.session, lane.envelope
    zero, whole = session.zero_of(lane), session.span(lane)[1] - session.zero_of(lane)
    piece = editing.cut(curve, first, last).envelope
    ticks = _later(session, piece.ticks + first + zero, request) - zero
    start, stop = int(ticks[0]), int(ticks[-1])
    if start == first and stop == last:
        return
    if stop <= start:
        raise RequestError("shift/nothing-left", place="by", accepted="a smaller amount")
    _reach_said(work, lane, stop, whole, start)
    moved = _one_tick_each(piece, ticks - start)
    gap = (first, min(start, last)) if start > first else (max(stop, first), last)
    filler = curve.value_at(first, "left") if start > first or stop <= first else float(piece.values[-1])
    pieces = [_held(filler, curve, *gap)] if gap[0] < gap[1] else []
    if start < whole and stop > 0:
        pieces.append(Piece(max(start, 0), min(stop, whole), moved, start))
        _over_said(work, lane, *((last, min(stop, whole)) if start > first else (max(start, 0), first)))
        if (np.diff(ticks) == np.diff(piece.ticks)).all():
            _went(work, lane, first, last, start)
    pieces.sort(key=lambda p: p.start)
    work.rewrite(
        lane,
        editing.overlaid(curve, pieces, stop_of(session, lane)),
        min(p.start for p in pieces),
        max(p.end for p in pieces),
    )


def _went(work: WorkingCopy, lane: Lane, first: int, last: int, at: int) -> None:
    """Linked places in what is shifted, or moved along, go with it."""
    work.went.append(Went(lane.parameter, lane.home, first, last, lane.parameter, lane.home, at))


def _later(session: Session, ticks: Ticks, request: Retime) -> Ticks:
    """Session ticks moved by beats, then by milliseconds as the tempo has them where they come from."""
    moved = ticks + request.by
    if not request.milliseconds:
        return moved
    seconds = session.tempo.seconds(moved) + request.milliseconds / 1000
    if len(session.tempo.tempos) == 1:
        by = session.tempo.tick_at(float(seconds[0])) if seconds[0] >= 0 else -session.tempo.tick_at(-float(seconds[0]))
        return np.asarray(moved + (by - moved[0]))
    return np.array([session.tempo.tick_at(s) if s >= 0 else -session.tempo.tick_at(-s) for s in seconds.tolist()])


def _one_tick_each(piece: Envelope, ticks: Ticks) -> Envelope:
    """A piece with its points at other ticks; of several that fall on one the first and the last stay, as a jump."""
    change = ticks[1:] != ticks[:-1]
    keep = np.append(True, change) | np.append(change, True)
    return piece.trusted(ticks[keep], piece.values[keep], piece.bends[keep])


# ── what is said ──────────────────────────────────────────────────────────────────────────────


def _reach_said(work: WorkingCopy, lane: Lane, stop: int, whole: int, start: int = 0) -> None:
    """What leaves the lane's own span is left out."""
    if stop <= whole and start >= 0:
        return
    what = "the session’s" if lane.on_track else "its region’s"
    edge = f"beyond {what} end" if stop > whole else f"before {what} start"
    name = work.session.lane_name(lane)
    work.cautions.append(caution("beyond-end/retimed", name=name, edge=edge, lane=lane.id))


def _over_said(work: WorkingCopy, lane: Lane, start: int, end: int) -> None:
    """How many points of its neighbours are replaced."""
    count = lane.envelope.count(start, end) if start < end else 0
    if count:
        zero, name, are = work.session.zero_of(lane), work.session.lane_name(lane), is_or_are(count)
        said: dict[str, str | int] = {"name": name, "count": count, "are": are}
        work.cautions.append(caution("neighbours", said, lane=lane.id, start=zero + start, end=zero + end))


def _check(request: Retime) -> None:
    need_range(request.start, request.end)
    need(request.lanes, "lane")
    if request.length is None and not 1 / LARGEST_FACTOR <= request.factor <= LARGEST_FACTOR:
        raise RequestError("factor", factor=request.factor, place="factor", accepted="from 0.001 to 1,000")
    if request.length is not None and request.length < 1:
        raise RequestError("length/zero", place="length", accepted="a length above 0")
    if not abs(request.milliseconds) <= MOST_MILLISECONDS:
        raise RequestError("shift", place="milliseconds", accepted="within an hour")
    if abs(request.by) > MOST_TICKS:
        raise RequestError("shift", place="by", accepted="within the session")


def sentence(session: Session, request: Retime) -> tell.Told:
    """“Stretch Bell buoy Level from 9.1.00 to 13.1.00 to 24 beats; what follows moves along.”"""
    span = " from {start} to {end}" if request.start is not None else ", {start}"
    start = "whole" if request.start is None else tell.position(session, request.start)
    lanes, end = tell.lanes(session, request.lanes), tell.position(session, request.end, "its end")
    if request.way == "backwards":
        return tell.told("Run {lanes}" + span + " {way}.", lanes=lanes, start=start, end=end, way="backwards")
    if request.way == "shift":
        by = _shift_told(request)
        return tell.told("Shift {lanes}" + span + " {by}.", lanes=lanes, start=start, end=end, by=by)
    unchanged = request.length is None and request.factor == 1
    to = f"{request.factor:g} times its length" if request.length is None else tell.length(request.length)
    template = "Stretch {lanes}" + span + " to {length}; what follows {following}."
    length = tell.Asked("type a length") if unchanged else to
    return tell.told(template, lanes=lanes, start=start, end=end, length=length, following=request.following)


def _shift_told(request: Retime) -> str | tell.Asked:
    """“2 beats later”, “250 ms earlier”, “1 beat later and 20 ms earlier”."""
    parts = []
    for amount, text in (
        (request.by, tell.length(abs(request.by))),
        (request.milliseconds, f"{abs(request.milliseconds):g} ms"),
    ):
        if amount:
            parts.append(f"{text} {'later' if amount > 0 else 'earlier'}")
    return " and ".join(parts) or tell.Asked("type how far")


OPERATION = Operation("retime", Retime, plan, sentence, "by hand")
