"""Silent: lanes whose every move is where nothing of their track sounds: no region, muted, or the device is off."""

from __future__ import annotations

from itertools import pairwise

import numpy as np

from velmot.core.curves.spans import outside, runs
from velmot.core.findings.finding import Finding, Kind
from velmot.core.parameters.parameter import Family
from velmot.core.session.heard import heard
from velmot.core.session.session import Session
from velmot.core.session.switches import switches_of
from velmot.core.session.track import Lane
from velmot.core.time.ticks import Ticks

Spans = list[tuple[int, int]]


def silent(session: Session, parameter_id: str) -> list[Finding]:
    """The parameter's lanes that move, and only where its track is silent; none of mutes."""
    parameter, track = session.parameter(parameter_id), session.owner(parameter_id)
    if parameter.family is Family.MUTE or not session.lanes_of(parameter_id):
        return []
    why: dict[str, Spans] = {}
    if track.regions:
        sounding = [(r.start, r.end) for r in track.regions if not r.container]
        why[f"{track.name} has no region"] = outside(sounding, session.length)
    for switch, at, words in switches_of(track, parameter):
        why.setdefault(words, []).extend(_spans_at(session, switch.id, switch.labels[at].value))
    quiet = runs([span for spans in why.values() for span in spans])
    found = []
    for lane in session.lanes_of(parameter_id):
        moves = _moves(session, lane)
        if len(moves) and _all_inside(moves, quiet):
            because = " and ".join(words for words, spans in why.items() if _any_meets(moves, spans))
            span = int(moves[0, 0]), int(moves[-1, 1])
            found.append(Finding(KIND.name, parameter_id, *span, f"moves only where {because}", lane.id, sure=0.4))
    return found


def _spans_at(session: Session, switch: str, value: float) -> Spans:
    """Where a switch stands at a value."""
    curve = heard(session, switch, groups=False).envelope
    edges = sorted({0, session.length, *(int(t) for t in curve.ticks if 0 < t < session.length)})
    return [(a, b) for a, b in pairwise(edges) if curve.value_at(a) == value]


def _moves(session: Session, lane: Lane) -> Ticks:
    """Where a lane's value changes, as far as its home reaches, int64 (n, 2); a jump is a tick long."""
    curve, zero, (low, high) = lane.envelope, session.zero_of(lane), session.span(lane)
    changes = np.flatnonzero(np.diff(curve.values) != 0)
    starts, ends = curve.ticks[changes] + zero, curve.ticks[changes + 1] + zero
    ends = np.maximum(ends, starts + 1)
    there = (starts < high) & (ends > low)
    return np.stack((np.maximum(starts[there], low), np.minimum(ends[there], high)), axis=1)


def _all_inside(moves: Ticks, quiet: Spans) -> bool:
    """Whether every span of some lies in one of others, which are disjoint and in order."""
    if not quiet:
        return False
    starts, ends = np.array(quiet).T
    at = np.searchsorted(starts, moves[:, 0], side="right") - 1
    return bool(((at >= 0) & (moves[:, 1] <= ends[np.maximum(at, 0)])).all())


def _any_meets(moves: Ticks, spans: Spans) -> bool:
    return any(bool(((moves[:, 0] < b) & (a < moves[:, 1])).any()) for a, b in spans)


KIND = Kind("silent", "moves that nobody hears", silent)
