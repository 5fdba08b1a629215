"""Silenced: lanes that a step with regions keeps from being heard, or lets be heard again; where, why, and what would help."""

from __future__ import annotations

from collections.abc import Iterable, Iterator, Sequence
from dataclasses import dataclass, replace
from typing import Any

from velmot.core.curves.spans import outside, runs
from velmot.core.remedy import Remedy
from velmot.core.session.heard import Speaking, speaking
from velmot.core.session.session import Session
from velmot.core.session.track import ON_THE_TRACK, Lane, Region, Track
from velmot.core.session.wording import listed, span_text
from velmot.core.verbs.frame.change import Caution, Change, TrackSwap, Went, caution
from velmot.core.verbs.regions.request import CarryRegions, ChangeRegions, Lift, SetPrecedence
from velmot.core.words import counted

Spans = list[tuple[int, int]]


@dataclass(frozen=True)
class _Part:
    """What a lane does from `start` to `end` (session ticks), and the lane that did it before, so much earlier or later."""

    start: int
    end: int
    origin: Lane | None
    by: int = 0


@dataclass(frozen=True)
class _Fate:
    """A lane that is no longer heard over spans, or again; `by` is the region whose lane wins there (None: the track's own)."""

    lane: Lane
    spans: tuple[tuple[int, int], ...]
    by: Region | None
    lost: bool


def with_silenced(session: Session, change: Change, request: Any, went: Sequence[Went]) -> Change:
    """The change with what its regions silence, and what they let be heard again. What promises that nothing is heard
    differently has measured that itself. `went` is what the step took elsewhere.
    """
    swaps = [s for s in change.tracks if s.before and s.after and _sounding(s.before) != _sounding(s.after)]
    if change.empty or change.heard or not swaps:
        return change
    after = change.unchecked_on(session)
    said: list[Caution] = []
    for swap in swaps:
        assert swap.after is not None
        if swap.after.reads:
            said += _said(session, after, swap.after, [*_fates(session, after, swap, went)], request)
    return replace(change, cautions=(*change.cautions, *said)) if said else change


def _sounding(track: Track) -> list[tuple[Any, ...]]:
    """What decides which of a track's region lanes are heard."""
    return [(r.id, r.start, r.length, r.muted) for r in track.regions]


# ── what becomes of each lane ─────────────────────────────────────────────────────────────────


def _fates(session: Session, after: Session, swap: TrackSwap, went: Sequence[Went]) -> Iterator[_Fate]:
    before, now = swap.before, swap.after
    assert before is not None and now is not None
    origins = _Origins(session, after, before, went)
    for parameter in now.parameters:
        lanes = after.lanes_of(parameter.id)
        if len(lanes) < 2 and all(x.on_track for x in (*lanes, *_lanes_of(session, parameter.id))):
            continue
        speak = speaking(after, parameter.id)
        sounding = _heard_spans(speak, after.length)
        for lane in lanes:
            start, end = after.span(lane)
            end = min(end, after.length)
            if start >= end:
                continue
            is_heard = sounding.get(lane.id, [])
            was_heard, is_new = _heard_before(origins, lane)
            lost = _both(was_heard + is_new, _without(is_heard, start, end))
            again = _both(is_heard, _without(was_heard + is_new, start, end))
            if lost:
                yield _Fate(lane, tuple(lost), _winner(speak, lost[0][0]), lost=True)
            if again:
                yield _Fate(lane, tuple(again), None, lost=False)


def _lanes_of(session: Session, parameter: str) -> tuple[Lane, ...]:
    return tuple(session.lanes_of(parameter)) if parameter in session._parameters else ()


