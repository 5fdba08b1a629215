"""Moving about the bench: what a long pan leaves on screen is what opening there draws."""

import base64

import numpy as np
import pytest
from playwright.sync_api import expect

from tests.browser.conftest import Desk
from tests.browser.test_points_by_hand import spot
from tests.browser.test_reshape_by_hand import choose, y_of

FRESH = "d[i] > 150 && d[i + 1] < 100 ? 255 : 0"


def paper(page, each: str = "255 - d[i + 1]") -> np.ndarray:
    """How dark each pixel of the strips is, 0 to 255, without what hangs over them; or where it is of fresh ink."""
    width, height, text = page.evaluate(
        f"""() => {{ const c = document.querySelector('canvas.paper')
          const d = c.getContext('2d').getImageData(0, 0, c.width, c.height).data
          let text = ''; for (let i = 0; i < d.length; i += 4) text += String.fromCharCode({each})
          return [c.width, c.height, btoa(text)] }}"""
    )
    return np.frombuffer(base64.b64decode(text), np.uint8).reshape(height, width).astype(int)


def missing(dark: np.ndarray, other: np.ndarray) -> int:
    """Dark pixels of one that have no dark one within a pixel in the other, as what slides lands on whole pixels."""
    around = np.pad(other, 1)
    rows, columns = other.shape
    near = np.max([around[y : y + rows, x : x + columns] for y in range(3) for x in range(3)], axis=0)
    return int(((dark > 90) & (near < 45)).sum())


@pytest.mark.parametrize("heard", [False, True])
def test_a_pan_there_and_back_draws_what_opening_there_draws(desk: Desk, page, heard):
    desk.open()
    if heard:
        page.keyboard.press("u")
    desk.drag_range("bell.level", 32, 48)
    page.mouse.move(*desk.foot_of("bell.level", 2))
    page.mouse.wheel(2700, 0)  # nearly three windows at once, further than there are curves of
    page.wait_for_timeout(900)
    for _ in range(4):
        page.mouse.wheel(-90, 0)  # back a part, which is drawn already
    page.mouse.move(5, 60)
    page.wait_for_timeout(1800)
    panned = paper(page)
    page.reload()
    expect(page.locator("section.strip").first).to_be_visible()
    expect(page.get_by_role("region", name="Worksheet")).to_be_visible()
    page.wait_for_timeout(2000)
    opened = paper(page)
    assert (opened > 90).sum() > 3000, "there is something to see"
    assert missing(panned, opened) < 20 and missing(opened, panned) < 20


def test_strips_scrolled_into_sight_are_drawn(desk: Desk, page):
    pins = [lane["parameter"] for lane in desk.server.json("sessions/1")["lanes"]][::3]
    kept = {"pins": pins, "view": {"start": 0, "end": 64}}
    desk.server.keep_bench(1, kept)
    desk.open(fresh=True)
    page.mouse.move(5, 60)
    page.wait_for_timeout(1200)
    page.evaluate("document.querySelector('main .scroller').scrollTop = 1e6")
    page.wait_for_timeout(400)
    scrolled = paper(page)
    page.locator("section.strip").last.hover()  # the pointer's line is drawn, so all is
    page.mouse.move(5, 60)
    page.wait_for_timeout(300)
    drawn = paper(page)
    assert (drawn > 90).sum() > 3000, "there is something to see"
    assert missing(drawn, scrolled) == missing(scrolled, drawn) == 0


@pytest.mark.parametrize("what", ["rail", "point"])
def test_what_a_hand_pulls_is_drawn_at_every_move_and_leaves_nothing_behind(desk: Desk, page, what):
    desk.open()
    if what == "rail":
        choose(page, "bell level")
        desk.drag_range("bell.level", 16, 48)
        page.keyboard.press("r")
        expect(desk.result).to_contain_text("Pull a rail on the strip")
        x, y = desk.x_of("bell.level", 40), y_of(desk, page, "bell.level")
    else:
        x, y = spot(desk, 35.5, -10)
    page.mouse.move(x, y)
    page.mouse.down()
    seen = []
    for far in (8, 24, 8):
        page.mouse.move(x, y + far, steps=8)
        page.wait_for_timeout(500)
        seen.append((paper(page, FRESH), paper(page)))
    page.keyboard.press("Escape")
    page.mouse.up()
    (fresh, first), (gone_along, _), (_, back) = seen
    least, most = sorted((one > 0).sum() for one in (fresh, gone_along))
    assert least > {"rail": 900, "point": 60}[what] and most < 1.4 * least, "one curve of it, not two"
    assert missing(fresh, gone_along) > least / 3, "and it goes along"
    assert missing(first, back) == missing(back, first) == 0
