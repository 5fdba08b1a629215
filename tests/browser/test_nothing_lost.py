"""Nothing is lost and nothing stays unsaid: every press of undo, strips by the thousand, what is removed, damaged or refused."""

import json
import sqlite3
from contextlib import closing
from urllib.parse import parse_qs, urlparse

import numpy as np
import pytest
from playwright.sync_api import expect

from tests.api.test_let_in import laned, track
from tests.api.test_let_in import session as session_bytes
from tests.browser.test_files_in_and_out import bring
from velmot.core.time.ticks import ticks_of


def apply_often(desk, page, times: int) -> None:
    """Changes made by another hand, before the page is opened."""
    page.goto(desk.server.url)
    for n in range(times):
        request = {"verb": "set values", "picked": [{"lane": "L1", "points": [n % 20]}], "text": f"=-{n / 7 + 1:.3f}"}
        status = page.evaluate(
            """async ([revision, request]) => {
              const token = /velmot_csrf=([^;]*)/.exec(document.cookie)[1]
              const headers = { 'X-CSRFToken': token, 'Content-Type': 'application/json' }
              const body = JSON.stringify({ revision, request })
              return (await fetch('/api/sessions/1/apply', { method: 'POST', headers, body })).status
            }""",
            [n, request],
        )
        assert status == 200


def test_every_press_of_undo_counts_however_fast(desk, server, page):
    apply_often(desk, page, 6)
    before = server.file()
    desk.open()
    desk.at_revision(6)
    desk.canvas_of("bell.level").focus()
    for _ in range(4):
        page.keyboard.press("Control+z")
        page.wait_for_timeout(30)
    desk.at_revision(2)
    page.wait_for_timeout(300)
    assert server.json("sessions/1/head")["revision"] == 2
    expect(page.get_by_text("changed in another window")).to_have_count(0)
    for _ in range(4):
        page.keyboard.press("Control+y")
    desk.at_revision(6)
    assert server.file() == before


def test_two_thousand_strips_are_asked_for_as_they_come_into_sight(desk, server, page):
    page.goto(server.url)
    bring(page, "many.velmot.json", laned(2000).replace(b"[[0, -3]]", b"[[0, -3], [40, -30]]"))
    asked, refused = [], []

    def note(answer):
        parts = urlparse(answer.url)
        if parts.path.endswith(("/curves", "/values", "/gaps", "/preview")):
            refused.extend([answer.url] if answer.status >= 400 else [])
            asked.extend(parse_qs(parts.query).get("lanes", [""])[0].split("\n"))

    page.on("response", note)
    page.get_by_role("button", name="Open it").click()
    expect(page.locator("[data-strip='p3'] .read-out")).to_have_text("−3.0 dB")
    assert not [id for id in asked if id], "the curves of the first strips came along with the session"
    page.get_by_role("button", name="show all", exact=True).first.click()
    expect(page.locator("[data-strip='p3']")).to_be_visible()
    assert page.locator("section.strip").count() < 40, "the others are not even made"
    page.evaluate("document.querySelector('.scroller').scrollTo(0, 1e7)")
    expect(page.locator("[data-strip='p1999'] .read-out")).to_have_text("−3.0 dB", timeout=30_000)
    page.wait_for_timeout(800)
    assert "L1999" in asked and "L1000" not in asked and not refused
    assert page.evaluate("document.querySelectorAll('.notice').length") == 0


def test_a_deleted_session_is_brought_back_or_removed_for_good(server, page):
    page.goto(server.url)
    bring(page, "gone.velmot.json", session_bytes(name="Passing", tracks=[track("t")]))
    for _ in range(2):
        page.get_by_role("button", name="Delete Passing").click()
        page.get_by_role("button", name="bring back Passing").click()
        expect(page.get_by_role("link", name="Open Passing")).to_be_visible()
    page.get_by_role("button", name="Delete Passing").click()
    page.get_by_role("button", name="remove Passing for good").click()
    expect(page.get_by_text("There is no way back")).to_be_visible()
    page.get_by_role("button", name="keep").click()
    page.get_by_role("button", name="remove Passing for good").click()
    page.get_by_role("button", name="Yes, remove Passing").click()
    expect(page.get_by_text("Passing")).to_have_count(0)
    assert [line["name"] for line in server.json("sessions?deleted=true")] == []
    with closing(sqlite3.connect(server.data / "velmot.sqlite3")) as db:
        assert db.execute("SELECT name FROM storage_storedsession").fetchall() == [("Skerry Light",)]


