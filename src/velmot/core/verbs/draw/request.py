"""What can be asked for, and how: draw."""

from __future__ import annotations

from dataclasses import dataclass

from velmot.core.limits import MOST_SPOTS
from velmot.core.session.track import ON_THE_TRACK
from velmot.core.verbs.points.request import Spot
from velmot.core.verbs.request import says


@dataclass(frozen=True)
class Draw:
    """Replace what lies under a stroke by the stroke; outside it nothing changes."""

    parameter: str = says("The parameter's id.")
    stroke: tuple[Spot, ...] = says("The stroke, in any direction; two spots are a straight line.", most=MOST_SPOTS)
    tolerance: float = says(
        "How far the thinned line may be from the stroke, in axis units.",
        default=0.0,
        label="Thinned to within",
        unit="of the unit (dB, octaves, …)",
        reach=(0, None),
    )
    home: str = says("The lane's home: track, or a region's id.", default=ON_THE_TRACK)
