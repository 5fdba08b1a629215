"""The velmot-session file: the lossless format. Write, read, write gives the same bytes."""

from __future__ import annotations

import json
from collections.abc import Iterable
from typing import Any

import numpy as np
from pydantic import ValidationError

from velmot.core.envelope import HOLD, Envelope
from velmot.core.errors import RequestError
from velmot.core.parameters import Axis, Label, Parameter
from velmot.core.session import Device, Extra, Lane, Region, Session, Track
from velmot.core.time import Meter, TempoEvent, TempoMap, beats_array, beats_of, ticks_array, ticks_of
from velmot.formats.report import MEGABYTE, FormatError, Report, counted, within_size
from velmot.formats.session_shape import LaneShape, ParameterShape, Part, RegionShape, SessionShape, TrackShape

LARGEST = 64 * MEGABYTE
MOST_POINTS = 5_000_000
ENDING = ".velmot.json"

# ── reading ───────────────────────────────────────────────────────────────────────────────────


def read(data: bytes, name: str = "") -> tuple[Session, Report]:
    """The session in a file's bytes. Raises FormatError with the place of the first thing wrong."""
    within_size(data, LARGEST, "a velmot-session file")
    content = _parsed(data)
    _check_version(content)
    shape = _shaped(content)
    session = _session(shape)
    return session, _report(session, shape)


def _parsed(data: bytes) -> dict[str, Any]:
    try:
        content = json.loads(data.decode("utf-8"))
    except UnicodeDecodeError as error:
        raise FormatError(
            "not-utf8", f"byte {error.start} is not UTF-8 text", place=f"byte {error.start}", accepted="JSON in UTF-8"
        ) from None
    except json.JSONDecodeError as error:
        place = f"line {error.lineno}, column {error.colno}"
        raise FormatError("not-json", f"not JSON at {place}: {error.msg}", place=place, accepted="JSON") from None
    except (RecursionError, ValueError) as error:
        raise FormatError("not-json", f"not usable JSON: {error}", place="file", accepted="plain JSON") from None
    if not isinstance(content, dict):
        raise FormatError("not-session", "the file is JSON, but not a session", place="file", accepted="an object")
    return content


def _check_version(content: dict[str, Any]) -> None:
    if content.get("format") != "velmot-session":
        said = f"the file calls itself {_short(content.get('format'))}"
        raise FormatError("format-unknown", said, place="format", accepted='"velmot-session"')
    if content.get("version") != 1:
        said = f"version {_short(content.get('version'))} is not one this Velmot knows"
        raise FormatError("version-unknown", said, place="version", accepted="version 1")


def _short(thing: object) -> str:
    text = json.dumps(thing, ensure_ascii=False, default=str)
    return text if len(text) <= 60 else text[:57] + "…"


def _shaped(content: dict[str, Any]) -> SessionShape:
    try:
        return SessionShape.model_validate(content)
    except ValidationError as error:
        first = error.errors()[0]
        place = _place(first["loc"])
        said = f"{place}: {first['msg'].lower()}, got {_short(first.get('input'))}"
        raise FormatError("not-fitting", said, place=place, accepted=first["msg"]) from None
    except RecursionError:
        raise FormatError("nested", "the file is nested too deeply", place="file", accepted="a session") from None


def _place(path: Iterable[int | str]) -> str:
    text = "".join(f"[{part}]" if isinstance(part, int) else f".{part}" for part in path)
    return text.lstrip(".")


def _session(shape: SessionShape) -> Session:
    try:
        head = _head(shape)
        tracks = tuple(_track(t) for t in shape.tracks)
        axes = {p.id: p.axis for t in tracks for p in t.parameters}
        lanes = tuple(_lane(lane, axes, f"lanes[{i}]") for i, lane in enumerate(shape.lanes))
        if sum(len(lane.envelope) for lane in lanes) > MOST_POINTS:
            raise RequestError(
                "points-many", "the file holds too many points", place="lanes", accepted=f"at most {MOST_POINTS:,}"
            )
        return head.with_tracks(tracks).with_lanes(lanes).checked()
    except FormatError:
        raise
    except RequestError as error:
        raise FormatError(error.code, error.message, place=error.place, accepted=error.accepted) from None


