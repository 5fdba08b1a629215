"""`make pictures`: takes docs/screenshots anew from the demo session, as a user would come to each view."""

from __future__ import annotations

import sys
import tempfile
from pathlib import Path

from playwright.sync_api import sync_playwright

from tests.browser.conftest import CHROMIUM, FLAGS, Desk, Server

FOLDER = Path(__file__).parents[1] / "docs" / "screenshots"


def take(desk: Desk, name: str) -> None:
    desk.page.mouse.move(5, 60)
    desk.page.wait_for_timeout(500)
    desk.page.screenshot(path=FOLDER / f"{name}.png")


def main(folder: Path = FOLDER) -> None:
    folder.mkdir(parents=True, exist_ok=True)
    server = Server(Path(tempfile.mkdtemp()) / "data").ready()
    try:
        with sync_playwright() as p:
            browser = p.chromium.launch(executable_path=CHROMIUM, args=FLAGS)
            desk = Desk(browser.new_page(viewport={"width": 1280, "height": 800}), server, heard=True)
            all_views(desk)
            browser.close()
    finally:
        server.kill()


def all_views(desk: Desk) -> None:
    page = desk.page
    page.goto(desk.server.url)
    page.wait_for_selector(".card")
    take(desk, "start")
    desk.open()
    page.keyboard.press("q")
    take(desk, "bench")
    tidy_view(desk)
    desk.drag_range("bell.level", 32, 48)
    page.get_by_role("button", name="choose a track").click()
    page.get_by_role("option", name="Kelp choir", exact=True).click()
    take(desk, "carry-preview")
    page.get_by_role("button", name="open the sheet").click()
    page.get_by_role("button", name="all of the track").click()
    desk.choose_track("Engine room")
    page.get_by_role("button", name="match table").click()
    desk.choose("Where Bell buoy Pan lands on Kelp choir", "onto Vowel filter")
    take(desk, "match-table")
    page.reload()
    desk.choose_track("Kelp choir")
    desk.apply("set it to read in the same step")
    page.wait_for_timeout(400)
    desk.apply()
    desk.at_revision(1)
    edit_views(desk)
    region_views(desk)
    alternatives_view(desk)
    follow_view(desk)
    page.get_by_role("link", name="Compare").click()
    take(desk, "compare")
    page.get_by_role("link", name="Log").click()
    page.get_by_role("button", name="mark it").nth(2).click()
    page.get_by_role("textbox", name="The mark’s name").fill("as played on Friday")
    page.keyboard.press("Enter")
    page.get_by_role("button", name="what changed up to it").click()
    take(desk, "log")
    page.get_by_role("link", name="Take out…").click()
    take(desk, "take-out")
    page.get_by_role("link", name="Bench").click()
    phrase_views(desk)
    desk_view(desk)
    dark_and_wide(desk)


def alternatives_view(desk: Desk) -> None:
    """Two goes at a sentence of the narration under its strip, and the middle of one being taken."""
    page = desk.page
    desk.choose_nothing()
    for by in ("+4", "-6"):
        desk.choose_nothing()
        desk.drag_range("keeper.level", 36, 48)
        page.keyboard.press("K")
        page.keyboard.press("r")
        page.get_by_label("By how many dB").fill(by)
        page.get_by_label("By how many dB").press("Enter")
        page.wait_for_timeout(600)
        desk.apply()
        page.wait_for_timeout(600)
    rows = page.locator("[data-strip='keeper.level'] [data-alternative]")
    rows.nth(1).evaluate("row => row.scrollIntoView({ block: 'center' })")
    page.wait_for_timeout(5000)  # the notice of the step has gone
    row = rows.nth(1).bounding_box()
    page.mouse.move(desk.x_of("keeper.level", 39), row["y"] + 18)
    page.mouse.down()
    page.mouse.move(desk.x_of("keeper.level", 44) + 1, row["y"] + 18, steps=6)
    page.mouse.up()
    page.wait_for_timeout(600)
    take(desk, "alternatives")
    page.get_by_role("button", name="alternatives of Keeper Level").click()
    page.keyboard.press("c")


def follow_view(desk: Desk) -> None:
    """The rain makes room under the narration: its silhouette, the threshold, and what would come."""
    page = desk.page
    desk.choose_nothing()
    page.keyboard.press("F")
    page.locator("[data-field='does what']").get_by_text("makes room", exact=True).click()
    desk.pick("Tracks that are followed", "Keeper")
    desk.pick("Parameters that are driven", "Glass rain Level")
    page.wait_for_timeout(1500)
    page.get_by_role("slider", name="Threshold").scroll_into_view_if_needed()
    take(desk, "follow")
    desk.canvas_of("bell.level").focus()
    page.keyboard.press("c")


def tidy_view(desk: Desk) -> None:
    """What is found, a few lines ticked; and back to where it was."""
    page = desk.page
    page.get_by_role("button", name="Findings").click()
    page.get_by_role("list", name="Findings").wait_for()
    for words in ("Kelp choir Vowel filter", "Gulls Pan"):
        page.get_by_role("listitem").filter(has_text=words).locator(".el-checkbox").click()
    page.wait_for_timeout(1500)
    take(desk, "findings")
    page.reload()
    page.wait_for_selector("section.strip")
    page.keyboard.press("q")


