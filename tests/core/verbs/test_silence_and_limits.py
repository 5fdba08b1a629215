"""Silence under sums and maps, limits reached exactly, and bends laid straight with as few points as they need."""

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st

from tests.core.verbs.test_retarget import at, landed, session
from tests.oracle import heard_at
from tests.strategies import LENGTH, envelopes, probes, ranges
from velmot.core.curves import editing
from velmot.core.curves.axes import Axis
from velmot.core.curves.editing import Fragment
from velmot.core.curves.envelope import Envelope
from velmot.core.curves.segments import HOLD
from velmot.core.curves.sums import TOLERANCE, sum_axis
from velmot.core.errors import RequestError
from velmot.core.parameters.mapping import Mapping, affine, mapped
from velmot.core.parameters.parameter import Family, Parameter, level
from velmot.core.session.heard import heard
from velmot.core.session.session import Session
from velmot.core.session.track import Lane, Region, Track, TrackKind
from velmot.core.time.ticks import TICKS_PER_BEAT as BEAT
from velmot.core.time.ticks import Tick
from velmot.core.verbs import plan
from velmot.core.verbs.points.request import SetValues
from velmot.core.verbs.regions.request import Embed
from velmot.core.verbs.request import Picked
from velmot.core.verbs.retarget.request import Target
from velmot.core.verbs.shape.request import RaiseSpan

FADE = Envelope.of([(0, -96), (8 * BEAT, 0)], Axis.LEVEL)
CUT = Parameter("f", "Cutoff", Family.DEVICE, unit="Hz", axis=Axis.LOG, low=20, high=20000, default=1000, value=1000)


def grouped(member: Envelope, gain: Envelope) -> Session:
    """One fader under a group's."""
    tracks = (
        Track("t", "t", parameters=(level("p"),)),
        Track("g", "g", TrackKind.GROUP, parameters=(level("v"),), members=("t",)),
    )
    return Session("s", LENGTH, tracks, (Lane("P", "p", "track", member), Lane("V", "v", "track", gain))).checked()


def test_a_group_fader_moves_a_fade_from_silence_and_leaves_silence_alone():
    """Half way up from −96 to 0 dB under +6 it is −42, not −45; at its very first moment it is silent."""
    made = grouped(FADE, Envelope.constant(6.0, Axis.LEVEL))
    assert at(heard(made, "p").envelope, 0, 2, 4, 8) == pytest.approx([-96, -66, -42, 6])
    more = grouped(FADE, Envelope.of([(0, 6), (3 * BEAT, 6), (LENGTH, 6)], Axis.LEVEL))
    ticks = probes(heard(more, "p").envelope)
    ticks = ticks[ticks < LENGTH]
    assert heard(made, "p").envelope.at(ticks) == pytest.approx(heard(more, "p").envelope.at(ticks), abs=1e-9)


@given(envelopes(Axis.LEVEL), envelopes(Axis.LEVEL), st.sets(st.sampled_from(range(8))))
def test_what_is_heard_under_a_group_is_the_sum_at_every_tick(member, gain, quiet):
    """Random points of both are made silent; the plainest sum at each tick is the judge."""
    silent = [i in quiet for i in range(len(member))]
    member = Envelope(member.ticks, np.where(silent, -96.0, member.values), member.bends, Axis.LEVEL)
    made = grouped(member, gain)
    curve = heard(made, "p").envelope
    for tick in probes(member, gain, curve)[::3].tolist():
        wanted = heard_at(made, made.parameter("p"), tick, groups=True)
        if tick < LENGTH:
            assert float(curve.coordinate_at(tick)) == pytest.approx(wanted, abs=TOLERANCE * 1.01)


# ── raising and retargeting ───────────────────────────────────────────────────────────────────


def test_raising_a_fade_shifts_it_and_a_typed_step_lifts_no_silence():
    made = session(FADE, "l")
    curve = plan(made, "raise", RaiseSpan(("L",), Tick(0), Tick(64 * BEAT), 6.0)).applied_to(made).lane("L").envelope
    assert at(curve, 0, 4, 8) == pytest.approx([-96, -42, 6])
    typed = plan(made, "set values", SetValues((Picked("L", (0, 1)),), "+2")).applied_to(made).lane("L").envelope
    assert typed.values.tolist() == [-96, 2]


