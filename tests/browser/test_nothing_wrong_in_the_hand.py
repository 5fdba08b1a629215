"""Between hand and page, with answers held back and quick hands: nothing else is moved, nothing is lost, nothing stays stuck."""

import re

import pytest
from playwright.sync_api import Page, expect

from tests.browser.conftest import Desk
from tests.browser.test_points_by_hand import spot
from velmot.core.time.ticks import ticks_of


class Late:
    """Answers to some calls, held back until they are let through; the calls themselves have been made by then."""

    def __init__(self, page: Page, pattern: str) -> None:
        self.page, self.pattern, self.held, self.free = page, pattern, [], False
        page.route(pattern, self._hold)

    def _hold(self, route) -> None:
        if self.free:
            route.continue_()
        else:
            self.held.append((route, route.fetch()))

    def until(self, count: int) -> None:
        for _ in range(1000):  # half a minute, as a machine may be busy
            if len(self.held) >= count:
                return
            self.page.wait_for_timeout(30)
        raise AssertionError(f"{len(self.held)} calls to {self.pattern}, not {count}")

    def let_through(self) -> None:
        """Give the answers that are held; no later one is held any more."""
        self.free = True
        held, self.held = self.held, []
        for route, answer in held:
            route.fulfill(response=answer)


@pytest.fixture
def points(server):
    """Beat and value of the points of Bell buoy Level (L1), as they would be taken out now."""

    def now():
        envelope = server.session().lane("L1").envelope
        return {(round(t / ticks_of(1), 3), round(v, 3)) for t, v, _ in envelope.points()}

    return now


def take_hold(page, x, y, to_x=0, to_y=12):
    """Press on a point and pull it; the button stays down."""
    page.mouse.move(x, y)
    page.mouse.down()
    page.mouse.move(x + to_x / 2, y + to_y / 2, steps=3)
    page.mouse.move(x + to_x, y + to_y, steps=3)


def log_of(server):
    return [line["title"] for line in server.json("sessions/1/log")["lines"]]


def test_a_late_double_click_moves_no_other_point(desk, server, page, points):
    desk.open()
    before = points()
    late = Late(page, "**/apply")
    x, y = spot(desk, 20, -30)
    page.mouse.dblclick(x, y)
    late.until(1)
    x, y = spot(desk, 35.5, -10)
    take_hold(page, x, y, to_y=14)
    late.let_through()
    desk.at_revision(1)
    page.mouse.move(x, y + 24, steps=3)
    expect(page.locator("output.said")).to_be_visible()
    page.mouse.up()
    desk.at_revision(2)
    after = points()
    gone = before - after
    assert gone == {(35.5, -10.0)}, "only the held point moved"
    assert {beat for beat, _ in after - before} == {20.0, 35.5}


def test_a_point_that_is_undone_under_the_hand_ends_the_drag(desk, server, page, points):
    desk.open()
    before = points()
    x, y = spot(desk, 20, -30)
    page.mouse.dblclick(x, y)
    desk.at_revision(1)
    late = Late(page, "**/undo")
    desk.canvas_of("bell.level").focus()
    page.keyboard.press("Control+z")
    late.until(1)
    x, y = spot(desk, 20, -30)
    take_hold(page, x, y, to_y=14)
    expect(page.locator("output.said")).to_be_visible()
    late.let_through()
    expect(page.locator(".notice").filter(has_text="no longer where it was")).to_be_visible()
    expect(page.locator("output.said")).to_have_count(0)
    page.mouse.move(x, y + 30, steps=3)
    page.mouse.up()
    page.wait_for_timeout(300)
    assert points() == before and server.json("sessions/1/head")["revision"] == 0
    expect(desk.result).not_to_contain_text("Move")


def test_keys_on_points_that_wait_for_an_undo_take_no_other(desk, server, page, points):
    desk.open()
    before = points()
    x, y = spot(desk, 20, -30)
    page.mouse.dblclick(x, y)
    desk.at_revision(1)
    x, y = spot(desk, 35.5, -10)
    page.mouse.click(x, y)
    expect(page.get_by_text("1 of Bell buoy Level")).to_be_visible()
    late = Late(page, "**/undo")
    page.keyboard.press("Control+z")
    late.until(1)
    page.keyboard.press("Delete")
    late.let_through()
    desk.at_revision(2)
    assert before - points() == {(35.5, -10.0)} and not points() - before


