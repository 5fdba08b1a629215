"""Phrases by hand: linked lanes that follow each other, a swell kept and placed elsewhere, a stagger, the tray and the book."""

import json

import numpy as np
import pytest
from playwright.sync_api import expect

from tests.browser.conftest import Desk
from velmot.core.curves.difference import largest_difference
from velmot.core.session.phrases import lands_between
from velmot.core.time.ticks import ticks_of
from velmot.formats import phrases_file


def at(session, parameter, beat):
    return session.lane_at(parameter).envelope.value_at(ticks_of(beat))


def keep(desk, page, name):
    """Keep the range that is chosen as a phrase."""
    page.keyboard.press("z")
    page.get_by_text("keep a range", exact=True).click()
    page.get_by_label("Call it").fill(name)
    desk.apply()


def onto(page, *names):
    """Pick parameters to place on, in their order."""
    field = page.get_by_role("combobox", name="Parameters to place on")
    for name in names:
        page.locator(".el-select", has=field).click(position={"x": 230, "y": 12})
        page.keyboard.type(name)
        page.get_by_role("option", name=name, exact=True).click()
        page.keyboard.press("Escape")


def drag_point(desk, page, parameter, beat, by):
    """Drag the point of a lane at a beat down by pixels: its strip fits what the lane does, with a tenth of that around it."""
    session = desk.server.session()
    lane = session.lane_at(parameter).envelope
    low, high = float(lane.values.min()), float(lane.values.max())
    air = (high - low) * 0.1
    low, high = max(low - air, -96 - 2.16), min(high + air, 12 + 2.16)
    box = desk.canvas_of(parameter).bounding_box()
    foot = 20 if session.owner(parameter).regions else 10
    top, bottom = 34, box["height"] - foot
    before = lane.value_at(ticks_of(beat))
    x, y = desk.x_of(parameter, beat), box["y"] + bottom - (before - low) / (high - low) * (bottom - top)
    page.mouse.move(x, y)
    page.mouse.down()
    page.mouse.move(x, y + by, steps=6)
    page.mouse.up()
    return before


def test_linked_lanes_follow_each_other_until_one_is_set_free(desk, server, page):
    """Four parameters of one track linked onto two others; one point dragged changes three tracks, then two."""
    desk.open()
    desk.drag_range("bell.level", 32, 48)
    page.get_by_role("button", name="all of the track", exact=True).click()
    desk.choose_track("Keeper")
    desk.choose_track("Glass rain")
    page.get_by_text("add it", exact=True).click()
    page.get_by_text("yes, linked", exact=True).click()
    desk.apply()
    desk.at_revision(1)
    linked = server.session()
    assert len(linked.phrases) == 4 and len(linked.placements) == 12
    page.get_by_role("button", name="hide all").click()
    page.get_by_label("Find a lane or a track").fill("rain level")
    page.keyboard.press("ArrowDown")
    page.keyboard.press("Enter")
    expect(page.locator("section.strip")).to_have_count(1)
    page.keyboard.press("Escape")
    before = drag_point(desk, page, "rain.level", 41, 30)
    desk.at_revision(2)
    after = server.session()
    values = {at(after, f"{t}.level", 41) for t in ("bell", "keeper", "rain")}
    assert len(values) == 1 and values != {before}
    # free: the rule over the span, then the words for it
    box = desk.canvas_of("rain.level").bounding_box()
    page.mouse.click(desk.x_of("rain.level", 34), box["y"] + 22)
    page.get_by_role("button", name="set it free").click()
    expect(desk.result).to_contain_text("Apply")
    desk.apply()
    desk.at_revision(3)
    page.get_by_label("Find a lane or a track").fill("keeper level")
    page.keyboard.press("ArrowDown")
    page.keyboard.press("Enter")
    drag_point(desk, page, "keeper.level", 41, 30)
    desk.at_revision(4)
    last = server.session()
    assert at(last, "bell.level", 41) == at(last, "keeper.level", 41) != at(last, "rain.level", 41)
    assert at(last, "rain.level", 41) == at(after, "rain.level", 41)
    page.keyboard.press("Control+z")
    desk.at_revision(3)
    assert server.session().lane_at("bell.level") == after.lane_at("bell.level")


