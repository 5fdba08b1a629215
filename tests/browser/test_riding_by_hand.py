"""The desk: passes ridden by mouse, keys, scripted hands and a controller become lanes; checked in the database."""

import json
import re

import numpy as np
import pytest
from playwright.sync_api import expect

from velmot.core.session.heard import heard, reading
from velmot.core.time.ticks import ticks_of


def at(session, parameter, *beats, groups=False):
    curve = heard(reading(session), parameter, groups=groups).envelope
    return curve.at(np.array([ticks_of(b) for b in beats])).tolist()


def column(page, parameter):
    return page.locator(f"[data-control='{parameter}']")


def transport(page):
    return page.get_by_role("group", name="Transport")


def passes(page):
    return page.get_by_role("list", name="Passes").get_by_role("listitem")


@pytest.fixture
def ride_file(tmp_path):
    """Writes a ride of hands, each (track, parameter, mode, trim, events), to be opened on the desk."""

    def write(*hands, length=2.0):
        names = ("track", "parameter", "mode", "trim", "events")
        rows = [dict(zip(names, hand, strict=True)) for hand in hands]
        path = tmp_path / "hand.velmot-ride.json"
        path.write_text(
            json.dumps({"format": "velmot-ride", "version": 1, "name": "a hand", "length": length, "hands": rows})
        )
        return path

    return write


def play_once(page):
    """Play round the range until one pass has been made, and stop."""
    before = passes(page).count()
    page.keyboard.press("Home")
    transport(page).get_by_role("button", name="Play").click()
    expect(passes(page).nth(before)).to_be_visible()
    stop(page)
    throw_away(page, passes(page).nth(before + 1))


def stop(page):
    transport(page).get_by_role("button", name="Stop").click()


def throw_away(page, one):
    """The rounds that had begun by the time it was stopped, if a hand was on something by then."""
    while one.count():
        left = passes(page).count() - 1
        one.get_by_role("button", name="Throw pass").click()
        expect(passes(page)).to_have_count(left)


def from_file(page, path):
    page.get_by_label("A ride file").set_input_files(path)


RISING = [[0.5 + n / 20, "move", round(-10.0 + n * 0.4 + n % 2 * 0.05, 3)] for n in range(11)]
STEADY = [[0.5, "touch", -10.0], *RISING, [1.25, "release", None]]


def test_a_narration_is_ridden_in_latch_spread_over_its_sentence_thinned_and_undone(desk, server, page, ride_file):
    desk.open()
    before = server.session()
    desk.drag_range("keeper.level", 36, 38)
    page.keyboard.press("Shift+D")
    from_file(page, ride_file(("Keeper", "Level", "latch", False, STEADY)))
    play_once(page)
    expect(passes(page)).to_contain_text("1 Keeper Level")
    expect(desk.result).to_contain_text("points")
    desk.choose("Last value", "over the whole pass")
    desk.apply()
    desk.at_revision(1)
    after = server.session()
    assert at(after, "keeper.level", 36, 37, 37.9) == pytest.approx([-6, -6, -6])
    assert at(after, "keeper.level", 35.9, 38, 50) == pytest.approx(at(before, "keeper.level", 35.9, 38, 50))
    expect(passes(page)).to_have_count(0)
    page.keyboard.press("Control+z")
    desk.at_revision(0)
    assert server.session().lanes == before.lanes
    # The same in latch, not spread: from the first touch to the end of the pass, every move of the hand kept.
    page.get_by_role("button", name="how it is written").click()
    page.get_by_label("Bound in dB").fill("0")
    page.keyboard.press("Enter")
    page.get_by_role("button", name="the passes", exact=True).click()
    play_once(page)
    desk.apply()
    desk.at_revision(2)
    latched = server.session()
    assert at(latched, "keeper.level", 37.5, 37.9) == pytest.approx([-6, -6])
    assert at(latched, "keeper.level", 36.5, 36.7) == pytest.approx([-10, -8.4])
    assert at(latched, "keeper.level", 36.4) == pytest.approx(at(before, "keeper.level", 36.4))
    page.keyboard.press("Shift+T")
    expect(desk.result).to_contain_text("apart at most")
    desk.apply()
    desk.at_revision(3)
    assert len(server.session().lane("L17").envelope) < len(latched.lane("L17").envelope)


