"""Alternatives and marks by hand: several goes, parts of one taken, a mark gone back to in part, and what happened to a lane."""

import json

import numpy as np
import pytest
from playwright.sync_api import expect

from velmot.core.time.ticks import ticks_of


def level_at(session, parameter: str, *beats: float) -> np.ndarray:
    return session.lane_at(parameter).envelope.at(np.array([ticks_of(b) for b in beats]))


def reshape(desk, page, by: str, revision: int) -> None:
    """The chosen range moved by an amount that is typed, and applied."""
    page.keyboard.press("r")
    field = page.get_by_role("textbox", name="By how many dB")
    field.fill(by)
    field.press("Enter")
    expect(desk.result).to_contain_text("up to")
    desk.apply()
    desk.at_revision(revision)


def test_three_goes_at_a_sentence_and_the_middle_of_the_second_taken_into_the_first(desk, server, page):
    """First go kept; +3 dB kept; −2 dB in use. The first is used again, and from 40 to 44 the second is laid into it."""
    desk.open()
    first = server.session()
    desk.drag_range("keeper.level", 36, 48)
    page.keyboard.press("K")
    desk.at_revision(1)
    rows = page.locator("[data-strip='keeper.level'] [data-alternative]")
    expect(rows).to_have_count(1)
    expect(rows.first).to_contain_text("in use")
    reshape(desk, page, "+3", 2)
    page.keyboard.press("K")
    desk.at_revision(3)
    expect(rows.nth(1)).to_contain_text("after: reshape Keeper Level")
    reshape(desk, page, "-5", 4)
    expect(rows.nth(1)).not_to_contain_text("in use")
    rows.first.get_by_role("button", name="Use").click()
    desk.at_revision(5)
    expect(rows).to_have_count(3)
    expect(rows.nth(2)).to_contain_text("before “")
    expect(rows.first).to_contain_text("in use")
    assert server.session().lane_at("keeper.level") == first.lane_at("keeper.level"), "bit for bit"
    y = rows.nth(1).bounding_box()["y"] + 18
    page.mouse.move(desk.x_of("keeper.level", 40) + 1, y)
    page.mouse.down()
    page.mouse.move(desk.x_of("keeper.level", 42), y, steps=4)
    page.mouse.move(desk.x_of("keeper.level", 44) + 1, y, steps=4)
    page.mouse.up()
    expect(desk.result).to_contain_text("Outside 11.1.00 to 12.1.00 nothing changes")
    desk.apply()
    desk.at_revision(6)
    now = server.session()
    inside, outside = (40, 41.3, 43.9), (36, 38.5, 39.9, 44.1, 47)
    assert level_at(now, "keeper.level", *inside) == pytest.approx(
        level_at(first, "keeper.level", *inside) + 3, abs=1e-9
    )
    assert level_at(now, "keeper.level", *outside) == pytest.approx(level_at(first, "keeper.level", *outside), abs=1e-9)
    assert [one.name.split()[0] for one in now.alternatives] == [first_word(first), "after:", "before"]
    server.kill()
    server.start()
    assert server.session() == now


def first_word(session) -> str:
    return str(len(session.lane_at("keeper.level").envelope))


def test_what_was_there_is_kept_with_apply_heard_laid_over_renamed_and_let_go(desk, server, page):
    desk.open()
    desk.drag_range("bell.level", 36, 48)
    page.keyboard.press("r")
    field = page.get_by_role("textbox", name="By how many dB")
    field.fill("-3")
    field.press("Enter")
    keep = desk.result.get_by_role("button", name="keep what was there")
    keep.click()
    expect(keep).to_have_attribute("aria-pressed", "true")
    desk.apply()
    desk.at_revision(1)
    unfold = page.get_by_role("button", name="1 alternative of Bell buoy Level")
    unfold.click()
    row = page.locator("[data-alternative]")
    expect(row).to_contain_text("before: reshape Bell buoy Level")
    row.get_by_role("button", name="over the curve").click()
    expect(page.locator("[data-strip='bell.level'] .laid-over path")).to_be_visible()
    row.get_by_role("button", name="Hear").click()
    expect(page.get_by_role("button", name="Stop")).to_be_visible()
    expect(page.get_by_role("radio", name="if applied")).to_be_checked()
    page.get_by_role("button", name="Stop").click()
    row.hover()
    row.get_by_role("button", name="Rename").click()
    called = page.get_by_role("textbox", name="Called")
    called.fill("as it came")
    expect(desk.result).to_contain_text("“as it came”")
    desk.apply()
    desk.at_revision(2)
    expect(row).to_contain_text("as it came")
    row.hover()
    row.get_by_role("button", name="Let as it came go").click()
    expect(desk.result).to_contain_text("Let “as it came” go")
    desk.apply()
    desk.at_revision(3)
    expect(row).to_have_count(0)
    assert not server.session().alternatives
    page.keyboard.press("Control+z")
    desk.at_revision(2)
    expect(page.get_by_role("button", name="1 alternative of Bell buoy Level")).to_be_visible()


