"""Envelopes as compact bytes: n ticks (int64), n values and n bends (float64), little endian; long ones in chunks.

A chunk ends where a point's tick says so by its own number, so that an edit changes the chunk it falls into and no
other: what comes before and after is found again under its digest and stored no second time.
"""

from __future__ import annotations

import hashlib
from collections.abc import Iterable, Sequence

import numpy as np

from velmot.core.curves.axes import Axis
from velmot.core.curves.envelope import Envelope
from velmot.core.errors import RequestError
from velmot.core.time.ticks import Floats, Ticks
from velmot.storage.errors import Damaged
from velmot.storage.models import KeptEnvelope, NamedEnvelope, StoredChunk, StoredEnvelope, StoredLane

WHOLE = 1024
"""Envelopes of up to this many points are kept in one piece."""

_SHORTEST, _USUAL, _LONGEST = 128, 512, 2048  # points in a chunk
_MIX = np.uint64(0x9E3779B97F4A7C15)  # 2^64 over the golden ratio: its product with a number has well mixed high bits
_BATCH = 400


def pack(envelope: Envelope) -> bytes:
    """24 bytes a point."""
    return _packed(envelope.arrays())


def _packed(columns: Iterable[np.ndarray]) -> bytes:
    ticks, values, bends = columns
    return b"".join((ticks.astype("<i8").tobytes(), values.astype("<f8").tobytes(), bends.astype("<f8").tobytes()))


def _unpacked(data: bytes) -> tuple[Ticks, Floats, Floats]:
    n = len(data) // 24
    return np.frombuffer(data, "<i8", n), np.frombuffer(data, "<f8", n, 8 * n), np.frombuffer(data, "<f8", n, 16 * n)


def unpack(data: bytes, axis: str) -> Envelope:
    """The envelope that `pack` wrote, bit for bit."""
    ticks, values, bends = _unpacked(data)
    return Envelope(ticks, values, bends, Axis(axis))


def digest(envelope: Envelope) -> str:
    """The name of the content: equal envelopes share one row."""
    return _digest(envelope.axis.value, pack(envelope))


def _digest(axis: str, data: bytes) -> str:
    return hashlib.sha256(axis.encode() + data).hexdigest()


# ── storing ───────────────────────────────────────────────────────────────────────────────────


def keep(envelopes: Iterable[Envelope]) -> list[str]:
    """Store what is not stored yet; the digests in order."""
    named = [(digest(e), e) for e in envelopes]
    known = set(_existing([d for d, _ in named]))
    new = {d: e for d, e in named if d not in known}
    chunked = {d: _chunks(e) for d, e in new.items() if len(e) > WHOLE}
    ids = _kept_chunks([data for parts in chunked.values() for data in parts])
    rows, at = [], 0
    for d, e in new.items():
        parts = chunked.get(d, [])
        mine, at = ids[at : at + len(parts)], at + len(parts)
        listed = np.array(mine, dtype="<i8").tobytes()
        data = b"" if parts else pack(e)
        rows.append(StoredEnvelope(digest=d, axis=e.axis.value, points=len(e), data=data, chunks=listed))
    StoredEnvelope.objects.bulk_create(rows, batch_size=_BATCH)
    return [d for d, _ in named]


def _existing(digests: Sequence[str]) -> Iterable[str]:
    for i in range(0, len(digests), _BATCH):
        yield from StoredEnvelope.objects.filter(digest__in=digests[i : i + _BATCH]).values_list("digest", flat=True)


def _chunks(envelope: Envelope) -> list[bytes]:
    ends = _chunk_ends(envelope.ticks)
    return [_packed(column[a:b] for column in envelope.arrays()) for a, b in zip([0, *ends[:-1]], ends, strict=True)]