def _head(shape: SessionShape) -> Session:
    tempo = TempoMap(
        tuple(TempoEvent(ticks_of(t[0]), t[1], len(t) == 3) for t in shape.tempo),
        tuple(Meter(ticks_of(m[0]), m[1], m[2]) for m in shape.meter),
    )
    return Session(shape.name, ticks_of(shape.length), (), (), tempo, shape.precedence, _extra(shape))


def head_of(row: dict[str, Any]) -> Session:
    """The session without tracks and lanes that a row of `structure` says."""
    return _head(SessionShape.model_validate(row))


def _extra(part: Part) -> Extra:
    return tuple((k, json.dumps(v, ensure_ascii=False)) for k, v in (part.model_extra or {}).items())


def _track(shape: TrackShape) -> Track:
    return Track(
        shape.id,
        shape.name,
        shape.kind,
        shape.mode,
        tuple(_parameter(p) for p in shape.parameters),
        tuple(Device(d.id, d.name, d.kind, _extra(d)) for d in shape.devices),
        tuple(_region(r) for r in shape.regions),
        tuple(shape.members),
        _extra(shape),
    )


def _region(r: RegionShape) -> Region:
    return Region(r.id, r.name, ticks_of(r.start), ticks_of(r.length), r.muted, r.container, _extra(r))


def _parameter(p: ParameterShape) -> Parameter:
    fields = p.model_dump(exclude={"labels"} | set(p.model_extra or {}))
    return Parameter(**fields, labels=tuple(Label(v, text) for v, text in p.labels), extra=_extra(p))


def _lane(shape: LaneShape, axes: dict[str, Axis], place: str) -> Lane:
    try:
        envelope = envelope_of(shape.points, axes.get(shape.parameter, Axis.LINEAR))
    except RequestError as error:
        where = f"{place}.{error.place}"
        said = f"lane {shape.id}, {error.message}"
        raise FormatError(error.code, said, place=where, accepted=error.accepted) from None
    return Lane(shape.id, shape.parameter, shape.home, envelope, _extra(shape))


def envelope_of(points: list[Any], axis: Axis) -> Envelope:
    """An envelope from the file's rows; RequestError names the first row that cannot be."""
    table = np.empty((len(points), 3))
    for i, row in enumerate(points):
        if not isinstance(row, list) or not 2 <= len(row) <= 3:
            raise _row_error(i, row, "[beat, value] or [beat, value, shape]")
        shape = row[2] if len(row) == 3 else 0.0
        shape = HOLD if shape == "hold" else shape
        if not all(type(x) in (int, float) for x in (row[0], row[1], shape)):
            raise _row_error(i, row, 'numbers, and "hold" or a bend number')
        table[i] = row[0], row[1], shape
    beats = table[:, 0]
    if len(beats) and not (np.abs(beats) <= 1_000_000).all():
        i = int((~(np.abs(beats) <= 1_000_000)).argmax())
        raise _row_error(i, points[i], "a beat up to 1,000,000")
    return Envelope(ticks_array(beats), table[:, 1], table[:, 2], axis)


def _row_error(i: int, row: object, accepted: str) -> RequestError:
    return RequestError(
        "points", f"point {i + 1}: {_short(row)} is not a point", place=f"points[{i}]", accepted=accepted
    )


def _report(session: Session, shape: SessionShape) -> Report:
    points = sum(len(lane.envelope) for lane in session.lanes)
    report = Report(
        came=[
            f"{counted(len(session.tracks), 'track')}, {counted(len(session.lanes), 'lane')}, "
            f"{counted(points, 'point')}"
        ]
    )
    parts = [("the session", shape), *((f"track {t.name}", t) for t in shape.tracks)]
    parts += [(f"lane {x.id}", x) for x in shape.lanes]
    for owner, part in parts:
        if part.model_extra:
            report.changed.append(f"{owner}: kept without using: {', '.join(part.model_extra)}")
    return report