def test_the_log_shows_older_changes_on_request(desk, page):
    apply_often(desk, page, 103)
    page.goto(f"{desk.server.url}/sessions/1/log")
    expect(page.locator(".log li")).to_have_count(100)
    page.get_by_role("button", name="Show older changes").click()
    expect(page.locator(".log li")).to_have_count(103)
    expect(page.get_by_role("button", name="Show older changes")).to_have_count(0)


def test_a_damaged_lane_is_named_and_the_rest_opens(desk, server, page):
    server.kill()
    with closing(sqlite3.connect(server.data / "velmot.sqlite3")) as db, db:
        db.execute(
            "UPDATE storage_storedenvelope SET data = zeroblob(24) WHERE digest = "
            "(SELECT envelope_id FROM storage_storedlane WHERE key = 'L1')"
        )
    server.start()
    desk.page.goto(f"{server.url}/sessions/1")
    expect(page.get_by_text("Bell buoy Level (lane L1) is damaged in the database and left out")).to_be_visible()
    expect(page.locator("section.strip").first).to_be_visible()
    page.get_by_role("button", name="Understood").click()
    expect(page.get_by_text("is damaged")).to_have_count(0)


def test_a_full_disk_is_said_and_what_was_typed_is_still_there(desk, server, page):
    full = {"code": "disk-full", "message": "the disk is full, so nothing was saved by this step", "place": "",
            "accepted": "making room, then trying again", "head": None, "remedy": None}  # fmt: skip
    page.route("**/apply", lambda route: route.fulfill(status=507, json=full))
    desk.open()
    desk.drag_range("bell.level", 32, 48)
    desk.choose_track("Keeper")
    expect(desk.result.get_by_role("button", name="Apply", exact=True)).to_be_enabled()
    desk.apply()
    expect(page.get_by_text("The disk is full, so nothing was saved by this step")).to_be_visible()
    desk.at_revision(0)
    page.unroute("**/apply")
    desk.apply()
    desk.at_revision(1)
    assert json.loads(server.file())["lanes"] != [] and server.json("sessions/1/head")["revision"] == 1


@pytest.mark.parametrize("way", ["apply", "undo", "redo"])
def test_a_step_whose_answer_is_lost_is_done_once_and_said_to_be_saved(desk, server, page, way):
    """The wire is cut between saving and answering; pressed again or not, the step is there once."""
    desk.open()
    desk.drag_range("keeper.level", 36, 40)
    page.keyboard.press("r")
    page.get_by_label("By how many dB").fill("-6")
    at = np.array([ticks_of(38)])
    before = server.session().lane_at("keeper.level").envelope.at(at)[0]
    keys = {"undo": "Control+z", "redo": "Control+Shift+z"}
    ways = ["apply", "undo", "redo"]
    for one in ways[: ways.index(way) + 1]:
        if one == way:
            page.route(f"**/{one}", lambda route: (route.fetch(), route.abort()), times=1)
        if one == "apply":
            desk.apply()
        else:
            desk.canvas_of("keeper.level").focus()
            page.keyboard.press(keys[one])
        if one != way:
            desk.at_revision(1 if one == "apply" else 0)
    expect(page.locator(".notice").filter(has_text="was saved, though its answer was lost")).to_be_visible()
    desk.at_revision(0 if way == "undo" else 1)
    expect(page.get_by_text("changed in another window")).to_have_count(0)
    now = server.session().lane_at("keeper.level").envelope.at(at)[0]
    assert now == pytest.approx(before - (0 if way == "undo" else 6))
    assert len(server.json("sessions/1/log")["lines"]) == 1


def test_a_file_whose_import_is_not_answered_comes_in_once(server, page, tmp_path):
    page.goto(server.url)
    before = len(server.json("sessions"))
    page.route("**/api/sessions/import*", lambda route: (route.fetch(), route.abort()), times=1)
    file = tmp_path / "twice.velmot.json"
    file.write_bytes(session_bytes(name="Twice"))
    page.get_by_label("File to import").set_input_files(file)
    expect(page.get_by_role("region", name="Import report")).to_contain_text("twice.velmot.json")
    assert len(server.json("sessions")) == before + 1
    expect(page.get_by_text("does not answer")).to_have_count(0)


def losing(page, address: str) -> list[str]:
    """From now on the answer to every first call that writes at an address is lost on its way; gives what was lost."""
    lost: list[str] = []

    def lose(route):
        if route.request.method == "GET" or route.request.url in lost:
            return route.continue_()
        lost.append(route.request.url)
        route.fetch()
        return route.abort()

    page.route(address, lose)
    return lost


