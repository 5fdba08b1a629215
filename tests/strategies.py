"""Every random envelope, session and request the property tests draw.

A session and a request are made out of one random number each: drawing every part of them takes most of a test.
"""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import fields, is_dataclass, replace
from enum import Enum
from functools import cache
from random import Random
from types import UnionType
from typing import Any, Literal, TypeVar, Union, get_args, get_origin, get_type_hints

import numpy as np
from hypothesis import strategies as st

from velmot.core.curves.axes import Axis
from velmot.core.curves.envelope import Envelope
from velmot.core.curves.followed import SILENT, Frames
from velmot.core.curves.segments import HOLD
from velmot.core.curves.shapes import Kind, Shape
from velmot.core.errors import RequestError
from velmot.core.findings import KINDS, all_findings
from velmot.core.parameters.parameter import Family, Label, Parameter, level, mute, pan
from velmot.core.session.alternatives import Alternative
from velmot.core.session.phrases import says
from velmot.core.session.remarks import About, LetBe, Note
from velmot.core.session.session import Session
from velmot.core.session.sounds import Audio, Excerpt, Sound
from velmot.core.session.track import Lane, Marker, Mode, Precedence, Region, Track, TrackKind
from velmot.core.tidy.request import Found
from velmot.core.time.ticks import TICKS_PER_BEAT, Tick
from velmot.core.verbs import OPERATIONS, plan
from velmot.core.verbs.carry.request import Carry
from velmot.core.verbs.follow.made import how_made
from velmot.core.verbs.follow.request import Follow, FollowOn
from velmot.core.verbs.frame.change import Change
from velmot.core.verbs.paste.request import Clip
from velmot.core.verbs.request import ClipPoint, Picked
from velmot.core.verbs.reuse.request import KeepPhrase, Place, PlaceOn, Pool, PoolPlace
from velmot.core.verbs.thin.request import Within

LENGTH = 64 * TICKS_PER_BEAT
RANGES = {Axis.LINEAR: (-100.0, 100.0), Axis.LOG: (20.0, 20000.0), Axis.LEVEL: (-96.0, 12.0)}

ticks = st.integers(0, LENGTH)
bends = st.one_of(st.just(0.0), st.just(HOLD), st.floats(-12, 12))


def values(axis: Axis) -> st.SearchStrategy[float]:
    low, high = RANGES[axis]
    return st.floats(low, high, allow_nan=False, width=32).map(lambda v: min(max(v, low), high))


@st.composite
def envelopes(draw: st.DrawFn, axis: Axis | None = None, held: tuple[float, ...] = (), most: int = 8) -> Envelope:
    """Points with bends, holds and jumps; with `held`, only holds between those values."""
    axis = axis or draw(st.sampled_from(list(Axis)))
    at = sorted(draw(st.lists(ticks, min_size=1, max_size=most)))
    at = [t for i, t in enumerate(at) if i < 2 or at[i - 2] != t]
    value = st.sampled_from(held) if held else values(axis)
    shape = st.just(HOLD) if held else bends
    return Envelope.of([(t, draw(value), draw(shape)) for t in at], axis)


@st.composite
def ranges(draw: st.DrawFn, end: int = LENGTH) -> tuple[int, int]:
    start = draw(st.integers(0, end - 1))
    return start, draw(st.integers(start + 1, end))


T = TypeVar("T")


def seeded(make: Callable[[Random], T]) -> st.SearchStrategy[T]:
    """What is made out of one random number."""
    return st.integers(0, 2**32).map(lambda seed: make(Random(seed)))


def _range(random: Random, end: int = LENGTH) -> tuple[int, int]:
    start = random.randint(0, end - 1)
    return start, random.randint(start + 1, end)


def _between(random: Random, low: float, high: float) -> float:
    """A number of a span, at its ends and whole ones more often than they would come up."""
    anywhere = random.uniform(low, high)
    return random.choice((low, high, min(max(float(round(anywhere)), low), high), anywhere, anywhere))


