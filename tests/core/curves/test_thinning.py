"""Thinning: never further than asked for, never more points, as few as there can be; and what stays."""

import json
from dataclasses import replace
from hashlib import blake2b
from itertools import pairwise

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st

from tests.strategies import LENGTH, envelopes
from velmot.core.curves.axes import Axis
from velmot.core.curves.difference import differing_span, largest_difference
from velmot.core.curves.editing import cut
from velmot.core.curves.envelope import Envelope
from velmot.core.curves.lossless import without_loss
from velmot.core.curves.segments import HOLD
from velmot.core.curves.staircases import in_steps, slopes_of_steps, step_of
from velmot.core.curves.tube import Station, fewest_lines
from velmot.core.curves.within_bound import no_fewer, thinned_within
from velmot.core.errors import RequestError
from velmot.core.parameters.parameter import Family, Parameter, level
from velmot.core.session.session import Session
from velmot.core.session.thinned_before import MOST, remembering, spent_of
from velmot.core.session.track import Lane, Region, Track
from velmot.core.time.ticks import TICKS_PER_BEAT as BEAT
from velmot.core.time.ticks import Tick
from velmot.core.verbs import plan
from velmot.core.verbs.request import Picked
from velmot.core.verbs.shape.request import RaiseSpan
from velmot.core.verbs.thin.request import Thin, Within
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
    said = "T Level: with its ends, its jumps and what is held as they are, no curve of straight lines within 0.10 dB has fewer points"
    assert change.cautions[1].message == said
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
    assert not asked(40, 64).lanes, "where only its last point moved, the rest is known"
    session = Session("s", 64 * BEAT, session.tracks, (lane,))
    session = planned(session, lanes=("a",), protected=(Picked("a", (10, 11, 12)),)).applied_to(session)
    session = asked(0, 8, dB=1).applied_to(session)
    assert not asked(8, 64).lanes, "the points that were to stay lie before"


def test_what_is_edited_forgets_itself_and_nothing_else():
    """Six rounds of thinning and of raising a beat: what nobody touched is within the bound of what it was, to its edge."""
    lane = Lane("a", "p", "track", wave())
    session = Session("s", 64 * BEAT, (Track("t", "T", parameters=(level("p"),)),), (lane,))
    for n in range(6):
        session = planned(session, lanes=("a",), within=(Within("dB", 0.3),)).applied_to(session)
        edit = RaiseSpan(("a",), Tick((40 + n) * BEAT), Tick((41 + n) * BEAT), 2.0)
        session = plan(session, "raise", edit).applied_to(session)
    session = planned(session, lanes=("a",), within=(Within("dB", 0.3),)).applied_to(session)
    assert largest_difference(lane.envelope, session.lane("a").envelope, 0, 40 * BEAT)[0] <= 0.3 + 1e-9
    assert largest_difference(lane.envelope, session.lane("a").envelope, 46 * BEAT, 64 * BEAT)[0] <= 0.3 + 1e-9
    coarser = planned(session, lanes=("a",), within=(Within("dB", 0.5),)).applied_to(session)
    assert len(coarser.lane("a").envelope) < len(session.lane("a").envelope)
    assert largest_difference(lane.envelope, coarser.lane("a").envelope, 0, 40 * BEAT)[0] <= 0.5 + 1e-9


def test_of_very_many_segments_some_share_a_mark():
    """All are known; one that is edited takes no more than those that share its mark with it."""
    ticks = np.arange(5 * MOST) * 1000
    curve = Envelope(ticks, np.sin(ticks / 9e5), np.zeros(len(ticks)), Axis.LINEAR)
    lane, none = Lane("a", "p", "track", curve), ticks[:0]
    lane = replace(lane, extra=remembering(lane, np.full(len(ticks) - 1, 0.5), none))
    assert (spent_of(lane) == 0.5).all() and len(dict(lane.extra)["thinned"]) < 12 * MOST
    edited = curve.values.copy()
    edited[7000] += 1.0
    known = spent_of(replace(lane, envelope=curve.with_points(ticks, edited, curve.bends)))
    assert 2 <= np.count_nonzero(known == 0) <= 100 and known[6999:7001].tolist() == [0.0, 0.0]


