"""Retargeting by hand: a level drives a filter, fitted by dragging on the mapping graph."""

import numpy as np
import pytest
from playwright.sync_api import expect

from velmot.core.time.ticks import ticks_of


def test_a_level_drives_a_filter_fitted_by_typing_and_dragging(desk, server, page):
    desk.open()
    desk.drag_range("bell.level", 32, 48)
    page.keyboard.press("t")
    field = page.get_by_role("combobox", name="Parameters to drive")
    page.locator(".el-select", has=field).click()
    page.keyboard.type("gulls send: w")
    page.keyboard.press("Escape")
    page.locator(".el-select", has=field).click()
    page.keyboard.type("rumble cut")
    page.get_by_role("option", name="Engine room Rumble cutoff", exact=True).click()
    page.keyboard.press("Tab")
    high = page.get_by_role("textbox", name="Highest lands on")
    high.fill("3200 Hz")
    high.press("Enter")
    low = page.get_by_role("slider", name="Lowest lands on")
    box = low.bounding_box()
    page.mouse.move(box["x"] + 5, box["y"] + 5)
    page.mouse.down()
    page.mouse.move(box["x"] + 5, box["y"] - 40, steps=5)
    page.mouse.up()
    landed = float(page.get_by_role("textbox", name="Lowest lands on").input_value().split()[0])
    assert 40 < landed < 2000
    expect(desk.result).to_contain_text("Engine room Rumble cutoff")
    desk.apply()
    desk.at_revision(1)
    after = server.session()
    curve, source = after.lane_at("engine.rumble.rumble-cutoff").envelope, after.lane("L1").envelope
    at = np.array([ticks_of(b) for b in (32, 35.5, 39, 46)])
    lowest, highest = -26, -5
    part = (source.at(at) - lowest) / (highest - lowest)
    assert curve.at(at[1:]).tolist() == pytest.approx((landed * (3200 / landed) ** part)[1:].tolist(), rel=0.02)
    page.get_by_role("link", name="Log").click()
    page.get_by_role("button", name="reopen its settings").click()
    desk.at_revision(0)
    expect(page.get_by_role("textbox", name="Highest lands on")).to_have_value("3200 Hz")
    page.get_by_text("upside down").click()
    expect(desk.result).to_contain_text("Engine room Rumble cutoff")
    desk.apply()
    desk.at_revision(2)
    turned = server.session().lane_at("engine.rumble.rumble-cutoff").envelope
    assert float(turned.at(int(at[3]))) == pytest.approx(landed, rel=0.02), "what was highest is lowest now"