def phrase_views(desk: Desk) -> None:
    """A swell kept from a lane, and a shape staggered over three others; the book."""
    page = desk.page
    desk.drag_range("bell.level", 32, 48)
    page.keyboard.press("z")
    page.get_by_text("keep a range", exact=True).click()
    page.get_by_label("Call it").fill("toll swell")
    desk.apply()
    page.wait_for_timeout(2600)
    page.locator("fieldset.head").get_by_text("place", exact=True).click()
    field = page.get_by_role("combobox", name="Parameters to place on")
    for name in ("Kelp choir Level", "Keeper Level", "Gulls Level"):
        page.locator(".el-select", has=field).click(position={"x": 230, "y": 12})
        page.keyboard.type(name)
        page.get_by_role("option", name=name, exact=True).click()
        page.keyboard.press("Escape")
    page.locator(".el-select", has=field).get_by_label("Close this tag").first.click()
    desk.choose("Phrase or shape to place", "sine")
    for label, text in (("Cycles", "2"), ("Stagger", "2 beats")):
        page.get_by_label(label).fill(text)
        page.get_by_label(label).press("Enter")
    take(desk, "place")
    page.get_by_role("link", name="Phrases").click()
    take(desk, "phrase-book")
    page.get_by_role("link", name="Bench").click()


def desk_view(desk: Desk) -> None:
    """A narration ridden by a scripted hand, in the middle of the pass."""
    page = desk.page
    page.reload()
    desk.drag_range("keeper.level", 36, 46)
    page.keyboard.press("Shift+D")
    desk.choose("Put on the desk", "Keeper: level, pan, mute and sends")
    desk.choose("Put on the desk", "Bell buoy Level")
    desk.choose("Mode of all", "latch")
    desk.choose("Whose hand", "Ride the narration")
    page.get_by_role("group", name="Transport").get_by_role("button", name="Play").click()
    page.wait_for_timeout(4200)
    take(desk, "desk")
    page.get_by_role("group", name="Transport").get_by_role("button", name="Stop").click()
    page.get_by_role("button", name="Throw pass 1 away").click()
    page.keyboard.press("c")


def dark_and_wide(desk: Desk) -> None:
    """The same papers in the dark, with the ledger wide and the finder open."""
    page = desk.page
    edge = page.get_by_role("separator", name="Width of the ledger").bounding_box()
    page.mouse.move(edge["x"] + 3, 400)
    page.mouse.down()
    page.mouse.move(edge["x"] + 183, 400, steps=4)
    page.mouse.up()
    page.get_by_role("button", name="Dark", exact=True).click()
    page.keyboard.press("j")
    page.keyboard.type("kelp")
    take(desk, "dark-and-finder")


def edit_views(desk: Desk) -> None:
    """Points picked with a value typed, a sentence reshaped, a range cleared, and the channel card."""
    page = desk.page
    desk.drag_range("bell.level", 34, 47)
    page.get_by_role("button", name="Points p").click()
    page.get_by_role("button", name="all in range").click()
    page.get_by_label("Value", exact=True).fill("-3")
    page.get_by_role("button", name="Reshape r").click()
    desk.drag_range("keeper.level", 36, 44)
    for label, text in (("Ramp before", "400 ms"), ("Ramp after", "1 beat"), ("By how many dB", "4")):
        page.get_by_label(label).fill(text)
        page.get_by_label(label).press("Enter")
    page.get_by_role("button", name="Keeper", exact=True).click()
    take(desk, "reshape-and-channel-card")
    page.get_by_role("region", name="Channel card of Keeper").get_by_role("button", name="close").click()
    desk.drag_range("bell.level", 32, 48)
    page.get_by_role("button", name="Retarget t").click()
    field = page.get_by_role("combobox", name="Parameters to drive")
    page.locator(".el-select", has=field).click()
    page.keyboard.type("vowel filter")
    page.get_by_role("option", name="Kelp choir Vowel filter", exact=True).click()
    page.keyboard.press("Tab")
    for label, text in (("Lowest lands on", "400 Hz"), ("Highest lands on", "3200 Hz")):
        box = page.get_by_role("textbox", name=label)
        box.fill(text)
        box.press("Enter")
    page.locator(".el-select", has=field).click()
    page.keyboard.type("presence")
    page.get_by_role("option", name="Keeper Presence", exact=True).click()
    page.keyboard.press("Tab")
    take(desk, "retarget")


def region_views(desk: Desk) -> None:
    """A region moved, seen in the middle of the drag; what is heard; a closer look."""
    page = desk.page
    desk.choose_nothing()
    desk.pull_foot("foghorn.level", 20, 42)
    page.wait_for_timeout(500)
    page.screenshot(path=FOLDER / "region-dragged.png")
    page.mouse.move(*desk.foot_of("foghorn.level", 20), steps=4)
    page.mouse.up()
    page.get_by_role("button", name="Embed / lift m").click()
    desk.choose_nothing()
    page.keyboard.press("u")
    page.get_by_text("fill a gap", exact=True).click()
    page.mouse.click(*desk.foot_of("foghorn.level", 31.5))
    take(desk, "heard-and-gap")
    page.keyboard.press("u")
    page.mouse.dblclick(*desk.foot_of("foghorn.level", 36))
    take(desk, "closer")
    page.get_by_role("button", name="back to the session").click()


if __name__ == "__main__":
    sys.exit(main())
