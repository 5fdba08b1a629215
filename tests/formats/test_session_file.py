"""The session file: lossless both ways, and every bad one named by place."""

import json
from dataclasses import replace

import jsonschema
import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st

from tests.strategies import sessions
from velmot.core.curves import editing
from velmot.core.curves.envelope import Envelope
from velmot.core.curves.segments import HOLD
from velmot.core.parameters.parameter import Family, Parameter
from velmot.core.session.session import Session
from velmot.core.session.track import Lane, Track
from velmot.core.verbs import plan
from velmot.core.verbs.thin.request import Thin
from velmot.formats import files, session_file
from velmot.formats.report import FormatError
from velmot.formats.session_shape import SessionShape
from velmot.site.demo import skerry_light

MARKUP = "<img src=x onerror=alert(1)>"


def small(**more):
    level = {"family": "level", "unit": "dB", "axis": "level", "low": -96, "high": 12, "default": 0, "value": -4.5}
    track = {"id": "bell", "name": MARKUP, "parameters": [{"id": "bell.level", "name": "Level", **level}]}
    lane = {"id": "L1", "parameter": "bell.level", "points": [[0, -24], [16, -9.5, "hold"], [20, -3.5, 1.2]]}
    content = {"format": "velmot-session", "version": 1, "name": "S", "length": 64, "tracks": [track], "lanes": [lane]}
    return content | more


def read(content):
    return session_file.read(json.dumps(content).encode())[0]


@given(sessions())
def test_writing_then_reading_gives_the_same_to_the_last_bit(session):
    data = session_file.write(session)
    again, _ = session_file.read(data)
    assert again == session
    assert session_file.write(again) == data


def test_the_demo_is_always_the_same_and_fits_its_schema():
    data = session_file.write(skerry_light.session())
    assert data == session_file.write(skerry_light.session())
    jsonschema.validate(json.loads(data), SessionShape.model_json_schema())


def test_a_written_point_by_hand():
    session = read(small())
    row = json.loads(session_file.write(session))["lanes"][0]
    assert row["points"] == [[0, -24], [16, -9.5, "hold"], [20, -3.5]], "the last shape says nothing and goes"


def test_what_is_not_known_is_kept_and_said():
    data = json.dumps(small(colour="teal")).encode()
    session, report = session_file.read(data)
    assert json.loads(session_file.write(session))["colour"] == "teal"
    assert report.changed == ["the session: kept without using: colour"]


def lanes(*points):
    return {"lanes": [{"id": "L1", "parameter": "bell.level", "points": list(points)}]}


def group(*pairs):
    tracks = small()["tracks"]
    return {"tracks": tracks + [{"id": a, "name": a, "kind": "group", "members": [b]} for a, b in pairs]}


@pytest.mark.parametrize(
    ("change", "code", "place"),
    [
        (lanes([0, float("nan")]), "points", "lanes[0].points[0]"),
        (lanes([4, -3], [2, -3]), "points", "lanes[0].points[1]"),
        (lanes([0, -3, "wobble"]), "points", "lanes[0].points[0]"),
        (lanes([0, 40]), "value-range", "lanes[0].points[0]"),
        (lanes([1e300, 0]), "points", "lanes[0].points[0]"),
        ({"lanes": lanes([0, 0])["lanes"] * 2}, "id-twice", "lane L1"),
        (
            {"lanes": [{"id": i, "parameter": "bell.level", "points": [[0, 0]]} for i in "ab"]},
            "lane-twice",
            "lanes[1]",
        ),
        (group(("g", "g")), "group-circle", "track g, members"),
        (group(("g", "h"), ("h", "g")), "group-circle", "track g, members"),
        ({"tempo": [[0, 1e9]]}, "tempo-range", "tempo[0]"),
        ({"tempo": [{"at": 0, "bpm": 120}]}, "not-fitting", "tempo[0]"),
        ({"tempo": [[0, "fast"]]}, "not-fitting", "tempo[0][1]"),
        ({"version": 7}, "version-unknown", "version"),
        ({"format": "other"}, "format-unknown", "format"),
        ({"length": 0}, "not-fitting", "length"),
        ({"name": ""}, "not-fitting", "name"),
        ({"lanes": lanes()["lanes"]}, "points-none", "lanes[0].points"),
        ({"tracks": [{"id": "t", "name": "t", "kind": "spoon"}]}, "not-fitting", "tracks[0].kind"),
    ],
)
def test_bad_files_name_the_place(change, code, place):
    with pytest.raises(FormatError) as caught:
        read(small(**change))
    assert (caught.value.code, caught.value.place) == (code, place)
    assert caught.value.message and caught.value.accepted


@pytest.mark.parametrize(
    ("data", "name", "code"),
    [
        (b"", "x.velmot.json", "file-empty"),
        (b"", "x", "file-empty"),
        (b"{", "x.json", "not-json"),
        (b"[1]", "x.json", "not-session"),
        (b"\xff\xfe{", "x.json", "not-utf8"),
        (b"[" * 200_000, "x.json", "nested"),
        (b"just words", "x.txt", "file-unknown"),
        (b"just words", "x.mid", "not-midi"),
    ],
)
def test_files_that_are_no_session(data, name, code):
    with pytest.raises(FormatError) as caught:
        files.read(data, name)
    assert caught.value.code == code


def put(content, path, value):
    """The content with one thing in it another."""
    if not path:
        return value
    some = dict(content) if isinstance(content, dict) else list(content)
    some[path[0]] = put(some[path[0]], path[1:], value)
    return some


