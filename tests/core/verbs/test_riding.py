"""Passes: what hands do on controls becomes lanes by each control's mode, beside a slow plain model of the modes."""

from dataclasses import replace

import numpy as np
import pytest
from hypothesis import assume, given
from hypothesis import strategies as st

from tests.strategies import LENGTH, grouped, probes, ranges, sessions
from velmot.core.curves.axes import Axis
from velmot.core.curves.envelope import Envelope
from velmot.core.errors import RequestError
from velmot.core.parameters.parameter import Family, Kind, Label, Parameter, level, mute
from velmot.core.session.heard import heard, reading
from velmot.core.session.session import Session
from velmot.core.session.track import Device, Lane, Mode, Precedence, Region, Track, TrackKind
from velmot.core.time.ticks import TICKS_PER_BEAT as BEAT
from velmot.core.time.ticks import Tick
from velmot.core.verbs import plan
from velmot.core.verbs.ride.request import Hand, Pass, Ridden, Ride
from velmot.core.verbs.thin.request import Within

EXACT = (Within("dB", 0.0), Within("octaves", 0.0), Within("", 0.0), Within("%", 0.0))
ON = Parameter(
    "k.on",
    "Delay on",
    Family.DEVICE,
    Kind.SWITCH,
    labels=(Label(0, "off"), Label(1, "on")),
    value=1,
    default=1,
    device="k",
)
TIME = Parameter("k.time", "Time", Family.DEVICE, unit="%", low=0, high=100, value=50, device="k")


def b(beats) -> Tick:
    return Tick(round(beats * BEAT))


def hand(*rows) -> list[tuple]:
    """Events from rows of (beat, value): the first a touch, the last the release."""
    does = ["touch", *["move"] * (len(rows) - 2), "release"]
    return [(b(beat), does, value) for (beat, value), does in zip(rows, does, strict=True)]


def columns(events) -> Hand:
    """A hand's events, (tick, what is done, value), as a request brings them."""
    return Hand(*(tuple(column) for column in zip(*events, strict=True))) if events else Hand()


def session(*lanes, group=0.0, **track) -> Session:
    """A track a (level resting at −12, mute, a delay) under a group g; 16 beats at 4/4."""
    rows = [(p, "track", [(0, y)] if isinstance(y, float) else y) for p, y in (lanes or (("a.l", -12.0),))]
    fields = {"mode": Mode.READ, "regions": ()} | track
    a = Track(
        "a",
        "a",
        parameters=(level("a.l", value=-12.0), mute("a.m"), ON, TIME),
        devices=(Device("k", "Delay", "delay"),),
        **fields,
    )
    g = Track("g", "g", TrackKind.GROUP, parameters=(level("g.l", value=group),), members=("a",))
    return Session("s", 16 * BEAT, (a, g), tuple(lane(n, *row) for n, row in enumerate(rows)))


def lane(n, parameter, home, rows) -> Lane:
    points = [(round(beat * BEAT), value, *rest) for beat, value, *rest in rows]
    return Lane(f"L{n}", parameter, home, Envelope.of(points, Axis.LEVEL if parameter.endswith(".l") else Axis.LINEAR))


def ride(on, *events, start=0, end=8, parameter="a.l", **how):
    """(change, session after) of one control ridden in one pass, every point kept unless said otherwise."""
    whole = {k: how.pop(k) for k in ("return_over", "lands", "set_to_read", "within") if k in how}
    one = Pass(b(start), b(end), (Ridden(parameter, columns(events), **{"mode": "touch"} | how),))
    change = plan(on, "ride", Ride((one,), **{"within": EXACT} | whole))
    return change, change.applied_to(on)


def at(on, *beats, parameter="a.l", side="right", groups=False):
    curve = heard(on, parameter, groups=groups).envelope
    return pytest.approx(curve.at(np.array([b(x) for x in beats]), side).tolist())


RIDE = hand((2, -6.0), (4, -3.0))


