"""Task pages, done by hand as they say it: what comes of it is what the same page's requests make."""

import numpy as np
from playwright.sync_api import expect

from tests.browser.test_reshape_by_hand import choose
from tests.site.test_tasks import curve, done
from velmot.core.time.ticks import ticks_of


def test_a_mute_pattern_is_copied_to_four_tracks_as_the_page_says(desk, server, page):
    desk.open()
    choose(page, "foghorn muted")
    page.keyboard.press("c")
    for name in ("Bell buoy", "Gulls", "Glass rain", "Keeper"):
        desk.choose_track(name)
    desk.apply()
    desk.at_revision(1)
    for track in ("bell", "gulls", "rain", "keeper"):
        assert (
            curve(server.session(), f"{track}.mute").points()
            == curve(done("mute-pattern.md"), f"{track}.mute").points()
        )


def test_a_pan_is_brought_in_as_the_page_says(desk, server, page):
    desk.open()
    choose(page, "bell pan")
    page.keyboard.press("r")
    page.get_by_label("To what percent, in plain numbers").fill("50")
    desk.choose("What stays, in plain numbers", "the centre")
    expect(desk.result).to_contain_text("Bell buoy Pan")
    desk.apply()
    desk.at_revision(1)
    at = np.array(range(0, ticks_of(256), ticks_of(1)))
    made, wanted = (curve(s, "bell.pan").at(at) for s in (server.session(), done("pan-in.md")))
    assert np.allclose(made, wanted, rtol=0, atol=1e-9)


def test_fewer_points_as_the_page_says(desk, server, page):
    desk.open()
    choose(page, "vowel filter")
    page.keyboard.press("Shift+T")
    page.get_by_label("Bound in octaves").fill("0.1")
    page.keyboard.press("Enter")
    expect(desk.result).to_contain_text("218 →")
    desk.apply()
    desk.at_revision(1)
    made = [
        s.lane_at("choir.vowel.vowel-filter").envelope.points() for s in (server.session(), done("fewer-points.md"))
    ]
    assert made[0] == made[1]
