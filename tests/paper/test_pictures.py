"""Pictures of strips: the curve where it is, what would come in orange, names as text, the same bytes for the same session."""

import re
import xml.etree.ElementTree as ET
from dataclasses import replace
from io import BytesIO
from pathlib import Path

import numpy as np
import pytest
from hypothesis import assume, given, settings
from hypothesis import strategies as st
from matplotlib.image import imread
from pypdf import PdfReader

from tests.core.verbs.test_every_option import AFTER_CARRY, DEMO, b
from tests.strategies import sessions
from velmot.core.curves.envelope import Envelope
from velmot.core.curves.segments import HOLD
from velmot.core.errors import RequestError
from velmot.core.parameters.parameter import level
from velmot.core.session.recall import recall_of
from velmot.core.session.session import Session
from velmot.core.verbs import plan
from velmot.core.verbs.shape.request import RaiseSpan
from velmot.paper import pictures
from velmot.paper.pictures import FORMS, MOST_STRIPS, Wanted, corners, drawn
from velmot.paper.sheets import written

SEEN = ("bell.level", "gulls.level")
BOTH = Wanted(SEEN, 0, b(64), "both", AFTER_CARRY)
NASTY = "<script>x</script> & שלום $\\frac{1}{2}$"


def strokes(svg: bytes, colour: str) -> int:
    """How many lines of a colour are drawn."""
    return len(re.findall(rf"stroke: {colour}", svg.decode()))


@pytest.mark.parametrize("form", FORMS)
def test_the_same_session_is_the_same_picture(form):
    assert drawn(DEMO, BOTH, form) == drawn(DEMO, BOTH, form)


def test_only_what_would_be_otherwise_is_orange():
    now, both, applied = (drawn(DEMO, replace(BOTH, shows=shows), "svg") for shows in ("now", "both", "applied"))
    assert strokes(now, pictures.FRESH) == 0 and strokes(now, pictures.INKS["level"]) == 2
    assert strokes(both, pictures.FRESH) == 1, "the gulls, where they would be otherwise"
    assert "stroke-dasharray" in both.decode() and "stroke-dasharray" not in now.decode()
    assert strokes(applied, pictures.FRESH) == 2 and strokes(applied, pictures.INKS["level"]) == 0
    for svg, words in (
        (now, "what each does now."),
        (both, "orange what it would do there."),
        (applied, "would do if it was applied."),
    ):
        assert words in svg.decode()


def test_it_is_orange_from_where_it_differs_to_where_it_does_not():
    """The carry lands in bars 9 to 13 and jumps at both ends; a rise with ramps differs from the ramp's start to its end."""
    assert pictures._otherwise(DEMO, AFTER_CARRY, "gulls.level", 0, b(64)) == (b(32), b(48))
    assert pictures._otherwise(DEMO, AFTER_CARRY, "gulls.level", b(36), b(40)) == (b(36), b(40))
    assert pictures._otherwise(DEMO, AFTER_CARRY, "bell.level", 0, b(64)) == (b(64), b(64))
    asked = RaiseSpan(("L1",), b(34), b(46), 2.0, before=b(1), after=b(1))
    raised = plan(DEMO, "raise", asked).applied_to(DEMO)
    assert pictures._otherwise(DEMO, raised, "bell.level", 0, b(64)) == (b(33), b(47))


def test_a_track_that_is_off_says_so_over_its_lanes_alone():
    said = "its track is off: these lanes are not heard"
    off = drawn(DEMO, Wanted(("choir.level", "choir.mute"), 0, b(64)), "svg").decode()
    assert off.count(said) == 1 and "Kelp choir Level   its track is off" in off
    assert said not in drawn(DEMO, Wanted(SEEN, 0, b(64)), "svg").decode()


def test_corners_lie_on_the_curve_on_both_sides_of_each_point():
    p = level("x")
    curve = Envelope.of([(b(0), -6.0, HOLD), (b(4), -12.0), (b(8), 0.0), (b(8), -24.0, 3.0), (b(12), -6.0)], p.axis)
    ticks, places = corners(curve, p, b(2), b(10))
    assert ticks[0] == b(2) and ticks[-1] == b(10)
    found = {(t / b(1), round(float(v), 9)) for t, v in zip(ticks, places, strict=True)}
    for at, value in ((2, -6), (4, -6), (4, -12), (8, 0), (8, -24)):
        assert (at, round(float(p.position(value)), 9)) in found
    assert sum(b(8) < t < b(10) for t in ticks) > 20, "a bend has many"
    assert sum(b(4) < t < b(8) for t in ticks) == 0, "a line has none"
    bent = [(t, v) for t, v in zip(ticks, places, strict=True) if b(8) < t < b(10)]
    assert np.allclose(
        [v for _, v in bent], p.position(curve.at(np.array([int(t) for t, _ in bent]))), rtol=0, atol=1e-9
    )


def test_a_dense_lane_is_drawn_by_its_lows_and_highs():
    dense = Envelope.of([(n * 1000, -6.0 - n % 2) for n in range(10_000)], level("x").axis)
    lane = replace(DEMO.lane("L1"), envelope=dense)
    svg = drawn(
        DEMO.with_lanes([lane, *(x for x in DEMO.lanes if x.id != "L1")]), Wanted(("bell.level",), 0, 10**7), "svg"
    )
    assert len(svg) < 400_000


