"""What comes along with a session is just what its first strips would have asked for."""

from hypothesis import given
from hypothesis import strategies as st
from pytest import approx

from tests.strategies import sessions
from velmot.core.session.session import Session
from velmot.core.time.ticks import beats_of
from velmot.presentation.benches import Bench
from velmot.presentation.curves import View, lane_curve
from velmot.presentation.findings import findings_out
from velmot.presentation.first_strips import FirstStrips, first_strips, opening_out

wild = st.floats(-1e9, 1e9)


def benches(session: Session) -> st.SearchStrategy[Bench]:
    ids = [p.id for t in session.tracks for p in t.parameters]
    pins = st.lists(st.sampled_from([*ids, "gone"]), unique=True, max_size=6)
    views = st.tuples(wild | st.floats(0, 40), wild | st.floats(0, 40)).map(lambda x: {"start": x[0], "end": x[1]})
    shares = st.dictionaries(st.sampled_from(ids), st.lists(st.sampled_from([*ids, "gone"]), max_size=2), max_size=2)
    parts = {"view": st.none() | views, "pins": st.none() | pins, "shares": st.none() | shares}
    return st.fixed_dictionaries(parts).map(lambda some: Bench(**some))


@given(st.data())
def test_the_lanes_of_the_strips_and_of_what_shares_them_however_the_bench_was_left(data):
    session = data.draw(sessions())
    bench, opening = data.draw(benches(session)), opening_out(session)
    found = first_strips(session, bench, opening)
    pins = opening.parameters if bench.pins is None else [p for p in bench.pins if p != "gone"]
    shown = {p for strip in pins for p in (strip, *(bench.shares or {}).get(strip, []))}
    assert found.parameters == pins and found.findings == findings_out(session, pins)
    assert {c.lane for c in found.curves} == {x.id for x in session.lanes if x.parameter in shown}
    view = View(start=found.start, end=found.end, columns=found.columns)
    assert all(c == lane_curve(session, session.lane(c.lane), view) for c in found.curves)
    assert found.detail == approx(1400 / ((found.end - found.start) / 3)), "a third of what is sent is on view"
    _covers(found, bench, opening, beats_of(session.length))


def _covers(found: FirstStrips, bench: Bench, opening, length: float) -> None:
    shown = opening if bench.view is None else bench.view
    if 0 <= shown.start < shown.end <= length:
        assert found.start < shown.start and found.end > shown.end, "there is something to pan into on both sides"
