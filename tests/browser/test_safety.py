"""Kills, second windows, silence, and that nothing leaves this machine."""

from urllib.parse import urlparse

from playwright.sync_api import expect

from tests.browser.conftest import Desk


def carry_once(desk):
    desk.drag_range("bell.level", 32, 48)
    desk.choose_track("Keeper")
    expect(desk.result.get_by_role("button", name="Apply", exact=True)).to_be_enabled()
    desk.apply()


def test_a_kill_loses_nothing_and_the_work_goes_on(desk, server, page):
    desk.open()
    carry_once(desk)
    desk.at_revision(1)
    kept = server.file()
    server.kill()
    expect(page.get_by_text("server does not answer")).to_be_visible(timeout=30_000)
    server.start()
    expect(page.get_by_text("server does not answer")).to_be_hidden(timeout=30_000)
    assert server.file() == kept
    page.get_by_role("button", name="Undo").click()
    desk.at_revision(0)


def test_a_second_window_is_told_and_never_overwrites(desk, server, page, context):
    desk.open()
    other = Desk(context.new_page(), server).open()
    page.bring_to_front()  # a page behind another is drawn once a second
    carry_once(desk)
    desk.at_revision(1)
    kept = server.file()
    expect(other.page.get_by_text("has changed in another window and stands at revision 1")).to_be_visible(
        timeout=30_000
    )
    other.page.bring_to_front()
    other.drag_range("bell.level", 16, 32)
    other.choose_track("Gulls")
    expect(other.result.get_by_role("button", name="Apply", exact=True)).to_be_disabled()
    assert server.file() == kept
    other.page.get_by_role("button", name="Show the newest").click()
    other.at_revision(1)
    expect(other.result.get_by_role("button", name="Apply", exact=True)).to_be_enabled()
    other.apply()
    other.at_revision(2)


def test_no_request_leaves_this_machine(desk, server, page):
    hosts, problems = set(), []
    page.on(
        "request", lambda r: hosts.add(urlparse(r.url).hostname) if not r.url.startswith(("data:", "blob:")) else None
    )
    page.on("console", lambda m: problems.append(m.text) if m.type == "error" else None)
    page.on("pageerror", lambda e: problems.append(str(e)))
    page.goto(server.url)
    desk.open()
    carry_once(desk)
    desk.at_revision(1)
    for place in ("Log", "Take out…"):
        page.get_by_role("link", name=place).click()
    page.wait_for_timeout(500)
    assert hosts == {"127.0.0.1"} and problems == []


def test_what_was_on_screen_is_there_again_after_leaving(desk, page):
    desk.open()
    desk.drag_range("bell.level", 32, 48)
    page.get_by_role("button", name="Pin Foghorn Growl drive").click()
    page.reload()
    expect(page.get_by_role("textbox", name="Range start")).to_have_value("9.1.00")
    expect(page.locator("[data-strip='foghorn.growl.growl-drive']")).to_be_attached()


def test_what_the_server_has_not_answered_is_kept_by_the_tab(desk, page):
    desk.open()
    page.route("**/bench", lambda route: None)
    with page.expect_request("**/bench"):
        page.get_by_role("button", name="Pin Foghorn Growl drive").click()
    page.reload()
    expect(page.locator("[data-strip='foghorn.growl.growl-drive']")).to_be_attached()
    page.unroute("**/bench")
    page.get_by_role("button", name="Pin Foghorn Level").or_(
        page.get_by_role("button", name="Unpin Foghorn Level")
    ).first.click()
    desk.until_kept(lambda bench: "foghorn.growl.growl-drive" in bench["pins"])


def test_a_session_that_is_not_there_is_said(page, server):
    page.goto(f"{server.url}/sessions/77")
    expect(page.get_by_role("heading", name="This session is not here")).to_be_visible()
