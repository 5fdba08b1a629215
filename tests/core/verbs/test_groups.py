"""Groups: folded into members, gathered from them, joined and left, with what is heard measured and kept."""

from dataclasses import replace
from random import Random

import numpy as np
import pytest
from hypothesis import assume, given
from hypothesis import strategies as st

from tests.strategies import LENGTH, grouped, probes, ranges, sessions
from velmot.core.curves.axes import Axis
from velmot.core.curves.envelope import Envelope
from velmot.core.curves.segments import HOLD
from velmot.core.errors import RequestError
from velmot.core.parameters.parameter import level
from velmot.core.session.heard import fader_of, heard
from velmot.core.session.session import Session
from velmot.core.session.track import Lane, Mode, Precedence, Region, Track, TrackKind
from velmot.core.time.ticks import TICKS_PER_BEAT as BEAT
from velmot.core.time.ticks import Tick
from velmot.core.verbs import plan
from velmot.core.verbs.groups.request import ChangeGroup, DissolveGroup, Fold, Gather, MakeGroup


def line(*rows):
    return Envelope.of([(round(beat * BEAT), value, *rest) for beat, value, *rest in rows], Axis.LEVEL)


def track(id, value=0.0, **more):
    return Track(id, id, parameters=(level(f"{id}.l", value=value),), **more)


def session(lanes, a=-10.0, b=-20.0, group=0.0, tracks=None) -> Session:
    """Tracks a and b in a group g; c in none; 16 beats."""
    made = [
        track("a", a),
        track("b", b),
        track("c", -5.0),
        replace(track("g", group, members=("a", "b")), kind=TrackKind.GROUP),
    ]
    made = [replace(t, **(tracks or {}).get(t.id, {})) for t in made]
    return Session(
        "s", 16 * BEAT, tuple(made), tuple(Lane(f"L{n}", f"{p}.l", h, e) for n, (p, h, e) in enumerate(lanes))
    )


FADE = ("g", "track", line((0, 0.0), (4, -6.0)))


def do(on, verb, request):
    change = plan(on, verb, request)
    return change, change.applied_to(on)


def own(on, id, *beats):
    curve = heard(on, f"{id}.l", groups=False).envelope
    return pytest.approx(curve.at(np.array([round(b * BEAT) for b in beats])).tolist())


def alike(before, after, within=1e-9, ids=("a", "b", "c")):
    for id in ids:
        was, now = (heard(s, f"{id}.l").envelope for s in (before, after))
        ticks = probes(was, now)
        ticks = ticks[(ticks >= 0) & (ticks < before.length)]
        assert np.abs(was.coordinate_at(ticks) - now.coordinate_at(ticks)).max() <= within


def test_a_fade_is_folded_into_a_member_that_rests():
    """At −10 under a group from 0 to −6 over four beats: −10 at 0, −13 at 2, −16 at 4; the group is at 0 there."""
    on = session([FADE])
    change, after = do(on, "fold", Fold(("g",), Tick(0), Tick(4 * BEAT)))
    assert own(after, "a", 0, 2, 3.8333333333) == [-10, -13, -15.75] and own(after, "a", 4) == [-10]
    assert own(after, "g", 0, 3.9, 4) == [0, 0, -6]
    alike(on, after)
    assert change.heard.largest <= 1e-9 and change.title == "Fold g from 1.1.00 to 2.1.00 into all members"


def test_folded_over_a_range_resting_values_stay_and_a_group_with_regions_is_at_0_in_all_of_it():
    cue = Region("r", "cue", 2 * BEAT, 4 * BEAT)
    lanes = [FADE, ("a", "track", line((0, -12.0))), ("g", "r", line((0, -1.0), (4, -9.0)))]
    on = session(lanes, group=-2.0, tracks={"g": {"regions": (cue,)}})
    _, after = do(on, "fold", Fold(("g",), Tick(BEAT), Tick(5 * BEAT)))
    assert own(after, "g", 0.9, 1, 4.9, 5, 6) == [-1.35, 0, 0, -7, -6]
    assert [after.parameter(f"{id}.l").value for id in "abg"] == [-10, -20, -2]
    alike(on, after)


