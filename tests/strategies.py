"""Every random envelope, session and request the property tests draw."""

from __future__ import annotations

from dataclasses import fields, is_dataclass, replace
from random import Random
from types import UnionType
from typing import Any, Literal, Union, get_args, get_origin, get_type_hints

import numpy as np
from hypothesis import strategies as st

from velmot.core.axes import Axis
from velmot.core.envelope import Envelope
from velmot.core.errors import RequestError
from velmot.core.operations import OPERATIONS, plan
from velmot.core.operations.carry import Carry
from velmot.core.operations.chosen_points import Picked
from velmot.core.operations.keep_phrase import KeepPhrase
from velmot.core.operations.paste import Clip, ClipPoint
from velmot.core.operations.place import Place, PlaceOn
from velmot.core.parameters import Family, Label, Parameter, level, mute, pan
from velmot.core.segments import HOLD
from velmot.core.session import Lane, Mode, Precedence, Region, Session, Track, TrackKind
from velmot.core.shapes import Kind, Shape
from velmot.core.time import TICKS_PER_BEAT, Tick

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
    """What `envelopes` draws, out of one random number: a session has many, and drawing each point takes most of a test."""
    low, high = parameter.low, parameter.high
    spots = [random.choice((0, 1, LENGTH, random.randint(0, LENGTH))) for _ in range(random.randint(1, 4))]
    spots += [random.randint(0, LENGTH) for _ in range(random.randint(0, 4))]
    if random.random() < 0.3:
        spots.append(random.choice(spots))  # a jump
    at = sorted(spots)
    at = [t for i, t in enumerate(at) if i < 2 or at[i - 2] != t]
    if held := held_values(parameter):
        return Envelope.of([(t, random.choice(held), HOLD) for t in at], parameter.axis)

    def value() -> float:
        return random.choice((low, high, round(random.uniform(low, high)), random.uniform(low, high)))

    def bend() -> float:
        return random.choice((0.0, HOLD, 12.0, -12.0, random.uniform(-12, 12)))

    return Envelope.of([(t, min(max(value(), low), high), bend()) for t in at], parameter.axis)


@st.composite
def sessions(draw: st.DrawFn, regions: int = 0) -> Session:
    """Three tracks of all forms, with regions (at least so many each, some overlap) and lanes at random homes."""
    random = Random(draw(st.integers(0, 2**32)))
    tracks, lanes = [], []
    for name in ("one", "two", "three"):
        spans = draw(st.lists(ranges(), min_size=regions, max_size=3))
        if len(spans) > 1 and spans[0][1] < LENGTH and draw(st.booleans()):
            spans[1] = (spans[0][1], draw(st.integers(spans[0][1] + 1, LENGTH)))  # two that touch
        muted = st.sampled_from([False, False, False, True])
        made = tuple(Region(f"{name}.r{i}", f"r{i}", a, b - a, draw(muted)) for i, (a, b) in enumerate(spans))
        track = Track(name, name, mode=draw(st.sampled_from(Mode)), parameters=parameters_of(name), regions=made)
        tracks.append(track)
        for parameter in track.parameters:
            for home in ("track", *(r.id for r in made)):
                if draw(st.booleans()):
                    lanes.append(Lane(f"L{len(lanes)}", parameter.id, home, _lane_curve(random, parameter)))
    precedence = draw(st.sampled_from(Precedence))
    return Session("random", LENGTH, tuple(tracks), tuple(lanes), precedence=precedence).checked()


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


