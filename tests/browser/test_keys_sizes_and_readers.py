"""Keys alone, what a screen reader is told, small and enlarged windows, and forced colours."""

from __future__ import annotations

import pytest
from playwright.sync_api import expect

from tests.browser.conftest import Desk
from velmot.core.time.ticks import ticks_of
from velmot.formats import session_file

WHERE = """() => {
  const x = document.activeElement
  return x?.closest('.ledger') ? 'ledger' : x?.closest('.stage') ? 'strips' : x?.closest('.result') ? 'result'
    : x?.closest('.worksheet') ? 'worksheet' : x === document.body || !x ? 'nowhere' : 'head'
}"""


def tabs_to(page, place: str) -> int:
    """How often Tab is pressed until the focus is in a place."""
    for n in range(1, 60):
        page.keyboard.press("Tab")
        if page.evaluate(WHERE) == place:
            return n
    raise AssertionError(f"{place} is not come to in 60 tabs")


def test_from_opening_to_take_out_by_keys_alone_and_what_is_said(desk, server, page):
    """The finder leads to a strip; a point is walked to and nudged, a range set, a lane carried, and the file taken."""
    page.goto(server.url)
    page.get_by_role("link", name="Open Skerry Light").focus()
    page.keyboard.press("Enter")
    expect(page.locator("section.strip").first).to_be_visible()
    said = page.get_by_role("status", name="What changed")
    page.keyboard.press("j")
    page.keyboard.type("bell buoy level")
    page.keyboard.press("Enter")
    expect(desk.canvas_of("bell.level")).to_be_focused()
    page.keyboard.press("n")
    page.keyboard.press("n")
    expect(said).to_have_text("Point 2 of 25, bar 3.1.00, −22.5 dB, Bell buoy Level")
    page.keyboard.press("ArrowUp")
    desk.at_revision(1)
    expect(said).to_have_text("Point 2 of 25, bar 3.1.00, −22.0 dB, Bell buoy Level")
    page.keyboard.press("Control+z")
    desk.at_revision(0)
    expect(said).to_contain_text("−22.5 dB")
    page.keyboard.press("Escape")
    for _ in range(4):
        page.keyboard.press("Shift+ArrowRight")
    expect(said).to_have_text("Cursor at 2.1.00")
    page.keyboard.press(",")
    for _ in range(8):
        page.keyboard.press("Shift+ArrowRight")
    page.keyboard.press(".")
    expect(said).to_have_text("Range from 2.1.00 to 4.1.00")
    page.keyboard.press("ArrowDown")
    expect(desk.canvas_of("foghorn.level")).to_be_focused()
    page.keyboard.press("ArrowUp")
    expect(desk.canvas_of("bell.level")).to_be_focused()
    page.keyboard.press("c")
    page.keyboard.press("F6")
    assert page.evaluate(WHERE) == "worksheet"
    page.get_by_role("combobox", name="Tracks to carry to").focus()
    page.keyboard.type("gulls")
    page.get_by_role("option", name="Gulls", exact=True).wait_for()
    page.keyboard.press("Enter")
    expect(desk.result).to_contain_text("Gulls Level")
    page.keyboard.press("Escape")
    page.keyboard.press("Control+Enter")
    desk.at_revision(2)
    assert page.evaluate(WHERE) != "nowhere"
    lane = server.session().lane_at("gulls.level").envelope
    own = server.session().lane("L1").envelope
    assert lane.value_at(ticks_of(6)) == pytest.approx(own.value_at(ticks_of(6)), abs=1e-9)
    page.keyboard.press("F6")
    page.keyboard.press("j")
    page.keyboard.type("page take out")
    page.keyboard.press("Enter")
    link = page.get_by_role("link", name="Take the session file")
    link.focus()
    with page.expect_download() as download:
        page.keyboard.press("Enter")
    assert session_file.read(download.value.path().read_bytes())[0] == server.session()


def test_places_are_near_by_tab_and_points_are_a_list(desk, page):
    desk.open()
    page.locator(".find input").focus()
    assert tabs_to(page, "strips") <= 12, "it was 135"
    strip = page.locator("[data-strip='bell.level']")
    points = strip.get_by_role("list", name="Points in the window").get_by_role("listitem")
    expect(points.first).to_have_text("Point 1 of 25, bar 1.1.00, −24.0 dB")
    assert page.locator(".plot[tabindex='0']").count() == 1
    for place in ("worksheet", "ledger", "strips"):  # beside the sheet there is nothing to press yet
        page.keyboard.press("F6")
        assert page.evaluate(WHERE) == place
    page.keyboard.press("Shift+F6")
    assert page.evaluate(WHERE) == "ledger"
    page.keyboard.press("F6")
    page.keyboard.press("Shift+D")
    expect(page.get_by_role("slider", name="Bell buoy Level")).to_be_focused()
    rule = page.get_by_role("slider", name="Bell buoy Level")
    assert rule.get_attribute("aria-valuemin") == "-96" and rule.get_attribute("aria-valuemax") == "12"
    page.keyboard.press("ArrowRight")
    expect(page.locator("[data-control]").nth(1).get_by_role("slider")).to_be_focused()
    assert page.locator(".desk .rule[tabindex='0']").count() == 1