def test_names_and_bars_are_text_in_svg_and_pdf():
    tracks = [replace(t, name=NASTY) if t.id == "bell" else t for t in DEMO.tracks]
    session = replace(DEMO.with_tracks(tracks), name=NASTY)
    root = ET.fromstring(drawn(session, BOTH, "svg"))
    texts = [el.text or "" for el in root.iter("{http://www.w3.org/2000/svg}text")]
    assert NASTY in texts and f"{NASTY} Level" in texts and "1.1.00 to 17.1.00, 0:00.0 to 0:40.0" in texts
    assert not [el for el in root.iter() if el.tag.endswith("script")]
    said = PdfReader(BytesIO(drawn(DEMO, BOTH, "pdf"))).pages[0].extract_text()
    for words in ("Skerry Light", "Bell buoy Level", "toll 2", "0:20.0", "what it would do there"):
        assert words in said


def test_the_line_stands_where_the_value_is():
    """Pixels of the level's ink, against the values they stand for: a ramp from −48 to 0 dB over the whole picture."""
    ramp = Envelope.of([(0, -48.0), (b(16), 0.0)], level("x").axis)
    session = Session(
        "s",
        b(16),
        (replace(DEMO.track("gulls"), id="t", regions=(), parameters=(level("l"),)),),
        (replace(DEMO.lane("L1"), id="L", parameter="l", envelope=ramp),),
    )
    pixels = (imread(BytesIO(drawn(session, Wanted(("l",), 0, b(16)), "png")))[:, :, :3] * 255).round().astype(int)
    ink = np.array([int(pictures.INKS["level"][i : i + 2], 16) for i in (1, 3, 5)])
    rows, columns = np.nonzero(np.abs(pixels - ink).sum(axis=2) < 12)
    width = pixels.shape[1]
    assert columns.min() / width == pytest.approx(0.03, abs=0.005) and columns.max() / width == pytest.approx(
        0.93, abs=0.005
    )
    p = session.parameter("l")
    heights = [
        rows[np.abs(columns - columns.min() - share * np.ptp(columns)) < 2].mean() for share in (0.02, 0.5, 0.98)
    ]
    wanted = [float(p.position(ramp.value_at(int(share * b(16))))) for share in (0.02, 0.5, 0.98)]
    assert (heights[0] - heights[1]) / (heights[0] - heights[2]) == pytest.approx(
        (wanted[1] - wanted[0]) / (wanted[2] - wanted[0]), abs=0.02
    )


def test_what_cannot_be_drawn_is_refused():
    for wanted, said in (
        (Wanted((), 0, b(4)), "no lane is chosen"),
        (Wanted(("bell.level",) * (MOST_STRIPS + 1), 0, b(4)), "a picture of 61 strips could not be read"),
        (Wanted(SEEN, b(4), b(4)), "the range lies beyond"),
        (Wanted(SEEN, 0, DEMO.length + 1), "the range lies beyond"),
        (Wanted(("spoon",), 0, b(4)), "spoon"),
    ):
        with pytest.raises(RequestError, match=said):
            drawn(DEMO, wanted, "svg")


def test_sound_lies_behind_levels_only():
    from velmot.paper.silhouettes import silhouettes
    from velmot.sound.library import Library

    found = silhouettes(DEMO, ("bell.level", "bell.pan", "swell.level"), 0, b(64), Library(), lambda audio: False)
    assert set(found) == {"bell.level"} and 0.1 < found["bell.level"].max() <= 1 and found["bell.level"].min() == 0
    svg = drawn(DEMO, replace(BOTH, shows="now"), "svg", found).decode()
    assert pictures.SOUND in svg and "Ground: the sound." in svg
    assert pictures.SOUND not in drawn(DEMO, replace(BOTH, shows="now"), "svg").decode()


KEPT = Path(__file__).parent / "kept.png"


def test_the_picture_is_the_one_that_was_looked_at():
    """Pixel by pixel within a bound, as another version of the library may set letters a little otherwise."""
    now, kept = (imread(BytesIO(data))[:, :, :3] for data in (drawn(DEMO, BOTH, "png"), KEPT.read_bytes()))
    assert now.shape == kept.shape
    apart = np.abs(now - kept).max(axis=2) > 0.25
    assert apart.mean() < 0.002, (
        f"{apart.mean():.2%} of the pixels are otherwise: look at it, and keep it anew if it is right"
    )


@given(sessions())
def test_corners_of_any_lane_lie_on_it_and_inside_its_strip(session):
    """Regions, silence, near-jumps and named values among them."""
    for lane in session.lanes:
        parameter, curve, (start, end) = (
            session.parameter(lane.parameter),
            session.in_session_time(lane),
            session.span(lane),
        )
        ticks, places = corners(curve, parameter, start, end)
        assert ((places > -1e-9) & (places < 1 + 1e-9)).all() and (np.diff(ticks) >= 0).all()
        whole = ticks.astype(np.int64)
        sides = [parameter.position(curve.at(whole, side)) for side in ("left", "right")]
        assert (np.minimum(*(np.abs(places - side) for side in sides)) < 1e-9).all()


@settings(max_examples=4)
@given(sessions(), st.data())
def test_any_session_is_drawn_and_told(session, data):
    ids = [p.id for t in session.tracks for p in t.parameters][:3]
    assume(ids)
    start = data.draw(st.integers(0, session.length - 1))
    wanted = Wanted(tuple(ids), start, data.draw(st.integers(start + 1, session.length)), "both", session)
    assert strokes(drawn(session, wanted, "svg"), pictures.FRESH) == 0, "nothing would be otherwise"
    text = written(recall_of(session), "txt").decode()
    assert all(track.name in text for track in session.tracks)
