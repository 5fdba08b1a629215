"""With kept: a change that keeps aside what was there before it, and what becomes of alternatives where parameters go."""

from __future__ import annotations

from collections.abc import Iterable, Iterator
from dataclasses import replace

from velmot.core.limits import LONGEST_NAME
from velmot.core.session.alternatives import kept_already, kept_aside, unlike_others
from velmot.core.session.session import Session
from velmot.core.verbs.frame.change import AlternativeSwap, Change, caution

NUMBERED = 8
"""Letters that a number behind a name may take."""


def aside(
    session: Session, parameters: Iterable[str], name: str, when: str, ids: Iterator[str], was: Session | None = None
) -> tuple[AlternativeSwap, ...]:
    """What parameters do now (or in another state, `was`), kept as alternatives; not what is kept in one already."""
    found, then = [], was or session
    for id in dict.fromkeys(parameters):
        if session.there("parameter", id) and then.there("parameter", id) and not kept_already(session, id, then):
            called = unlike_others(session, id, name[: LONGEST_NAME - NUMBERED])
            found.append(AlternativeSwap(None, kept_aside(then, id, next(ids), called, when)))
    return tuple(found)


def with_kept(session: Session, change: Change, when: str = "", was: Session | None = None, title: str = "") -> Change:
    """A change made on a session, and what its lanes did before it kept aside, under a name that says what came after.

    `was` is another state whose lanes are kept instead, and `title` what that state came of.
    """
    taken = {swap.id for swap in change.alternatives}
    ids = (id for id in session.new_ids("alternative") if id not in taken)
    before = f"before: {in_a_sentence(change.title)}"
    kept = aside(session, [swap.parameter for swap in change.lanes], title or before, when, ids, was)
    return replace(change, alternatives=(*change.alternatives, *kept))


def in_a_sentence(title: str) -> str:
    """A step's title, with a small letter in front."""
    return title[:1].lower() + title[1:]


def without_the_gone(session: Session, change: Change) -> Change:
    """A change that takes parameters away, and the alternatives of these with them; undo brings both back."""
    before = {p.id for swap in change.tracks if swap.before for p in swap.before.parameters}
    after = {p.id for swap in change.tracks if swap.after for p in swap.after.parameters}
    settled = {swap.id for swap in change.alternatives}
    gone = [x for p in before - after for x in session.alternatives_of(p) if x.id not in settled]
    if not gone:
        return change
    swaps = tuple(AlternativeSwap(one, None) for one in session.alternatives if one in gone)
    said = caution("alternatives-go", count=len(gone))
    return replace(change, alternatives=(*change.alternatives, *swaps), cautions=(*change.cautions, said))
