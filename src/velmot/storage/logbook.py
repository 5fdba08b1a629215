"""The log of a session: pages of its steps, found by words, lane, track, verb and bars; what each changed; and its marks."""

from __future__ import annotations

from collections.abc import Collection, Iterator
from dataclasses import dataclass
from datetime import datetime
from typing import Any

from velmot.core.curves.envelope import Envelope
from velmot.core.errors import RequestError
from velmot.core.limits import LONGEST_NAME, LONGEST_NOTE
from velmot.storage import blobs, past, sessions
from velmot.storage.errors import Damaged, NotFound
from velmot.storage.models import Revision, StoredEnvelope, StoredMark, StoredSession
from velmot.storage.snapshot import snapshot

_AT_ONCE = 400


@dataclass(frozen=True)
class LogEntry:
    """One line of the log. What is `undone` can be done again, or lies on a way that was left (`aside`)."""

    number: int
    parent: int
    title: str
    made: datetime
    undone: bool
    aside: bool
    touched: list[dict[str, Any]]
    request: dict[str, Any]
    current: bool
    """Whether the session stands at it."""
    window: str
    folds: int


@dataclass(frozen=True)
class Mark:
    """A revision under a name."""

    number: int
    name: str
    note: str
    made: datetime


@dataclass(frozen=True)
class LogPage:
    """Some lines of the log, newest first; `more` says whether older ones follow."""

    entries: list[LogEntry]
    more: bool
    marks: list[Mark]


@dataclass(frozen=True)
class Wanted:
    """Which lines are looked for: words of a title, a verb, lanes and parameters that were touched, and ticks they reach into."""

    words: str = ""
    verb: str = ""
    lane: str = ""
    parameters: frozenset[str] = frozenset()
    start: int | None = None
    end: int | None = None

    @property
    def of_places(self) -> bool:
        """Whether it asks what was touched."""
        return bool(self.lane or self.parameters or self.start is not None)

    def fits(self, touched: list[dict[str, Any]]) -> bool:
        """Whether a step touched what is looked for."""
        return any(self._reaches(t) for t in touched)

    def _reaches(self, t: dict[str, Any]) -> bool:
        if self.lane and t["lane"] != self.lane and t["parameter"] not in self.parameters:
            return False
        if not self.lane and self.parameters and t["parameter"] not in self.parameters:
            return False
        return self.start is None or self.end is None or (t["start"] < self.end and self.start < t["end"])


def log(id: int, before: int | None = None, most: int = 100, wanted: Wanted | None = None) -> LogPage:
    """A page of what was applied, newest first, with what is undone marked; from revision `before` (not in it) down."""
    with snapshot():
        row = sessions.row(id)
        page = _some(row, before, most + 1, wanted or Wanted())
        more, page = len(page) > most, page[:most]
        on_the_way = _path_down_to(row, page[-1].number) if page else set()
        ahead = _ahead(row) if any(s.number > row.head for s in page) else set()
        marks = marks_of(row)
    entries = [
        LogEntry(
            s.number,
            s.parent,
            s.title,
            s.made,
            s.number not in on_the_way,
            s.number not in on_the_way and s.number not in ahead,
            s.touched,
            s.request,
            s.number == row.head,
            s.window,
            s.folds,
        )
        for s in page
    ]
    return LogPage(entries, more, marks)


def _some(row: StoredSession, before: int | None, most: int, wanted: Wanted) -> list[Revision]:
    """The newest steps that are looked for, below a revision; read a few hundred at a time where what they touched decides."""
    steps = row.revisions.filter(replaced=False).order_by("-number").defer("swaps")
    for word in wanted.words.split():
        steps = steps.filter(title__icontains=word)
    if wanted.verb:
        steps = steps.filter(request__verb=wanted.verb)
    found: list[Revision] = []
    while len(found) < most:
        batch = list(
            (steps if before is None else steps.filter(number__lt=before))[: _AT_ONCE if wanted.of_places else most]
        )
        found += [s for s in batch if not wanted.of_places or wanted.fits(s.touched)]
        if len(batch) < (_AT_ONCE if wanted.of_places else most):
            break
        before = batch[-1].number
    return found[:most]


def _path_down_to(row: StoredSession, least: int) -> set[int]:
    """The revisions on the way to where a session stands, from `least` on."""
    parents = dict(row.revisions.filter(number__gte=least, number__lte=row.head).values_list("number", "parent"))
    path, at = set(), row.head
    while at in parents:
        path.add(at)
        at = parents[at]
    return path


