"""Tables of points: out and back without loss, as other programs write them, and what is wrong with its line and column."""

import csv
import io
from dataclasses import replace

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st

from tests.strategies import sessions
from velmot.core.curves.axes import Axis
from velmot.core.curves.envelope import Envelope
from velmot.core.curves.segments import HOLD
from velmot.core.errors import RequestError
from velmot.core.parameters.parameter import Family, Kind, Label, Parameter, level
from velmot.core.progress import watched
from velmot.core.session.session import Session
from velmot.core.session.track import Lane, Region, Track
from velmot.core.time.ticks import TICKS_PER_BEAT as BEAT
from velmot.core.verbs import plan
from velmot.core.verbs.paste.request import Paste
from velmot.formats import clipboard, points_table, session_file
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
    assert curves(again) == curves(session) and again.region("r").name == "take" and again.name == "voice"


FEW = ["a", "b", " a", "a ", "=a", "'a", "a" * 300, "a\u202eb"]


@given(sessions(), st.randoms(use_true_random=False))
def test_any_session_out_and_in_again_is_itself_however_few_names_there_are(session, random):
    """Tracks, devices, parameters and regions under a handful of names: every lane comes back as itself, in its home."""

    def named(one, **more):
        return replace(one, name=random.choice(FEW), **more)

    tracks = tuple(
        named(
            t,
            parameters=tuple(named(p, unit=random.choice((p.unit, "=x", ""))) for p in t.parameters),
            devices=tuple(named(d) for d in t.devices),
            regions=tuple(named(r) for r in t.regions),
        )
        for t in session.tracks
    )
    session = replace(session, tracks=tracks).checked()
    if not session.lanes and not session.markers:
        return
    again, report = points_table.read(points_table.write(session)[0])
    assert again.markers == session.markers
    assert {x.id: (x.parameter, x.home) for x in again.lanes} == {x.id: (x.parameter, x.home) for x in session.lanes}
    for lane in session.lanes:
        there = again.lane(lane.id).envelope
        for one, other in zip(there.arrays(), lane.envelope.arrays(), strict=True):
            assert np.array_equal(one[:-1], other[:-1])
        was, now = session.parameter(lane.parameter), again.parameter(lane.parameter)
        assert replace(now, value=was.value, default=was.default, target=was.target, controller=was.controller,
                       useful=was.useful, extra=was.extra) == was  # fmt: skip
        owners = [s.owner(lane.parameter) for s in (session, again)]
        assert owners[0].name == owners[1].name and owners[0].device_of(was) == owners[1].device_of(now)
        if not lane.on_track:
            regions = [s.region(lane.home) for s in (session, again)]
            assert replace(regions[0], muted=False, container=False, sound=()) == regions[1], "a table has no sound"
    assert not any("order" in line for line in report.changed)


SAME = b"track,parameter,home,beat,value,unit\n"


@pytest.mark.parametrize(
    ("data", "place", "said"),
    [
        (
            SAME + b"A,Level,,1,-6,dB\nA,Level,,2,-5,dB\nA,Level,,1,-9,dB\n",
            "line 4, column beat",
            "two lanes of one name",
        ),
        (SAME + b"A,Level,,1,-6,dB\nA,Level,,2,-7,5,dB\n", "line 3, cell 7", "a decimal comma"),
        (b"track,parameter,beat,value,low,high\nA,x,0,1,0,9\nA,x,1,2,1,9\n", "line 3, column low", "says “1”"),
        (b"track,parameter,beat,value,beat\nA,x,0,1,0\n", "line 1", "names beat twice"),
        (b"track,parameter,beat,value,labels\nA,x,0,1,yes\n", "line 2, column labels", "cannot be read"),
        (b"track,parameter,beat,value,kind,labels\nA,x,0,1,switch,\n", "line 2", "cannot have 0 labels"),
    ],
)
def test_what_could_be_two_things_is_asked_about_and_never_mixed(data, place, said):
    with pytest.raises(FormatError) as caught:
        points_table.read(data)
    assert caught.value.place == place and said in caught.value.message and caught.value.accepted


def test_a_column_of_ones_own_tells_two_lanes_apart():
    data = b"lane,track,parameter,beat,value,unit\n1,A,x,1,1,\n2,A,x,1,0.5,\n1,A,x,2,0,\n2,A,x,2,1,\n"
    with pytest.raises(FormatError, match="two lanes for A x"):
        points_table.read(data)
    told = b"parameter_id," + data.replace(b"\n1,", b"\np1,1,").replace(b"\n2,", b"\np2,2,")
    session, _ = points_table.read(told)
    assert [x.envelope.values.tolist() for x in session.lanes] == [[1, 0], [0.5, 1]]


@pytest.mark.parametrize("encoding", ["utf-16-le", "utf-16-be", "cp1252", "utf-8"])
def test_tables_of_other_programs_with_a_line_that_names_the_separator(encoding):
    text = "sep=;\ntrack;parameter;beat;value;unit\nGlück – Ö;Level;1,5;-6,25;dB\nGlück – Ö;Level;x;1;dB\n"
    with pytest.raises(FormatError) as caught:
        points_table.read(text.encode(encoding))
    assert caught.value.place == "line 4, column beat", "counted with the line above the header"
    session, _ = read(text.rpartition("Glück")[0].encode(encoding), "x.csv")
    (lane,) = session.lanes
    assert (session.tracks[0].name, lane.envelope.ticks[0], lane.envelope.values[0]) == ("Glück – Ö", 1.5 * BEAT, -6.25)


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
    assert session.tracks[0].name == "Flöte" and "the table is not in UTF-8: read as Windows-1252" in report.changed
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
        (b"A,Level,,1,,40,dB,", "line 3, column value", "lies outside"),
        (b",Level,,1,,1,dB,", "line 3, column track", "is empty"),
        (b"A,Level,,1", "line 3, column value", "“” is not a number"),
        (b"A,Level,,0,,1,dB,\nA,Level,,0,,2,dB,", "line 4", "three points share one position"),
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


def test_named_values_come_back_with_their_names():
    words = (Label(0, "off"), Label(1, "a “b”, c"), Label(2, "=on"))
    kind = Parameter("p", "Mode", Family.DEVICE, Kind.STEPPED, low=0, high=2, labels=words)
    session = Session(
        "s",
        16 * BEAT,
        (Track("t", "T", parameters=(kind,)),),
        (Lane("L", "p", "track", Envelope.of([(0, 0.0, HOLD), (BEAT, 2.0)])),),
    )
    again, _ = points_table.read(points_table.write(session)[0])
    assert again.parameter("p") == kind
    assert np.array_equal(again.lanes[0].envelope.bends, session.lanes[0].envelope.bends)


def test_a_table_is_pasted_onto_lanes_that_are_there():
    """From its first point to its last, by the names of tracks and parameters, or onto one that is chosen."""
    text = "track,parameter,beat,value,unit\nVoice,Level,4,-6,dB\nVoice,Level,8,-12,dB\n"
    clips, start, length = clipboard.read(text)
    assert (start, length, clips[0].track) == (4 * BEAT, 4 * BEAT, "Voice")
    track = Track("t", "Voice", parameters=(level("l", value=-20.0), level("m", "Other", value=-20.0)))
    on = Session("s", 16 * BEAT, (track,)).checked()
    for onto, parameter in ((None, "l"), ("m", "m")):
        after = plan(on, "paste", Paste(clips, start, length, onto=onto)).applied_to(on)
        curve = after.lane_at(parameter).envelope
        assert [curve.value_at(b * BEAT) for b in (0, 4, 6, 8)] == [-20, -6, -9, -20]
