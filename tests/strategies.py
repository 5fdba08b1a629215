"""Every random envelope, session and request the property tests draw."""

from __future__ import annotations

import numpy as np
from hypothesis import strategies as st

from velmot.core.envelope import HOLD, Envelope
from velmot.core.operations.carry import Carry
from velmot.core.parameters import Axis, Family, Label, Parameter, level, mute, pan
from velmot.core.session import Lane, Mode, Precedence, Region, Session, Track
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


@st.composite
def sessions(draw: st.DrawFn) -> Session:
    """Three tracks of all forms, with regions (some overlap) and lanes at random homes."""
    tracks, lanes = [], []
    for name in ("one", "two", "three"):
        spans = draw(st.lists(ranges(), max_size=3))
        muted = st.sampled_from([False, False, False, True])
        regions = tuple(Region(f"{name}.r{i}", f"r{i}", a, b - a, draw(muted)) for i, (a, b) in enumerate(spans))
        track = Track(name, name, mode=draw(st.sampled_from(Mode)), parameters=parameters_of(name), regions=regions)
        tracks.append(track)
        for parameter in track.parameters:
            for home in ("track", *(r.id for r in regions)):
                if draw(st.booleans()):
                    envelope = draw(envelopes(parameter.axis, held_values(parameter)))
                    lanes.append(Lane(f"L{len(lanes)}", parameter.id, home, envelope))
    precedence = draw(st.sampled_from(Precedence))
    return Session("random", LENGTH, tuple(tracks), tuple(lanes), precedence=precedence).checked()


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


def probes(*curves: Envelope, extra: tuple[int, ...] = ()) -> np.ndarray:
    """Ticks at, next to and between all points of the curves, and the extra ones."""
    marks = np.unique(np.concatenate([c.ticks for c in curves] + [np.array([*extra, 0, LENGTH])]))
    between = (marks[1:] + marks[:-1]) // 2
    near = np.concatenate((marks - 1, marks, marks + 1, between))
    return np.unique(near[(near >= 0) & (near <= LENGTH)])