def test_a_fade_from_silence_is_fitted_from_where_silence_lands():
    """−96 to 0 dB onto 200 to 6400 Hz: half way 1131 Hz; a start a thousandth of a beat later fits the same way."""
    _, curve = landed(FADE, Target("f", 200, 6400), start=Tick(0), end=Tick(8 * BEAT))
    assert at(curve, 0, 4, 7.999999) == pytest.approx([200, 1131.370849898476, 6400], rel=1e-5)
    _, late = landed(FADE, Target("f", 200, 6400), start=Tick(BEAT // 1000), end=Tick(8 * BEAT))
    assert at(late, 4) == pytest.approx(at(curve, 4), rel=1e-3)
    held = Envelope.of([(0, -96, HOLD), (10 * BEAT, -24), (20 * BEAT, -4)], Axis.LEVEL)
    _, curve = landed(held, Target("f", 200, 6400), start=Tick(0), end=Tick(20 * BEAT))
    assert at(curve, 5, 10, 15) == pytest.approx([20, 200, 1131.37085], rel=1e-6), "held silence is no place on it"


@given(envelopes(Axis.LEVEL), ranges(), st.sampled_from(["fit", "range", "around"]), st.booleans(), st.data())
def test_mapping_and_cutting_give_the_same_either_way_round(curve, span, how, upside_down, data):
    """Onto a filter and onto another fader; some points are silent."""
    quiet = data.draw(st.sets(st.integers(0, len(curve) - 1)))
    silent = [i in quiet for i in range(len(curve))]
    curve = Envelope(curve.ticks, np.where(silent, -96.0, curve.values), curve.bends, Axis.LEVEL)
    for to in (CUT, level("x", low=-60.0)):
        wish = Mapping(how, None, None, upside_down, -20.0, None, 0.05)
        whole = Fragment(editing.cut(curve, 0, LENGTH).envelope, LENGTH)
        try:
            line = affine(level("l"), [whole.envelope], to, wish)
        except RequestError:
            return
        one = editing.cut(mapped(level("l"), whole, to, wish, line).fragment.envelope, *span).envelope
        other = mapped(level("l"), editing.cut(curve, *span), to, wish, line).fragment.envelope
        ticks = np.unique(np.concatenate((probes(one, other), [0, span[1] - span[0] - 1])))
        ticks = ticks[ticks < span[1] - span[0]]
        assert np.allclose(one.coordinate_at(ticks), other.coordinate_at(ticks), rtol=0, atol=1e-9)


def test_a_mapping_far_beyond_the_target_is_limited():
    """0 to 1826 ms around 913 ms with a depth of one octave a millisecond: all but the middle is 20 Hz or 20 kHz."""
    delay = Parameter("d", "Delay", Family.DEVICE, unit="ms", high=1826.0)
    wish = Mapping("around", anchor=913.0, to_anchor=640.0, depth=1.0)
    rise = Fragment(Envelope.of([(0, 0), (1826 * BEAT, 1826)]), 1826 * BEAT)
    made = mapped(delay, rise, CUT, wish, affine(delay, [rise.envelope], CUT, wish))
    assert at(made.fragment.envelope, 0, 900, 911, 913, 914, 1000) == pytest.approx([20, 20, 160, 640, 1280, 20000])
    assert made.spans_limited == 2
    with pytest.raises(RequestError) as caught:
        affine(delay, [rise.envelope], CUT, Mapping("around", anchor=913.0, to_anchor=640.0, depth=1e300))
    assert caught.value.code == "depth"


@given(envelopes(Axis.LEVEL), st.sampled_from([CUT, level("x", low=-60.0, high=0.0)]), st.booleans())
def test_a_fit_onto_the_whole_range_limits_nothing(curve, to, upside_down):
    curve = Envelope(curve.ticks, np.maximum(curve.values, -95.0), curve.bends, Axis.LEVEL)
    piece = Fragment(editing.cut(curve, 0, LENGTH).envelope, LENGTH)
    wish = Mapping("fit", to.low, to.high, upside_down)
    try:
        line = affine(level("l"), [piece.envelope], to, wish)
    except RequestError as refused:
        assert refused.code == "nothing-moves"
        return
    made = mapped(level("l"), piece, to, wish, line)
    assert made.spans_limited == 0 and len(made.fragment.envelope) <= len(piece.envelope)


# ── rounding, and bends in straight pieces ────────────────────────────────────────────────────


def test_a_value_worked_out_at_a_cut_never_passes_its_neighbours():
    steep = Envelope.of([(BEAT, -21.763035367868692, -55), (5 * BEAT // 2, 12)], Axis.LEVEL)
    for start in np.linspace(BEAT, 5 * BEAT // 2, 500).astype(int).tolist():
        assert editing.cut(steep, start, 6 * BEAT).envelope.values.max() <= 12
    q = Parameter("q", "Q", Family.DEVICE, axis=Axis.LOG, low=0.1, high=40.0, default=1.0, value=1.0)
    track = Track("t", "t", parameters=(q,), regions=(Region("r", "r", 8 * BEAT, BEAT),))
    lane = Lane("L", "q", "track", Envelope.of([(0, 20, -50), (10 * BEAT, 40)], Axis.LOG))
    made = Session("s", 40 * BEAT, (track,), (lane,)).checked()
    assert plan(made, "embed", Embed(("r",))).applied_to(made).lane_at("q", "r").envelope.values.max() <= 40


@given(envelopes(), st.data())
def test_reading_between_two_points_never_leaves_what_they_span(curve, data):
    k = data.draw(st.sampled_from([-60.0, -50.0, 55.0, 60.0]))
    steep = Envelope(curve.ticks, curve.values, np.where(np.isfinite(curve.bends), k, HOLD), curve.axis)
    ticks = probes(steep)
    assert steep.at(ticks).min() >= steep.values.min() and steep.at(ticks).max() <= steep.values.max()


@pytest.mark.parametrize(("k", "most"), [(60.0, 130), (-60.0, 130), (5.0, 120), (-2.0, 90), (0.1, 25)])
def test_bends_that_meet_a_slope_stay_within_the_tolerance_with_few_points(k, most):
    """12 to −50 dB in one beat against a slope; no polygon with corners on the curve alone does it with so few."""
    bent, slope = Envelope.of([(8 * BEAT, 12, k), (9 * BEAT, -50)]), Envelope.of([(0, 0), (20 * BEAT, 7)])
    for pair in ((bent, slope), (slope, bent)):
        total = sum_axis(*pair)
        ticks = np.unique(np.concatenate((total.ticks, np.linspace(0, 20 * BEAT, 50_001).astype(int))))
        assert (
            np.abs(total.coordinate_at(ticks) - bent.coordinate_at(ticks) - slope.coordinate_at(ticks)).max()
            <= TOLERANCE * 1.0001
        )
        assert len(total) <= most


@given(st.lists(st.integers(0, 4000), min_size=2, max_size=4, unique=True), st.floats(-60, 60), st.floats(-60, 60))
def test_sums_of_short_steep_bends_hold_the_tolerance_at_every_tick(ticks, k, other_k):
    one = Envelope.of([(t, (-1) ** n * 60.0, k) for n, t in enumerate(sorted(ticks))])
    other = Envelope.of([(100, 12, other_k), (3000, -50)])
    total = sum_axis(one, other)
    every = np.arange(0, 4001)
    assert (
        np.abs(total.coordinate_at(every) - one.coordinate_at(every) - other.coordinate_at(every)).max()
        <= TOLERANCE * 1.0001
    )


def test_a_steep_bend_out_of_silence_is_moved_by_its_numbers_and_not_aimed_anew():
    """Bend 55 stands within a rounding of silence for a third of its way; 10 dB up it is so all along, half deep half so."""
    steep = Envelope.of([(0, -96.0, 55.0), (8 * BEAT, 0.0)], Axis.LEVEL)
    places = np.array([1, BEAT, 4 * BEAT, 7 * BEAT, 8 * BEAT - 1])
    own = -96 + 96 * np.expm1(55 * places / (8 * BEAT)) / np.expm1(55)
    assert editing.map_axis(steep, 1.0, 10.0).at(places) == pytest.approx(own + 10, abs=1e-9)
    assert editing.map_axis(steep, 0.5, 0.0).at(places) == pytest.approx(own / 2, abs=1e-9)
    assert sum_axis(steep, Envelope.constant(10.0)).at(places) == pytest.approx(own + 10, abs=1e-9)
    assert editing.map_axis(steep, 0.5, 0.0).at(np.array([0])) == [-96.0]


def test_raising_computes_as_it_always_has():
    """A ramp of 4 beats of which 2 fit rises over those 2: half of 4 dB after one beat, as logs have it."""
    fader = Session("s", 16 * BEAT, (Track("t", "t", parameters=(level("p"),)),),
                    (Lane("P", "p", "track", Envelope.constant(-20.0, Axis.LEVEL)),))  # fmt: skip
    wanted = RaiseSpan(("P",), Tick(2 * BEAT), Tick(6 * BEAT), 4.0, before=Tick(4 * BEAT), after=Tick(BEAT))
    curve = plan(fader, "raise", wanted).applied_to(fader).lane_at("p").envelope
    assert at(curve, 0, 1, 2, 5, 6.5, 7) == pytest.approx([-20, -18, -16, -16, -18, -20])
