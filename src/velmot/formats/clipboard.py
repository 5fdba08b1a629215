"""The clipboard's text: lanes as the session file says them, over a range; it can be mailed and pasted anywhere."""

from __future__ import annotations

import json
from typing import Annotated, Any, Literal

from pydantic import BaseModel, Field, ValidationError

from velmot.core.curves import editing
from velmot.core.curves.axes import Axis
from velmot.core.curves.envelope import Envelope
from velmot.core.curves.segments import HOLD
from velmot.core.errors import RequestError
from velmot.core.limits import LONGEST_NAME, MOST_CLIPS, MOST_SPOTS
from velmot.core.parameters.parameter import Family, Kind, Parameter
from velmot.core.session.session import Session
from velmot.core.time.ticks import Tick, beats_of, ticks_of
from velmot.core.verbs.paste.request import Clip
from velmot.core.verbs.request import ClipPoint
from velmot.formats import points_table
from velmot.formats.report import FormatError
from velmot.formats.session_file import envelope_of, point_rows
from velmot.formats.strict_json import parsed

MOST_BYTES = 16 * 1024 * 1024
ACCEPTED = "lanes copied from Velmot, or a table of points"


class ClipShape(BaseModel):
    """A piece of a lane, with what it needs to find its parameter again."""

    track: Annotated[str, Field(max_length=2 * LONGEST_NAME)]
    name: Annotated[str, Field(max_length=2 * LONGEST_NAME)]
    family: Family
    kind: Kind
    unit: Annotated[str, Field(max_length=20)] = ""
    axis: Axis
    low: Annotated[float, Field(allow_inf_nan=False)]
    high: Annotated[float, Field(allow_inf_nan=False)]
    points: list[Any]


class _Clipboard(BaseModel):
    format: Literal["velmot-lanes"]
    version: Literal[1]
    start: Annotated[float, Field(ge=0, le=1_000_000)]
    length: Annotated[float, Field(gt=0, le=1_000_000)]
    lanes: Annotated[list[ClipShape], Field(min_length=1, max_length=MOST_CLIPS)]


def write(session: Session, lanes: tuple[str, ...], start: int, end: int) -> str:
    """The text of what the lanes do over a range; points count from the range's start."""
    rows = []
    for id in dict.fromkeys(lanes):
        lane = session.lane(id)
        first, last = session.span(lane)
        parameter, a, b = session.parameter(lane.parameter), max(start, first), min(end, last)
        if a >= b:
            continue
        piece = editing.cut(session.in_session_time(lane), a, b).envelope.shift(a - start)
        rows.append(clip_row(session, parameter, piece))
    if not rows:
        raise RequestError("nothing-to-copy", place="lanes", accepted="a lane and a range")
    head = {"format": "velmot-lanes", "version": 1, "start": beats_of(start), "length": beats_of(end - start)}
    return json.dumps(head | {"lanes": rows}, ensure_ascii=False)


def read(text: str) -> tuple[tuple[Clip, ...], Tick, Tick]:
    """(clips, start, length) of a clipboard's text; FormatError if it is anything else."""
    if len(text) > MOST_BYTES:
        raise FormatError("clip-long", "the clipboard's text is too long", place="clipboard", accepted=ACCEPTED)
    data = text.encode("utf-8", "replace")
    if points_table.fits(data):
        return _of_table(data)
    try:
        board = _Clipboard.model_validate(parsed(text.encode("utf-8")))
    except (ValueError, RecursionError, ValidationError):
        raise FormatError("clip-unread", "the clipboard holds no lanes", place="clipboard", accepted=ACCEPTED) from None
    within_points(board.lanes)
    return clips_of(board.lanes), ticks_of(board.start), ticks_of(board.length)


def _of_table(data: bytes) -> tuple[tuple[Clip, ...], Tick, Tick]:
    """The lanes of a table of points, from the first of its points to the last."""
    session, _ = points_table.read(data)
    curves = [(lane, session.in_session_time(lane)) for lane in session.lanes]
    start = min(int(curve.ticks[0]) for _, curve in curves)
    end = max(max(int(curve.ticks[-1]) for _, curve in curves), start + 1)
    pieces = ((lane, editing.cut(curve, start, end).envelope) for lane, curve in curves)
    rows = [clip_row(session, session.parameter(lane.parameter), piece) for lane, piece in pieces]
    shaped = [ClipShape.model_validate(row) for row in rows]
    within_points(shaped)
    return clips_of(shaped), Tick(start), Tick(end - start)


def clip_row(session: Session, parameter: Parameter, piece: Envelope) -> dict[str, Any]:
    """A piece of a parameter's curve as a row of the text; its points count from where the piece starts."""
    return {
        "track": session.owner(parameter.id).name,
        "name": parameter.name,
        "family": parameter.family.value,
        "kind": parameter.kind.value,
        "unit": parameter.unit,
        "axis": parameter.axis.value,
        "low": parameter.low,
        "high": parameter.high,
        "points": point_rows(piece),
    }


def within_points(rows: list[ClipShape]) -> None:
    """Raise FormatError for more points than can be pasted."""
    if sum(len(row.points) for row in rows) > MOST_SPOTS:
        said = f"there are more than {MOST_SPOTS:,} points"
        raise FormatError("points-many", said, place="lanes", accepted=f"at most {MOST_SPOTS:,} points")


def clips_of(rows: list[ClipShape]) -> tuple[Clip, ...]:
    """The clips some rows say; FormatError that names the lane for points that cannot be."""
    clips = []
    for i, row in enumerate(rows):
        try:
            clips.append(_clip(row))
        except RequestError as error:
            said, place = f"lane {i + 1}, “{row.name}”: {error.message}", f"lanes[{i}].{error.place}"
            raise FormatError(error.code, said, place=place, accepted=error.accepted) from None
    return tuple(clips)


def _clip(row: ClipShape) -> Clip:
    envelope = envelope_of(row.points, row.axis)
    points = tuple(ClipPoint(Tick(t), v, None if k == HOLD else k) for t, v, k in envelope.points())
    fields = row.model_dump(exclude={"points"})
    return Clip(**fields, points=points)
