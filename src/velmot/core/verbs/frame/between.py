"""Between two states of a session: everything that one holds otherwise than the other, as one change."""

from __future__ import annotations

from collections.abc import Iterable, Iterator
from dataclasses import replace
from typing import Any, TypeVar

from velmot.core.curves.difference import differing_span
from velmot.core.session.heard import heard, reading
from velmot.core.session.session import Session
from velmot.core.verbs.frame.cautions import no_change
from velmot.core.verbs.frame.change import (
    AlternativeSwap,
    Caution,
    Change,
    LaneChange,
    LetBeSwap,
    ListSwap,
    MarkerSwap,
    NoteSwap,
    PhraseSwap,
    PlacementSwap,
)
from velmot.core.verbs.frame.heard_alike import lane_changes
from velmot.core.verbs.frame.heard_change import shown_as_heard, swaps_between

Swap = TypeVar("Swap", bound=ListSwap[Any])


def change_to(before: Session, after: Session, said: Iterable[Caution] = ()) -> Change:
    """The change that makes one state the other, shown lane by lane, or by what is heard where no lane changes."""
    lanes, tracks = swaps_between(before, after)
    shown = lane_changes(before, after, lanes)
    touched = (*shown, *_heard_otherwise(before, after, {swap.parameter for swap in lanes}))
    phrases = _swaps(PhraseSwap, before.phrases, after.phrases)
    placements = _swaps(PlacementSwap, before.placements, after.placements)
    made = Change(
        lanes,
        tracks,
        touched,
        tuple(dict.fromkeys(said)),
        precedence=None if before.precedence is after.precedence else after.precedence,
        phrases=phrases,
        placements=(*placements, *_staying(before, after, {s.id for s in phrases}, {s.parameter for s in lanes})),
        markers=_swaps(MarkerSwap, before.markers, after.markers),
        let_be=_swaps(LetBeSwap, before.let_be, after.let_be),
        notes=_swaps(NoteSwap, before.notes, after.notes),
        alternatives=_swaps(AlternativeSwap, before.alternatives, after.alternatives),
    )
    return replace(made, cautions=(*made.cautions, no_change())) if made.empty and not made.cautions else made


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
    """Places that are written on and stay as they are: whoever made the other state settled that, so nobody has to ask again."""
    was = {x.id: x for x in before.placements}
    return tuple(
        PlacementSwap(x, x)
        for x in after.placements
        if was.get(x.id) == x and (x.phrase in phrases or x.parameter in parameters)
    )
