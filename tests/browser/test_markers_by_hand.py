"""Markers by mouse and keyboard: added, dragged, named, gone to, ranged between and landed on, checked in the file taken out."""

import pytest
from playwright.sync_api import expect

from tests.browser.test_nothing_wrong_in_the_hand import Late
from velmot.core.time.ticks import TICKS_PER_BEAT


@pytest.fixture
def there(server):
    """Every marker as (name, beat) as it would be taken out now."""
    return lambda: [(m.name, m.tick / TICKS_PER_BEAT) for m in server.session().markers]


def marker(page, name):
    return page.get_by_role("group", name="Markers").get_by_role("button", name=name)


def take(desk, name, by):
    """Hold a marker some beats from where it stands; the button stays down."""
    box = marker(desk.page, name).bounding_box()
    x, y = box["x"] + 2, box["y"] + 7
    beat = desk.x_of("bell.level", 1) - desk.x_of("bell.level", 0)
    desk.page.mouse.move(x, y)
    desk.page.mouse.down()
    desk.page.mouse.move(x + by * beat / 2, y, steps=4)
    desk.page.mouse.move(x + by * beat, y, steps=4)


def test_a_marker_is_added_dragged_named_and_removed_and_each_is_one_step(desk, server, page, there):
    desk.open()
    before = there()
    page.keyboard.press("Shift+J")
    page.get_by_label("Marker at", exact=True).fill("13.1.00")
    page.keyboard.press("Tab")
    page.get_by_label("Name", exact=True).fill("the bell, again")
    page.keyboard.press("Enter")
    desk.at_revision(1)
    assert set(there()) - set(before) == {("the bell, again", 48)}

    take(desk, "the bell, again", 4)
    expect(desk.result).to_contain_text("4 beats later")
    page.mouse.up()
    desk.at_revision(2)
    assert ("the bell, again", 52) in there() and len(there()) == 9

    take(desk, "the bell, again", 12)
    expect(desk.result).to_contain_text("12 beats later")
    page.keyboard.press("Escape")
    page.mouse.up()
    expect(marker(page, "the bell, again")).to_have_accessible_name("Marker the bell, again, 14.1.00")

    marker(page, "the bell, again").dblclick()
    expect(page.get_by_label("Name", exact=True)).to_be_focused()
    page.keyboard.type("once more")
    page.keyboard.press("Enter")
    desk.at_revision(3)
    assert ("once more", 52) in there(), (
        "what was given up moved nothing, and the new name stands where the old one did"
    )

    marker(page, "once more").focus()
    page.keyboard.press("Delete")
    desk.at_revision(4)
    assert there() == before
    page.keyboard.press("Control+z")
    desk.at_revision(3)
    assert ("once more", 52) in there()
    assert [line["title"].split(" ")[0] for line in server.json("sessions/1/log")["lines"]] == [
        "Remove", "Name", "Move", "Add",
    ]  # fmt: skip


def test_a_place_that_is_still_being_read_is_waited_for(desk, server, page, there):
    desk.open()
    before = there()
    late = Late(page, "**/typed")
    page.keyboard.press("Shift+J")
    page.get_by_label("Marker at", exact=True).fill("13.1.00")
    page.keyboard.press("Tab")
    late.until(1)
    page.get_by_label("Name", exact=True).fill("the bell, again")
    page.keyboard.press("Enter")
    late.let_through()
    desk.at_revision(1)
    assert set(there()) - set(before) == {("the bell, again", 48)}


def test_a_double_click_between_two_takes_the_range_from_one_to_the_next(desk, page):
    desk.open()
    box = marker(page, "first fog").bounding_box()
    row = page.get_by_role("group", name="Markers").bounding_box()
    page.mouse.dblclick(desk.x_of("bell.level", 50), row["y"] + 8)
    expect(page.get_by_role("button", name="Range start, 9.1.00")).to_be_visible()
    expect(page.get_by_role("button", name="Range end, 17.1.00")).to_be_attached()
    assert abs(box["x"] - desk.x_of("bell.level", 64)) < 2, "it is drawn at its beat"


def test_a_marker_is_gone_to_by_its_name(desk, page):
    desk.open()
    page.keyboard.press("j")
    page.keyboard.type("counts")
    expect(page.get_by_role("option", name="he counts ships")).to_be_visible()
    page.keyboard.press("Enter")
    expect(page.get_by_role("banner")).to_contain_text("37.1.00")
    desk.until("JSON.parse(sessionStorage['velmot.view.1'] ?? '{}').start > 100")
    assert desk.view()["start"] < 144 < desk.view()["end"]


def test_what_is_carried_lands_on_a_marker_that_is_typed(desk, server, page):
    desk.open()
    desk.drag_range("bell.level", 32, 40)
    desk.choose_track("Kelp choir")
    page.get_by_label("Starting at").fill("gulls away")
    page.keyboard.press("Tab")
    expect(desk.result).to_contain_text("57.1.00 to 59.1.00")
    desk.apply()
    desk.at_revision(1)
    session = server.session()
    carried, source = (
        lane.envelope
        for p in ("choir.level", "bell.level")
        for lane in session.lanes
        if lane.parameter == p and lane.on_track
    )
    places = [at * TICKS_PER_BEAT for at in (1, 3, 5, 7.5)]
    landed = [carried.at([at + 220 * TICKS_PER_BEAT])[0] for at in places]
    assert landed == pytest.approx([source.at([at + 32 * TICKS_PER_BEAT])[0] for at in places])
    page.get_by_label("Starting at").fill("no such name")
    page.keyboard.press("Tab")
    expect(page.locator("form, .notice")).to_contain_text(["no such name"])
