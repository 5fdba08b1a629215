"""Findings as strips draw them and lists show them; one shape for every kind."""

from __future__ import annotations

from collections.abc import Iterable

from pydantic import BaseModel, Field

from velmot.core.findings import findings
from velmot.core.session.session import Session
from velmot.core.time.ticks import beats_of
from velmot.presentation.requests import AnyRequest, request_out


class FindingOut(BaseModel):
    """Something that is likely to surprise someone who listens."""

    kind: str
    parameter: str
    lane: str | None = Field(description="The lane it is about; none where it is about what is heard in its span.")
    start: float
    end: float
    words: str
    size: str = Field(description="How large it is, in words; empty where that says nothing.")
    sure: float = Field(description="How likely it is a mistake, 0 to 1.")
    mend: AnyRequest | None = Field(description="The request that would mend it, ready for a preview.")


def findings_out(session: Session, parameters: Iterable[str]) -> list[FindingOut]:
    """Everything found on some parameters."""
    return [
        FindingOut(
            kind=f.kind,
            parameter=f.parameter,
            lane=f.lane,
            start=beats_of(f.start),
            end=beats_of(f.end),
            words=f.words,
            size=session.parameter(f.parameter).format_distance(f.size) if f.size else "",
            sure=f.sure,
            mend=request_out(f.mend),
        )
        for f in findings(session, parameters)
    ]