def test_touch_goes_back_over_its_return_time():
    change, after = ride(session(), *RIDE)
    assert at(after, 0, 1.99, 2, 3, 4, 4.5, 5, 8) == [-12, -12, -6, -4.5, -3, -7.5, -12, -12]
    assert change.title == "Ride a Level from 1.1.00 to 3.1.00 in touch; touch goes back over 1 beat"
    [touched] = change.touched
    assert (touched.start, touched.end) == (b(2), b(5))
    assert at(ride(session(), *RIDE, return_over=Tick(0))[1], 3.99, 4) == [-3.015, -12]
    assert at(ride(session(), *RIDE, end=4.5)[1], 4, 4.25, 4.5) == [-3, -7.5, -12], "no further than the pass"


def test_a_control_is_taken_where_it_stands_from_then_on():
    jump = session(("a.l", [(0, -30.0), (2, -30.0), (2, -9.0), (16, -9.0)]))
    assert at(ride(jump, *hand((2, None), (4, None)))[1], 1.9, 2, 3) == [-30, -9, -9]


def test_latch_holds_the_last_value_to_the_end_and_write_begins_with_the_pass():
    moves = [(0, -20.0), (8, -4.0), (16, -20.0)]
    _, latched = ride(session(("a.l", moves)), *RIDE, mode="latch")
    assert at(latched, 1, 2, 3, 4, 6, 8) == [-18, -6, -4.5, -3, -3, -4] and at(latched, 8, side="left") == [-3]
    _, whole = ride(session(("a.l", moves)), *RIDE, mode="write", start=1)
    assert at(whole, 0.5, 1, 1.9, 2, 4, 7.9, 9) == [-19, -18, -18, -6, -3, -3, -6]
    _, untouched = ride(session(("a.l", moves)), mode="write", start=1)
    assert at(untouched, 1, 7.9, 8) == [-18, -18, -4]


def test_the_tracks_own_mode_counts_and_read_and_off_write_nothing():
    on = session(mode=Mode.LATCH)
    assert at(ride(on, *RIDE, mode="the track's")[1], 6) == [-3]
    for mode in ("read", "off"):
        change, after = ride(on, *RIDE, mode=mode)
        assert after == on and [c.code for c in change.cautions] == ["not-written"]
        again = plan(on, "ride", change.cautions[0].remedy.step)
        assert at(again.applied_to(on), 6) == [-3]
    assert ride(on, mode="read")[0].cautions == (), "nothing is ridden yet"


def test_trim_adds_what_the_hand_changes_to_what_is_there():
    moves = [(0, -20.0, 3.0), (4, -10.0), (16, -22.0)]
    on = session(("a.l", moves))
    three_less = hand((2, -3.0), (4, -3.0))
    _, after = ride(on, *three_less, mode="latch", trim=True)
    beats = np.arange(0, 8, 0.125)
    was, now = (heard(s, "a.l").envelope.at((beats * BEAT).astype(int)) for s in (on, after))
    assert now - was == pytest.approx(np.where(beats < 2, 0.0, -3.0), abs=1e-9)
    _, spread = ride(on, *three_less, mode="latch", trim=True, spread="everywhere")
    now = heard(spread, "a.l").envelope.at((beats * BEAT).astype(int))
    assert now - was == pytest.approx(np.full(len(beats), -3.0), abs=1e-9)
    _, back = ride(on, *three_less, trim=True)
    assert at(back, 4.5, 5) == [-10.5 - 1.5, -11], "in touch the change goes back to 0"
    assert ride(on, mode="write", trim=True)[1] == on


def test_spread_takes_the_last_value_to_the_start_to_the_end_or_everywhere():
    on = session()
    assert at(ride(on, *RIDE, spread="to the start")[1], 0, 3, 4, 4.5, 5) == [-3, -3, -3, -7.5, -12]
    assert at(ride(on, *RIDE, spread="to the end")[1], 1, 2, 4, 7.9, 8) == [-12, -6, -3, -3, -12]
    twice = (*hand((1, -9.0), (1.5, -9.0)), *hand((4, -6.0), (5, -3.0)))
    assert at(ride(on, *twice, spread="to the end")[1], 1.2, 2, 3, 5, 7.9) == [-9, -10.5, -12, -3, -3]
    assert at(ride(on, *RIDE, spread="everywhere", start=1)[1], 0.9, 1, 7.9, 8) == [-12, -3, -3, -12]
    assert at(ride(on, *RIDE, spread="to the end", mode="write")[1], 0, 2, 7.9) == [-12, -6, -3]
    assert at(ride(on, *RIDE, spread="to the start", mode="latch")[1], 0, 2, 7.9) == [-3, -3, -3]