def places(content, path=()):
    """Every place in a file's content."""
    yield path
    if isinstance(content, dict | list):
        for key in content if isinstance(content, dict) else range(len(content)):
            yield from places(content[key], (*path, key))


@pytest.mark.parametrize("value", [True, "4", "hold", None, [], {}, 4.5, -1], ids=repr)
def test_the_reader_takes_nothing_that_the_schema_does_not(value):
    """A number written as text, a truth value: refused by both, at every place of a file."""
    content = small(meter=[[0, 3, 4]], tempo=[[0, 120]])
    schema = jsonschema.Draft202012Validator(SessionShape.model_json_schema())
    assert schema.is_valid(content) and read(content)
    for path in [p for p in places(content) if p]:
        other = put(content, path, value)
        if not schema.is_valid(other):
            with pytest.raises(FormatError):
                read(other)


def phrased(**more):
    shape = {
        "kind": "sine",
        "cycles": 2,
        "phase": 0.5,
        "skew": 0.5,
        "grow_from": 0,
        "grow_to": 100,
        "hurry": 1,
        "lean": 0,
    }
    phrases = [{"id": "p", "name": "P", "length": 4, "shape": shape | more.pop("shape", {}), **more}]
    return small(version=2, phrases=phrases, placements=[], meter=[[0, 3, 4]], tempo=[[0, 120], [4, 90, "ramp"]])


WRONG = [
    *((("tempo", 0, 1), v) for v in (0.5, 1000.1, 0, -1)),
    *((("meter", 0, 2), v) for v in (3, 0, 65, 48)),
    *(((name,), []) for name in ("tempo", "meter")),
    (("tempo", 0, 0), 1),
    (("meter", 0, 0), 4),
    (("lanes", 0, "points", 0, 0), 1_000_001),
    (("lanes", 0, "points", 2, 2), 61),
    (("lanes", 0, "points", 0, 1), 1e13),
    *((("phrases", 0, "length"), v) for v in (0, -1, 1_000_001)),
    *((("phrases", 0, "shape", "cycles"), v) for v in (0, -1)),
    *((("phrases", 0, "shape", "phase"), v) for v in (-0.1, 1.1)),
    *((("phrases", 0, "shape", "skew"), v) for v in (0, 1)),
    *((("phrases", 0, "shape", "grow_from"), v) for v in (-1, 1001)),
    *((("phrases", 0, "shape", "grow_to"), v) for v in (-1, 1001)),
    *((("phrases", 0, "shape", "hurry"), v) for v in (0, 0.0001, 1001)),
    (("phrases", 0, "shape"), None),
    (("phrases", 0, "points"), [[0, 0], [4, 1]]),
    *((("markers",), [{"id": "k", "at": v}]) for v in (-1, 1_000_001, "1", None)),
    *(
        (("markers",), [{"id": "k", "at": 1} | more])
        for more in ({"name": "x" * 301}, {"name": None}, {"cue": 1}, {"id": ""})
    ),
    *((("tracks", 0, "regions"), [{"id": "r", "name": "r", "start": 0, "length": v}]) for v in (0, -1)),
]


@pytest.mark.parametrize(("path", "value"), WRONG, ids=repr)
def test_the_schema_takes_nothing_that_the_reader_does_not(path, value):
    """Field by field: whatever is out of reach of one is out of reach of the other."""
    content = phrased(points=None)
    content["tracks"][0]["regions"] = []
    content["markers"] = []
    schema = jsonschema.Draft202012Validator(SessionShape.model_json_schema())
    assert schema.is_valid(content) and read(content)
    other = put(content, path, value)
    with pytest.raises(FormatError) as caught:
        read(other)
    assert not schema.is_valid(other) and caught.value.place


ODD = st.sampled_from(
    [-0.0, 0.0, 5e-324, -5e-324, 2.2250738585072014e-308, 0.1 + 0.2, 1 / 3, -1e-17, 123456789.12345678]
)


@given(
    st.lists(
        st.tuples(st.integers(0, 10**9), ODD, st.sampled_from([-0.0, 0.0, 1e-300, 0.1 + 0.2, HOLD])),
        min_size=2,
        max_size=9,
    )
)
def test_files_are_bit_exact_and_there_is_one_zero(rows):
    """Negative zeros, the smallest numbers and the longest decimals: out and in again are the same bits, thinned or not."""
    at = sorted({t for t, _, _ in rows})
    made = Envelope.of([(t, v, k) for t, (_, v, k) in zip(at, rows, strict=False)])
    turned = editing.map_axis(made, -1.0, 0.0)
    span = Parameter("p", "x", Family.DEVICE, low=-1e12, high=1e12)
    track = Track("t", "T", parameters=(span, replace(span, id="q", name="y")))
    session = Session("s", 10**9, (track,), (Lane("L", "p", "track", made), Lane("M", "q", "track", turned))).checked()
    thinned = plan(session, "thin", Thin(("L", "M"))).applied_to(session)
    for one in (session, thinned):
        again, _ = session_file.read(data := session_file.write(one))
        assert session_file.write(again) == data
        for lane in one.lanes:
            for here, there in zip(lane.envelope.arrays(), again.lane(lane.id).envelope.arrays(), strict=True):
                assert here.tobytes() == there.tobytes()
            zeros = np.concatenate([x[x == 0] for x in lane.envelope.arrays()[1:]])
            assert not np.signbit(zeros).any()
    assert plan(thinned, "thin", Thin(("L", "M"))).empty == plan(again, "thin", Thin(("L", "M"))).empty
