"""Same: lanes that do the same, up to a straight map of their values, and are not linked."""

from __future__ import annotations

from hashlib import sha256
from typing import NamedTuple

import numpy as np

from velmot.core.curves.alike import Likeness, likeness
from velmot.core.curves.editing import Fragment
from velmot.core.curves.envelope import Envelope
from velmot.core.findings.finding import Finding, Kind
from velmot.core.session.session import Session
from velmot.core.session.track import Lane
from velmot.core.time.ticks import Floats, Tick
from velmot.core.verbs.frame.usual_bound import usual_bound
from velmot.core.verbs.reuse.request import Pool, PoolPlace
from velmot.core.words import counted

FEWEST = 4
"""A curve of fewer points comes about by itself."""
LOOKED_AT = 64
"""Points by which shapes are told apart before they are measured."""
SLACK = 1.5
"""How many times the bound they may be apart at these to be measured."""
_SAME_TIME = 1e-5
"""Parts of a curve's length by which times may differ: points lie on ticks."""


def again(session: Session) -> list[list[str]]:
    """Groups of lanes, by id, that do the same within the usual bound; the first of each is the one that stands first.

    Only lanes with as many points, at the same parts of their length and with the same bends, are held against each other.
    """
    return session.remembered("the same again", None, lambda: _groups(session))


def in_place(session: Session) -> list[Lane]:
    """The lanes by track and parameter, and by where they begin: however a file lists them."""
    parameters = [p.id for track in session.tracks for p in track.parameters]
    return [
        x for id in parameters for x in sorted(session.lanes_of(id), key=lambda x: (session.zero_of(x), x.home, x.id))
    ]


def _groups(session: Session) -> list[list[str]]:
    forms: dict[tuple[int, bytes], _Alike] = {}
    for lane in in_place(session):
        if _could_be(session, lane):
            form = lane.envelope.remembered("form", None, lambda e=lane.envelope: _made_form(e))  # type: ignore[misc]
            forms.setdefault((len(lane.envelope), form.bends), _Alike()).put(session, lane, form)
    return [group for alike in forms.values() for group in alike.lanes if len(group) > 1]


class _Form(NamedTuple):
    """The times of a curve's points in parts of its length, what its bends are known by, and its coordinates at some of them:
    about their mean, as parts of their length.
    """

    times: Floats
    bends: bytes
    shape: Floats
    long: float


def _made_form(curve: Envelope) -> _Form:
    times = (curve.ticks - curve.ticks[0]) / float(curve.ticks[-1] - curve.ticks[0])
    some = np.linspace(0, len(curve) - 1, min(len(curve), LOOKED_AT)).round().astype(np.int64)
    flat = curve.coordinates[some] - curve.coordinates[some].mean()
    long = float(np.sqrt(flat @ flat))
    return _Form(times, sha256(np.ascontiguousarray(curve.bends).tobytes()).digest(), flat / (long or 1.0), long)


class _Alike:
    """Groups of lanes with as many points and the same bends: those that do the same are together.

    Which groups a lane may belong to is told by the shapes of all of them at once; hardly any has to be measured.
    """

    def __init__(self) -> None:
        self.lanes: list[list[str]] = []
        self._firsts: list[tuple[Lane, Floats]] = []
        self._shapes = np.zeros((0, 0))

    def put(self, session: Session, lane: Lane, form: _Form) -> None:
        """Put a lane into the first group that it does the same as, else into one of its own."""
        count = len(self._firsts)
        if not count:  # of most forms there is one lane only
            self._shapes = form.shape[None, :]
            self._begin(lane, form)
            return
        shapes, bound = self._shapes[:count], usual_bound(session.parameter(lane.parameter))
        laid = shapes * (shapes @ form.shape)[:, None]  # each by the straight map that brings it nearest
        apart = np.abs(laid - form.shape).max(axis=1, initial=0.0) * form.long
        for n in np.flatnonzero(apart <= SLACK * bound).tolist():
            first, times = self._firsts[n]
            if np.abs(times - form.times).max() > _SAME_TIME:
                continue
            if like(first, lane).far <= bound:
                self.lanes[n].append(lane.id)
                return
        if count == len(self._shapes):
            self._shapes = np.concatenate((self._shapes, np.zeros_like(self._shapes)))
        self._shapes[count] = form.shape
        self._begin(lane, form)

    def _begin(self, lane: Lane, form: _Form) -> None:
        self._firsts.append((lane, form.times))
        self.lanes.append([lane.id])


def _could_be(session: Session, lane: Lane) -> bool:
    """Whether a lane has a shape of its own that could be shared: it moves, is not silent, lies whole in its home, and is in no place."""
    curve, parameter = lane.envelope, session.parameter(lane.parameter)
    if len(curve) < FEWEST or parameter.holds_only or session.placed_on(lane.parameter, lane.home):
        return False
    zero, end = session.span(lane)

    def made() -> bool:
        inside = curve.ticks[0] >= 0 and curve.ticks[-1] <= end - zero and curve.ticks[0] < curve.ticks[-1]
        return bool(inside and np.ptp(curve.values) > 0 and not parameter.axis.silent(curve.values).any())

    return curve.remembered("could be shared", end - zero, made)


def like(one: Lane, other: Lane) -> Likeness:
    """How a lane has to be laid on its values to be another."""
    return likeness(_whole(one), _whole(other))


def _whole(lane: Lane) -> Fragment:
    curve = lane.envelope
    return Fragment(curve.shift(-int(curve.ticks[0])), int(curve.ticks[-1] - curve.ticks[0]))


def pooled(session: Session, group: list[Lane], name: str) -> Pool:
    """The request that makes one phrase of lanes that do the same."""
    (_, start, end), *others = spans = [_span(session, x) for x in group]
    places = tuple(PoolPlace(id, Tick(a), Tick(b)) for id, a, b in others)
    return Pool(spans[0][0], Tick(start), Tick(end), name[:80], places)


def _span(session: Session, lane: Lane) -> tuple[str, int, int]:
    """A lane's id, and where in the session its points begin and end."""
    zero = session.zero_of(lane)
    return lane.id, int(lane.envelope.ticks[0]) + zero, int(lane.envelope.ticks[-1]) + zero


def same(session: Session) -> list[Finding]:
    """Every group of lanes on different parameters, or of one parameter on its track and in regions."""
    found = []
    for group in again(session):
        lanes = [session.lane(id) for id in group]
        if len({x.parameter for x in lanes}) == 1 and all(not x.on_track for x in lanes):
            continue  # copies of a region
        first, others = lanes[0], lanes[1:]
        exact = all(like(first, x).far < 1e-9 for x in others)
        if len(others) == 1:
            said = f"does the same as {session.lane_name(others[0])}"
        else:
            said = f"does the same as {counted(len(others), 'other lane')}, {session.lane_name(others[0])} among them"
        parameter = session.parameter(first.parameter)
        size = float(np.ptp(first.envelope.coordinates))
        mend = pooled(session, lanes, f"{session.owner(first.parameter).name} {parameter.name}")
        found.append(
            Finding(KIND.name, first.parameter, *session.span(first), said, first.id, size, 0.6 if exact else 0.4, mend)
        )
    return found


KIND = Kind("same", "the same again", None, look_all=same)
