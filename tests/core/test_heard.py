"""What is heard: precedence, modes, overlaps, and the reason for each span."""

import numpy as np
import pytest

from velmot.core.envelope import Envelope
from velmot.core.heard import heard
from velmot.core.parameters import Axis, level
from velmot.core.session import Lane, Mode, Precedence, Region, Session, Track
from velmot.core.time import TICKS_PER_BEAT as BEAT


def session(mode=Mode.READ, precedence=Precedence.REGION, own=True) -> Session:
    """A fader at −6; the track lane says −20; region a (beats 4 to 12) says −10, b (8 to 16) −5."""
    regions = (Region("a", "a", 4 * BEAT, 8 * BEAT), Region("b", "b", 8 * BEAT, 8 * BEAT))
    track = Track("t", "t", mode=mode, parameters=(level("p", value=-6.0),), regions=regions)
    says = {"track": -20.0, "a": -10.0, "b": -5.0}
    lanes = [Lane(h, "p", h, Envelope.constant(v, Axis.LEVEL)) for h, v in says.items() if own or h != "track"]
    return Session("s", 20 * BEAT, (track,), tuple(lanes), precedence=precedence).checked()


@pytest.mark.parametrize(
    ("fields", "values", "sources"),
    [
        ({}, [-20, -10, -5, -5, -20], ["track", "region", "region", "track"]),
        ({"own": False}, [-6, -10, -5, -5, -6], ["static", "region", "region", "static"]),
        ({"precedence": Precedence.TRACK}, [-20] * 5, ["track"]),
        ({"mode": Mode.OFF}, [-6] * 5, ["static"]),
        ({"mode": Mode.LATCH}, [-20, -10, -5, -5, -20], ["track", "region", "region", "track"]),
    ],
)
def test_what_is_heard_and_why(fields, values, sources):
    result = heard(session(**fields), "p")
    assert result.envelope.at(np.array([0, 4, 8, 12, 16]) * BEAT).tolist() == values
    assert [r.source for r in result.reasons] == sources
    assert result.reasons[0].start == 0 and result.reasons[-1].end == 20 * BEAT