def test_a_trim_lies_over_the_moves_that_are_there_and_a_second_pass_over_the_first(desk, server, page, ride_file):
    desk.open()
    before = server.session()
    desk.drag_range("bell.level", 36, 38)
    page.keyboard.press("Shift+D")
    from_file(page, ride_file(("Bell buoy", "Level", "latch", True, [[0.25, "touch", -3.0], [1.5, "release", None]])))
    transport(page).get_by_role("button", name="Play").click()
    expect(column(page, "bell.level").get_by_role("status")).to_have_text("−3.00 dB")
    expect(passes(page).nth(1)).to_be_visible()  # round and round: each is a pass of its own
    stop(page)
    throw_away(page, passes(page).nth(2))
    expect(desk.result).to_contain_text("up to 6.00 dB")  # each lies over the one before
    page.get_by_role("button", name="Throw pass 1 away").click()
    desk.choose("Last value", "over the whole pass")
    expect(desk.result).to_contain_text("up to 3.00 dB")
    desk.apply()
    desk.at_revision(1)
    after = server.session()
    beats = (36, 36.4, 37, 37.6, 37.99)
    was, now = (np.array(at(s, "bell.level", *beats)) for s in (before, after))
    assert now - was == pytest.approx(np.full(5, -3.0), abs=1e-9)
    assert at(after, "bell.level", 35.99, 38) == pytest.approx(at(before, "bell.level", 35.99, 38))


def test_a_mute_pass_holds_and_what_would_not_be_heard_is_said_before(desk, server, page, ride_file):
    desk.open()
    desk.drag_range("foghorn.level", 32, 34)
    page.keyboard.press("Shift+D")
    expect(desk.result).to_contain_text("Foghorn is muted from")
    desk.result.get_by_role("button", name="put Muted to sounding first").click()
    desk.apply()
    desk.at_revision(1)
    expect(desk.result).not_to_contain_text("is muted")
    from_file(
        page,
        ride_file(
            (
                "Foghorn",
                "Muted",
                "latch",
                False,
                [[0.5, "touch", 1.0], [1, "release", None], [1.5, "touch", 0.0], [1.6, "release", None]],
            )
        ),
    )
    play_once(page)
    desk.apply()
    desk.at_revision(2)
    assert at(server.session(), "foghorn.mute", 32, 32.9, 33.2, 33.9) == [0, 1, 1, 0]


def until_it_runs(page):
    """Time begins with its sound, or half a second later."""
    page.evaluate("""() => new Promise(done => {
      const where = document.querySelector('.where b'), before = where.textContent
      const look = () => (where.textContent !== before ? done() : requestAnimationFrame(look))
      look()
    })""")


BUSY = "void setTimeout(() => { for (const from = performance.now(); performance.now() - from < 700; ); })"


