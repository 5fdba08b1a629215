"""Regions by hand: embed, repeat and lift against a direct repeat; dragging, cutting, muting; gaps; containers."""

import numpy as np
import pytest
from playwright.sync_api import expect

from velmot.core.curves.axes import Axis
from velmot.core.curves.envelope import Envelope
from velmot.core.parameters.parameter import Family, Parameter, level
from velmot.core.session.heard import heard
from velmot.core.session.session import Session
from velmot.core.session.track import Device, Lane, Region, Track
from velmot.core.time.ticks import TICKS_PER_BEAT as BEAT
from velmot.core.time.ticks import ticks_of
from velmot.formats import session_file


def waves() -> Session:
    """A filter that opens from 200 Hz to 2 kHz with a wave, beats 8 to 16, and is closed again behind it."""
    cut = Parameter(
        "sea.cut", "Cutoff", Family.DEVICE, unit="Hz", axis=Axis.LOG, low=20, high=20000, default=200, value=200,
        device="sea.f",
    )  # fmt: skip
    region = Region("wave", "wave", 8 * BEAT, 8 * BEAT)
    sea = Track(
        "sea",
        "Sea",
        parameters=(level("sea.level"), cut),
        devices=(Device("sea.f", "Filter", "filter"),),
        regions=(region,),
    )
    rows = [(8 * BEAT, 200, 2.0), (13 * BEAT, 2000, -1.5), (16 * BEAT, 200)]
    return Session("Waves", 96 * BEAT, (sea,), (Lane("L1", "sea.cut", "track", Envelope.of(rows, Axis.LOG)),)).checked()


@pytest.fixture
def sea(desk, server, page, tmp_path):
    """The session opened as a user does, from a file on the start page."""
    file = tmp_path / "waves.velmot.json"
    file.write_bytes(session_file.write(waves()))
    page.goto(server.url)
    page.get_by_label("File to import").set_input_files(file)
    page.get_by_role("region", name="Import report").get_by_role("button", name="Open it").click()
    expect(page.locator("section.strip").first).to_be_visible()
    return desk