def test_what_the_book_is_asked_for_is_done_once_whichever_answer_is_lost(server, page):
    """Each of its five: changed, put away, brought back, duplicated, brought in."""
    before = len(server.json("book"))
    lost = losing(page, "**/api/book/**")
    page.goto(f"{server.url}/phrases")
    page.get_by_label("Find a phrase").fill("tremolo triplets")
    rows = page.locator("main.book li")
    rows.get_by_role("button", name="change").click()
    page.get_by_label("name", exact=True).fill("shiver")
    page.get_by_role("button", name="keep these").click()
    expect(page.get_by_text("shiver is kept.")).to_be_visible()
    page.get_by_label("Find a phrase").fill("shiver")
    page.unroute("**/api/book/**")
    lost += losing(page, "**/api/book/**")
    rows.get_by_role("button", name="delete").click()
    expect(page.get_by_text("shiver is put away")).to_be_visible()
    page.unroute("**/api/book/**")
    lost += losing(page, "**/api/book/**")
    page.get_by_role("region", name="Deleted phrases").get_by_role("button", name="bring back").click()
    expect(page.get_by_text("shiver is back.")).to_be_visible()
    rows.get_by_role("button", name="duplicate").click()
    expect(page.get_by_text("There is another shiver.")).to_be_visible()
    row = {"name": "only one", "length": 4, "points": [[0, 0], [4, 1]]}
    data = json.dumps({"format": "velmot-phrases", "version": 1, "phrases": [row]}).encode()
    file = {"name": "more.velmot-phrases.json", "mimeType": "application/json", "buffer": data}
    page.get_by_label("A file of phrases").set_input_files(file)
    expect(page.get_by_text("1 phrase came in.")).to_be_visible()
    names = [line["name"] for line in server.json("book")]
    assert len(names) == before + 2 and names.count("only one") == 1
    assert sorted(n for n in names if "shiver" in n) == ["shiver", "shiver again"]
    assert server.json("book?deleted=true") == []


def test_what_the_start_page_is_asked_for_is_done_once_whichever_answer_is_lost(server, page):
    """Renamed, deleted, brought back, removed for good, and a fresh sample."""
    page.goto(server.url)
    before = len(server.json("sessions"))
    losing(page, "**/api/sessions/*")
    page.get_by_role("button", name="rename").first.click()
    page.get_by_label("New name").fill("The Lamp")
    page.keyboard.press("Enter")
    expect(page.get_by_role("link", name="Open The Lamp")).to_be_visible()
    page.unroute("**/api/sessions/*")
    for address in ("**/api/sessions/*", "**/api/sessions/*/restore", "**/api/sessions/*/remove", "**/api/demo*"):
        losing(page, address)
    page.get_by_role("button", name="Delete The Lamp").click()
    page.get_by_role("button", name="bring back The Lamp").click()
    expect(page.get_by_role("link", name="Open The Lamp")).to_be_visible()
    page.unroute("**/api/sessions/*")
    losing(page, "**/api/sessions/*")
    page.get_by_role("button", name="Delete The Lamp").click()
    page.get_by_role("button", name="remove The Lamp for good").click()
    page.get_by_role("button", name="Yes, remove The Lamp").click()
    expect(page.get_by_role("region", name="Deleted sessions")).to_have_count(0)
    assert len(server.json("sessions")) == before - 1 and page.locator(".trouble").count() == 0
    page.get_by_role("button", name="Open a fresh Skerry Light").click()
    expect(page.locator("section.strip").first).to_be_visible()
    assert len(server.json("sessions")) == before


def test_how_a_bench_is_left_is_kept_though_its_answer_was_lost_or_nothing_arrived(desk, server, page):
    desk.open()
    tries = []
    page.route("**/api/sessions/1/bench", lambda route: (tries.append(route.request.post_data), route.abort()), times=2)
    desk.drag_range("keeper.level", 36, 40)
    desk.until_kept(lambda bench: bench["range"] == {"start": 36, "end": 40})
    assert len(tries) == 2, "sent again by itself, with nothing else done on the page"


def test_a_recipe_is_kept_and_forgotten_though_its_answers_were_lost(desk, server, page):
    desk.open()
    desk.drag_range("bell.level", 32, 48)
    desk.choose_track("Keeper")
    losing(page, "**/api/sessions/1/recipes")
    losing(page, "**/api/recipes/*")
    page.get_by_label("Name for a recipe").fill("Once")
    page.get_by_label("Name for a recipe").press("Enter")
    expect(page.get_by_role("button", name="Use a recipe: Once")).to_be_visible()
    assert [r["name"] for r in server.json("recipes")] == ["Once"]
    page.get_by_role("button", name="forget").click()
    expect(page.get_by_label("Use a recipe")).to_contain_text("no recipes yet")
    assert server.json("recipes") == []
