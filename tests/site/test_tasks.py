"""The task pages: what each says in JSON is done on the demo, and is what the page promises."""

import json
import re
from functools import cache
from pathlib import Path

import numpy as np
import pytest

import velmot
from velmot import ticks_of as b
from velmot.core.curves.difference import largest_difference
from velmot.core.session.session import Session
from velmot.site.demo import skerry_light

TASKS = Path(__file__).parents[2] / "docs" / "tasks"
DEMO = skerry_light.session()


@cache
def done(page: str) -> Session:
    """The demo, once all that stands on a page was done."""
    session = DEMO
    for block in re.findall(r"^```json\n(.*?)^```", (TASKS / page).read_text(), re.M | re.S):
        for request in json.loads(block):
            session = velmot.apply(session, request)
    return session


def curve(session: Session, parameter: str):
    return session.in_session_time(session.lane_at(parameter))


def test_every_page_is_listed_and_has_its_test():
    pages = {path.name for path in TASKS.glob("*.md")} - {"README.md"}
    listed = set(re.findall(r"\(([\w-]+\.md)\)", (TASKS / "README.md").read_text())) - {"README.md"}
    tried = set(re.findall(r'done\("([\w-]+\.md)"\)', Path(__file__).read_text()))
    assert pages == listed == tried and len(pages) == 10


def test_mutes():
    after = done("mute-pattern.md")
    for track in ("bell", "gulls", "rain", "keeper"):
        assert curve(after, f"{track}.mute").points() == curve(DEMO, "foghorn.mute").points()


def test_a_voice_is_nearer_to_its_level():
    moved = np.array(range(b(8), b(120), b(1)))
    before, after = (curve(s, "keeper.level").at(moved) for s in (DEMO, done("ride-a-voice.md")))
    assert 1 < float(np.abs(after - before).max()) <= 6.1 + 1e-6, "by 6 at most, thinned within 0.1"


def test_two_devices_move_with_one_swell():
    after = done("one-gesture.md")
    at = np.array(range(b(32), b(48), b(0.5)))
    for parameter, low, high in (("engine.rumble.rumble-cutoff", 200, 3200), ("choir.vowel.vowel-filter", 400, 1600)):
        values = curve(after, parameter).at(at)
        assert low - 1e-6 <= values.min() and values.max() <= high + 1e-6 and values.max() > 0.9 * high


def test_a_pan_goes_half_as_far():
    at = np.array(range(0, DEMO.length, b(0.5)))
    assert np.allclose(
        curve(done("pan-in.md"), "bell.pan").at(at), curve(DEMO, "bell.pan").at(at) / 2, rtol=0, atol=1e-9
    )


def test_what_was_not_heard_is():
    kinds = {one.kind for one in velmot.findings(DEMO)} - {one.kind for one in velmot.findings(done("not-heard.md"))}
    assert not DEMO.track("choir").reads and done("not-heard.md").track("choir").reads and kinds


def test_a_swell_is_kept():
    (phrase,) = done("another-song.md").phrases
    assert phrase.name == "swell" and phrase.length == b(16)


def test_the_rain_makes_room():
    at = np.array(range(0, DEMO.length, b(0.25)))
    far = curve(DEMO, "rain.level").at(at) - curve(done("make-room.md"), "rain.level").at(at)
    assert far.max() == pytest.approx(6, abs=0.2) and far.min() == pytest.approx(0, abs=0.2)


def test_a_passage_is_louder_and_nothing_else():
    before, after = curve(DEMO, "bell.level"), curve(done("raise-a-passage.md"), "bell.level")
    inside, outside = (
        np.array(range(b(33), b(48), b(0.5))),
        np.array([*range(0, b(32), b(0.5)), *range(b(48), DEMO.length, b(0.5))]),
    )
    assert np.allclose(after.at(inside), before.at(inside) + 2, rtol=0, atol=1e-9)
    assert np.array_equal(after.at(outside), before.at(outside))


def test_a_region_comes_three_times_with_its_moves():
    after = done("repeat-a-region.md")
    first, *more = [r for r in after.track("bell").regions if r.name == "toll 2"]
    assert [r.start - first.start for r in more] == [first.length, 2 * first.length]
    for region in more:
        assert (
            after.lane_at("bell.level", region.id).envelope.points()
            == after.lane_at("bell.level", first.id).envelope.points()
        )


def test_fewer_points_within_the_bound():
    before, after = curve(DEMO, "choir.vowel.vowel-filter"), curve(done("fewer-points.md"), "choir.vowel.vowel-filter")
    assert len(after) < 0.7 * len(before)
    assert largest_difference(before, after, 0, DEMO.length)[0] <= 0.1 + 1e-9