class _Origins:
    """What is asked of the session before for each of many lanes, worked out once."""

    def __init__(self, session: Session, after: Session, before: Track, went: Iterable[Went]) -> None:
        self.session, self.after = session, after
        self.lanes = {lane.id: lane for lane in session.lanes}
        self.went: dict[tuple[str, str], list[Went]] = {}
        for w in went:
            if w.how != "offered":
                self.went.setdefault((w.to_parameter, w.to_home), []).append(w)
        now = {r.id: r for t in after.tracks if t.id == before.id for r in t.regions}
        self.ended = [
            r for r in before.regions if (x := now.get(r.id)) is None or (x.start == r.start and x.end < r.end)
        ]
        self._heard: dict[str, dict[str, Spans]] = {}

    def heard(self, lane: Lane) -> Spans:
        """Where a lane was heard, in session ticks."""
        if lane.parameter not in self._heard:
            reads = self.session.owner(lane.parameter).reads
            speak = speaking(self.session, lane.parameter)
            self._heard[lane.parameter] = _heard_spans(speak, self.session.length) if reads else {}
        return self._heard[lane.parameter].get(lane.id, [])

    def ended_here(self, parameter: str) -> Iterator[Lane]:
        """Lanes of regions that are gone, or end earlier than they did."""
        for region in self.ended:
            if lane := self.session.lane_at(parameter, region.id):
                yield lane


def _heard_before(origins: _Origins, lane: Lane) -> tuple[Spans, Spans]:
    """Where, in session ticks of now, what a lane does was heard before; and where it is new, so that it is to be heard."""
    was: Spans = []
    new: Spans = []
    for part in _parts(origins, lane):
        if part.origin is None:
            new.append((part.start, part.end))
            continue
        then = [(a + part.by, b + part.by) for a, b in origins.heard(part.origin)]
        was += _both(then, [(part.start, part.end)])
    return runs(was), runs(new)


def _parts(origins: _Origins, lane: Lane) -> Iterator[_Part]:
    """Where what a lane does comes from: from elsewhere, as the step says; else it stood in this lane; else where a region
    stood that does not reach there any more (cut, or joined); else it is new.
    """
    session, after = origins.session, origins.after
    zero = after.zero_of(lane)
    start, end = after.span(lane)
    left = [(start, min(end, after.length))]
    for w in origins.went.get((lane.parameter, lane.home), ()):
        origin = session.lane_at(w.parameter, w.home)
        at = zero + w.at
        for a, b in _both(left, [(at, at + w.end - w.start)]):
            by = at - (session.zero_of(origin) + w.start) if origin else 0
            yield _Part(a, b, origin, by)
        left = _minus(left, [(at, at + w.end - w.start)])
    same = origins.lanes.get(lane.id)
    if same is not None:
        by = zero - session.zero_of(same)
        a, b = session.span(same)
        for x, y in _both(left, [(a + by, b + by)]):
            yield _Part(x, y, same, by)
        left = _minus(left, [(a + by, b + by)])
    if lane.on_track or not left:
        return  # a lane that comes on the track is what the step is about, and said by it
    for origin in origins.ended_here(lane.parameter):
        span = session.span(origin)
        for a, b in _both(left, [span]):
            yield _Part(a, b, origin)
        left = _minus(left, [span])
    muted = after.region(lane.home).muted
    for a, b in left:
        if not muted:
            yield _Part(a, b, None)


def _heard_spans(speak: Speaking, length: int) -> dict[str, Spans]:
    """Where each lane of a parameter is heard, by its id."""
    spans: dict[str, Spans] = {}
    for a, b, lane in speak.over(length):
        if lane is not None:
            spans.setdefault(lane.id, []).append((a, b))
    return spans


def _winner(speak: Speaking, tick: int) -> Region | None:
    return next((region for a, b, region, _ in speak.spans if a <= tick < b), None)


def _both(one: Spans, other: Spans) -> Spans:
    """What lies in some span of each: gone through side by side, as there may be thousands."""
    one, other = runs(one), runs(other)
    out: Spans = []
    i = k = 0
    while i < len(one) and k < len(other):
        start, end = max(one[i][0], other[k][0]), min(one[i][1], other[k][1])
        if start < end:
            out.append((start, end))
        if one[i][1] <= other[k][1]:
            i += 1
        else:
            k += 1
    return out


