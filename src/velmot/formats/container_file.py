"""The velmot-container file: one container's name, length and lanes, to be laid over a track of another session."""

from __future__ import annotations

import json
from typing import Annotated, Any, Literal

from pydantic import BaseModel, Field, StrictBool

from velmot.core.curves import editing
from velmot.core.errors import RequestError
from velmot.core.limits import LONGEST_NAME, MOST_CLIPS
from velmot.core.session.session import Session
from velmot.core.time.ticks import Tick, beats_of, ticks_of
from velmot.core.verbs.paste.request import Clip
from velmot.formats.clipboard import MOST_BYTES, ClipShape, clip_row, clips_of, within_points
from velmot.formats.shaped import shaped

ENDING = ".velmot-container.json"
ACCEPTED = "a velmot-container file"


class _Container(BaseModel):
    format: Literal["velmot-container"]
    version: Literal[1]
    name: Annotated[str, Field(min_length=1, max_length=LONGEST_NAME)]
    length: Annotated[float, Field(gt=0, le=1_000_000, allow_inf_nan=False)]
    muted: StrictBool = False
    lanes: Annotated[list[ClipShape], Field(min_length=1, max_length=MOST_CLIPS)]


def write(session: Session, region_id: str) -> bytes:
    """A region's lanes as a file; RequestError if it holds none."""
    region = session.region(region_id)
    rows: list[dict[str, Any]] = []
    for lane in session.lanes_in(region_id):
        piece = editing.cut(lane.envelope, 0, region.length).envelope
        rows.append(clip_row(session, session.parameter(lane.parameter), piece))
    if not rows:
        raise RequestError("container-empty", name=region.name, place="region", accepted="a region with a lane")
    head = {"format": "velmot-container", "version": 1, "name": region.name, "length": beats_of(region.length)}
    if region.muted:
        head["muted"] = True
    return (json.dumps(head | {"lanes": rows}, ensure_ascii=False, indent=1) + "\n").encode()


def read(data: bytes) -> tuple[str, Tick, tuple[Clip, ...], bool]:
    """(name, length, clips, whether it is muted) of a file's bytes; FormatError if it is anything else."""
    box = shaped(_Container, data, "container", MOST_BYTES, ACCEPTED)
    within_points(box.lanes)
    return box.name, ticks_of(box.length), clips_of(box.lanes), box.muted
