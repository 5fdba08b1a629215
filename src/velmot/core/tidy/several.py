"""Several steps as one: what they come to together, as one change."""

from __future__ import annotations

from collections.abc import Iterable, Iterator
from dataclasses import replace
from typing import Any

from velmot.core import verbs
from velmot.core.session.session import Session
from velmot.core.session.track import Lane
from velmot.core.session.wording import parameter_name
from velmot.core.verbs.frame.between import change_to
from velmot.core.verbs.frame.change import Caution, Change, caution
from velmot.core.verbs.frame.sounding import Sounding

OF_ALL = ("heard-elsewhere", "rests", "silenced", "heard-again", "no-change")
"""Codes of what is said once of all steps together, and not of each."""


class Several:
    """A session on its way through several steps."""

    def __init__(self, session: Session, sounding: Sounding | None = None) -> None:
        self.before = self.now = session
        self.sounding = sounding
        self.said: list[Caution] = []

    def take(self, request: Any) -> None:
        """One more step, which changes no other places of a phrase; RequestError where it cannot be taken, and then nothing of
        it is.
        """
        change = verbs.plan(self.now, verbs.verb_of(request), request, "free", sounding=self.sounding)
        before, self.now = self.now, change.applied_to(self.now)
        self.said += [*_freed(before, self.now), *(c for c in change.cautions if c.code not in (*OF_ALL, "set-free"))]

    def change(self, more: Iterable[Caution] = ()) -> Change:
        """All steps as one change, shown lane by lane, or by what is heard where no lane changes."""
        after = self.now.with_lanes(_as_they_were_called(self.before, self.now))
        return change_to(self.before, after, (*self.said, *more))


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
