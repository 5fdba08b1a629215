"""Following by hand: the rain makes room under a voice, a filter follows a bell, narration is evened out and trimmed."""

import re

import numpy as np
import pytest
from playwright.sync_api import expect

from velmot.core.time.ticks import ticks_of
from velmot.core.verbs.follow.made import how_made


def values(session, parameter: str, *beats: float) -> np.ndarray:
    return session.lane_at(parameter).envelope.at(np.array([ticks_of(b) for b in beats]))


def position(beat: float) -> str:
    """Bar, beat and hundredth, in four."""
    return f"{int(beat // 4) + 1}.{int(beat % 4) + 1}.{int(beat % 1 * 100):02d}"


def fill(page, label: str, text: str) -> None:
    field = page.get_by_role("textbox", name=label, exact=True)
    field.fill(text)
    field.press("Enter")


def follow(desk, page, does: str, source: str, target: str) -> None:
    page.keyboard.press("F")
    page.locator("[data-field='does what']").get_by_text(does, exact=True).click()
    desk.pick("Tracks that are followed", source)
    desk.pick("Parameters that are driven", target)


def reshape_by(page, called: str, lane: str, amount: str, start: str, end: str) -> None:
    """A lane by an amount, from one place to another: typed, as a hand on its strip would meet one of its many points."""
    page.get_by_placeholder("Find a lane or a track").fill(called)
    page.locator(f"[data-lane='{lane}']").click()
    page.keyboard.press("r")
    fill(page, "Range end", end)
    fill(page, "Range start", start)
    fill(page, "By how many dB", amount)


def test_the_rain_makes_room_under_the_voice_its_threshold_dragged_heard_both_ways_and_a_dip_mended(desk, server, page):
    desk.open()
    before = server.session()
    desk.drag_range("keeper.level", 32, 60)
    follow(desk, page, "makes room", "Keeper", "Glass rain Level")
    expect(desk.result).to_contain_text("Glass rain Level")
    strip = page.locator("[data-strip='rain.level']")
    rule = strip.get_by_role("slider", name="Threshold")
    expect(rule).to_have_attribute("aria-valuetext", "−30.0 dB")
    expect(strip.locator(".silhouette")).to_have_attribute("d", re.compile(r"^M.{200,}Z$"))
    rule.scroll_into_view_if_needed()
    box = rule.bounding_box()
    page.mouse.move(box["x"] + 300, box["y"] + 5)
    page.mouse.down()
    page.mouse.move(box["x"] + 300, box["y"] - 5, steps=4)
    page.mouse.up()
    dragged = page.get_by_role("textbox", name="Above", exact=True)
    expect(dragged).not_to_have_value("-30")
    threshold = float(dragged.input_value())
    assert -30 < threshold < -10
    expect(rule).to_have_attribute("aria-valuetext", f"{threshold:.1f} dB".replace("-", "−"))
    rule.focus()
    page.keyboard.press("ArrowDown")
    threshold -= 1
    expect(dragged).to_have_value(f"{threshold:g}")
    expect(desk.result.get_by_role("button", name="Apply", exact=True)).to_be_enabled()
    desk.canvas_of("keeper.level").focus()
    page.keyboard.press("Space")
    group = page.get_by_role("radiogroup", name="What is heard")
    expect(page.get_by_role("button", name="Stop").first).to_be_visible()
    page.keyboard.press("Shift+N")
    expect(group.get_by_role("radio", name="if applied")).to_be_checked()
    page.keyboard.press("Shift+N")
    expect(group.get_by_role("radio", name="now")).to_be_checked()
    page.keyboard.press("Space")
    desk.apply()
    desk.at_revision(1)
    now = server.session()
    asked = how_made(now, now.lane_at("rain.level")).request
    assert (asked.does, asked.threshold, asked.tracks) == ("makes room", pytest.approx(threshold), ("keeper",))
    beats = np.arange(32.5, 59.5, 0.05)
    less = values(before, "rain.level", *beats) - values(now, "rain.level", *beats)
    assert less.max() == pytest.approx(6, abs=0.2) and less.min() == pytest.approx(0, abs=0.2)
    assert (less > 5).mean() > 0.2 and values(now, "rain.level", 31.9, 60.1) == pytest.approx(
        values(before, "rain.level", 31.9, 60.1), abs=1e-9
    )
    # One dip is mended by hand: 3 dB up over one beat of it.
    deep = float(beats[less > 5.5][10])
    reshape_by(page, "Glass rain", now.lane_at("rain.level").id, "+3", position(deep - 0.5), position(deep + 0.5))
    expect(desk.result).to_contain_text("up to 3.00 dB")
    desk.apply()
    desk.at_revision(2)
    mended = server.session()
    assert values(mended, "rain.level", deep)[0] == pytest.approx(values(now, "rain.level", deep)[0] + 3)
    # It knows how it was made: opened again, its numbers stand on the sheet, another depth is asked for.
    page.get_by_role("button", name="How Glass rain Level follows").click()
    expect(page.get_by_role("textbox", name="Above", exact=True)).to_have_value(f"{threshold:g}")
    expect(page.get_by_role("textbox", name="By", exact=True)).to_have_value("6")


def test_a_filter_follows_a_bell(desk, server, page):
    desk.open()
    desk.drag_range("bell.level", 0, 24)
    follow(desk, page, "follows", "Bell buoy", "Engine room Rumble cutoff")
    fill(page, "Low of Engine room Rumble cutoff", "200")
    fill(page, "High of Engine room Rumble cutoff", "3200")
    fill(page, "Out", "400")
    desk.apply()
    desk.at_revision(1)
    now = server.session()
    (target,) = how_made(now, now.lane_at("engine.rumble.rumble-cutoff")).request.targets
    assert (target.low, target.high) == (200, 3200)
    curve = values(now, "engine.rumble.rumble-cutoff", *np.arange(0.02, 23.9, 0.02))
    assert curve.min() == pytest.approx(200, rel=0.02) and 800 < curve.max() <= 3200
    page.keyboard.press("Control+z")
    desk.at_revision(0)


def test_narration_is_evened_out_and_then_trimmed(desk, server, page):
    desk.open()
    desk.drag_range("keeper.level", 36, 56)
    follow(desk, page, "evens out", "Keeper", "Keeper Level")
    fill(page, "To", "-24")
    expect(desk.result.get_by_role("button", name="Apply", exact=True)).to_be_enabled()
    desk.apply()
    desk.at_revision(1)
    evened = server.session()
    reshape_by(page, "Keeper", evened.lane_at("keeper.level").id, "-2", "11.1.00", "13.1.00")
    expect(desk.result).to_contain_text("2.00 dB")
    desk.apply()
    desk.at_revision(2)
    beats = np.arange(40.5, 47.5, 0.1)
    assert values(server.session(), "keeper.level", *beats) == pytest.approx(
        values(evened, "keeper.level", *beats) - 2, abs=1e-6
    )
    page.get_by_role("button", name="How Keeper Level follows").click()
    expect(page.get_by_role("textbox", name="To", exact=True)).to_have_value("-24")
