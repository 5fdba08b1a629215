"""What is heard of a parameter at every moment, and why."""

from __future__ import annotations

from collections.abc import Iterable
from dataclasses import dataclass, replace
from functools import cached_property
from itertools import pairwise

import numpy as np

from velmot.core.curves import editing
from velmot.core.curves.editing import Piece
from velmot.core.curves.envelope import Envelope
from velmot.core.curves.spans import topmost
from velmot.core.curves.sums import TOLERANCE, sum_all
from velmot.core.parameters.parameter import Family, Parameter
from velmot.core.session.above import groups_above
from velmot.core.session.session import Session
from velmot.core.session.track import Lane, Mode, Precedence, Region, Track

Span = tuple[int, int, Region, Lane]
"""(start, end, region, lane): where a region's lane speaks."""


@dataclass(frozen=True)
class Speaking:
    """Which lane of a parameter speaks at every moment, if its track reads.

    In `spans`, disjoint and in order, a region's lane does; wherever else `own`, the track's lane, if there is one, and
    else the static value. `muted` are the regions whose lanes would speak if they were not muted.
    """

    own: Lane | None
    spans: tuple[Span, ...] = ()
    muted: tuple[Region, ...] = ()

    def over(self, length: int) -> list[tuple[int, int, Lane | None]]:
        """(start, end, lane) for all of ``[0, length)``, in order; no lane where the static value speaks."""
        out: list[tuple[int, int, Lane | None]] = []
        at = 0
        for start, end, _, lane in self.spans:
            out += [(at, start, self.own), (start, end, lane)]
            at = end
        return [(a, b, lane) for a, b, lane in (*out, (at, length, self.own)) if a < b]

    def lanes(self, length: int) -> set[str]:
        """The ids of all lanes that speak at some moment."""
        return {lane.id for _, _, lane in self.over(length) if lane}


@dataclass(frozen=True)
class Reason:
    """Over ``[start, end)`` the value comes from `source`: static, track or region (then `region` is its id).

    `muted` names regions whose lanes would speak here if they were not muted.
    """

    start: int
    end: int
    source: str
    region: str | None = None
    muted: tuple[str, ...] = ()


@dataclass(frozen=True)
class Heard:
    """The envelope that is heard, and where it comes from.

    `whole` is the reason wherever no region speaks, `spans` are those where one does, `muted` the
    regions that would speak if they were not muted, `groups` the group faders that are added.
    """

    envelope: Envelope
    whole: Reason
    spans: tuple[Span, ...] = ()
    muted: tuple[Region, ...] = ()
    groups: tuple[str, ...] = ()

    @cached_property
    def reasons(self) -> tuple[Reason, ...]:
        """The reason for each span of the session, in order. Worked out when asked for: a plan compares curves."""
        return _with_muted(_reasons(self.whole, self.spans), self.muted)

    def reason_at(self, tick: int) -> Reason:
        """The reason for one moment (the nearest, outside the session)."""
        return next((r for r in self.reasons if tick < r.end), self.reasons[-1])


def heard(session: Session, parameter_id: str, groups: bool = True, tolerance: float = TOLERANCE) -> Heard:
    """What is heard of a parameter: its static value unless a lane speaks and the track reads.

    Where a region's lane and the track's both speak the session's precedence decides; of two
    overlapping regions the later start wins, of two that start together the one later in the track's
    list; a muted region's lanes do not speak. On a level every group fader above the track is added
    (decibels add; within `tolerance` dB where a bend meets a slope; silence stays silence), unless `groups` is
    False. A session never changes, so it remembers the answers.
    """

    def made() -> Heard:
        return _with_groups(session, parameter_id, tolerance) if groups else _own(session, parameter_id)

    return session.remembered("heard", (parameter_id, groups, tolerance), made)


def reading(session: Session) -> Session:
    """The session with every track reading its lanes; the same one at every call."""
    if all(t.reads for t in session.tracks):
        return session

    def made() -> Session:
        return session.with_tracks(t if t.reads else replace(t, mode=Mode.READ) for t in session.tracks)

    return session.remembered("reading", None, made)


def speaking(session: Session, parameter_id: str) -> Speaking:
    """Which lane of a parameter speaks when: the one home of that rule. A session never changes, so it remembers."""
    return session.remembered("speaking", parameter_id, lambda: _speaking(session, parameter_id))


def _speaking(session: Session, parameter_id: str) -> Speaking:
    own = session.lane_at(parameter_id)
    if own and session.precedence is Precedence.TRACK:
        return Speaking(own)
    lanes = session.region_lanes(parameter_id)
    return Speaking(own, tuple(_topmost_lanes(lanes)), tuple(r for r, _ in lanes if r.muted))


