"""Using work again by hand: several lanes to several tracks, the match table, recipes, devices, comparing."""

import numpy as np
from playwright.sync_api import expect

from velmot.core.time.ticks import ticks_of

AT = np.array([ticks_of(b) for b in (32, 35.5, 38.25, 41, 46, 47.99)])


def choose_lanes(page, *names):
    """Pick lanes in the sheet's own list, one after the other."""
    field = page.get_by_role("combobox", name="Lanes to carry")
    for name in names:
        page.locator(".el-select", has=field).click(position={"x": 174, "y": 12})  # beside the lanes' own crosses
        page.keyboard.type(name)
        page.get_by_role("option", name=name, exact=True).click()
        page.keyboard.press("Escape")


def test_two_lanes_to_two_tracks_in_one_step_one_of_which_lacks_the_send(desk, server, page):
    """Kelp choir has a Send: Hall, Engine room has none: it is added with its static value."""
    desk.open()
    desk.drag_range("bell.level", 32, 48)
    choose_lanes(page, "Bell buoy Send: Hall")
    desk.choose_track("Kelp choir")
    desk.choose_track("Engine room")
    expect(desk.result).to_contain_text("Engine room has no Send: Hall")
    page.get_by_text("add it", exact=True).click()
    expect(page.get_by_role("button", name="match table: 3 land, 1 added")).to_be_visible()
    page.get_by_text("match the source", exact=True).click()
    desk.apply()
    desk.at_revision(1)
    after = server.session()
    sends = {t: next(p for p in after.track(t).parameters if p.name == "Send: Hall") for t in ("choir", "engine")}
    assert sends["engine"].target == "hall" and sends["engine"].value == after.parameter("bell.send.hall").value
    for track in ("choir", "engine"):
        for source, target in (("bell.level", f"{track}.level"), ("bell.send.hall", sends[track].id)):
            wanted = after.lane_at(source).envelope.at(AT)
            assert np.allclose(after.lane_at(target).envelope.at(AT), wanted, rtol=0, atol=1e-9), target
    assert after.parameter("engine.level").value == after.parameter("bell.level").value
    page.keyboard.press("Control+z")
    desk.at_revision(0)
    assert all(p.name != "Send: Hall" for p in server.session().track("engine").parameters)


def test_the_match_table_is_edited_and_remembered_and_a_recipe_is_used_again(desk, server, page):
    desk.open()
    desk.drag_range("bell.level", 32, 48)
    desk.choose_track("Kelp choir")
    page.get_by_role("button", name="match table").click()
    desk.choose("Where Bell buoy Level lands on Kelp choir", "onto Vowel filter")
    desk.slow(300)
    low = page.get_by_role("textbox", name="Lowest lands on")
    low.fill("400 Hz")
    low.press("Enter")
    expect(desk.result).to_contain_text("Kelp choir Vowel filter")
    page.get_by_role("button", name="back to the sheet").click()  # before the server has read the field
    expect(page.get_by_role("button", name="back to the sheet")).to_be_hidden()
    desk.slow(0)
    page.get_by_label("Name for a recipe").fill("Onto the vowel")
    page.get_by_label("Name for a recipe").press("Enter")
    expect(page.get_by_role("button", name="Use a recipe: Onto the vowel")).to_be_visible()
    desk.apply()
    desk.at_revision(1)
    curve = server.session().lane_at("choir.vowel.vowel-filter").envelope
    assert float(curve.at(ticks_of(46))) == 8000 and float(curve.extremes(ticks_of(32), ticks_of(47))[0]) >= 399.9
    page.reload()
    desk.drag_range("bell.level", 16, 28)
    desk.choose_track("Kelp choir")
    expect(desk.result).to_contain_text("Kelp choir Vowel filter")
    desk.choose_track("Kelp choir")
    desk.choose("Use a recipe", "Onto the vowel")
    expect(desk.result).to_contain_text("Kelp choir Vowel filter, up to")
    page.get_by_role("button", name="forget").click()
    expect(page.get_by_label("Use a recipe")).to_contain_text("no recipes yet")


def test_a_device_is_taken_along_whole(desk, server, page):
    desk.open()
    desk.drag_range("bell.level", 32, 48)
    field = page.get_by_role("combobox", name="Devices to take along whole")
    page.locator(".el-select", has=field).click()
    page.get_by_role("listbox").get_by_role("option", name="Low cut", exact=True).click()
    page.keyboard.press("Escape")
    desk.choose_track("Gulls")
    expect(desk.result).to_contain_text("Gulls Low cut")
    desk.apply()
    desk.at_revision(1)
    after = server.session()
    (device,) = after.track("gulls").devices
    added = {p.name: p for p in after.track("gulls").parameters if p.device == device.id}
    assert set(added) == {"Low cut", "Low cut on"} and added["Low cut"].value == 60
    wanted = after.lane_at("bell.cut.low-cut").envelope.at(AT)
    assert np.allclose(after.lane_at(added["Low cut"].id).envelope.at(AT), wanted)


def test_comparing_says_the_same_what_differs_and_where(desk, page):
    desk.open()
    desk.drag_range("bell.level", 32, 48)
    desk.choose_track("Kelp choir")
    desk.apply("set it to read in the same step")
    expect(desk.result).not_to_contain_text("not reading")
    desk.apply()
    desk.at_revision(1)
    page.get_by_role("link", name="Compare").click()
    page.get_by_text("two revisions", exact=True).click()
    expect(page.get_by_role("status").filter(has_text="differs")).to_have_text("1 differs")
    expect(page.get_by_role("row", name="Kelp choir Level")).to_contain_text("17.95 dB")
    expect(page.get_by_role("img", name="Difference: the other minus the one, up to 17.95 dB")).to_be_visible()
    desk.choose("The one", "as it stands")
    expect(page.get_by_text("These are the same")).to_be_visible()
    page.get_by_text("two tracks", exact=True).click()
    desk.choose("The other", "Kelp choir")
    page.get_by_role("button", name="Bell buoy Pan").click()
    page.get_by_text("side by side").click()
    expect(page.get_by_role("img", name="Kelp choir Pan")).to_be_visible()
    page.get_by_role("button", name="go there on the bench").click()
    expect(page.locator("[data-strip='choir.pan']")).to_be_visible()