def test_a_mark_before_a_big_change_and_half_of_it_brought_back_track_by_track(desk, server, page):
    desk.open()
    desk.drag_range("bell.level", 36, 48)
    reshape(desk, page, "-1", 1)
    marked = server.session()
    page.get_by_role("link", name="Log").click()
    page.get_by_role("button", name="mark it").click()
    page.get_by_role("textbox", name="The mark’s name").fill("as played on Friday")
    page.keyboard.press("Enter")
    expect(page.get_by_role("heading", name="as played on Friday")).to_be_visible()
    page.get_by_role("link", name="Bench").click()
    page.keyboard.press("x")
    page.get_by_text("the session", exact=True).click()
    lanes = len(marked.lanes)
    page.get_by_role("textbox", name=f"Type {lanes} to confirm that many lanes").fill(str(lanes))
    desk.apply()
    desk.at_revision(2)
    assert not server.session().lanes
    page.get_by_role("link", name="Log").click()
    line = page.locator("[data-revision='1']")
    line.get_by_role("button", name="bring back parts").click()
    for track in ("Bell buoy", "Keeper"):
        field = page.get_by_role("combobox", name="Tracks to bring back")
        page.locator(".el-select", has=field).click()
        page.get_by_role("option", name=track, exact=True).click()
        page.keyboard.press("Escape")
        expect(desk.result).to_contain_text("points")
    desk.apply()
    desk.at_revision(3)
    now = server.session()
    for track in marked.tracks:
        for parameter in track.parameters:
            kept = (
                {x.home: x.envelope for x in marked.lanes_of(parameter.id)}
                if track.name in ("Bell buoy", "Keeper")
                else {}
            )
            assert {x.home: x.envelope for x in now.lanes_of(parameter.id)} == kept
    page.get_by_role("link", name="Log").click()
    line.get_by_role("button", name="go back to it").click()
    expect(page.locator("[data-revision='4']")).to_contain_text("Go back to revision 1")
    assert server.session() == marked, "all of it, as one new step"
    line.get_by_role("button", name="look at it").click()
    expect(page.locator(".past")).to_contain_text("as it was at “as played on Friday”")
    expect(page.locator("section.strip").first).to_be_visible()
    expect(page.get_by_role("region", name="Worksheet")).to_have_count(0)
    page.get_by_role("link", name="Back to the session").click()
    expect(page.get_by_role("heading", name="as played on Friday")).to_be_visible()


def test_what_happened_to_a_lane_is_answered_in_two_clicks(desk, server, page):
    desk.open()
    desk.drag_range("bell.level", 36, 48)
    reshape(desk, page, "-1", 1)
    desk.drag_range("keeper.level", 36, 48)
    reshape(desk, page, "+2", 2)
    desk.canvas_of("bell.level").hover()
    page.get_by_role("link", name="What happened to Bell buoy Level").click()
    expect(page.locator("[data-revision]")).to_have_count(1)
    expect(page.locator("[data-revision='1']")).to_contain_text("Reshape Bell buoy Level")
    expect(page.locator("[data-revision='1'] svg .before")).to_be_visible()
    page.get_by_role("link", name="all again").click()
    expect(page.locator("[data-revision]")).to_have_count(2)
    page.get_by_role("searchbox", name="Words of a step").fill("keeper")
    expect(page.locator("[data-revision]")).to_have_count(1)
    expect(page.locator("[data-revision='2']")).to_be_visible()


def test_a_way_that_was_left_is_folded_in_the_log_and_gone_back_to(desk, server, page):
    desk.open()
    desk.drag_range("bell.level", 36, 48)
    reshape(desk, page, "-1", 1)
    left = server.session()
    page.keyboard.press("Control+z")
    desk.at_revision(0)
    desk.drag_range("bell.level", 36, 48)
    reshape(desk, page, "+2", 2)
    page.get_by_role("link", name="Log").click()
    expect(page.locator("[data-revision]")).to_have_count(1)
    page.get_by_role("button", name="1 step of a way that was left").click()
    line = page.locator("[data-revision='1']")
    expect(line).to_contain_text("left")
    line.get_by_role("button", name="go back to it").click()
    expect(page.locator("[data-revision='3']")).to_contain_text("you are here")
    assert server.session() == left
    page.get_by_role("button", name="what would that free?").click()
    expect(page.get_by_role("region", name="Tidy the history")).to_contain_text(
        "Nothing: there is no step that could go."
    )
    page.get_by_role("spinbutton", name="Days").fill("0")
    page.get_by_role("button", name="what would that free?").click()
    expect(page.get_by_role("region", name="Tidy the history")).to_contain_text("2 steps would go")
    page.get_by_role("button", name="Let them go").click()
    expect(page.get_by_role("region", name="Tidy the history")).to_contain_text("2 steps let go")
    expect(page.locator("[data-revision='3']")).to_contain_text("with 1 step before it")
    expect(page.locator("[data-revision]")).to_have_count(1)
    assert server.session() == left


def test_a_step_says_which_window_made_it_and_a_file_keeps_the_goes(desk, server, page, context):
    desk.open()
    desk.drag_range("bell.level", 36, 48)
    page.keyboard.press("K")
    desk.at_revision(1)
    other = context.new_page()
    other.goto(f"{server.url}/sessions/1/log")
    expect(other.locator("[data-revision='1']")).to_contain_text("in window")
    page.get_by_role("link", name="Log").click()
    expect(page.locator("[data-revision='1']")).not_to_contain_text("in window")
    content = json.loads(server.file())
    assert content["version"] == 5 and len(content["alternatives"]) == 1 and content["alternatives"][0]["kept"]