def test_the_second_of_two_quick_drags_is_kept(desk, server, page, points):
    desk.open()
    before = points()
    late = Late(page, "**/apply")
    x, y = spot(desk, 35.5, -10)
    take_hold(page, x, y)
    page.mouse.up()
    late.until(1)
    others = sorted(p for p in before if p[0] > 36 and p[0] < 60 and -34 < p[1] < -6)
    beat, value = others[-1]
    x, y = spot(desk, beat, value)
    take_hold(page, x, y)
    late.let_through()
    desk.at_revision(1)
    page.wait_for_timeout(200)
    page.mouse.move(x, y + 20, steps=3)
    page.mouse.up()
    desk.at_revision(2)
    assert before - points() == {(35.5, -10.0), (beat, value)}


@pytest.mark.parametrize("way", ["Escape", "cancelled"])
def test_what_is_in_hand_is_given_up(desk, server, page, way):
    """Point, range, flag, region, box and stroke: as they were, and nothing applied."""
    desk.open()
    before = server.file()
    desk.drag_range("bell.level", 40, 48)

    def give_up():
        if way == "Escape":
            page.keyboard.press("Escape")
        else:
            page.evaluate(
                """() => document.querySelectorAll('.plot, .flag, .ruler').forEach((x) =>
                  x.dispatchEvent(new PointerEvent('pointercancel', { pointerId: 1 })))"""
            )
        page.mouse.move(*[n + 9 for n in spot(desk, 30, -30)], steps=2)
        page.mouse.up()
        expect(page.locator("output.said")).to_have_count(0)
        expect(page.locator(".strip .box")).to_have_count(0)

    take_hold(page, *spot(desk, 35.5, -10), to_x=20)
    expect(page.locator("output.said")).to_be_visible()
    give_up()
    x, y = spot(desk, 52, -30)
    take_hold(page, x, y, to_x=60, to_y=0)
    give_up()
    flag = page.get_by_role("button", name=re.compile("^Range end"))
    said = flag.get_attribute("aria-label")
    assert said.startswith("Range end, 13.1.00"), "the range that was dragged first is still chosen"
    box = flag.bounding_box()
    take_hold(page, box["x"] + box["width"] / 2, box["y"] + box["height"] / 2, to_x=90, to_y=0)
    assert flag.get_attribute("aria-label") != said
    give_up()
    expect(flag).to_have_attribute("aria-label", said)
    page.keyboard.down("Shift")
    take_hold(page, x, y, to_x=60, to_y=30)
    expect(page.locator(".strip .box")).to_be_visible()
    give_up()
    page.keyboard.up("Shift")
    desk.pull_foot("bell.level", 36, 44)
    expect(page.locator("output.said")).to_contain_text("to ")
    give_up()
    page.keyboard.press("d")
    take_hold(page, x, y, to_x=60, to_y=30)
    expect(page.locator("output.said")).to_be_visible()
    give_up()
    page.wait_for_timeout(300)
    assert server.file() == before
    desk.at_revision(0)


def test_a_hand_whose_strip_goes_lets_go_of_everything(desk, server, page):
    page.goto(server.url)
    desk.open()
    page.get_by_role("button", name="show all", exact=True).first.click()
    take_hold(page, *spot(desk, 35.5, -10))
    expect(page.locator("output.said")).to_be_visible()
    page.evaluate("document.querySelector('.scroller').scrollTo(0, 1e7)")
    expect(page.locator("[data-strip='bell.level']")).to_have_count(0)
    page.mouse.up()
    page.keyboard.press("t")
    expect(desk.result).not_to_contain_text("Bell buoy Level")
    page.keyboard.press("Control+Enter")
    page.wait_for_timeout(300)
    assert "Move" not in " ".join(log_of(server))


