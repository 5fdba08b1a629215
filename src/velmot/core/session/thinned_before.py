"""What a lane remembers of having been thinned, so that thinning it again takes it no further from what it was.

A curve within a bound of the thinned one may need fewer points still, but it could be twice the bound from the curve that
was. Nothing in the points tells; so the lane keeps, for each bound, marks of the segments that were laid within it. What
is edited loses its own marks and no others: the rest of the lane is known as before. Of very many segments marks stand for
several at once, parted where the ticks themselves decide.
"""

from __future__ import annotations

import json
from base64 import b64decode, b64encode
from contextlib import suppress
from hashlib import blake2b
from typing import Any

import numpy as np

from velmot.core.curves.editing import cut
from velmot.core.curves.envelope import Envelope
from velmot.core.session.phrases import Extra
from velmot.core.session.track import Lane
from velmot.core.time.ticks import Flags, Floats, Ticks, among, beats_of, ticks_of

KEY = "thinned"
"""The key it stands under among what a lane holds beside its points."""

MOST = 2000
"""About how many marks a lane keeps for one bound."""

_BYTES = 5
_PARTED = 1 << 12
"""Segments that one mark may stand for."""

_MIX = [np.uint64(x) for x in (0x9E3779B97F4A7C15, 0xBF58476D1CE4E5B9, 0x94D049BB133111EB, 0xD6E8FEB86659FD93)]


def spent_of(lane: Lane, keep: Ticks | None = None) -> Floats:
    """How much of a bound each segment of a lane has spent, in axis units, float64 (n − 1,): 0 where nothing is known.

    Segments beside points that were to stay count where these stay now: they are among the sorted ticks `keep` (all, for
    None).
    """
    curve = lane.envelope
    spent = np.zeros(max(len(curve) - 1, 0))
    for row in _rows(lane):
        within = row.get("within")
        if not isinstance(within, int | float) or not 0 < within < np.inf:
            continue
        try:
            known = _known_as_before(row, curve) if "curve" in row else _known(row, curve)
            if keep is not None:
                known &= ~beside(curve, np.setdiff1d(_kept(row), keep))
        except (KeyError, TypeError, ValueError, OverflowError):  # a file may say anything there
            continue
        spent = np.where(known, np.maximum(spent, float(within)), spent)
    return spent


def stayed(lane: Lane) -> Ticks:
    """The ticks of points that were to stay, in order."""
    found = [np.zeros(0, dtype=np.int64)]
    for row in _rows(lane):
        with suppress(TypeError, ValueError, OverflowError):
            found.append(_kept(row))
    return np.unique(np.concatenate(found))


def remembering(lane: Lane, spent: Floats, kept: Ticks) -> Extra:
    """What a lane holds beside its points once its segments have spent so much, with points at `kept` that were to stay."""
    said = []
    at_kept = beside(lane.envelope, kept)
    for within in np.unique(spent[spent > 0]).tolist():
        for here, stay in ((spent == within) & ~at_kept, None), ((spent == within) & at_kept, kept):
            if here.any():
                every = 1 if stay is not None else min(max(int(np.ceil(np.count_nonzero(here) / MOST)), 1), _PARTED)
                said.append(_row(lane.envelope, here, within, every, stay))
    beside_it = tuple((k, v) for k, v in lane.extra if k != KEY)
    return (*beside_it, (KEY, json.dumps(said))) if said else beside_it


def _row(curve: Envelope, here: Flags, within: float, every: int, kept: Ticks | None) -> dict[str, Any]:
    first, marks = _marks(curve, every)
    whole = np.logical_and.reduceat(here, first)
    bare = marks[whole].view(np.uint8).reshape(-1, 8)[:, :_BYTES].tobytes()
    row = {"within": within, "every": every, "marks": b64encode(bare).decode()}
    return row if kept is None else row | {"kept": [beats_of(tick) for tick in kept.tolist()]}


def _kept(row: dict[str, Any]) -> Ticks:
    return np.array(sorted(ticks_of(x) for x in row.get("kept", ())), dtype=np.int64)


def _known(row: dict[str, Any], curve: Envelope) -> Flags:
    """Which segments of a curve a row of marks stands for."""
    bare = b64decode(row["marks"], validate=True)
    every = row["every"]
    if len(bare) % _BYTES or not isinstance(every, int) or not 1 <= every <= _PARTED or len(curve) < 2:
        raise ValueError(every)
    wide = np.zeros((len(bare) // _BYTES, 8), dtype=np.uint8)
    wide[:, :_BYTES] = np.frombuffer(bare, dtype=np.uint8).reshape(-1, _BYTES)
    first, marks = _marks(curve, every)
    return np.repeat(np.isin(marks, wide.view(np.uint64).ravel()), np.diff(np.append(first, len(curve) - 1)))


def _marks(curve: Envelope, every: int) -> tuple[Ticks, np.ndarray]:
    """Where each group of about `every` segments begins, and the mark of each: 40 bits of its points."""
    ticks = curve.ticks.astype(np.uint64)
    y, bends = (np.ascontiguousarray(x).view(np.uint64) for x in (curve.values, curve.bends))
    mixed = ticks[:-1] * _MIX[0] + ticks[1:] * _MIX[1]
    for column, factor in ((y[:-1], _MIX[2]), (y[1:], _MIX[3]), (bends[:-1], _MIX[0])):
        mixed = (mixed ^ (mixed >> np.uint64(29)) ^ column) * factor
    mixed ^= mixed >> np.uint64(32)
    begins = (ticks[:-1] * _MIX[3] >> np.uint64(40)) % np.uint64(every) == 0
    begins[:1] = True
    first = np.flatnonzero(begins)
    return first, np.add.reduceat(mixed, first) & np.uint64((1 << (8 * _BYTES)) - 1)


def _known_as_before(row: dict[str, Any], curve: Envelope) -> Flags:
    """The same of a row as lanes had it first: a span, and one mark of all of the curve in it."""
    start, end = (ticks_of(row[name]) for name in ("start", "end"))
    mark = blake2b(digest_size=16)
    for column in cut(curve, start, end).envelope.arrays():
        mark.update(column.tobytes())
    if mark.hexdigest() != row["curve"]:
        raise ValueError(row["curve"])
    inside = (curve.ticks[:-1] >= start) & (curve.ticks[1:] <= end)
    return np.asarray(inside)


def beside(curve: Envelope, ticks: Ticks) -> Flags:
    """Which segments of a curve begin or end at some sorted ticks."""
    at = among(curve.ticks, ticks)
    return np.asarray(at[:-1] | at[1:])


def _rows(lane: Lane) -> list[dict[str, Any]]:
    """What the lane remembers; a file may say anything there, and what cannot be is nothing."""
    try:
        said = json.loads(dict(lane.extra)[KEY])
    except (KeyError, ValueError):
        return []
    return [row for row in said if isinstance(row, dict)] if isinstance(said, list) else []
