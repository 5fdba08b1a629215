"""The history of a session: apply, undo and redo, each one transaction, each bit for bit."""

from __future__ import annotations

from collections.abc import Callable, Collection, Iterable
from dataclasses import asdict, dataclass, replace
from datetime import timedelta
from itertools import count
from typing import Any

from django.db import transaction
from django.db.models import Q
from django.utils import timezone

from velmot.core.errors import RequestError
from velmot.core.session.session import Session
from velmot.core.session.summary import summary_of
from velmot.core.verbs.frame.change import Change, ListSwap
from velmot.formats.phrases_file import given_from
from velmot.formats.session_file import let_be_row, marker_row, note_row, phrase_row, placement_row, track_row
from velmot.storage import blobs, book, kept_rows, past, remembered, sessions
from velmot.storage.errors import Conflict, NotFound
from velmot.storage.lane_rows import columns_of, new_columns
from velmot.storage.models import NamedEnvelope, Revision, StoredLane, StoredSession, StoredTrack
from velmot.storage.sessions import Opened
from velmot.storage.snapshot import snapshot

LONGEST_TITLE = 600
MOST_STEPS_BETWEEN = 24
"""Steps between a revision and where the session stands that are looked at one by one."""


@dataclass(frozen=True)
class Step:
    """A step along the history: the session before it, and as it stands after it."""

    before: Session
    after: Opened
    taken_back: dict[str, Any] | None = None
    """The request of the step that was undone."""

    @property
    def number(self) -> int:
        """The revision the session stands at now."""
        return self.after.row.head


def standing_at(id: int, revision: int) -> Opened:
    """The session, if it stands at `revision`; else Conflict."""
    now = sessions.opened(id)
    if now.row.past is not None:
        raise RequestError("read-only", revision=now.row.head, place="revision", accepted="the session as it stands")
    if now.row.head != revision:
        raise Conflict(now.row.head)
    return now


def done_before(id: int, revision: int, name: str) -> Step | None:
    """What a step of this name has done, if it was saved already though its answer may have been lost: from the revision
    that a window still shows to where the session stands now.
    """
    with snapshot():
        row = sessions.row(id)
        if row.step != name and not row.revisions.filter(step=name).exists():
            return None
        return Step(_at_revision(row, revision), sessions.standing(row))


def apply(
    id: int,
    revision: int,
    change: Change,
    request: dict[str, Any] | None = None,
    now: Opened | None = None,
    name: str = "",
    window: str = "",
    exact: int | None = None,
) -> Step:
    """Save a change made on `revision`. `now` is the session at it, if it has been read already; `name` is the step's own, and
    `window` what the window is called that made it. Where it goes back to a revision as a whole, `exact` is that one: then
    all is as it was, bit for bit and in the same order.

    Raises Conflict, with nothing saved, if the session stands at another revision.
    """
    now = now or standing_at(id, revision)
    after = change.applied_to(now.session) if exact is None else at_revisions(id, exact)[0]
    with transaction.atomic():
        row, number = now.row, now.row.latest + 1
        _claim(now.row, number, name, latest=number)
        swaps = _swaps(row, change, number) if exact is None else _swaps_to(row, exact, revision, number)
        swaps["summary"] = {"before": row.summary, "after": asdict(summary_of(after))}
        step = Revision.objects.create(
            session=row,
            number=number,
            parent=revision,
            title=shortened(change.title),
            request=request or {},
            step=name,
            window=window,
            swaps=swaps,
            touched=[t.location() for t in change.touched],
        )
        _keep_named(step)
        _swap(row, swaps, "after")
        remembered.keep(row, now.session, request or {})
        if change.phrases:
            made = change.phrases[0].after
            book.keep_applied(request or {}, given_from(made) if made else None)
    sessions.remember(id, number, after)
    return Step(now.session, Opened(row, after))


