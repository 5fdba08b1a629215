"""Tables of points: out and back without loss, as other programs write them, and what is wrong with its line and column."""

import csv
import io

import numpy as np
import pytest
from hypothesis import given

from tests.strategies import sessions
from velmot.core.axes import Axis
from velmot.core.envelope import Envelope
from velmot.core.errors import RequestError
from velmot.core.parameters import Family, Parameter, level
from velmot.core.progress import watched
from velmot.core.segments import HOLD
from velmot.core.session import Lane, Region, Session, Track
from velmot.core.time import TICKS_PER_BEAT as BEAT
from velmot.formats import points_table, session_file
from velmot.formats.files import read
from velmot.formats.report import FormatError

HEAD = b"track,parameter,home,beat,seconds,value,unit,shape\r\n"


def rows_of(data):
    return list(csv.DictReader(io.StringIO(data.decode("utf-8"), newline="")))


def by_name(session):
    return {
        (
            session.owner(x.parameter).name,
            session.parameter(x.parameter).name,
            x.on_track or session.span(x),
        ): x.envelope
        for x in session.lanes
    }


def curves(session):
    return {k: (e.ticks.tolist(), e.values.tolist(), e.bends[:-1].tolist()) for k, e in by_name(session).items()}


def test_a_long_table_says_how_far_it_is_read_and_can_be_stopped(monkeypatch):
    monkeypatch.setattr(points_table, "_OFTEN", 10)
    data = b"track,parameter,beat,value\n" + b"".join(b"a,Level,%d,%d\n" % (n, -n) for n in range(60))
    told = []
    with watched(lambda part: told.append(part) or True):
        points_table.read(data)
    assert len(told) == 6 and told == sorted(told) and 0 < told[0] < told[-1] <= 0.8
    with watched(lambda part: False), pytest.raises(RequestError, match="this was stopped"):
        points_table.read(data)


@pytest.mark.parametrize(("column", "length"), [("track", 301), ("parameter", 301), ("home", 301), ("unit", 21)])
def test_a_text_that_no_session_could_hold_is_named(column, length):
    row = {"track": "a", "parameter": "Level", "home": "", "beat": "0", "value": "1", "unit": ""}
    for extra, wrong in ((0, True), (-1, False)):
        lines = [",".join(row), ",".join((row | {column: "x" * (length + extra)}).values())]
        if wrong:
            with pytest.raises(
                FormatError,
                match=f"ine 2, column {column}: has {length} characters",
            ):
                points_table.read("\n".join(lines).encode())
        else:
            session = points_table.read("\n".join(lines).encode())[0]
            assert session_file.read(session_file.write(session))[0] == session


