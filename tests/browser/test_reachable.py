"""For everyone: every page and sheet by the rules of accessibility, by the keyboard, in the dark, in large text."""

from pathlib import Path

import pytest
from playwright.sync_api import expect

from tests.browser.conftest import Desk

AXE = Path("frontend/node_modules/axe-core/axe.min.js").read_text()
VERBS = [
    "Carry",
    "Retarget",
    "Place",
    "Paste",
    "Points",
    "Reshape",
    "Retime",
    "Draw",
    "Thin",
    "Clear",
    "Regions",
    "Embed / lift",
    "Groups",
    "Ride",
]


STILL = """async () => {
  const frame = () => new Promise(requestAnimationFrame)
  await frame()
  await frame()
  await Promise.all(document.getAnimations().map(one => one.finished.catch(() => null)))
}"""
"""Until what fades in, and turns from light to dark, is there."""


@pytest.fixture
def clean(page):
    """Raises for anything axe finds on the page as it is now, and unless it has one first-level heading."""
    page.add_init_script(AXE)

    def check(where: str, part: str = "body", dark: bool = True) -> None:
        """All rules on the paper that is up; on the other only what a paper can change."""
        expect(page.locator("h1"), where).to_have_count(1)
        shown = page.evaluate("document.documentElement.dataset.papers")
        other = "light" if shown == "dark" else "dark"
        for papers in (shown, other) if dark else (shown,):
            page.emulate_media(color_scheme=papers)
            page.evaluate(STILL)
            assert page.evaluate("document.documentElement.dataset.papers") == papers
            only = ", runOnly: ['color-contrast']" if papers == other else ""
            options = f"{{resultTypes: ['violations'], preload: false{only}}}"
            found = page.evaluate(f"axe.run('{part}', {options})")["violations"]
            told = [f"{v['id']}: {n['html'][:150]} {n['failureSummary'][:200]}" for v in found for n in v["nodes"][:3]]
            assert not told, f"{where}, {papers}: " + "\n".join(told)

    return check


def test_every_page_and_sheet_is_clean(server, page, clean):
    desk = Desk(page, server, folded=True)
    page.goto(server.url)
    clean("start")
    desk.open()
    desk.drag_range("bell.level", 32, 48)
    clean("the bench")
    page.keyboard.press("Shift+Q")  # the ledger is as it was; what is not there is not looked through again
    for folded in (True, False):
        for verb in VERBS[1::4] if folded else VERBS:  # folded they are one line, which says other words
            if folded:
                page.locator(".sentence .verb").click()
                page.locator(".verbs").get_by_role("button", name=verb).click()
            else:
                page.get_by_role("navigation", name="Verbs").get_by_role("button", name=verb).click()
            clean(f"{verb}, {'folded' if folded else 'unfolded'}", ".worksheet", dark=not folded)
            if folded and verb == "Ride":  # a desk opens by itself
                page.keyboard.press("q")
                clean("Ride, folded away")
        page.keyboard.press("q")
    page.keyboard.press("q")
    page.keyboard.press("Shift+Q")
    page.keyboard.press("z")
    for part in ("keep a range", "chosen places", "a phrase"):
        page.get_by_text(part, exact=True).click()
        clean(part, ".worksheet")
    page.keyboard.press("q")
    page.get_by_role("button", name="Group lanes: ").click()
    clean("with a list open")
    page.keyboard.press("Escape")
    expect(page.get_by_role("button", name="Group lanes: ")).to_be_focused()
    page.get_by_title("Open its channel card").first.click()
    clean("with a channel card")
    page.keyboard.press("Escape")
    page.keyboard.press("j")
    clean("with the finder")
    page.keyboard.press("Escape")
    page.get_by_role("button", name="Keys", exact=True).click()
    clean("with the keys")
    page.keyboard.press("Escape")
    for place in ("Compare", "Log", "Phrases", "Take out…"):
        page.get_by_role("link", name=place).click()
        clean(place)


def test_the_finder_starts_verbs_and_goes_to_lanes_bars_and_pages(server, page):
    desk = Desk(page, server, folded=True).open()
    page.keyboard.press("j")
    page.keyboard.type("rumble cut")
    page.keyboard.press("Enter")
    expect(page.locator("[data-strip='engine.rumble.rumble-cutoff']")).to_be_visible()
    page.keyboard.press("j")
    page.keyboard.type("41.3")
    page.keyboard.press("Enter")
    desk.until_kept(lambda bench: bench["cursor"] == 162 and bench["view"]["start"] < 162 < bench["view"]["end"])
    page.keyboard.press("j")
    page.keyboard.type("resh")
    page.keyboard.press("Enter")
    expect(page.locator(".sentence .verb")).to_have_text("Reshape")
    page.keyboard.press("j")
    page.keyboard.type("page log")
    page.keyboard.press("Enter")
    expect(page.get_by_role("main", name="Log")).to_be_visible()
    page.keyboard.press("j")
    page.keyboard.type("nowhere at all")
    page.keyboard.press("Enter")
    expect(page.get_by_text("Nothing here has these words.")).to_be_visible()


