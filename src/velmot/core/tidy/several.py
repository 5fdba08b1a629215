"""Several steps as one: what they come to together, as one change."""

from __future__ import annotations

from collections.abc import Iterable, Iterator
from dataclasses import replace
from typing import Any, TypeVar

from velmot.core import verbs
from velmot.core.curves.difference import differing_span
from velmot.core.session.heard import heard, reading
from velmot.core.session.session import Session
from velmot.core.session.track import Lane
from velmot.core.session.wording import parameter_name
from velmot.core.verbs.frame.cautions import no_change
from velmot.core.verbs.frame.change import (
    Caution,
    Change,
    LaneChange,
    LetBeSwap,
    ListSwap,
    MarkerSwap,
    NoteSwap,
    PhraseSwap,
    PlacementSwap,
    caution,
)
from velmot.core.verbs.frame.heard_alike import lane_changes
from velmot.core.verbs.frame.heard_change import shown_as_heard, swaps_between

Swap = TypeVar("Swap", bound=ListSwap[Any])

OF_ALL = ("heard-elsewhere", "rests", "silenced", "heard-again", "no-change")
"""Codes of what is said once of all steps together, and not of each."""


class Several:
    """A session on its way through several steps."""

    def __init__(self, session: Session) -> None:
        self.before = self.now = session
        self.said: list[Caution] = []

    def take(self, request: Any) -> None:
        """One more step, which changes no other places of a phrase; RequestError where it cannot be taken, and then nothing of
        it is.
        """
        change = verbs.plan(self.now, verbs.verb_of(request), request, "free")
        before, self.now = self.now, change.applied_to(self.now)
        self.said += [*_freed(before, self.now), *(c for c in change.cautions if c.code not in (*OF_ALL, "set-free"))]

    def change(self, more: Iterable[Caution] = ()) -> Change:
        """All steps as one change, shown lane by lane, or by what is heard where no lane changes."""
        before = self.before
        after = self.now.with_lanes(_as_they_were_called(before, self.now))
        lanes, tracks = swaps_between(before, after)
        shown = lane_changes(before, after, lanes)
        touched = (*shown, *_heard_otherwise(before, after, {swap.parameter for swap in lanes}))
        phrases = _swaps(PhraseSwap, before.phrases, after.phrases)
        placements = _swaps(PlacementSwap, before.placements, after.placements)
        made = Change(
            lanes,
            tracks,
            touched,
            tuple(dict.fromkeys((*self.said, *more))),
            precedence=None if before.precedence is after.precedence else after.precedence,
            phrases=phrases,
            placements=(*placements, *_staying(before, after, {s.id for s in phrases}, {s.parameter for s in lanes})),
            markers=_swaps(MarkerSwap, before.markers, after.markers),
            let_be=_swaps(LetBeSwap, before.let_be, after.let_be),
            notes=_swaps(NoteSwap, before.notes, after.notes),
        )
        return replace(made, cautions=(*made.cautions, no_change())) if made.empty and not made.cautions else made


def _freed(before: Session, after: Session) -> Iterator[Caution]:
    """Every place that a step set free, which nobody asked for."""
    stay = {one.id for one in after.placements}
    for one in before.placements:
        if one.id not in stay and any(x.id == one.phrase for x in after.phrases):
            start = before.start_of(one.home) + one.start
            place = f"{parameter_name(before, one.parameter)} at {before.tempo.position(start)}"
            said = {"place": place, "phrase": before.phrase(one.phrase).name, "reason": "what it says is mended here"}
            lane = before.lane_at(one.parameter, one.home)
            yield caution("set-free", said, lane=lane.id if lane else None, start=start, end=start + one.length)


def _as_they_were_called(before: Session, after: Session) -> Iterator[Lane]:
    """The lanes after several steps: one that was taken away by one and made anew by another is the one it was, and none
    has the name of another that was.
    """
    ids = {lane.id for lane in after.lanes}
    new_ids = (id for id in after.new_ids("lane") if not before.there("lane", id))
    for lane in after.lanes:
        known = before.lane(lane.id) if before.there("lane", lane.id) else None
        if known is not None and (known.parameter, known.home) == (lane.parameter, lane.home):
            yield lane
            continue
        was = before.lane_at(lane.parameter, lane.home)
        if was is not None and was.id not in ids:
            yield replace(lane, id=was.id)
        else:
            yield lane if known is None else replace(lane, id=next(new_ids))


def _heard_otherwise(before: Session, after: Session, written: set[str]) -> Iterator[LaneChange]:
    """Of tracks that change, and where other lanes win from now on, whatever is heard differently though no lane of it changes."""
    wins = before.precedence is not after.precedence
    was = {track.id: track for track in before.tracks}
    for track in after.tracks:
        id = track.id
        if not wins and was.get(id) == track:
            continue
        for parameter in track.parameters:
            if not before.lanes_of(parameter.id) or (parameter.id in written and not wins):
                continue
            switched = id in was and was[id].reads != track.reads
            one, other = (before, after) if switched else (reading(before), reading(after))
            now, then = (heard(state, parameter.id, groups=False).envelope for state in (one, other))
            span = differing_span(now, then, 0, after.length)
            if span is not None:
                yield shown_as_heard(before, after, parameter.id, span, now, then)


def _swaps(kind: type[Swap], before: tuple[Any, ...], after: tuple[Any, ...]) -> tuple[Swap, ...]:
    was, now = ({x.id: x for x in some} for some in (before, after))
    return tuple(kind(was.get(id), now.get(id)) for id in dict.fromkeys((*was, *now)) if was.get(id) != now.get(id))


def _staying(before: Session, after: Session, phrases: set[str], parameters: set[str]) -> tuple[PlacementSwap, ...]:
    """Places that are written on and stay as they are: every step settled that, so nobody has to ask again."""
    was = {x.id: x for x in before.placements}
    return tuple(
        PlacementSwap(x, x)
        for x in after.placements
        if was.get(x.id) == x and (x.phrase in phrases or x.parameter in parameters)
    )
