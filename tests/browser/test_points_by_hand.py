"""Taking hold of points and lanes: whole tasks with mouse and keyboard, checked in the file taken out."""

import json

import numpy as np
import pytest
from playwright.sync_api import expect

from tests.bench import crowd
from tests.browser.conftest import Desk
from velmot.core.time.ticks import ticks_of
from velmot.formats import session_file


def beats(*places):
    return np.array([ticks_of(b) for b in places])


@pytest.fixture
def level_of(server):
    """Values of Bell buoy Level (L1) as they would be taken out now."""
    return lambda *places: server.session().lane("L1").envelope.at(beats(*places)).tolist()


def spot(desk, beat, value, low=-39.1, high=-1.9):
    """Where a value of Bell buoy Level stands: its strip fits −36 to −5 dB with a tenth of that on both sides."""
    box = desk.canvas_of("bell.level").bounding_box()
    top, bottom = 24, box["height"] - 20  # at its foot stand the regions
    return desk.x_of("bell.level", beat), box["y"] + bottom - (value - low) / (high - low) * (bottom - top)


def test_a_point_is_dragged_typed_nudged_and_removed_and_each_is_one_entry(desk, server, page, level_of):
    desk.open()
    x, y = spot(desk, 35.5, -10)
    page.mouse.move(x, y)
    page.mouse.down()
    page.mouse.move(x, y + 10, steps=3)
    page.mouse.move(desk.x_of("bell.level", 36), y + 12, steps=5)
    expect(page.locator("output.said")).to_contain_text("dB (−")
    page.mouse.up()
    desk.at_revision(1)
    (moved,) = level_of(36)
    assert moved == pytest.approx(
        -10 - 12 * 37.2 / (desk.canvas_of("bell.level").bounding_box()["height"] - 44), abs=0.8
    ), "as far as it is pulled on the scale that was seen"
    expect(desk.page.get_by_text("1 of Bell buoy Level")).to_be_visible()
    page.get_by_label("Value", exact=True).fill("-8 dB")
    page.keyboard.press("Enter")
    desk.at_revision(2)
    assert level_of(36) == [-8]
    page.get_by_label("Value", exact=True).fill("+2")
    page.keyboard.press("Enter")
    desk.at_revision(3)
    assert level_of(36) == [-6]
    desk.canvas_of("bell.level").focus()
    page.keyboard.press("ArrowRight")
    desk.at_revision(4)
    assert level_of(37) == [-6]
    page.keyboard.press("Delete")
    desk.at_revision(5)
    assert len(server.session().lane("L1").envelope) == 24
    titles = [line["title"] for line in server.json("sessions/1/log")["lines"]]
    assert titles[0].startswith("Remove 1 point of Bell buoy Level") and len(titles) == 5


def test_a_double_click_adds_and_a_dragged_middle_bends(desk, server, page):
    desk.open()
    x, y = spot(desk, 25, -15)
    page.mouse.dblclick(x, y)
    desk.at_revision(1)
    lane = server.session().lane("L1").envelope
    index = lane.ticks.tolist().index(ticks_of(25))
    assert -16 < lane.values[index] < -14
    middle = (28.5, (lane.values[index] - 26) / 2)
    x, y = spot(desk, *middle)
    page.mouse.move(x, y)
    page.mouse.down()
    page.mouse.move(x, y + 40, steps=6)
    expect(page.locator("output.said")).to_contain_text("bend")
    page.mouse.up()
    desk.at_revision(2)
    assert abs(server.session().lane("L1").envelope.bends[index]) > 1


def test_a_marquee_picks_and_keys_walk_from_point_to_point(desk, page):
    desk.open()
    (x0, y0), (x1, y1) = spot(desk, 34, -3), spot(desk, 47, -20)
    page.keyboard.down("Shift")
    page.mouse.move(x0, y0)
    page.mouse.down()
    page.mouse.move(x1, y1, steps=5)
    page.mouse.up()
    page.keyboard.up("Shift")
    expect(page.get_by_text("5 of Bell buoy Level")).to_be_visible()
    expect(page.get_by_text("9.4.50 to 12.3.00")).to_be_visible()
    desk.canvas_of("bell.level").focus()
    page.keyboard.press("n")
    expect(page.get_by_text("13.1.00 to 13.1.00")).to_be_visible()
    page.keyboard.press("b")
    expect(page.get_by_text("12.3.00 to 12.3.00")).to_be_visible()


