"""Rails pulled by hand, amounts typed, ranges stretched by their flag: whole tasks, checked in the database."""

import re

import numpy as np
import pytest
from playwright.sync_api import expect

from velmot.core.time.ticks import TICKS_PER_BEAT, ticks_of


def beats(*some):
    return np.array([ticks_of(b) for b in some])


def choose(page, words):
    """Find a lane in the ledger and put it on the bench."""
    page.keyboard.press("/")
    page.keyboard.type(words)
    page.keyboard.press("ArrowDown")
    page.keyboard.press("Enter")


def y_of(desk, page, parameter, side="high"):
    """Where a rail of a strip stands: the values at the rails and the marks of the margin are drawn, so it is looked for."""
    box = desk.canvas_of(parameter).bounding_box()
    x = desk.x_of(parameter, 40)
    rows = range(0, round(box["height"]), 2)
    rows = rows if side == "high" else reversed(rows)
    for y in rows:
        page.mouse.move(x, box["y"] + y)
        if "on-rail" in desk.canvas_of(parameter).get_attribute("class"):
            return box["y"] + y + (4 if side == "high" else -4)
    pytest.fail(f"no rail on {parameter}")


def _change(said):
    found = re.search(r"([+−][\d.]+) \w+\)?$", said.inner_text()) if said.count() else None
    return float(found[1].replace("−", "-")) if found else 0.0


def pull(page, x, y, far, step):
    """Take hold and move a pixel at a time until the change that is said on the strip is `far` or further; gives it."""
    page.mouse.move(x, y)
    page.mouse.down()
    said = page.locator("output.said")
    for n in range(1, 300):
        page.mouse.move(x, y + n * step)
        if abs(_change(said)) >= abs(far):
            page.wait_for_timeout(100)
            return _change(said)
    pytest.fail(f"never went so far: {said.inner_text()}")


def test_the_whole_level_of_the_narration_is_2_db_lower_by_the_hand(desk, server, page):
    desk.open()
    before = server.session()
    choose(page, "keeper level")
    page.keyboard.press("r")
    expect(desk.result).to_contain_text("Pull a rail on the strip")
    y = y_of(desk, page, "keeper.level")
    x = desk.x_of("keeper.level", 40)
    page.keyboard.down("Alt")
    rail = pull(page, x, y, -1.0, 1)
    page.keyboard.up("Alt")
    page.mouse.up()
    desk.at_revision(1)
    request = server.json("sessions/1/log")["lines"][0]["request"]
    assert request["moves"][0]["shift"] == pytest.approx(
        {"high_start": rail, "high_end": rail, "low_start": None, "low_end": None}
    )
    page.get_by_role("button", name="Undo").click()
    desk.at_revision(0)
    # The curve itself takes both rails along: the resting value too, as the whole lane moves.
    box = desk.canvas_of("keeper.level").bounding_box()
    x, on = desk.x_of("keeper.level", 43), []
    for row in range(0, round(box["height"]), 2):
        page.mouse.move(x, box["y"] + row)
        if "on-rail" in desk.canvas_of("keeper.level").get_attribute("class"):
            on.append(box["y"] + row)
    groups = np.split(on, np.flatnonzero(np.diff(on) > 2) + 1)
    assert len(groups) == 3, "the high rail, the curve and the low rail"
    page.keyboard.down("Alt")
    by = pull(page, x, float(groups[1].mean()), -2.0, 1)
    page.keyboard.up("Alt")
    page.mouse.up()
    desk.at_revision(2)
    after = server.session()
    old, new = (s.lane_at("keeper.level").envelope for s in (before, after))
    assert np.array_equal(old.ticks, new.ticks) and np.allclose(new.values, old.values + by, rtol=0, atol=1e-9)
    assert after.parameter("keeper.level").value == pytest.approx(before.parameter("keeper.level").value + by)


