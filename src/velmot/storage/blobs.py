"""Envelopes as compact bytes: n ticks (int64), n values and n bends (float64), little endian."""

from __future__ import annotations

import hashlib
from collections.abc import Iterable

import numpy as np

from velmot.core.envelope import Envelope
from velmot.core.parameters import Axis
from velmot.storage.models import StoredEnvelope

_BATCH = 200


def pack(envelope: Envelope) -> bytes:
    """24 bytes a point."""
    columns = (envelope.ticks.astype("<i8"), envelope.values.astype("<f8"), envelope.bends.astype("<f8"))
    return b"".join(column.tobytes() for column in columns)


def unpack(data: bytes, axis: str) -> Envelope:
    """The envelope that `pack` wrote, bit for bit."""
    n = len(data) // 24
    ticks = np.frombuffer(data, "<i8", n)
    values = np.frombuffer(data, "<f8", n, 8 * n)
    bends = np.frombuffer(data, "<f8", n, 16 * n)
    return Envelope(ticks, values, bends, Axis(axis))


def digest(envelope: Envelope) -> str:
    """The name of the content: equal envelopes share one blob."""
    return hashlib.sha256(envelope.axis.encode() + pack(envelope)).hexdigest()


def keep(envelopes: Iterable[Envelope]) -> list[str]:
    """Store what is not stored yet; the digests in order."""
    named = [(digest(e), e) for e in envelopes]
    rows = {d: StoredEnvelope(digest=d, axis=e.axis.value, points=len(e), data=pack(e)) for d, e in named}
    StoredEnvelope.objects.bulk_create(rows.values(), batch_size=_BATCH, ignore_conflicts=True)
    return [d for d, _ in named]
