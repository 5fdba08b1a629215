"""Recall sheets as plain text, as a page of HTML, or as a PDF: one row of blocks, three ways of setting them."""

from __future__ import annotations

from collections.abc import Iterator
from html import escape
from typing import Literal

from fpdf import FPDF

from velmot.core.session.recall import Recall, TrackRecall
from velmot.core.words import counted
from velmot.paper.typefaces import BOLD, PLAIN

Form = Literal["txt", "html", "pdf"]
FORMS: tuple[Form, ...] = ("txt", "html", "pdf")
MEDIA: dict[Form, str] = {
    "txt": "text/plain; charset=utf-8",
    "html": "text/html; charset=utf-8",
    "pdf": "application/pdf",
}

Kind = Literal["title", "track", "part", "line", "pair", "cue"]
Block = tuple[Kind, str, str]
"""What it is, and its words; a pair has two of them."""


def written(recall: Recall, form: Form) -> bytes:
    """The sheet in a form."""
    blocks = list(blocks_of(recall))
    if form == "pdf":
        return _pdf(recall.title, blocks)
    return (_html(recall.title, blocks) if form == "html" else _text(blocks)).encode()


def blocks_of(recall: Recall) -> Iterator[Block]:
    """A sheet, block by block."""
    yield "title", recall.title, ""
    for line in recall.lines:
        yield "line", line, ""
    if recall.changed is not None:
        yield "part", "What changed", ""
        for line in recall.changed or ("Nothing changed.",):
            yield "cue", line, ""
    if recall.cues:
        yield "part", "Markers and cues", ""
        for line in recall.cues:
            yield "cue", line, ""
    for track in recall.tracks:
        yield from _track(track)


def _track(track: TrackRecall) -> Iterator[Block]:
    yield "track", track.name, track.what
    for words, names in (("In the groups", track.groups), ("In it", track.members)):
        if names:
            yield "pair", words, ", ".join(names)
    for words, pairs in (("At rest", track.rest), ("Sends", track.sends), *track.devices):
        if pairs:
            yield "part", words, ""
            for name, value in pairs:
                yield "pair", name, value
    if track.regions:
        yield "part", "Regions", ""
        for line in track.regions:
            yield "cue", line, ""
    for lane in track.lanes:
        yield "part", " ".join(filter(None, (lane.name, lane.where))), ""
        for line in lane.cues or ("stands still",):
            yield "cue", line, ""
        if lane.more:
            yield "cue", f"and {counted(lane.more, 'more move')}", ""


def _text(blocks: list[Block]) -> str:
    out: list[str] = []
    for kind, words, more in blocks:
        if kind == "title":
            out += [words, "=" * len(words)]
        elif kind == "track":
            head = f"{words} ({more})"
            out += ["", "", head, "-" * len(head)]
        elif kind == "part":
            out += ["", words]
        else:
            out.append(f"  {words}: {more}" if kind == "pair" else f"  {words}" if kind == "cue" else words)
    return "\n".join(out) + "\n"


_STYLE = """body { font: 14px/1.45 sans-serif; color: #1b2430; background: #fffdf7; max-width: 46em; margin: 2em auto; }
h1 { font-size: 1.6em; } h2 { margin: 1.6em 0 0.2em; border-top: 2px solid #1b2430; padding-top: 0.4em; break-after: avoid; }
h3 { margin: 0.9em 0 0.1em; font-size: 1em; break-after: avoid; } small, td:first-child { color: #6b6455; }
p, ul { margin: 0.1em 0; } ul { padding-left: 1.1em; } td { padding: 0 1em 0 0; }
@page { margin: 16mm; }"""


def _html(title: str, blocks: list[Block]) -> str:
    out, inside = [], ""
    tags = {"pair": "table", "cue": "ul"}
    for kind, words, more in blocks:
        wanted = tags.get(kind, "")
        if wanted != inside:
            out += [f"</{inside}>"] * bool(inside) + [f"<{wanted}>"] * bool(wanted)
            inside = wanted
        one, other = escape(words), escape(more)
        out.append(
            {
                "title": f"<h1>{one}</h1>",
                "track": f"<h2>{one} <small>{other}</small></h2>",
                "part": f"<h3>{one}</h3>",
                "line": f"<p>{one}</p>",
                "pair": f"<tr><td>{one}</td><td>{other}</td></tr>",
                "cue": f"<li>{one}</li>",
            }[kind]
        )
    out += [f"</{inside}>"] * bool(inside)
    head = f'<!doctype html>\n<html lang="en"><head><meta charset="utf-8"><title>{escape(title)}</title><style>{_STYLE}</style></head>'
    return f"{head}<body>\n" + "\n".join(out) + "\n</body></html>\n"


INK, SOFT, FULL = (27, 36, 48), (107, 100, 85), 182
_SHORT = 120  # letters


class _Pages(FPDF):
    """A4 pages with the session's name and their number at the foot."""

    def __init__(self, title: str) -> None:
        super().__init__(format="A4")
        self.called = title
        self.add_font("sheet", fname=str(PLAIN))
        self.add_font("sheet", "B", fname=str(BOLD))
        self.set_title(title)
        self.set_margins(14, 14, 14)
        self.set_auto_page_break(True, 16)
        self.add_page()

    def footer(self) -> None:
        self.set_y(-12)
        self.set_font("sheet", size=8)
        self.set_text_color(*SOFT)
        self.cell(FULL / 2, 5, self.called[:80])
        self.cell(FULL / 2, 5, f"{self.page_no()} / {{nb}}", align="R")

    def put(
        self, words: str, size: float, bold: bool = False, colour: tuple[int, int, int] = INK, indent: float = 0
    ) -> None:
        self.set_font("sheet", "B" if bold else "", size)
        self.set_text_color(*colour)
        self.set_x(14 + indent)
        fits = len(words) < _SHORT and self.get_string_width(words) < FULL - indent - 2
        put = self.cell if fits else self.multi_cell  # a line that needs no breaking takes a tenth of the time
        put(FULL - indent, size * 0.5, words, new_x="LMARGIN", new_y="NEXT", align="L")


def _pdf(title: str, blocks: list[Block]) -> bytes:
    pages = _Pages(title)
    for kind, words, more in blocks:
        if kind in ("track", "part") and pages.will_page_break(18 if kind == "track" else 12):
            pages.add_page()  # a head is not left alone at the foot
        if kind == "title":
            pages.put(words, 18, bold=True)
            pages.ln(2)
        elif kind == "track":
            pages.ln(4)
            pages.put(words, 13, bold=True)
            pages.put(more, 8, colour=SOFT)
        elif kind == "part":
            pages.ln(1)
            pages.put(words, 9, bold=True)
        elif kind == "pair":
            pages.put(f"{words}: {more}", 9, indent=4)
        else:
            pages.put(words, 9, indent=4 if kind == "cue" else 0)
    return bytes(pages.output())