def test_of_two_sessions_opened_quickly_the_later_one_is_shown(desk, server, page):
    from tests.api.test_let_in import session as session_bytes
    from tests.api.test_let_in import track
    from tests.browser.test_files_in_and_out import bring

    page.goto(server.url)
    bring(page, "other.velmot.json", session_bytes(name="Other", tracks=[track("t")]))
    page.goto(server.url)
    late = Late(page, re.compile(r"/api/sessions/1(\?.*)?$"))
    page.get_by_role("link", name="Open Skerry Light").click()
    late.until(1)
    page.go_back()
    page.get_by_role("link", name="Open Other").click()
    expect(page.locator(".title")).to_have_text("Other")
    late.let_through()
    page.wait_for_timeout(300)
    expect(page.locator(".title")).to_have_text("Other")
    heads = []
    page.on("request", lambda call: heads.append(call.url) if call.url.endswith("/head") else None)
    page.go_back()
    page.wait_for_timeout(3000)
    assert not heads, "nobody asks any more after a session that was left"


def test_what_was_set_up_on_a_sheet_is_there_again(desk, server, page):
    desk.open()
    desk.drag_range("bell.level", 32, 48)
    desk.choose_track("Keeper")
    often = page.get_by_label("How often")
    often.fill("3")
    often.press("Enter")
    page.keyboard.press("Escape")
    page.mouse.click(*spot(desk, 35.5, -10))
    page.get_by_role("link", name="Log", exact=True).click()
    expect(page.locator(".log")).to_be_visible()
    page.get_by_role("link", name="Bench", exact=True).click()
    desk.drag_range("bell.level", 32, 48)
    desk.canvas_of("bell.level").focus()
    page.keyboard.press("c")
    expect(page.get_by_label("How often")).to_have_value("3")
    expect(desk.result).to_contain_text("Keeper Level")
    desk.apply()
    desk.at_revision(1)
    assert server.json("sessions/1/log")["lines"][0]["request"]["times"] == 3


def test_a_number_that_cannot_be_read_holds_apply_back_and_says_why(desk, server, page):
    desk.open()
    desk.drag_range("bell.level", 32, 48)
    desk.choose_track("Keeper")
    apply = desk.result.get_by_role("button", name="Apply", exact=True)
    expect(apply).to_be_enabled()
    often = page.get_by_label("How often")
    often.fill("-3x")
    often.press("Tab")
    expect(apply).to_be_disabled()
    expect(desk.result).to_contain_text("How often: “-3x” is not a number. Expected: a whole number from 1 to 1000")
    page.keyboard.press("Control+Enter")
    often.fill("0")
    often.press("Tab")
    expect(desk.result).to_contain_text("“0” does not fit")
    page.keyboard.press("Control+Enter")
    page.wait_for_timeout(300)
    desk.at_revision(0)
    often.fill("")
    often.press("Tab")
    expect(often).to_have_value("1")
    desk.apply()
    desk.at_revision(1)


def test_cut_is_the_benchs_only_where_the_bench_is(desk, server, page):
    desk.open()
    desk.drag_range("bell.level", 32, 48)
    page.get_by_role("link", name="Log", exact=True).click()
    expect(page.locator(".log")).to_be_visible()
    for key in ("Control+x", "Control+v"):
        page.keyboard.press(key)
    page.wait_for_timeout(300)
    desk.at_revision(0)
    page.get_by_role("link", name="Bench", exact=True).click()
    desk.canvas_of("bell.level").focus()
    page.evaluate("getSelection().selectAllChildren(document.querySelector('.result h2'))")
    page.keyboard.press("Control+x")
    page.wait_for_timeout(300)
    desk.at_revision(0)
    page.evaluate("getSelection().removeAllRanges()")
    page.keyboard.press("Control+x")
    desk.at_revision(1)


def test_a_held_key_is_one_step_and_round(desk, server, page):
    desk.open()
    page.mouse.click(*spot(desk, 35.5, -10))
    desk.canvas_of("bell.level").focus()
    late = Late(page, "**/apply")
    for _ in range(7):
        page.keyboard.down("ArrowUp")
    page.keyboard.up("ArrowUp")
    for key, times in (("Shift+ArrowDown", 1), ("Alt+ArrowUp", 1)):
        for _ in range(times):
            page.keyboard.press(key)
    late.until(1)
    late.let_through()
    desk.at_revision(3)
    assert (server.session().lane("L1").envelope.at([ticks_of(35.5)]) == [-10 + 3.5 - 1 + 0.1]).all()
    page.keyboard.down("ArrowRight")
    page.keyboard.down("ArrowRight")
    page.keyboard.press("Escape")
    page.keyboard.up("ArrowRight")
    page.wait_for_timeout(200)
    desk.at_revision(3)


