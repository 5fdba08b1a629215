"""How sessions are looked at: what is pinned, ranges, heights and named sets, kept beside a session and out of its history."""

from __future__ import annotations

from typing import Any

from django.db import transaction

from velmot.storage import sessions
from velmot.storage.models import KeptBench, StoredSession


def kept(row: StoredSession) -> dict[str, Any]:
    """What is kept of a session's bench; nothing of one that nobody has changed."""
    found = KeptBench.objects.filter(session=row).first()
    return found.content if found else {}


def keep(id: int, some: dict[str, Any]) -> None:
    """Keep some of it; the rest stays, so that two windows that change different things both are kept."""
    row = sessions.row(id)
    if row.past is not None:
        return  # how its past is looked at is kept with nobody
    with transaction.atomic():
        bench, _ = KeptBench.objects.get_or_create(session=row)
        bench.content |= some
        bench.save(update_fields=["content"])
