"""What lists show of a phrase: its outline in a few columns, its points, and what it was made for."""

from __future__ import annotations

from dataclasses import dataclass

from velmot.core.outline import columns_between, outline
from velmot.core.phrases import Phrase

COLUMNS = 48


@dataclass(frozen=True)
class PhraseSummary:
    """`lows` and `highs` are 0 to 100 of the span it was made for; `shape` is the kind of its recipe, if it has one."""

    lows: list[int]
    highs: list[int]
    points: int
    made_for: str
    shape: str


def summary_of_phrase(phrase: Phrase) -> PhraseSummary:
    """A phrase in short."""
    edges = columns_between(0, phrase.length, min(COLUMNS, phrase.length))
    curve = phrase.piece.envelope
    low, high = phrase.ends
    lows, highs = (
        [round(min(max((y - low) / (high - low), 0), 1) * 100) for y in curve.axis.coordinate(side).tolist()]
        for side in outline(curve, edges)
    )
    return PhraseSummary(lows, highs, len(curve), _made_for(phrase), phrase.shape.kind if phrase.shape else "")


def _made_for(phrase: Phrase) -> str:
    if phrase.shape is not None or (phrase.unit, phrase.low, phrase.high) == ("", 0, 1):
        return "any depth"
    return f"{phrase.source.format(phrase.low)} to {phrase.source.format(phrase.high)}"
