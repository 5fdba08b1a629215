"""The history of a session: apply, undo and redo, each one transaction, each bit for bit."""

from __future__ import annotations

from dataclasses import dataclass
from datetime import datetime
from typing import Any

from django.db import transaction

from velmot.core.change import Change
from velmot.core.session import Lane, Session
from velmot.formats.session_file import track_row
from velmot.storage import blobs, remembered, sessions
from velmot.storage.errors import Conflict, NotFound
from velmot.storage.models import Revision, StoredLane, StoredSession, StoredTrack


@dataclass(frozen=True)
class LogEntry:
    """One line of the log. `undone` entries can be redone or lie on a path that was left."""

    number: int
    title: str
    made: datetime
    undone: bool
    touched: list[dict[str, Any]]
    request: dict[str, Any]


def apply(id: int, revision: int, change: Change, request: dict[str, Any] | None = None) -> int:
    """Save a change made on `revision`; gives the new revision's number.

    Raises Conflict, with nothing saved, if the session stands at another revision.
    """
    with transaction.atomic():
        row = _at_head(id, revision)
        before = sessions.load(id)
        after = change.applied_to(before)
        swaps = _swaps(row, change)
        number = row.latest + 1
        Revision.objects.create(
            session=row,
            number=number,
            parent=row.head,
            title=change.title,
            request=request or {},
            swaps=swaps,
            touched=[t.place() for t in change.touched],
        )
        _swap(row, swaps, "after")
        row.head = row.latest = number
        row.save()
        remembered.keep(row, before, request or {})
    sessions.remember(id, number, after)
    return number


def undo(id: int, revision: int) -> int:
    """Go back to the revision before; gives its number (the same one if there is none)."""
    with transaction.atomic():
        row = _at_head(id, revision)
        step = row.revisions.filter(number=row.head).first()
        if step is None:
            return row.head
        _swap(row, step.swaps, "before")
        row.head = step.parent
        row.save()
    return row.head


def redo(id: int, revision: int) -> int:
    """Go forward again to the newest revision made from here."""
    with transaction.atomic():
        row = _at_head(id, revision)
        step = row.revisions.filter(parent=row.head).last()
        if step is None:
            return row.head
        _swap(row, step.swaps, "after")
        row.head = step.number
        row.save()
    return row.head


def log(id: int) -> list[LogEntry]:
    """Everything that was applied, newest first, with what is undone marked."""
    row = sessions.row(id)
    steps = {step.number: step for step in row.revisions.all()}
    path = set(_path(steps, row.head))
    return [
        LogEntry(s.number, s.title, s.made, s.number not in path, s.touched, s.request)
        for s in sorted(steps.values(), key=lambda s: -s.number)
    ]


def at_revision(id: int, number: int) -> Session:
    """The session as it stood at a revision, undone ones included; NotFound if there is no such revision."""
    row = sessions.row(id)
    if number == row.head:
        return sessions.load(id)
    if number > row.latest or number < 0:
        raise NotFound(f"there is no revision {number}")
    steps = {s.number: s for s in row.revisions.all()}
    back, forth = _way(steps, row.head, number)
    lanes = {x.key: _lane_columns(x) for x in row.lanes.all()}
    tracks = {t.key: t.content for t in row.tracks.all()}
    structure = row.structure
    for step, side in [(s, "before") for s in back] + [(s, "after") for s in forth]:
        for swap in step.swaps["lanes"]:
            lanes.pop(swap["key"], None)
            if swap[side] is not None:
                lanes[swap["key"]] = swap[side]
        tracks |= {swap["key"]: swap[side] for swap in step.swaps["tracks"]}
        structure = step.swaps.get("session", {}).get(side, structure)
    return sessions.assembled(row.name, structure, list(tracks.values()), lanes)


def _way(steps: dict[int, Revision], start: int, end: int) -> tuple[list[Revision], list[Revision]]:
    """The steps to take back from `start`, and then forth, to come to `end`."""
    up = _path(steps, end)
    back = [n for n in _path(steps, start) if n not in up]
    common = set(up) & set(_path(steps, start))
    return [steps[n] for n in back], [steps[n] for n in reversed(up) if n not in common]


def _path(steps: dict[int, Revision], at: int) -> list[int]:
    """The revisions from one up to the first, the newest first."""
    path = []
    while at in steps:
        path.append(at)
        at = steps[at].parent
    return path


def last_changes(row: StoredSession) -> dict[str, int]:
    """Lane id → the number of the newest revision on the way to here that touched it."""
    steps = {s["number"]: s for s in row.revisions.values("number", "parent", "swaps")}
    newest: dict[str, int] = {}
    at = row.head
    while at in steps:
        for swap in steps[at]["swaps"]["lanes"]:
            newest.setdefault(swap["key"], at)
        at = steps[at]["parent"]
    return newest


def next_titles(row: StoredSession) -> tuple[str | None, str | None]:
    """The titles of what undo and redo would do."""
    back = row.revisions.filter(number=row.head).values_list("title", flat=True).first()
    forth = row.revisions.filter(parent=row.head).values_list("title", flat=True).last()
    return back, forth


def _at_head(id: int, revision: int) -> StoredSession:
    row = sessions.row(id)
    if row.head != revision:
        raise Conflict(row.head)
    return row


def _swaps(row: StoredSession, change: Change) -> dict[str, Any]:
    known = {lane.key: lane for lane in row.lanes.filter(key__in=[s.id for s in change.lanes])}
    last = row.lanes.order_by("-position").values_list("position", flat=True).first()
    position = -1 if last is None else last
    lanes = []
    digests = iter(blobs.keep(s.after.envelope for s in change.lanes if s.after))
    for swap in change.lanes:
        before = _lane_columns(known[swap.id]) if swap.before else None
        if swap.after and not before:
            position += 1
        place = before["position"] if before else position
        after = _new_columns(swap.after, place, next(digests)) if swap.after else None
        lanes.append({"key": swap.id, "before": before, "after": after})
    tracks = [{"key": s.before.id, "before": track_row(s.before), "after": track_row(s.after)} for s in change.tracks]
    swaps: dict[str, Any] = {"lanes": lanes, "tracks": tracks}
    if change.precedence:
        swaps["session"] = {"before": row.structure, "after": row.structure | {"precedence": change.precedence.value}}
    return swaps


def _lane_columns(row: StoredLane) -> dict[str, Any]:
    return {
        "position": row.position,
        "parameter": row.parameter,
        "home": row.home,
        "extra": row.extra,
        "envelope_id": row.envelope_id,
    }


def _new_columns(lane: Lane, position: int, digest: str) -> dict[str, Any]:
    extra = [list(pair) for pair in lane.extra]
    return {
        "position": position,
        "parameter": lane.parameter,
        "home": lane.home,
        "extra": extra,
        "envelope_id": digest,
    }


def _swap(row: StoredSession, swaps: dict[str, Any], side: str) -> None:
    """Make every row of the swaps what its `side` says. Removals first, so that homes are free."""
    gone = [s["key"] for s in swaps["lanes"]]
    row.lanes.filter(key__in=gone).delete()
    StoredLane.objects.bulk_create(
        StoredLane(session=row, key=s["key"], **s[side]) for s in swaps["lanes"] if s[side] is not None
    )
    for s in swaps["tracks"]:
        StoredTrack.objects.filter(session=row, key=s["key"]).update(content=s[side])
    if "session" in swaps:
        row.structure = swaps["session"][side]


def session_at(id: int, revision: int) -> tuple[StoredSession, Session]:
    """The session's row and the session, if it stands at `revision`; else Conflict."""
    return _at_head(id, revision), sessions.load(id)
