"""The folded worksheet: the usual verbs from opening to applied, by the sentence alone, with the mouse or the keyboard."""

import numpy as np
import pytest
from playwright.sync_api import expect

from tests.browser.conftest import Desk
from velmot.core.time.ticks import ticks_of


@pytest.fixture
def folded(page, server) -> Desk:
    return Desk(page, server, folded=True)


def part(page, text: str):
    """A part of the sentence that can be changed."""
    return page.locator(".sentence").get_by_role("button", name=text, exact=True)


def at(lane, *beats):
    return lane.envelope.at(np.array([ticks_of(b) for b in beats]))


def test_a_newcomer_carries_a_curve_in_four_actions(folded, server, page):
    """Open the sample, drag over a strip, choose a track, apply."""
    source = server.session().lane("L1")
    page.goto(server.url)
    page.get_by_role("link", name="Open Skerry Light").click()
    expect(page.locator("section.strip")).to_have_count(7)
    folded.drag_range("bell.level", 32, 48)
    part(page, "choose a track").click()
    page.get_by_role("option", name="Gulls", exact=True).click()
    expect(page.locator(".sentence")).to_contain_text("Bell buoy Level from 9.1.00 to 13.1.00 to Gulls, the same place")
    folded.apply()
    folded.at_revision(1)
    assert np.allclose(at(server.session().lane_at("gulls.level"), 33, 40, 47), at(source, 33, 40, 47))


def test_with_the_keyboard_alone_a_lane_is_found_and_carried(folded, server, page):
    folded.open()
    page.keyboard.press("/")
    page.keyboard.type("keeper presence")
    page.keyboard.press("ArrowDown")
    page.keyboard.press("Enter")
    part(page, "choose a track").focus()
    page.keyboard.press("Enter")
    page.get_by_role("option", name="Gulls", exact=True).wait_for()
    page.keyboard.type("Keeper")
    page.get_by_role("option", name="Gulls", exact=True).wait_for(state="hidden")
    page.keyboard.press("Enter")
    expect(part(page, "Keeper")).to_be_visible()
    page.keyboard.press("Escape")
    part(page, "the same place").focus()
    page.keyboard.press("Enter")
    page.keyboard.type("41.1")
    page.keyboard.press("Enter")
    expect(part(page, "41.1.00")).to_be_visible()
    page.keyboard.press("Escape")
    expect(part(page, "41.1.00")).to_be_focused()
    page.keyboard.press("Control+Enter")
    folded.at_revision(1)
    lane = server.session().lane_at("keeper.presence.gain")
    assert np.allclose(at(lane, 164, 180), at(lane, 4, 20))


def test_a_level_is_fitted_onto_a_filter_between_typed_ends(folded, server, page):
    folded.open()
    folded.drag_range("bell.level", 32, 48)
    page.keyboard.press("t")
    part(page, "choose a parameter").click()
    page.keyboard.type("Rumble cutoff")
    page.get_by_role("option", name="Engine room Rumble cutoff").click()
    page.keyboard.press("Escape")
    part(page, "30.0 Hz").click()
    field = page.get_by_role("textbox", name="Lowest lands on")
    field.fill("200 Hz")
    field.press("Enter")
    expect(part(page, "200 Hz")).to_be_visible()
    page.keyboard.press("Escape")
    folded.apply()
    folded.at_revision(1)
    curve = server.session().lane_at("engine.rumble.rumble-cutoff").envelope
    low, high = curve.extremes(ticks_of(32), ticks_of(48))
    assert (low, high) == pytest.approx((200, 4000))


def test_raising_and_clearing_a_range(folded, server, page):
    folded.open()
    before = server.session().lane("L1")
    folded.drag_range("bell.level", 33, 40)
    page.keyboard.press("r")
    part(page, "pull a rail, or type an amount").click()
    field = page.get_by_label("By how many dB")
    field.fill("-3")
    field.press("Enter")
    expect(page.locator(".sentence")).to_contain_text("from 9.2.00 to 11.1.00: by −3.00 dB")
    page.keyboard.press("Escape")
    folded.apply()
    folded.at_revision(1)
    assert np.allclose(at(server.session().lane("L1"), 34, 39), at(before, 34, 39) - 3)
    page.locator(".sentence .verb").click()
    page.get_by_role("group", name="Verbs").get_by_role("button", name="Clear").click()
    expect(page.locator(".sentence")).to_contain_text("from Bell buoy Level what lies from 9.2.00 to 11.1.00, sealed")
    part(page, "sealed").click()
    page.get_by_role("group", name="Change it").get_by_text("bridge: neighbours join").click()
    folded.apply()
    folded.at_revision(2)
    cleared = server.session().lane("L1").envelope
    assert cleared.count(ticks_of(33), ticks_of(40)) == 0


def test_a_region_is_repeated(folded, server, page):
    folded.open()
    count = len(server.session().track("foghorn").regions)
    page.mouse.click(*folded.foot_of("foghorn.level", 38))
    expect(page.locator(".sentence")).to_contain_text("Move horn A")
    part(page, "horn A").click()
    page.get_by_role("group", name="Change it").get_by_text("repeat", exact=True).click()
    expect(folded.result.get_by_role("button", name="Apply", exact=True)).to_be_enabled()
    part(page, "1 time").click()
    page.get_by_label("How many more").fill("3")
    expect(part(page, "3 times")).to_be_visible()
    page.keyboard.press("Escape")
    folded.apply()
    folded.at_revision(1)
    assert len(server.session().track("foghorn").regions) == count + 3


def test_what_is_typed_and_hurried_waits_for_what_is_on_its_way(desk, page):
    """The server is slow: the next field keeps what is typed into it, and Ctrl Enter applies once the preview is there."""
    desk.open()
    desk.drag_range("bell.level", 32, 48)
    desk.choose_track("Gulls")
    desk.slow(500)
    start, end = (page.get_by_role("textbox", name=name) for name in ("Range start", "Range end"))
    start.fill("17")  # beyond the end, which moves along
    start.press("Enter")
    end.fill("21")
    expect(start).to_have_value("17.1.00")
    expect(end).to_have_value("21")
    end.press("Enter")
    expect(end).to_have_value("21.1.00")
    page.keyboard.press("Control+Enter")
    desk.at_revision(1)
    expect(desk.result).to_contain_text("from 17.1.00 to 21.1.00 to Gulls")


def test_folding_is_one_key_and_remembered(folded, page):
    folded.open()
    expect(page.locator(".sentence")).to_be_visible()
    page.keyboard.press("q")
    expect(page.get_by_role("combobox", name="Tracks to carry to")).to_be_visible()
    page.reload()
    expect(page.get_by_role("combobox", name="Tracks to carry to")).to_be_visible()
    page.get_by_role("button", name="fold q").click()
    expect(page.locator(".sentence")).to_be_visible()