def test_a_first_lane_that_would_silence_a_region_takes_over_what_that_does_also_where_the_group_is_silent():
    """Nobody hears it today, under a group that is silent there; once that is up again, the region's fade must be there."""
    falls = line((0, 0.0), (4, -6.0), (6, -96.0))
    on = session(
        [("g", "track", falls), ("a", "ra", line((0, -30.0), (4, -20.0)))],
        tracks={"a": {"regions": (Region("ra", "ra", 8 * BEAT, 4 * BEAT),)}},
    )
    wins = replace(on, precedence=Precedence.TRACK)
    wanted = Fold(("g",), Tick(0), Tick(4 * BEAT))
    for there, said in ((wins, ["takes-over"]), (on, [])):
        change, after = do(there, "fold", wanted)
        assert [c.code for c in change.cautions] == said
        assert own(after, "a", 2, 8, 10) == [-13, -30, -25]
        alike(there, after)
    muted = wins.with_tracks(replace(t, regions=tuple(replace(r, muted=True) for r in t.regions)) for t in wins.tracks)
    assert not do(muted, "fold", wanted)[0].cautions


def test_all_of_it_is_folded_lanes_regions_and_resting_values():
    take = Region("r", "take", 2 * BEAT, 4 * BEAT)
    lanes = [FADE, ("a", "track", line((0, -12.0))), ("a", "r", line((0, -20.0), (4, -8.0)))]
    on = session(lanes, group=-2.0, tracks={"a": {"regions": (take,)}})
    _, after = do(on, "fold", Fold(("g",)))
    assert after.lanes_of("g.l") == [] and after.parameter("g.l").value == 0
    assert own(after, "a", 0, 2, 12) == [-12, -23, -18]
    assert after.parameter("a.l").value == -12.0, "its resting value takes over that of the group"
    assert after.lane_at("b.l").envelope.points() == [(0, -20.0, 0.0), (4 * BEAT, -26.0, HOLD), (16 * BEAT, -26.0, 0.0)]
    alike(on, after)
    _, rested = do(session([], group=-3.0), "fold", Fold(("g",)))
    assert rested.parameter("a.l").value == -13 and rested.lanes == ()


def test_some_members_leave_and_the_group_stays_as_it_is():
    on = session([FADE])
    change, after = do(on, "fold", Fold(("g",), members=("a",)))
    assert after.track("g").members == ("b",) and own(after, "g", 0, 2) == [0, -3]
    alike(on, after)
    assert change.title == "Fold g everywhere into a, who leave it"
    with pytest.raises(RequestError) as caught:
        plan(on, "fold", Fold(("g",), Tick(0), Tick(BEAT), members=("a",)))
    assert caught.value.code == "members-range"


def test_nested_groups_are_folded_outside_in():
    on = session([FADE])
    outer = replace(track("top", -4.0, members=("g", "c")), kind=TrackKind.GROUP)
    on = on.with_tracks([*on.tracks, outer])
    _, after = do(on, "fold", Fold(("g", "top")))
    assert own(after, "a", 0, 2) == [-14, -17] and own(after, "c", 0) == [-9]
    alike(on, after)


def test_a_group_is_made_at_0_and_dissolved_with_its_members_in_its_place():
    on = session([FADE])
    change, made = do(on, "make group", MakeGroup("  top ", ("g", "c", "c")))
    top = made.tracks[-1]
    assert (top.name, top.members, fader_of(top).value) == ("top", ("g", "c"), 0.0) and change.tracks[0].before is None
    alike(on, made)
    with pytest.raises(RequestError, match="the group g contains itself"):
        plan(made, "change group", ChangeGroup("g", take_in=(top.id,)))
    for odd, said in [({"name": " "}, "a group needs a name"), ({"members": ()}, "no track is chosen")]:
        with pytest.raises(RequestError, match=said):
            plan(on, "make group", replace(MakeGroup("top", ("a",)), **odd))
    change, gone = do(made, "dissolve group", DissolveGroup("g"))
    assert [t.id for t in gone.tracks] == ["a", "b", "c", top.id] and gone.track(top.id).members == ("a", "b", "c")
    assert gone.lanes_of("g.l") == [] and "Takes 1 lane with 2 points" in [c.message for c in change.cautions]
    alike(made, gone)
    assert own(gone, "a", 0, 2) == [-10, -13]
    change, loose = do(on, "dissolve group", DissolveGroup("g", heard="changes"))
    assert own(loose, "a", 2) == [-10] and change.heard.largest == pytest.approx(6)
    fed = on.with_tracks(
        [
            replace(t, parameters=(*t.parameters, replace(level("c.s"), target="g"))) if t.id == "c" else t
            for t in on.tracks
        ]
    )
    with pytest.raises(RequestError, match="g is fed by c"):
        plan(fed, "dissolve group", DissolveGroup("g"))
    with pytest.raises(RequestError, match="a is no group"):
        plan(on, "dissolve group", DissolveGroup("a"))


