"""Recall sheets: the same words in every form, any name harmless, a PDF whose text is found, pages for hundreds of tracks."""

import re
from dataclasses import replace
from html import unescape
from html.parser import HTMLParser
from io import BytesIO

import pytest
from pypdf import PdfReader

from velmot.core.session.recall import recall_of
from velmot.core.session.session import Session
from velmot.paper.sheets import FORMS, blocks_of, written
from velmot.site.demo import skerry_light

DEMO = skerry_light.session()
NASTY = '<script>alert("x")</script> & שלום $\\frac{1}{2}$ **bold** \N{BELL}'


def text_of(data: bytes, form: str) -> str:
    """What somebody reads of a sheet, in one line."""
    if form == "pdf":
        said = "\n".join(page.extract_text() for page in PdfReader(BytesIO(data)).pages)
    elif form == "html":
        said = unescape(re.sub(r"<style>.*?</style>|<[^>]*>", " ", data.decode(), flags=re.S))
    else:
        said = data.decode()
    return " ".join(said.split())


@pytest.mark.parametrize("form", FORMS)
@pytest.mark.parametrize("full", [True, False])
def test_every_block_is_on_the_sheet_in_its_order(form, full):
    recall = recall_of(DEMO, full=full)
    said, at = text_of(written(recall, form), form), 0
    for _, words, more in blocks_of(recall):
        for part in filter(None, (words, more)):
            at = said.index(" ".join(part.split()), at) if form != "pdf" else at
            assert " ".join(part.split()) in said
    assert ("from −26.0 dB to −10.0 dB over 3.5 beats" in said) and ("and 10 more moves" in said) == (not full)


def renamed(session: Session, name: str) -> Session:
    tracks = [replace(t, name=name) if t.id == "bell" else t for t in session.tracks]
    return replace(session.with_tracks(tracks), name=name)


class Tags(HTMLParser):
    def __init__(self) -> None:
        super().__init__()
        self.found: set[str] = set()

    def handle_starttag(self, tag, attrs) -> None:
        self.found.add(tag)


def test_names_are_text_and_nothing_else():
    recall = recall_of(renamed(DEMO, NASTY), full=False)
    page = written(recall, "html").decode()
    tags = Tags()
    tags.feed(page)
    assert "script" not in tags.found and NASTY in unescape(page)
    assert NASTY in written(recall, "txt").decode()
    said = text_of(written(recall, "pdf"), "pdf")
    assert '<script>alert("x")</script> &' in said and "**bold**" in said and "\\frac{1}{2}" in said


def test_what_changed_comes_first_and_nothing_is_said_as_such():
    same = text_of(written(recall_of(DEMO, since=DEMO), "txt"), "txt")
    assert same.index("What changed Nothing changed.") < same.index("Markers and cues")
    louder = renamed(DEMO, "Buoy")
    assert "Buoy was called Bell buoy" in text_of(written(recall_of(louder, since=DEMO), "pdf"), "pdf")


def test_two_hundred_tracks_are_pages_with_their_number_and_no_head_alone_at_a_foot():
    bell = DEMO.track("gulls")
    tracks = [
        replace(bell, id=f"t{n}", name=f"Track {n}", parameters=(), devices=(), regions=(), members=())
        for n in range(200)
    ]
    many = replace(Session("Many", DEMO.length, tuple(tracks), ()), tempo=DEMO.tempo)
    pages = [page.extract_text() for page in PdfReader(BytesIO(written(recall_of(many), "pdf"))).pages]
    assert 8 < len(pages) < 30 and all(f"{n} / {len(pages)}" in text for n, text in enumerate(pages, 1))
    for n in range(200):
        assert sum(f"Track {n}\n" in text for text in pages) == 1
    for text in pages:
        last = [line for line in text.splitlines() if not re.search(r"\d+ / \d+|^Many$", line)][-1]
        assert not last.startswith("Track "), "its line is on the next page"
