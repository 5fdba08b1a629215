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
        if moves and all(_inside(span, quiet) for span in moves):
            because = " and ".join(
                words for words, spans in why.items() if any(_meet(m, s) for m in moves for s in spans)
            )
            span = moves[0][0], moves[-1][1]
            found.append(Finding(KIND.name, parameter_id, *span, f"moves only where {because}", lane.id, sure=0.4))
    return found


def _spans_at(session: Session, switch: str, value: float) -> Spans:
    """Where a switch stands at a value."""
    curve = heard(session, switch, groups=False).envelope
    edges = sorted({0, session.length, *(int(t) for t in curve.ticks if 0 < t < session.length)})
    return [(a, b) for a, b in pairwise(edges) if curve.value_at(a) == value]


def _moves(session: Session, lane: Lane) -> Spans:
    """Where a lane's value changes, as far as its home reaches; a jump is a tick long."""
    curve, zero, (low, high) = lane.envelope, session.zero_of(lane), session.span(lane)
    changes = np.flatnonzero(np.diff(curve.values) != 0)
    spans = [(int(curve.ticks[i]) + zero, int(curve.ticks[i + 1]) + zero) for i in changes.tolist()]
    return [(max(a, low), min(max(b, a + 1), high)) for a, b in spans if a < high and max(b, a + 1) > low]


def _inside(span: tuple[int, int], quiet: Spans) -> bool:
    return any(a <= span[0] and span[1] <= b for a, b in quiet)


def _meet(one: tuple[int, int], other: tuple[int, int]) -> bool:
    return one[0] < other[1] and other[0] < one[1]


KIND = Kind("silent", "moves that nobody hears", silent)
