"""Mend: what was ticked among the findings, all in one step."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import fields, replace
from typing import Any

from velmot.core import findings
from velmot.core.errors import RequestError
from velmot.core.findings.finding import Finding
from velmot.core.progress import come, part, stopped
from velmot.core.session.session import Session
from velmot.core.session.wording import listed
from velmot.core.tidy.request import Found, Mend
from velmot.core.tidy.several import Several
from velmot.core.tidy.ticked import Search, all_of, said
from velmot.core.verbs.frame import telling as tell
from velmot.core.verbs.frame.change import Change, caution
from velmot.core.verbs.frame.checks import need
from velmot.core.verbs.frame.operation import Operation
from velmot.core.verbs.frame.sounding import Sounding

ORDER = (
    *("stale", "not heard", "disagree", "unplaced", "nothing", "flat", "late", "open", "step", "loud", "gap"),
    *("stairs", "pieces", "dense", "copies", "same", "figure"),
)
"""Kinds in the order in which they are mended: what is heard at all, what goes, where values change (gaps last, which hold
what comes before them), and only then points are thinned and curves linked, which nothing after it writes on.
"""


def plan(session: Session, request: Mend, sounding: Sounding | None = None) -> Change:
    """All mends, one after the other; what an earlier one saw to is said, as is what could not be mended after all."""
    need(request.found, "finding", place="found")
    todo = all_of(session, request.found)
    for n, (_, finding) in enumerate(todo):
        if finding.mend is None:
            called = findings.KINDS[finding.kind].called
            raise RequestError(
                "mend-none", words=finding.words, place=f"found[{n}]", accepted=f"others than “{called}”"
            )
    several, moot, failed, done = Several(session, sounding), 0, [], 0
    for kind in ORDER:
        left = [one for one, finding in todo if finding.kind == kind]
        while left:
            with part(done / len(todo), 1.0):
                come(0.0)
            together = _next(several.now, left)
            left = [one for one in left if one not in together]
            done += len(together)
            there = [finding for finding in together.values() if finding is not None]
            moot += len(together) - len(there)
            if there and there[0].mend is None:
                failed.append(there[0].words)
            elif there:
                with part((done - len(there)) / len(todo), done / len(todo)):
                    failed += _taken(several, _merged(there))
    return several.change(_said(moot, failed))


def _taken(several: Several, request: Any) -> list[str]:
    """Take a step; in words why it could not be taken. Who wants to stop stops."""
    try:
        several.take(request)
    except RequestError as error:
        if error.kind == stopped().kind:
            raise
        return [error.message]
    return []


def _next(session: Session, left: list[Found]) -> dict[Found, Finding | None]:
    """The next to be mended, as it is found by now (None: no more), with all whose mends ask the same of other lanes."""
    search = Search(session)
    first = search.get(left[0])
    if first is None or first.mend is None or not _of_lanes(first.mend):
        return {left[0]: first}
    found = {one: search.get(one) for one in left}
    return {one: now for one, now in found.items() if now is None or _alike(now.mend, first.mend)}


def _of_lanes(mend: Any) -> bool:
    return any(f.name == "lanes" for f in fields(mend))


def _alike(one: Any, other: Any) -> bool:
    """Whether two mends ask the same, but for their lanes."""
    return type(one) is type(other) and replace(one, lanes=()) == replace(other, lanes=())


def _merged(found: list[Finding]) -> Any:
    """One request for several findings."""
    first = found[0].mend
    if len(found) == 1:
        return first
    return replace(first, lanes=tuple(dict.fromkeys(lane for one in found for lane in one.mend.lanes)))


def _said(moot: int, failed: list[str]) -> Iterator[Any]:
    if moot:
        yield caution("moot", count=moot)
    if failed:
        yield caution("not-mended", count=len(failed), why=listed(list(dict.fromkeys(failed)), "reason"))


def sentence(session: Session, request: Mend) -> tell.Told:
    """“Mend 3 findings.”"""
    return tell.told(
        "Mend {found}.", found=said(session, request.found) if request.found else tell.Asked("tick what to mend")
    )


OPERATION = Operation("mend", Mend, plan, sentence, "linking", of_places=True, of_sound=True)
