"""A real server on a fresh database, Debian's Chromium, and a pair of hands for the bench."""

from __future__ import annotations

import json
import os
import re
import shutil
import signal
import subprocess
import sys
import urllib.request
from collections.abc import Callable, Iterator
from fcntl import LOCK_EX, flock
from pathlib import Path

import pytest
from playwright.sync_api import Browser, BrowserContext, CDPSession, Page, WebError, expect

from tests.browser.nursery import Nursery
from velmot.core.session.session import Session
from velmot.formats import session_file

_THERE = [path for path in ("/usr/bin/chromium-headless-shell", "/usr/bin/chromium") if Path(path).exists()]
CHROMIUM = (_THERE or ["/usr/bin/chromium"])[0]
"""Debian's Chromium, without a window's frame where that is installed."""

FLAGS = [
    "--no-sandbox",
    "--disable-gpu",
    "--disable-quic",
    "--no-first-run",
    "--disable-background-networking",
    "--disable-component-update",
    "--disable-sync",
]
"""As everywhere a page is shown: in tests, pictures and the bench."""

SHORT_LIVED = [
    "--process-per-site",  # a page finds what the page of the test before it has read and compiled
    "--js-flags=--no-opt,--no-maglev",  # no page lives long enough for what the compiler would win
]
"""What makes a page cheap that is seen for seconds; it would make one slow that is measured."""

expect.set_options(timeout=30_000)  # a machine may be busy with something else; what never comes is a fault then too


@pytest.fixture(scope="session")
def browser_type_launch_args(browser_type_launch_args):
    return browser_type_launch_args | {"executable_path": CHROMIUM, "args": FLAGS + SHORT_LIVED}


@pytest.fixture(scope="session")
def browser_context_args(browser_context_args):
    # What moves for show only is drawn sixty times a second, and no test asks for it.
    return browser_context_args | {"viewport": {"width": 1280, "height": 800}, "reduced_motion": "reduce"}


@pytest.fixture(scope="session")
def warm_context(browser: Browser, browser_context_args) -> Iterator[tuple[BrowserContext, CDPSession]]:
    """One context for all tests, which has read the page's scripts once, and a wire to it from a page that stays.

    That page is one of this machine's, as are those that are tested, so that their process stays with it.
    """
    made = browser.new_context(**browser_context_args)
    stays = made.new_page()
    stays.route("**/*", lambda route: route.fulfill(content_type="text/html", body="<title>stays</title>"))
    stays.goto("http://127.0.0.1/")
    yield made, made.new_cdp_session(stays)
    made.close()


@pytest.fixture
def context(warm_context: tuple[BrowserContext, CDPSession]) -> Iterator[BrowserContext]:
    """The warm context, with nothing left in it of the test before. What a page throws and nobody catches is a fault."""
    made, wire = warm_context
    thrown: list[str] = []

    def note(error: WebError) -> None:
        thrown.append(str(error.error))

    made.on("weberror", note)
    yield made
    made.remove_listener("weberror", note)
    assert not thrown, "a page threw"
    for page in made.pages[1:]:
        page.close()
    wire.send("Storage.clearDataForOrigin", {"origin": "*", "storageTypes": "local_storage,session_storage,cookies"})
    made.clear_permissions()


SOUNDLESS = """(real => (window.fetch = async (what, init) => {
  if (!String(what.url ?? what).endsWith('/score')) return real(what, init)
  const { start, end } = await new Request(what, init).json()
  const now = { start, end, channels: [], circles: [], missing: [] }
  return new Response(JSON.stringify({ now, applied: null }), { headers: { 'Content-Type': 'application/json' } })
}))(window.fetch)"""

PINS = ["bell.level", "foghorn.level", "choir.level", "keeper.level"]


