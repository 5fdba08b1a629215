"""Parameters: how values are written, typed and refused."""

import pytest
from hypothesis import given

from tests.strategies import values
from velmot.core.axes import Axis
from velmot.core.errors import RequestError
from velmot.core.parameters import Family, Kind, Label, Parameter, level, mute, pan

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