def parameters_of(track: str) -> tuple[Parameter, ...]:
    """One parameter of each form: level, pan, switch, log, stepped."""
    words = tuple(Label(float(v), text) for v, text in enumerate(("off", "light", "heavy")))
    return (
        level(f"{track}.level", value=-6.0),
        pan(f"{track}.pan"),
        mute(f"{track}.mute"),
        Parameter(
            f"{track}.cut", "Cut", Family.DEVICE, unit="Hz", axis=Axis.LOG, low=20, high=20000, default=80, value=80
        ),
        Parameter(f"{track}.step", "Step", Family.DEVICE, kind=mute("x").kind.STEPPED, low=0, high=2, labels=words),
    )


def held_values(parameter: Parameter) -> tuple[float, ...]:
    return tuple(label.value for label in parameter.labels)


def _lane_curve(random: Random, parameter: Parameter) -> Envelope:
    """As `envelopes` draws them, within what a parameter can be."""
    low, high = parameter.low, parameter.high
    spots = [random.choice((0, 1, LENGTH, random.randint(0, LENGTH))) for _ in range(random.randint(1, 4))]
    spots += [random.randint(0, LENGTH) for _ in range(random.randint(0, 4))]
    if random.random() < 0.3:
        spots.append(random.choice(spots))  # a jump
    at = sorted(spots)
    at = [t for i, t in enumerate(at) if i < 2 or at[i - 2] != t]
    if held := held_values(parameter):
        return Envelope.of([(t, random.choice(held), HOLD) for t in at], parameter.axis)

    def bend() -> float:
        return random.choice((0.0, HOLD, 12.0, -12.0, random.uniform(-12, 12), 50.0))

    kind = random.random()
    if kind < 0.1:
        return _stairs(random, parameter)
    rows = [(t, _between(random, low, high), bend()) for t in at]
    if kind < 0.25:
        rows = _with_near_jump(random, rows)
    return Envelope.of(rows, parameter.axis)


def _with_near_jump(random: Random, rows: list[tuple[int, float, float]]) -> list[tuple[int, float, float]]:
    """The rows with a point very near after one of them, and another value."""
    n = random.randrange(len(rows))
    at = rows[n][0] + random.choice((1, 10, 161, 10_000))
    room = rows[n + 1][0] if n + 1 < len(rows) else LENGTH
    return [*rows[: n + 1], (at, random.choice(rows)[1], 0.0), *rows[n + 1 :]] if at < room else rows


