"""Envelopes: worked examples by hand, and what must hold for every curve."""

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st

from tests.strategies import LENGTH, envelopes, probes, ranges, values
from velmot.core.curves import editing
from velmot.core.curves.axes import Axis
from velmot.core.curves.difference import differing_span, largest_difference
from velmot.core.curves.editing import Fragment
from velmot.core.curves.envelope import Envelope
from velmot.core.curves.outline import columns_between, outline
from velmot.core.curves.segments import HOLD
from velmot.core.errors import RequestError

NEAR = 1e-9


def same_outside(before: Envelope, after: Envelope, start: int, end: int) -> None:
    at = probes(before, after, extra=(start, end))
    left, right = at[at <= start], at[at >= end]
    assert np.allclose(before.coordinate_at(left, "left"), after.coordinate_at(left, "left"), rtol=0, atol=NEAR)
    assert np.allclose(before.coordinate_at(right), after.coordinate_at(right), rtol=0, atol=NEAR)


def test_values_by_hand():
    """A straight rise, a hold, a jump and a bend of ln 9: half way it has come (3 − 1)/(9 − 1) = 1/4."""
    curve = Envelope.of([(0, 0), (10, 10, HOLD), (20, 20), (30, 30), (30, 50, float(np.log(9))), (40, 90)])
    ticks = np.array([-5, 0, 4, 10, 19, 20, 25, 30, 35, 40, 99])
    assert np.allclose(curve.at(ticks), [0, 0, 4, 10, 10, 20, 25, 50, 60, 90, 90], atol=1e-12)
    assert np.allclose(curve.at(ticks, "left"), [0, 0, 4, 10, 10, 10, 25, 30, 60, 90, 90], atol=1e-12)


def test_a_log_axis_is_straight_in_octaves():
    """From 100 to 1600 Hz are four octaves: half way is 400 Hz."""
    curve = Envelope.of([(0, 100), (8, 1600)], Axis.LOG)
    assert curve.at(np.array([4, 6])).tolist() == pytest.approx([400, 800])


def test_silence_stays_silence():
    """Silence itself is not lifted; the fade from it is, from its first tick on: −96 + 86/5 + 6 = −72.8 dB."""
    curve = editing.map_axis(Envelope.of([(0, -96), (5, -10)], Axis.LEVEL), 1, 6)
    assert curve.at(np.arange(6)).tolist() == pytest.approx([-96, -72.8, -55.6, -38.4, -21.2, -4])


@given(envelopes(), ranges())
def test_cut_then_splice_is_the_identity(curve, span):
    again = editing.splice(curve, editing.cut(curve, *span), span[0])
    at = probes(curve, again, extra=span)
    assert np.allclose(curve.coordinate_at(at), again.coordinate_at(at), rtol=0, atol=NEAR)
    assert np.allclose(curve.coordinate_at(at, "left"), again.coordinate_at(at, "left"), rtol=0, atol=NEAR)


