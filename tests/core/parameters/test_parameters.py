"""Parameters: how values are written, typed and refused."""

import numpy as np
import pytest
from hypothesis import given

from tests.strategies import values
from velmot.core.curves.axes import Axis, Nudges
from velmot.core.errors import RequestError
from velmot.core.parameters.parameter import Family, Kind, Label, Parameter, level, mute, pan

LEVEL, PAN, MUTE = level("l"), pan("p"), mute("m")
CUT = Parameter("c", "Cut", Family.DEVICE, unit="Hz", axis=Axis.LOG, low=20, high=20000, default=80, value=80)


@pytest.mark.parametrize(
    ("parameter", "value", "text"),
    [
        (LEVEL, -7.42, "−7.4 dB"),
        (LEVEL, -96, "−∞ dB"),
        (LEVEL, -0.01, "0.0 dB"),
        (PAN, -30, "−30.0"),
        (MUTE, 1, "muted"),
        (CUT, 440, "440 Hz"),
        (CUT, 6400, "6400 Hz"),
        (CUT, 63.5, "63.5 Hz"),
    ],
)
def test_values_as_people_read_them(parameter, value, text):
    assert parameter.format(value) == text


@pytest.mark.parametrize(
    ("parameter", "text", "value"),
    [
        (LEVEL, "-3", -3),
        (LEVEL, "−3,5 dB", -3.5),
        (LEVEL, "-inf", -96),
        (LEVEL, "−∞ dB", -96),
        (CUT, "1.2k", 1200),
        (CUT, "440 Hz", 440),
        (MUTE, "Muted", 1),
        (MUTE, "0", 0),
    ],
)
def test_typed_values(parameter, text, value):
    assert parameter.parse(text) == value


@pytest.mark.parametrize(
    ("parameter", "text", "code"),
    [
        (LEVEL, "13", "value-range"),
        (LEVEL, "loud", "value-unread"),
        (LEVEL, "3 Hz", "value-unread"),
        (MUTE, "0.5", "value-unread"),
        (CUT, "0", "value-range"),
        (LEVEL, "", "value-unread"),
        (CUT, "1e3", "value-unread"),
    ],
)
def test_what_is_no_value_says_what_would_be(parameter, text, code):
    with pytest.raises(RequestError) as caught:
        parameter.parse(text)
    assert caught.value.code == code and caught.value.accepted


@given(values(Axis.LEVEL))
def test_a_written_level_reads_back_within_its_last_digit(value):
    assert LEVEL.parse(LEVEL.format(value)) == pytest.approx(value, abs=0.0501)


@pytest.mark.parametrize(
    "fields",
    [
        {"low": 5, "high": 5},
        {"default": 99},
        {"axis": Axis.LOG, "low": 0, "high": 9},
        {"value": float("nan")},
        {"kind": Kind.SWITCH},
        {"kind": Kind.STEPPED, "labels": (Label(1, "b"), Label(0, "a"))},
    ],
)
def test_impossible_parameters_are_refused(fields):
    with pytest.raises(RequestError):
        Parameter("x", "X", Family.DEVICE, **fields)


def test_positions_run_from_0_to_1():
    assert [float(CUT.position(v)) for v in (20, 20000)] == [0, 1]
    assert float(CUT.position(632.4555320336759)) == pytest.approx(0.5)


@pytest.mark.parametrize(
    ("parameter", "marks"),
    [
        (LEVEL, "−∞ −72 −60 −48 −36 −24 −18 −12 −6 0 6 12"),
        (CUT, "20 50 100 200 500 1k 2k 5k 10k 20k"),
        (PAN, "−100 −75 −50 −25 0 25 50 75 100"),
        (Parameter("p", "Share", PAN.family, unit="%", low=0, high=1), "0 0.2 0.4 0.6 0.8 1"),
        (Parameter("p", "Wide", PAN.family, low=0, high=40), "0 5 10 15 20 25 30 35 40"),
        (MUTE, "sounding muted"),
    ],
)
def test_the_marks_of_an_axis(parameter, marks):
    assert " ".join(text for _, text in parameter.marks()) == marks
    values = [value for value, _ in parameter.marks()]
    assert values == sorted(values) and all(parameter.low <= v <= parameter.high for v in values)


def test_what_an_axis_knows_of_itself():
    """Octaves are log2; silence is −96 and below, on a level alone; nudges are round on every axis."""
    assert CUT.reach == (pytest.approx(np.log2(20)), pytest.approx(np.log2(20000)))
    assert CUT.span == pytest.approx(np.log2(1000)) and PAN.span == 200
    assert Axis.LEVEL.silent(np.array([-97.0, -96.0, -95.9])).tolist() == [True, True, False]
    assert not Axis.LINEAR.silent(np.array([-200.0])).any() and Axis.LOG.floor is None
    nudges = [p.axis.nudges(p.low, p.high) for p in (CUT, LEVEL, PAN)]
    assert nudges == [Nudges(1 / 6, 1 / 24, 1.0), Nudges(0.5, 0.1, 1.0), Nudges(1.0, 0.1, 10.0)]
    assert [p.format_distance(1.5) for p in (CUT, LEVEL, PAN, MUTE)] == ["1.50 octaves", "1.50 dB", "1.50", "1.5 steps"]
    assert MUTE.format_distance(1) == "1 step"
    assert (LEVEL.position(-42).item(), PAN.position(50).item()) == (pytest.approx(0.5), pytest.approx(0.75))
