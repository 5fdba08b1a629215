"""What the first strips of a bench show, sent along with its session so that the screen can draw them at once."""

from __future__ import annotations

from pydantic import BaseModel, Field

from velmot.core.session.opening import opening_of
from velmot.core.session.session import Session
from velmot.core.time.ticks import beats_of
from velmot.presentation.benches import Bench, Window
from velmot.presentation.curves import Curve, View, lane_curve
from velmot.presentation.findings import FindingOut, findings_out

MOST = 16
"""Strips that can be in sight at first, or nearly so."""
WIDTH = 1400
"""Pixels that the bars on view are taken to fill; a screen of 600 to 2,200 draws the same curves as well."""
BESIDE = 1.0
"""Windows that are sent on both sides of the one on view."""


class OpeningOut(BaseModel):
    """Where a session opens: the parameters to show first, and the span of beats."""

    parameters: list[str]
    start: float
    end: float


class FirstStrips(BaseModel):
    """Curves and findings of the first strips; a strip shows its own lanes and those of parameters that share it."""

    start: float
    end: float
    columns: int
    detail: float = Field(description="Pixels a beat that the curves are drawn for.")
    curves: list[Curve]
    parameters: list[str] = Field(description="The strips whose findings these are.")
    findings: list[FindingOut]


def first_strips(session: Session, bench: Bench, opening: OpeningOut) -> FirstStrips:
    """As the bench was left; as the session opens where it never was."""
    start, span = _within(session, opening if bench.view is None else bench.view)
    pins = opening.parameters if bench.pins is None else bench.pins
    known = {p.id for track in session.tracks for p in track.parameters}
    strips = [p for p in pins if p in known][:MOST]
    drawn = dict.fromkeys(p for strip in strips for p in (strip, *(bench.shares or {}).get(strip, ())) if p in known)
    columns = int(WIDTH * (1 + 2 * BESIDE) / 2)
    view = View(start=start - span * BESIDE, end=start + span * (1 + BESIDE), columns=columns)
    return FirstStrips(
        start=view.start,
        end=view.end,
        columns=columns,
        detail=WIDTH / span,
        curves=[lane_curve(session, lane, view) for parameter in drawn for lane in session.lanes_of(parameter)],
        parameters=strips,
        findings=findings_out(session, strips),
    )


def opening_out(session: Session) -> OpeningOut:
    """Where a session opens that was never looked at."""
    found = opening_of(session)
    return OpeningOut(parameters=[*found.parameters], start=beats_of(found.start), end=beats_of(found.end))


def _within(session: Session, window: OpeningOut | Window) -> tuple[float, float]:
    """Start and length of a window, inside the session; what was kept of a bench may be of a longer one, or nonsense."""
    length = max(beats_of(session.length), 1.0)
    return min(max(window.start, 0.0), length), min(max(window.end - window.start, 1.0), length)