@given(st.sampled_from(Axis).flatmap(lambda a: st.tuples(envelopes(a), envelopes(a))), ranges(), st.data())
def test_splice_puts_the_piece_in_and_changes_nothing_outside(pair, span, data):
    base, other = pair
    piece = editing.cut(other, *span)
    at = data.draw(st.integers(0, LENGTH))
    ramp = data.draw(st.integers(0, piece.length))
    result = editing.splice(base, piece, at, ramp)
    end = at + piece.length
    same_outside(base, result, at, end)
    r = min(ramp, piece.length // 2)
    inside = np.linspace(at + r, end - r - 1, 9).astype(np.int64) if end - r > at + r else np.array([], np.int64)
    assert np.allclose(result.coordinate_at(inside), other.coordinate_at(inside - at + span[0]), rtol=0, atol=NEAR)
    if r:
        assert abs(float(result.coordinate_at(at)) - float(base.coordinate_at(at, "left"))) < NEAR


@given(envelopes(), st.data())
def test_limit_is_the_clipped_curve_at_every_tick(curve, data):
    low, high = sorted(data.draw(st.tuples(values(curve.axis), values(curve.axis))))
    limited, spans = editing.limit(curve, low, high)
    at = probes(curve, limited)
    wanted = curve.axis.coordinate(np.clip(curve.at(at), low, high))
    assert np.allclose(limited.coordinate_at(at), wanted, rtol=0, atol=NEAR)
    assert limited.values.min() >= low and limited.values.max() <= high
    beyond = max(
        curve.axis.coordinate(low) - curve.coordinates.min(), curve.coordinates.max() - curve.axis.coordinate(high)
    )
    alike = limited == curve or (curve.unheard.any() and np.allclose(limited.at(at), curve.at(at), rtol=0, atol=NEAR))
    assert (spans == 0) == alike or beyond <= NEAR, "rounding is no reason to limit, nor a point nobody hears"


def test_limit_counts_each_span_once():
    curve = Envelope.of([(0, 0), (10, 20), (20, 0), (30, 20), (40, 0)])
    limited, spans = editing.limit(curve, -5, 15)
    assert spans == 2
    assert limited.at(np.array([7, 8, 12, 13])).tolist() == [14, 15, 15, 14]


@given(envelopes())
def test_a_map_moves_every_coordinate_and_leaves_silence_alone(curve):
    at = probes(curve)
    moved = editing.map_axis(curve, 0.5, 1.0)
    still = curve.axis.silent(curve.at(at))
    wanted = np.where(still, curve.coordinate_at(at), 0.5 * curve.coordinate_at(at) + 1)
    assert np.allclose(moved.coordinate_at(at), wanted, rtol=0, atol=NEAR)


@given(envelopes(most=30), ranges(), st.integers(1, 40))
def test_outline_bounds_are_reached_and_never_passed(curve, span, columns):
    edges = columns_between(*span, columns)
    edges = np.unique(edges)
    lows, highs = outline(curve, edges)
    for a, b, low, high in zip(edges[:-1], edges[1:], lows, highs, strict=True):
        line = np.unique(np.clip(np.concatenate((curve.ticks, np.linspace(a, b - 1, 5).astype(int))), a, b - 1))
        seen = curve.at(line)
        assert seen.min() >= low - NEAR * max(1, abs(low)) and seen.max() <= high + NEAR * max(1, abs(high))
    assert (lows.min(), highs.max()) == pytest.approx(curve.extremes(*span), abs=1e-9)


@pytest.mark.parametrize(
    ("points", "place", "said"),
    [
        ([(0, 1), (5, float("nan"))], "points[1]", "point 2: its value is not a finite number"),
        ([(9, 1), (5, 2)], "points[1]", "comes after"),
        ([(5, 1), (5, 2), (5, 3)], "points[2]", "three points share one position"),
        ([(0, 1, 99.0), (5, 2)], "points[0]", "a bend of 99 cannot be used"),
    ],
)
def test_impossible_points_are_named(points, place, said):
    with pytest.raises(RequestError) as caught:
        Envelope.of(points)
    assert caught.value.place == place and said in caught.value.message and caught.value.accepted


def test_an_empty_range_cannot_be_cut():
    with pytest.raises(RequestError, match="the range is empty"):
        editing.cut(Envelope.constant(1), 5, 5)


def test_arrays_cannot_be_written():
    curve = Fragment(Envelope.constant(1.0), 4).envelope
    with pytest.raises(ValueError, match="read-only"):
        curve.values[0] = 2


@given(st.data())
def test_pieces_cut_in_one_go_are_those_cut_one_by_one(data):
    curve = data.draw(envelopes())
    spans = [data.draw(ranges()) for _ in range(3)]
    for (start, end), piece in zip(spans, editing.slices(curve, spans), strict=True):
        wanted = editing.cut(curve, start, end).envelope
        assert (piece.ticks[0], piece.ticks[-1]) == (0, end - start)
        at = probes(piece, wanted)
        at = at[at <= end - start]
        for side in ("left", "right"):
            inner = at[(at > 0) & (at < end - start)] if side == "right" else at[at > 0]
            assert np.allclose(piece.coordinate_at(inner, side), wanted.coordinate_at(inner, side), rtol=0, atol=NEAR)


@given(st.data())
def test_straightening_touches_nothing_outside_and_is_straight_inside(data):
    curve = data.draw(envelopes())
    marks = sorted(data.draw(st.lists(st.integers(0, LENGTH), min_size=2, max_size=6, unique=True)))
    spans = list(zip(marks[::2], marks[1::2], strict=False))
    hold = data.draw(st.booleans())
    after = editing.straightened(curve, spans, hold)
    at = probes(curve, after, extra=tuple(marks))
    outside = at[[not any(a < t < b for a, b in spans) for t in at.tolist()]]
    left = outside[[t > 0 and t not in [end for _, end in spans] for t in outside.tolist()]]
    assert np.allclose(after.coordinate_at(left, "left"), curve.coordinate_at(left, "left"), rtol=0, atol=NEAR)
    right = outside[[t not in [a for a, _ in spans] for t in outside.tolist()]]
    assert np.allclose(after.coordinate_at(right), curve.coordinate_at(right), rtol=0, atol=NEAR)
    for start, end in spans:
        y0, y1 = float(curve.coordinate_at(start, "left")), float(curve.coordinate_at(end))
        middle = (start + end) // 2
        part = 0.0 if hold else (middle - start) / (end - start)
        if middle > start:
            assert float(after.coordinate_at(middle)) == pytest.approx(y0 + (y1 - y0) * part, abs=1e-6)


@given(envelopes(Axis.LINEAR), envelopes(Axis.LINEAR), ranges())
def test_the_largest_difference_is_never_passed_by_a_close_look(one, other, span):
    largest, at = largest_difference(one, other, *span)
    ticks = np.unique(np.concatenate((probes(one, other), np.linspace(*span, 3000).astype(np.int64))))
    ticks = ticks[(ticks >= span[0]) & (ticks < span[1])]
    assert np.abs(one.coordinate_at(ticks) - other.coordinate_at(ticks)).max() <= largest + NEAR
    here = [abs(float(one.coordinate_at(at, s) - other.coordinate_at(at, s))) for s in ("left", "right")]
    assert largest == pytest.approx(max(here) if span[0] < at < span[1] else here[at == span[0]], abs=NEAR)
    inside = differing_span(one, other, *span)
    if inside is None:
        assert largest <= NEAR
    else:
        alike = ticks[(ticks < inside[0]) | (ticks >= inside[1])]
        assert np.abs(one.coordinate_at(alike) - other.coordinate_at(alike)).max(initial=0.0) <= NEAR


def test_a_line_and_a_bend_that_meet_at_both_ends_part_between_them():
    """10x against 10(e^2x − 1)/(e² − 1): equally steep at x = ln((e² − 1)/2)/2 = 0.58072, there 2.37237 apart."""
    line = Envelope.of([(0, 0), (1_000_000, 10)])
    bent = Envelope.of([(0, 0, 2.0), (1_000_000, 10)])
    largest, at = largest_difference(line, bent, 0, 2_000_000)
    assert largest == pytest.approx(2.37237, abs=1e-5) and at == pytest.approx(580_720, abs=2)
    assert differing_span(line, bent, 0, 2_000_000) == (0, 1_000_000)