def test_what_would_be_heard_differently_is_refused_with_its_figure_and_a_remedy():
    loud = session([("g", "track", line((0, 8.0), (4, 0.0)))], a=8.0)
    with pytest.raises(RequestError) as caught:
        plan(loud, "fold", Fold(("g",)))
    assert caught.value.code == "heard-differs" and "up to 4.00 dB differently at 1.1.00" in caught.value.message
    step = caught.value.remedy.step
    assert caught.value.remedy.words == "lower g by 4.00 dB first"
    lower = plan(loud, "reshape", step).applied_to(loud)
    alike(lower, do(lower, "fold", Fold(("g",)))[1])
    change, _ = do(loud, "fold", Fold(("g",), accept=True))
    assert change.heard.largest == pytest.approx(4) and change.cautions[0].code == "heard-differs"
    off = session([FADE], tracks={"a": {"mode": Mode.OFF}})
    with pytest.raises(RequestError, match="a is not reading its lanes") as caught:
        plan(off, "fold", Fold(("g",)))
    change, after = do(off, "fold", caught.value.remedy.step)
    assert after.track("a").reads and "now-reading" in [c.code for c in change.cautions]
    alike(on_reading := off.with_tracks(replace(t, mode=Mode.READ) for t in off.tracks), after)
    alike(on_reading, do(off, "gather", Gather("g", set_to_read=True))[1])
    moved = do(off, "change group", ChangeGroup("g", let_go=("a",), set_to_read=True))[1]
    assert moved.track("a").reads and own(moved, "a", 2) == [-13]
    assert plan(session([], group=-3.0, tracks={"a": {"mode": Mode.OFF}}), "fold", Fold(("g",))).heard.largest <= 1e-9


def test_a_silent_fader_makes_members_silent_and_that_is_said():
    on = session([("g", "track", line((0, 0.0, HOLD), (4, -96.0)))])
    change, after = do(on, "fold", Fold(("g",)))
    assert own(after, "a", 2, 6) == [-10, -96] and "silence" in [c.code for c in change.cautions]
    alike(on, after)


def test_what_one_member_does_is_gathered():
    """a goes from −14 to −6: about its mean, −10, that is −4 to 4; it goes up, and a stays at −10, b gives it away."""
    on = session([("a", "track", line((0, -14.0), (8, -6.0)))])
    change, after = do(on, "gather", Gather("g", Tick(0), Tick(8 * BEAT), "member", "a"))
    assert own(after, "g", 0, 4, 7.5) == [-4, 0, 3.5] and own(after, "a", 0, 7.5) == [-10, -10]
    assert own(after, "b", 0, 7.5, 8) == [-16, -23.5, -20]
    alike(on, after)
    assert change.title == "Gather what a does up into g from 1.1.00 to 3.1.00"


def test_folding_much_says_so_and_thins_in_the_same_step():
    """A bend takes over 31 other bends in straight pieces: that is worth a word; thinned, it is heard within the bound."""
    fader = line(*((n / 2, -3.0 - n % 2 * 4, 8.0) for n in range(31)))
    on = session([("a", "track", line((0, -10.0, 5.0), (15, -20.0))), ("g", "track", fader)])
    change = plan(on, "fold", Fold(("g",)))
    (caution,) = [c for c in change.cautions if c.code == "many-points"]
    (touched,) = [t for t in change.touched if t.parameter == "a.l"]
    assert touched.points_before == 2 and touched.points_after >= 500
    assert (
        caution.message
        == f"33 points become {sum(t.points_after for t in change.touched):,}, as each takes over the others’ moves"
    )
    assert caution.remedy.step == Fold(("g",), within=0.1)
    thinned = plan(on, "fold", caution.remedy.step)
    (fewer,) = [t for t in thinned.touched if t.parameter == "a.l"]
    assert fewer.points_after < 150 and not [c for c in thinned.cautions if c.code == "many-points"]
    assert 0.001 < thinned.heard.largest <= 0.1 + 2e-3
    alike(on, thinned.applied_to(on), within=0.1 + 2e-3)