def test_a_member_is_ridden_by_hand_while_its_group_moves_without_a_step(desk, server, page):
    desk.open()
    before = server.session()
    desk.drag_range("bell.level", 32, 48)
    page.keyboard.press("Shift+D")
    expect(column(page, "bell.level")).to_contain_text("the track's lane")  # where it stands is known
    rule = column(page, "bell.level").get_by_role("slider").bounding_box()
    page.mouse.move(rule["x"] + 40, rule["y"] + 50)
    page.keyboard.press(" ")
    until_it_runs(page)
    page.wait_for_timeout(200)
    page.evaluate(BUSY)  # the lane moves on meanwhile, by some 4 dB a beat
    page.wait_for_timeout(350)
    page.mouse.down()
    expect(column(page, "bell.level")).to_contain_text("under your hand")
    for n in range(10):
        page.mouse.move(rule["x"] + 40, rule["y"] + 50 + 2 * n)
        page.wait_for_timeout(30)
    page.mouse.up()
    stop(page)
    desk.apply()
    desk.at_revision(1)
    after = server.session()
    was, now = (heard(s, "bell.level", groups=False).envelope for s in (before, after))
    ticks = np.arange(ticks_of(32), ticks_of(48), 8000)
    apart = now.at(ticks) - was.at(ticks)
    first = int(np.flatnonzero(np.abs(apart) > 1e-6)[0])
    assert abs(apart[first]) < 1, "no step of what the group adds, some −2 dB and more"
    hand = server.json("sessions/1/log")["lines"][0]["request"]["passes"][0]["controls"][0]["hand"]
    touched, moved = hand["does"].index("touch"), hand["does"].index("move")
    stood = was.at(np.array([ticks_of(hand["at"][touched])]))[0]
    assert abs(hand["value"][moved] - stood) < 1, "it goes on from where the lane was when it was taken"
    assert np.abs(apart).max() > 1


def test_two_controls_are_ridden_at_once_by_keys_and_spread_while_time_runs(desk, server, page):
    desk.open()
    before = server.session()
    desk.drag_range("bell.level", 40, 56)
    page.keyboard.press("Shift+D")
    desk.choose("Put on the desk", "Keeper Level")
    desk.choose("Mode of all", "latch")
    column(page, "bell.level").get_by_role("slider").focus()
    page.keyboard.press("1")
    page.keyboard.press("2")
    page.keyboard.press(" ")
    until_it_runs(page)
    page.wait_for_timeout(300)
    for _ in range(4):
        page.keyboard.press("Shift+ArrowDown")
    page.keyboard.press("Alt+ArrowUp")
    desk.choose("Last value", "back to the start")
    stop(page)
    expect(passes(page)).to_contain_text("2 controls")
    page.keyboard.press("Control+Enter")
    desk.at_revision(1)
    after = server.session()
    changed = {x.parameter for x, y in zip(before.lanes, after.lanes, strict=True) if x != y}
    assert changed == {"bell.level", "keeper.level"}
    for parameter in changed:
        assert at(after, parameter, 40) == pytest.approx(at(after, parameter, 40.4)) != at(before, parameter, 40)


def test_a_pass_is_offered_again_when_the_window_was_closed_and_kept_while_the_server_is_away(
    desk, server, page, ride_file
):
    desk.open()
    desk.drag_range("keeper.level", 36, 38)
    page.keyboard.press("Shift+D")
    from_file(page, ride_file(("Keeper", "Level", "latch", False, STEADY)))
    transport(page).get_by_role("button", name="Play").click()
    expect(column(page, "keeper.level")).to_contain_text("under your hand")
    page.wait_for_timeout(200)
    page.reload()
    expect(page.get_by_role("region", name="Worksheet")).to_be_visible()
    page.keyboard.press("Shift+D")
    offered = page.get_by_text("from before, not saved")
    first = int(re.match(r"(\d+) pass", offered.inner_text())[1])
    from_file(page, ride_file(("Keeper", "Level", "latch", False, STEADY)))
    expect(column(page, "keeper.level").locator("footer")).to_contain_text("latch")
    play_once(page)  # what is offered is kept beside what comes
    page.reload()
    expect(page.get_by_role("region", name="Worksheet")).to_be_visible()
    page.keyboard.press("Shift+D")
    expect(offered).to_contain_text(f"{first + 1} passes from before")
    page.get_by_role("button", name="take up again").click()
    expect(passes(page)).to_have_count(first + 1)
    expect(desk.result.get_by_role("button", name="Apply", exact=True)).to_be_enabled()
    desk.apply()
    desk.at_revision(1)
    assert at(server.session(), "keeper.level", 36.5) == pytest.approx([-10])
    page.reload()
    expect(page.get_by_role("region", name="Worksheet")).to_be_visible()
    page.keyboard.press("Shift+D")
    expect(page.get_by_role("button", name="take up again")).to_have_count(0)


