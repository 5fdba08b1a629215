"""Going back: what was written on a place, as its phrase would have to say it, by the way it is drawn there run backwards.

Only what was written goes back: elsewhere the phrase keeps its own points, as they are.
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import replace
from typing import NamedTuple

import numpy as np

from velmot.core.curves import editing
from velmot.core.curves.axes import SILENCE
from velmot.core.curves.difference import SAME, differing_runs
from velmot.core.curves.editing import Fragment, Piece
from velmot.core.curves.envelope import Envelope, Side
from velmot.core.curves.warps import backwards, stretched, turned
from velmot.core.parameters.parameter import Parameter
from velmot.core.session.phrases import Phrase, Placement, drawn
from velmot.core.time.ticks import Flags, Ticks

_MOST_OCTAVES = 1000.0
"""Coordinates beyond this are no value on a logarithmic axis."""


class Edit(NamedTuple):
    """What a phrase would say over ``[start, end)`` of its own time; the curve counts from the phrase's start."""

    start: int
    end: int
    curve: Envelope


def way_back(phrase: Phrase, placement: Placement, parameter: Parameter, written: Fragment) -> tuple[Edit, ...] | str:
    """What of a placement was written, as edits of its phrase; or in words why it cannot go back."""
    if parameter.holds_only and not (placement.scale == 1 and placement.offset == 0 and _steps(phrase)):
        return f"{parameter.name} has named values, which stand for many in {phrase.name}"
    if abs(placement.scale) < SAME:
        return f"{phrase.name} has no depth on {parameter.name}"
    if len(stretched(phrase.piece, placement.length).envelope) < len(phrase.piece.envelope):
        return f"{phrase.name} is so short on {parameter.name} that points fall together"
    made = drawn(phrase, placement, parameter)
    if made.limited:
        return f"{phrase.name} is limited on {parameter.name}: what was cut off would be lost"
    there, wrote = (_unwarped(phrase, placement, x) for x in (made.fragment, written))
    there, wrote = (_beside_silence(phrase, placement, x) for x in (there, wrote))
    before, after = (_unmapped(phrase, placement, x) for x in (there, wrote))
    if after is None or before is None:
        return _beyond(phrase)
    least = SAME / max(1.0, abs(placement.scale)) / 2  # as fine as a difference on the lane is
    runs = [(run.start, run.end) for run in differing_runs(before, after, 0, phrase.length, least)]
    silent = _silence_that_stays(phrase, before, after)
    asked = silent | wrote.axis.silent(wrote.values) | ~_within(after.ticks, runs)
    if (after.axis.silent(after.values) & ~asked).any():
        return _beyond(phrase)
    if silent.any():
        after = after.with_points(after.ticks, np.where(silent, SILENCE, after.values), after.bends)
    return tuple(Edit(a, b, after) for a, b in runs)


def _beyond(phrase: Phrase) -> str:
    return f"{phrase.name} cannot say this: it would leave what its values can be"


def edited(phrase: Phrase, edits: Sequence[Edit]) -> Phrase:
    """The phrase with edits laid over it; a shape becomes points. Its low and high follow.

    RequestError where it would reach too far.
    """
    curve = phrase.piece.envelope
    for edit in edits:
        curve = editing.overlaid(curve, [Piece(edit.start, edit.end, edit.curve)])
    curve = editing.cut(curve, 0, phrase.length).envelope
    low, high = _made_for(phrase, curve)
    return replace(phrase, curve=curve, shape=None, low=low, high=high).checked("phrase")


def _steps(phrase: Phrase) -> bool:
    """Whether a phrase only holds and jumps."""
    curve = phrase.piece.envelope
    still = curve.still_after[:-1] | (curve.ticks[1:] == curve.ticks[:-1])
    return bool(still.all())


def _unwarped(phrase: Phrase, placement: Placement, piece: Fragment) -> Envelope:
    """What stands in a placement's span, in the phrase's own time."""
    piece = turned(piece, -placement.turn)
    if placement.backwards:
        piece = backwards(piece)
    return stretched(piece, phrase.length).envelope


def _beside_silence(phrase: Phrase, placement: Placement, curve: Envelope) -> Envelope:
    """With points on either side of the steps from silence and to it, as those alone are not moved by their number."""
    moved = (placement.scale, placement.offset) != (1.0, 0.0)
    return curve.apart_from_silence() if moved and _knows_silence(phrase, placement, curve) else curve


def _knows_silence(phrase: Phrase, placement: Placement, curve: Envelope) -> bool:
    """Whether silence on a lane is silence in its phrase, and not the number that is read as low as that."""
    if phrase.axis.floor is None or curve.axis.floor is None:
        return False
    if phrase.axis.silent(phrase.piece.envelope.values).any():
        return True
    low, high = phrase.ends
    return not low - SAME <= (curve.axis.floor - placement.offset) / placement.scale <= high + SAME


def _unmapped(phrase: Phrase, placement: Placement, curve: Envelope) -> Envelope | None:
    """The same on the phrase's axis; None where that has no such value."""
    y = (curve.coordinates - placement.offset) / placement.scale
    if phrase.axis.logarithmic and np.abs(y).max() > _MOST_OCTAVES:
        return None
    values = phrase.axis.value_of(y)
    if _knows_silence(phrase, placement, curve):
        values = np.where(curve.axis.silent(curve.values), SILENCE, values)
    return Envelope(curve.ticks, values, curve.bends, phrase.axis)


def _within(ticks: Ticks, runs: Sequence[tuple[int, int]]) -> Flags:
    """Which ticks lie in some of the runs, ends included."""
    inside = np.zeros(len(ticks), dtype=bool)
    for a, b in runs:
        inside |= (ticks >= a) & (ticks <= b)
    return inside


def _silence_that_stays(phrase: Phrase, before: Envelope, after: Envelope) -> Flags:
    """Which points stand where the phrase is silent and nothing was written: another axis has a number for that."""
    stays = np.zeros(len(after), dtype=bool)
    if phrase.axis.floor is None:
        return stays
    own = phrase.piece.envelope
    sides: tuple[Side, ...] = ("right", "left")
    for side in sides:
        was, now, says = (x.at(after.ticks, side) for x in (before, after, own))
        stays |= (np.abs(was - now) <= SAME) & (np.abs(after.values - now) <= SAME) & phrase.axis.silent(says)
    return stays


def _made_for(phrase: Phrase, curve: Envelope) -> tuple[float, float]:
    """The values a phrase was made for once it is another curve: what it reaches, if they were that, else no less than that."""
    was, now = (_reached(x) for x in (phrase.piece.envelope, curve))
    if was == (phrase.low, phrase.high) and now[0] < now[1] and phrase.shape is None:
        return now
    return min(phrase.low, now[0]), max(phrase.high, now[1])


def _reached(curve: Envelope) -> tuple[float, float]:
    curve = curve.only_heard()
    return float(curve.values.min()), float(curve.values.max())