def test_a_late_hand_is_held_back_to_the_start_of_the_pass_or_of_the_region():
    take = Region("r", "take", b(1), b(6))
    on = session(regions=(take,))
    assert at(ride(on, *RIDE, first_from="the pass's start")[1], 0, 1.9, 3, 5) == [-6, -6, -4.5, -12]
    assert at(ride(on, *RIDE, first_from="the region's start", start=1.5)[1], 0.9, 1, 2, 3) == [-12, -6, -6, -4.5]
    assert at(ride(on, *RIDE, first_from="the pass's start", mode="write")[1], 0, 1.9, 3, 7) == [-6, -6, -4.5, -3]
    inner = Region("s", "inner", b(1.5), b(2))
    assert at(ride(session(regions=(inner, take)), *RIDE, first_from="the region's start")[1], 1.4, 1.5) == [-12, -6]
    other = session()
    assert at(ride(other, *RIDE, first_from="the region's start")[1], 0, 1.9) == [-6, -6], "no region: the pass"


def test_a_member_ridden_while_its_group_moves_has_no_false_step():
    group = ("g.l", [(0, -9.0), (8, -1.0)])
    on = session(("a.l", -12.0), group)
    _, after = ride(on, *hand((2, None), (4, -3.0)), mode="latch")
    assert at(after, 2, side="left") == [-12] and at(after, 2, 3, 4) == [-12, -7.5, -3]
    _, net = ride(on, *hand((2, None), (4, -8.0)), mode="latch", shows="heard")
    assert at(net, 2, groups=True) == [-12 - 7] and at(net, 4, 6, groups=True) == [-8, -8]
    assert at(net, 2) == [-12] and at(net, 4) == [-3], "the group's −5 there is taken off"
    assert ride(on, *RIDE, trim=True, shows="heard")[1] == ride(on, *RIDE, trim=True)[1]


def test_a_pass_lands_where_it_is_heard_across_regions():
    take = Region("r", "take", b(3), b(4))
    on = replace(
        session(regions=(take,)), lanes=(lane(0, "a.l", "track", [(0, -12.0)]), lane(1, "a.l", "r", [(0, -30.0)]))
    )
    _, after = ride(on, *hand((2, -6.0), (6, -2.0)))
    assert at(after, 2, 2.9, 3, 4, 6, 6.5, 7) == [-6, -5.1, -5, -4, -2, -16, -12], "back to −30, which ends at 7"
    assert at(after, 7, side="left") == [-30]
    own, inside = (after.lane_at("a.l", home).envelope for home in ("track", "r"))
    assert own.at(np.array([b(5)])) == -12 and inside.at(np.array([b(0), b(3)])).tolist() == [-5, -2]
    change, tracked = ride(on, *hand((2, -6.0), (6, -2.0)), lands="on the track")
    assert tracked.lane_at("a.l", "r") == on.lane_at("a.l", "r") and at(tracked, 2, 4) == [-6, -30]
    wins = next(c for c in change.cautions if c.code == "region-wins")
    assert plan(on, "ride", wins.remedy.step).applied_to(on) == after


def test_where_the_tracks_lanes_win_a_first_lane_takes_over_what_its_regions_do():
    on = replace(
        session(regions=(Region("r", "take", b(3), b(4)),)),
        precedence=Precedence.TRACK,
        lanes=(lane(1, "a.l", "r", [(0, -30.0)]),),
    )
    _, inside = ride(on, *hand((4, -6.0), (5, -2.0)), return_over=Tick(0))
    assert inside.lane_at("a.l") is None and at(inside, 3, 4, 5, 8) == [-30, -6, -30, -12]
    change, after = ride(on, *hand((2, -6.0), (4, -2.0)), return_over=Tick(0))
    assert at(after, 1, 2, 3, 4, 6.9, 7) == [-12, -6, -4, -30, -30, -12]
    assert after.lane_at("a.l", "r") == on.lane_at("a.l", "r") and [c.code for c in change.cautions] == ["takes-over"]


