"""Findings: what in a session is likely to surprise someone who listens, or is there for nothing. One module a kind."""

from velmot.core.findings.finding import Finding, Kind, Known
from velmot.core.findings.kinds import KINDS
from velmot.core.findings.looking import Looked, all_findings, findings, findings_of_lanes, is_let_be

__all__ = [
    "KINDS",
    "Finding",
    "Kind",
    "Known",
    "Looked",
    "all_findings",
    "findings",
    "findings_of_lanes",
    "is_let_be",
]
