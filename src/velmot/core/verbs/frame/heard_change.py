"""Changes that are shown by what is heard: two states of a session compared, lane by lane and as they sound."""

from __future__ import annotations

from collections.abc import Iterable, Mapping, Sequence

from velmot.core.curves.difference import differing_span
from velmot.core.curves.envelope import Envelope
from velmot.core.curves.spans import runs
from velmot.core.session.heard import heard, reading
from velmot.core.session.session import Session
from velmot.core.session.track import Lane, Region, Track
from velmot.core.session.wording import parameter_name
from velmot.core.verbs.frame.cautions import no_change
from velmot.core.verbs.frame.change import HEARD, Caution, Change, LaneChange, LaneSwap, TrackSwap, Went


def change_between(
    before: Session,
    after: Session,
    cautions: Iterable[Caution] = (),
    named: Mapping[str, Sequence[tuple[int, int]]] | None = None,
    because: str = "",
    went: Iterable[Went] = (),
) -> Change:
    """The change that makes one session the other, shown as what would be heard if every track read its lanes.

    `named` are the spans in which parameters may be heard differently, none meaning nowhere; `because` says in
    words why they could be all the same; `went` is what was taken elsewhere.
    """
    lanes, tracks = swaps_between(before, after)
    said = tuple(dict.fromkeys(cautions))
    if not lanes and not tracks and not said:
        said = (no_change(),)
    spans = {p: tuple(runs(some)) for p, some in (named or {}).items()}
    touched = _heard_changes(before, after, lanes, tracks)
    return Change(lanes, tracks, touched, said, named=spans, because=because, went=tuple(went))


def swaps_between(before: Session, after: Session) -> tuple[tuple[LaneSwap, ...], tuple[TrackSwap, ...]]:
    """Every lane and track that two states of a session hold differently."""
    old, new = {x.id: x for x in before.lanes}, {x.id: x for x in after.lanes}
    ids = dict.fromkeys((*old, *new))
    lanes = tuple(LaneSwap(old.get(i), new.get(i)) for i in ids if not _alike(old.get(i), new.get(i)))
    was, now = {t.id: t for t in before.tracks}, {t.id: t for t in after.tracks}
    tracks = tuple(TrackSwap(was.get(i), now.get(i)) for i in dict.fromkeys((*was, *now)) if was.get(i) != now.get(i))
    return lanes, tracks


def _alike(one: Lane | None, other: Lane | None) -> bool:
    return one is other or (one is not None and other is not None and one == other)


def _heard_changes(
    before: Session, after: Session, lanes: tuple[LaneSwap, ...], tracks: tuple[TrackSwap, ...]
) -> tuple[LaneChange, ...]:
    """What is heard of every parameter with a lane in a region that changes, or with a lane that does."""
    moved = {r.id: r for s in tracks for a, b in ((s.before, s.after), (s.after, s.before)) for r in _changed(a, b)}
    spans: dict[str, list[int]] = {}
    for session in (before, after):
        for lane in session.lanes:
            if lane.home in moved:
                spans.setdefault(lane.parameter, []).extend(session.span(lane))
    for swap in lanes:
        for swapped, session in ((swap.before, before), (swap.after, after)):
            if swapped is not None:
                spans.setdefault(swapped.parameter, []).extend(session.span(swapped))
    return tuple(heard_lane_change(before, after, parameter, min(ends), max(ends)) for parameter, ends in spans.items())


def _changed(one: Track | None, other: Track | None) -> list[Region]:
    """The regions of one state of a track that the other has not, or has otherwise."""
    known = {r.id: r for r in other.regions} if other else {}
    return [r for r in one.regions if known.get(r.id) != r] if one else []


def heard_lane_change(before: Session, after: Session, parameter: str, start: int, end: int) -> LaneChange:
    """What is heard of a parameter before and after in (at most) a span, its own lanes' points counted."""
    p = after.parameter(parameter)
    now = heard(reading(after), parameter, groups=False).envelope
    known = any(q.id == parameter for t in before.tracks for q in t.parameters)
    was = heard(reading(before), parameter, groups=False).envelope if known else Envelope.constant(p.value, p.axis)
    return shown_as_heard(before, after, parameter, differing_span(was, now, start, end) or (start, end), was, now)


def shown_as_heard(
    before: Session, after: Session, parameter: str, span: tuple[int, int], was: Envelope, now: Envelope
) -> LaneChange:
    """What is heard of a parameter over a span, which was and is worked out; its own lanes' points are counted."""
    counts = [sum(len(x.envelope) for x in state.lanes_of(parameter)) for state in (before, after)]
    name = parameter_name(after, parameter)
    return LaneChange("", parameter, HEARD, *span, counts[0], counts[1], lambda: name, (lambda: was, lambda: now))
