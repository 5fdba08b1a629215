"""Stairs: lanes that go up and down in a controller's steps where a slope was meant."""

from __future__ import annotations

import numpy as np

from velmot.core.curves.envelope import Envelope
from velmot.core.curves.lossless import without_loss
from velmot.core.curves.staircases import slopes_of_steps
from velmot.core.curves.within_bound import Reach
from velmot.core.findings.finding import Finding, Kind
from velmot.core.session.session import Session
from velmot.core.verbs.thin.request import Thin
from velmot.core.words import counted

SHARE = 0.5
"""Steps have to be at least this part of a lane's points."""
FEWEST = 12
"""So many points would go at least."""
TURNS = 1 / 3
"""At most this part of its steps go the other way than the one before: what goes there and back, as a gate does, is meant so."""


def stairs(session: Session, parameter_id: str) -> list[Finding]:
    """The parameter's lanes that are mostly staircases, with how many points would do; none in which phrases lie."""
    parameter = session.parameter(parameter_id)
    if parameter.holds_only:
        return []
    found = []
    for lane in session.lanes_of(parameter_id):
        curve = lane.envelope
        if session.placed_on(parameter_id, lane.home) or len(curve) < FEWEST:
            continue
        left = slopes(curve, parameter.reach)
        if left is not None:
            said = f"goes in steps: {counted(len(curve), 'point')}, as slopes {left:,}"
            mend = Thin((lane.id,), way="steps to slopes")
            found.append(Finding(KIND.name, parameter_id, *session.span(lane), said, lane.id, sure=0.4, mend=mend))
    return found


def slopes(curve: Envelope, reach: Reach) -> int | None:
    """How many points a curve has as slopes, if it is mostly a staircase; a curve never changes, so it is found once."""

    def made() -> int | None:
        bare = without_loss(curve.only_heard())
        ways = np.sign(np.diff(bare.values))
        ways = ways[ways != 0]
        if np.count_nonzero(ways[1:] != ways[:-1]) > TURNS * len(ways):
            return None
        without, left = len(bare), len(slopes_of_steps(curve, 0.0, reach))
        return left if without - left >= max(FEWEST, SHARE * without) else None

    return curve.remembered("slopes", reach, made)


KIND = Kind("stairs", "steps of a controller", stairs)