def _topmost_lanes(lanes: Iterable[tuple[Region, Lane]]) -> list[Span]:
    """The disjoint spans (start, end) in which region lanes, the winning last, speak, in order; muted regions have none."""
    sounding = [(region, lane) for region, lane in lanes if not region.muted]
    spans = topmost([(region.start, region.end) for region, _ in sounding])
    return [(start, end, *sounding[index]) for start, end, index in spans]


def winning_last(session: Session, lanes: Iterable[Lane]) -> list[Lane]:
    """Lanes so that of one parameter's the one that is heard comes last, where several lie over each other.

    Muted regions lose to all; then the session's precedence decides; of regions the later start wins, and of
    those that start together the one that stands later on its track.
    """
    region_wins = session.precedence is Precedence.REGION

    def weight(lane: Lane) -> tuple[bool, bool, int, int]:
        if lane.on_track:
            return True, not region_wins, 0, 0
        region = session.region(lane.home)
        return not region.muted, region_wins, region.start, session.region_order(region.id)

    return sorted(lanes, key=weight)


def in_words(session: Session, reason: Reason, groups: tuple[str, ...] = ()) -> str:
    """A reason as people say it."""
    said = {"static": "static value", "track": "the track's lane"}.get(reason.source, "")
    if reason.region is not None:
        said = f"region {session.region(reason.region).name}"
    if reason.muted:
        said += f", as {', '.join(session.region(id).name for id in reason.muted)} is muted"
    if groups:
        said += f", plus group {', '.join(session.track(id).name for id in groups)}"
    return said


def _own(session: Session, parameter_id: str) -> Heard:
    parameter = session.parameter(parameter_id)
    static = Envelope.constant(parameter.value, parameter.axis)
    if not session.owner(parameter_id).reads:
        return Heard(static, Reason(0, session.length, "static"))
    now = speaking(session, parameter_id)
    whole = Reason(0, session.length, "track" if now.own else "static")
    pieces = [Piece(a, b, x.envelope, r.start) for a, b, r, x in now.spans]
    base = now.own.envelope if now.own else static
    return Heard(editing.overlaid(base, pieces), whole, now.spans, now.muted)


def _with_groups(session: Session, parameter_id: str, tolerance: float) -> Heard:
    own = heard(session, parameter_id, groups=False)
    parameter, track = session.parameter(parameter_id), session.owner(parameter_id)
    if parameter.family is not Family.LEVEL:
        return own
    shares = shares_above(session, track.id)
    total = sum_all([own.envelope, *shares.values()], tolerance)
    lowest = parameter.low if parameter.axis.floor is None else parameter.axis.floor  # a net level knows no other
    return replace(own, envelope=editing.limit(total, lowest, np.inf)[0], groups=tuple(shares))


def shares_above(session: Session, track_id: str) -> dict[str, Envelope]:
    """What each group fader above a track adds to its level, nearest first; those that add nothing are left out."""
    found: dict[str, Envelope] = {}
    for group in groups_above(session, track_id):
        if fader := fader_of(group):
            gain = heard(session, fader.id, groups=False).envelope
            if len(gain) > 1 or gain.values[0] != 0.0:
                found[group.id] = gain
    return found


def groups_add(session: Session, track_id: str) -> Envelope | None:
    """What all group faders above a track add to its level; None where none moves it."""
    shares = [*shares_above(session, track_id).values()]
    return sum_all(shares) if shares else None


def fader_of(track: Track) -> Parameter | None:
    """A track's own level."""
    return next((p for p in track.parameters if p.family is Family.LEVEL), None)


def _reasons(whole: Reason, spans: tuple[Span, ...]) -> tuple[Reason, ...]:
    """The spans' reasons, with the session's own between them."""
    out, at = [], whole.start
    for a, b, region, _ in spans:
        out += [Reason(at, a, whole.source), Reason(a, b, "region", region.id)]
        at = b
    return tuple(r for r in (*out, Reason(at, whole.end, whole.source)) if r.start < r.end)


def _with_muted(reasons: tuple[Reason, ...], muted: tuple[Region, ...]) -> tuple[Reason, ...]:
    """The reasons, parted where a muted region would speak."""
    marks = sorted({m for r in muted for m in (r.start, r.end)})
    out = []
    for reason in reasons:
        cuts = [reason.start, *(m for m in marks if reason.start < m < reason.end), reason.end]
        for a, b in pairwise(cuts):
            silent = tuple(r.id for r in muted if r.start <= a < r.end)
            out.append(Reason(a, b, reason.source, reason.region, silent))
    return tuple(out)
