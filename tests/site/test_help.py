"""The docs as a site: built without a warning, every link and picture there, nothing from elsewhere, served as Help."""

import re
from html.parser import HTMLParser
from pathlib import Path
from urllib.parse import unquote, urlsplit

import numpy as np
import pytest
from django.test import Client

from tests import docs_site, drawings
from velmot.core.verbs import OPERATIONS

EXEMPT = ("https://spdx.org", "https://json-schema.org")


@pytest.fixture(scope="module")
def built(tmp_path_factory) -> Path:
    if not docs_site.FONTS.exists():
        pytest.skip("the typefaces come with the page's packages")
    into = tmp_path_factory.mktemp("help")
    assert docs_site.main(into) == 0
    return into


class Page(HTMLParser):
    """What a page leads to, loads, and can be led to."""

    def __init__(self, text: str) -> None:
        super().__init__()
        self.links: list[str] = []
        self.loads: list[str] = []
        self.anchors: set[str] = set()
        self.feed(text)

    def handle_starttag(self, tag, attrs) -> None:
        said = dict(attrs)
        if "id" in said:
            self.anchors.add(said["id"])
        if tag == "a" and said.get("href"):
            self.links.append(said["href"])
        if tag in ("img", "script", "link"):
            self.loads.append(said.get("src") or said.get("href"))


def test_every_link_and_picture_is_there_and_nothing_comes_from_elsewhere(built):
    pages = {path: Page(path.read_text()) for path in built.rglob("*.html")}
    assert len(pages) > 45
    for path, page in pages.items():
        for said in page.loads:
            assert (path.parent / unquote(said)).exists(), f"{path.name}: {said}"
        for said in page.links:
            parts = urlsplit(said)
            if parts.scheme:
                continue
            target = (path.parent / unquote(parts.path)).resolve() if parts.path else path
            target = target / "index.html" if target.is_dir() else target
            assert target.exists(), f"{path.name}: {said}"
            if parts.fragment and target.suffix == ".html":
                assert unquote(parts.fragment) in pages[target].anchors, f"{path.name}: {said}"


@pytest.mark.parametrize("name", drawings.DRAWINGS)
def test_drawings_are_what_the_cores_formulas_draw(name):
    kept, made = (
        (re.findall(rb"(?<![#\w])-?\d+\.\d+", x))
        for x in ((drawings.FOLDER / f"{name}.svg").read_bytes(), drawings.drawn(name))
    )
    assert len(kept) == len(made) > 300, "python -m tests.drawings"
    assert np.allclose([float(x) for x in kept], [float(x) for x in made], rtol=0, atol=0.05)


def test_every_verb_has_its_place_where_a_refusal_leads(built):
    anchors = Page((built / "verbs.html").read_text()).anchors
    assert {verb.replace(" ", "-") for verb in OPERATIONS} <= anchors


def test_help_is_served_from_its_folder_alone(built, monkeypatch, db):
    monkeypatch.setattr("velmot.site.urls.HELP", built)
    client = Client()
    assert client.get("/help/")["Location"] == "/help/index.html"
    answer = client.get("/help/tasks/pan-in.html")
    assert answer.status_code == 200 and "default-src 'none'" in answer["Content-Security-Policy"]
    assert b"Bring a pan in" in b"".join(answer)
    (built.parent / "secret.txt").write_text("secret")
    for path in ("../secret.txt", "%2e%2e/secret.txt", "..%2fsecret.txt", "/etc/passwd", "nowhere.html"):
        assert client.get(f"/help/{path}").status_code == 404
    assert b'name="velmot-help" content="/help/"' in client.get("/").content
    monkeypatch.setattr("velmot.site.urls.HELP", built / "none")
    assert client.get("/help/index.html").status_code == 404 and b"velmot-help" not in client.get("/").content
