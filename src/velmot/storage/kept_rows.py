"""Alternatives as a session's structure keeps them: as the file says them, with a digest in place of each lane's points."""

from __future__ import annotations

import json
from collections.abc import Iterable, Mapping
from typing import Any

from velmot.core.curves.envelope import Envelope
from velmot.core.session.alternatives import Alternative
from velmot.core.session.track import Lane
from velmot.formats.session_file import alternative_head, alternative_of, kept_lane_head
from velmot.formats.session_shape import AlternativeShape
from velmot.storage import blobs
from velmot.storage.errors import Damaged


def rows_of(some: Iterable[Alternative]) -> list[dict[str, Any]]:
    """Alternatives as rows; their envelopes are stored where they are not yet."""
    listed = list(some)
    digests = iter(blobs.keep(lane.envelope for one in listed for lane in one.lanes))
    return [
        alternative_head(one) | {"lanes": [kept_lane_head(lane) | {"envelope": next(digests)} for lane in one.lanes]}
        for one in listed
    ]


def alternatives_of(
    rows: list[dict[str, Any]], curves: Mapping[str, Envelope | Damaged]
) -> tuple[list[Alternative], list[str]]:
    """The alternatives of rows, and the names of those that are left out as a lane of them is damaged."""
    made, damaged = [], []
    for row in rows:
        shape = AlternativeShape.model_validate({**row, "lanes": []})
        lanes = [_lane(row["parameter"], lane, curves) for lane in row["lanes"]]
        if all(lanes):
            made.append(alternative_of(shape, [lane for lane in lanes if lane]))
        else:
            damaged.append(shape.name)
    return made, damaged


def _lane(parameter: str, row: dict[str, Any], curves: Mapping[str, Envelope | Damaged]) -> Lane | None:
    curve = curves.get(row["envelope"], Damaged())
    if isinstance(curve, Damaged):
        return None
    more = {key: value for key, value in row.items() if key not in ("id", "home", "envelope")}
    extra = tuple((key, json.dumps(value, ensure_ascii=False)) for key, value in more.items())
    return Lane(row["id"], parameter, row["home"], curve, extra)
