"""Ticked: findings as a request names them, found again in the session."""

from __future__ import annotations

from collections.abc import Iterable

from velmot.core import findings
from velmot.core.errors import RequestError
from velmot.core.findings.finding import Finding, Known
from velmot.core.session.session import Session
from velmot.core.tidy.request import Found
from velmot.core.words import counted


class Search:
    """Findings of one session, looked for only where they are asked for, each place once."""

    def __init__(self, session: Session) -> None:
        self.session = session
        self._seen: dict[tuple[str, str], dict[Known, Finding]] = {}

    def get(self, one: Found) -> Finding | None:
        """The finding, if it is there."""
        kind = findings.KINDS.get(one.kind)
        if kind is None:
            return None
        where = "" if kind.look_all else self._parameter(one.of)
        if where is None:
            return None
        key = (one.kind, where)
        if key not in self._seen:
            made = kind.look_all(self.session) if kind.look_all else kind.look(self.session, where) if kind.look else []
            self._seen[key] = {finding.known_as(self.session): finding for finding in made}
        return self._seen[key].get(Known(one.kind, one.of, one.at))

    def _parameter(self, id: str) -> str | None:
        lane = next((x for x in self.session.lanes if x.id == id), None)
        if lane is not None:
            return lane.parameter
        return id if any(p.id == id for track in self.session.tracks for p in track.parameters) else None


def all_of(session: Session, found: Iterable[Found]) -> list[tuple[Found, Finding]]:
    """What is asked for, each once; RequestError for what is not there."""
    search = Search(session)
    out = []
    for n, one in enumerate(dict.fromkeys(found)):
        finding = search.get(one)
        if finding is None:
            called = findings.KINDS[one.kind].called if one.kind in findings.KINDS else one.kind
            raise RequestError(
                "finding-gone", called=called, of=one.of, place=f"found[{n}]", accepted="what is found now"
            )
        out.append((one, finding))
    return out


def said(session: Session, found: Iterable[Found]) -> str:
    """How many findings, of what kind where it is one."""
    kinds = [one.kind for one in dict.fromkeys(found)]
    if len(set(kinds)) == 1 and kinds[0] in findings.KINDS:
        return f"{counted(len(kinds), 'finding')} ({findings.KINDS[kinds[0]].called})"
    return counted(len(kinds), "finding")
