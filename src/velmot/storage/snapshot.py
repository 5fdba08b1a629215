"""Reading several rows as they stood at one moment."""

from __future__ import annotations

from collections.abc import Iterator
from contextlib import contextmanager

from django.db import connection


@contextmanager
def snapshot() -> Iterator[None]:
    """One reading transaction around several statements. It waits for no writer and holds none up; inside a writing
    transaction, or another snapshot, there is one already.
    """
    if connection.in_atomic_block or (connection.connection is not None and connection.connection.in_transaction):
        yield
        return
    with connection.cursor() as cursor:
        cursor.execute("BEGIN DEFERRED")
        try:
            yield
        finally:
            cursor.execute("ROLLBACK")
