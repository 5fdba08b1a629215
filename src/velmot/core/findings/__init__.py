"""Findings: what in a session is likely to surprise someone who listens. One module a kind, listed here."""

from __future__ import annotations

from collections.abc import Iterable

from velmot.core.findings import dense, gaps, not_heard
from velmot.core.findings.finding import Finding, Kind
from velmot.core.session.session import Session

KINDS: dict[str, Kind] = {module.KIND.name: module.KIND for module in (not_heard, dense, gaps)}

__all__ = ["KINDS", "Finding", "Kind", "findings", "findings_of_lanes"]


def findings(session: Session, parameters: Iterable[str]) -> list[Finding]:
    """Everything that is found on some parameters, of every kind, by parameter and kind."""
    return [finding for id in parameters for kind in KINDS.values() for finding in kind.look(session, id)]


def findings_of_lanes(session: Session, parameters: Iterable[str]) -> dict[str, list[Finding]]:
    """Lane id → what is found of it, of those kinds that are about whole lanes."""
    found: dict[str, list[Finding]] = {}
    for id in parameters:
        for kind in KINDS.values():
            for finding in kind.look(session, id) if kind.of_lanes else ():
                if finding.lane is not None:
                    found.setdefault(finding.lane, []).append(finding)
    return found