class Server:
    """Velmot as a user starts it, in a process of its own that can be killed and started again."""

    def __init__(self, data: Path, port: int = 0, nursery: Nursery | None = None) -> None:
        """Begins to start; `ready` waits for it. From a nursery it stands at once, killed and started it is the real one."""
        self.data = data
        self.port = port
        self.nursery = nursery
        if nursery:
            nursery.begin(data, port)
        else:
            self.begin()

    def begin(self) -> None:
        self.nursery = None
        self.process = subprocess.Popen(
            [sys.executable, "-m", "velmot.site", "--demo", "--port", str(self.port)],
            env=os.environ | {"VELMOT_DATA": str(self.data)},
            stdout=subprocess.PIPE,
            text=True,
        )

    def ready(self) -> Server:
        self.pid, line = self.nursery.ready() if self.nursery else (self.process.pid, self.process.stdout.readline())
        self.port = int(re.search(r":(\d+)/", line)[1])
        return self

    def start(self) -> None:
        self.begin()
        self.ready()

    def kill(self) -> None:
        os.kill(self.pid, signal.SIGKILL)
        if not self.nursery:
            self.process.wait()

    @property
    def url(self) -> str:
        return f"http://127.0.0.1:{self.port}"

    def get(self, path: str) -> bytes:
        with urllib.request.urlopen(f"{self.url}/api/{path}") as answer:
            return answer.read()

    def json(self, path: str):
        return json.loads(self.get(path))

    def bench(self, id: int = 1) -> dict:
        """How the session is looked at, as the server keeps it."""
        return self.json(f"sessions/{id}")["bench"]

    def keep_bench(self, id: int, some: dict) -> None:
        """As a window that was open before left it."""
        token = "a" * 32  # any will do that is sent twice, as only this machine's own pages can
        headers = {"X-CSRFToken": token, "Cookie": f"velmot_csrf={token}", "Content-Type": "application/json"}
        body = json.dumps(some).encode()
        call = urllib.request.Request(f"{self.url}/api/sessions/{id}/bench", body, headers, method="PATCH")
        urllib.request.urlopen(call).close()

    def file(self, id: int = 1) -> bytes:
        """The session's file as it would be taken out now."""
        return self.get(f"sessions/{id}/export/session")

    def session(self, id: int = 1) -> Session:
        return session_file.read(self.file(id))[0]


@pytest.fixture(scope="session")
def fresh_data(tmp_path_factory: pytest.TempPathFactory, worker_id: str) -> Path:
    """A folder with the demo in it, made once for all workers; every test works in a copy."""
    shared = tmp_path_factory.getbasetemp() if worker_id == "master" else tmp_path_factory.getbasetemp().parent
    data = shared / "fresh"
    with (shared / "fresh.lock").open("w") as lock:
        flock(lock, LOCK_EX)
        if not data.exists():
            command = [sys.executable, "-m", "velmot.site", "--demo", "--prepare"]
            subprocess.run(command, env=os.environ | {"VELMOT_DATA": str(data)}, check=True)
    return data


class Servers:
    """Gives one server after the other; the next one starts while a test works with this one.

    They take turns at two addresses, so that the browser has most of what it asks for.
    """

    def __init__(self, folder: Callable[[str], Path], fresh_data: Path) -> None:
        self.folder, self.fresh_data = folder, fresh_data
        self.nursery = Nursery(shutil.copytree(fresh_data, folder("nursery") / "data"))
        self.free = [0, 0]
        self.waiting = self.begun()

    def begun(self) -> Server:
        data = self.folder("server") / "data"
        shutil.copytree(self.fresh_data, data)
        return Server(data, self.free.pop(0), self.nursery)

    def following(self) -> Server:
        made, self.waiting = self.waiting.ready(), self.begun()
        return made

    def done(self, server: Server) -> None:
        server.kill()
        self.free.append(server.port)


@pytest.fixture(scope="session")
def servers(tmp_path_factory: pytest.TempPathFactory, fresh_data: Path) -> Iterator[Servers]:
    made = Servers(tmp_path_factory.mktemp, fresh_data)
    yield made
    made.waiting.ready().kill()
    made.nursery.close()


@pytest.fixture
def server(servers: Servers) -> Iterator[Server]:
    made = servers.following()
    yield made
    servers.done(made)