def test_a_range_of_a_tick_is_not_gone_round(desk, server, page):
    desk.open()
    server.keep_bench(1, {"range": {"start": 32, "end": 32.0001}})
    page.evaluate("sessionStorage.clear()")
    page.reload()
    expect(page.locator("section.strip").first).to_be_visible()
    desk.canvas_of("bell.level").focus()
    page.keyboard.press("Shift+D")
    desk.choose("Mode of all", "write")
    expect(page.get_by_text("round the range (from 0.5 s on)")).to_be_visible()
    page.get_by_role("group", name="Transport").get_by_role("button", name="Play").click()
    page.wait_for_timeout(600)
    page.get_by_role("group", name="Transport").get_by_role("button", name="Stop").click()
    expect(page.get_by_role("list", name="Passes").get_by_role("listitem")).to_have_count(1)


def test_a_track_is_set_to_read_where_it_says_that_it_does_not(desk, server, page):
    """From the strip's own words to the log and back: what becomes heard is said before, and no lane is touched."""
    desk.open()
    before = server.session()
    page.locator("[data-strip='choir.level']").get_by_role("button", name="not reading").click()
    expect(desk.result).to_contain_text("Kelp choir Level, up to 12.48 dB")
    expect(desk.result).to_contain_text("Kelp choir Vowel filter, up to 1.92 octaves")
    desk.apply()
    desk.at_revision(1)
    assert server.json("sessions/1/log")["lines"][0]["title"] == "Set Kelp choir to read"
    after = server.session()
    assert after.track("choir").reads and after.lanes == before.lanes
    expect(page.locator("[data-strip='choir.level']").get_by_role("button", name="not reading")).to_have_count(0)
    page.keyboard.press("j")
    page.keyboard.type("modes")
    page.keyboard.press("Enter")
    page.get_by_role("button", name="all", exact=True).last.click()
    page.get_by_text("off", exact=True).click()
    page.keyboard.press("Control+Enter")
    desk.at_revision(2)
    assert not any(t.reads for t in server.session().tracks)


def test_letters_and_keys_stay_alive_after_clicks_and_typed_values(desk, server, page, points):
    desk.open()
    page.mouse.click(*spot(desk, 35.5, -10))
    page.get_by_label("Value", exact=True).fill("-8 dB")
    page.keyboard.press("Enter")
    desk.at_revision(1)
    page.keyboard.press("Shift+T")
    page.get_by_text("steps to slopes").click()
    page.keyboard.press("p")
    expect(page.locator(".verbs .on")).to_contain_text("Points")
    page.mouse.click(*spot(desk, 35.5, -8))
    page.keyboard.press("Delete")
    desk.at_revision(2)
    assert not [1 for beat, _ in points() if beat == 35.5]


def test_clicks_land_on_the_grid_and_what_a_drag_is_caught_by_is_named(desk, server, page, points):
    desk.open()
    before = points()
    x, y = spot(desk, 20.2, -30)
    page.mouse.dblclick(x, y)
    desk.at_revision(1)
    assert {beat for beat, _ in points() - before} == {20.0}
    desk.until_kept(lambda bench: bench["cursor"] == 20.0)
    page.mouse.click(*spot(desk, 45.74, -32))
    desk.until_kept(lambda bench: bench["cursor"] == 46.0)
    x, y = spot(desk, 35.5, -10)
    take_hold(page, x, y, to_x=desk.x_of("bell.level", 38.97) - x)
    expect(page.locator("output.said")).to_contain_text("dB")
    page.keyboard.press("Escape")
    page.mouse.up()


def test_new_copies_are_chosen_with_a_click_and_a_regions_span_is_offered(desk, server, page):
    desk.open()
    page.keyboard.press("j")
    page.keyboard.type("region toll 1")
    page.keyboard.press("Enter")
    page.keyboard.press("g")
    page.get_by_text("repeat", exact=True).click()
    times = page.get_by_label("How many more")
    times.fill("2")
    times.press("Enter")
    expect(desk.result).to_contain_text("toll 1")
    desk.apply()
    desk.at_revision(1)
    desk.result.get_by_role("button", name="Choose 2 new regions").click()
    page.keyboard.press("x")
    page.get_by_role("button", name="the chosen regions").click()
    desk.until_kept(lambda bench: bench["range"] == {"start": 24.0, "end": 72.0})


