"""Thinning: never further than asked for, never more points, as few as there can be; and what stays."""

from dataclasses import replace
from itertools import pairwise

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st

from tests.strategies import LENGTH, envelopes
from velmot.core.axes import Axis
from velmot.core.difference import differing_span, largest_difference
from velmot.core.envelope import Envelope
from velmot.core.errors import RequestError
from velmot.core.lossless import without_loss
from velmot.core.operations import plan
from velmot.core.operations.chosen_points import Picked
from velmot.core.operations.thin import Thin, Within
from velmot.core.parameters import level
from velmot.core.segments import HOLD
from velmot.core.session import Lane, Session, Track
from velmot.core.staircases import slopes_of_steps
from velmot.core.thinned import MOST, is_thinned, remembering
from velmot.core.thinning import thinned_within
from velmot.core.time import TICKS_PER_BEAT as BEAT
from velmot.core.time import Tick
from velmot.core.tube import Station, fewest_lines
from velmot.formats import session_file

tolerances = st.sampled_from([0.01, 0.1, 0.5, 2.0, 20.0])


def line(*rows, axis=Axis.LEVEL):
    return Envelope.of([(round(beat * BEAT), value, *rest) for beat, value, *rest in rows], axis)


@given(envelopes(most=30), tolerances)
def test_never_further_than_asked_and_never_more_points(curve, tolerance):
    made = thinned_within(curve, tolerance)
    assert largest_difference(curve, made, 0, LENGTH)[0] <= tolerance + 1e-9
    assert len(made) <= len(curve)
    assert made.ticks[0] == curve.ticks[0]
    assert made.ticks[-1] == curve.ticks[-1] and made.values[-1] == curve.values[-1]


@given(envelopes(most=30))
def test_without_loss_nothing_is_lost(curve):
    made = without_loss(curve)
    assert differing_span(curve, made, 0, LENGTH) is None and len(made) <= len(curve)
    cut_up = curve.split_at(np.linspace(0, LENGTH, 50).astype(np.int64))
    assert len(without_loss(cut_up)) <= len(cut_up) and differing_span(curve, without_loss(cut_up), 0, LENGTH) is None


@st.composite
def tubes(draw):
    xs = np.cumsum(draw(st.lists(st.integers(1, 5), min_size=3, max_size=12)))
    ys = draw(st.lists(st.floats(-3, 3, width=32), min_size=len(xs), max_size=len(xs)))
    within = draw(st.sampled_from([0.25, 0.5, 1.0, 2.0]))
    ends = {0, len(xs) - 1}
    widths = [0.0 if i in ends else within for i in range(len(xs))]
    return [Station(float(x), y - w, y + w, y - w, y + w, y - w, y + w) for x, y, w in zip(xs, ys, widths, strict=True)]


def wider(tube):
    """By a hair: where a bound is only just met, rounding decides."""
    return [Station(s.x, *(wall + hair for wall, hair in zip(s[1:], (-1e-9, 1e-9) * 3, strict=True))) for s in tube]


@given(tubes())
def test_as_few_lines_one_way_as_the_other(tube):
    """The fewest from the other end are as many: a greedy way that misses some would show at one of the ends."""
    flipped = [Station(-s.x, *s[1:3], *s[5:], *s[3:5]) for s in tube[::-1]]
    assert len(fewest_lines(wider(tube))) <= len(fewest_lines(flipped)) <= len(tube) - 1
    assert len(fewest_lines(wider(flipped))) <= len(fewest_lines(tube))


def test_points_that_are_nowhere_in_the_curve_make_it_shorter():
    """A sharp top cut off by two points of its own: 0, 10, 0 within 2 of a hat that was recorded in steps of one."""
    hat = line(*((n, 10 - abs(n - 10)) for n in range(21)), axis=Axis.LINEAR)
    assert [round(b / BEAT, 6) for b in thinned_within(hat, 0.5).ticks.tolist()] == [0, 10, 20]
    zigzag = line(*((n, n % 2) for n in range(41)), axis=Axis.LINEAR)
    assert len(thinned_within(zigzag, 0.51)) <= 4 < len(thinned_within(zigzag, 0.4))


def test_holds_large_jumps_silence_and_what_is_protected_stay():
    curve = line(
        (0, -20.0), (1, -20.01), (2, -20.0), (3, -20.02, HOLD), (5, -10.0), (5, -4.0), (6, -4.01), (7, -4.0), (8, -96.0)
    )
    made = thinned_within(curve, 0.1)
    assert [round(b / BEAT, 2) for b in made.ticks.tolist()] == [0, 3, 5, 7, 8] and made.bends[1] == HOLD
    kept = thinned_within(curve, 0.1, np.array([BEAT]))
    assert BEAT in kept.ticks
    flat, keep = line((0, -9.0), (1, -9.0), (2, -9.0), (4, -9.0)), np.array([2 * BEAT])
    for made in (thinned_within(flat, 0.1, keep), without_loss(flat, keep=keep)):
        assert made.ticks.tolist() == [0, 2 * BEAT, 4 * BEAT], "on a line as well"