class Desk:
    """The hands of a user at the bench: drags, clicks and keys, nothing behind the screen's back."""

    def __init__(self, page: Page, server: Server, folded: bool = False, heard: bool = False) -> None:
        """`heard` has time sound as it does: where it does not matter, it costs the machine half of its time."""
        self.page, self.server = page, server
        if not heard:
            page.add_init_script(SOUNDLESS)
        self.kept: dict[int, dict] = {}
        """The bars that sessions were opened on: what a window shows as long as it has none of its own."""
        page.add_init_script(f"localStorage['velmot.folded'] ??= '{'yes' if folded else 'no'}'")
        page.add_init_script(
            "localStorage['velmot.hints'] ??= 'off'"
        )  # it lies over the strips, where a test may press

    def open(self, id: int = 1, fresh: bool = False) -> Desk:
        """Open a session on its first bars with four levels pinned; `fresh` as someone who never has before."""
        if not fresh:
            self.kept[id] = {"start": 0, "end": 64}
            kept = {"view": self.kept[id]} | ({"pins": PINS} if id == 1 else {})
            self.server.keep_bench(id, kept)
        self.page.goto(f"{self.server.url}/sessions/{id}")
        expect(self.page.locator("section.strip").first).to_be_visible()
        expect(self.page.get_by_role("region", name="Worksheet")).to_be_visible()
        return self

    def canvas_of(self, parameter: str):
        return self.page.locator(f"[data-strip='{parameter}'] .plot")

    def x_of(self, parameter: str, beat: float, id: int = 1) -> float:
        box = self.canvas_of(parameter).bounding_box()
        view = self.view(id)
        plot = box["width"] - 12 - 64
        return box["x"] + 12 + (beat - view["start"]) / (view["end"] - view["start"]) * plot

    def view(self, id: int = 1) -> dict:
        """The bars on view in this window."""
        mine = self.page.evaluate(f"JSON.parse(sessionStorage['velmot.view.{id}'] ?? 'null')") or self.kept.get(id)
        if mine:
            return mine
        said = self.server.json(f"sessions/{id}")
        return said["bench"]["view"] or said["opening"]

    def until_kept(self, holds: Callable[[dict], bool], id: int = 1) -> None:
        """Wait until the server keeps the bench so."""
        for _ in range(100):
            if holds(self.server.bench(id)):
                return
            self.page.wait_for_timeout(50)
        pytest.fail(f"kept otherwise: {self.server.bench(id)}")

    def foot_of(self, parameter: str, beat: float, id: int = 1) -> tuple[float, float]:
        """Where a region's name or a gap stands at the foot of a strip."""
        box = self.canvas_of(parameter).bounding_box()
        return self.x_of(parameter, beat, id), box["y"] + box["height"] - 8

    def pull_foot(self, parameter: str, beat: float, to: float) -> None:
        """Take a region by its name and hold it over another beat; the button stays down."""
        x, y = self.foot_of(parameter, beat)
        self.page.mouse.move(x, y)
        self.page.mouse.down()
        self.page.mouse.move(x + 40, y, steps=4)
        self.page.mouse.move(self.foot_of(parameter, to)[0], y, steps=4)

    def choose_nothing(self) -> None:
        """Let go of the range, the points and the regions."""
        self.canvas_of("bell.level").focus()
        self.page.keyboard.press("Escape")

    def drag_range(self, parameter: str, start: float, end: float, id: int = 1) -> None:
        y = self.canvas_of(parameter).bounding_box()["y"] + 30
        self.page.mouse.move(self.x_of(parameter, start, id) + 1, y)
        self.page.mouse.down()
        self.page.mouse.move(self.x_of(parameter, (start + end) / 2, id), y, steps=4)
        self.page.mouse.move(self.x_of(parameter, end, id) + 1, y, steps=4)
        self.page.mouse.up()

    def choose(self, label: str, option: str) -> None:
        """Open a chooser with the keyboard, type an option's words, and take the first that is found."""
        self.page.get_by_role("button", name=f"{label}: ").focus()
        self.page.keyboard.press("Enter")
        self.page.get_by_role("option").first.wait_for()
        self.page.keyboard.type(option)
        found = self.page.get_by_role("option", name=option).first
        expect(found).to_be_visible()
        self.page.wait_for_timeout(100)
        self.page.keyboard.press("Enter")
        expect(found).to_be_hidden()

    def choose_track(self, name: str) -> None:
        self.pick("Tracks to carry to", name)

    def pick(self, label: str, name: str) -> None:
        """Take one more into a list that several are picked from, by typing."""
        field = self.page.get_by_role("combobox", name=label)
        self.page.locator(".el-select", has=field).click()
        self.page.keyboard.type(name)
        self.page.get_by_role("option", name=name, exact=True).click()
        self.page.keyboard.press("Tab")

    def slow(self, milliseconds: int) -> None:
        """From now on every answer of the server takes so much longer."""
        wire = self.page.context.new_cdp_session(self.page)
        wire.send("Network.enable")
        any_speed = {"downloadThroughput": -1, "uploadThroughput": -1, "offline": False}
        wire.send("Network.emulateNetworkConditions", any_speed | {"latency": milliseconds})

    def until(self, expression: str) -> None:
        """Wait until a script's expression holds (the page's policy lets no eval do this)."""
        for _ in range(100):
            if self.page.evaluate(expression):
                return
            self.page.wait_for_timeout(50)
        raise AssertionError(f"never came true: {expression}")

    @property
    def result(self):
        return self.page.get_by_role("complementary", name="If applied")

    def apply(self, button: str = "Apply") -> None:
        self.result.get_by_role("button", name=button, exact=True).click()

    def at_revision(self, number: int) -> None:
        expect(self.page.locator(".rev")).to_have_text(f"revision {number}")


@pytest.fixture
def desk(page: Page, server: Server) -> Desk:
    return Desk(page, server)
