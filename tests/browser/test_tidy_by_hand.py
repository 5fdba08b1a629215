"""Tidying by mouse and keys: what is found is gone to, ticked, mended in one step, or let be; a shape is found again and pooled;
everything idle is cleaned up; notes and sets by rule. What comes of it is checked in the session as saved.

What the demo holds that anyone would stumble over: Kelp choir does not read its four lanes (and disagrees with its group), Gulls'
pan is a recorded pass of 2,301 points, the shimmer of Glass rain begins after its sound, twenty gaps between regions jump or
drift, and four regions of the foghorn say something else than its track.
"""

import re

import pytest
from playwright.sync_api import expect

from velmot.core.findings import all_findings, is_let_be
from velmot.core.time.ticks import ticks_of as b


@pytest.fixture
def there(server):
    """The findings of the session as saved that nobody let be, by kind."""

    def told(kind: str = "") -> list:
        session = server.session()
        return [x for x in all_findings(session) if not is_let_be(session, x) and kind in ("", x.kind)]

    return told


def way(page, name):
    page.get_by_role("radiogroup", name="What to tidy").get_by_text(name, exact=True).click()


def line(page, words):
    return page.get_by_role("list", name="Findings").get_by_role("listitem").filter(has_text=words)


def tick(row):
    row.locator(".el-checkbox").click()


def listed(page, words):
    """A line that may be further down the list: scrolled to."""
    wanted = line(page, words).first
    for _ in range(12):
        if wanted.count():
            break
        page.locator(".tidy .list").hover()
        page.mouse.wheel(0, 120)
        page.wait_for_timeout(60)
    return wanted


def test_all_that_was_ticked_is_mended_in_one_step_and_taken_back_in_one(desk, server, page, there):
    desk.open()
    count = page.get_by_role("button", name="Findings")
    expect(count).to_have_text(re.compile("31"))
    before = server.session()
    page.keyboard.press("Shift+Y")
    expect(line(page, "Kelp choir is not reading its lanes")).to_have_count(4)
    tick(line(page, "Kelp choir Vowel filter"))
    expect(desk.result).to_contain_text("Kelp choir Vowel filter")
    tick(line(page, re.compile("^dense")))
    expect(desk.result).to_contain_text("Gulls Pan: 2,301 → 1,276 points, 1.00 apart at most")
    tick(listed(page, "begins at 40.1.00, the sound at 19.1.00"))
    desk.apply()
    desk.at_revision(1)
    after = server.session()
    assert after.track("choir").reads and len(after.lane("L21").envelope) == 1276
    assert after.lane("L28").envelope.ticks[0] == b(72) and {x.kind for x in there()} == {"gap", "otherwise"}
    expect(count).to_have_text(re.compile(f"{len(there())}"))
    page.keyboard.press("Control+z")
    desk.at_revision(0)
    assert server.session() == before
    expect(count).to_have_text(re.compile("31"))


def test_a_click_on_a_finding_goes_there_and_its_picture_shows_the_mend(desk, page):
    desk.open()
    page.get_by_role("button", name="Findings").click()
    page.get_by_role("radiogroup", name="How the list is parted").get_by_text("place", exact=True).click()
    wanted = listed(page, "jumps 34.21 at 28.1.00")
    expect(wanted.locator(".mended")).to_have_count(1)
    wanted.get_by_role("button", name="Glass rain Pan").click()
    strip = desk.canvas_of("rain.pan")
    expect(strip).to_be_in_viewport()
    desk.until_kept(lambda view: view["view"]["start"] <= 216 <= view["view"]["end"])


