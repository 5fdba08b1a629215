"""A small session whose numbers can be reckoned in the head: 120 bpm in 4/4, a bell in a group, a horn with a region."""

from dataclasses import replace

import pytest

from velmot.core.curves.axes import Axis
from velmot.core.curves.envelope import Envelope
from velmot.core.curves.segments import HOLD
from velmot.core.parameters.parameter import Family, Parameter, level, mute, pan
from velmot.core.session.phrases import Phrase, Placement
from velmot.core.session.session import Session
from velmot.core.session.track import Lane, Region, Track, TrackKind
from velmot.core.time.ticks import ticks_of as b

LEVEL = Axis.LEVEL


def curve(*points: tuple[float, float], axis: Axis = LEVEL, bend: float = 0.0) -> Envelope:
    return Envelope.of([(b(at), value, bend) for at, value in points], axis)


@pytest.fixture
def small() -> Session:
    bell = Track("bell", "Bell", parameters=(level("bell.level", value=-3.0), pan("bell.pan", value=25.0)))
    horn = Track(
        "horn",
        "Horn",
        parameters=(
            level("horn.level"),
            mute("horn.mute"),
            Parameter(
                "horn.cut",
                "Cut",
                Family.DEVICE,
                axis=Axis.LOG,
                unit="Hz",
                low=20.0,
                high=20_000.0,
                value=1000.0,
                default=1000.0,
            ),
        ),
        regions=(Region("toll", "toll", b(4), b(4)),),
    )
    swell = Track("swell", "Swell", TrackKind.GROUP, parameters=(level("swell.level"),), members=("bell",))
    lanes = (
        Lane("B", "bell.level", "track", curve((0, -12), (8, -6))),
        Lane("H", "horn.level", "track", curve((0, -10))),
        Lane("R", "horn.level", "toll", curve((0, -20), (4, -8))),
        Lane("M", "horn.mute", "track", curve((0, 0), (12, 1), axis=Axis.LINEAR, bend=HOLD)),
        Lane("S", "swell.level", "track", curve((0, -4))),
    )
    return Session("harbour", b(16), (bell, horn, swell), lanes).checked()


@pytest.fixture
def linked(small: Session) -> Session:
    """The bell's first eight beats as a phrase, which lies upside down and half as long on the horn's region too."""
    points = curve((0, -12), (8, -6))
    phrase = Phrase("wave", "wave", b(8), points, unit="dB", axis=LEVEL, low=-12.0, high=-6.0)
    places = (
        Placement("one", "wave", "bell.level", "track", 0, b(8)),
        Placement("two", "wave", "horn.level", "toll", 0, b(4), scale=-2.0, offset=-32.0),
    )
    lanes = [replace(lane, envelope=curve((0, -8), (4, -20))) if lane.id == "R" else lane for lane in small.lanes]
    return replace(small, lanes=tuple(lanes), phrases=(phrase,), placements=places).checked()
