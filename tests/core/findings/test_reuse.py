"""What repeats: figures that come back, copies, and where else a curve runs like a chosen one."""

from dataclasses import replace
from random import Random

import numpy as np
import pytest
from pytest import approx

from velmot.core.curves.alike import likeness
from velmot.core.curves.axes import Axis
from velmot.core.curves.editing import Fragment
from velmot.core.curves.envelope import Envelope
from velmot.core.errors import RequestError
from velmot.core.findings import all_findings
from velmot.core.findings.where_else import FAR, phrases_like, where_else
from velmot.core.parameters.parameter import level, pan
from velmot.core.session.heard import heard
from velmot.core.session.phrases import Phrase
from velmot.core.session.session import Session
from velmot.core.session.track import Lane, Region, Track
from velmot.core.time.ticks import ticks_of as b
from velmot.core.verbs import plan
from velmot.core.verbs.points.request import MovePoints
from velmot.core.verbs.request import Picked
from velmot.core.verbs.reuse.request import Pool, PoolPlace, SetFree
from velmot.core.verbs.thin.request import Within
from velmot.formats import session_file

LEVEL = Axis.LEVEL
FORM = ((0.0, 0.0), (0.5, 4.0), (1.0, 1.5), (1.75, 6.0), (2.5, -2.0), (3.0, 0.5))
"""(beat, dB): up and down, three beats long."""


def of(kind: str, session: Session):
    return [one for one in all_findings(session) if one.kind == kind]


def laid(random: Random, lanes: int = 6, each: int = 5, jitter: float = 0.0) -> Session:
    """A figure `each` times on every lane, at other levels and depths, every second time twice as long, with a walk between."""
    tracks, made = [], []
    for n in range(lanes):
        rows, at = [], 2.0
        for k in range(each):
            long, deep, low = 1 + k % 2, random.uniform(0.5, 1.5), random.uniform(-40, -20)
            rows += [(b(at + x * long), low + y * deep + random.uniform(-jitter, jitter)) for x, y in FORM]
            at += 3 * long + 1
            for _ in range(3):
                rows.append((b(at), random.uniform(-30, -12)))
                at += random.uniform(1, 3)
        tracks.append(Track(f"t{n}", f"Bell {n}", parameters=(level(f"l{n}"),)))
        made.append(Lane(f"L{n}", f"l{n}", "track", Envelope.of(rows, LEVEL)))
    return Session("s", b(128), tuple(tracks), tuple(made)).checked()


@pytest.mark.parametrize("seed", range(4))
def test_a_figure_laid_thirty_times_is_one_phrase_and_one_edit_changes_all(seed):
    session = laid(Random(seed))
    (one,) = of("figure", session)
    assert "30 places on 6 lanes" in one.words and one.sure == 0.6
    change = plan(session, "pool", one.mend)
    assert [c.code for c in change.cautions] == ["pooled"] and change.cautions[0].args[1] == ("count", 30)
    after = change.applied_to(session)
    assert len(after.places_of(after.phrases[0].id)) == 30 and of("figure", after) == []
    for lane in session.lanes:
        was, now = (heard(s, lane.parameter).envelope for s in (session, after))
        ticks = np.unique(np.concatenate((was.ticks, now.ticks)))
        assert np.abs(was.at(ticks) - now.at(ticks)).max() < 1e-5, "as near as whole ticks are"

    read = session_file.read(session_file.write(after))[0]
    assert read == after
    place = read.placements[0]
    peak = next(i for i, t in enumerate(read.lane("L0").envelope.ticks.tolist()) if t > place.start)
    moved = plan(read, "move points", MovePoints((Picked("L0", (peak,)),), rise=1.0), "follow").applied_to(read)
    higher = {x.parameter: 0 for x in moved.placements}
    for x in moved.placements:
        at = x.start + x.length // 6
        zero, other = (s.lane_at(x.parameter).envelope.value_at(at) for s in (read, moved))
        higher[x.parameter] += other - zero == approx(x.scale / place.scale, abs=1e-3)
    assert set(higher.values()) == {5}, "every place follows, as deep as it is"


def test_a_figure_within_a_bound_is_found_and_said_not_to_be_sure():
    (one,) = of("figure", laid(Random(5), jitter=0.03))
    assert one.sure == 0.4 and len(one.mend.places) >= 20
    assert of("figure", laid(Random(5), jitter=0.6)) == [], "a dB apart is another figure"
    assert of("figure", laid(Random(5), lanes=2, each=1)) == [], "twice is no habit"


