"""Retime: stretched, shifted and run backwards, with what follows staying or moving along."""

import numpy as np
import pytest
from hypothesis import assume, given
from hypothesis import strategies as st

from tests.strategies import LENGTH, envelopes, probes, ranges
from velmot.core.curves.axes import Axis
from velmot.core.curves.envelope import Envelope
from velmot.core.errors import RequestError
from velmot.core.parameters.parameter import Family, Kind, Parameter, level
from velmot.core.session.session import Session
from velmot.core.session.track import Lane, Region, Track
from velmot.core.time.tempo import TempoEvent, TempoMap
from velmot.core.time.ticks import TICKS_PER_BEAT as BEAT
from velmot.core.time.ticks import Tick
from velmot.core.verbs import plan
from velmot.core.verbs.retime.request import Retime


def line(*rows, axis=Axis.LEVEL):
    return Envelope.of([(round(beat * BEAT), value, *rest) for beat, value, *rest in rows], axis)


ROWS = [(0, -20.0), (1, -10.0), (4, -40.0), (5, -30.0), (8, -30.0), (10, -12.0)]

STEADY = TempoMap()


def session(curve, home="track", tempo=STEADY):
    track = Track("t", "Voice", parameters=(level("l"),), regions=(Region("r", "take", 4 * BEAT, 8 * BEAT),))
    return Session("s", 16 * BEAT, (track,), (Lane("L", "l", home, curve),), tempo)


def retimed(way, start=None, end=None, on=None, **asked):
    on = on or session(line(*ROWS))
    span = {} if start is None else {"start": Tick(round(start * BEAT)), "end": Tick(round(end * BEAT))}
    change = plan(on, "retime", Retime(("L",), way=way, **span, **asked))
    return change, change.applied_to(on).lane("L").envelope


def at(curve, *beats):
    return pytest.approx(curve.at(np.array([round(b * BEAT) for b in beats])).tolist())


def test_four_beats_stretched_to_six_over_what_follows():
    """A point at beat 1 of the range stands at 1.5; what lay from 4 to 6 is replaced, and counted."""
    change, curve = retimed("stretch", 0, 4, length=Tick(6 * BEAT))
    assert (round(1.5 * BEAT), -10.0, 0.0) in curve.points()
    assert at(curve, 0, 1.5, 3.75, 6, 9, 10) == [-20, -10, -25, -30, -21, -12]
    assert [(c.code, c.message) for c in change.cautions] == [
        ("neighbours", "Voice Level: 2 points beside it are replaced")
    ]
    assert change.title == "Stretch Voice Level from 1.1.00 to 2.1.00 to 6 beats; what follows stays"


def test_squeezed_the_last_value_holds_until_what_follows():
    change, curve = retimed("stretch", 0, 4, factor=0.5)
    assert at(curve, 0, 0.5, 1.25, 2, 3.9, 5) == [-20, -10, -25, -40, -40, -30] and change.cautions == ()
    assert change.title.endswith("to 0.5 times its length; what follows stays")


def test_what_follows_moves_along_both_ways():
    """Two beats later or two earlier; at the lane's end its last value holds, what leaves it is left out."""
    _, later = retimed("stretch", 0, 4, factor=1.5, following="moves along")
    assert at(later, 1.5, 6, 7, 10, 11, 12) == [-10, -40, -30, -30, -21, -12]
    _, earlier = retimed("stretch", 0, 4, factor=0.5, following="moves along")
    assert at(earlier, 0.5, 2, 3, 6, 8, 15) == [-10, -40, -30, -30, -12, -12]
    change, far = retimed("stretch", 0, 4, factor=5.0, following="moves along")
    assert at(far, 5, 12.5) == [-10, -25] and far.ticks[-1] == 16 * BEAT
    assert [c.message for c in change.cautions] == [
        "Voice Level: what comes to lie beyond the session’s end is left out"
    ]


def test_a_lane_of_a_region_is_stretched_inside_it():
    """The range reaches from beat 2 to 8; of the region's lane, from beat 4, that are its first four beats."""
    change, curve = retimed("stretch", 2, 8, session(line(*ROWS), "r"), factor=3.0)
    assert at(curve, 0, 3, 7.5) == [-20, -10, -25]
    assert "its region’s end" in change.cautions[0].message


def test_shifted_by_beats_what_is_left_holds_what_was_before():
    change, curve = retimed("shift", 1, 5, by=Tick(2 * BEAT))
    assert at(curve, 1, 2, 3, 6, 6.999999, 8, 9) == [-10, -10, -10, -40, -30, -30, -21]
    assert change.cautions[0].code == "neighbours" and change.title.endswith("2 beats later")
    _, curve = retimed("shift", 4, 8, by=Tick(-2 * BEAT))
    assert at(curve, 0, 2, 3, 6, 8, 10) == [-20, -40, -30, -30, -30, -12]
    _, apart = retimed("shift", 4, 5, by=Tick(-3 * BEAT))
    assert at(apart, 1, 1.999999, 4.5) == [-40, -30, -40]


def test_a_whole_lane_later_and_earlier_has_no_point_more_than_needed():
    _, later = retimed("shift", by=Tick(3 * BEAT))
    assert at(later, 0, 3, 4) == [-20, -20, -10] and at(later, 13) == [-12]
    change, earlier = retimed("shift", by=Tick(-3 * BEAT))
    assert at(earlier, 0, 1, 2, 7, 15) == [-30, -40, -30, -12, -12]
    assert "before the session’s start" in change.cautions[0].message


