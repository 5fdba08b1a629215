"""Phrases and placements: curves kept under a name, the places they live in, and what is drawn there.

A phrase is a curve of its own from 0 to its length, or the recipe of one (`core/curves/shapes.py`). A placement is one appearance
of it on a lane: a span, one straight line between the two axes, run backwards or not, turned within its length. What a
placement says inside its span is worked out from its phrase (`drawn`); what is written there goes back into the phrase by
the same way (`core/session/going_back.py`). All placements of one phrase are linked.
"""

from __future__ import annotations

from collections.abc import Iterable, Iterator
from dataclasses import dataclass
from functools import cached_property
from itertools import pairwise
from typing import NamedTuple

import numpy as np

from velmot.core.curves import editing, shapes
from velmot.core.curves.axes import Axis
from velmot.core.curves.difference import differing_span
from velmot.core.curves.editing import Fragment
from velmot.core.curves.envelope import SAME, Envelope
from velmot.core.curves.shapes import Shape
from velmot.core.curves.warps import backwards, stretched, turned
from velmot.core.errors import RequestError
from velmot.core.limits import LARGEST_VALUE, STEEPEST
from velmot.core.parameters.mapping import Mapped, mapped_by_line
from velmot.core.parameters.parameter import Family, Parameter
from velmot.core.session.phrase_summary import PhraseSummary, summarised
from velmot.core.time.ticks import MOST_TICKS

_MOST_KNOWN = 64

_NO_DEPTH = 1e-300
"""A depth that moves nothing and yet has a sign."""

Extra = tuple[tuple[str, str], ...]
"""What a file says beside what everything has, such as keys this version does not know: (key, JSON text) pairs."""


@dataclass(frozen=True)
class Phrase:
    """A named curve: `length` in ticks, `low` to `high` the span of values it was made for, in its unit on its axis.

    `curve` has points from 0 to the length; with a `shape` it is nothing, as the recipe draws it (from 0 to 1, linear).
    """

    id: str
    name: str
    length: int
    curve: Envelope | None = None
    shape: Shape | None = None
    unit: str = ""
    axis: Axis = Axis.LINEAR
    low: float = 0.0
    high: float = 1.0
    extra: Extra = ()

    @cached_property
    def piece(self) -> Fragment:
        """What it does, from 0 to its length."""
        if self.shape is not None:
            return shapes.drawn(self.shape, self.length)
        assert self.curve is not None
        return Fragment(self.curve, self.length)

    @cached_property
    def source(self) -> Parameter:
        """The parameter it would be a lane of, for mapping it."""
        return Parameter(self.id, self.name, Family.DEVICE, unit=self.unit, axis=self.axis, low=self.low, high=self.high,
                         default=self.low, value=self.low)  # fmt: skip

    @cached_property
    def known(self) -> dict[tuple[object, ...], Mapped]:
        """What was drawn of it before: places that are read alike are drawn once."""
        return {}

    @cached_property
    def summary(self) -> PhraseSummary:
        """What lists show of it."""
        return summarised(self.piece, self.source, self.shape)

    @property
    def ends(self) -> tuple[float, float]:
        """The axis coordinates of the span it was made for."""
        return self.source.reach

    def checked(self, place: str) -> Phrase:
        """The phrase itself, once it is found possible; else RequestError with the place."""
        if not 0 < self.length <= MOST_TICKS:
            raise RequestError("phrase-length", name=self.name, place=f"{place}.length", accepted="a length above 0")
        self.source  # noqa: B018 - a range that no parameter can have is refused in words
        if (self.curve is None) == (self.shape is None):
            raise RequestError("phrase-curve", name=self.name, place=place, accepted="points, or a shape")
        if self.shape is not None:
            shapes.cycle_lengths(self.shape, self.length)
        elif self.curve is not None:
            _check_curve(self, self.curve, place)
        return self