def halves(other: list[tuple[float, float]], own: bool = False) -> Session:
    """A track with two regions side by side: a rise of four points in the first, something in the second."""
    rise = [(0, -30.0), (4, -12.0), (9, -15.0), (14, -28.0)]
    regions = (Region("a", "toll", 0, b(16)), Region("c", "toll", b(16), b(16)))
    track = Track("t", "Bell", parameters=(level("l"), pan("p")), regions=regions)
    rows = [Envelope.of([(b(at), v) for at, v in some], LEVEL) for some in (rise, other or rise)]
    lanes = [Lane("A", "l", "a", rows[0]), Lane("C", "l", "c", rows[1])]
    if own:
        lanes.append(Lane("T", "l", "track", Envelope.of([(0, -20.0), (b(40), -20.0), (b(44), -9.0)], LEVEL)))
    return Session("s", b(64), (track,), tuple(lanes)).checked()


def test_copies_of_a_region_that_are_not_linked():
    session = halves([])
    (one,) = of("copies", session)
    assert (one.lane, one.words) == ("A", "Level in toll at 5.1.00 does the same and is not linked")
    after = plan(session, "pool", one.mend).applied_to(session)
    assert [(x.home, x.scale, x.offset) for x in after.placements] == [("a", 1.0, 0.0), ("c", 1.0, 0.0)]
    assert of("copies", after) == [] and after.lanes == session.lanes
    assert of("copies", halves([(0, -30.0), (4, -12.0), (9, -15.0), (14, -20.0)])) == []
    assert of("copies", halves([(0, -30.0), (4, -12.0), (14, -28.0)])) == [], "a point fewer"


def test_where_else_finds_what_is_lower_shallower_upside_down_and_longer():
    x = np.linspace(0, 1, 9)
    y = np.array([0, 3, 4, 2, 5, 9, 6, 1, 0.0])
    rows = lambda at, long, low, deep: [(b(at + p * long), low + v * deep) for p, v in zip(x, y, strict=True)]  # noqa: E731
    flat = lambda a, c, v: [(b(a), v), (b(c), v)]  # noqa: E731
    one = [
        *flat(0, 7, -20.0),
        *rows(8, 8, -20.0, 1.0),
        *flat(17, 30, -20.0),
        *rows(32, 16, -30.0, 0.5),
        *flat(49, 60, -30.0),
    ]
    two = [*flat(0, 19, 10.0), *rows(20, 4, 10.0, -6.0), *flat(25, 60, 10.0)]
    tracks = tuple(Track(f"t{n}", f"Bell {n}", parameters=(level(f"l{n}"), pan(f"p{n}"))) for n in range(2))
    lanes = (Lane("A", "l0", "track", Envelope.of(one, LEVEL)), Lane("B", "p1", "track", Envelope.of(two)))
    session = Session("s", b(64), tracks, lanes).checked()
    found = where_else(session, "A", b(8), b(16))
    places = {(f.lane, f.start, f.end): f for f in found}
    low, turned = places["A", b(32), b(48)], places["B", b(20), b(24)]
    assert (low.scale, low.offset, low.near) == (approx(0.5), approx(-20.0), approx(1.0))
    assert (turned.scale, turned.offset) == (approx(-6.0), approx(-110.0)) and turned.near == approx(1.0)
    assert found[:2] == sorted(found[:2], key=lambda f: f.start) and all(f.near >= 1 - FAR for f in found)
    with pytest.raises(RequestError, match="does not move there"):
        where_else(session, "A", b(18), b(29))
    with pytest.raises(RequestError, match="does not reach"):
        where_else(session, "A", b(60), b(60) + 3)


def test_a_bent_curve_is_found_by_its_samples_at_another_place():
    """The same bend drawn with other points: no copy, and yet alike."""
    bend = Envelope.of([(0, -30.0, 3.0), (b(6), -10.0, -2.0), (b(10), -30.0)], LEVEL)
    drawn = [(b(30) + t, float(bend.value_at(t))) for t in range(0, b(10) + 1, b(0.25))]
    flat = [(b(10), -30.0), (b(29), -30.0)]
    rows = [(0, -30.0, 3.0), (b(6), -10.0, -2.0), *[(t, v, 0.0) for t, v in (*flat, *drawn)], (b(60), -30.0, 0.0)]
    track = Track("t", "Bell", parameters=(level("l"),))
    session = Session("s", b(64), (track,), (Lane("A", "l", "track", Envelope.of(rows, LEVEL)),)).checked()
    best = where_else(session, "A", 0, b(10))[0]
    assert (best.start, best.end) == (b(30), b(40)) and best.near > 0.99 and best.scale == approx(1, abs=0.01)


