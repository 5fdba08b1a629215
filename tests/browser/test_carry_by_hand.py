"""Carrying a curve to another track with mouse and keyboard, from the start page to the file taken out."""

import numpy as np
from playwright.sync_api import expect

from velmot.core.time.ticks import ticks_of
from velmot.formats import session_file


def test_a_newcomers_first_carry_with_the_mouse(desk, server, page):
    before = server.file()
    source = server.session().lane("L1").envelope
    page.goto(server.url)
    page.get_by_role("link", name="Open Skerry Light").click()
    expect(page.locator("section.strip").first).to_be_visible()
    desk.drag_range("bell.level", 32, 48)
    desk.choose_track("Kelp choir")
    expect(desk.result).to_contain_text("Kelp choir is not reading its lanes: this would not be heard")
    expect(desk.result).to_contain_text("Outside 9.1.00 to 13.1.00 nothing changes")
    assert server.file() == before, "a preview saves nothing"
    desk.apply("set it to read in the same step")
    expect(desk.result).not_to_contain_text("not reading")
    desk.apply()
    desk.at_revision(1)

    after = server.session()
    carried = after.lane_at("choir.level").envelope
    beats = np.array([ticks_of(b) for b in (32, 35.5, 40, 46, 47.9)])
    assert np.allclose(carried.at(beats), source.at(beats), rtol=0, atol=1e-9)
    old = session_file.read(before)[0].lane_at("choir.level").envelope
    outside = np.array([ticks_of(b) for b in (0, 20, 31.99, 48, 60, 200)])
    assert np.allclose(carried.at(outside), old.at(outside), rtol=0, atol=1e-9)
    assert after.track("choir").reads

    page.keyboard.press("Control+z")
    desk.at_revision(0)
    assert server.file() == before, "undone to the last bit"
    page.get_by_role("button", name="Redo").click()
    desk.at_revision(1)
    page.get_by_role("link", name="Log").click()
    expect(page.get_by_role("main", name="Log")).to_contain_text(
        "Carry Bell buoy Level from 9.1.00 to 13.1.00 to Kelp choir, the same place, copied"
    )
    page.get_by_role("link", name="Take out…").click()
    with page.expect_download() as download:
        page.get_by_role("link", name="Take the session file").click()
    assert session_file.read(download.value.path().read_bytes())[0] == after


def test_the_same_with_the_keyboard_alone(desk, server, page):
    desk.open()
    page.keyboard.press("/")
    page.keyboard.type("keeper presence")
    page.keyboard.press("ArrowDown")
    page.keyboard.press("Enter")
    page.get_by_role("button", name="the bars on view").focus()
    page.keyboard.press("Enter")
    for label, text in (("Range start", "17"), ("Range end", "21.1.00"), ("Starting at", "41.1")):
        page.get_by_role("textbox", name=label).focus()
        page.keyboard.type(text)
        page.keyboard.press("Enter")
    page.get_by_role("combobox", name="Tracks to carry to").focus()
    page.keyboard.type("keeper")
    page.get_by_role("option", name="Keeper (itself)").wait_for()
    page.keyboard.press("ArrowDown")
    page.keyboard.press("Enter")
    expect(desk.result).to_contain_text("Keeper Presence")
    expect(desk.result).to_contain_text("Outside 41.1.00 to")
    page.keyboard.press("Escape")
    page.keyboard.press("Control+Enter")
    desk.at_revision(1)
    lane = server.session().lane_at("keeper.presence.gain").envelope
    shift = ticks_of(160 - 64)
    at = np.array([ticks_of(b) for b in (64, 66.5, 79.9)])
    assert np.allclose(lane.at(at + shift), lane.at(at), rtol=0, atol=1e-9)


def test_typed_nonsense_is_refused_beside_the_field(desk, page):
    desk.open()
    desk.drag_range("bell.level", 32, 48)
    field = page.get_by_role("textbox", name="Range start")
    field.fill("bar nine")
    field.press("Enter")
    expect(page.get_by_role("alert")).to_contain_text("“bar nine” is not a position")
    field.press("Escape")
    expect(field).to_have_value("9.1.00")


def test_what_is_typed_replaces_a_text_that_changes_under_it(desk, page):
    desk.open()
    desk.drag_range("bell.level", 0, 32)
    held = []
    page.route("**/typed", lambda route: held.append(route))
    page.get_by_role("textbox", name="Range start").fill("9")
    page.get_by_role("textbox", name="Range end").focus()
    page.keyboard.press("Shift+Tab")
    page.keyboard.press("Tab")
    page.wait_for_timeout(100)
    for route in held:
        route.continue_()
    page.unroute("**/typed")
    expect(page.get_by_role("textbox", name="Range end")).to_have_value("10.1.00")
    page.keyboard.type("21.1.00")
    page.keyboard.press("Enter")
    expect(page.get_by_role("textbox", name="Range length")).to_have_value("48 beats")


def test_the_apply_key_reads_what_is_being_typed(desk, server, page):
    desk.open()
    desk.drag_range("bell.level", 32, 48)
    desk.choose_track("Keeper")
    expect(desk.result).to_contain_text("Keeper Level")
    page.get_by_role("textbox", name="Starting at").fill("17")
    page.keyboard.press("Control+Enter")
    desk.at_revision(1)
    title = server.json("sessions/1/log")["lines"][0]["title"]
    assert "17.1.00" in title, title


def test_alt_frees_a_drag_from_the_grid_and_a_flag_moves_an_edge(desk, page):
    desk.open()
    page.keyboard.down("Alt")
    desk.drag_range("bell.level", 32.3, 40.3)
    page.keyboard.up("Alt")
    start = page.get_by_role("textbox", name="Range start")
    assert start.input_value() not in ("9.1.00", "9.2.00") and start.input_value().startswith("9.1.")
    flag = page.get_by_role("button", name="Range end")
    flag.focus()
    page.keyboard.press("ArrowRight")
    desk.until_kept(lambda bench: bench["range"] and bench["range"]["end"] > 41.2)


def test_wheel_and_ribbon_move_the_window_of_bars(desk, page):
    desk.open()
    view = "JSON.parse(sessionStorage['velmot.view.1'] ?? '{\"start\":0,\"end\":64}')"
    expect(page.get_by_role("region", name="Worksheet")).to_be_visible()
    page.keyboard.press("y")  # tall strips, so that there is something to scroll
    scroller = "document.querySelector('main .scroller')"
    desk.until(f"{scroller}.scrollHeight > {scroller}.clientHeight + 100")
    page.mouse.move(desk.x_of("bell.level", 30), 200)
    page.mouse.wheel(0, 300)
    desk.until("document.querySelector('main .scroller').scrollTop > 100")
    assert page.evaluate(f"{view}.start") == 0, "the strips scroll, and nothing else"
    page.mouse.wheel(300, 0)
    desk.until(f"{view}.start > 16")
    page.keyboard.down("Shift")
    page.mouse.wheel(0, -150)
    page.keyboard.up("Shift")
    desk.until(f"{view}.start < 15")
    page.keyboard.down("Control")
    page.mouse.wheel(0, -200)
    page.keyboard.up("Control")
    desk.until(f"{view}.end - {view}.start < 50")
    box = page.get_by_role("slider", name="Bars on view").bounding_box()
    page.mouse.click(box["x"] + box["width"] * 0.9, box["y"] + 10)
    desk.until(f"{view}.end > 220")