def _without(spans: Spans, start: int, end: int) -> Spans:
    """What spans leave of a stretch."""
    return _minus([(start, end)], spans)


def _minus(spans: Spans, taken: Spans) -> Spans:
    if not spans:
        return []
    return _both(spans, outside(taken, max(b for _, b in spans)))


# ── what is said of it ────────────────────────────────────────────────────────────────────────


def _said(session: Session, after: Session, track: Track, fates: list[_Fate], request: Any) -> Iterator[Caution]:
    """One caution for all lanes that share their reason: the region they are in, and what wins over it."""
    alike: dict[tuple[bool, str, str], list[_Fate]] = {}
    for fate in fates:
        mine = "" if fate.lane.on_track else after.region(fate.lane.home).name
        alike.setdefault((fate.lost, mine, fate.by.name if fate.by else ""), []).append(fate)
    for (lost, _, _), some in sorted(alike.items(), key=lambda one: not one[0][0]):
        yield (_lost if lost else _again)(session, after, track, some, request)


def _which(after: Session, track: Track, fates: list[_Fate]) -> str:
    """“The Level and Pan lanes of toll 2”."""
    names = list(dict.fromkeys(after.parameter(f.lane.parameter).name for f in fates))
    home = fates[0].lane.home
    whose = f"{track.name}’s own" if home == ON_THE_TRACK else f"{after.region(home).name}’s"
    return f"{whose} {listed(names, 'lane')} {'lane' if len(names) == 1 else 'lanes'}"


def _where(session: Session, fates: list[_Fate]) -> tuple[str, int, int]:
    """The first of the spans in words, how many more there are, and the first's ends."""
    spans = runs([span for f in fates for span in f.spans])
    start, end = spans[0]
    more = f" and in {counted(len(spans) - 1, 'more place')}" if len(spans) > 1 else ""
    return f"{span_text(session, start, end)}{more}", start, end


def _lost(session: Session, after: Session, track: Track, fates: list[_Fate], request: Any) -> Caution:
    fate = fates[0]
    where, start, end = _where(session, fates)
    region = None if fate.lane.on_track else after.region(fate.lane.home)
    if region is not None and region.muted:
        why = "it is muted"
    elif fate.by is not None:
        why = f"{fate.by.name} lies over it"
    else:
        why = "the track’s own lane wins"
    known = fate.lane.id in {x.id for x in session.lanes}
    remedy, lane = _remedy(session, fate, region, request), fate.lane.id if known else None
    said = {"what": _which(after, track, fates), "no": "no longer" if known else "not", "where": where, "why": why}
    return caution("silenced", said, track=track.id, lane=lane, start=start, end=end, remedy=remedy)


def _again(session: Session, after: Session, track: Track, fates: list[_Fate], request: Any) -> Caution:
    where, start, end = _where(session, fates)
    lane = fates[0].lane
    known = lane.id if lane.id in {x.id for x in session.lanes} else None
    said = {"what": _which(after, track, fates), "where": where}
    return caution("heard-again", said, track=track.id, lane=known, start=start, end=end)


def _remedy(session: Session, fate: _Fate, region: Region | None, request: Any) -> Remedy | None:
    """What would let it be heard all the same: another way of asking, or a step before."""
    if region is not None and region.muted:
        there = region.id in session._regions
        return Remedy("put its automation on the track first", step=Lift((region.id,))) if there else None
    if fate.by is None:
        return Remedy("let region lanes win first", step=SetPrecedence("region"))
    if isinstance(request, CarryRegions) and request.automation == "with":
        words = "leave the automation where it is" if request.how == "move" else "without their automation"
        return Remedy(words, step=replace(request, automation="without"))
    if fate.lane.on_track:
        return Remedy("let the track’s lanes win first", step=SetPrecedence("track"))
    if fate.by.id in session._regions:
        return Remedy(f"mute {fate.by.name} first", step=ChangeRegions((fate.by.id,), muted=True))
    return None