def before_last(now: Opened) -> tuple[int, Session]:
    """The revision before the step that led to where the session stands, and the session then.

    RequestError where there is no such step, or something came after it that was undone.
    """
    step = now.row.revisions.filter(number=now.row.head).first()
    if step is None or now.row.revisions.filter(parent=now.row.head).exists():
        kind = "amend/none" if step is None else "amend"
        raise RequestError(kind, place="instead", accepted="a step of its own")
    return step.parent, at_revisions(now.row.pk, step.parent)[0]


def amend(id: int, revision: int, change: Change, request: dict[str, Any], name: str = "", window: str = "") -> Step:
    """Save a change made on the session before its last step (`before_last`) in place of that step: the log has one line.

    Raises as `before_last` and `apply` do, with nothing saved.
    """
    with transaction.atomic():
        before_last(standing_at(id, revision))
        back = undo(id, revision)
        back.after.row.revisions.filter(number=revision).update(replaced=True)
        made = apply(id, back.number, change, request, back.after, name, window)
    return Step(back.before, made.after)


def undo(id: int, revision: int, name: str = "") -> Step:
    """Go back to the revision before (stay, if there is none). Raises Conflict if the session stands elsewhere."""
    return _walked(standing_at(id, revision), "before", name)


def redo(id: int, revision: int, name: str = "") -> Step:
    """Go forward again to the newest revision made from here (stay, if there is none). Raises Conflict like `undo`."""
    return _walked(standing_at(id, revision), "after", name)


def _walked(now: Opened, side: str, name: str) -> Step:
    """One step along the revisions: to what was `before` the one that stands, or to what is `after` it."""
    row = now.row
    with transaction.atomic():
        known = row.revisions.filter(number=row.head) if side == "before" else row.revisions.filter(parent=row.head)
        step = known.last()
        if step is None:
            return Step(now.session, now)
        _claim(row, step.parent if side == "before" else step.number, name)
        _swap(row, step.swaps, side)
    return Step(now.session, sessions.standing(row), step.request if side == "before" else None)


def _claim(row: StoredSession, number: int, name: str, latest: int | None = None) -> None:
    """Let the session stand at another revision, if nobody was faster since its row was read; else Conflict. `name` is that
    of the step which moves it.
    """
    still = StoredSession.objects.filter(pk=row.pk, head=row.head, latest=row.latest)
    columns = {"head": number, "latest": latest or row.latest, "step": name, "changed": timezone.now()}
    if not still.update(**columns):
        raise Conflict(sessions.row(row.pk).head)
    for column, value in columns.items():
        setattr(row, column, value)


def _keep_named(step: Revision) -> None:
    """Note which envelopes a revision's swaps name, so that they stay."""
    named = [NamedEnvelope(revision=step, envelope_id=d) for d in past.digests_of(step.swaps)]
    NamedEnvelope.objects.bulk_create(named, batch_size=400)


def shortened(title: str) -> str:
    """A title that fits its column, as names may be long."""
    return title if len(title) <= LONGEST_TITLE else title[: LONGEST_TITLE - 1] + "…"


def past_of(id: int) -> Callable[[int], Session]:
    """Gives the session as it stood at a revision; RequestError where there is none, or it was tidied away."""

    def at(revision: int) -> Session:
        try:
            return at_revisions(id, revision)[0]
        except NotFound:
            raise RequestError(
                "revision-unknown", revision=revision, place="revision", accepted="a step of the log"
            ) from None

    return at


def at_revisions(id: int, *numbers: int | None) -> tuple[Session, ...]:
    """The session as it stood at revisions, undone ones included, and as it stands for None; NotFound for none such."""
    with snapshot():
        row = sessions.row(id)
        return tuple(_at_revision(row, row.head if n is None else n) for n in numbers)


def _at_revision(row: StoredSession, number: int) -> Session:
    if number == row.head:
        return sessions.standing(row).session
    if known := sessions.remembered_at(row.pk, number):
        return replace(known, name=row.name)
    if number > row.latest or number < 0:
        raise NotFound(f"there is no revision {number}")
    return sessions.at(row, number)[0]


