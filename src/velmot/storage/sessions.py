"""Sessions as a whole: make, load, list, rename, put away, bring back, and remove for good."""

from __future__ import annotations

import json
import threading
from collections import OrderedDict
from dataclasses import asdict, dataclass, replace
from datetime import datetime
from typing import Any

from django.db import transaction
from django.db.models import TextField
from django.db.models.functions import Cast
from django.utils import timezone

from velmot.core.errors import RequestError
from velmot.core.limits import LONGEST_NAME
from velmot.core.session.session import Session
from velmot.core.session.summary import summary_of
from velmot.core.session.track import ON_THE_TRACK, Lane
from velmot.core.session.wording import parameter_name
from velmot.formats.report import Report
from velmot.formats.session_file import head_of, structure, track_of
from velmot.storage import blobs, kept_rows, own_audio, past, sources, upkeep
from velmot.storage.errors import Damaged, NotFound
from velmot.storage.lane_rows import new_columns
from velmot.storage.models import KeptEnvelope, NamedEnvelope, StoredEnvelope, StoredLane, StoredSession, StoredTrack
from velmot.storage.snapshot import snapshot
from velmot.storage.sources import Source

_KEPT = 6


@dataclass(frozen=True)
class Opened:
    """A session as one moment's rows say it, and in words what of it is damaged and was left out."""

    row: StoredSession
    session: Session
    damaged: tuple[str, ...] = ()


_cache: OrderedDict[tuple[int, int], tuple[Session, tuple[str, ...]]] = OrderedDict()
_lock = threading.Lock()


def made_as(name: str) -> StoredSession | None:
    """The session that was stored under a name of the one who asked, if nothing was done to it since."""
    return StoredSession.objects.filter(step=name, head=0, latest=0).order_by("-pk").first()


def create(
    session: Session, report: Report | None = None, source: Source | None = None, name: str | None = None
) -> int:
    """Store a new session, with the file it came from; gives its number. One transaction: all of it or nothing.

    `name` is one's own for this: it is found again by it (`made_as`), where the answer was lost.
    """
    with transaction.atomic():
        head = structure(session)
        tracks = head.pop("tracks")
        if session.alternatives:
            head["alternatives"] = kept_rows.rows_of(session.alternatives)
        row = StoredSession.objects.create(
            name=session.name,
            structure=head,
            report=vars(report) if report else {},
            summary=asdict(summary_of(session)),
            step=name or "",
        )
        StoredTrack.objects.bulk_create(
            StoredTrack(session=row, position=i, key=t["id"], content=t) for i, t in enumerate(tracks)
        )
        digests = blobs.keep(lane.envelope for lane in session.lanes)
        StoredLane.objects.bulk_create(
            (
                StoredLane(session=row, key=lane.id, **new_columns(lane, i, digest))
                for i, (lane, digest) in enumerate(zip(session.lanes, digests, strict=True))
            ),
            batch_size=500,
        )
        keep_named(row)
        if source is not None:
            sources.keep(row, source)
    remember(row.pk, 0, session)
    return row.pk


def row(id: int) -> StoredSession:
    """The session's row; NotFound if there is none. That of a state in its past stands at that revision."""
    number, revision = past.parted(id)
    try:
        found = StoredSession.objects.get(pk=number)
    except (StoredSession.DoesNotExist, OverflowError):  # no number that large is ever given
        raise NotFound(f"there is no session {id}") from None
    if revision is not None:
        if not 0 <= revision <= found.latest:
            raise NotFound(f"there is no revision {revision}")
        found.past, found.head = found.head, revision
    return found


def keep_named(row: StoredSession) -> None:
    """Note which envelopes the session's alternatives name, so that they stay."""
    wanted = dict.fromkeys(past.kept_digests(row.structure.get("alternatives", [])))
    known = set(row.kept.values_list("envelope_id", flat=True))
    gone = [digest for digest in known if digest not in wanted]
    for i in range(0, len(gone), 400):
        row.kept.filter(envelope_id__in=gone[i : i + 400]).delete()
    new = [KeptEnvelope(session=row, envelope_id=digest) for digest in wanted if digest not in known]
    KeptEnvelope.objects.bulk_create(new, batch_size=400)


def load(id: int) -> Session:
    """The session as it stands."""
    return opened(id).session


def opened(id: int) -> Opened:
    """The session as it stands, with its row. Revisions never change, so they are remembered by number."""
    with snapshot():
        return standing(row(id))


def standing(stored: StoredSession) -> Opened:
    """The session as a row that has been read says it stands."""
    known = _cache.get((stored.pk, stored.head))
    if known is None or known[0].name != stored.name:
        known = _loaded(stored) if stored.past is None else at(stored, stored.head)
        remember(stored.pk, stored.head, *known)
    return Opened(stored, *known)


def remembered_at(id: int, revision: int) -> Session | None:
    """The session at a revision, if it is in memory and nothing of it is damaged."""
    known = _cache.get((id, revision))
    return known[0] if known and not known[1] else None


