"""Shapes: worked out by hand; and near to the waves they stand for."""

from dataclasses import replace
from itertools import pairwise

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st

from velmot.core.curves import shapes
from velmot.core.curves.shapes import Shape, cycle_lengths, drawn
from velmot.core.errors import RequestError
from velmot.core.time.ticks import TICKS_PER_BEAT as BEAT


def at(shape, beats, *places, side="right"):
    curve = drawn(shape, round(beats * BEAT)).envelope
    return curve.at(np.array([round(b * BEAT) for b in places]), side).tolist()


def test_one_cycle_of_each_kind():
    assert at(Shape("sine"), 4, 0, 1, 2, 3) == [0.5, 1, 0.5, 0]
    assert at(Shape("triangle"), 4, 0, 1, 2, 3) == [0, 0.5, 1, 0.5]
    assert at(Shape("saw up", 2), 8, 0, 2, 4) == [0, 0.5, 0]
    assert at(Shape("saw up", 2), 8, 4, 8, side="left") == [1, 1]
    assert at(Shape("saw down", 2), 8, 0, 2, 4) == [1, 0.5, 1]
    assert at(Shape("square", skew=0.25), 4, 0, 0.99, 1, 3.9) == [1, 1, 0, 0]
    assert at(Shape("straight"), 4, 0, 1, 4) == [0, 0.25, 1]
    assert at(Shape("s"), 4, 0, 2, 4) == pytest.approx([0, 0.5, 1])
    # a bend of 5: (e^2.5 − 1)/(e^5 − 1) half way up
    assert at(Shape("exponential"), 4, 2)[0] == pytest.approx(0.0758582)
    assert at(Shape("logarithmic"), 4, 2)[0] == pytest.approx(1 - 0.0758582)


def test_hurry_grow_phase_skew_and_lean():
    assert cycle_lengths(Shape(cycles=2, hurry=0.5), 12 * BEAT) == [8 * BEAT, 4 * BEAT]
    # a sixteenth of the way, five, nine and thirteen: so deep are the four tops
    assert at(Shape("sine", 4, grow_from=0, grow_to=100), 4, 0.25, 1.25, 2.25, 3.25) == pytest.approx(
        [0.5 + n / 32 for n in (1, 5, 9, 13)]
    )
    in_steps = Shape("square", 4, grow_from=0, grow_to=100)
    assert at(in_steps, 4, 0, 1, 2, 3) == pytest.approx([0.5, 2 / 3, 5 / 6, 1])
    assert at(replace(in_steps, kind="sine", edition=1), 4, 0.25, 1.25, 2.25, 3.25) == pytest.approx(
        [0.5, 2 / 3, 5 / 6, 1]
    )
    assert at(Shape("sine", phase=0.25), 4, 0, 1, 2, 3) == pytest.approx([1, 0.5, 0, 0.5])
    assert at(Shape("triangle", skew=0.25), 4, 0.5, 1, 2.5) == [0.5, 1, 0.5]
    assert at(Shape("triangle", lean=1.0), 4, 0, 2, 4) == pytest.approx([-0.5, 1, 0.5])


def test_cycles_by_their_length_end_inside_of_one():
    assert cycle_lengths(Shape(cycle=4 * BEAT), 10 * BEAT) == pytest.approx([4 * BEAT, 4 * BEAT, 2 * BEAT])
    assert at(Shape("triangle", cycle=4 * BEAT, cycles=99), 10, 2, 4, 9, 10) == pytest.approx([1, 0, 0.5, 1])
    assert at(Shape("triangle", cycles=2.5), 10, 2, 4, 9, 10) == pytest.approx([1, 0, 0.5, 1])


@pytest.mark.parametrize("kind", shapes.CHANCE)
def test_chance_is_the_same_for_the_same_seed(kind):
    one, same, other = (at(Shape(kind, 8, seed=s), 8, *range(8)) for s in (7, 7, 8))
    assert one == same != other and len(set(one)) == 8
    between = at(Shape(kind, 8, seed=7), 8, *(n + 0.5 for n in range(7)))
    assert between == pytest.approx(one[:7] if kind == "steps of chance" else [(a + b) / 2 for a, b in pairwise(one)])