def test_two_windows_that_ride_at_once_keep_the_passes_of_both(desk, server, page, ride_file):
    desk.open()
    desk.drag_range("keeper.level", 36, 38)
    desk.until_kept(lambda bench: bench["range"])
    other = page.context.new_page()
    other.goto(f"{server.url}/sessions/1")
    for window in (other, page):
        window.bring_to_front()
        expect(window.get_by_role("region", name="Worksheet")).to_be_visible()
        window.keyboard.press("Shift+D")
        from_file(window, ride_file(("Keeper", "Level", "latch", False, STEADY)))
        expect(column(window, "keeper.level").locator("footer")).to_contain_text("latch")
        expect(window.get_by_text("from before, not saved")).to_have_count(0), "nobody left these"
        play_once(window)
    other.close()
    page.reload()
    expect(page.get_by_role("region", name="Worksheet")).to_be_visible()
    page.keyboard.press("Shift+D")
    expect(page.get_by_text("2 passes from before, not saved")).to_be_visible()
    third = page.context.new_page()
    third.goto(f"{server.url}/sessions/1")
    expect(third.get_by_role("region", name="Worksheet")).to_be_visible()
    third.keyboard.press("Shift+D")
    third.get_by_role("button", name="take up again").click()
    expect(passes(third)).to_have_count(2)
    page.bring_to_front()
    expect(page.get_by_text("from before, not saved")).to_have_count(0), "they are the third window's now"
    third.close()
    page.reload()
    expect(page.get_by_role("region", name="Worksheet")).to_be_visible()
    page.keyboard.press("Shift+D")
    expect(page.get_by_text("2 passes from before, not saved")).to_be_visible()
    page.get_by_role("button", name="throw away").click()
    page.reload()
    expect(page.get_by_role("region", name="Worksheet")).to_be_visible()
    page.keyboard.press("Shift+D")
    expect(page.get_by_text("Press play and take hold")).to_be_visible()
    expect(page.get_by_text("from before, not saved")).to_have_count(0)


def test_what_is_ridden_while_the_server_is_away_is_kept_until_it_is_back(desk, server, page, ride_file):
    desk.open()
    desk.drag_range("keeper.level", 36, 38)
    page.keyboard.press("Shift+D")
    from_file(page, ride_file(("Keeper", "Level", "latch", False, STEADY)))
    expect(column(page, "keeper.level").locator("footer")).to_contain_text("latch")
    server.kill()
    play_once(page)
    expect(page.get_by_text("Velmot’s server does not answer")).to_be_visible()
    expect(passes(page)).to_have_count(1)
    server.start()
    expect(page.get_by_text("Velmot’s server does not answer")).to_be_hidden(timeout=30_000)
    expect(desk.result).to_contain_text("points")
    desk.apply()
    desk.at_revision(1)
    assert at(server.session(), "keeper.level", 36.5, 37.9) == pytest.approx([-10, -6])