# ── writing ───────────────────────────────────────────────────────────────────────────────────


def write(session: Session) -> bytes:
    """The file's bytes; the same session always gives the same bytes. One lane a line, so files compare well."""
    head = json.dumps(structure(session), ensure_ascii=False, indent=2)
    lanes = ",\n".join("    " + json.dumps(lane_row(x), ensure_ascii=False) for x in session.lanes)
    body = f"[\n{lanes}\n  ]" if lanes else "[]"
    return f'{head[:-2]},\n  "lanes": {body}\n}}\n'.encode()


def structure(session: Session) -> dict[str, Any]:
    """Everything but the lanes, as the file says it."""
    return {
        "format": "velmot-session",
        "version": 1,
        "name": session.name,
        "length": _plain(beats_of(session.length)),
        "precedence": session.precedence.value,
        "tempo": [_tempo_row(t) for t in session.tempo.tempos],
        "meter": [[_plain(beats_of(m.tick)), m.count, m.unit] for m in session.tempo.meters],
        **_known(session.extra),
        "tracks": [track_row(t) for t in session.tracks],
    }


def _tempo_row(event: TempoEvent) -> list[Any]:
    return [_plain(beats_of(event.tick)), _plain(event.bpm), *(["ramp"] if event.ramp else [])]


def track_row(track: Track) -> dict[str, Any]:
    """A track as the file says it; empty lists are left away."""
    row = {
        "id": track.id,
        "name": track.name,
        "kind": track.kind.value,
        "mode": track.mode.value,
        "members": list(track.members),
        "devices": [{"id": d.id, "name": d.name, "kind": d.kind, **_known(d.extra)} for d in track.devices],
        "parameters": [_parameter_row(p) for p in track.parameters],
        "regions": [_region_row(r) for r in track.regions],
    }
    return {k: v for k, v in row.items() if v != []} | _known(track.extra)


def _region_row(r: Region) -> dict[str, Any]:
    said = {key: True for key in ("muted", "container") if getattr(r, key)}
    span = {"start": _plain(beats_of(r.start)), "length": _plain(beats_of(r.length))}
    return {"id": r.id, "name": r.name, **span, **said, **_known(r.extra)}


def track_of(row: dict[str, Any]) -> Track:
    """The track a row of `track_row` says."""
    return _track(TrackShape.model_validate(row))


def _parameter_row(p: Parameter) -> dict[str, Any]:
    row = {
        "id": p.id,
        "name": p.name,
        "family": p.family.value,
        "kind": p.kind.value,
        "unit": p.unit,
        "axis": p.axis.value,
        "low": _plain(p.low),
        "high": _plain(p.high),
        "default": _plain(p.default),
        "value": _plain(p.value),
        "labels": [[_plain(x.value), x.text] for x in p.labels] or None,
        "device": p.device,
        "target": p.target,
        "controller": p.controller,
        "useful": [_plain(v) for v in p.useful] if p.useful else None,
    }
    return {k: v for k, v in row.items() if v is not None} | _known(p.extra)


def lane_row(lane: Lane) -> dict[str, Any]:
    """A lane as the file says it."""
    return {
        "id": lane.id,
        "parameter": lane.parameter,
        "home": lane.home,
        **_known(lane.extra),
        "points": point_rows(lane.envelope),
    }


def point_rows(envelope: Envelope) -> list[list[Any]]:
    """Rows of [beat, value] or [beat, value, shape]."""
    rows: list[list[Any]] = []
    beats = beats_array(envelope.ticks)
    for beat, value, bend in zip(beats, envelope.values.tolist(), envelope.bends.tolist(), strict=True):
        shape = [] if bend == 0 else ["hold"] if bend == HOLD else [_plain(bend)]
        rows.append([_plain(beat), _plain(value), *shape])
    return rows


def _known(extra: Extra) -> dict[str, Any]:
    return {key: json.loads(text) for key, text in extra}


def _plain(number: float) -> float | int:
    """Whole numbers without a point; every float reads back bit for bit."""
    return int(number) if float(number).is_integer() else float(number)
