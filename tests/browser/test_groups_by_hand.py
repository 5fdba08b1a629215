"""Groups: folded, and joined, with what is heard as it was; checked in the database."""

import re

import numpy as np
from playwright.sync_api import expect

from velmot.core.session.heard import heard, reading
from velmot.core.time.ticks import ticks_of


def heard_at(session, *beats):
    levels = ("bell.level", "foghorn.level", "choir.level", "keeper.level")
    ticks = np.array([ticks_of(b) for b in beats])
    return np.array([heard(reading(session), p).envelope.at(ticks) for p in levels])


def test_a_group_is_folded_over_a_range_once_who_takes_part_reads(desk, server, page):
    desk.open()
    before = server.session()
    desk.drag_range("bell.level", 32, 48)
    expect(page.locator("[data-strip='foghorn.level']")).to_contain_text(re.compile("Swell −.* dB: net −"))
    page.keyboard.press("Shift+G")
    expect(desk.result).to_contain_text("Kelp choir is not reading its lanes")
    desk.result.get_by_role("button", name="set who takes part to read, and go on").click()
    expect(desk.result).to_contain_text("What is heard changes: 12.48 dB at most (Kelp choir Level, 57.2.00)")
    expect(desk.result).to_contain_text("Kelp choir reads its lanes from now on")
    desk.apply()
    desk.at_revision(1)
    after = server.session()
    assert np.allclose(
        heard_at(after, 0, 32, 37.3, 44, 47.9, 48, 60), heard_at(before, 0, 32, 37.3, 44, 47.9, 48, 60), atol=2e-3
    )
    swell = heard(after, "swell.level", groups=False).envelope
    assert swell.extremes(ticks_of(32), ticks_of(48)) == (0, 0) and swell.value_at(ticks_of(48)) != 0


def pick(page, label, name):
    page.get_by_role("combobox", name=label).focus()
    page.keyboard.type(name)
    page.get_by_role("option", name=name, exact=True).wait_for()
    page.keyboard.press("ArrowDown")
    page.keyboard.press("Enter")
    page.get_by_role("complementary", name="If applied").click(position={"x": 100, "y": 150})  # the list closes
    expect(page.get_by_role("option", name=name, exact=True)).to_be_hidden()


def test_a_member_goes_with_what_is_heard_staying_and_a_track_comes_in_with_it_changing(desk, server, page):
    desk.open()
    before = server.session()
    page.keyboard.press("Shift+G")
    page.get_by_text("who is in it").click()
    pick(page, "Members that go", "Bell buoy")
    expect(desk.result).to_contain_text("What is heard stays the same")
    page.keyboard.press("Control+Enter")
    desk.at_revision(1)
    after = server.session()
    assert after.track("swell").members == ("foghorn", "choir")
    assert np.allclose(heard_at(after, 0, 20, 40.7, 100, 200), heard_at(before, 0, 20, 40.7, 100, 200), atol=2e-3)
    page.get_by_role("radiogroup", name="What is heard").get_by_text("changes").click()
    pick(page, "Tracks that come in", "Keeper")
    expect(desk.result).to_contain_text("What is heard changes: ")
    page.keyboard.press("Control+Enter")
    desk.at_revision(2)
    assert server.session().track("swell").members == ("foghorn", "choir", "keeper")
    page.get_by_label("Find a lane or a track").fill("keeper")
    expect(page.get_by_role("navigation", name="Ledger")).to_contain_text("in Swell")


def test_a_group_is_made_of_chosen_tracks_nested_undone_and_another_dissolved(desk, server, page):
    desk.open()
    before = server.session()
    desk.drag_range("keeper.level", 32, 48)
    page.keyboard.press("Shift+G")
    page.get_by_text("make one", exact=True).click()
    pick(page, "Who is in the group", "Swell")
    page.get_by_label("The group’s name").fill("All of it")
    expect(desk.result).to_contain_text("What is heard stays the same")
    page.keyboard.press("Control+Enter")
    desk.at_revision(1)
    made = server.session()
    assert (made.tracks[-1].name, made.tracks[-1].members) == ("All of it", ("keeper", "swell"))
    expect(page.locator(".ledger")).to_contain_text("in All of it")
    page.get_by_text("dissolve", exact=True).click()
    desk.choose("Group", "Swell")
    expect(desk.result).to_contain_text("Kelp choir is not reading its lanes")
    desk.result.get_by_role("button", name="set who takes part to read, and go on").click()
    expect(desk.result).to_contain_text("What is heard changes: 12.48 dB at most (Kelp choir Level, 57.2.00)")
    expect(desk.result).to_contain_text("Kelp choir reads its lanes from now on")
    desk.apply()
    desk.at_revision(2)
    after = server.session()
    assert after.tracks[-1].members == ("keeper", "bell", "foghorn", "choir") and "swell" not in after._tracks
    assert np.allclose(heard_at(after, 0, 20, 40.7, 100, 200), heard_at(before, 0, 20, 40.7, 100, 200), atol=2e-3)
    for revision in (1, 0):
        page.keyboard.press("Control+z")
        desk.at_revision(revision)
    assert server.session() == before