def test_what_is_common_is_the_mean_of_all_moves_about_their_means():
    """a moves ±4 about its mean, b ±2 the same way: ±3 goes up, a keeps ±1 and b ∓1."""
    on = session([("a", "track", line((0, -14.0), (8, -6.0))), ("b", "track", line((0, -22.0), (8, -18.0)))])
    _, after = do(on, "gather", Gather("g", Tick(0), Tick(8 * BEAT)))
    assert (
        own(after, "g", 0, 6) == [-3, 1.5]
        and own(after, "a", 0, 6) == [-11, -9.5]
        and own(after, "b", 0, 6) == [-19, -20.5]
    )
    alike(on, after)
    silent = session([("a", "track", line((0, -96.0, HOLD), (4, -10.0))), ("b", "track", line((0, -22.0), (8, -18.0)))])
    change, after = do(silent, "gather", Gather("g", Tick(0), Tick(8 * BEAT)))
    assert own(after, "g", 0, 6) == [-2, 1] and [c.code for c in change.cautions] == ["silence"]
    alike(silent, after)


def test_members_come_and_go_with_what_is_heard_staying_or_changing():
    on = session([FADE], group=-1.0)
    change, after = do(on, "change group", ChangeGroup("g", take_in=("c",), let_go=("a",)))
    assert (
        after.track("g").members == ("b", "c")
        and own(after, "c", 0, 2, 4) == [-5, -2, 1]
        and own(after, "a", 2) == [-13]
    )
    alike(on, after)
    assert change.title == "Take c into g and let a out of g; what is heard stays"
    change, after = do(on, "change group", ChangeGroup("g", take_in=("c",), heard="changes"))
    assert own(after, "c", 0) == [-5] and change.heard.largest == pytest.approx(6)
    assert "c Level would be heard up to 6.00 dB differently" in change.cautions[0].message
    assert heard(after, "c.l").envelope.value_at(4 * BEAT) == pytest.approx(-11)


def test_what_comes_in_has_to_be_able_to_go_as_far():
    on = session([("g", "track", line((0, 0.0), (4, -20.0)))])
    with pytest.raises(RequestError, match="c would have to go further than its level can"):
        plan(on, "change group", ChangeGroup("g", take_in=("c",)))


@pytest.mark.parametrize(
    ("verb", "request_", "code"),
    [
        ("fold", Fold(()), "groups-none"),
        ("fold", Fold(("a",)), "group-empty"),
        ("fold", Fold(("g",), members=("c",)), "member-not"),
        ("gather", Gather("g", what="member", member="c"), "member-not"),
        ("change group", ChangeGroup("a", take_in=("c",)), "group-not"),
        ("change group", ChangeGroup("g", take_in=("a",)), "members-none"),
        ("change group", ChangeGroup("g", take_in=("g",)), "group-circle"),
    ],
)
def test_what_cannot_be_is_refused_in_words(verb, request_, code):
    with pytest.raises(RequestError) as caught:
        plan(session([FADE]), verb, request_)
    assert caught.value.code == code and caught.value.accepted


@given(sessions(), st.integers(0, 2**32), st.none() | ranges(), st.booleans())
def test_fold_and_gather_leave_what_is_heard_as_it_is(on, seed, span, gather):
    on = grouped(on, Random(seed))
    groups = [t.id for t in on.tracks if t.members]
    start, end = (None, None) if span is None else (Tick(span[0]), Tick(span[1]))
    request = Gather(groups[0], start, end) if gather else Fold(tuple(groups), start, end)
    try:
        after = plan(on, "gather" if gather else "fold", request).applied_to(on)
    except RequestError as refused:
        assert refused.code in ("heard-differs", "silence")
        assume(False)
    for t in on.tracks:
        if t.kind is TrackKind.GROUP:
            if not gather:
                zero = heard(after, fader_of(t).id, groups=False).envelope
                assert zero.extremes(start or 0, LENGTH if end is None else end) == (0, 0) or not t.reads
            continue
        was, now = (heard(s, fader_of(t).id).envelope for s in (on, after))
        ticks = probes(was, now)
        ticks = ticks[(ticks >= 0) & (ticks < LENGTH)]
        assert np.abs(was.coordinate_at(ticks) - now.coordinate_at(ticks)).max() <= 0.0022
        outside = ticks[(ticks < (start or 0)) | (ticks >= (LENGTH if end is None else end))]
        mine, other = (heard(s, fader_of(t).id, groups=False).envelope for s in (on, after))
        assert np.abs(mine.coordinate_at(outside) - other.coordinate_at(outside)).max(initial=0) <= 1e-9