def test_what_is_let_be_stays_so_through_undo_and_opening_again(desk, server, page, there):
    desk.open()
    page.keyboard.press("Shift+Y")
    listed(page, "begins at 40.1.00").get_by_role("button", name="let be").click()
    desk.at_revision(1)
    assert there("late") == [] and server.session().let_be[0].of == "L28"
    count = page.get_by_role("button", name="Findings")
    expect(count).to_have_text(re.compile("30"))
    desk.open(fresh=True)
    expect(count).to_have_text(re.compile("30"))
    page.keyboard.press("Shift+Y")
    page.get_by_text("also the 1 let be").click()
    listed(page, "begins at 40.1.00").get_by_role("button", name="list again").click()
    desk.at_revision(2)
    assert len(there("late")) == 1
    page.get_by_role("button", name="Undo").click()
    desk.at_revision(1)
    assert there("late") == []
    line(page, re.compile("^starts late")).get_by_role("button", name="let all of this kind be").click()
    desk.at_revision(3)
    assert [(x.kind, x.of) for x in server.session().let_be] == [("late", "L28"), ("late", "")]
    expect(page.get_by_role("button", name="list this kind again")).to_be_visible()


def test_a_shape_is_found_again_and_pooled_by_ticking(desk, server, page):
    desk.open()
    page.keyboard.press("Shift+Y")
    way(page, "where else?")
    desk.drag_range("foghorn.level", 17, 33)
    found = page.get_by_role("list", name="Places that run like it").get_by_role("listitem")
    best = found.filter(has_text="Foghorn Level in horn A").first
    expect(best).to_contain_text("9.2.00")
    assert page.locator(".overview .mark").count() == found.count()
    tick(best)
    page.get_by_label("pooled as").fill("horn swell")
    expect(desk.result).to_contain_text("2 places share horn swell from now on")
    desk.apply()
    desk.at_revision(1)
    session = server.session()
    (phrase,) = session.phrases
    assert phrase.name == "horn swell"
    assert sorted(x.home for x in session.places_of(phrase.id)) == ["foghorn.r1", "foghorn.r2"]


def test_everything_idle_is_cleaned_up_at_once(desk, server, page):
    """A mute and a pan that were only touched: a lane each, at its resting value."""
    desk.open()
    page.get_by_role("navigation", name="Ledger").get_by_role("button", name="Bell buoy", exact=True).click()
    page.get_by_role("button", name="Muted sounding no lane").click()
    desk.at_revision(1)
    page.get_by_role("button", name="close", exact=True).click()
    page.keyboard.press("Shift+Y")
    way(page, "clean up everything")
    expect(desk.result).to_contain_text("1 lane gone")
    expect(desk.result).to_contain_text("What is heard stays the same")
    desk.apply()
    desk.at_revision(2)
    assert server.session().lane_at("bell.mute") is None
    page.get_by_text("also thin, each unit within a bound").click()
    page.get_by_label("Bound in plain numbers").fill("4")
    page.keyboard.press("Enter")
    expect(desk.result).to_contain_text("points, 0 lanes gone")
    desk.apply()
    desk.at_revision(3)
    assert len(server.session().lane("L21").envelope) < 1276


def test_a_note_stands_where_it_was_put_and_is_found_by_its_words(desk, server, page):
    desk.open()
    strip = page.locator('[data-strip="keeper.level"]')
    strip.hover()
    strip.get_by_role("button", name="Put a note on Keeper Level").click()
    page.keyboard.type("too loud in the second verse")
    page.keyboard.press("Enter")
    desk.at_revision(1)
    (note,) = server.session().notes
    assert (note.about, note.of, note.text) == ("parameter", "keeper.level", "too loud in the second verse")
    expect(strip.get_by_role("button", name="Note on Keeper Level")).to_be_visible()
    page.keyboard.press("j")
    page.keyboard.type("second verse")
    page.get_by_role("option", name="too loud in the second verse note on Keeper Level").click()
    expect(strip.locator(".plot")).to_be_focused()
    strip.get_by_role("button", name="Note on Keeper Level").click()
    page.get_by_label("Note on Keeper Level").fill("")
    page.keyboard.press("Enter")
    desk.at_revision(2)
    assert server.session().notes == ()


def test_a_set_is_told_by_a_rule(desk, page):
    desk.open()
    desk.choose("Sets of pinned lanes", "every send")
    shown = page.locator("[data-strip]")
    expect(shown.first).to_have_attribute("data-strip", re.compile("send"))
    assert all(".send." in s for s in shown.evaluate_all("all => all.map((x) => x.dataset.strip)"))
    desk.choose("Sets of pinned lanes", "all under Swell")
    expect(shown.first).to_have_attribute("data-strip", "bell.level")