def _chunk_ends(ticks: Ticks) -> list[int]:
    """Where chunks end: after points whose tick's mixed number is a multiple of the usual size, not too near or far apart."""
    mixed = (ticks.astype(np.uint64) * _MIX) >> np.uint64(40)
    ends, start = [], 0
    for end in (np.flatnonzero(mixed % np.uint64(_USUAL) == 0) + 1).tolist():
        while end - start > _LONGEST:
            start += _LONGEST
            ends.append(start)
        if end - start >= _SHORTEST:
            ends.append(end)
            start = end
    ends += range(start + _LONGEST, len(ticks), _LONGEST)
    return ends if ends and ends[-1] == len(ticks) else [*ends, len(ticks)]


def _kept_chunks(chunks: list[bytes]) -> list[int]:
    """The ids of chunks, in order; those that are not there yet are stored."""
    names = [hashlib.sha256(data).digest() for data in chunks]
    wanted = list(dict.fromkeys(names))
    known = _chunk_ids(wanted)
    fresh = {name: data for name, data in zip(names, chunks, strict=True) if name not in known}
    StoredChunk.objects.bulk_create([StoredChunk(digest=n, data=d) for n, d in fresh.items()], batch_size=_BATCH)
    known |= _chunk_ids(list(fresh))
    return [known[name] for name in names]


def _chunk_ids(names: list[bytes]) -> dict[bytes, int]:
    found: dict[bytes, int] = {}
    for i in range(0, len(names), _BATCH):
        rows = StoredChunk.objects.filter(digest__in=names[i : i + _BATCH]).values_list("digest", "id")
        found |= {bytes(name): id for name, id in rows}
    return found


# ── reading ───────────────────────────────────────────────────────────────────────────────────


def read(rows: Iterable[StoredEnvelope]) -> dict[str, Envelope | Damaged]:
    """Envelopes by digest, each checked against it; Damaged in place of one that is not what it was."""
    every = list(rows)
    lists = {row.digest: np.frombuffer(bytes(row.chunks), "<i8").tolist() for row in every if row.chunks}
    chunks = _chunks_of([id for ids in lists.values() for id in ids])
    return {row.digest: _checked(row, [chunks.get(id) for id in lists.get(row.digest, [])]) for row in every}


def _chunks_of(ids: list[int]) -> dict[int, bytes]:
    wanted = list(dict.fromkeys(ids))
    found: dict[int, bytes] = {}
    for i in range(0, len(wanted), _BATCH):
        rows = StoredChunk.objects.filter(id__in=wanted[i : i + _BATCH]).values_list("id", "data")
        found |= {id: bytes(data) for id, data in rows}
    return found


def _checked(row: StoredEnvelope, parts: list[bytes | None]) -> Envelope | Damaged:
    data = bytes(row.data)
    if parts:
        if any(part is None for part in parts):
            return Damaged()
        columns = zip(*(_unpacked(part) for part in parts if part), strict=True)
        data = _packed(np.concatenate(column) for column in columns)
    if _digest(row.axis, data) != row.digest:
        return Damaged()
    try:
        return unpack(data, row.axis)
    except (RequestError, ValueError):  # written by something that is not Velmot
        return Damaged()


# ── letting go ────────────────────────────────────────────────────────────────────────────────


def collect() -> None:
    """Remove envelopes that no lane, no revision and no alternative names, and chunks that no envelope holds."""
    lanes, named = StoredLane.objects.values("envelope_id"), NamedEnvelope.objects.values("envelope_id")
    kept = KeptEnvelope.objects.values("envelope_id")
    loose = StoredEnvelope.objects.exclude(digest__in=lanes).exclude(digest__in=named).exclude(digest__in=kept)
    loose._raw_delete(loose.db)
    held: set[int] = set()
    for listed in StoredEnvelope.objects.exclude(chunks=b"").values_list("chunks", flat=True).iterator():
        held.update(np.frombuffer(bytes(listed), "<i8").tolist())
    gone = [id for id in StoredChunk.objects.values_list("id", flat=True).iterator() if id not in held]
    for i in range(0, len(gone), _BATCH):
        StoredChunk.objects.filter(id__in=gone[i : i + _BATCH]).delete()