def test_what_would_not_be_heard_is_said_before_it_starts_with_its_remedy():
    off = session(mode=Mode.OFF)
    [caution] = ride(off, mode="latch")[0].cautions
    assert caution.code == "not-reading"
    change = plan(off, "ride", caution.remedy.step)
    assert change.applied_to(off).track("a").mode is Mode.READ and change.cautions[0].code == "now-reading"
    muted = session(("a.m", [(0, 0.0), (6, 1.0), (7, 0.0)]))
    muted = replace(
        muted,
        lanes=tuple(
            replace(x, envelope=Envelope.of([(t, v, np.inf) for t, v, _ in x.envelope.points()])) for x in muted.lanes
        ),
    )
    [caution] = ride(muted, mode="latch")[0].cautions
    assert caution.message == "a is muted from 2.3.00 to 2.4.00: this would not be heard"
    step = plan(muted, "same values", caution.remedy.step).applied_to(muted)
    assert ride(step, mode="latch")[0].cautions == ()
    dead = session(("k.time", 50.0))
    dead = dead.with_tracks(
        replace(t, parameters=tuple(replace(p, value=0) if p.id == "k.on" else p for p in t.parameters))
        for t in dead.tracks
    )
    [caution] = ride(dead, mode="latch", parameter="k.time")[0].cautions
    assert caution.message == "Delay is off: this would not be heard"
    awake = plan(dead, "draw", caution.remedy.step).applied_to(dead)
    assert ride(awake, mode="latch", parameter="k.time")[0].cautions == ()


def test_named_values_hold_and_know_no_way_back():
    on = session(("a.l", -12.0))
    _, after = ride(on, *hand((2, 1.0), (4, 0.2), (5, 0.2)), parameter="a.m")
    assert at(after, 1.9, 2, 3.9, 4, 5.5, parameter="a.m") == [0, 1, 1, 0, 0]
    with pytest.raises(RequestError, match="a Muted has named values and knows no trim"):
        ride(on, parameter="a.m", trim=True)


def test_passes_lie_over_each_other_in_the_order_they_were_ridden():
    one = Pass(b(0), b(8), (Ridden("a.l", columns(hand((0, -6.0), (8, -6.0))), "latch"),))
    two = Pass(b(2), b(4), (Ridden("a.l", columns(hand((2, 2.0), (4, 2.0))), "latch", trim=True),))
    after = plan(session(), "ride", Ride((one, two))).applied_to(session())
    assert at(after, 0, 2, 3.9, 4) == [-6, -4, -4, -6]
    assert at(plan(session(), "ride", Ride((two, one))).applied_to(session()), 3) == [-6]


def test_a_hand_is_thinned_within_the_bound_and_keeps_where_it_took_hold_and_let_go():
    wobble = [(2 + n / 100, -10 + 6 * np.sin(n / 40) + 0.04 * (-1) ** n) for n in range(400)]
    _, after = ride(session(), *hand(*wobble), mode="latch", within=())
    _, every = ride(session(), *hand(*wobble), mode="latch")
    was, now = (heard(s, "a.l").envelope for s in (every, after))
    ticks = probes(was, now)
    apart = np.abs(was.coordinate_at(ticks) - now.coordinate_at(ticks))
    assert apart.max() <= 0.1 + 1e-9 and len(now) < len(was) / 10
    ends = np.array([b(2), b(2 + 399 / 100)])
    assert now.at(ends).tolist() == pytest.approx(was.at(ends).tolist(), abs=1e-12)
    assert len(
        heard(ride(session(), *hand(*wobble), mode="latch", within=(Within("dB", 3.0),))[1], "a.l").envelope
    ) < len(now)