def test_a_bend_that_says_it_in_fewer_points_is_left_alone():
    curve = line((0, -40.0, 3.0), (4, -10.0, -2.0), (8, -30.0))
    assert thinned_within(curve, 0.05) == curve


def test_a_staircase_is_the_slope_it_was_drawn_from():
    stairs = line(*((n / 4, float(n), HOLD) for n in range(128)), axis=Axis.LINEAR)
    made = slopes_of_steps(stairs)
    assert len(made) <= 4
    assert largest_difference(stairs, made, 0, 32 * BEAT)[0] <= 0.5 + 1e-9
    far = line((0, 0.0, HOLD), (1, 5.0, HOLD), (2, 3.0, HOLD), (3, 9.0), axis=Axis.LINEAR)
    assert slopes_of_steps(far) == without_loss(far)


@pytest.mark.parametrize("tolerance", [0.0, -1.0])
def test_no_bound_is_no_loss(tolerance):
    curve = line((0, -20.0), (1, -15.0), (2, -10.0), (3, -12.0))
    assert len(thinned_within(curve, tolerance)) == 3


def planned(session, **asked):
    return plan(session, "thin", Thin(**asked))


def test_only_the_range_is_thinned_and_what_is_said():
    zigzag = line(*((n, -20 + 0.05 * (n % 2)) for n in range(65)))
    track = Track("t", "T", parameters=(level("p"), level("q")))
    lanes = (Lane("a", "p", "track", zigzag), Lane("b", "q", "track", line((0, -9.0), (4, -3.0))))
    session = Session("s", 64 * BEAT, (track,), lanes).checked()
    change = planned(session, lanes=("a", "b"), start=Tick(16 * BEAT), end=Tick(32 * BEAT))
    after = change.applied_to(session)
    made = after.lane("a").envelope
    assert (
        made.count(0, 16 * BEAT) == 16
        and made.count(16 * BEAT, 32 * BEAT) < 4
        and made.count(32 * BEAT, 65 * BEAT) == 33
    )
    assert [c.code for c in change.cautions] == ["apart", "nothing-fewer"]
    assert "T Level: no curve of straight lines within 0.10 dB has fewer points" in change.cautions[1].message
    whole = planned(session, lanes=("a",), within=(Within("dB", 0.01),))
    assert not whole.lanes
    assert planned(session, lanes=("a",), way="without loss").cautions[0].code == "nothing-fewer"
    kept = planned(session, lanes=("a",), protected=(Picked("a", (7,)),)).applied_to(session)
    assert 7 * BEAT in kept.lane("a").envelope.ticks
    with pytest.raises(RequestError, match="lets nothing be thinned"):
        planned(session, lanes=("a",), within=(Within("dB", 0.0),))


def wave(high=3, long=5):
    """A hand-ridden curve: thinned by the points alone it would get fewer every time."""
    return line(*((n / 4, -20 + high * np.sin(n / long) + (n % 3) / 20) for n in range(257)))