def test_embed_repeat_and_lift_give_what_a_direct_repeat_gives(sea, server, page):
    page.mouse.click(*sea.foot_of("sea.cut", 12, 2))
    page.keyboard.press("m")
    expect(sea.result).to_contain_text("What is heard stays the same: 0.00 octaves apart")
    sea.apply()
    sea.at_revision(1)
    inside = server.session(2)
    assert len(inside.lanes_in("wave")) == 1 and not inside.lane("L1").envelope.moves(0, 96 * BEAT)
    page.keyboard.press("g")
    page.get_by_text("repeat", exact=True).click()
    times = page.get_by_label("How many more")
    times.fill("5")
    times.press("Tab")
    expect(sea.result).to_contain_text("and 2 more regions")
    sea.apply()
    sea.at_revision(2)
    assert [r.start // BEAT for r in server.session(2).tracks[0].regions] == [8, 16, 24, 32, 40, 48]
    expect(sea.result).to_contain_text("Done: Repeat")
    expect(sea.result.get_by_role("button", name="Apply", exact=True)).to_be_disabled()
    sea.result.get_by_role("button", name="ask for the same again").click()
    expect(sea.result).to_contain_text("and 2 more regions")
    page.get_by_role("button", name="Embed / lift m").click()
    page.get_by_text("lift", exact=True).click()
    page.get_by_role("button", name="all of the track").click()
    expect(sea.result).to_contain_text("What is heard stays the same: 0.00 octaves apart")
    sea.apply()
    sea.at_revision(3)
    lifted = server.session(2)
    assert [x.id for x in lifted.lanes] == ["L1"]
    for head in (2, 1, 0):
        page.keyboard.press("Control+z")
        sea.at_revision(head)
    page.get_by_role("button", name="Carry c").click()
    box = sea.canvas_of("sea.cut").bounding_box()
    ends = [sea.foot_of("sea.cut", beat, 2)[0] + 1 for beat in (8, 12, 16)]
    page.mouse.move(ends[0], box["y"] + 30)
    page.mouse.down()
    for x in ends[1:]:
        page.mouse.move(x, box["y"] + 30, steps=4)
    page.mouse.up()
    sea.choose_track("Sea (itself)")
    for label, text in (("Starting at", "5.1.00"), ("How often", "5")):
        field = page.get_by_label(label, exact=True)
        field.fill(text)
        field.press("Tab")
    expect(sea.result).to_contain_text("Sea Cutoff")
    sea.apply()
    sea.at_revision(4)
    direct = server.session(2).lane("L1").envelope
    ticks = np.arange(0, 96 * BEAT, BEAT // 16)
    assert direct.moves(48 * BEAT, 56 * BEAT)
    assert np.abs(direct.coordinate_at(ticks) - lifted.lane("L1").envelope.coordinate_at(ticks)).max() < 1e-9


def test_a_region_is_dragged_cut_muted_and_looked_at_closely(desk, server, page):
    desk.open()
    desk.pull_foot("foghorn.level", 20, 27)
    expect(desk.result).to_contain_text("horn A")
    expect(page.get_by_label("Regions starting at")).to_have_value("7.1.00")
    page.mouse.up()
    desk.at_revision(1)
    before = server.session()
    assert before.region("foghorn.r1").start == ticks_of(24)
    page.get_by_text("cut", exact=True).click()
    page.get_by_label("Cut at").fill("8.1.00")
    page.get_by_label("Cut at").press("Enter")
    desk.apply()
    desk.at_revision(2)
    parts = server.session()
    assert parts.region("foghorn.r1").length == ticks_of(4)
    page.get_by_text("mute", exact=True).click()
    desk.apply()
    desk.at_revision(3)
    quiet = server.session()
    at = np.array([ticks_of(b) for b in (25, 27, 29)])
    track, whole = before.lane_at("foghorn.level").envelope, heard(before, "foghorn.level", groups=False).envelope
    now = heard(quiet, "foghorn.level", groups=False).envelope.at(at)
    assert now.tolist() == pytest.approx([*track.at(at[:2]).tolist(), float(whole.at(at[2]))])
    page.keyboard.press("Escape")
    page.mouse.dblclick(*desk.foot_of("foghorn.level", 29))
    expect(page.get_by_text("in its own time")).to_be_visible()
    expect(page.locator("section.strip")).to_have_count(1)
    page.get_by_role("button", name="back to the session").click()
    expect(page.locator("section.strip").nth(1)).to_be_visible()


def test_what_stands_in_the_way_of_an_embed_is_cleared_away_with_a_click_each(sea, server, page):
    """The track wins and the region is muted: both are offered, shown and taken before the embed itself."""
    page.mouse.click(*sea.foot_of("sea.cut", 12, 2))
    page.keyboard.press("g")
    page.get_by_text("mute", exact=True).click()
    sea.apply()
    sea.at_revision(1)
    page.keyboard.press("m")
    page.get_by_text("which lane wins", exact=True).click()
    sea.apply()
    sea.at_revision(2)
    page.get_by_text("embed", exact=True).click()
    sea.result.get_by_role("button", name="let region lanes win first").click()
    expect(sea.result).to_contain_text("First: Let the region’s lane win where both speak")
    sea.apply()
    sea.at_revision(3)
    offer = sea.result.get_by_role("button", name="unmute wave first")
    offer.click()
    sea.result.get_by_role("button", name="not now").click()
    offer.click()
    expect(sea.result).to_contain_text("First: Unmute wave")
    sea.apply()
    sea.at_revision(4)
    expect(sea.result).to_contain_text("What is heard stays the same: 0.00 octaves apart")
    sea.apply()
    sea.at_revision(5)
    now = server.session(2)
    assert now.precedence == "region" and not now.region("wave").muted and len(now.lanes_in("wave")) == 1


def test_what_was_applied_comes_back_after_undo_and_a_caution_goes_to_its_place(desk, server, page):
    """Foghorn's five regions with one muted: the others are lifted, and the caution leads to the muted one."""
    desk.open()
    page.keyboard.press("g")
    page.mouse.click(*desk.foot_of("foghorn.level", 20))
    page.get_by_text("mute", exact=True).click()
    desk.apply()
    desk.at_revision(1)
    page.keyboard.press("m")
    page.get_by_text("lift", exact=True).click()
    page.get_by_role("button", name="all of the track").click()
    view = "JSON.parse(sessionStorage['velmot.view.1'] ?? 'null')?.start"
    page.locator("main.stage").hover()
    page.mouse.wheel(3000, 0)
    desk.until(f"{view} > 100")
    desk.result.get_by_role("button", name="horn A is muted").click()
    desk.until(f"{view} < 17")
    desk.apply()
    desk.at_revision(2)
    expect(desk.result).to_contain_text("Done: Lift all parameters from 5 regions")
    page.keyboard.press("Control+z")
    desk.at_revision(1)
    expect(desk.result).to_contain_text("What is heard stays the same")
    page.keyboard.press("Control+Shift+z")
    desk.at_revision(2)
    assert [x.home for x in server.session().lanes if x.parameter == "foghorn.level"] == ["track", "foghorn.r1"]


def test_a_session_without_tracks_says_so_and_leads_back(server, page, tmp_path):
    file = tmp_path / "bare.velmot.json"
    file.write_bytes(session_file.write(Session("Bare", 16 * BEAT)))
    page.goto(server.url)
    page.get_by_label("File to import").set_input_files(file)
    page.get_by_role("region", name="Import report").get_by_role("button", name="Open it").click()
    expect(page.get_by_role("heading", name="This session has no tracks")).to_be_visible()
    page.get_by_role("link", name="Open or import another one").click()
    expect(page.get_by_text("Skerry Light").first).to_be_visible()


def test_what_is_heard_is_drawn_and_a_jump_is_joined_and_precedence_shown(desk, server, page):
    desk.open()
    page.locator("[data-strip='foghorn.level']").hover()
    page.locator("[data-strip='foghorn.level']").get_by_role("button", name="heard", exact=True).click()
    page.mouse.move(desk.x_of("foghorn.level", 20), desk.canvas_of("foghorn.level").bounding_box()["y"] + 60)
    expect(page.locator("[data-strip='foghorn.level'] header")).to_contain_text("region horn A, plus group Swell")
    page.mouse.click(*desk.foot_of("foghorn.level", 31.5))
    expect(desk.result).to_contain_text("Foghorn Level")
    page.get_by_text("join both sides").click()
    was = heard(server.session(), "foghorn.level", groups=False).envelope
    edges = float(was.at(ticks_of(30), "left")), float(was.at(ticks_of(33)))
    expect(desk.result).to_contain_text("Foghorn Level, up to")
    desk.apply()
    desk.at_revision(1)
    now = heard(server.session(), "foghorn.level", groups=False).envelope
    assert float(now.at(ticks_of(31.5))) == pytest.approx(sum(edges) / 2)
    page.locator("[data-strip='foghorn.level']").get_by_role("button", name="region lanes win here").click()
    expect(desk.result).to_contain_text("1 parameter would be heard differently")
    desk.apply()
    desk.at_revision(2)
    assert server.session().precedence == "track"
    expect(page.locator("[data-strip='foghorn.level'] header")).to_contain_text("track lanes win here")


def test_a_container_is_made_saved_and_loaded_elsewhere(desk, server, page, tmp_path):
    desk.open()
    desk.drag_range("bell.level", 32, 48)
    page.keyboard.press("g")
    page.get_by_text("make", exact=True).click()
    page.get_by_label("Name", exact=True).fill("swell and fall")
    expect(desk.result).to_contain_text("swell and fall")
    desk.apply()
    desk.at_revision(1)
    box = server.session().track("bell").regions[-1]
    assert box.container and server.session().lane_at("bell.level", box.id)
    page.mouse.click(*desk.foot_of("bell.level", 40))
    page.get_by_text("file", exact=True).click()
    with page.expect_download() as download:
        page.get_by_role("link", name="save swell and fall").click()
    file = tmp_path / "box.json"
    download.value.save_as(file)
    page.mouse.click(desk.x_of("keeper.level", 8), desk.canvas_of("keeper.level").bounding_box()["y"] + 40)
    page.get_by_label("Load one onto Keeper").set_input_files(file)
    expect(desk.result).to_contain_text("swell and fall")
    desk.apply()
    desk.at_revision(2)
    after = server.session()
    laid = after.track("keeper").regions[-1]
    assert laid.name == "swell and fall" and abs(laid.start - ticks_of(8)) < ticks_of(0.2)
    assert after.lane_at("keeper.level", laid.id).envelope == after.lane_at("bell.level", box.id).envelope