def test_one_sentence_of_the_narration_is_raised_in_a_crowded_session(desk, server, page):
    """Find the narration among 1,000 other lanes and raise one sentence by 4 dB with 80 ms ramps."""
    crowded, demo = crowd(points=60_000), server.session()
    both = demo.with_tracks([*crowded.tracks, *demo.tracks]).with_lanes([*crowded.lanes, *demo.lanes]).checked()
    page.goto(server.url)
    page.get_by_label("File to import").set_input_files(
        {"name": "crowd.velmot.json", "mimeType": "", "buffer": session_file.write(both)}
    )
    page.get_by_role("button", name="Open it").click()
    expect(page.locator("section.strip").first).to_be_visible()
    page.keyboard.press("/")
    page.keyboard.type("keeper level")
    page.keyboard.press("ArrowDown")
    page.keyboard.press("Enter")
    page.keyboard.press("r")
    page.get_by_role("button", name="the bars on view").click()
    desk.slow(100)  # a ramp is read where the range will be by then
    for label, text in (("Range end", "15"), ("Range start", "10"), ("Ramp before", "80 ms"), ("Ramp after", "80 ms")):
        field = page.get_by_role("textbox", name=label)
        field.fill(text)
        field.press("Enter")
    page.get_by_label("By how many dB").fill("4 dB")
    page.keyboard.press("Enter")
    result = page.get_by_role("complementary", name="If applied")
    expect(result).to_contain_text("up to 4.00 dB")
    result.get_by_role("button", name="Apply", exact=True).click()
    desk.at_revision(1)
    before, after = demo.lane_at("keeper.level").envelope, server.session(2).lane_at("keeper.level").envelope
    inside, ramp = beats(36, 40.3, 50, 55.99), 80 * 96 / 60_000
    assert np.allclose(after.at(inside), before.at(inside) + 4, rtol=0, atol=1e-9)
    outside = beats(0, 20, 36 - ramp - 1e-4, 56 + ramp + 1e-4, 80, 200)
    assert np.allclose(after.at(outside), before.at(outside), rtol=0, atol=1e-9)
    half = beats(36 - ramp / 2, 56 + ramp / 2)
    assert np.allclose(after.at(half), before.at(half) + 2, rtol=0, atol=1e-4)


@pytest.mark.parametrize(("way", "bars"), [("seal: outside stays", (36, 48)), ("bridge: neighbours join", (35.5, 48))])
def test_a_range_cleared_both_ways_keeps_what_lies_outside(desk, server, page, way, bars):
    before = server.session().lane("L1").envelope
    desk.open()
    desk.drag_range("bell.level", 36, 48)
    page.keyboard.press("x")
    page.get_by_text(way).click()
    expect(desk.result).to_contain_text("nothing changes")
    desk.apply()
    desk.at_revision(1)
    after = server.session().lane("L1").envelope
    outside = beats(0, 20, bars[0] - 0.01, bars[1], 60, 200)
    assert np.allclose(after.at(outside), before.at(outside), rtol=0, atol=1e-9)
    inside = [*after.at(beats(bars[0], sum(bars) / 2)), after.at(ticks_of(bars[1]), "left")]
    assert abs(inside[1] - (inside[0] + inside[2]) / 2) < 1e-9, "one segment inside"


def test_clearing_the_session_asks_for_the_number_first(desk, server, page):
    desk.open()
    page.keyboard.press("x")
    page.get_by_text("the session", exact=True).click()
    expect(desk.result).to_contain_text("Takes 36 lanes with 3,144 points")
    apply = desk.result.get_by_role("button", name="Apply", exact=True)
    expect(apply).to_be_disabled()
    page.get_by_label("Type 36 to confirm").fill("35")
    expect(apply).to_be_disabled()
    page.get_by_label("Type 36 to confirm").fill("36")
    apply.click()
    desk.at_revision(1)
    assert server.session().lanes == ()
    page.get_by_role("button", name="Undo").click()
    desk.at_revision(0)
    assert len(server.session().lanes) == 36