def test_a_group_is_folded_before_its_member_is_ridden_and_what_is_heard_is_what_the_hand_says(
    desk, server, page, ride_file
):
    desk.open()
    before = server.session()
    desk.drag_range("bell.level", 36, 40)
    page.keyboard.press("Shift+G")
    desk.result.get_by_role("button", name="set who takes part to read, and go on").click()
    desk.apply()
    desk.at_revision(1)
    folded = server.session()
    for beats in ((36, 37.3, 39.9), (20, 50)):
        assert at(folded, "bell.level", *beats, groups=True) == pytest.approx(
            at(before, "bell.level", *beats, groups=True), abs=2e-3
        )
    page.keyboard.press("Shift+D")
    from_file(page, ride_file(("Bell buoy", "Level", "latch", False, STEADY)))
    expect(column(page, "bell.level").locator("footer")).to_contain_text("latch")
    play_once(page)
    desk.apply()
    desk.at_revision(2)
    after = server.session()
    assert at(after, "bell.level", 36.5, 38, 39.9, groups=True) == pytest.approx([-10, -6, -6]), (
        "the group adds nothing here"
    )
    assert at(after, "bell.level", 36.2, 40, groups=True) == pytest.approx(
        at(folded, "bell.level", 36.2, 40, groups=True)
    )


def test_another_window_applies_meanwhile_and_the_pass_is_laid_over_that(desk, server, page, ride_file, context):
    desk.open()
    desk.drag_range("keeper.level", 36, 38)
    page.keyboard.press("Shift+D")
    from_file(page, ride_file(("Keeper", "Level", "latch", False, STEADY)))
    play_once(page)
    other = context.new_page()
    other.goto(f"{server.url}/sessions/1")
    other.get_by_role("region", name="Worksheet").wait_for()
    other.keyboard.press("x")
    other.get_by_role("radiogroup", name="What to clear").get_by_text("the track", exact=True).click()
    other.get_by_role("complementary", name="If applied").get_by_role("button", name="Apply", exact=True).click()
    expect(other.locator(".rev")).to_have_text("revision 1")
    other.close()
    page.get_by_role("button", name="Show the newest").click()
    desk.at_revision(1)
    expect(passes(page)).to_have_count(1)
    desk.apply()
    desk.at_revision(2)
    after = server.session()
    assert [x.parameter for x in after.lanes if after.owner(x.parameter).id == "keeper"] == ["keeper.level"]
    assert at(after, "keeper.level", 37.9) == pytest.approx([-6])


CONTROLLER = """
window.knob = { onmidimessage: null };
navigator.requestMIDIAccess = async () => ({ inputs: new Map([['1', window.knob]]), onstatechange: null });
"""


TURN = """moves => {
  const now = performance.now()
  for (const [value, ago] of moves)
    window.knob.onmidimessage({ data: new Uint8Array([0xb0, 21, value]), timeStamp: now - ago })
}"""


def test_a_controller_is_learnt_and_takes_over_where_it_meets_the_value(desk, server, page):
    page.add_init_script(CONTROLLER)
    desk.open()
    desk.drag_range("keeper.level", 36, 44)
    page.keyboard.press("Shift+D")
    page.get_by_role("button", name="how it is written").click()
    page.get_by_role("button", name="use a controller").click()
    mine = column(page, "keeper.level")
    mine.get_by_role("button", name="learn").click()

    def turn(value):
        page.evaluate(TURN, [[value, 0]])

    turn(0)
    expect(mine).to_contain_text("1/21")
    stands = mine.get_by_role("status").inner_text()
    turn(3)
    expect(mine.get_by_role("status")).to_have_text(stands)
    transport(page).get_by_role("button", name="Play").click()
    until_it_runs(page)
    page.wait_for_timeout(500)
    page.evaluate(TURN, [[3, 320], [127, 240], [120, 160], [110, 80]])  # heard of all at once, by a page that was busy
    expect(mine.get_by_role("status")).to_have_text("−2.5 dB")
    transport(page).get_by_role("button", name="Stop").click()
    page.wait_for_timeout(100)
    desk.apply()
    desk.at_revision(1)
    hand = server.json("sessions/1/log")["lines"][0]["request"]["passes"][0]["controls"][0]["hand"]
    heard_at = sorted({at for at, does in zip(hand["at"], hand["does"], strict=True) if does in ("touch", "move")})
    assert np.diff(heard_at) == pytest.approx([0.08 * 96 / 60] * 2, abs=2e-3), "each stands where it was sent"
