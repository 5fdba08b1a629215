"""Findings: what in a session is likely to surprise someone who listens, or is there for nothing. One module a kind, listed here."""

from __future__ import annotations

from collections.abc import Iterable

from velmot.core.findings import (
    dense,
    disagree,
    flat,
    gaps,
    late,
    loud,
    names,
    not_heard,
    pieces,
    same,
    silent,
    step,
    stuck,
    unplaced,
)
from velmot.core.findings.finding import Finding, Kind
from velmot.core.session.session import Session

KINDS: dict[str, Kind] = {
    kind.name: kind
    for kind in (
        *(
            not_heard.KIND,
            dense.KIND,
            gaps.KIND,
            flat.NOTHING,
            flat.FLAT,
            silent.KIND,
            pieces.KIND,
            step.KIND,
            late.KIND,
        ),
        *(stuck.KIND, loud.KIND, same.KIND, disagree.KIND, names.KIND, unplaced.KIND),
    )
}

__all__ = ["KINDS", "Finding", "Kind", "all_findings", "findings", "findings_of_lanes"]


def findings(session: Session, parameters: Iterable[str]) -> list[Finding]:
    """Everything that strips mark on some parameters, by parameter and kind."""
    kinds = [kind for kind in KINDS.values() if kind.on_strips and kind.look]
    return [finding for id in parameters for kind in kinds if kind.look for finding in kind.look(session, id)]


def findings_of_lanes(session: Session, parameters: Iterable[str]) -> dict[str, list[Finding]]:
    """Lane id → what is found of it, of those kinds that are about whole lanes."""
    found: dict[str, list[Finding]] = {}
    for id in parameters:
        for kind in KINDS.values():
            for finding in kind.look(session, id) if kind.of_lanes and kind.look else ():
                if finding.lane is not None:
                    found.setdefault(finding.lane, []).append(finding)
    return found


def all_findings(session: Session) -> list[Finding]:
    """Everything there is, kind by kind; of each kind in the order of the session's parameters."""
    parameters = [p.id for track in session.tracks for p in track.parameters]
    found = []
    for kind in KINDS.values():
        found += kind.look_all(session) if kind.look_all else []
        found += [one for id in parameters for one in (kind.look(session, id) if kind.look else ())]
    return found