def test_fresh_ink_can_be_taken_before_the_first_answer_has_come(desk, server, page, points):
    """A point is pulled down by 12 pixels and, at once, from there by 10 more: 22 in all, and no other point moves."""
    desk.open()
    before = points()
    late = Late(page, "**/apply")
    x, y = spot(desk, 35.5, -10)
    take_hold(page, x, y, to_y=12)
    page.mouse.up()
    late.until(1)
    take_hold(page, x, y + 12, to_y=10)
    page.mouse.up()
    page.wait_for_timeout(100)
    late.let_through()
    desk.at_revision(2)
    (there,) = before - points()
    (now,) = points() - before
    a_pixel = 37.2 / (desk.canvas_of("bell.level").bounding_box()["height"] - 44)
    assert there == (35.5, -10.0) and now[0] == 35.5
    assert now[1] == pytest.approx(-10 - 22 * a_pixel, abs=1.2 * a_pixel)


def test_a_control_pressed_before_it_is_known_where_it_stands_is_ridden_from_there(desk, server, page):
    desk.open()
    desk.drag_range("keeper.level", 36, 40)
    late = Late(page, "**/desk")
    page.keyboard.press("Shift+D")
    column = page.locator("[data-control='keeper.level']")
    rule = column.get_by_role("slider").bounding_box()
    page.keyboard.press(" ")
    expect(page.locator(".where b")).not_to_have_text("10.1.00")  # time runs
    page.mouse.move(rule["x"] + 40, rule["y"] + 40)
    page.mouse.down()
    page.mouse.move(rule["x"] + 40, rule["y"] + 46, steps=4)
    page.wait_for_timeout(150)
    page.mouse.up()
    late.let_through()
    page.wait_for_timeout(300)
    page.keyboard.press(" ")
    desk.apply()
    desk.at_revision(1)
    hand = server.json("sessions/1/log")["lines"][0]["request"]["passes"][0]["controls"][0]["hand"]
    assert hand["does"][0] == "touch" and "move" in hand["does"] and hand["does"][-1] == "release"


SHIFTS = """
window.shifts = []
new PerformanceObserver((list) => {
  for (const e of list.getEntries()) window.shifts.push([e.value, e.sources.map((s) => s.node?.className ?? '').join(' ')])
}).observe({ type: 'layout-shift', buffered: true })
"""


@pytest.mark.parametrize("folded", [True, False])
def test_nothing_moves_when_answers_come(server, page, folded):
    """Previews with cautions, what was applied, notices, a refusal and the desk: by the browser's own figure."""
    desk = Desk(page, server, folded).open()
    page.evaluate(SHIFTS)
    desk.drag_range("bell.level", 32, 48)
    if folded:
        page.locator("[data-part=targets]").click()
        page.get_by_role("option", name="Kelp choir", exact=True).click()
        page.keyboard.press("Escape")
    else:
        desk.choose_track("Kelp choir")
    expect(desk.result).to_contain_text("not reading")
    desk.apply()
    desk.at_revision(1)
    page.keyboard.press("r")
    expect(desk.result).to_contain_text("Pull a rail")
    page.keyboard.press("g")
    page.mouse.click(*desk.foot_of("foghorn.level", 20))
    page.keyboard.press("Shift+D")
    expect(page.locator("[data-control]").first).to_be_visible()
    page.wait_for_timeout(600)
    page.keyboard.press("c")
    page.wait_for_timeout(600)
    shifts = page.evaluate("window.shifts")
    assert [s for s in shifts if s[0] > 0.01 or "foot" in s[1]] == []


def test_keys_pressed_before_the_rest_of_the_screen_is_there_are_not_lost(server, page):
    late = Late(page, "**/rest-*.js")
    page.goto(f"{server.url}/sessions/1")
    expect(page.locator("section.strip").first).to_be_visible()
    late.until(1)
    page.keyboard.press("Shift+T")
    page.keyboard.press("Space")
    late.let_through()
    expect(page.get_by_text("Choose lanes to thin.").first).to_be_visible()
    expect(page.get_by_role("button", name="Stop", exact=True).first).to_be_visible()