def way_from(id: int, number: int, to: int | None = None) -> tuple[Session, list[tuple[dict[str, Any], Session]]]:
    """The session as it stood at a revision; and on the way from there (to another one, or to where it stands) each step
    taken or taken back: its request, and the session after it. Of a long way only the whole, without a request. NotFound
    for no such revision.
    """
    with snapshot():
        row = sessions.row(id)
        then = _at_revision(row, number)
        parents = dict(row.revisions.values_list("number", "parent"))
        end = row.head if to is None else to
        back, forth = past.way(parents, number, end)
        if len(back) + len(forth) > MOST_STEPS_BETWEEN:
            return then, [({}, _at_revision(row, end))]
        asked = dict(row.revisions.filter(number__in=[*back, *forth]).values_list("number", "request"))
        places = [(n, parents[n]) for n in back] + [(n, n) for n in forth]
        return then, [(asked[n], _at_revision(row, to)) for n, to in places]


def last_changes(row: StoredSession, keys: Collection[str] | None = None) -> dict[str, int]:
    """Lane id → the number of the newest revision on the way to here that touched it; 0 as it came. All, or some."""
    lanes = row.lanes.all() if keys is None else row.lanes.filter(key__in=keys)
    return dict(lanes.values_list("key", "changed"))


def last_title(row: StoredSession, keys: Collection[str]) -> str:
    """The title of the last step that touched one of some lanes; nothing where none did."""
    numbers = last_changes(row, keys).values()
    step = row.revisions.filter(number=max(numbers, default=0)).first()
    return step.title if step else ""


def changed_after(row: StoredSession, number: int) -> list[str]:
    """The lanes that a revision after one of a number touched last, by id."""
    return [key for key, changed in last_changes(row).items() if changed > number]


def changed_in(row: StoredSession, days: int) -> list[str]:
    """The lanes that were touched in the last days, by id."""
    since = timezone.now() - timedelta(days=days)
    recent = set(row.revisions.filter(made__gte=since).values_list("number", flat=True))
    return [key for key, changed in last_changes(row).items() if changed in recent]


def next_titles(row: StoredSession) -> tuple[str | None, str | None]:
    """The titles of what undo and redo would do."""
    near = row.revisions.filter(Q(number=row.head) | Q(parent=row.head)).order_by("number")
    titles = dict(near.values_list("number", "title"))
    back = titles.pop(row.head, None)
    return back, titles.popitem()[1] if titles else None


def _swaps(row: StoredSession, change: Change, number: int) -> dict[str, Any]:
    known = {lane.key: lane for lane in row.lanes.filter(key__in=[s.id for s in change.lanes])}
    last = row.lanes.order_by("-position").values_list("position", flat=True).first()
    position = -1 if last is None else last
    lanes = _damaged_in_the_way(row, change)
    digests = iter(blobs.keep(s.after.envelope for s in change.lanes if s.after))
    for swap in change.lanes:
        before = columns_of(known[swap.id]) if swap.id in known else None
        if swap.after and not before:
            position += 1
        place = before["position"] if before else position
        after = new_columns(swap.after, place, next(digests), number) if swap.after else None
        lanes.append({"key": swap.id, "before": before, "after": after})
    swaps: dict[str, Any] = {"lanes": lanes, "tracks": _track_swaps(row, change)}
    if change.listed:
        swaps["links"] = {  # all lists of the structure, as older revisions call them
            "phrases": _list_swaps(change.phrases, row.structure.get("phrases", []), phrase_row),
            "placements": _list_swaps(change.placements, row.structure.get("placements", []), placement_row),
            "markers": _list_swaps(change.markers, row.structure.get("markers", []), marker_row),
            "let_be": _list_swaps(change.let_be, row.structure.get("let_be", []), let_be_row),
            "notes": _list_swaps(change.notes, row.structure.get("notes", []), note_row),
            "alternatives": _kept_swaps(row, change),
        }
    if change.precedence:
        swaps["session"] = {"before": row.structure, "after": row.structure | {"precedence": change.precedence.value}}
    return swaps