@st.composite
def linked_sessions(draw: st.DrawFn, verb: str = "") -> Session:
    """Random sessions in which a phrase and a shape have some places, all forms of reading among them.

    A verb of regions, groups or places mostly finds some.
    """
    session = draw(sessions(regions=1 if verb in OF_REGIONS else 0))
    random = Random(draw(st.integers(0, 2**32)))
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
        shaped = random.random() < 0.4
        wanted = Place(
            tuple(PlaceOn(p) for p in dict.fromkeys(chosen)),
            Tick(random.randint(0, LENGTH // 2)),
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
    return session


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


TYPED = ("-3 dB", "+2", "*0.5", "=-3", "muted", "1e9", "440 Hz", "-inf", "")


def requests(session: Session, verb: str) -> st.SearchStrategy[Any]:
    """Any request of a verb: most of its ids are the session's, most places lie in it, and not all of it makes sense."""
    made = _built(OPERATIONS[verb].request, session)
    if verb == "place":
        return st.builds(_one_of_three, made, st.integers(0, 2), seldom)
    if verb == "fold":  # some members only where all of a group is folded
        return st.builds(
            lambda one, odd: one if odd or not one.members else replace(one, start=None, end=None), made, seldom
        )
    return made


def _one_of_three(request: Place, which: int, odd: bool) -> Place:
    """A place request that names one thing to place, as most that are made do."""
    kept = ("phrase", "given", "shape")[which]
    shape = request.shape or Shape()
    wanted = {"phrase": request.phrase or "phrase1", "given": request.given, "shape": shape}
    return request if odd else replace(request, **{name: wanted[name] if name == kept else None for name in wanted})


seldom = st.sampled_from([False] * 15 + [True])


def _built(kind: type[Any], session: Session) -> st.SearchStrategy[Any]:
    hints = get_type_hints(kind)
    made = st.builds(kind, **{f.name: _any_of(f.name, hints[f.name], session) for f in fields(kind)})
    if not {"start", "end"} <= hints.keys():
        return made
    in_order = ranges().map(lambda pair: {"start": Tick(pair[0]), "end": Tick(pair[1])})
    return st.builds(lambda one, pair, odd: one if odd else replace(one, **pair), made, in_order, seldom)


def _any_of(name: str, hint: Any, session: Session) -> st.SearchStrategy[Any]:
    """Anything a field may hold, by its type; what a string means is told by the field's name."""
    inner = get_args(hint)
    if get_origin(hint) is Literal:
        return st.sampled_from(inner)
    if get_origin(hint) is tuple:
        least, most = (2, 4) if name == "stroke" else (1, 2 if is_dataclass(inner[0]) else 4)
        some = st.lists(_any_of(name, inner[0], session), min_size=least, max_size=most).map(tuple)
        if name == "regions":
            some = some | st.sampled_from([*_neighbours(session), ("nowhere",)])
        none = inner[0] is str and name == "devices"  # random sessions have none
        return seldom.flatmap(lambda empty: st.just(()) if none or empty else some)
    if get_origin(hint) in (Union, UnionType):
        return st.one_of(*(st.none() if x is type(None) else _any_of(name, x, session) for x in inner))
    if name in LIKELY and hint in (int, float):
        return seldom.flatmap(lambda odd: _number(hint) if odd else LIKELY[name])
    if hint is Picked:
        return seldom.flatmap(lambda odd: _built(hint, session) if odd else _picked(session))
    if hint is Clip:
        return _clips(session) | _built(hint, session)
    if is_dataclass(hint):
        return _built(hint, session)
    if hint is Tick:
        edges = [e for t in session.tracks for r in t.regions for e in (r.start, r.end)]
        inside = [(r.start + r.end) // 2 for t in session.tracks for r in t.regions]
        odd = st.sampled_from([-1, 0, 1, LENGTH, LENGTH + 1, *edges])
        middles = st.sampled_from(inside) if inside and name == "at" else ticks
        return st.one_of(ticks, middles, middles, st.integers(1, LENGTH // 16), odd).map(Tick)
    if hint in (int, float):
        return _number(hint)
    if hint is str:
        return st.sampled_from(_words(name.removesuffix("s"), session))
    return st.from_type(hint)  # bool, and the families, kinds and axes of clips


LIKELY = {
    "times": st.integers(1, 3),
    "depth": st.floats(1, 100),
    "hysteresis": st.floats(0, 2),
    "skew": st.floats(0, 1),
    "lean": st.floats(0, 1),
    "hurry": st.floats(0.5, 2),
    "cycles": st.floats(0.5, 4),
    "grow_from": st.floats(0, 100),
    "grow_to": st.floats(0, 100),
    "amount": st.floats(0.01, 6),
    "tolerance": st.floats(0, 6),
    "factor": st.floats(0.5, 2),
    "bend": st.floats(-12, 12),
}
"""What makes sense under these names; elsewhere a number may be anything."""


def _number(hint: type[int] | type[float]) -> st.SearchStrategy[Any]:
    if hint is int:
        return st.one_of(*[st.integers(0, 2)] * 5, st.sampled_from([-1, 6, 1_000_000]))
    return st.one_of(st.floats(0, 1), st.floats(-120, 120), st.sampled_from([0.0, 1.0, -96.0, 1e300]))


@st.composite
def _picked(draw: st.DrawFn, session: Session) -> Picked:
    """Some of the points that a lane has."""
    lane = draw(st.sampled_from([x for x in session.lanes if len(x.envelope)] or [None]))
    if lane is None:
        return Picked("nowhere", (0,))
    points = st.lists(st.integers(0, len(lane.envelope) - 1), min_size=1, max_size=4, unique=True)
    return Picked(lane.id, tuple(draw(points)))


@st.composite
def _clips(draw: st.DrawFn, session: Session) -> Clip:
    """What a copy of a lane would hold."""
    track = draw(st.sampled_from(session.tracks))
    p = draw(st.sampled_from(track.parameters))
    rows = draw(envelopes(p.axis, held_values(p))).points()
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
        "region": regions,
        "home": ["track"] * 2 * max(len(regions), 1) + regions,
        "track": tracks,
        "target": tracks,
        "parameter": parameters,
        "onto": parameters,
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