def test_a_swell_kept_in_one_session_is_placed_in_another_on_a_filter_at_half_depth(desk, server, page):
    desk.open()
    desk.drag_range("bell.level", 32, 48)
    keep(desk, page, "toll swell")
    desk.at_revision(1)
    page.goto(server.url)
    page.get_by_role("button", name="Open a fresh Skerry Light, the sample").click()
    expect(page.locator("section.strip").first).to_be_visible()
    desk.open(2)
    page.get_by_label("Find a lane or a track").fill("rumble cutoff")
    page.keyboard.press("ArrowDown")
    page.keyboard.press("Enter")
    page.keyboard.press("z")
    desk.slow(150)
    desk.choose("Phrase or shape to place", "toll swell")
    page.get_by_label("Depth", exact=True).fill("50")  # before the phrase itself is there
    page.get_by_label("Depth", exact=True).press("Enter")
    start = page.get_by_label("Placed from")
    start.fill("11.1")
    start.press("Enter")
    desk.apply()
    desk.at_revision(1)
    made = server.session(2)
    (one,) = made.placements
    parameter = made.parameter("engine.rumble.rumble-cutoff")
    low, high = lands_between(made.phrases[0], one)
    assert one.start == ticks_of(40) and (high - low) / parameter.span == pytest.approx(0.5)
    assert made.phrases[0].name == "toll swell" and one.length == ticks_of(16)


def test_a_shape_is_staggered_over_eight_sends_and_its_numbers_stay_alive(desk, server, page):
    sends = ["Bell buoy Send: Hall", "Foghorn Send: Hall", "Kelp choir Send: Hall", "Keeper Send: Hall"]
    sends += ["Gulls Send: Weather", "Gulls Send: Hall", "Engine room Send: Weather", "Glass rain Send: Hall"]
    desk.open()
    desk.drag_range("bell.level", 32, 64)
    page.keyboard.press("z")
    onto(page, *sends)
    page.locator(".el-select", has=page.get_by_role("combobox", name="Parameters to place on")).get_by_label(
        "Close this tag"
    ).first.click()  # the bell's level, which the range was dragged on
    desk.choose("Phrase or shape to place", "sine")
    for label, text in (("Length of each", "4 beats"), ("Stagger", "0.5 beats")):
        page.get_by_label(label).fill(text)
        page.get_by_label(label).press("Enter")
    page.get_by_text("fill the range", exact=True).click()
    page.get_by_text("wrap round", exact=True).click()
    desk.apply()
    desk.at_revision(1)
    made = server.session()
    assert len(made.placements) == 64 and len(made.phrases) == 1
    assert {x.turn for x in made.placements} == {ticks_of(n / 2) for n in range(8)}
    page.get_by_text("a phrase", exact=True).click()
    desk.choose("Phrase to change", "sine")
    page.get_by_label("Cycles").fill("2")
    page.get_by_label("Cycles").press("Enter")
    desk.apply()
    desk.at_revision(2)
    after = server.session()
    first = after.placements[0]
    lane = after.lane_at(first.parameter).envelope
    beats = np.array([ticks_of(32 + x) for x in (0.5, 2.5)])
    assert np.ptp(lane.coordinate_at(beats)) < 1e-9 and after.phrases[0].shape.cycles == 2


def test_a_phrase_is_dragged_from_the_tray_and_its_place_is_moved_and_stretched(desk, server, page):
    desk.open()
    page.get_by_label("Find a phrase in the tray").fill("swell and hold")
    row = page.get_by_role("region", name="Phrases").get_by_role("button", name="swell and hold")
    box = row.bounding_box()
    y = desk.canvas_of("keeper.level").bounding_box()["y"] + 40
    page.mouse.move(box["x"] + 40, box["y"] + 8)
    page.mouse.down()
    page.mouse.move(desk.x_of("keeper.level", 18), y, steps=8)
    page.mouse.move(desk.x_of("keeper.level", 20), y, steps=4)
    expect(page.locator(".rev")).to_have_text("revision 0")
    expect(desk.result).to_contain_text("Keeper Level")
    page.mouse.up()
    desk.at_revision(1)
    (one,) = server.session().placements
    assert (one.parameter, one.start, one.length) == ("keeper.level", ticks_of(20), ticks_of(8))
    rule = desk.canvas_of("keeper.level").bounding_box()["y"] + 22
    page.mouse.move(desk.x_of("keeper.level", 26), rule)
    page.mouse.down()
    page.mouse.move(desk.x_of("keeper.level", 30), rule, steps=8)
    page.mouse.up()
    desk.at_revision(2)
    assert server.session().placements[0].start == ticks_of(24)
    page.mouse.move(desk.x_of("keeper.level", 32) - 2, rule)
    page.mouse.down()
    page.mouse.move(desk.x_of("keeper.level", 36) - 2, rule, steps=8)
    expect(page.locator("output.said")).to_contain_text("12 beats, 1.5 × its length")
    page.mouse.up()
    desk.at_revision(3)
    assert server.session().placements[0].length == ticks_of(12)