curves = envelopes(Axis.LEVEL, most=30) | st.builds(wave, st.integers(2, 5), st.integers(5, 11))
ways = st.sampled_from(["within", "without loss", "steps to slopes"])
ranges = st.sampled_from([(None, None), (0, LENGTH), (LENGTH // 3, LENGTH // 2)])


@given(curves, tolerances, ways, ranges, st.booleans())
def test_thinning_what_was_thinned_changes_nothing(curve, amount, way, span, some_stay):
    lane = Lane("a", "p", "track", curve)
    session = Session("s", LENGTH, (Track("t", "T", parameters=(level("p"),)),), (lane,)).checked()
    stay = curve.ticks[1::3] if some_stay else curve.ticks[:0]

    def asked(session):
        points = tuple(np.flatnonzero(np.isin(session.lane("a").envelope.ticks, stay)).tolist())
        start, end = (x if x is None else Tick(x) for x in span)
        within, protected = (Within("dB", amount),), (Picked("a", points),)
        return planned(session, lanes=("a",), start=start, end=end, way=way, within=within, protected=protected)

    after = asked(session).applied_to(session)
    assert asked(after).applied_to(after) == after
    assert session_file.read(session_file.write(after))[0] == after


@given(
    st.builds(wave, st.integers(2, 5), st.integers(5, 11)),
    st.sampled_from([0.1, 0.2, 0.5, 1.0]),
    st.lists(st.integers(0, 64), min_size=3, max_size=3, unique=True).map(sorted),
)
def test_thinned_part_after_part_and_again_a_lane_stays_within_the_bound_of_what_it_was(curve, amount, edges):
    session = Session("s", 64 * BEAT, (Track("t", "T", parameters=(level("p"),)),), (Lane("a", "p", "track", curve),))
    for start, end in [*pairwise(edges)] * 3:
        asked = {"start": Tick(start * BEAT), "end": Tick(end * BEAT), "within": (Within("dB", amount),)}
        session = planned(session, lanes=("a",), **asked).applied_to(session)
    assert largest_difference(curve, session.lane("a").envelope, 0, 64 * BEAT)[0] <= amount + 1e-9


BROKEN = '{"curve": "", "within": 9, "start": 0, "end": %s, "kept": []}'


def test_what_changed_since_or_need_not_stay_is_thinned_again():
    lane = Lane("a", "p", "track", wave())
    session = Session("s", 64 * BEAT, (Track("t", "T", parameters=(level("p"),)),), (lane,))
    stay = (Picked("a", (10, 11, 12)),)
    after = planned(session, lanes=("a",), protected=stay).applied_to(session)
    all_stay = (Picked("a", tuple(range(99))),)
    (caution,) = planned(after, lanes=("a",), protected=all_stay).cautions
    assert caution.code == "thinned-before" and "T Level: it was thinned within 0.10 dB" in caution.message
    assert planned(after, lanes=("a",), start=Tick(BEAT), end=Tick(9 * BEAT), protected=all_stay).cautions == (caution,)
    assert planned(after, lanes=("a",)).lanes, "three points need not stay any more"
    free = planned(session, lanes=("a",)).applied_to(session)
    assert not planned(free, lanes=("a",)).lanes and planned(free, lanes=("a",), within=(Within("dB", 1.0),)).lanes
    middle = planned(session, lanes=("a",), start=Tick(16 * BEAT), end=Tick(32 * BEAT)).applied_to(session)
    for start, end, thins in ((16, 32, False), (20, 30, False), (8, 32, True), (16, 40, True)):
        assert bool(planned(middle, lanes=("a",), start=Tick(start * BEAT), end=Tick(end * BEAT)).lanes) == thins
    moved = replace(after.lane("a"), envelope=line(*((n / 4, -20 + (n % 3) / 20) for n in range(257))))
    assert planned(replace(after, lanes=(moved,)), lanes=("a",), protected=stay).lanes, "another curve"
    rows = ('{"kept": [1e400]}', "3", '{"start": 0}', *(BROKEN % n for n in ('"x"', "-1", "0", "1e14", "1e300")))
    for damage in ("7", *rows, *(f"[{row}]" for row in rows)):
        odd = replace(after, lanes=(replace(after.lane("a"), extra=(("thinned", damage),)),))
        planned(odd, lanes=("a",))


def test_what_was_thinned_in_parts_is_remembered_in_parts():
    lane = Lane("a", "p", "track", wave())
    session = Session("s", 64 * BEAT, (Track("t", "T", parameters=(level("p"),)),), (lane,))

    def asked(start, end, dB=0.1):
        return planned(
            session, lanes=("a",), start=Tick(start * BEAT), end=Tick(end * BEAT), within=(Within("dB", dB),)
        )

    for part in ((0, 16), (16, 32), (40, 64)):
        session = asked(*part).applied_to(session)
    session, _ = session_file.read(session_file.write(session))
    for known in ((0, 16), (16, 32), (40, 64), (0, 32), (8, 24)):
        assert not asked(*known).lanes, known
    assert asked(0, 33).lanes and asked(39, 64).lanes and asked(0, 64).lanes, "nothing is known of 32 to 40"
    session = asked(20, 24, dB=1).applied_to(session)
    assert not asked(0, 32).lanes and not asked(20, 24, dB=1).lanes, "what lies around it is known as before"
    assert asked(0, 20, dB=1).lanes and asked(16, 32, dB=1).lanes
    curve = session.lane("a").envelope
    moved = curve.with_points(curve.ticks, np.where(curve.ticks == 64 * BEAT, -30.0, curve.values), curve.bends)
    session = replace(session, lanes=(replace(session.lane("a"), envelope=moved),))
    assert not asked(0, 32).lanes, "what changed elsewhere does not matter"
    session = asked(32, 40).applied_to(session)
    assert asked(40, 64).lanes, "it is not as it was left, whatever was thinned since"
    session = Session("s", 64 * BEAT, session.tracks, (lane,))
    session = planned(session, lanes=("a",), protected=(Picked("a", (10, 11, 12)),)).applied_to(session)
    session = asked(0, 8, dB=1).applied_to(session)
    assert not asked(8, 64).lanes, "the points that were to stay lie before"


def test_of_very_many_spans_the_newest_are_remembered():
    lane, none = Lane("a", "p", "track", wave()), np.array([], dtype=np.int64)
    spans = [(n * BEAT // 2, (n + 1) * BEAT // 2) for n in range(MOST + 1)]
    for start, end in spans:
        lane = replace(lane, extra=remembering(lane, lane.envelope, 1.0, start, end, none))
    assert [is_thinned(lane, 1.0, *spans[n], none) for n in (0, 1, MOST)] == [False, True, True]


@given(envelopes(Axis.LEVEL, most=30), tolerances)
def test_what_a_parameter_cannot_be_is_never_passed(curve, tolerance):
    made = thinned_within(curve, tolerance, reach=(-96.0, 12.0))
    assert made.values.min() >= -96 and made.values.max() <= 12
