"""What lists show of a phrase: its outline in a few columns, its points, and what it was made for."""

from __future__ import annotations

from dataclasses import dataclass

from velmot.core.curves.editing import Fragment
from velmot.core.curves.outline import columns_between, outline
from velmot.core.curves.shapes import Shape
from velmot.core.parameters.parameter import Parameter

COLUMNS = 48


@dataclass(frozen=True)
class PhraseSummary:
    """`lows` and `highs` are 0 to 100 of the span it was made for; `shape` is the kind of its recipe, if it has one."""

    lows: list[int]
    highs: list[int]
    points: int
    made_for: str
    shape: str


def summarised(piece: Fragment, made_for: Parameter, shape: Shape | None) -> PhraseSummary:
    """A phrase in short: what it does, the parameter it would be a lane of, and its recipe."""
    edges = columns_between(0, piece.length, min(COLUMNS, piece.length))
    curve, (low, _) = piece.envelope, made_for.reach
    lows, highs = (
        [round(min(max((y - low) / made_for.span, 0), 1) * 100) for y in curve.axis.coordinate(side).tolist()]
        for side in outline(curve, edges)
    )
    return PhraseSummary(lows, highs, len(curve), _in_words(made_for, shape), shape.kind if shape else "")


def _in_words(made_for: Parameter, shape: Shape | None) -> str:
    if shape is not None or (made_for.unit, made_for.low, made_for.high) == ("", 0, 1):
        return "any depth"
    return f"{made_for.format(made_for.low)} to {made_for.format(made_for.high)}"