def _stairs(random: Random, parameter: Parameter) -> Envelope:
    """A controller's staircase: values rounded, some numbers skipped, not quite even in time."""
    place, step = 0.5, 1 / 127
    rows = []
    for n in range(random.randint(6, 30)):
        place = min(max(place + step * random.choice((1, 1, -1, 2)), 0.0), 1.0)
        low, high = parameter.reach
        value = round(float(parameter.axis.value_of(low + (high - low) * place)), 1)
        rows.append((n * LENGTH // 40 + random.randint(0, 9000), min(max(value, parameter.low), parameter.high), HOLD))
    return Envelope.of(rows, parameter.axis)


def sessions(regions: int = 0) -> st.SearchStrategy[Session]:
    """Three tracks of all forms, with regions (at least so many each, some overlap) and lanes at random homes."""
    return seeded(lambda random: _session(random, regions))


def _session(random: Random, regions: int = 0) -> Session:
    tracks: list[Track] = []
    lanes: list[Lane] = []
    for name in ("one", "two", "three"):
        made = tuple(_regions(random, name, random.randint(regions, 3)))
        own = Random(repr((name, made)))
        sound = _sound(own) if own.random() < 0.3 else None
        track = Track(
            name, name, mode=random.choice([*Mode]), parameters=parameters_of(name), regions=made, sound=sound
        )
        tracks.append(track)
        for parameter in track.parameters:
            for home in ("track", *(r.id for r in made)):
                if random.random() < 0.5:
                    lanes.append(Lane(f"L{len(lanes)}", parameter.id, home, _lane_curve(random, parameter)))
    precedence = random.choice([*Precedence])
    made = Session("random", LENGTH, tuple(tracks), tuple(lanes), precedence=precedence, markers=_markers(random))
    own = Random(repr((made.tracks, precedence)))
    return _with_alternatives(_with_remarks(made, own), own).checked()


def _with_alternatives(session: Session, random: Random) -> Session:
    """Mostly none; else some goes at a few parameters: what they do now, something else, also in regions that are gone, and of
    a range; some of one name.
    """
    if random.random() < 0.5:
        return session
    made: list[Alternative] = []
    for parameter in random.sample([p for t in session.tracks for p in t.parameters], random.randint(1, 3)):
        homes = ["track", "gone", *(r.id for r in session.owner(parameter.id).regions)]
        for _ in range(random.randint(1, 2)):
            n = len(made)
            own = tuple(x for x in session.lanes_of(parameter.id))
            some = tuple(
                Lane(f"A{n}.{home}", parameter.id, home, _lane_curve(random, parameter))
                for home in random.sample(homes, random.randint(0 if own else 1, len(homes)))
            )
            span = _range(random) if random.random() < 0.3 else (None, None)
            lanes = own if own and random.random() < 0.4 else some
            kept = random.choice(("", "2026-11-30T14:10"))
            made.append(Alternative(f"go{n}", random.choice(("first", "quiet")), parameter.id, lanes, (), kept, *span))
    return replace(session, alternatives=tuple(made))


def _with_remarks(session: Session, random: Random) -> Session:
    """Mostly none; else notes on things of every kind, and findings that are let be, one of a lane and a whole kind."""
    if random.random() < 0.6:
        return session
    things: list[tuple[About, str]] = [("lane", x.id) for x in session.lanes]
    for track in session.tracks:
        things += [("track", track.id), *(("region", r.id) for r in track.regions)]
        things += [("parameter", p.id) for p in track.parameters]
    noted = random.sample(things, random.randint(0, 3))
    quiet = random.sample([x.id for x in session.lanes], min(len(session.lanes), random.randint(0, 2)))
    kinds = [*KINDS]
    return replace(
        session,
        notes=tuple(Note(f"note{n}", about, of, f"  see {of}") for n, (about, of) in enumerate(noted)),
        let_be=(
            *(LetBe(f"let{n}", random.choice(kinds), of, random.choice((0, 1, LENGTH))) for n, of in enumerate(quiet)),
            *([LetBe("let-all", random.choice(kinds))] if random.random() < 0.3 else []),
        ),
    )


def _markers(random: Random) -> tuple[Marker, ...]:
    """A few, some of one name, without any, on one tick, or at the very end."""
    places = [random.choice((0, LENGTH, random.randint(0, LENGTH))) for _ in range(random.randint(0, 4))]
    return tuple(
        Marker(f"mark{n}", random.choice(("", "dawn", "dusk")), at, random.random() < 0.3)
        for n, at in enumerate(places)
    )


def _regions(random: Random, track: str, count: int) -> list[Region]:
    spans = [_range(random) for _ in range(count)]
    if count > 1 and spans[0][1] < LENGTH and random.random() < 0.5:
        spans[1] = (spans[0][1], random.randint(spans[0][1] + 1, LENGTH))  # two that touch
    own = Random(repr((track, spans)))  # of its own, so that everything else is drawn as it was
    return [
        Region(f"{track}.r{i}", f"r{i}", a, b - a, random.random() < 0.25, sound=_clips(own, b - a))
        for i, (a, b) in enumerate(spans)
    ]


def _sound(random: Random) -> Sound:
    audio = Audio("take.wav", f"{random.getrandbits(256):064x}")
    kind = random.choice(("tone", "bell", "rain", "notes", "file", "nothing"))
    return Sound(
        kind,
        hz=random.choice((1.0, 220.0, 440.5, 20_000.0)),
        amplitude=random.choice((0.0, 0.5, 0.1 + 0.2)),
        seed=random.choice((0, -3)),
        audio=audio if kind == "file" else None,
        offset=random.choice((0.0, 1 / 3)),
        start=random.choice((0, 1, LENGTH // 2)),
    )


def _clips(random: Random, length: int) -> tuple[Excerpt, ...]:
    """Mostly none; else one or two, with a gap between them or none."""
    if random.random() < 0.7 or length < 8:
        return ()
    a, b, c = sorted(random.sample(range(1, length), 3))
    made = [Excerpt(0, a, "take", random.random(), _sound(random) if random.random() < 0.5 else None)]
    return (*made, Excerpt(random.choice((a, b)), c - b, "other", 2.5)) if random.random() < 0.5 else tuple(made)


def grouped(session: Session, random: Random) -> Session:
    """The session with one group in it, or two that are nested; their faders move, rest, or have a region of their own."""
    inner = random.sample([t.id for t in session.tracks], random.randint(1, 3))
    outer = ["band", *(t.id for t in session.tracks if t.id not in inner)]
    lanes, tracks = [*session.lanes], [*session.tracks]
    for id, members in (("band", inner), ("all", outer))[: random.randint(1, 2)]:
        fader = level(f"{id}.level", value=random.choice((0.0, -6.0, 3.0)))
        regions = (Region(f"{id}.r", "part", LENGTH // 4, LENGTH // 4),) if random.random() < 0.3 else ()
        tracks.append(Track(id, id, TrackKind.GROUP, parameters=(fader,), regions=regions, members=tuple(members)))
        for home in ("track", *(r.id for r in regions)):
            if random.random() < 0.6:
                lanes.append(Lane(f"{id}.{home}", fader.id, home, _fader_curve(random)))
    return replace(session, tracks=tuple(tracks), lanes=tuple(lanes)).checked()


def _fader_curve(random: Random) -> Envelope:
    """What a group's fader does: mostly gentle, so that members can take it over."""
    at = sorted(random.sample(range(LENGTH), random.randint(1, 5)))
    silent = random.random() < 0.1
    rows = [
        (t, -96.0 if silent and n == 1 else random.uniform(-9, 1), random.choice((0.0, 0.0, 3.0, HOLD)))
        for n, t in enumerate(at)
    ]
    return Envelope.of(rows, Axis.LEVEL)


OF_REGIONS = ("carry regions", "cut regions", "join regions", "change regions", "remove regions", "embed", "lift")
OF_GROUPS = ("fold", "gather", "change group", "dissolve group")
OF_PLACES = ("place", "change places", "set free", "change phrase")


def linked_sessions(verb: str = "") -> st.SearchStrategy[Session]:
    """Random sessions in which a phrase and a shape have some places, all forms of reading among them.

    A verb of regions, groups or places mostly finds some.
    """
    return seeded(lambda random: _linked(random, verb))


def _linked(random: Random, verb: str) -> Session:
    of = verb
    session = _session(random, regions=1 if verb in OF_REGIONS else 0)
    session = grouped(session, random) if random.random() < (0.9 if verb in OF_GROUPS else 0.5) else session
    for _ in range(random.choice((1, 2) if verb in OF_PLACES else (0, 0, 1, 2))):
        lanes = [x for x in session.lanes if session.span(x)[1] - session.span(x)[0] > 8]
        if not lanes:
            break
        lane = random.choice(lanes)
        first, last = session.span(lane)
        start, end = sorted(random.sample(range(first, last), 2)) if random.random() < 0.6 else (first, last)
        steps = [("keep phrase", KeepPhrase(lane.id, Tick(start), Tick(end), "wave", random.random() < 0.7))]
        same = [p.id for t in session.tracks for p in t.parameters if p.name == session.parameter(lane.parameter).name]
        chosen = random.sample([p.id for t in session.tracks for p in t.parameters], 2) + same[:2]
        homes = [(p, _home(random, session, p)) for p in dict.fromkeys(chosen)]
        shaped = random.random() < 0.4
        wanted = Place(
            tuple(PlaceOn(p, home) for p, home in homes),
            Tick(random.choice([random.randint(0, LENGTH // 2), *(session.start_of(home) for _, home in homes)])),
            phrase=None if shaped else next(session.new_ids("phrase")),
            shape=Shape(random.choice(get_args(Kind)), cycles=random.choice((1, 2.5, 4))) if shaped else None,
            length=Tick(random.randint(8000, LENGTH // 2)) if shaped or random.random() < 0.5 else None,
            times=random.randint(1, 2),
            deep=random.choice(("range", "static")),
            depth=random.choice((100.0, 50.0, 20.0)),
            upside_down=random.random() < 0.3,
            backwards=random.random() < 0.3,
            stagger=Tick(random.choice((0, 1000, LENGTH // 16))),
            wrap=random.random() < 0.5,
        )
        for verb, request in (*steps, ("place", wanted)):
            try:
                session = plan(session, verb, request).applied_to(session)
            except RequestError:
                continue
    return _followed(random, session) if of == "make anew" else session


def _followed(random: Random, session: Session) -> Session:
    """The session with lanes in it that were made by following; of some the source has changed since."""
    for _ in range(6):
        try:
            asked = _follow(random, session, Follow(does=random.choice(("makes room", "opens", "follows", "lags"))))
            session = plan(session, "follow", asked, sounding=AnySound()).applied_to(session)
        except RequestError:
            continue
    return session


def _home(random: Random, session: Session, parameter: str) -> str:
    """Mostly the track, else one of its regions."""
    regions = session.owner(parameter).regions
    return random.choice(regions).id if regions and random.random() < 0.4 else "track"


@st.composite
def carries(draw: st.DrawFn, session: Session) -> Carry:
    """A carry of one track's lanes that live on it, to one or two tracks; whole or a range, sealed or ramped."""
    lanes = [x for x in session.lanes if x.on_track and session.owner(x.parameter).id == "one"]
    chosen = draw(st.lists(st.sampled_from(lanes), min_size=1, unique_by=lambda x: x.id))
    start, end = draw(ranges())
    return Carry(
        lanes=tuple(x.id for x in chosen),
        targets=tuple(draw(st.lists(st.sampled_from(["one", "two", "three"]), min_size=1, unique=True))),
        start=Tick(start),
        end=Tick(end),
        at=draw(st.none() | ticks.map(Tick)),
        how=draw(st.sampled_from(["copy", "move"])),
        edges=draw(st.sampled_from(["seal", "ramp"])),
        ramp=Tick(draw(st.integers(1, LENGTH // 4))),
    )


def earlier(session: Session) -> Session:
    """What a session may have been before: some lanes other ones or not there, regions elsewhere, a track of other values."""
    random = Random(repr((session.tracks, len(session.lanes))))
    lanes = []
    for lane in session.lanes:
        if random.random() < 0.25:
            continue
        parameter = session.parameter(lane.parameter)
        same = random.random() < 0.4
        lanes.append(lane if same else replace(lane, envelope=_lane_curve(random, parameter)))
    tracks = [
        replace(t, mode=random.choice([*Mode]), regions=tuple(replace(r, name=f"{r.name} then") for r in t.regions))
        if random.random() < 0.4
        else t
        for t in session.tracks
    ]
    state = replace(session, tracks=tuple(tracks), lanes=tuple(lanes), placements=(), markers=session.markers[:1])
    kept = [x for x in session.placements if not state.placement_problem(x)]
    true = [
        x
        for x in kept
        if says(
            state.phrase(x.phrase),
            x,
            state.parameter(x.parameter),
            state.lane_at(x.parameter, x.home).envelope,  # type: ignore[union-attr]
        )
    ]
    return replace(state, placements=tuple(true)).checked()


class AnySound:
    """Says how loud some tracks are: a level that moves in steps, of its own for each track."""

    def levels(self, session: Session, tracks: tuple[str, ...], start: float, end: float, **how: Any) -> Frames:
        count = max(round((end - start) * 1000), 1)
        random = Random(repr(tracks))
        steps = np.repeat([random.choice((-130.0, -60.0, -30.0, -12.0, -3.0)) for _ in range(97)], 350)
        at = (round(start * 1000) + np.arange(count)) % len(steps)
        return Frames(start, 0.001, np.maximum(steps[at], SILENT))

    def missing(self, session: Session, tracks: tuple[str, ...]) -> tuple[str, ...]:
        return ("take.wav",) if "two" in tracks else ()


def planned(session: Session, verb: str, request: Any, links: Any = None) -> Change:
    """A plan of any verb, those that bring something back or follow a sound among them."""
    return plan(session, verb, request, links, past=lambda revision: earlier(session), sounding=AnySound())


TYPED = ("-3 dB", "+2", "*0.5", "=-3", "muted", "1e9", "440 Hz", "-inf", "")


def requests(session: Session, verb: str) -> st.SearchStrategy[Any]:
    """Any request of a verb: most of its ids are the session's, most places lie in it, and not all of it makes sense."""
    return seeded(lambda random: _request(random, session, verb))


def _request(random: Random, session: Session, verb: str) -> Any:
    made = _built(random, OPERATIONS[verb].request, session)
    if verb == "place" and not _seldom(random):
        return _one_of_three(made, random.choice(("phrase", "given", "shape")))
    if verb == "pool" and session.lanes and not _seldom(random):
        return _pool(random, session, made)
    if verb in ("carry", "keep phrase") and (not session.alternatives or random.random() < 0.7):
        return replace(made, alternative=None)
    if verb == "follow" and not _seldom(random):
        return _follow(random, session, made)
    if verb == "make anew":
        made = replace(made, lanes=tuple(x.id for x in session.lanes if how_made(session, x))[: random.randint(1, 3)])
    if verb == "note":
        known = {"lane": "lane", "parameter": "parameter", "region": "region", "track": "track"}
        return replace(made, of=random.choice(_words(known[made.about], session)))
    if verb == "let be":
        return replace(made, kinds=tuple(random.sample([*KINDS], len(made.kinds))))
    if verb == "fold" and made.members and not _seldom(random):  # some members only where all of a group is folded
        return replace(made, start=None, end=None)
    return made


def _follow(random: Random, session: Session, request: Follow) -> Follow:
    """A follow whose numbers make sense, of a sound or of a lane, onto what its way can drive."""
    tracks = [t.id for t in session.tracks if not t.members]
    parameters = [p for t in session.tracks for p in t.parameters]
    of_levels = request.does in ("makes room", "evens out")
    able = [
        p
        for p in parameters
        if (p.family is Family.LEVEL if of_levels else not p.holds_only or request.does == "opens")
    ]
    targets = tuple(
        FollowOn(p.id, home=_home(random, session, p.id)) for p in random.sample(able, random.randint(1, 2))
    )
    by_sound = request.does != "lags" and random.random() < 0.7
    times = {
        n: random.choice((0.0, 5.0, 80.0))
        for n in ("window", "attack", "release", "hold", "lookahead", "least", "smooth")
    }
    return replace(
        request,
        targets=targets,
        tracks=tuple(random.sample(tracks, 1)) if by_sound else (),
        source=None if by_sound else random.choice(parameters).id,
        low=None,
        high=None,
        threshold=random.choice((-40.0, -20.0)),
        depth=random.choice((3.0, 96.0)),
        ratio=random.choice((None, 4.0)),
        knee=random.choice((0.0, 6.0)),
        hysteresis=3.0,
        band=1.0,
        most=random.choice((3.0, 12.0)),
        to=-18.0,
        delay=Tick(random.choice((0, 5000, TICKS_PER_BEAT))),
        grid=random.choice((None, Tick(TICKS_PER_BEAT))),
        slope=random.choice((None, 10.0)),
        within=(),
        **times,
    )


def _pool(random: Random, session: Session, request: Pool) -> Pool:
    """A part of a lane, and as other places what is as long beside it and on another lane, with bounds that mostly allow it."""
    lane, other = random.choice(session.lanes), random.choice(session.lanes)
    first, last = session.span(lane)
    part = max((last - first) // 4, 1)
    spans = [(x, Tick(a), Tick(a + part)) for x in (lane, other) for a in (first, first + part, first + 2 * part)]
    places = tuple(PoolPlace(x.id, a, b) for x, a, b in random.sample(spans[1:], random.randint(0, 2)))
    far = tuple(
        Within(session.parameter(x.parameter).distance_unit, random.choice((500.0, 1.0))) for x in (lane, other)
    )
    return replace(request, lane=lane.id, start=spans[0][1], end=spans[0][2], places=places, within=far)


def _one_of_three(request: Place, kept: str) -> Place:
    """A place request that names one thing to place, as most that are made do."""
    wanted = {"phrase": request.phrase or "phrase1", "given": request.given, "shape": request.shape or Shape()}
    return replace(request, **{name: wanted[name] if name == kept else None for name in wanted})


def _seldom(random: Random) -> bool:
    return random.random() < 1 / 16


_hints_of = cache(get_type_hints)


def _built(random: Random, kind: type[Any], session: Session) -> Any:
    hints = _hints_of(kind)
    made = kind(**{f.name: _any_of(random, f.name, hints[f.name], session) for f in fields(kind)})
    if not {"start", "end"} <= hints.keys() or _seldom(random):
        return made
    start, end = _range(random)
    return replace(made, start=Tick(start), end=Tick(end))


def _any_of(random: Random, name: str, hint: Any, session: Session) -> Any:
    """Anything a field may hold, by its type; what a string means is told by the field's name."""
    inner = get_args(hint)
    if get_origin(hint) is Literal:
        return random.choice(inner)
    if get_origin(hint) is tuple:
        return _some_of(random, name, inner[0], session)
    if get_origin(hint) in (Union, UnionType):
        one = random.choice(inner)
        return None if one is type(None) else _any_of(random, name, one, session)
    if name in LIKELY and hint in (int, float) and not _seldom(random):
        low, high = LIKELY[name]
        return random.randint(int(low), int(high)) if hint is int else _between(random, low, high)
    if hint is Picked and not _seldom(random):
        return _picked(random, session)
    if hint is Found and not _seldom(random):
        return _found(random, session)
    if hint is Clip and random.random() < 0.5:
        return _clip(random, session)
    if is_dataclass(hint):
        return _built(random, hint, session)
    if hint is Tick:
        return _tick(random, name, session)
    if hint is str:
        return random.choice(_words(name.removesuffix("s"), session))
    if hint is bool:
        return random.random() < 0.5
    return random.choice([*hint]) if issubclass(hint, Enum) else _number(random, hint)


def _some_of(random: Random, name: str, hint: Any, session: Session) -> tuple[Any, ...]:
    """A few of what a list may hold, seldom nothing."""
    if name == "devices" or _seldom(random):  # random sessions have no devices
        return ()
    if name == "regions" and random.random() < 0.5:
        return random.choice([*_neighbours(session), ("nowhere",)])
    least, most = (2, 4) if name == "stroke" else (1, 2 if is_dataclass(hint) else 4)
    return tuple(_any_of(random, name, hint, session) for _ in range(random.randint(least, most)))


LIKELY = {
    "times": (1, 3),
    "depth": (1.0, 100.0),
    "hysteresis": (0.0, 2.0),
    "skew": (0.0, 1.0),
    "lean": (0.0, 1.0),
    "hurry": (0.5, 2.0),
    "cycles": (0.5, 4.0),
    "grow_from": (0.0, 100.0),
    "grow_to": (0.0, 100.0),
    "amount": (0.01, 6.0),
    "tolerance": (0.0, 6.0),
    "factor": (0.5, 2.0),
    "bend": (-12.0, 12.0),
}
"""Between what numbers under these names make sense; elsewhere one may be anything."""


def _number(random: Random, hint: type[int] | type[float]) -> float:
    if hint is int:
        return random.choice((-1, 6, 1_000_000)) if random.random() < 1 / 6 else random.randint(0, 2)
    return random.choice((_between(random, 0, 1), _between(random, -120, 120), random.choice((0.0, 1.0, -96.0, 1e300))))


def _tick(random: Random, name: str, session: Session) -> Tick:
    """Anywhere, in the middle of a region, early, or at and beyond an edge of something."""
    regions = [r for t in session.tracks for r in t.regions]
    anywhere = random.randint(0, LENGTH)
    inside = [(r.start + r.end) // 2 for r in regions] if name == "at" else []
    middle = random.choice(inside or [anywhere])
    odd = random.choice([-1, 0, 1, LENGTH, LENGTH + 1, *(e for r in regions for e in (r.start, r.end))])
    return Tick(random.choice((anywhere, middle, middle, random.randint(1, LENGTH // 16), odd)))


def _picked(random: Random, session: Session) -> Picked:
    """Some of the points that a lane has."""
    lanes = [x for x in session.lanes if len(x.envelope)]
    if not lanes:
        return Picked("nowhere", (0,))
    lane = random.choice(lanes)
    count = len(lane.envelope)
    return Picked(lane.id, tuple(random.sample(range(count), random.randint(1, min(count, 4)))))


def _found(random: Random, session: Session) -> Found:
    """Something that is found in the session."""
    found = session.remembered("all that is found", None, lambda: all_findings(session))
    return Found(*random.choice(found).known_as(session)) if found else Found("flat", "nowhere")


def _clip(random: Random, session: Session) -> Clip:
    """What a copy of a lane would hold."""
    track = random.choice(session.tracks)
    p = random.choice(track.parameters)
    rows = _lane_curve(random, p).points()
    points = tuple(ClipPoint(Tick(at), value, None if bend == HOLD else bend) for at, value, bend in rows)
    return Clip(track.name, p.name, p.family, p.kind, p.unit, p.axis, p.low, p.high, points)


def _neighbours(session: Session) -> list[tuple[str, ...]]:
    """Regions of one track that touch."""
    pairs = ((a, b) for t in session.tracks for a in t.regions for b in t.regions)
    return [(a.id, b.id) for a, b in pairs if a.end == b.start and a.muted == b.muted]


def _words(name: str, session: Session) -> list[str]:
    regions = [r.id for t in session.tracks for r in t.regions]
    tracks = [t.id for t in session.tracks]
    parameters = [p.id for t in session.tracks for p in t.parameters]
    groups = [t.id for t in session.tracks if t.members]
    members = [m for t in session.tracks for m in t.members]
    known = {
        "group": groups or tracks,
        "member": members or tracks,
        "let_go": members or tracks,
        "take_in": tracks,
        "lane": [x.id for x in session.lanes],
        "marker": [x.id for x in session.markers],
        "region": regions,
        "home": ["track"] * 2 * max(len(regions), 1) + regions,
        "track": tracks,
        "target": tracks,
        "parameter": parameters,
        "onto": parameters,
        "alternative": [x.id for x in session.alternatives],
        "phrase": [x.id for x in session.phrases],
        "placement": [x.id for x in session.placements],
        "text": list(TYPED),
        "name": ["Level", "Pan", "wave", ""],
        "unit": ["dB", "Hz", ""],
    }
    return [*known.get(name, ["Level"]) * 24, "nowhere"]


def probes(*curves: Envelope, extra: tuple[int, ...] = ()) -> np.ndarray:
    """Ticks at, next to and between all points of the curves, and the extra ones."""
    marks = np.unique(np.concatenate([c.ticks for c in curves] + [np.array([*extra, 0, LENGTH])]))
    between = (marks[1:] + marks[:-1]) // 2
    near = np.concatenate((marks - 1, marks, marks + 1, between))
    return np.unique(near[(near >= 0) & (near <= LENGTH)])
