"""Where one stood before a closed door: each ends in something to click, and what is clicked is saved."""

from __future__ import annotations

import numpy as np
import pytest
from playwright.sync_api import expect

from tests.browser.test_phrases_by_hand import keep
from velmot.core.session.heard import heard
from velmot.core.time.ticks import ticks_of


def at(session, parameter, *beats):
    envelope = heard(session, parameter, groups=False).envelope
    return [float(envelope.value_at(ticks_of(b))) for b in beats]


def test_a_device_is_set_off_over_a_range_and_a_track_to_read(desk, server, page):
    desk.open()
    page.get_by_role("button", name="not reading").first.click()
    expect(desk.result).to_contain_text("Kelp choir")
    desk.apply()
    desk.at_revision(1)
    desk.drag_range("bell.level", 32, 40)
    page.get_by_text("a device or a mute, over a range").click()
    page.locator(".el-select", has=page.get_by_role("combobox", name="Switches to set")).click()
    page.get_by_role("option", name="Kelp choir Vowel filter on", exact=True).click()
    page.keyboard.press("Escape")
    expect(desk.result).to_contain_text("Outside 9.1.00 to 11.1.00 nothing changes")
    desk.apply()
    desk.at_revision(2)
    now = server.session()
    assert now.track("choir").reads
    before = at(now, "choir.vowel.on", 31.9, 40)
    assert at(now, "choir.vowel.on", 32, 36, 39.9) == [0, 0, 0] and 1 in before


def test_a_parameter_without_a_lane_is_found_and_drawn_on(desk, server, page):
    desk.open()
    page.keyboard.press("j")
    page.keyboard.type("keeper pan")
    page.keyboard.press("Enter")
    strip = desk.canvas_of("keeper.pan")
    expect(strip).to_be_focused()
    box = strip.bounding_box()
    page.mouse.dblclick(desk.x_of("keeper.pan", 12), box["y"] + box["height"] / 2)
    desk.at_revision(1)
    lane = server.session().lane_at("keeper.pan").envelope
    assert [int(t) for t in lane.ticks if t] == [ticks_of(12)]
    page.get_by_role("button", name="all 37", exact=True).click()
    page.get_by_label("Find a lane or a track").fill("gulls muted")
    page.get_by_role("button", name="Muted no lane yet").click()
    expect(page.locator("[data-strip='gulls.mute']")).to_be_visible()


def test_a_regions_automation_is_begun_where_it_has_none(desk, server, page):
    desk.open()
    page.mouse.dblclick(*desk.foot_of("bell.level", 4))
    expect(page.get_by_role("heading", name="This region has no automation yet")).to_be_visible()
    page.get_by_role("button", name="Pan", exact=True).click()
    box = desk.canvas_of("bell.pan").bounding_box()
    page.mouse.dblclick(box["x"] + 300, box["y"] + 60)
    desk.at_revision(1)
    region = next(r for r in server.session().track("bell").regions if r.name == "toll 1")
    assert server.session().lane_at("bell.pan", region.id) is not None


def test_what_a_target_lacks_is_added_with_one_click_and_a_refusal_leads_to_its_field(desk, server, page):
    desk.open()
    page.get_by_label("Find a lane or a track").fill("growl drive")
    page.locator("[data-lane]").first.click()
    page.get_by_label("Find a lane or a track").fill("")
    desk.choose_track("Gulls")
    expect(desk.result).to_contain_text("Gulls has no Growl drive like Foghorn's: left out")
    for words in ("take", "land it on"):
        expect(desk.result.get_by_role("button", name=words)).to_be_visible()
    desk.apply("add it there")
    expect(desk.result).not_to_contain_text("left out")
    desk.apply()
    desk.at_revision(1)
    now = server.session()
    added = next(p for p in now.track("gulls").parameters if p.name == "Growl drive")
    source = now.lane_at(next(p.id for p in now.track("foghorn").parameters if p.name == "Growl drive"))
    beats = np.array([ticks_of(b) for b in range(0, 250, 3)])
    assert now.lane_at(added.id).envelope.at(beats).tolist() == source.envelope.at(beats).tolist()
    page.keyboard.press("r")
    page.get_by_label("By how many", exact=False).first.fill("1e9")
    page.keyboard.press("Enter")
    desk.result.get_by_role("button", name="change it").click()
    expect(page.get_by_label("By how many", exact=False).first).to_be_focused()


def test_depth_is_said_in_decibels_and_a_pan_goes_in_about_its_centre(desk, server, page):
    desk.open()
    desk.drag_range("keeper.level", 60, 64)
    page.keyboard.press("z")
    desk.choose("Phrase or shape to place", "sine")
    page.get_by_label("Depth", exact=True).fill("± 3 dB")
    page.get_by_label("Depth", exact=True).press("Enter")
    page.get_by_text("its value", exact=True).click()
    desk.apply()
    desk.at_revision(1)
    now, beats = server.session(), np.array([ticks_of(b) for b in np.linspace(60, 63.99, 200)])
    swing = now.lane_at("keeper.level").envelope.coordinate_at(beats)
    assert np.ptp(swing) == pytest.approx(6, abs=0.01)
    page.get_by_label("Find a lane or a track").fill("bell pan")
    page.locator("[data-lane]").first.click()
    desk.canvas_of("bell.pan").focus()
    page.keyboard.press("Escape")
    page.keyboard.press("r")
    desk.choose("What stays, in plain numbers", "the centre")
    page.get_by_label("To what percent").fill("50")
    desk.apply()
    desk.at_revision(2)
    pan = [s.lane_at("bell.pan").envelope.values for s in (now, server.session())]
    assert pan[1].tolist() == pytest.approx((pan[0] / 2).tolist())


def test_a_typed_change_says_that_it_is_one_and_the_last_step_is_put_right(desk, server, page):
    desk.open()
    box = desk.canvas_of("bell.level").bounding_box()
    page.keyboard.press("n")
    desk.canvas_of("bell.level").focus()
    page.keyboard.press("n")
    page.get_by_label("Value", exact=True).fill("-12")
    means = page.locator(".means")
    expect(means).to_contain_text("Lower 1 point of Bell buoy Level by 12 dB: a change of each.")
    means.get_by_role("button", name="make it the value itself").click()
    expect(means).to_contain_text("Set 1 point of Bell buoy Level to -12")
    page.keyboard.press("Escape")
    desk.drag_range("keeper.level", 36, 40)
    page.keyboard.press("r")
    page.get_by_label("By how many dB").fill("3")
    desk.apply()
    desk.at_revision(1)
    page.get_by_label("By how many dB").fill("2.5")
    desk.apply("in place of the last step")
    desk.apply()
    desk.at_revision(2)
    (line,) = server.json("sessions/1/log")["lines"]
    assert "2.5" in line["title"] and box


def test_undoing_keep_offers_to_take_the_phrase_out_of_the_book_too(desk, server, page):
    desk.open()
    before = len(server.json("book"))
    desk.drag_range("bell.level", 32, 48)
    keep(desk, page, "toll for a while")
    desk.at_revision(1)
    assert len(server.json("book")) == before + 1
    page.get_by_role("button", name="Undo").click()
    page.get_by_role("button", name="take it out of the book too").click()
    page.wait_for_timeout(300)
    assert len(server.json("book")) == before