def test_one_row_a_point_with_its_place_and_shape():
    take = Region("r", "take", 4 * BEAT, 4 * BEAT)
    track = Track("t", "Voice", parameters=(level("l"),), regions=(take,))
    lanes = (
        Lane("L", "l", "track", Envelope.of([(0, -6.0), (BEAT // 3, -3.5, HOLD)], Axis.LEVEL)),
        Lane("R", "l", "r", Envelope.of([(BEAT, -1.0, 2.5), (2 * BEAT, -96.0)], Axis.LEVEL)),
    )
    session = Session("s", 16 * BEAT, (track,), lanes)
    data, report = points_table.write(session)
    assert [[r[c] for c in points_table.COLUMNS] for r in rows_of(data)] == [
        ["Voice", "Level", "track", "0.0", "0.000000", "-6.0", "dB", "straight"],
        ["Voice", "Level", "track", "0.3333333", "0.166667", "-3.5", "dB", "straight"],
        ["Voice", "Level", "take", "5.0", "2.500000", "-1.0", "dB", "2.5"],
        ["Voice", "Level", "take", "6.0", "3.000000", "-96.0", "dB", "straight"],
    ]
    assert report.came == ["2 lanes, 4 points"]
    one, _ = points_table.write(session, ["R"])
    assert [r["home"] for r in rows_of(one)] == ["take", "take"]
    again, _ = read(data, "voice.csv")
    assert curves(again) == curves(session) and again.region("t1.r1").name == "take" and again.name == "voice"


@given(sessions())
def test_any_lanes_come_back_without_loss(session):
    if not session.lanes:
        return
    again, _ = points_table.read(points_table.write(session)[0])
    assert curves(again) == curves(session)
    for lane in session.lanes:
        parameter = session.parameter(lane.parameter)
        found = [p for t in again.tracks for p in t.parameters if p.name == parameter.name]
        assert all(
            (p.axis, p.low, p.high, p.unit) == (parameter.axis, parameter.low, parameter.high, parameter.unit)
            for p in found
        )


def test_names_are_no_formulas_and_come_back():
    names = ["=1+1", "+x", "-x", "@sum", "'quoted", "\tx", "a,b", 'say "x"', "zwei\nZeilen", "Ölfass"]
    tracks = tuple(Track(f"t{n}", name, parameters=(level(f"l{n}", name),)) for n, name in enumerate(names))
    lanes = tuple(Lane(f"L{n}", f"l{n}", "track", Envelope.constant(-6.0, Axis.LEVEL)) for n in range(len(names)))
    data, _ = points_table.write(Session("s", 16 * BEAT, tracks, lanes))
    assert all(not r["track"].startswith(("=", "+", "-", "@", "\t")) for r in rows_of(data))
    again, _ = points_table.read(data)
    assert [t.name for t in again.tracks] == names and [t.parameters[0].name for t in again.tracks] == names


@pytest.mark.parametrize(
    ("data", "said"),
    [
        (HEAD + b"A,Level,,1,,-6,dB,\r\nA,Level,,2,,-7.5,dB,hold\r\n", None),
        (b"Track;Parameter;Beat;Value;Unit\nA;Level;1;-6;dB\nA;Level;2,0;-7,5;dB\n", "its columns are parted by semicolons"),
        (b"beat\tvalue\ttrack\tparameter\tunit\n1\t-6\tA\tLevel\tdB\n2\t\xe2\x88\x927.5\tA\tLevel\tdB\n", "its columns are parted by tabs"),
        ((HEAD + b"A,Level,,1,,-6,dB,\nA,Level,,2,,-7.5,dB,\n").decode().encode("utf-16"), "the table is in UTF-16"),
        (b"\xef\xbb\xbf" + HEAD + b"A,Level,track,1,,-6,dB,straight\nA,Level,track,2,,-7.5,dB,\n\n,,,,,,,\n", None),
        (HEAD + b"A,Level,,2,,-7.5,dB,\nA,Level,,1,,-6,dB,\n", "A Level: its rows were not in order of time"),
    ],
)  # fmt: skip
def test_tables_as_other_programs_write_them(data, said):
    session, report = read(data, "x.csv")
    (lane,) = session.lanes
    assert lane.envelope.ticks.tolist() == [BEAT, 2 * BEAT] and lane.envelope.values.tolist() == [-6, -7.5]
    assert session.parameter(lane.parameter).axis is Axis.LEVEL and (said is None or said in report.changed)
    assert "1 parameter without a range in the table got one from the values: Level" in report.changed


def test_other_encodings_columns_and_units():
    data = "track,parameter,beat,value,unit,colour\nFlöte,Cutoff,0,440,Hz,red\nFlöte,Mix,0,0.5,,\nFlöte,Drive,0,-3,,\n"
    session, report = read(data.encode("latin-1"), "x.csv")
    kinds = {p.name: (p.axis, p.low, p.high, p.family) for p in session.tracks[0].parameters}
    assert session.tracks[0].name == "Flöte" and "the table is not in UTF-8: read as Latin-1" in report.changed
    assert kinds["Cutoff"] == (Axis.LOG, 20, 20000, Family.DEVICE) and kinds["Mix"] == (
        Axis.LINEAR,
        0,
        1,
        Family.DEVICE,
    )
    assert kinds["Drive"] == (Axis.LINEAR, -3, -2, Family.DEVICE)
    assert report.left_out == ["1 column Velmot does not know: colour"]


@pytest.mark.parametrize(
    ("row", "place", "said"),
    [
        (b"A,Level,,x,,-6,dB,", "line 3, column beat", "“x” is not a number"),
        (b"A,Level,,1,,loud,dB,", "line 3, column value", "“loud” is not a number"),
        (b"A,Level,,1,,nan,dB,", "line 3, column value", "is too large"),
        (b"A,Level,,1e9,,1,dB,", "line 3, column beat", "is no place in a session"),
        (b"A,Level,,-1,,1,dB,", "line 3, column beat", "is no place in a session"),
        (b"A,Level,,1,,1,dB,wobbly", "line 3, column shape", "“wobbly” is not a number"),
        (b"A,Level,,1,,1,dB,99", "line 3, column shape", "bends too far"),
        (b"A,Level,,1,,40,dB,", "line 2, column value", "lie outside"),
        (b",Level,,1,,1,dB,", "line 3, column track", "is empty"),
        (b"A,Level,,1", "line 3, column value", "“” is not a number"),
        (b"A,Level,,0,,1,dB,\nA,Level,,0,,2,dB,", "line 2", "three points share one position"),
    ],
)
def test_a_bad_row_names_its_line_and_column(row, place, said):
    with pytest.raises(FormatError) as caught:
        points_table.read(HEAD + b"A,Level,,0,,-6,dB,\n" + row + b"\n")
    assert caught.value.place == place and said in caught.value.message and caught.value.accepted


@pytest.mark.parametrize(
    "data", [HEAD, b"track,beat,value\na,1,2\n", b'track,parameter,beat,value\n"' + b"x" * 200_000]
)
def test_what_is_no_table_is_refused(data):
    with pytest.raises(FormatError) as caught:
        points_table.read(data)
    assert caught.value.place and caught.value.accepted


def test_named_values_come_back_as_numbers():
    kind = Parameter("p", "Mode", Family.DEVICE, low=0, high=2)
    session = Session(
        "s",
        16 * BEAT,
        (Track("t", "T", parameters=(kind,)),),
        (Lane("L", "p", "track", Envelope.of([(0, 0.0, HOLD), (BEAT, 2.0)])),),
    )
    again, _ = points_table.read(points_table.write(session)[0])
    assert np.array_equal(again.lanes[0].envelope.bends, session.lanes[0].envelope.bends)
