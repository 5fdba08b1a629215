"""Sessions as a whole: make, load, list, rename, put away and bring back."""

from __future__ import annotations

import threading
from collections import OrderedDict
from typing import Any

from django.db import transaction
from django.db.models import QuerySet
from django.utils import timezone

from velmot.core.envelope import Envelope
from velmot.core.errors import RequestError
from velmot.core.session import Lane, Session
from velmot.formats.report import Report
from velmot.formats.session_file import head_of, structure, track_of
from velmot.storage import blobs
from velmot.storage.errors import NotFound
from velmot.storage.models import StoredEnvelope, StoredLane, StoredSession, StoredTrack

_KEPT = 6
_cache: OrderedDict[tuple[int, int], Session] = OrderedDict()
_lock = threading.Lock()


def create(session: Session, report: Report | None = None) -> int:
    """Store a new session; gives its number. One transaction: all of it or nothing."""
    with transaction.atomic():
        head = structure(session)
        tracks = head.pop("tracks")
        row = StoredSession.objects.create(name=session.name, structure=head, report=vars(report) if report else {})
        StoredTrack.objects.bulk_create(
            StoredTrack(session=row, position=i, key=t["id"], content=t) for i, t in enumerate(tracks)
        )
        digests = blobs.keep(lane.envelope for lane in session.lanes)
        StoredLane.objects.bulk_create(
            (
                StoredLane(
                    session=row,
                    position=i,
                    key=lane.id,
                    parameter=lane.parameter,
                    home=lane.home,
                    extra=[list(pair) for pair in lane.extra],
                    envelope_id=digest,
                )
                for i, (lane, digest) in enumerate(zip(session.lanes, digests, strict=True))
            ),
            batch_size=500,
        )
    remember(row.pk, 0, session)
    return row.pk


def row(id: int) -> StoredSession:
    """The session's row; NotFound if there is none."""
    try:
        return StoredSession.objects.get(pk=id)
    except StoredSession.DoesNotExist:
        raise NotFound(f"there is no session {id}") from None


def load(id: int) -> Session:
    """The session as it stands. Revisions never change, so they are remembered by number."""
    stored = row(id)
    known = _cache.get((id, stored.head))
    if known is not None and known.name == stored.name:
        return known
    session = _loaded(stored)
    remember(id, stored.head, session)
    return session


def remember(id: int, revision: int, session: Session) -> None:
    """Keep a revision in memory; the oldest of a few goes."""
    with _lock:
        _cache[id, revision] = session
        _cache.move_to_end((id, revision))
        while len(_cache) > _KEPT:
            _cache.popitem(last=False)


def _loaded(stored: StoredSession) -> Session:
    tracks = [track_of(t.content) for t in stored.tracks.all()]
    lanes = [
        Lane(x.key, x.parameter, x.home, _envelope(x.envelope), tuple((k, v) for k, v in x.extra))
        for x in stored.lanes.select_related("envelope")
    ]
    return head_of(stored.structure | {"name": stored.name}).with_tracks(tracks).with_lanes(lanes)


def _envelope(stored: StoredEnvelope) -> Envelope:
    return blobs.unpack(bytes(stored.data), stored.axis)


def assembled(
    name: str, structure: dict[str, Any], tracks: list[dict[str, Any]], lanes: dict[str, dict[str, Any]]
) -> Session:
    """A session from rows as tables and revisions hold them; lanes by key."""
    stored = StoredEnvelope.objects.in_bulk([row["envelope_id"] for row in lanes.values()])
    made = [
        Lane(key, x["parameter"], x["home"], _envelope(stored[x["envelope_id"]]), tuple((k, v) for k, v in x["extra"]))
        for key, x in sorted(lanes.items(), key=lambda pair: pair[1]["position"])
    ]
    return head_of(structure | {"name": name}).with_tracks(track_of(t) for t in tracks).with_lanes(made)


def listed(deleted: bool = False) -> QuerySet[StoredSession]:
    """Sessions by last change; those put away only when asked for."""
    return StoredSession.objects.filter(deleted__isnull=not deleted).order_by("-changed", "-pk")


def rename(id: int, name: str) -> None:
    """Give the session another name."""
    name = name.strip()
    if not 0 < len(name) <= 300:
        raise RequestError("name", "a session needs a name", place="name", accepted="1 to 300 characters")
    stored = row(id)
    stored.name = name
    stored.save()


def put_away(id: int, away: bool = True) -> None:
    """Delete a session so that it can be brought back, or bring it back."""
    stored = row(id)
    stored.deleted = timezone.now() if away else None
    stored.save()