def test_another_browser_shows_the_same_and_a_second_window_its_own_bars(server, page, browser):
    desk = Desk(page, server, folded=True).open()
    page.keyboard.press("Shift+Q")
    expect(page.get_by_role("navigation", name="Ledger")).to_be_hidden()
    page.keyboard.press("/")
    expect(page.get_by_label("Find a lane or a track")).to_be_focused()
    edge = page.get_by_role("separator", name="Width of the ledger")
    box = edge.bounding_box()
    page.mouse.move(box["x"] + 3, 400)
    page.mouse.down()
    page.mouse.move(box["x"] + 173, 400, steps=5)
    page.mouse.up()
    expect(page.locator(".ledger")).to_contain_text("−36.0 dB to −5.0 dB")
    desk.choose("Snap to", "1/16")
    desk.drag_range("bell.level", 32, 48)
    page.get_by_role("main").get_by_role("button", name="Unpin Bell buoy Level").click()
    desk.until_kept(lambda bench: bench["ledger"] > 400 and bench["grid"] == "1/16" and bench["range"])
    desk.until_kept(lambda bench: bench["pins"] == ["foghorn.level", "choir.level", "keeper.level"])

    other = browser.new_context(viewport={"width": 1280, "height": 800}).new_page()
    beside = Desk(other, server, folded=True).open(fresh=True)
    expect(other.locator("section.strip")).to_have_count(3)
    expect(other.get_by_role("button", name="Snap to: 1/16")).to_be_visible()
    expect(other.locator(".sentence")).to_contain_text("from 9.1.00 to 13.1.00")
    other.keyboard.press("i")
    beside.until_kept(lambda bench: bench["view"]["end"] - bench["view"]["start"] < 30)
    page.reload()
    expect(page.locator("section.strip")).to_have_count(3)
    assert desk.view() == {"start": 0, "end": 64}, "this window has its own bars"
    other.context.close()


def test_papers_are_as_the_system_wishes_unless_chosen(server, page):
    page.emulate_media(color_scheme="dark")
    Desk(page, server, folded=True).open()
    expect(page.locator("html[data-papers=dark]")).to_be_attached()
    page.get_by_role("button", name="Light", exact=True).click()
    page.reload()
    expect(page.locator("section.strip").first).to_be_visible()
    expect(page.locator("html[data-papers=light]")).to_be_attached()
    page.get_by_role("button", name="Dark", exact=True).click()
    page.emulate_media(color_scheme="light")
    expect(page.locator("html[data-papers=light]")).to_be_attached()  # a choice that was the system's wish follows it


@pytest.mark.parametrize("share", [1.5, 2])
def test_large_text_leaves_everything_within_reach(server, page, share):
    """A browser at 150 or 200 percent has a window that much smaller."""
    page.set_viewport_size({"width": int(1280 / share), "height": int(800 / share)})
    desk = Desk(page, server, folded=True).open()
    desk.drag_range("bell.level", 8, 24)
    page.locator("[data-part=targets]").click()
    page.get_by_role("option", name="Gulls", exact=True).click()
    page.keyboard.press("Escape")
    desk.apply()
    desk.at_revision(1)
    expect(page.locator("section.strip").first).to_be_visible()
    assert page.evaluate("document.querySelector('#app').scrollWidth <= innerWidth")


@pytest.mark.parametrize("folded", [True, False])
def test_the_page_itself_never_scrolls(server, page, folded):
    """It is as high as the window, whatever takes the focus in it."""
    desk = Desk(page, server, folded).open()
    desk.drag_range("bell.level", 32, 48)
    assert page.evaluate("(x => [x.scrollHeight, x.scrollTop])(document.querySelector('#app'))") == [800, 0]


def test_the_focus_and_both_places_stay_through_apply_undo_and_stepping(server, page):
    desk = Desk(page, server, folded=True).open()
    desk.drag_range("bell.level", 32, 48)
    page.locator("[data-part=targets]").click()
    page.get_by_role("option", name="Gulls", exact=True).click()
    page.keyboard.press("Escape")
    expect(page.get_by_role("button", name="Apply", exact=True)).to_be_enabled()
    page.get_by_role("button", name="Apply", exact=True).focus()
    page.keyboard.press("Enter")
    desk.at_revision(1)
    expect(desk.result).to_be_focused()
    page.get_by_role("button", name="Undo").focus()
    page.keyboard.press("Enter")
    desk.at_revision(0)
    expect(page.get_by_role("button", name="Redo")).to_be_focused()

    page.get_by_role("button", name="show all", exact=True).click()
    places = "[...document.querySelectorAll('.ledger .list, main .scroller')].map(x => x.scrollTop)"
    page.evaluate("document.querySelector('.ledger .list').scrollTop = 120")
    page.evaluate("document.querySelector('main .scroller').scrollTop = 90")
    for lane in ("Bell buoy Pan", "Foghorn Pan"):  # from a lane on view to the next track's
        page.keyboard.press("e")
        page.wait_for_timeout(150)
        assert page.evaluate(places) == [120, 90], lane