def test_the_book_is_searched_changed_put_away_taken_out_and_brought_in(server, page):
    page.goto(server.url)
    page.get_by_role("link", name="The phrase book").click()
    rows = page.locator("main.book li")
    page.get_by_label("Find a phrase").fill("tremolo triplets")
    expect(rows).to_have_count(1)
    rows.get_by_role("button", name="change").click()
    page.get_by_label("name", exact=True).fill("shiver")
    page.get_by_label("tags").fill("tremolo, cold")
    page.get_by_role("button", name="keep these").click()
    page.get_by_label("Find a phrase").fill("cold")
    expect(rows).to_contain_text("shiver")
    rows.get_by_role("button", name="delete").click()
    expect(rows).to_have_count(0)
    page.get_by_role("region", name="Deleted phrases").get_by_role("button", name="bring back").click()
    expect(rows).to_contain_text("shiver")
    with page.expect_download() as taken:
        page.get_by_role("link", name="take the book out").click()
    phrases = phrases_file.read(taken.value.path().read_bytes())
    assert "shiver" in [x.phrase.name for x in phrases] and len(phrases) == 26
    hostile = {"format": "velmot-phrases", "version": 1}
    row = {"name": "<img src=x onerror=alert(1)>", "length": 4, "points": [[0, 0], [4, 1]]}
    file = {"name": "more.velmot-phrases.json", "mimeType": "application/json"}
    field = page.get_by_label("A file of phrases")
    field.set_input_files(file | {"buffer": json.dumps(hostile | {"phrases": [row]}).encode()})
    expect(page.get_by_text("1 phrase came in.")).to_be_visible()
    page.get_by_label("Find a phrase").fill("img")
    expect(rows).to_contain_text("<img src=x onerror=alert(1)>")
    assert len(server.json("book")) == 27


def test_a_shape_is_painted_turned_and_deepened_and_a_phrase_edited_in_its_own_time(desk, server, page):
    desk.open()
    page.keyboard.press("d")
    page.get_by_text("a shape", exact=True).click()
    box = desk.canvas_of("keeper.level").bounding_box()
    page.mouse.move(desk.x_of("keeper.level", 24), box["y"] + 60)
    page.mouse.down()
    page.mouse.move(desk.x_of("keeper.level", 32), box["y"] + 75, steps=8)
    page.mouse.up()
    desk.at_revision(1)
    painted = server.session()
    one = painted.placements[0]
    (phrase,) = painted.phrases
    assert [(x.start, x.length) for x in painted.placements] == [(ticks_of(24 + n), ticks_of(1)) for n in range(8)]
    assert (phrase.length, phrase.shape.kind, phrase.shape.cycles) == (ticks_of(1), "triangle", 1)
    assert at(painted, "keeper.level", 24) == pytest.approx(at(painted, "keeper.level", 25))
    rule = box["y"] + 22
    for key, to, up in (("Shift", 27.5, 0), ("Control", 27, 40)):
        page.mouse.move(desk.x_of("keeper.level", 27), rule)
        page.mouse.down()
        page.keyboard.down(key)
        page.mouse.move(desk.x_of("keeper.level", to), rule - up / 2, steps=4)
        page.mouse.move(desk.x_of("keeper.level", to), rule - up, steps=4)
        page.mouse.up()
        page.keyboard.up(key)
        desk.at_revision(2 if key == "Shift" else 3)
    after = server.session().placements[0]
    assert after.turn == pytest.approx(ticks_of(0.5), rel=0.1)
    ends = [np.ptp(lands_between(painted.phrases[0], x)) for x in (one, after)]
    assert ends[1] - ends[0] == pytest.approx(108 * 0.2, rel=0.05)
    desk.drag_range("bell.level", 32, 48)
    keep(desk, page, "toll")
    desk.at_revision(4)
    page.get_by_text("a phrase", exact=True).click()
    desk.choose("Phrase to change", "toll")
    point = page.get_by_role("button", name="Point 3, ")
    point.focus()
    page.keyboard.press("ArrowDown")
    expect(desk.result).to_contain_text("Bell buoy Level")
    desk.apply()
    desk.at_revision(5)
    toll = next(p for p in server.session().phrases if p.name == "toll")
    assert toll.curve.values[2] == pytest.approx(-12 - 21 / 50, abs=1e-6)
    assert at(server.session(), "bell.level", 38) == toll.curve.values[2]