def test_freehand_drawing_replaces_what_lies_under_the_stroke(desk, server, page):
    before = server.session().lane("L1").envelope
    desk.open()
    page.keyboard.press("d")
    x, y = spot(desk, 20, -30)
    page.mouse.move(x, y)
    page.mouse.down()
    for step in range(1, 30):
        page.mouse.move(*spot(desk, 20 + step / 3, -30 + step * 0.7))
    page.mouse.up()
    desk.at_revision(1)
    after = server.session().lane("L1").envelope
    assert np.abs(after.at(beats(21, 25, 29)) - (-30 + (beats(21, 25, 29) / ticks_of(1) - 20) * 2.1)).max() < 1.2
    assert np.allclose(after.at(beats(0, 19, 31, 99)), before.at(beats(0, 19, 31, 99)), rtol=0, atol=1e-9)
    assert after.count(ticks_of(20), ticks_of(30)) < 8, "thinned as it was drawn"


def test_stepping_through_every_pan(desk, server, page):
    desk.open()
    page.get_by_label("Find a lane or a track").fill("pan")
    page.keyboard.press("ArrowDown")
    page.keyboard.press("Enter")
    lanes = {x["id"]: x for x in server.json("sessions/1")["lanes"]}
    pans = [id for id, x in lanes.items() if x["parameter"].endswith(".pan")]
    for id in pans:
        desk.until_kept(lambda bench, id=id: bench["chosen"] == [id])
        page.keyboard.press("e")


def test_a_range_is_copied_in_one_window_and_pasted_in_another_session(desk, server, page, context):
    context.grant_permissions(["clipboard-read", "clipboard-write"])
    page.goto(server.url)
    page.get_by_role("button", name="Open a fresh Skerry Light, the sample").click()
    desk.open(1)
    desk.drag_range("bell.level", 32, 48)
    page.keyboard.press("Control+c")
    page.wait_for_timeout(400)
    copied = json.loads(page.evaluate("navigator.clipboard.readText()"))
    assert copied["format"] == "velmot-lanes" and copied["lanes"][0]["track"] == "Bell buoy"
    other = context.new_page()
    there = Desk(other, server).open(2)
    other.keyboard.press("Escape")
    other.keyboard.press("x")
    there.drag_range("bell.level", 28, 60)
    expect(there.result).to_contain_text("nothing changes")
    there.apply()
    there.at_revision(1)
    other.keyboard.press("Control+v")
    there.at_revision(2)
    source, pasted = server.session(1).lane("L1").envelope, server.session(2).lane("L1").envelope
    at = beats(32, 36, 40, 46, 47.9)
    assert np.allclose(pasted.at(at), source.at(at), rtol=0, atol=1e-9)


def test_arbitrary_text_is_refused_and_changes_nothing(desk, server, page):
    desk.open()
    page.evaluate(
        """() => {
          const data = new DataTransfer(); data.setData('text/plain', 'a shopping list')
          document.body.dispatchEvent(new ClipboardEvent('paste', { clipboardData: data, bubbles: true, cancelable: true }))
        }"""
    )
    expect(page.get_by_role("alert")).to_contain_text("The clipboard holds no lanes")
    assert server.json("sessions/1/head")["revision"] == 0


def test_cut_seals_and_a_paste_at_the_cursor_is_chosen_on_its_sheet(desk, server, page):
    before = server.session().lane("L1").envelope
    desk.open()
    desk.drag_range("bell.level", 36, 47)
    page.keyboard.press("Control+x")
    desk.at_revision(1)
    after = server.session().lane("L1").envelope
    assert after.count(ticks_of(36) + 1, ticks_of(47)) == 0
    assert np.allclose(after.at(beats(35, 48, 60)), before.at(beats(35, 48, 60)), rtol=0, atol=1e-9)
    page.mouse.click(desk.x_of("bell.level", 60), desk.canvas_of("bell.level").bounding_box()["y"] + 80)
    page.get_by_role("button", name="Paste v").click()
    expect(desk.result).to_contain_text("Outside 10.1.00")
    held = []
    page.route("**/clipboard", lambda route: held.append(route))
    page.get_by_role("button", name="the cursor").click()
    desk.apply()  # before the server has said what that comes to
    page.wait_for_timeout(100)
    held.pop().continue_()
    desk.at_revision(2)
    pasted = server.session().lane("L1").envelope
    cursor = server.bench()["cursor"]
    shift = ticks_of(cursor) - ticks_of(36)
    assert np.allclose(pasted.at(beats(37, 41, 46) + shift), before.at(beats(37, 41, 46)), rtol=0, atol=1e-6)