def _check_curve(phrase: Phrase, curve: Envelope, place: str) -> None:
    if not len(curve) or curve.ticks[0] != 0 or curve.ticks[-1] != phrase.length:
        raise RequestError(
            "phrase-points", name=phrase.name, place=f"{place}.points", accepted="a first point at 0, a last at its end"
        )
    if np.abs(curve.values).max() > LARGEST_VALUE:
        raise RequestError(
            "phrase-points/far", name=phrase.name, place=f"{place}.points", accepted=f"values within ±{LARGEST_VALUE:g}"
        )


@dataclass(frozen=True)
class Placement:
    """One appearance of a phrase: whose lane, where it lives, and how the phrase is read there.

    `start` and `length` are ticks of the lane (from its region's start, in a region). An axis coordinate y of the phrase
    becomes scale·y + offset on the parameter's axis. `turn` is how many ticks of its length the content comes later.
    """

    id: str
    phrase: str
    parameter: str
    home: str
    start: int
    length: int
    scale: float = 1.0
    offset: float = 0.0
    backwards: bool = False
    turn: int = 0
    extra: Extra = ()

    @property
    def end(self) -> int:
        return self.start + self.length

    @property
    def span(self) -> tuple[int, int]:
        return self.start, self.end

    @property
    def upside_down(self) -> bool:
        """Whether high in the phrase is low here; also known of a place without depth."""
        return self.scale < 0


def over_each_other(placements: Iterable[Placement]) -> Iterator[tuple[Placement, Placement]]:
    """Neighbours on one lane of which the first reaches into the next."""
    ordered = sorted(placements, key=lambda x: (x.parameter, x.home, x.start))
    for one, following in pairwise(ordered):
        if (one.parameter, one.home) == (following.parameter, following.home) and following.start < one.end:
            yield one, following


def drawn(phrase: Phrase, placement: Placement, parameter: Parameter) -> Mapped:
    """What a placement says in its span, counted from its start: stretched, run backwards, turned, mapped, limited."""
    scale = 0.0 if abs(placement.scale) <= _NO_DEPTH else placement.scale
    line, name = (scale, placement.offset), parameter.name  # which what is said of silence names
    to = (parameter.axis, parameter.low, parameter.high, parameter.labels, name)
    key = (placement.length, placement.backwards, placement.turn, *line, *to)
    if key not in phrase.known:
        if len(phrase.known) >= _MOST_KNOWN:
            phrase.known.clear()
        piece = stretched(phrase.piece, placement.length)
        if placement.backwards:
            piece = backwards(piece)
        phrase.known[key] = mapped_by_line(phrase.source, turned(piece, placement.turn), parameter, line, phrase.ends)
    return phrase.known[key]


def says(phrase: Phrase, placement: Placement, parameter: Parameter, lane: Envelope) -> bool:
    """Whether a lane does in a placement's span what the placement says, to SAME."""
    there, here = drawn(phrase, placement, parameter).fragment.envelope, editing.slices(lane, [placement.span])[0]
    last = placement.length - 1
    if abs(float(there.coordinate_at(last) - here.coordinate_at(last))) > SAME:
        return False
    return differing_span(here, there, 0, last) is None


class Line(NamedTuple):
    """A straight line between two axes: a coordinate y becomes scale·y + offset."""

    scale: float
    offset: float


def between(phrase: Phrase, low: float, high: float, upside_down: bool = False) -> Line:
    """The line that lays the span a phrase was made for between two coordinates of another axis.

    Where both are one it has no depth; `upside_down` is then kept all the same, for when it gets one.
    """
    first, last = phrase.ends
    scale = (high - low) / (last - first)
    if not abs(scale) <= STEEPEST:
        raise RequestError("nothing-moves/spread", name=phrase.name, place="high", accepted="a nearer one")
    if scale == 0 and upside_down:
        scale = -_NO_DEPTH
    return Line(scale, low - scale * first)


def lands_between(phrase: Phrase, placement: Placement) -> tuple[float, float]:
    """The coordinates on the parameter's axis where the span a phrase was made for lands."""
    return tuple(placement.scale * y + placement.offset for y in phrase.ends)  # type: ignore[return-value]