def _ahead(row: StoredSession) -> set[int]:
    """The revisions that redo would lead to, one after the other."""
    newest: dict[int, int] = {}
    for number, parent in row.revisions.filter(number__gt=row.head).order_by("number").values_list("number", "parent"):
        newest[parent] = number
    found, at = set(), row.head
    while at in newest:
        at = newest[at]
        found.add(at)
    return found


# ── what a step changed ───────────────────────────────────────────────────────────────────────


@dataclass(frozen=True)
class Pictured:
    """What a step changed of the first lane it touched: before and after it, in the lane's own ticks."""

    number: int
    parameter: str
    before: Envelope | None
    after: Envelope | None


def pictured(id: int, numbers: Collection[int]) -> list[Pictured]:
    """What some steps changed; nothing of one that changed no lane, or whose curve is damaged."""
    with snapshot():
        row = sessions.row(id)
        steps = row.revisions.filter(number__in=numbers).values_list("number", "swaps__lanes")
        first = {n: swap for n, lanes in steps if (swap := _most_telling(lanes))}
        digests = {side["envelope_id"] for s in first.values() for side in (s["before"], s["after"]) if side}
        curves = blobs.read(StoredEnvelope.objects.in_bulk(list(digests)).values())

    def curve(columns: dict[str, Any] | None) -> Envelope | None:
        found = curves.get(columns["envelope_id"]) if columns else None
        return None if isinstance(found, Damaged) else found

    return [
        Pictured(n, (s["after"] or s["before"])["parameter"], curve(s["before"]), curve(s["after"]))
        for n, s in first.items()
    ]


def _most_telling(lanes: list[dict[str, Any]]) -> dict[str, Any] | None:
    """The first lane whose curve changed, if there is one."""

    def changed(swap: dict[str, Any]) -> bool:
        sides = (swap["before"], swap["after"])
        return len({side and side["envelope_id"] for side in sides}) > 1

    return next((swap for swap in lanes if changed(swap)), None)


# ── marks ─────────────────────────────────────────────────────────────────────────────────────


def marks_of(row: StoredSession) -> list[Mark]:
    """All marks of a session, the newest revision first."""
    found = row.marks.order_by("-number").values_list("number", "name", "note", "made")
    return [Mark(*columns) for columns in found]


def marks(id: int) -> list[Mark]:
    """All marks of a session, the newest revision first."""
    return marks_of(sessions.row(id))


def mark(id: int, number: int, name: str, note: str = "") -> None:
    """Give a revision a name and some words, or another name; two may be called alike."""
    name, note = name.strip(), note.strip()
    if not 0 < len(name) <= LONGEST_NAME:
        raise RequestError("name", whose="mark", place="name", accepted=f"1 to {LONGEST_NAME} characters")
    if len(note) > LONGEST_NOTE:
        raise RequestError("note-long", count=len(note), place="note", accepted=f"at most {LONGEST_NOTE:,} characters")
    row = sessions.row(id)
    if number != 0 and not row.revisions.filter(number=number).exists():
        raise NotFound(f"there is no revision {number}")
    StoredMark.objects.update_or_create(session=row, number=number, defaults={"name": name, "note": note})


def unmark(id: int, number: int) -> None:
    """Take a mark off; its revision stays, until the history is tidied."""
    if not sessions.row(id).marks.filter(number=number).delete()[0]:
        raise NotFound(f"there is no mark on revision {number}")


def marked_name(row: StoredSession, number: int) -> str:
    """What a revision is marked as; nothing where it is not."""
    return row.marks.filter(number=number).values_list("name", flat=True).first() or ""


def before_mark(id: int, number: int) -> tuple[int, int]:
    """(the nearest mark before a revision on its own way, or 0; how many steps lie between)."""
    with snapshot():
        row = sessions.row(id)
        parents = dict(row.revisions.values_list("number", "parent"))
        marked = set(row.marks.values_list("number", flat=True))
    steps = 0
    for at in past.path(parents, number):
        steps += 1
        if parents[at] in marked or parents[at] not in parents:
            return parents[at], steps
    return 0, steps


def changed_between(id: int, number: int, other: int) -> Iterator[str]:
    """The parameters whose lanes differ between two revisions, each once."""
    with snapshot():
        row = sessions.row(id)
        one, then = (past.rows_at(row, n, row.past) for n in (number, other))
    seen: dict[str, None] = {}
    for swap in past.between(one, then)["lanes"]:
        seen.setdefault((swap["after"] or swap["before"])["parameter"])
    yield from seen