@pytest.mark.parametrize(
    ("events", "said"),
    [
        (((b(2), "release", None),), "event 1: a release comes without a touch"),
        (((b(2), "move", -3.0),), "event 1: a move comes without a touch"),
        ((*RIDE, (b(3), "touch", None)), "event 3: a touch comes earlier than the one before it"),
        (((Tick(0), "touch", None),), "event 1: a touch comes before the pass starts"),
        (((b(1), "touch", None), (b(8.1), "release", None)), "event 2: a release comes after the pass ends"),
    ],
)  # fmt: skip
def test_events_that_cannot_be_are_refused_by_number(events, said):
    with pytest.raises(RequestError) as caught:
        ride(session(), *events, start=0.5)
    assert caught.value.code == "hand-events" and caught.value.message == said


def test_hands_that_overlap_are_one_and_passes_that_cannot_be_are_refused():
    two = (
        *hand((2, -6.0), (4, -3.0))[:1],
        (b(3), "touch", -9.0),
        (b(4), "release", None),
        (b(5), "release", None),
    )
    assert at(ride(session(), *two)[1], 2, 2.5, 3, 4.9, 6) == [-6, -7.5, -9, -9, -12]
    control = Ridden("a.l", columns(RIDE), "touch")
    for one, code in [
        (Pass(b(2), b(2), (control,)), "range-empty"),
        (Pass(b(0), b(8), (control, control)), "control-twice"),
        (Pass(b(16), b(18), (control,)), "pass-beyond"),
        (Pass(b(0), b(8), ()), "passes-none"),
    ]:
        with pytest.raises(RequestError) as caught:
            plan(session(), "ride", Ride((one,)))
        assert caught.value.code == code
    for wrong in ({"return_over": Tick(-1)}, {"within": (Within("dB", -1.0),)}):
        with pytest.raises(RequestError, match="cannot be negative"):
            ride(session(), *RIDE, **wrong)
    _, after = ride(session(), *hand((2, 40.0), (4, -200.0)))
    assert at(after, 2, 4) == [12, -96], "a control stops at its ends"


@st.composite
def hands(draw, start, end):
    """Touches, moves and releases in order; the last may never let go."""
    times = sorted(draw(st.lists(st.integers(start, end), min_size=1, max_size=12)))
    events, held = [], False
    for tick in times:
        does = draw(st.sampled_from(["move", "move", "release"])) if held else "touch"
        events.append((tick, does, draw(st.none() | st.floats(-60.0, 12.0))))
        held = does != "release"
    return events


def plain(events, mode, there, start, end, back, tick):
    """What a lane does at a tick of a pass, walked through event by event; None where nothing is written."""
    value, held, left_at, taken, touched, shown = None, False, None, None, False, there(start)

    def away(t):
        """Where the control stands at t, when no hand is on it."""
        if not touched:
            return shown if mode == "write" else there(t)
        if mode != "touch":
            return value
        stop = min(left_at + back, end)
        if t == left_at:
            return value  # taken again at the very moment it was let go: it has not gone anywhere
        if t < stop:
            return value + (there(stop, "left") - value) * (t - left_at) / (stop - left_at)
        return there(t)

    for at_, does, y in [*events, (end, "end", None)]:
        if at_ > tick or does == "end":
            break
        if does == "touch":
            value = away(at_) if y is None else y
            held, touched, taken = True, True, at_
        else:
            value = value if y is None else y
            if does == "release":
                held, left_at = False, at_
    if held:
        coming = [(t, does, y) for t, does, y in events if t > tick and does != "touch"]
        following = next((one for one in coming if one[2] is not None or one[1] == "release"), None)
        last = max(t for t, does, y in events if taken <= t <= tick and (y is not None or does == "touch"))
        if following is None or following[2] is None:
            return value  # let go before it is moved again
        return value + (following[2] - value) * (tick - last) / (following[0] - last)
    if not touched:
        return shown if mode == "write" else None
    if mode == "touch" and tick >= min(left_at + back, end):
        return None
    return away(tick)


def glides(curve, tick):
    """Whether a curve is on its way between two values at a tick."""
    i = int(np.searchsorted(curve.ticks, tick, "right")) - 1
    if not 0 <= i < len(curve) - 1 or curve.ticks[i] == tick:
        return False
    return bool(np.isfinite(curve.bends[i])) and curve.values[i] != curve.values[i + 1]


