"""What can be asked for, and how: points."""

from __future__ import annotations

from dataclasses import dataclass

from velmot.core.limits import MOST_IDS, MOST_SPOTS
from velmot.core.session.track import ON_THE_TRACK
from velmot.core.time.ticks import Tick
from velmot.core.verbs.request import Picked, says


@dataclass(frozen=True)
class Spot:
    """A position and a value."""

    at: Tick = says("Where, in session time.")
    value: float = says("The value, in the parameter's unit.")


@dataclass(frozen=True)
class AddPoints:
    """Add points to a parameter's lane; a point that stands there already takes the value."""

    parameter: str = says("The parameter's id.")
    spots: tuple[Spot, ...] = says("The points to add.", most=MOST_SPOTS)
    home: str = says("The lane's home: track, or a region's id.", default=ON_THE_TRACK)


@dataclass(frozen=True)
class MovePoints:
    """Move picked points by a time and by a distance on the axis."""

    picked: tuple[Picked, ...] = says("The points to move.", most=MOST_IDS)
    by: Tick = says("How much later (earlier if negative).", default=Tick(0))
    rise: float = says("How far up, in axis units: dB, octaves, or the parameter's own.", default=0.0)


@dataclass(frozen=True)
class RemovePoints:
    """Remove picked points; what stands before and after each is joined with the shape before it."""

    picked: tuple[Picked, ...] = says("The points to remove.", most=MOST_IDS)


@dataclass(frozen=True)
class SetValues:
    """Give picked points a value as it was typed.

    A sign in front and no unit (``+2``, ``-3``) changes each point by that many axis units, ``*0.5``
    multiplies each value; anything else, or with ``=`` in front, is the value itself.
    """

    picked: tuple[Picked, ...] = says("The points.", most=MOST_IDS)
    text: str = says("What was typed: -3 dB, =-3, +2, *0.5, muted.")


@dataclass(frozen=True)
class ShapeSegments:
    """Give the segments that start at picked points a shape."""

    picked: tuple[Picked, ...] = says("The points the segments start at.", most=MOST_IDS)
    bend: float | None = says("A bend number, 0 for straight; nothing means hold.", default=0.0)
