"""Where a region goes its sound goes: moved, copied, cut, joined, and onto another track; and through a file."""

from dataclasses import replace

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st

from velmot.core.parameters.parameter import level
from velmot.core.session.session import Session
from velmot.core.session.sounds import Audio, Excerpt, Sound
from velmot.core.session.takes import clips_of
from velmot.core.session.track import Region, Track
from velmot.core.time.tempo import TempoEvent, TempoMap
from velmot.core.time.ticks import Tick, ticks_of
from velmot.core.verbs import plan
from velmot.core.verbs.regions.request import CarryRegions, CutRegions, JoinRegions
from velmot.formats import session_file
from velmot.sound.library import Library
from velmot.sound.path import score_of
from velmot.sound.render import Strip

RATE = 8000


def beat(n):
    return Tick(ticks_of(n))


def session():
    one = Track("a", "A", parameters=(level("a.level"),), sound=Sound("murmur", hz=120, seed=1),
                regions=(Region("r1", "one", beat(4), beat(8)), Region("r2", "two", beat(20), beat(6))))  # fmt: skip
    two = Track("b", "B", parameters=(level("b.level"),), sound=Sound("rain", seed=2))
    return Session("s", beat(64), (one, two), (), TempoMap((TempoEvent(0, 120),))).checked()


def sounds(on, track="a", start=0.0, end=64.0):
    """What a track sounds like before its level, over some beats at 120 bpm."""
    channel = next(c for c in score_of(on, 0, on.length).channels if c.id == track)
    frames = round((end - start) * RATE / 2)
    first = round(start * RATE / 2)
    made = Strip(channel, Library(), RATE)._source(first, (first + np.arange(frames)) / RATE)
    return np.zeros(frames) if made is None else made[:, 0]


def done(on, verb, request):
    return plan(on, verb, request).applied_to(on).checked()


def test_a_track_sounds_where_its_regions_are_and_each_has_a_take_of_its_own():
    on = session()
    assert not sounds(on, end=4).any() and sounds(on, start=4, end=12).any() and not sounds(on, start=12, end=20).any()
    one, two = sounds(on, start=4, end=10), sounds(on, start=20, end=26)
    assert abs(np.corrcoef(one, two)[0, 1]) < 0.5
    muted = replace(on.track("a"), regions=tuple(replace(r, muted=True) for r in on.track("a").regions))
    assert not sounds(on.with_tracks([muted, on.track("b")])).any()


def test_moved_and_copied_it_sounds_the_same_there():
    on, was = session(), sounds(session(), start=4, end=12)
    moved = done(on, "carry regions", CarryRegions(("r1",), at=beat(30)))
    assert sounds(moved, start=30, end=38) == pytest.approx(was) and not sounds(moved, start=4, end=12).any()
    assert moved.region("r1").sound == (), "it is still the take of its own name"
    copied = done(on, "carry regions", CarryRegions(("r1",), "repeat", times=2))
    for start in (12, 20):
        assert sounds(copied, start=start, end=start + 6) == pytest.approx(was[: 3 * RATE])


def test_on_another_track_it_keeps_the_sound_it_had():
    on, was = session(), sounds(session(), start=4, end=12)
    over = done(on, "carry regions", CarryRegions(("r1",), at=beat(40), targets=("b",)))
    (clip,) = over.region("r1").sound
    assert clip == Excerpt(0, beat(8), "r1", sound=Sound("murmur", hz=120, seed=1))
    assert sounds(over, "b", 40, 48) == pytest.approx(was)


@given(st.integers(1, 7), st.integers(1, 7))
def test_cut_where_it_may_be_it_goes_on_and_joined_again_it_is_what_it_was(one, other):
    on = session()
    cut = done(on, "cut regions", CutRegions(("r1",), beat(4 + one)))
    if other != one:
        inside = next(r.id for r in cut.track("a").regions if r.start < beat(4 + other) < r.end)
        cut = done(cut, "cut regions", CutRegions((inside,), beat(4 + other)))
    was, now = sounds(on, start=4, end=12), sounds(cut, start=4, end=12)
    places = np.arange(len(was)) / (RATE / 2)  # in beats
    faded = np.min([abs(places - seam) for seam in (0, one, other, 8)], axis=0) <= 0.011  # 5 ms and a frame
    assert now[~faded] == pytest.approx(was[~faded]) and abs(was[~faded]).max() > 0.1
    late = max(r.start for r in cut.track("a").regions if r.start < beat(12))
    (clip,) = clips_of(cut, cut.track("a"), next(r for r in cut.track("a").regions if r.start == late))
    assert (clip.take, clip.offset) == ("r1", pytest.approx((late - beat(4)) / beat(2)))
    parts = tuple(r.id for r in cut.track("a").regions if r.start < beat(12))
    assert done(cut, "join regions", JoinRegions(parts)).track("a").regions == on.track("a").regions


def test_two_takes_joined_sound_one_after_the_other_and_go_along_as_such():
    on = session()
    next_to = done(on, "carry regions", CarryRegions(("r2",), at=beat(12)))
    was = sounds(next_to, start=4, end=18)
    one = done(next_to, "join regions", JoinRegions(("r1", "r2")))
    assert [(c.take, c.at) for c in one.region("r1").sound] == [("r1", 0), ("r2", beat(8))]
    away = done(one, "carry regions", CarryRegions(("r1",), at=beat(40)))
    assert sounds(away, start=40, end=54) == pytest.approx(was, abs=1e-9)


FILE = Sound("file", audio=Audio("take 3.wav", "0f" * 32), offset=1.5, start=beat(2), amplitude=0.25)


def test_a_session_file_says_all_of_it_in_its_third_version_and_comes_back_the_same():
    on = done(session(), "carry regions", CarryRegions(("r1",), at=beat(40), targets=("b",)))
    on = on.with_tracks([replace(on.track("a"), sound=FILE), on.track("b")])
    data = session_file.write(on)
    assert b'"version": 3' in data and session_file.write(session_file.read(data)[0]) == data
    assert session_file.read(data)[0].tracks == on.tracks
    silent = on.with_tracks(
        replace(t, sound=None, regions=tuple(replace(r, sound=()) for r in t.regions)) for t in on.tracks
    )
    assert b'"version": 1' in session_file.write(silent), "written only where it is used"


@pytest.mark.parametrize(
    ("row", "place"),
    [
        ('{"kind": "gong"}', "kind"),
        ('{"kind": "tone", "hz": 0}', "hz"),
        ('{"kind": "tone", "hz": 20001}', "hz"),
        ('{"kind": "tone", "amplitude": 1.01}', "amplitude"),
        ('{"kind": "tone", "amplitude": NaN}', ""),
        ('{"kind": "tone", "colour": 1}', "colour"),
        ('{"kind": "file"}', "audio"),
        ('{"kind": "tone", "audio": {"name": "x", "digest": "' + "0" * 64 + '"}}', "audio"),
        ('{"kind": "file", "audio": {"name": "x", "digest": "0g"}}', "digest"),
        ('{"kind": "noise", "offset": 36001}', "offset"),
    ],
)
def test_a_sound_that_cannot_be_is_refused_with_its_place(row, place):
    text = session_file.write(session()).decode()
    first = text.index('"sound": {')
    broken = text[: first + 9] + row + text[text.index("}", first) + 1 :]
    with pytest.raises(session_file.FormatError) as refused:
        session_file.read(broken.encode())
    assert place in refused.value.place and refused.value.place