def test_a_whole_place_is_lowered_here_only_and_the_others_stay(desk, server, page):
    desk.open()
    desk.drag_range("bell.level", 32, 48)
    keep(desk, page, "toll")
    desk.at_revision(1)
    page.locator("fieldset.head").get_by_text("place", exact=True).click()
    desk.choose("Phrase or shape to place", "toll")
    onto(page, "Keeper Level")
    desk.apply()
    desk.at_revision(2)
    before = server.session()
    page.keyboard.press("r")
    page.get_by_label("By how many dB").fill("-2")
    page.keyboard.press("Enter")
    expect(desk.result).to_contain_text("Goes back into toll: changes 2 places on 2 tracks")
    desk.result.get_by_role("button", name="here only").click()
    expect(desk.result).not_to_contain_text("Goes back into")
    desk.apply()
    desk.at_revision(3)
    after = server.session()
    assert at(after, "bell.level", 41) == pytest.approx(at(before, "bell.level", 41) - 2)
    assert at(after, "keeper.level", 41) == at(before, "keeper.level", 41) and len(after.placements) == 2


def test_a_recorded_lane_is_thinned_and_compared(desk, server, page):
    desk.open()
    page.get_by_label("Find a lane or a track").fill("gulls pan")
    page.keyboard.press("ArrowDown")
    page.keyboard.press("Enter")
    before = server.session().lane_at("gulls.pan").envelope
    page.keyboard.press("Shift+T")
    bound = page.get_by_label("Bound in plain numbers")
    bound.fill("4")
    bound.press("Enter")
    expect(desk.result).to_contain_text("4.00 apart at most")
    desk.apply()
    desk.at_revision(1)
    after = server.session().lane_at("gulls.pan").envelope
    assert len(after) < len(before) / 4
    assert largest_difference(before, after, 0, server.session().length)[0] <= 4 + 1e-9


def test_a_place_is_chosen_where_words_stand_over_its_strip_and_its_card_is_there_folded(server, page):
    desk = Desk(page, server, folded=True).open()
    page.get_by_label("Find a phrase in the tray").fill("swell and hold")
    box = page.get_by_role("region", name="Phrases").get_by_role("button", name="swell and hold").bounding_box()
    strip = desk.canvas_of("keeper.level").bounding_box()
    page.mouse.move(box["x"] + 40, box["y"] + 8)
    page.mouse.down()
    page.mouse.move(desk.x_of("keeper.level", 40), strip["y"] + 40, steps=8)
    page.mouse.move(desk.x_of("keeper.level", 52), strip["y"] + 40, steps=4)
    expect(desk.result).to_contain_text("Keeper Level")
    page.mouse.up()
    desk.at_revision(1)
    desk.choose_nothing()
    strip = desk.canvas_of("keeper.level").bounding_box()
    page.mouse.click(desk.x_of("keeper.level", 56), strip["y"] + 22)
    card = page.get_by_role("group", name="Change it")
    expect(card).to_contain_text("swell and hold")
    card.get_by_role("button", name="set it free").click()
    expect(page.locator(".sentence")).to_contain_text("1 place of swell and hold free, no others")
    desk.apply()
    desk.at_revision(2)
    after = server.session()
    assert not after.placements and after.lane_at("keeper.level").envelope.count(ticks_of(52), ticks_of(60)) > 1
