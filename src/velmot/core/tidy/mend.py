"""Mend: what was ticked among the findings, all in one step."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import fields, replace
from typing import Any

from velmot.core import findings
from velmot.core.errors import RequestError
from velmot.core.findings.finding import Finding
from velmot.core.session.session import Session
from velmot.core.session.wording import listed
from velmot.core.tidy.request import Found, Mend
from velmot.core.tidy.several import Several
from velmot.core.tidy.ticked import Search, all_of, said
from velmot.core.verbs.frame import telling as tell
from velmot.core.verbs.frame.change import Change, caution
from velmot.core.verbs.frame.checks import need
from velmot.core.verbs.frame.operation import Operation

ORDER = (
    *("not heard", "disagree", "unplaced", "nothing", "flat", "late", "gap", "open", "step", "loud"),
    *("stairs", "pieces", "dense", "copies", "same", "figure"),
)
"""Kinds in the order in which they are mended: what is heard at all, what goes, where values change, and only then points are
thinned and curves linked, which nothing after it writes on.
"""


def plan(session: Session, request: Mend) -> Change:
    """All mends, one after the other; what an earlier one saw to is said, as is what could not be mended after all."""
    need(request.found, "finding", place="found")
    todo = all_of(session, request.found)
    for n, (_, finding) in enumerate(todo):
        if finding.mend is None:
            called = findings.KINDS[finding.kind].called
            raise RequestError(
                "mend-none", words=finding.words, place=f"found[{n}]", accepted=f"others than “{called}”"
            )
    several, moot, failed = Several(session), 0, []
    for kind in ORDER:
        left = [one for one, finding in todo if finding.kind == kind]
        while left:
            search = Search(several.now)
            there = [(one, now) for one in left if (now := search.get(one)) is not None]
            moot += len(left) - len(there)
            together = _together(there)
            left = [one for one, _ in there if one not in together]
            if not together:
                break
            request_of_all = _merged([finding for one, finding in there if one in together])
            try:
                several.take(request_of_all)
            except RequestError as error:
                failed.append(error.message)
    return several.change(_said(moot, failed))


def _together(there: list[tuple[Found, Finding]]) -> set[Found]:
    """The first, and those whose mends ask the same of other lanes: one request does them all."""
    return {one for one, finding in there if _alike(finding.mend, there[0][1].mend)}


def _alike(one: Any, other: Any) -> bool:
    if one is other:
        return True
    able = type(one) is type(other) and any(f.name == "lanes" for f in fields(one))
    return able and replace(one, lanes=()) == replace(other, lanes=())


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


OPERATION = Operation("mend", Mend, plan, sentence, "linking", of_places=True)