def test_phrases_that_run_alike_whatever_their_length():
    form = Envelope.of([(b(at), v) for at, v in FORM])
    alike = Phrase("x", "alike", b(9), Envelope(form.ticks * 3, 2 - form.values / 4, form.bends))
    other = Phrase("y", "other", b(4), Envelope.of([(0, 0.0), (b(2), 1.0), (b(4), 0.0)]))
    ((phrase, like),) = phrases_like(Fragment(form, b(3)), [other, alike])
    assert (phrase.id, like.scale, like.offset, like.far) == ("x", approx(-0.25), approx(2), approx(0, abs=1e-9))


def test_how_far_two_pieces_are_apart_after_the_best_straight_map():
    model = Fragment(Envelope.of([(0, 0.0), (b(2), 1.0), (b(4), 0.0)]), b(4))
    bumped = Fragment(Envelope.of([(0, 5.0), (b(1), 6.5), (b(2), 7.0), (b(4), 5.0)]), b(4))
    like = likeness(model, bumped)
    assert 0.2 < like.far < 0.5 and abs(like.at - b(1)) < b(0.1)
    assert likeness(model, Fragment(Envelope.of([(0, 3.0), (b(8), 3.0)]), b(8))).scale == 0.0


def test_a_pool_is_refused_where_a_place_is_far_or_over_another():
    session = laid(Random(1), lanes=1)
    pool = of("figure", session)[0].mend
    far = replace(pool, places=(PoolPlace("L0", b(6), b(9)),))
    with pytest.raises(RequestError) as refused:
        plan(session, "pool", far)
    assert refused.value.kind == "pool-far" and refused.value.place == "places[0]"
    assert plan(session, "pool", replace(far, within=(Within("dB", 200.0),))).placements
    with pytest.raises(RequestError) as refused:
        plan(session, "pool", replace(pool, places=(PoolPlace("L0", b(100), b(103)),)))
    assert refused.value.kind == "pool-flat"
    with pytest.raises(RequestError) as refused:
        plan(session, "pool", Pool("L0", pool.start, pool.end, "x", (PoolPlace("L0", pool.start, pool.end),)))
    assert refused.value.kind == "pool-over" and refused.value.remedy is None, "nothing is there to be set free"
    after = plan(session, "pool", pool).applied_to(session)
    with pytest.raises(RequestError) as refused:
        plan(after, "pool", pool)
    assert refused.value.kind == "pool-over"
    free = refused.value.remedy.step
    assert free == SetFree(tuple(x.id for x in after.placements)) and len(free.placements) == 5
    assert len(plan(plan(after, "set free", free).applied_to(after), "pool", pool).placements) == 5


@pytest.mark.parametrize("whole", [False, True])
def test_chance_on_one_grid_is_no_figure_and_no_lane_the_same(whole: bool):
    """Lanes of a file whose points all stand on one grid: any values, or walks in whole steps as a controller makes."""
    random = np.random.default_rng(4)
    tracks, lanes = [], []
    for n in range(40):
        walk = random.integers(-2, 3, 400).cumsum() - 30 if whole else random.uniform(-60, 0, 400)
        rows = [(b(k / 4), float(np.clip(v, -60, 0))) for k, v in enumerate(walk)]
        tracks.append(Track(f"t{n}", f"Bell {n}", parameters=(level(f"l{n}"),)))
        lanes.append(Lane(f"L{n}", f"l{n}", "track", Envelope.of(rows, LEVEL)))
    session = Session("s", b(100), tuple(tracks), tuple(lanes)).checked()
    assert of("figure", session) == of("same", session) == []

    rows = [(at, value / 2 - 10) for at, value, _ in lanes[3].envelope.points()]
    lanes[9] = replace(lanes[9], envelope=Envelope.of(rows, LEVEL))
    (same,) = of("same", replace(session, lanes=tuple(lanes)))
    assert same.mend.lane == "L3" and [x.lane for x in same.mend.places] == ["L9"], "what is alike is found among them"