def test_same_values_are_picked_and_shift_keeps_a_drag_to_one_direction(desk, server, page, level_of):
    desk.open()
    x, y = spot(desk, 35.5, -10)
    page.mouse.move(x, y)
    page.mouse.down()
    page.keyboard.down("Shift")
    page.mouse.move(x + 6, y + 30, steps=6)
    page.mouse.up()
    page.keyboard.up("Shift")
    desk.at_revision(1)
    assert server.session().lane("L1").envelope.ticks.tolist().count(ticks_of(35.5)) == 1, "its time stayed"
    page.get_by_label("Find a lane or a track").fill("presence gain keeper")
    page.get_by_label("Find a lane or a track").fill("keeper muted")
    page.keyboard.press("ArrowDown")
    page.keyboard.press("Enter")
    page.keyboard.press("p")
    desk.slow(300)
    page.get_by_role("button", name="next", exact=True).click()
    page.get_by_role("button", name="same value").click()  # goes on from the point that is on its way
    expect(page.get_by_text("6 of Keeper Muted")).to_be_visible()


def test_clearing_a_lane_rests_at_its_mean(desk, server, page):
    desk.open()
    page.mouse.click(desk.x_of("bell.level", 60), desk.canvas_of("bell.level").bounding_box()["y"] + 80)
    page.keyboard.press("x")
    page.get_by_text("these lanes", exact=True).click()
    page.get_by_text("mean", exact=True).click()
    expect(desk.result).to_contain_text("Takes 1 lane with 25 points")
    desk.apply()
    desk.at_revision(1)
    rest = server.session().parameter("bell.level").value
    assert -25 < rest < -15 and server.session().lane_at("bell.level") is None


def test_sets_groups_and_the_channel_card(desk, server, page):
    desk.open()
    desk.choose("Sets of pinned lanes", "keep what is pinned")
    expect(page.get_by_label("Name for the pinned lanes")).to_be_focused()
    page.keyboard.type("opening")
    page.keyboard.press("Enter")
    page.get_by_role("button", name="hide all").click()
    expect(page.get_by_text("Nothing is pinned")).to_be_visible()
    desk.choose("Sets of pinned lanes", "opening")
    expect(page.locator("section.strip")).to_have_count(4)
    desk.choose("Group lanes", "by family")
    expect(page.get_by_role("navigation", name="Ledger")).to_contain_text("Every level")
    desk.choose("Group lanes", "by track")
    page.get_by_role("button", name="Keeper", exact=True).click()
    card = page.get_by_role("region", name="Channel card of Keeper")
    expect(card).to_contain_text("rests at −3.0 dB")
    card.get_by_role("button", name="Pan").click()
    desk.at_revision(1)
    assert server.session().lane_at("keeper.pan").envelope.values.tolist() == [0.0]
    page.locator("[data-strip='bell.level']").hover()
    page.locator("[data-strip='bell.level']").get_by_role("button", name="share with").click()
    page.get_by_role("option", name="Pan", exact=True).click()
    expect(page.get_by_role("button", name="with Pan")).to_be_visible()


def test_a_session_without_lanes_is_begun_from_a_channel_card(server, page):
    page.goto(server.url)
    track = {"id": "a", "name": "Alone", "parameters": [dict(json.loads(LEVEL), id="a.l")]}
    content = {"format": "velmot-session", "version": 1, "name": "Empty", "length": 64, "tracks": [track]}
    page.get_by_label("File to import").set_input_files(
        {"name": "e.velmot.json", "mimeType": "", "buffer": json.dumps(content).encode()}
    )
    page.get_by_role("button", name="Open it").click()
    expect(page.get_by_text("This session has no lanes yet")).to_be_visible()
    page.get_by_role("button", name="Alone").click()
    page.get_by_role("region", name="Channel card of Alone").get_by_role("button", name="Level").click()
    expect(page.locator("section.strip")).to_have_count(1)
    assert server.session(2).lane_at("a.l").envelope.values.tolist() == [-3]


LEVEL = '{"name": "Level", "family": "level", "unit": "dB", "axis": "level", "low": -96, "high": 12, "default": 0, "value": -3}'