def test_a_pan_is_brought_in_to_half(desk, server, page):
    desk.open()
    before = server.session().lane_at("bell.pan").envelope
    choose(page, "bell pan")
    page.keyboard.press("r")
    page.get_by_label("To what percent, in plain numbers").fill("*0.5")
    page.keyboard.press("Enter")
    desk.choose("What stays, in plain numbers", "a value")
    field = page.get_by_role("textbox", name="The value that stays, in plain numbers")
    field.fill("0")
    field.press("Enter")
    expect(desk.result).to_contain_text("heard up to")
    page.keyboard.press("Control+Enter")
    desk.at_revision(1)
    after = server.session().lane_at("bell.pan").envelope
    assert np.array_equal(after.ticks, before.ticks) and np.allclose(after.values, before.values / 2, rtol=0, atol=1e-9)
    assert np.array_equal(after.bends, before.bends)
    expect(page.get_by_label("To what percent, in plain numbers")).to_have_value("100")


def test_a_build_up_from_a_flat_filter_by_one_end_of_its_rail(desk, server, page):
    desk.open()
    choose(page, "bell low cut")
    desk.drag_range("bell.cut.low-cut", 32, 48)
    page.keyboard.press("r")
    field = page.get_by_role("textbox", name="Range end")
    field.fill("13.1.00")
    field.press("Enter")
    page.get_by_text("same values").click()
    page.get_by_text("one value").click()
    page.get_by_label("The value", exact=True).fill("100 Hz")
    desk.apply()
    desk.at_revision(1)
    before = server.session().lane_at("bell.cut.low-cut").envelope
    page.get_by_text("between rails").click()
    expect(page.get_by_role("textbox", name="Rail at the end")).to_have_value("100.0 Hz")
    y = y_of(desk, page, "bell.cut.low-cut")
    rise = pull(page, desk.x_of("bell.cut.low-cut", 47.5), y, 1.0, -1)
    page.mouse.up()
    desk.at_revision(2)
    after = server.session().lane_at("bell.cut.low-cut").envelope
    assert after.value_at(ticks_of(32)) == pytest.approx(100) and after.value_at(ticks_of(40)) == pytest.approx(
        100 * 2 ** (rise / 2)
    )
    assert after.value_at(ticks_of(48), "left") == pytest.approx(100 * 2**rise)
    outside = beats(0, 20, 31.99, 48, 60, 200)
    assert np.allclose(after.at(outside), before.at(outside), rtol=0, atol=1e-9)


def test_four_bars_are_stretched_to_six_by_the_flag_and_what_follows_moves_along(desk, server, page):
    desk.open()
    before = server.session().lane_at("bell.level").envelope
    desk.drag_range("bell.level", 16, 32)
    page.keyboard.press("Shift+R")
    page.get_by_text("moves along").click()
    flag = page.get_by_role("button", name="Range end").bounding_box()
    x, y = flag["x"] + flag["width"] - 1, flag["y"] + 6
    page.mouse.move(x, y)
    page.keyboard.down("Control")
    page.mouse.down()
    page.mouse.move(x + 20, y, steps=3)
    page.mouse.move(x + desk.x_of("bell.level", 40) - desk.x_of("bell.level", 32), y, steps=5)
    expect(page.locator("output.said")).to_have_text("24 beats, 1.5 × its length")
    page.mouse.up()
    page.keyboard.up("Control")
    desk.at_revision(1)
    after = server.session().lane_at("bell.level").envelope
    assert np.allclose(after.at(beats(16, 22, 34)), before.at(beats(16, 20, 28)), rtol=0, atol=1e-6)
    assert np.allclose(after.at(beats(44, 60)), before.at(beats(36, 52)), rtol=0, atol=1e-9)
    assert np.allclose(after.at(beats(0, 10)), before.at(beats(0, 10)), rtol=0, atol=1e-9)
    expect(page.get_by_role("textbox", name="Range end")).to_have_value("11.1.00")


def test_a_range_is_shifted_by_milliseconds(desk, server, page):
    desk.open()
    before = server.session()
    desk.drag_range("bell.level", 32, 48)
    page.keyboard.press("Shift+R")
    page.get_by_text("shift", exact=True).click()
    field = page.get_by_label("Milliseconds later")
    field.fill("-250")
    page.keyboard.press("Control+Enter")
    desk.at_revision(1)
    lane = before.lane_at("bell.level").envelope
    tick = int(lane.ticks[(lane.ticks > ticks_of(34))][0])
    earlier = before.tempo.tick_at(float(before.tempo.seconds(tick)) - 0.25)
    after = server.session().lane_at("bell.level").envelope
    assert after.value_at(earlier) == pytest.approx(lane.value_at(tick)) and earlier < tick - TICKS_PER_BEAT // 4