def _swaps_to(row: StoredSession, revision: int, head: int, number: int) -> dict[str, Any]:
    """The swaps that go back to a revision from where the rows still stand, for the step that is to have a number."""
    return past.between(past.standing_rows(row), past.rows_at(row, revision, head), number)


def _track_swaps(row: StoredSession, change: Change) -> list[dict[str, Any]]:
    """Swaps of tracks as rows; `at` is the place of one that is made or goes, to come back to."""
    come_or_go = [s.id for s in change.tracks if s.before is None or s.after is None]
    places = dict(row.tracks.filter(key__in=come_or_go).values_list("key", "position"))
    last = row.tracks.order_by("-position").values_list("position", flat=True).first() if come_or_go else None
    following = count(0 if last is None else last + 1)
    return [
        {"key": s.id, "before": s.before and track_row(s.before), "after": s.after and track_row(s.after)}
        | ({"at": places[s.id] if s.before else next(following)} if s.id in come_or_go else {})
        for s in change.tracks
    ]


def _list_swaps(
    swaps: Iterable[ListSwap[Any]],
    there: list[dict[str, Any]],
    row_of: Callable[[Any], dict[str, Any]],
) -> list[dict[str, Any]]:
    """Swaps of phrases, placements, markers or remarks as rows; `at` is the place in the list that what goes had, to come back to."""
    places = {row["id"]: n for n, row in enumerate(there)}
    return [
        {
            "key": s.id,
            "before": s.before and row_of(s.before),
            "after": s.after and row_of(s.after),
            "at": places.get(s.id),
        }
        for s in swaps
    ]


def _kept_swaps(row: StoredSession, change: Change) -> list[dict[str, Any]]:
    """Swaps of alternatives as rows."""
    there = row.structure.get("alternatives", [])
    places = {known["id"]: (n, known) for n, known in enumerate(there)}
    made = iter(kept_rows.rows_of(s.after for s in change.alternatives if s.after))
    return [
        {
            "key": s.id,
            "before": places[s.id][1] if s.id in places else None,
            "after": next(made) if s.after else None,
            "at": places[s.id][0] if s.id in places else None,
        }
        for s in change.alternatives
    ]


def _damaged_in_the_way(row: StoredSession, change: Change) -> list[dict[str, Any]]:
    """The swaps that take away stored lanes where the change makes new ones: those that were left out as damaged."""
    made = {(s.after.parameter, s.after.home): s.id for s in change.lanes if s.after and s.before is None}
    if not made:
        return []
    there = row.lanes.filter(parameter__in={parameter for parameter, _ in made})
    odd = [x for x in there if made.get((x.parameter, x.home), x.key) != x.key]
    leaving = {s.id for s in change.lanes if s.before is not None}
    return [{"key": x.key, "before": columns_of(x), "after": None} for x in odd if x.key not in leaving]


def _swap(row: StoredSession, swaps: dict[str, Any], side: str) -> None:
    """Make every row of the swaps what its `side` says. Removals first, so that homes are free."""
    gone = [s["key"] for s in swaps["lanes"]]
    row.lanes.filter(key__in=gone).delete()
    StoredLane.objects.bulk_create(
        (StoredLane(session=row, key=s["key"], **s[side]) for s in swaps["lanes"] if s[side] is not None),
        batch_size=500,
    )
    for s in swaps["tracks"]:
        there = StoredTrack.objects.filter(session=row, key=s["key"])
        if s[side] is None:
            there.delete()
        elif not there.update(content=s[side]):
            StoredTrack.objects.create(session=row, key=s["key"], position=s["at"], content=s[side])
    if "session" in swaps:
        row.structure = row.structure | {"precedence": swaps["session"][side]["precedence"]}
    row.structure = past.linked(row.structure, swaps, side)
    row.summary = swaps.get("summary", {}).get(side)
    row.save(update_fields=["structure", "summary"])
    if "lists" in swaps or swaps.get("links", {}).get("alternatives"):
        sessions.keep_named(row)