def test_keys_of_one_letter_can_be_switched_off(desk, page):
    desk.open()
    page.keyboard.press("?")
    page.get_by_text("keys of one letter or sign work").click()
    page.get_by_role("button", name="close").click()
    page.keyboard.press("q")
    page.keyboard.press("j")
    expect(page.get_by_role("dialog", name="Go to anything")).to_have_count(0)
    expect(page.get_by_role("navigation", name="Verbs")).to_be_visible()
    page.keyboard.press("ArrowRight")
    page.reload()
    expect(page.locator("section.strip").first).to_be_visible()
    page.keyboard.press("q")
    expect(page.get_by_role("navigation", name="Verbs")).to_be_visible()


@pytest.mark.parametrize(("width", "height", "folded"), [(1024, 700, True), (1024, 700, False), (640, 400, False)])
def test_small_and_enlarged_windows_have_all_there_is(server, page, width, height, folded):
    """1024 × 700; and 640 × 400, which is 1280 × 800 at 200 %."""
    page.set_viewport_size({"width": width, "height": height})
    desk = Desk(page, server, folded).open()
    wanted = [
        page.get_by_role("button", name="Skerry Light"),
        page.get_by_role("link", name="Take out…"),
        page.get_by_role("button", name="Undo"),
        page.get_by_label("Find a lane or a track"),
        desk.result.get_by_role("button", name="Apply", exact=True),
        page.locator("[data-strip='bell.level'] header b").first,
        page.locator("[data-strip='bell.level'] header b").nth(1),
        page.get_by_role("button", name="Carry").first,
    ]
    for one in wanted:
        one.scroll_into_view_if_needed()
        box = one.bounding_box()
        assert box["x"] >= 0 and box["x"] + box["width"] <= width + 0.5, one
        assert box["y"] >= 0 and box["y"] + box["height"] <= height + 0.5, one
        assert one.evaluate("x => x.scrollWidth <= x.clientWidth + 1 || getComputedStyle(x).display === 'inline'"), one
    assert page.evaluate(
        "(x => x.scrollHeight <= innerHeight && x.scrollWidth <= innerWidth)(document.querySelector('#app'))"
    )
    line = page.locator("[data-lane]").first
    line.scroll_into_view_if_needed()
    line.click()
    expect(page.locator(".line.chosen")).to_have_count(1)


def test_forced_colours_show_what_is_chosen_and_where_one_is(server, page):
    page.emulate_media(forced_colors="active")
    desk = Desk(page, server, folded=False).open()
    desk.drag_range("bell.level", 32, 48)

    def differs(selector: str) -> bool:
        """Whether the middle of something is another colour than what is a little beside it."""
        colours = "(x => [getComputedStyle(x).backgroundColor, getComputedStyle(x.parentElement).backgroundColor])"
        here, around = page.locator(selector).first.evaluate(colours)
        return here != around

    assert differs(".flag.start") and differs(".cursor") and differs(".pin.on")
    on = page.locator(".verbs button.on").evaluate("x => getComputedStyle(x).outlineStyle")
    assert on == "solid"
    names = page.locator("[data-strip='bell.level'] header b").first
    ink, sheet = names.evaluate(
        "x => [getComputedStyle(x).color, getComputedStyle(x.closest('.stage')).backgroundColor]"
    )
    assert ink != sheet


def test_a_line_of_hints_says_what_a_hand_can_do_and_is_switched_off_for_good(desk, page):
    page.add_init_script(
        "if (!sessionStorage['told']) { localStorage['velmot.hints'] = 'on'; sessionStorage['told'] = 'yes' }"
    )
    desk.open()
    line = page.locator(".hint-line")
    desk.canvas_of("bell.level").hover()
    expect(line).to_contain_text("Drag: a range.")
    page.locator(".ruler").hover()
    expect(line).to_contain_text("Click: time goes there.")
    line.get_by_role("button", name="no hints").click()
    expect(line).to_have_count(0)
    page.reload()
    expect(page.locator("section.strip").first).to_be_visible()
    expect(line).to_have_count(0)
    page.get_by_role("button", name="Keys", exact=True).click()
    page.get_by_text("a line of hints at the foot of the strips").click()
    page.keyboard.press("Escape")
    expect(line).to_be_visible()
