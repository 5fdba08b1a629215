"""Tidying the history: steps between marks that are older than so many days become one step each; ways that were left go.

What stands, every mark, and every step that is newer stay as they are, and can be gone back to bit for bit.
"""

from __future__ import annotations

from collections.abc import Iterable
from dataclasses import dataclass
from datetime import timedelta

from django.db import transaction
from django.utils import timezone

from velmot.storage import blobs, past, sessions, upkeep
from velmot.storage.models import NamedEnvelope, Revision, StoredEnvelope, StoredSession
from velmot.storage.past import State


@dataclass(frozen=True)
class Tidied:
    """What tidying frees: steps that go, those of them on ways that were left, and about how many bytes."""

    steps: int
    aside: int
    bytes: int


def tidy(id: int, days: float, try_only: bool = True) -> Tidied:
    """Tidy what is older than so many days, or say only what that would free."""
    with transaction.atomic():
        row = StoredSession.objects.select_for_update().get(pk=sessions.row(id).pk)
        plan = _plan(row, days)
        found = Tidied(len(plan.folded) + len(plan.left), len(plan.left), _freed(row, plan))
        if not try_only and found.steps:
            _do(row, plan)
            blobs.collect()
            sessions.forget(row.pk)
    if not try_only and found.steps:
        upkeep.give_back_space()
    return found


@dataclass(frozen=True)
class _Plan:
    """`folds` gives for each revision that stays which ones before it go into it; `left` are on ways that nobody is on."""

    folds: dict[int, list[int]]
    left: list[int]

    @property
    def folded(self) -> list[int]:
        return [n for some in self.folds.values() for n in some]


def _plan(row: StoredSession, days: float) -> _Plan:
    steps = list(row.revisions.order_by("number").values_list("number", "parent", "made", "replaced"))
    parents = {n: parent for n, parent, _, _ in steps}
    made = {n: at for n, _, at, _ in steps}
    marked = set(row.marks.values_list("number", flat=True))
    until = timezone.now() - timedelta(days=days)
    here = past.path(parents, row.head)
    needed = {*here, *(n for m in marked for n in past.path(parents, m))}
    # A way aside stays as a whole while anything on it is new.
    for n in parents:
        if made[n] >= until:
            needed.update(past.path(parents, n))
    left = [n for n in parents if n not in needed]
    branches = {parents[n] for n in needed if n in parents and n not in here} | {row.head}
    stays = {n for n in needed if n in marked or made[n] >= until or n in branches or n == row.head}
    children: dict[int, list[int]] = {}
    for n in needed:
        children.setdefault(parents[n], []).append(n)
    stays |= {n for n in needed if len(children.get(n, [])) != 1}
    folds: dict[int, list[int]] = {}
    for n in sorted(stays):
        going, at = [], parents[n]
        while at in needed and at not in stays:
            going.append(at)
            at = parents[at]
        if going and made[n] < until:
            folds[n] = going
        elif going:  # the first new step keeps what it was: the newest of the old ones takes the rest
            folds[going[0]] = going[1:]
    return _Plan({n: some for n, some in folds.items() if some}, left)


def _do(row: StoredSession, plan: _Plan) -> None:
    for n, going in plan.folds.items():
        step = row.revisions.get(number=n)
        first = row.revisions.get(number=going[-1])
        states = _along(row, [*reversed(going), n])
        step.swaps = past.between(*states) | _summaries(first, step)
        step.parent = first.parent
        step.folds += sum(row.revisions.filter(number__in=going).values_list("folds", flat=True)) + len(going)
        seen = {(t["lane"], t["parameter"]): t for t in step.touched}
        for older in row.revisions.filter(number__in=going).order_by("-number").values_list("touched", flat=True):
            for t in older:
                known = seen.get((t["lane"], t["parameter"]))
                if known:
                    known |= {"start": min(known["start"], t["start"]), "end": max(known["end"], t["end"])}
                else:
                    seen[t["lane"], t["parameter"]] = t
        step.touched = list(seen.values())
        step.save(update_fields=["swaps", "parent", "folds", "touched"])
        NamedEnvelope.objects.filter(revision=step).delete()
        named = [NamedEnvelope(revision=step, envelope_id=d) for d in past.digests_of(step.swaps)]
        NamedEnvelope.objects.bulk_create(named, batch_size=400)
        _drop(row, going)
    _drop(row, plan.left)


def _summaries(first: Revision, last: Revision) -> dict[str, object]:
    one, other = (step.swaps.get("summary") or {} for step in (first, last))
    return {"summary": {"before": one.get("before"), "after": other.get("after")}}


def _along(row: StoredSession, numbers: list[int]) -> tuple[State, State]:
    """The rows before the first of some steps that follow each other, and after the last, as far as these steps tell.

    What none of them touches is the same before and after, so it does not have to be known.
    """
    swaps = dict(row.revisions.filter(number__in=numbers).values_list("number", "swaps"))
    last = past.rows_at(row, numbers[-1])
    state = last.copied()
    for n in reversed(numbers):
        state = state.moved(swaps[n], "before")
    return state, last


def _drop(row: StoredSession, numbers: Iterable[int]) -> None:
    some = list(numbers)
    for i in range(0, len(some), 400):
        row.revisions.filter(number__in=some[i : i + 400]).delete()


def _freed(row: StoredSession, plan: _Plan) -> int:
    """About how many bytes go: the swaps of the steps, and the envelopes that nothing else names."""
    going = [*plan.folded, *plan.left]
    total = 0
    digests: set[str] = set()
    for i in range(0, len(going), 400):
        some = row.revisions.filter(number__in=going[i : i + 400])
        total += sum(len(str(swaps)) for swaps in some.values_list("swaps", flat=True))
        digests |= set(NamedEnvelope.objects.filter(revision__in=some).values_list("envelope_id", flat=True))
    gone = set(going)
    for i in range(0, len(digests), 400):
        part = sorted(digests)[i : i + 400]
        named = NamedEnvelope.objects.filter(envelope_id__in=part)
        elsewhere = {
            d
            for d, session, n in named.values_list("envelope_id", "revision__session", "revision__number")
            if session != row.pk or n not in gone
        }
        held = set(StoredEnvelope.objects.filter(digest__in=part, lanes__isnull=False).values_list("digest", flat=True))
        held |= set(StoredEnvelope.objects.filter(digest__in=part, kept__isnull=False).values_list("digest", flat=True))
        loose = [d for d in part if d not in elsewhere and d not in held]
        total += 24 * sum(StoredEnvelope.objects.filter(digest__in=loose).values_list("points", flat=True))
    return total
