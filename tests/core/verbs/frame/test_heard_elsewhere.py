"""Every verb, asked for anything: what is heard differently where a change does not name it, is said, and by how much."""

from __future__ import annotations

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from tests.oracle import heard_at
from tests.strategies import LENGTH, planned, requests, sessions
from velmot.core.errors import RequestError
from velmot.core.verbs import OPERATIONS

WAYS = tuple(verb for verb in OPERATIONS if verb != "set precedence")  # which shows everything it changes


def marks(*states) -> list[int]:
    """Ticks at which anything can change, and one on either side."""
    found = {0, LENGTH - 1}
    for session in states:
        for track in session.tracks:
            found |= {edge for r in track.regions for edge in (r.start, r.end)}
        for lane in session.lanes:
            found |= set((lane.envelope.ticks + session.zero_of(lane)).tolist())
    near = sorted({tick + d for tick in found for d in (-1, 0, 1)} | {(a + b) // 2 for a in found for b in (0, LENGTH)})
    return [tick for tick in near if 0 <= tick < LENGTH]


@pytest.mark.parametrize("verb", WAYS)
@settings(max_examples=settings().max_examples // 2)
@given(st.data())
def test_what_changes_elsewhere_is_said(verb, data):
    session = data.draw(sessions())
    request = data.draw(requests(session, verb))
    try:
        change = planned(session, verb, request)
    except RequestError:
        return
    after = change.applied_to(session)
    before = {p.id for t in session.tracks for p in t.parameters}
    said = [c for c in change.cautions if c.code in ("heard-elsewhere", "rests")]
    known = [s for s in change.tracks if s.before and s.after]
    switched = {s.id for s in known if s.after.reads and not s.before.reads}
    ticks = data.draw(st.lists(st.sampled_from(marks(session, after)), min_size=24, max_size=24))
    for track in after.tracks:
        for p in track.parameters:
            if p.id not in before or any(c.track == track.id for c in said):
                continue
            spans = change.spans_of(p.id)
            for tick in ticks:
                if any(a <= tick < b for a, b in spans):
                    continue
                was = heard_at(session, session.parameter(p.id), tick, track.id not in switched)
                now = heard_at(after, p, tick, track.id not in switched)
                assert was == pytest.approx(now, abs=2e-9), (verb, p.id, tick, request)