def test_what_was_remembered_by_spans_is_read_as_before():
    lane = Lane("a", "p", "track", line((0, -9.0), (4, -3.0), (8, -5.0), (12, -3.0)))
    mark = blake2b(digest_size=16)
    for column in cut(lane.envelope, 0, 12 * BEAT).envelope.arrays():
        mark.update(column.tobytes())
    row = {"curve": mark.hexdigest(), "within": 0.2, "start": 0, "end": 12, "kept": [4]}
    lane = replace(lane, extra=(("thinned", json.dumps([row])),))
    assert spent_of(lane).tolist() == [0.2] * 3 and spent_of(lane, lane.envelope.ticks[:0]).tolist() == [0, 0, 0.2]
    assert not spent_of(replace(lane, envelope=line((0, -9.0), (4, -3.0)))).any()


# ── what is steep costs only itself ───────────────────────────────────────────────────────────


@given(st.integers(0, 6), st.sampled_from([1, 3, 10, 161, 1680, 10_000]), st.sampled_from([0.3, 6.0, -40.0]))
def test_a_near_jump_costs_only_itself(seed, gap, size):
    """A ride of 2,000 points within 0.05, with a step of so much over so many ticks in its middle."""
    random = np.random.default_rng(seed)
    ticks = np.arange(2000) * 16128
    y = np.cumsum(random.normal(0, 0.02, 2000)) + random.normal(0, 0.02, 2000)
    plain = Envelope(ticks, y, np.zeros(2000), Axis.LINEAR)
    stepped = (
        np.insert(ticks, 1001, ticks[1000] + gap),
        np.insert(np.where(ticks > ticks[1000], y + size, y), 1001, y[1000] + size),
    )
    steep = Envelope(*stepped, np.zeros(2001), Axis.LINEAR)
    made = thinned_within(steep, 0.05)
    assert len(made) <= len(thinned_within(plain, 0.05)) + 4
    assert largest_difference(steep, made, 0, int(ticks[-1]))[0] <= 0.05 + 1e-9


def test_no_curve_has_fewer_is_said_only_where_that_is_known():
    """(0, −20), (1, −19.92), (2, −20) at 0.05: its ends stay, so it has no fewer; a zigzag that was not searched says less."""
    track = Track("t", "T", parameters=(level("p"),))
    session = Session("s", 8 * BEAT, (track,), (Lane("a", "p", "track", line((0, -20.0), (1, -19.92), (2, -20.0))),))
    (said,) = planned(session, lanes=("a",), within=(Within("dB", 0.05),)).cautions
    assert "with its ends, its jumps and what is held as they are, no curve" in said.message
    bent = Session("s", 8 * BEAT, (track,), (Lane("a", "p", "track", line((0, -20.0, 9.0), (1, -5.0))),))
    assert planned(bent, lanes=("a",)).cautions[0].message == "T Level: nothing was found with fewer points"
    assert no_fewer(line((0, 0.0), (1, 5.0), (2, 0.0)), 1.0) and not no_fewer(line((0, 0.0), (1, 0.5), (2, 0.0)), 1.0)


def test_where_regions_start_and_end_a_lane_can_stay_what_it_is():
    track = Track("t", "T", parameters=(level("p"),), regions=(Region("r", "r", 3 * BEAT, 2 * BEAT),))
    zigzag = line(*((n, -20 + 0.2 * (n % 2)) for n in range(9)))
    session = Session("s", 8 * BEAT, (track,), (Lane("a", "p", "track", zigzag),))
    asked = {"lanes": ("a",), "within": (Within("dB", 0.25),)}
    assert len(planned(session, **asked).applied_to(session).lane("a").envelope) == 2
    kept = planned(session, **asked, region_edges=True).applied_to(session).lane("a").envelope
    assert kept.points() == [(0, -20.0, 0.0), (3 * BEAT, -19.8, 0.0), (5 * BEAT, -19.8, 0.0), (8 * BEAT, -20.0, 0.0)]


# ── staircases as they come ───────────────────────────────────────────────────────────────────


def stairs(*steps, axis=Axis.LINEAR, every=0.25):
    return line(*((n * every, float(value), HOLD) for n, value in enumerate(steps)), axis=axis)


