"""`velmot findings` and `velmot tidy`: what is odd or idle in a file, and the file without what is there for nothing."""

from __future__ import annotations

import argparse
import re
from collections.abc import Iterator
from pathlib import Path
from typing import Any

from velmot.core.errors import RequestError
from velmot.core.findings import KINDS, Finding, all_findings, is_let_be
from velmot.core.session.session import Session
from velmot.core.session.wording import span_text
from velmot.core.tidy.clean_up import Cleaned
from velmot.core.time.ticks import beats_of
from velmot.core.verbs import verb_of
from velmot.core.verbs.thin.request import Within
from velmot.core.words import counted
from velmot.formats.requests import to_row

LISTED = 500
"""Findings of one kind that are listed; the rest are counted."""


def add_to(commands: Any) -> tuple[argparse.ArgumentParser, argparse.ArgumentParser]:
    """The two commands, with what they may be asked."""
    look = commands.add_parser("findings", help="say what is odd in a file, or there for nothing")
    look.add_argument("session", type=Path, help="a file")
    look.add_argument(
        "--sure", type=float, default=0.0, help="only what is at least so sure, 0 to 1; then 3 is the status"
    )
    look.add_argument("--kind", action="append", default=[], choices=[*KINDS], help="only this kind; may be said again")
    tidy = commands.add_parser("tidy", help="take out what is there for nothing; nothing is heard differently")
    tidy.add_argument("session", nargs="+", type=Path, help="a file; files, folders or patterns with --folder")
    tidy.add_argument("-o", "--output", type=Path, help="the file to write; without it, it is only said what would go")
    tidy.add_argument(
        "--within", action="append", default=[], metavar="BOUND", help='also thin, within a bound for a unit: "0.05 dB"'
    )
    return look, tidy


def found(session: Session, chosen: argparse.Namespace) -> list[Finding]:
    """What is looked for, the largest of each kind first."""
    kinds = chosen.kind or [*KINDS]
    wanted = [
        x for x in all_findings(session) if x.kind in kinds and x.sure >= chosen.sure and not is_let_be(session, x)
    ]
    return sorted(wanted, key=lambda one: (kinds.index(one.kind), -one.size, one.start))


def row_of(session: Session, one: Finding) -> dict[str, Any]:
    """A finding for a program to read; places in beats."""
    parameter = session.parameter(one.parameter) if one.parameter else None
    return {
        "kind": one.kind,
        "track": session.owner(one.parameter).id if one.parameter else one.track or None,
        "lane": one.lane,
        "start": beats_of(one.start),
        "end": beats_of(one.end),
        "words": one.words,
        "size": one.size,
        "unit": parameter.distance_unit if parameter else "",
        "sure": one.sure,
        "mend": None if one.mend is None else to_row(verb_of(one.mend), one.mend),
    }


def lines_of(session: Session, all_found: list[Finding]) -> Iterator[str]:
    """The same in words, kind by kind; of very many the first are said and the rest counted."""
    for kind in dict.fromkeys(one.kind for one in all_found):
        mine = [one for one in all_found if one.kind == kind]
        yield f"{KINDS[kind].called} ({len(mine):,})"
        for one in mine[:LISTED]:
            yield f"  {_about(session, one)}: {one.words}"
        if len(mine) > LISTED:
            yield f"  and {len(mine) - LISTED:,} more"


def _about(session: Session, one: Finding) -> str:
    name = one.name(session) or session.name
    return f"{name}, {span_text(session, one.start, one.end)}" if one.parameter else name


def bounds_of(texts: list[str]) -> tuple[Within, ...]:
    """The bounds that were typed, a number and its unit each."""
    bounds = []
    for text in texts:
        match = re.fullmatch(r"\s*(\d+\.?\d*|\.\d+)\s*(.*?)\s*", text)
        if not match or float(match[1]) <= 0:
            raise RequestError(
                "bound", text=text, place="--within", accepted='a number above 0 and its unit: "0.05 dB"'
            )
        bounds.append(Within(match[2], float(match[1])))
    return tuple(bounds)


def report_of(session: Session, after: Cleaned) -> Iterator[str]:
    """What went, lane by lane, and what that comes to."""
    for one in after.done:
        yield f"  {_about(session, one)}: {one.words}"
    lanes = len(session.lanes) - len(after.session.lanes)
    before, left = (sum(len(x.envelope) for x in state.lanes) for state in (session, after.session))
    yield f"{counted(lanes, 'lane')} gone, {before:,} → {counted(left, 'point')}"