def test_milliseconds_are_what_the_tempo_makes_of_them():
    """120 to the minute: 250 ms are half a beat; from beat 8 on 60 to the minute: a quarter."""
    _, curve = retimed("shift", 0.5, 4.5, milliseconds=250.0)
    assert at(curve, 1.5, 4.5) == [-10, -40]
    tempo = TempoMap((TempoEvent(0, 120.0), TempoEvent(8 * BEAT, 60.0)))
    _, curve = retimed("shift", 0, 15, session(line(*ROWS), tempo=tempo), milliseconds=250.0)
    assert at(curve, 1.5, 8.25, 10.25) == [-10, -30, -12]
    _, curve = retimed("shift", 4, 5, milliseconds=-250.0, by=Tick(BEAT))
    assert at(curve, 4.5) == [-40]


def test_a_lane_of_a_region_is_shifted_by_the_tempo_where_the_region_lies():
    """Its beat 4 is the session's beat 8: from there on 250 ms are a quarter of a beat, before it half of one."""
    tempo = TempoMap((TempoEvent(0, 120.0), TempoEvent(8 * BEAT, 60.0)))
    change, curve = retimed("shift", 4, 11, session(line(*ROWS), "r", tempo), milliseconds=250.0)
    assert at(curve, 1.5, 4.25, 5.25) == [-10, -40, -30]
    assert change.title == "Shift Voice Level in take from 2.1.00 to 3.4.00 250 ms later"
    both = retimed("shift", 4, 5, milliseconds=-20.0, by=Tick(BEAT))[0]
    assert both.title.endswith("1 beat later and 20 ms earlier")


def test_backwards_and_back():
    _, curve = retimed("backwards", 0, 4)
    assert at(curve, 0, 3, 3.999999, 5) == [-40, -10, -20, -30]
    assert at(retimed("backwards", 0, 4, session(curve))[1], 0, 1, 3.999999) == [-20, -10, -40]


@pytest.mark.parametrize(
    ("asked", "code"),
    [
        ({"lanes": ()}, "lanes-none"),
        ({"factor": 0.0}, "factor"),
        ({"factor": float("nan")}, "factor"),
        ({"factor": 1e9}, "factor"),
        ({"length": Tick(0)}, "length"),
        ({"start": Tick(4), "end": Tick(4)}, "range-empty"),
        ({"way": "shift", "milliseconds": 1e300}, "shift"),
        ({"way": "shift", "by": Tick(10**15)}, "shift"),
    ],
)
def test_what_cannot_be_is_refused_in_words(asked, code):
    with pytest.raises(RequestError) as caught:
        plan(session(line(*ROWS)), "retime", Retime(**({"lanes": ("L",)} | asked)))
    assert caught.value.code == code and caught.value.accepted


def any_session(curve):
    low, high = float(curve.values.min()), float(curve.values.max()) + 1
    kind = Parameter(
        "l", "X", Family.DEVICE, Kind.CONTINUOUS, axis=curve.axis, low=low, high=high, default=low, value=low
    )
    return Session("s", LENGTH, (Track("t", "T", parameters=(kind,)),), (Lane("L", "l", "track", curve.from_zero()),))


@given(envelopes(most=10), ranges(), st.sampled_from([0.5, 2 / 3, 1.0, 1.5, 2.0]), st.booleans())
def test_stretched_the_curve_is_the_same_at_other_times(curve, span, factor, along):
    on, (first, last) = any_session(curve), span
    assume(round((last - first) * factor) > 0)
    asked = Retime(("L",), Tick(first), Tick(last), factor=factor, following="moves along" if along else "stays")
    made = plan(on, "retime", asked).applied_to(on).lane("L").envelope
    before, length = on.lane("L").envelope, round((last - first) * factor)
    ticks = probes(made, before)
    outside = ticks[(ticks < first) | ((ticks >= max(last, first + length)) & (ticks < LENGTH) & (not along))]
    assert np.abs(made.coordinate_at(outside) - before.coordinate_at(outside)).max(initial=0) <= 1e-9
    if along:
        behind = ticks[(ticks >= first + length) & (ticks < min(LENGTH, LENGTH + first + length - last))]
        was = before.coordinate_at(behind - first - length + last)
        assert np.abs(made.coordinate_at(behind) - was).max(initial=0) <= 1e-9
    inner = before.ticks[(before.ticks > first) & (before.ticks < last)]
    for tick in np.unique(inner).tolist():
        there = first + (2 * (tick - first) * length + (last - first)) // (2 * (last - first))
        if first < there < min(first + length, LENGTH) and np.count_nonzero(np.abs(before.ticks - tick) <= 4) == 1:
            assert made.value_at(there) == pytest.approx(before.value_at(tick), abs=1e-9)


@given(envelopes(most=10), ranges(), st.integers(-LENGTH // 4, LENGTH // 4))
def test_shifted_the_range_is_the_same_later(curve, span, by):
    on, (first, last) = any_session(curve), span
    made = (
        plan(on, "retime", Retime(("L",), Tick(first), Tick(last), "shift", by=Tick(by)))
        .applied_to(on)
        .lane("L")
        .envelope
    )
    before = on.lane("L").envelope
    ticks = probes(made, before, extra=(first, last))
    inside = ticks[(ticks >= max(first + by, 0)) & (ticks < min(last + by, LENGTH))]
    assert np.abs(made.coordinate_at(inside) - before.coordinate_at(inside - by)).max(initial=0) <= 1e-9
    outside = ticks[(ticks < min(first, first + by)) | (ticks >= max(last, last + by))]
    outside = outside[(outside >= 0) & (outside < LENGTH)]
    assert np.abs(made.coordinate_at(outside) - before.coordinate_at(outside)).max(initial=0) <= 1e-9
    held = ticks[(ticks >= first) & (ticks < min(last, first + by))]
    assert not len(held) or np.ptp(made.coordinate_at(held)) <= 1e-9