@given(
    st.sampled_from(["triangle", "saw up", "sine", "s", "glides of chance"]),
    st.floats(0, 1).map(lambda phase: round(phase, 5)),  # what turns within a tick of a seam turns on it
    st.floats(0, 200),
    st.floats(0, 200),
    st.floats(0.2, 5),
)
def test_what_grows_has_no_jump_where_its_wave_has_none(kind, phase, first, last, hurry):
    """Between its cycles a growing wave jumps no more than the same wave does by itself."""
    shape = Shape(kind, 5, phase=phase, hurry=hurry, grow_from=first, grow_to=last, seed=-7)
    seams = np.rint(np.cumsum(cycle_lengths(shape, 20 * BEAT))[:-1]).astype(np.int64)
    curve = drawn(shape, 20 * BEAT).envelope
    rises = 1e-3 < phase < 1 - 1e-3 or kind in ("triangle", "sine", "glides of chance")  # a saw jumps at its phase 0
    if rises:
        assert curve.at(seams, "left") == pytest.approx(curve.at(seams), abs=1e-9)
    deep = (first + (last - first) * np.array([0.0, 1.0])) / 100
    assert float(np.abs(curve.values - 0.5).max()) <= deep.max() / 2 + 1e-9


def test_glides_of_chance_close_into_a_loop_and_know_their_seeds_sign():
    glides = [
        drawn(Shape("glides of chance", cycles, seed=seed), 8 * BEAT).envelope for cycles, seed in ((4, 7), (2.5, 7))
    ]
    for curve in glides:
        assert curve.values[0] == pytest.approx(curve.values[-1], abs=1e-12) and len(set(curve.values.tolist())) > 2
    seven = at(Shape("steps of chance", 4, seed=7), 8, 0, 2, 4, 6)
    assert seven != at(Shape("steps of chance", 4, seed=-7), 8, 0, 2, 4, 6)
    assert seven == at(Shape("steps of chance", 4, seed=-7, edition=1), 8, 0, 2, 4, 6)


@given(st.sampled_from(["sine", "s"]), st.floats(0, 1), st.integers(1, 4), st.floats(-2, 2), st.floats(1, 100))
def test_leaning_waves_are_near_in_parts_of_their_own_depth(kind, phase, cycles, lean, depth):
    beats = 4 * cycles
    ticks = np.linspace(0, beats * BEAT - 1, 997).astype(np.int64)
    x = (ticks / (4 * BEAT) + phase) % 1
    wave = (1 + np.sin(2 * np.pi * x)) / 2 if kind == "sine" else (1 - np.cos(np.pi * x)) / 2
    wanted = 0.5 + depth / 100 * (wave - 0.5) + lean * (ticks / (beats * BEAT) - 0.5)
    shape = Shape(kind, cycles, phase=phase, lean=lean, grow_from=depth, grow_to=depth)
    far = np.abs(drawn(shape, beats * BEAT).envelope.at(ticks) - wanted)
    near_a_jump = (x < 1e-4) | (x > 1 - 1e-4) if kind == "s" else np.zeros(len(x), dtype=bool)
    assert far[~near_a_jump].max() <= shapes.CLOSE * depth / 100 + 1e-9


@given(st.sampled_from(["sine", "s"]), st.floats(0, 1), st.integers(1, 4))
def test_waves_are_near(kind, phase, cycles):
    beats = 4 * cycles
    ticks = np.linspace(0, beats * BEAT - 1, 997).astype(np.int64)
    x = (ticks / (4 * BEAT) + phase) % 1
    wave = (1 + np.sin(2 * np.pi * x)) / 2 if kind == "sine" else (1 - np.cos(np.pi * x)) / 2
    far = np.abs(drawn(Shape(kind, cycles, phase=phase), beats * BEAT).envelope.at(ticks) - wave)
    near_a_jump = (x < 1e-4) | (x > 1 - 1e-4) if kind == "s" else np.zeros(len(x), dtype=bool)
    assert far[~near_a_jump].max() <= shapes.CLOSE + 1e-6


@pytest.mark.parametrize(
    ("shape", "place"),
    [
        (Shape(cycles=0), "cycles"),
        (Shape(cycles=1e9), "cycles"),
        (Shape(cycle=1), "cycles"),
        (Shape(cycle=0), "cycle"),
        (Shape(phase=1.5), "phase"),
        (Shape(skew=0), "skew"),
        (Shape(grow_to=-1), "grow_to"),
        (Shape(hurry=0), "hurry"),
        (Shape(lean=float("inf")), "lean"),
        (Shape(cycles=9000), "cycles"),
    ],
)
def test_what_cannot_be_drawn_is_refused(shape, place):
    with pytest.raises(RequestError) as refused:
        drawn(shape, 4 * BEAT)
    assert refused.value.place == place and refused.value.accepted