CORNERS = st.tuples(st.integers(0, 16 * BEAT), st.floats(-5, 6), st.sampled_from([0.0, 3.0, -2.0, HOLD]))


@given(st.lists(CORNERS, min_size=1, max_size=6, unique_by=lambda row: row[0]), st.floats(-40, -10))
def test_what_was_folded_is_gathered_again(corners, rest):
    """A member that rests takes over the group's moves, and gives them back: as they were, but for a level of their own."""
    on = session([("g", "track", Envelope.of(sorted(corners), Axis.LEVEL))], a=rest)
    on = on.with_tracks(replace(t, members=("a",)) if t.id == "g" else t for t in on.tracks)
    folded = plan(on, "fold", Fold(("g",), Tick(0), Tick(on.length))).applied_to(on)
    gather = Gather("g", Tick(0), Tick(on.length), what="member", member="a")
    back = plan(folded, "gather", gather).applied_to(folded)
    alike(on, back, 0.0022)
    was, now = (heard(s, "g.l", groups=False).envelope for s in (on, back))
    ticks = probes(was, now)
    ticks = ticks[(ticks >= 0) & (ticks < on.length)]
    assert np.ptp(was.coordinate_at(ticks) - now.coordinate_at(ticks)) <= 0.0022


# ── where groups meet: each other, bends, silence, tracks that are off ────────────────────────


def nested(*lanes, a=-10.0, g=-3.0, h=-6.0) -> Session:
    """a in g, g in h, c in none."""
    made = [
        track("a", a),
        track("c", -5.0),
        replace(track("g", g, members=("a",)), kind=TrackKind.GROUP),
        replace(track("h", h, members=("g",)), kind=TrackKind.GROUP),
    ]
    return Session(
        "s", 16 * BEAT, tuple(made), tuple(Lane(f"L{n}", f"{p}.l", "track", e) for n, (p, e) in enumerate(lanes))
    )


def test_leaving_and_joining_a_nested_group_counts_the_shares_of_all_above():
    """a at −10 under −3 and −6 is heard at −19; c at −5 comes in and has to be 9 dB higher, at 4."""
    on = nested()
    change, after = do(on, "change group", ChangeGroup("g", let_go=("a",)))
    assert own(after, "a", 0) == [-19.0] and change.heard.largest == 0
    _, joined = do(on, "change group", ChangeGroup("g", take_in=("c",)))
    assert own(joined, "c", 0) == [4.0]
    alike(on, joined, ids=("a", "c"))


