"""The files sessions came from, kept as they were."""

from __future__ import annotations

import zlib
from dataclasses import dataclass

from velmot.core.limits import LONGEST_NAME
from velmot.storage import past
from velmot.storage.errors import NotFound
from velmot.storage.models import StoredSession, StoredSource


@dataclass(frozen=True)
class Source:
    """A file: its name and its bytes."""

    name: str
    data: bytes


def keep(session: StoredSession, source: Source) -> None:
    """Keep the file with its session."""
    StoredSource.objects.create(
        session=session, name=source.name[-LONGEST_NAME:], data=zlib.compress(source.data, level=6)
    )


def name_of(session: StoredSession) -> str:
    """The name of the file a session came from, if that is kept; else nothing."""
    return StoredSource.objects.filter(session=session).values_list("name", flat=True).first() or ""


def known(id: int) -> Source | None:
    """The file a session came from, if it is kept."""
    found = StoredSource.objects.filter(session=past.parted(id)[0]).first()
    return Source(found.name, zlib.decompress(found.data)) if found else None


def source_of(id: int) -> Source:
    """The file a session came from; NotFound where none is kept."""
    found = known(id)
    if found is None:
        raise NotFound("this session came from no file that could be written back into")
    return found
