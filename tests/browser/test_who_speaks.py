"""The lane that is heard is the one that is drawn full, read at the cursor, and edited: muted and overlapping regions."""

from playwright.sync_api import expect

from velmot.core.time.ticks import ticks_of

DEEP = 38.5  # a beat inside region horn A of the foghorn (33 to 44), away from points and middles


def points(server, lane):
    return len(server.session().lane(lane).envelope)


def add_at(desk, beat, side=0.2):
    box = desk.canvas_of("foghorn.level").bounding_box()
    desk.page.mouse.dblclick(desk.x_of("foghorn.level", beat), box["y"] + box["height"] * side + 20)


def test_a_point_goes_to_the_lane_that_is_heard_also_where_its_region_is_muted(desk, server, page):
    desk.open()
    was = {lane: points(server, lane) for lane in ("L5", "L7")}
    add_at(desk, DEEP)
    desk.at_revision(1)
    assert points(server, "L7") == was["L7"] + 1 and points(server, "L5") == was["L5"]
    page.keyboard.press("Control+z")
    desk.at_revision(0)
    page.mouse.click(*desk.foot_of("foghorn.level", DEEP))
    page.get_by_text("mute", exact=True).click()
    desk.apply()
    desk.at_revision(2)
    page.mouse.move(desk.x_of("foghorn.level", DEEP), desk.canvas_of("foghorn.level").bounding_box()["y"] + 60)
    track = server.session().parameter("foghorn.level")
    wanted = track.format(float(server.session().lane("L5").envelope.at(ticks_of(DEEP))))
    strip = page.locator("[data-strip='foghorn.level']")
    expect(strip.locator(".read-out")).to_have_text(wanted.replace(" dB", "") + " dB")
    add_at(desk, DEEP, 0.4)
    desk.at_revision(3)
    assert points(server, "L5") == was["L5"] + 1 and points(server, "L7") == was["L7"]


def test_what_a_recipe_lacks_here_is_said_until_it_is_read(desk, server, page):
    desk.open()
    desk.drag_range("bell.level", 32, 48)
    desk.choose_track("Kelp choir")
    page.get_by_label("Name for a recipe").fill("To the choir")
    page.get_by_label("Name for a recipe").press("Enter")
    expect(page.get_by_role("button", name="Use a recipe: To the choir")).to_be_visible()
    data = (
        server.file()
        .replace(b'"Kelp choir"', b'"Wrack choir"')
        .replace(b'"choir"', b'"wrack"')
        .replace(b"choir.", b"wrack.")
    )
    page.goto(server.url)
    page.get_by_label("File to import").set_input_files(
        {"name": "other.velmot.json", "mimeType": "application/json", "buffer": data}
    )
    page.get_by_role("button", name="Open it").click()
    desk.drag_range("bell.level", 32, 48)
    desk.choose("Use a recipe", "To the choir")
    notice = page.get_by_text("Not all of the recipe fits here: there is no track Kelp choir here")
    expect(notice).to_be_visible()
    page.keyboard.press("w")
    expect(notice).to_be_visible()
    page.get_by_role("button", name="Understood").click()
    expect(notice).not_to_be_visible()