@given(
    st.lists(st.sampled_from([1, 1, 1, -1, 2]), min_size=12, max_size=80),
    st.floats(0.1, 5),
    st.integers(0, 3),
    st.booleans(),
)
def test_slopes_stay_within_half_of_the_steps_beside_them(jumps, step, digits, even):
    """Rounded values, skipped numbers, uneven times: never further from a plateau than half of the jumps at its ends."""
    places = (
        np.round(np.cumsum([0, *jumps]) * step + 40 * step, digits)
        if round(step, digits) > 0.3 * step
        else np.cumsum([0, *jumps]) * step
    )
    ticks = np.cumsum([0, *(40_320 if even else 20_000 + 997 * (n * n % 61) for n in range(len(jumps)))])
    curve = Envelope(ticks, places, np.full(len(ticks), HOLD), Axis.LINEAR).only_heard()
    made = slopes_of_steps(curve)
    assert len(made) <= len(curve) and made.ticks[0] == curve.ticks[0] and made.ticks[-1] == curve.ticks[-1]
    bare = without_loss(curve)
    sides = np.abs(np.diff(bare.values))
    half = np.maximum(np.append(0, sides), np.append(sides, 0)) / 2
    for n, (a, b) in enumerate(pairwise(bare.ticks.tolist())):
        far = largest_difference(made, Envelope.constant(bare.values[n]), a, b - 1)[0]
        assert far <= half[n] * (1 + 1e-8) + 1e-9


def test_a_run_to_the_lowest_value_and_back_stays_in_the_range():
    """3, 2, 1, 0, 1, 2, 3 of a parameter that can be 0 at least; asked of all lanes at once."""
    ms = Parameter("p", "Time", Family.DEVICE, unit="ms", low=0, high=127)
    session = Session(
        "s",
        9 * BEAT,
        (Track("t", "T", parameters=(ms,)),),
        (Lane("a", "p", "track", stairs(3, 2, 1, 0, 1, 2, 3, every=1)),),
    )
    after = planned(session, lanes=("a",), way="steps to slopes").applied_to(session)
    made = after.lane("a").envelope
    assert made.values.min() >= 0 and len(made) == 5 and made.at(np.array([int(1.5 * BEAT)])) == pytest.approx([2.0])


def test_steps_are_found_in_rounded_values_jumps_and_with_skipped_numbers_or_typed():
    rounded = stairs(*(round(n * 0.787, 1) for n in range(40)))  # 0.8, 0.8, 0.7 …
    assert step_of(rounded) == pytest.approx(0.8) and len(slopes_of_steps(rounded)) <= 14 < len(rounded)
    jumps = in_steps(stairs(*range(40)))
    assert not np.isposinf(jumps.bends).any() and len(slopes_of_steps(jumps)) <= 6
    skipped = stairs(*range(10), *range(11, 30))
    assert len(slopes_of_steps(skipped)) < len(skipped) / 2
    coarse = stairs(*(4 * n for n in range(20)))
    assert len(slopes_of_steps(coarse)) < 8 and slopes_of_steps(coarse, step=0.5) == without_loss(coarse)


def test_what_is_held_counts_as_steps_where_that_is_asked():
    """Plateaus within 0.2 dB of a line, and one that leaps away from it: held they all stay."""
    values = [-20 + 0.1 * n for n in range(20)]
    track = Track("t", "T", parameters=(level("p"),))
    session = Session(
        "s", 64 * BEAT, (track,), (Lane("a", "p", "track", stairs(*values, -3.0, -3.1, axis=Axis.LEVEL)),)
    )
    asked = {"lanes": ("a",), "within": (Within("dB", 0.2),)}
    assert not planned(session, **asked).lanes
    made = planned(session, **asked, holds="steps").applied_to(session).lane("a").envelope
    assert len(made) <= 7 and largest_difference(made, session.lane("a").envelope, 0, 64 * BEAT)[0] <= 0.2 + 1e-9


@given(envelopes(Axis.LEVEL, most=30), tolerances)
def test_what_a_parameter_cannot_be_is_never_passed(curve, tolerance):
    made = thinned_within(curve, tolerance, reach=(-96.0, 12.0))
    assert made.values.min() >= -96 and made.values.max() <= 12