def remember(id: int, revision: int, session: Session, damaged: tuple[str, ...] = ()) -> None:
    """Keep a revision in memory; the oldest of a few goes."""
    with _lock:
        _cache[id, revision] = session, damaged
        _cache.move_to_end((id, revision))
        while len(_cache) > _KEPT:
            _cache.popitem(last=False)


def forget(id: int) -> None:
    """Let go of what is remembered of a session."""
    with _lock:
        for key in [key for key in _cache if key[0] == id]:
            del _cache[key]


def at(stored: StoredSession, revision: int) -> tuple[Session, tuple[str, ...]]:
    """The session as it stood at a revision, and in words what of it is damaged."""
    state = past.rows_at(stored, revision, stored.past)
    return assembled(stored.name, state.structure, state.in_order, state.lanes)


def _loaded(stored: StoredSession) -> tuple[Session, tuple[str, ...]]:
    lanes = {
        x.key: {
            "position": x.position,
            "parameter": x.parameter,
            "home": x.home,
            "extra": x.extra,
            "envelope_id": x.envelope_id,
        }
        for x in stored.lanes.all()
    }
    return assembled(stored.name, stored.structure, [t.content for t in stored.tracks.all()], lanes)


def assembled(
    name: str, structure: dict[str, Any], tracks: list[dict[str, Any]], lanes: dict[str, dict[str, Any]]
) -> tuple[Session, tuple[str, ...]]:
    """A session from rows as tables and revisions hold them, lanes by key; and in words which lanes are damaged."""
    kept = structure.get("alternatives", [])
    head = {key: value for key, value in structure.items() if key != "alternatives"} | {"name": name}
    session = head_of(head).with_tracks(track_of(t) for t in tracks)
    digests = {row["envelope_id"] for row in lanes.values()} | {*past.kept_digests(kept)}
    stored = StoredEnvelope.objects.in_bulk(list(digests))
    curves = blobs.read(stored.values())
    made, damaged = [], []
    for key, x in sorted(lanes.items(), key=lambda pair: pair[1]["position"]):
        curve = curves.get(x["envelope_id"], Damaged())
        if isinstance(curve, Damaged):
            inside = "" if x["home"] == ON_THE_TRACK else f" in {session.region(x['home']).name}"
            name = f"{parameter_name(session, x['parameter'])}{inside}"
            damaged.append(f"{name} (lane {key}) is damaged in the database and left out")
        else:
            made.append(Lane(key, x["parameter"], x["home"], curve, tuple((k, v) for k, v in x["extra"])))
    alternatives, lost = kept_rows.alternatives_of(kept, curves)
    damaged += [f"the alternative “{name}” is damaged in the database and left out" for name in lost]
    return replace(session, lanes=tuple(made), alternatives=tuple(alternatives)), tuple(damaged)


@dataclass(frozen=True)
class Listed:
    """A session as the list of all shows it; `summary` is the JSON text of its Summary."""

    id: int
    name: str
    changed: datetime
    summary: str


def listed(deleted: bool = False) -> list[Listed]:
    """Sessions by last change; those put away only when asked for. Summaries stay the text they are kept as."""
    found = StoredSession.objects.filter(deleted__isnull=not deleted).order_by("-changed", "-pk")
    rows = found.values_list("pk", "name", "changed", Cast("summary", TextField()))
    return [Listed(id, name, changed, text or _summarised(id)) for id, name, changed, text in rows]


def _summarised(id: int) -> str:
    """The summary of a session from before they were kept, kept from now on."""
    with snapshot():
        stored = row(id)
        session, _ = _loaded(stored)
    summary = asdict(summary_of(session))
    StoredSession.objects.filter(pk=id, head=stored.head).update(summary=summary)
    return json.dumps(summary)


def rename(id: int, name: str) -> None:
    """Give the session another name."""
    name = name.strip()
    if not 0 < len(name) <= LONGEST_NAME:
        said = f"1 to {LONGEST_NAME} characters"
        raise RequestError("name/session", place="name", accepted=said)
    _write(id, name=name, changed=timezone.now())


def put_away(id: int, away: bool = True) -> None:
    """Delete a session so that it can be brought back, or bring it back."""
    _write(id, deleted=timezone.now() if away else None)


def remove(id: int) -> None:
    """Remove a deleted session for good, with its history; the space it took comes back."""
    with transaction.atomic():
        stored = row(id)
        if stored.deleted is None:
            raise RequestError(
                "not-deleted", name=stored.name, place="id", accepted="a session that was deleted before"
            )
        NamedEnvelope.objects.filter(revision__session=stored).delete()
        stored.delete()
        blobs.collect()
    forget(id)
    own_audio.forget_unused()
    upkeep.give_back_space()


def _write(id: int, **columns: Any) -> None:
    """Write some columns of a session's row and no others."""
    with transaction.atomic():
        if not StoredSession.objects.filter(pk=row(id).pk).update(**columns):
            raise NotFound(f"there is no session {id}")