@given(sessions(), st.data(), st.sampled_from(["touch", "latch", "write"]), st.booleans())
def test_each_mode_beside_a_plain_model_and_nothing_outside_the_pass_changes(session, data, mode, trim):
    session = grouped(session, data.draw(st.randoms(use_true_random=False)))
    levels = [p for t in session.tracks for p in t.parameters if p.family is Family.LEVEL]
    parameter = data.draw(st.sampled_from(levels))
    start, end = data.draw(ranges())
    assume(end - start > 4)
    events = data.draw(hands(start, end))
    back = data.draw(st.integers(0, LENGTH // 4))
    request = Ride(
        (Pass(Tick(start), Tick(end), (Ridden(parameter.id, columns(events), mode, trim),)),), Tick(back), EXACT
    )
    change = plan(session, "ride", request)
    assume("heard-elsewhere" not in [c.code for c in change.cautions])  # a first lane where the track's wins: said
    after = change.applied_to(session)
    was, now = (heard(reading(s), parameter.id, groups=False).envelope for s in (session, after))
    ticks = probes(was, now, extra=(start, end, *(t for t, _, _ in events)))
    outside = ticks[(ticks < start) | ((ticks >= end) & (ticks < session.length))]
    assert now.coordinate_at(outside) == pytest.approx(was.coordinate_at(outside), rel=0, abs=1e-9)
    assert start == 0 or now.value_at(start, "left") == pytest.approx(was.value_at(start, "left"), rel=0, abs=1e-9)
    others = [p.id for t in session.tracks for p in t.parameters if p.id != parameter.id]
    assert all(session.lanes_of(p) == after.lanes_of(p) for p in others)

    def there(tick, side="right"):
        return 0.0 if trim else float(was.coordinate_at(np.array([tick]), side)[0])

    for tick in ticks[(ticks >= start) & (ticks < end)].tolist():
        wanted = plain(events, mode, there, start, end, back, tick)
        old = float(was.coordinate_at(np.array([tick]))[0])
        if old <= -96 and glides(was, tick):  # no silence, only nearer to it than numbers tell
            continue
        if wanted is None:
            wanted = old
        elif trim:
            wanted = -96.0 if old <= -96 else old + wanted
        made = float(now.coordinate_at(np.array([tick]))[0])
        assert made == pytest.approx(min(max(wanted, -96.0), 12.0), abs=0.0011 if trim else 1e-6), tick


# ── where passes meet groups, silence and each other ──────────────────────────────────────────


def ridden(on, *events, at=(0, 12), parameter="a.l", **how):
    """A pass of one control, every point kept."""
    return Pass(b(at[0]), b(at[1]), (Ridden(parameter, columns([(b(t), d, v) for t, d, v in events]), **how),))


def values(on, *beats, parameter="a.l"):
    curve = heard(on, parameter, groups=False).envelope
    return pytest.approx(curve.at(np.array([b(x) for x in beats])).tolist())


def rode(on, *passes, **how):
    change = plan(on, "ride", Ride(passes, b(0), EXACT, **how))
    return change, change.applied_to(on)


def test_under_a_silent_group_a_level_keeps_its_own_value_and_silence_is_written_as_silence():
    """The group is silent from 4 to 8 and at −9 elsewhere: a hand at −21 writes −12 there, and nothing under silence."""
    fader = [(0, -9.0, float("inf")), (4, -96.0, float("inf")), (8, -9.0)]
    on = session(("a.l", -30.0), ("g.l", fader))
    touch = ridden(on, (2, "touch", -21.0), (10, "release", -21.0), mode="touch", shows="heard")
    change, after = rode(on, touch)
    assert values(after, 1, 3, 4, 7.9, 8, 9, 10) == [-30, -12, -30, -30, -12, -12, -30]
    assert "g is silent at 2.1.00: there this would not be heard" in [c.message for c in change.cautions]
    down = ridden(on, (1, "touch", -96.0), (3, "release", -96.0), mode="touch", shows="heard")
    assert values(rode(on, down)[1], 0.9, 1, 2.9, 3) == [-30, -96, -96, -30]


def test_a_later_pass_hears_the_groups_as_the_earlier_one_left_them():
    on = session()
    group = ridden(on, (0, "touch", -9.0), (12, "release", -9.0), parameter="g.l", mode="write")
    member = ridden(on, (2, "touch", -15.0), (6, "release", -15.0), mode="latch", shows="heard")
    assert values(rode(on, group, member)[1], 1, 3, 7) == [-12, -6, -6]
    together = Pass(b(0), b(12), (*group.controls, *member.controls))
    assert values(rode(on, together)[1], 3) == [-15]  # hands of one pass hear what was there


def test_the_last_of_two_hands_lets_go():
    on = session()
    one = [(2, "touch", -3.0), (3, "touch", -6.0), (5, "release", None)]
    assert values(rode(on, ridden(on, *one, mode="touch"))[1], 2, 6, 11) == [-3, -6, -6]
    both = ridden(on, *one, (6, "release", None), mode="touch")
    assert values(rode(on, both)[1], 5.9, 6, 11) == [-6, -12, -12]


def test_the_mean_knows_no_silence():
    """Four beats silent, two at −10 and two at −20: −15; and so for picked points."""
    from velmot.core.parameters.mean import time_weighted_mean
    from velmot.core.verbs.request import Picked
    from velmot.core.verbs.shape.request import SameValues

    held = float("inf")
    rows = [(0, -96.0, held), (4, -10.0, held), (6, -20.0, held), (8, -20.0)]
    on = session(("a.l", rows))
    curve = on.lane_at("a.l").envelope
    assert time_weighted_mean(curve, on.parameter("a.l"), 0, b(8)) == pytest.approx(-15.0)
    assert time_weighted_mean(curve, on.parameter("a.l"), 0, b(4)) == -96.0
    picked = SameValues(picked=(Picked("L0", (0, 1, 2)),), to="mean")
    assert values(plan(on, "same values", picked).applied_to(on), 0, 5, 6) == [-15, -15, -15]


def test_what_is_said_of_a_pass_is_so():
    """Muted groups and the session's end are said; a region wins only where the track's lanes do not."""
    on = session()
    g = replace(on.tracks[1], parameters=(*on.tracks[1].parameters, replace(mute("g.m"), value=1.0)))
    muted = replace(on, tracks=(on.tracks[0], g))
    touch = [(3, "touch", -6.0), (4, "release", -6.0)]
    change, _ = rode(muted, ridden(on, *touch, mode="touch"))
    (said,) = (c for c in change.cautions if c.code == "not-heard")
    assert said.message == "g is muted: this would not be heard" and said.track == "g" and said.remedy
    long, _ = rode(on, ridden(on, *touch, at=(0, 20), mode="touch"))
    assert [(c.code, c.start) for c in long.cautions] == [("beyond-end", b(16))]
    region = Region("r", "r", b(2), b(4))
    for precedence, wins in ((Precedence.TRACK, False), (Precedence.REGION, True)):
        inside = (lane(0, "a.l", "r", [(0, -9.0)]),)
        regional = replace(session(regions=(region,)), lanes=inside, precedence=precedence).checked()
        change, _ = rode(regional, ridden(on, *touch, mode="touch"), lands="on the track")
        assert ("region-wins" in {c.code for c in change.cautions}) == wins


def test_what_is_limited_is_counted_where_it_lands():
    """+8 on a level at 8 that can be 12, over a region's lane and the track's: one span on each, two in all."""
    region = Region("r", "r", b(4), b(4))
    on = session(("a.l", 8.0), regions=(region,))
    on = replace(on, lanes=(*on.lanes, lane(1, "a.l", "r", [(0, 8.0)]))).checked()
    change, _ = rode(on, ridden(on, (2, "touch", 8.0), (6, "release", 8.0), mode="touch", trim=True))
    assert [c.message for c in change.cautions if c.code == "limited"] == ["1 span limited to what a Level can be"]
    assert sorted(t.spans_limited for t in change.touched) == [1, 1]