def test_one_budget_for_a_sum_of_nested_bends_and_none_of_it_is_shown_as_nothing():
    """Three bends that meet: what is heard and what is folded err by 0.001 dB in all, beside a reckoning in small steps."""
    rows = [
        ("a", line((0, -40.0, 4.0), (16, -10.0))),
        ("g", line((0, 0.0, -3.0), (16, -9.0))),
        ("h", line((0, -2.0, 5.0), (16, 1.0))),
    ]
    on = nested(*rows, g=0.0, h=0.0)
    ticks = np.arange(0, 16 * BEAT, BEAT // 97)
    true = sum(curve.coordinate_at(ticks) for _, curve in rows)
    folded, after = do(on, "fold", Fold(("g", "h")))
    for state in (on, after):
        assert np.abs(heard(state, "a.l").envelope.coordinate_at(ticks) - true).max() <= 1.0001e-3
    assert 0 < folded.heard.largest <= 1.2e-3
    one = on.parameter("a.l")
    assert [one.format_distance(x) for x in (0.0, 0.0004, 0.002, 0.3)] == [
        "0.00 dB",
        "0.0004 dB",
        "0.002 dB",
        "0.30 dB",
    ]


def test_sums_are_limited_once_and_know_no_member_s_own_lowest_value():
    """−50 under −60 and +30 is −80, though −110 is none; a member that can be −60 at least is heard at −70 all the same."""
    assert own_net(nested(a=-50.0, g=-60.0, h=30.0 - 18.0), "a") == pytest.approx(-96.0)  # −98 is heard as silence
    assert own_net(nested(("h", line((0, 12.0))), a=-50.0, g=-50.0, h=0.0), "a") == pytest.approx(-88.0)
    low = nested(a=-50.0, g=-20.0, h=0.0)
    tracks = (replace(low.tracks[0], parameters=(replace(low.tracks[0].parameters[0], low=-60.0),)), *low.tracks[1:])
    assert own_net(replace(low, tracks=tracks), "a") == pytest.approx(-70.0)


def own_net(on, id):
    return heard(on, f"{id}.l").envelope.values[0]


def test_what_setting_to_read_lets_be_heard_is_said_from_what_is_heard_today():
    """a is off and rests at −10; its lane is at −20: read under a group at −6, which is folded, it is heard at −26."""
    off = session([("a", "track", line((0, -20.0))), FADE], tracks={"a": {"mode": Mode.OFF}})
    change, after = do(off, "fold", Fold(("g",), set_to_read=True))
    assert change.heard.parameter == "a.l" and change.heard.largest == pytest.approx(10.0)
    (said,) = (c for c in change.cautions if c.code == "now-reading")
    assert (
        said.message
        == "a reads its lanes from now on, which was not so: its Level is heard up to 10.00 dB differently at 1.1.00"
    )
    assert own(after, "a", 0, 4) == [-20.0, -26.0] and not [c for c in change.cautions if c.code == "heard-differs"]


def test_a_member_that_is_off_takes_over_a_group_that_stays_where_it_is():
    off = session(
        [("a", "track", line((0, -20.0), (4, -30.0))), ("g", "track", line((0, -6.0)))],
        tracks={"a": {"mode": Mode.OFF}},
    )
    for verb, request in (
        ("fold", Fold(("g",))),
        ("change group", ChangeGroup("g", let_go=("a",))),
        ("dissolve group", DissolveGroup("g")),
    ):
        change, after = do(off, verb, request)
        assert own(after, "a", 0, 9) == [-16.0, -16.0] and change.heard.largest < 1e-9
        assert after.lane_at("a.l").envelope.values.tolist() == [-26.0, -36.0]


def test_silence_in_a_group_is_said_and_no_fade_goes_too_far():
    silent = session([("g", "track", line((0, 0.0), (4, -96.0), (8, -96.0), (12, 0.0)))])
    for verb, request in (("change group", ChangeGroup("g", let_go=("a",))), ("dissolve group", DissolveGroup("g"))):
        change, after = do(silent, verb, request)
        assert {c.message for c in change.cautions if c.code == "silence"} >= {
            "g is silent in between: a is made silent there, as it is now"
        }
        assert own(after, "a", 5, 13) == [-96.0, -10.0]
    change, after = do(silent, "fold", Fold(("g",)))
    assert [c.code for c in change.cautions] == ["silence"] and not any(t.spans_limited for t in change.touched)
    with pytest.raises(RequestError, match=r"c would be silent there") as refused:
        plan(silent, "change group", ChangeGroup("g", take_in=("c",)))
    accepted = plan(silent, "change group", refused.value.remedy.step)
    assert accepted.heard.largest == pytest.approx(91.0) and accepted.cautions[0].code == "heard-differs"


def test_gathering_what_does_not_move_says_so_and_many_points_can_be_thinned():
    still = plan(session([FADE]), "gather", Gather("g", what="member", member="a"))
    assert still.empty and [c.message for c in still.cautions] == ["a does not move there: nothing goes up"]
    random = Random(3)
    lanes = [(id, "track", line(*((n / 20, random.uniform(-30, -10)) for n in range(300)))) for id in "ab"]
    on = session([(id, home, curve.shift(i * 7)) for i, (id, home, curve) in enumerate(lanes)])
    change = plan(on, "gather", Gather("g"))
    (said,) = (c for c in change.cautions if c.code == "many-points")
    assert said.message == "600 points become 1,803, as each takes over the others’ moves"
    thinned, after = do(on, "gather", said.remedy.step)
    assert sum(t.points_after for t in thinned.touched) < sum(t.points_after for t in change.touched)
    assert 1e-3 < thinned.heard.largest <= 0.1 + 1.2e-3
    alike(on, after, 0.1 + 3e-3, ids=("a", "b"))
