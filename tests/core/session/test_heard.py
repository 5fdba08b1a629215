"""What is heard: precedence, modes, overlaps, and the reason for each span."""

from dataclasses import replace
from itertools import pairwise

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st

from tests.strategies import LENGTH, envelopes, probes
from velmot.core.curves import editing
from velmot.core.curves.axes import Axis
from velmot.core.curves.editing import Piece
from velmot.core.curves.envelope import Envelope
from velmot.core.parameters.parameter import level
from velmot.core.session.heard import heard, in_words
from velmot.core.session.session import Session
from velmot.core.session.track import Lane, Mode, Precedence, Region, Track, TrackKind
from velmot.core.time.ticks import TICKS_PER_BEAT as BEAT


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


def test_a_muted_region_does_not_speak_and_the_reason_says_so():
    made = session()
    track = made.tracks[0]
    a, b = track.regions
    made = made.with_tracks([replace(track, regions=(a, replace(b, muted=True)))])
    result = heard(made, "p")
    assert result.envelope.at(np.array([0, 4, 9, 13, 17]) * BEAT).tolist() == [-20, -10, -10, -20, -20]
    words = [in_words(made, r) for r in result.reasons]
    track_lane = "the track's lane"
    assert words == [track_lane, "region a", "region a, as b is muted", f"{track_lane}, as b is muted", track_lane]


def test_group_faders_add_decibels_through_every_level():
    """Swell at −4 dB falling to −8 over 20 beats holds t, and Master at +1 dB holds Swell: −20 − 6 + 1 at beat 10."""
    made = session()
    swell = Track("g", "Swell", TrackKind.GROUP, parameters=(level("g.level"),), members=("t",))
    master = Track("m", "Master", TrackKind.GROUP, parameters=(level("m.level", value=1.0),), members=("g",))
    fall = Lane("G", "g.level", "track", Envelope.of([(0, -4), (20 * BEAT, -8)], Axis.LEVEL))
    made = made.with_tracks([*made.tracks, swell, master]).with_lanes([*made.lanes, fall]).checked()
    result = heard(made, "p")
    assert result.envelope.at(np.array([0, 5, 10, 17]) * BEAT).tolist() == pytest.approx([-23, -14, -10, -26.4])
    assert result.groups == ("g", "m") and heard(made, "p", groups=False).groups == ()
    silent = replace(fall, envelope=Envelope.of([(0, -96, float("inf")), (10 * BEAT, 0)], Axis.LEVEL))
    quiet = heard(made.with_lanes([*made.lanes[:-1], silent]), "p").envelope
    assert quiet.at(np.array([5, 17]) * BEAT).tolist() == [-96, -19], "nothing is heard through a silent group"


@given(st.data())
def test_laying_over_is_one_splice_after_the_other(data):
    axis = data.draw(st.sampled_from(list(Axis)))
    base = data.draw(envelopes(axis))
    marks = sorted(data.draw(st.lists(st.integers(0, LENGTH), min_size=2, max_size=8, unique=True)))
    spans = list(zip(marks[::2], marks[1::2], strict=False))
    if data.draw(st.booleans()):
        spans = list(pairwise(marks))  # touching
    pieces = [Piece(a, b, data.draw(envelopes(axis))) for a, b in spans]
    wanted = base
    for piece in pieces:
        wanted = editing.splice(wanted, editing.cut(piece.curve, piece.start, piece.end), piece.start)
    got = editing.overlaid(base, pieces)
    at = probes(base, wanted, got, extra=tuple(marks))
    for side in ("left", "right"):
        assert np.allclose(got.coordinate_at(at, side), wanted.coordinate_at(at, side), rtol=0, atol=1e-9)
    assert len(got) <= len(wanted)
