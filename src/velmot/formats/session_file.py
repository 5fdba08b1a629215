"""The velmot-session file: the lossless format. Write, read, write gives the same bytes."""

from __future__ import annotations

import json
from collections.abc import Callable, Iterable, Iterator
from dataclasses import fields, replace
from typing import Any

import numpy as np
from pydantic import ValidationError

from velmot.core.curves.axes import Axis
from velmot.core.curves.envelope import Envelope
from velmot.core.curves.segments import HOLD, MAX_BEND
from velmot.core.curves.shapes import Shape
from velmot.core.errors import RequestError
from velmot.core.parameters.parameter import Label, Parameter
from velmot.core.session.alternatives import Alternative
from velmot.core.session.honest_links import honest
from velmot.core.session.phrases import Extra, Phrase, Placement
from velmot.core.session.remarks import LetBe, Note
from velmot.core.session.session import Session
from velmot.core.session.thinned_before import KEY
from velmot.core.session.track import Device, Lane, Marker, Region, Track
from velmot.core.time.tempo import Meter, TempoEvent, TempoMap
from velmot.core.time.ticks import Floats, Tick, beats_array, beats_of, ticks_array, ticks_of
from velmot.core.words import counted
from velmot.formats.format import Format
from velmot.formats.report import MEGABYTE, FormatError, Report
from velmot.formats.session_shape import (
    AlternativeShape,
    KeptLaneShape,
    LaneShape,
    MarkerShape,
    ParameterShape,
    Part,
    PhraseShape,
    PlacementShape,
    RegionShape,
    SessionShape,
    ShapeShape,
    TrackShape,
)
from velmot.formats.sound_rows import clip_from, clip_row, has_sounds, sound_from, sound_row
from velmot.formats.strict_json import NotPlain, check_plain, check_text, parsed

_AT_ONCE = 8192  # points
_FURTHEST = 1_000_000  # beats
_ROW = "[beat, value] or [beat, value, shape]"

# ── reading ───────────────────────────────────────────────────────────────────────────────────


def read(data: bytes, name: str = "") -> tuple[Session, Report]:
    """The session in a file's bytes. Raises FormatError with the place of the first thing wrong."""
    FORMAT.check_size(len(data))
    data = data.removeprefix(b"\xef\xbb\xbf")  # a mark that some editors put in front
    content = _parsed(data)
    _check_version(content)
    shape = _shaped(content)
    content.clear()
    session, freed = honest(_session(shape))
    report = _report(session.checked(), shape)
    report.changed += [f"set free from its phrase: {why}" for why in freed]
    return session, report


def _parsed(data: bytes) -> dict[str, Any]:
    try:
        content = parsed(data)
    except NotPlain as error:
        raise FormatError(error.code, error.message, place=error.place, accepted=error.accepted) from None
    if not isinstance(content, dict):
        raise FormatError("not-session", "the file is JSON, but not a session", place="file", accepted="an object")
    return content


def _check_version(content: dict[str, Any]) -> None:
    if content.get("format") != "velmot-session":
        said = f"the file calls itself {_short(content.get('format'))}"
        raise FormatError("format-unknown", said, place="format", accepted='"velmot-session"')
    if content.get("version") not in (1, 2, 3, 4, 5) or isinstance(content.get("version"), bool):
        said = f"version {_short(content.get('version'))} is not one this Velmot knows"
        raise FormatError("version-unknown", said, place="version", accepted="a version from 1 to 5")


def _short(thing: object) -> str:
    try:
        text = json.dumps(thing, ensure_ascii=False, default=str)
    except (ValueError, RecursionError):
        text = "something too large to show"
    text = text.encode("utf-8", "replace").decode()
    return text if len(text) <= 60 else text[:57] + "…"


def _shaped(content: dict[str, Any]) -> SessionShape:
    try:
        return SessionShape.model_validate(content)
    except ValidationError as error:
        first = error.errors()[0]
        place = _place(first["loc"]) or "a key"  # the only thing without a place: text with half of a character
        said = f"{place}: {first['msg'].lower()}, got {_short(first.get('input'))}"
        raise FormatError("not-fitting", said, place=place, accepted=first["msg"]) from None
    except RecursionError:
        raise FormatError("nested", "the file is nested too deeply", place="file", accepted="a session") from None


_FORMS = ("tuple[", "function-", "list[")


def _place(path: Iterable[int | str]) -> str:
    # Where one of several forms fits, the path names the form too, which no reader of the file knows.
    parts = [part for part in path if isinstance(part, int) or not part.startswith(_FORMS)]
    text = "".join(f"[{part}]" if isinstance(part, int) else f".{part}" for part in parts)
    return text.lstrip(".")


def _session(shape: SessionShape) -> Session:
    try:
        head = _head(shape)
        tracks = tuple(_track(t) for t in shape.tracks)
        axes = {p.id: p.axis for t in tracks for p in t.parameters}
        lanes = tuple(_lane(lane, axes, f"lanes[{i}]") for i, lane in enumerate(shape.lanes))
        kept = tuple(_alternative(one, axes, f"alternatives[{i}]") for i, one in enumerate(shape.alternatives))
        whole = replace(head.with_tracks(tracks).with_lanes(lanes), alternatives=kept)
        replace(whole, placements=()).checked()
        return whole
    except FormatError:
        raise
    except RequestError as error:
        raise FormatError(error.code, error.message, place=error.place, accepted=error.accepted) from None


def _head(shape: SessionShape) -> Session:
    tempo = TempoMap(
        tuple(TempoEvent(ticks_of(t[0]), t[1], len(t) == 3) for t in shape.tempo),
        tuple(Meter(ticks_of(m[0]), m[1], m[2]) for m in shape.meter),
    )
    phrases = tuple(_phrase(p, f"phrases[{i}]") for i, p in enumerate(shape.phrases))
    placements = tuple(_placement(p) for p in shape.placements)
    markers = tuple(_marker(m) for m in shape.markers)
    let_be = tuple(LetBe(x.id, x.kind, x.of, ticks_of(x.at), _extra(x)) for x in shape.let_be)
    notes = tuple(Note(x.id, x.about, x.of, x.text, _extra(x)) for x in shape.notes)
    length, extra = ticks_of(shape.length), _extra(shape)
    listed = (phrases, placements, markers, let_be, notes)
    return Session(shape.name, length, (), (), tempo, shape.precedence, extra, *listed)


def _phrase(p: PhraseShape, place: str) -> Phrase:
    recipe = None if p.shape is None else shape_of(p.shape)
    try:
        curve = None if p.points is None else envelope_of(p.points, p.axis)
    except RequestError as error:
        said = f"phrase {p.id}, {error.message}"
        raise FormatError(error.code, said, place=f"{place}.{error.place}", accepted=error.accepted) from None
    return Phrase(p.id, p.name, ticks_of(p.length), curve, recipe, p.unit, p.axis, p.low, p.high, _extra(p))


def shape_of(shape: ShapeShape) -> Shape:
    """The recipe a file says."""
    said = shape.model_dump(exclude={"cycle"})
    return Shape(**said, cycle=None if shape.cycle is None else Tick(ticks_of(shape.cycle)))


def _placement(p: PlacementShape) -> Placement:
    start, length, turn = ticks_of(p.start), ticks_of(p.length), ticks_of(p.turn)
    return Placement(
        p.id, p.phrase, p.parameter, p.home, start, length, p.scale, p.offset, p.backwards, turn, _extra(p)
    )


def _marker(m: MarkerShape) -> Marker:
    return Marker(m.id, m.name, ticks_of(m.at), m.cue, _extra(m))


def marker_row(marker: Marker) -> dict[str, Any]:
    """A marker as the file says it."""
    cue = {"cue": True} if marker.cue else {}
    return {"id": marker.id, "name": marker.name, "at": _plain(beats_of(marker.tick)), **cue, **_known(marker.extra)}


def let_be_row(one: LetBe) -> dict[str, Any]:
    """A finding that is let be, as the file says it."""
    where = {"of": one.of, "at": _plain(beats_of(one.at))} if one.of else {}
    return {"id": one.id, "kind": one.kind, **where, **_known(one.extra)}


def note_row(note: Note) -> dict[str, Any]:
    """A note as the file says it."""
    return {"id": note.id, "about": note.about, "of": note.of, "text": note.text, **_known(note.extra)}


def phrase_row(phrase: Phrase) -> dict[str, Any]:
    """A phrase as the file says it."""
    row: dict[str, Any] = {
        "id": phrase.id,
        "name": phrase.name,
        "length": _plain(beats_of(phrase.length)),
        "unit": phrase.unit,
        "axis": phrase.axis.value,
        "low": _plain(phrase.low),
        "high": _plain(phrase.high),
    }
    if phrase.shape is not None:
        row["shape"] = shape_row(phrase.shape)
    elif phrase.curve is not None:
        row["points"] = point_rows(phrase.curve)
    return row | _known(phrase.extra)


def shape_row(shape: Shape) -> dict[str, Any]:
    """A recipe as the file says it; what is as usual is left away."""
    first = {"edition": 1}  # what a file says nothing of is what the first version had
    row = {
        f.name: getattr(shape, f.name) for f in fields(shape) if getattr(shape, f.name) != first.get(f.name, f.default)
    }
    if shape.cycle is not None:
        row["cycle"] = _plain(beats_of(shape.cycle))
    return {"kind": shape.kind} | row


def placement_row(one: Placement) -> dict[str, Any]:
    """A placement as the file says it; what is as usual is left away."""
    row: dict[str, Any] = {"id": one.id, "phrase": one.phrase, "parameter": one.parameter, "home": one.home}
    row |= {"start": _plain(beats_of(one.start)), "length": _plain(beats_of(one.length))}
    if (one.scale, one.offset) != (1, 0):
        row |= {"scale": _plain(one.scale), "offset": _plain(one.offset)}
    if one.backwards:
        row["backwards"] = True
    if one.turn:
        row["turn"] = _plain(beats_of(one.turn))
    return row | _known(one.extra)


def head_of(row: dict[str, Any]) -> Session:
    """The session without tracks and lanes that a row of `structure` says."""
    return _head(SessionShape.model_validate(row))


def _extra(part: Part) -> Extra:
    kept = part.model_extra or {}
    for key, value in kept.items():
        try:
            check_text(key, "a key")
            check_plain(value, key)
        except NotPlain as error:
            raise FormatError(error.code, error.message, place=error.place, accepted=error.accepted) from None
    return tuple((k, json.dumps(v, ensure_ascii=False)) for k, v in kept.items())


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
        sound_from(shape.sound),
    )


def _region(r: RegionShape) -> Region:
    return Region(
        r.id,
        r.name,
        ticks_of(r.start),
        ticks_of(r.length),
        r.muted,
        r.container,
        _extra(r),
        tuple(clip_from(c) for c in r.sound),
    )


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
    shape.points = []  # not needed any more, and many times as large as the curve
    return Lane(shape.id, shape.parameter, shape.home, envelope, _extra(shape))


def _alternative(shape: AlternativeShape, axes: dict[str, Axis], place: str) -> Alternative:
    axis = axes.get(shape.parameter, Axis.LINEAR)
    lanes = [_kept_lane(lane, shape, axis, f"{place}.lanes[{i}]") for i, lane in enumerate(shape.lanes)]
    return alternative_of(shape, lanes)


def _kept_lane(lane: KeptLaneShape, of: AlternativeShape, axis: Axis, place: str) -> Lane:
    try:
        envelope = envelope_of(lane.points, lane.axis or axis)
    except RequestError as error:
        said = f"alternative {of.id}, lane {lane.id}, {error.message}"
        raise FormatError(error.code, said, place=f"{place}.{error.place}", accepted=error.accepted) from None
    lane.points = []
    return Lane(lane.id, of.parameter, lane.home, envelope, _extra(lane))


def alternative_of(shape: AlternativeShape, lanes: Iterable[Lane]) -> Alternative:
    """An alternative as a row says it, with its lanes."""
    start, end = (None if at is None else ticks_of(at) for at in (shape.start, shape.end))
    places = tuple(_placement(one) for one in shape.places)
    return Alternative(
        shape.id, shape.name, shape.parameter, tuple(lanes), places, shape.kept, start, end, _extra(shape)
    )


def alternative_head(one: Alternative) -> dict[str, Any]:
    """An alternative as the file says it, its lanes aside."""
    row: dict[str, Any] = {"id": one.id, "name": one.name, "parameter": one.parameter}
    if one.kept:
        row["kept"] = one.kept
    if one.start is not None:
        row["start"] = _plain(beats_of(one.start))
    if one.end is not None:
        row["end"] = _plain(beats_of(one.end))
    if one.places:
        row["places"] = [placement_row(place) for place in one.places]
    return row | _known(one.extra)


def kept_lane_head(lane: Lane) -> dict[str, Any]:
    """A lane of an alternative as the file says it, its points aside."""
    return {"id": lane.id, "home": lane.home, **_known(lane.extra)}


def envelope_of(points: list[Any], axis: Axis) -> Envelope:
    """An envelope from the file's rows; RequestError names the first row that cannot be."""
    columns = _columns(points)
    if columns is None:
        _name_odd_row(points)
        raise RequestError("points/row", place="points", accepted=_ROW)
    beats, values, shapes = columns
    near = np.abs(beats) <= _FURTHEST
    if not near.all():
        i = int(near.argmin())
        raise _row_error(i, points[i], f"a beat up to {_FURTHEST:,}")
    if len(shapes) and not (
        abs(shapes[-1]) <= MAX_BEND or shapes[-1] == HOLD
    ):  # the last says nothing, and is no other
        raise _row_error(len(points) - 1, points[-1], f"a bend from −{MAX_BEND:g} to {MAX_BEND:g}, or hold")
    return Envelope(ticks_array(beats), values, shapes, axis)


def _columns(points: list[Any]) -> tuple[Floats, Floats, Floats] | None:
    """Beats, values and shapes of rows; None if any row is not one. Column by column, as there may be millions."""
    if set(map(type, points)) - {list} or set(map(len, points)) - {2, 3}:
        return None
    beats = _numbers(lambda: (row[0] for row in points), len(points))
    values = _numbers(lambda: (row[1] for row in points), len(points))
    third = (row[2] if len(row) == 3 else 0.0 for row in points)
    shapes = [HOLD if shape == "hold" else shape for shape in third]
    bends = _numbers(lambda: shapes, len(points))
    return None if beats is None or values is None or bends is None else (beats, values, bends)


def _numbers(column: Callable[[], Iterable[Any]], count: int) -> Floats | None:
    """A column as floats without a list in between; None if something in it is no number."""
    if set(map(type, column())) - {int, float}:
        return None
    try:
        return np.fromiter(column(), np.float64, count)
    except OverflowError:
        return None


def _name_odd_row(points: list[Any]) -> None:
    """Raise RequestError for the first row that is no point."""
    for i, row in enumerate(points):
        if not isinstance(row, list) or not 2 <= len(row) <= 3:
            raise _row_error(i, row, _ROW)
        numbers = [*row[:2], *(x for x in row[2:] if x != "hold")]
        if not all(type(x) in (int, float) for x in numbers):
            raise _row_error(i, row, 'numbers, and "hold" or a bend number')
        if any(isinstance(x, int) and x.bit_length() > 1000 for x in numbers):
            raise _row_error(i, "a number too large", "finite numbers")


def _row_error(i: int, row: object, accepted: str) -> RequestError:
    return RequestError("points/short", n=i + 1, said=_short(row), place=f"points[{i}]", accepted=accepted)


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
    parts += [(f"phrase {p.name}", p) for p in shape.phrases] + [(f"placement {p.id}", p) for p in shape.placements]
    parts += [(f"marker {m.name}".strip(), m) for m in shape.markers]
    parts += [(f"note {x.id}", x) for x in shape.notes] + [(f"finding let be {x.id}", x) for x in shape.let_be]
    parts += [(f"alternative {x.id}", x) for x in shape.alternatives]
    for owner, part in parts:
        used = (
            {KEY}
            if isinstance(part, LaneShape)
            else {"midi"}
            if part in shape.tracks
            else {"came_from", "midi_markers"}
        )
        if unknown := [key for key in part.model_extra or {} if key not in used]:
            report.changed.append(f"{owner}: kept without using: {', '.join(unknown)}")
    return report


# ── writing ───────────────────────────────────────────────────────────────────────────────────


def write(session: Session) -> bytes:
    """The file's bytes; the same session always gives the same bytes. One lane a line, so files compare well."""
    return b"".join(parts(session))


def parts(session: Session) -> Iterator[bytes]:
    """The file's bytes piece by piece, so that the first are on their way before the last are made."""
    yield f'{json.dumps(structure(session), ensure_ascii=False, indent=2)[:-2]},\n  "lanes": ['.encode()
    for i, lane in enumerate(session.lanes):
        yield b",\n    " if i else b"\n    "
        yield from (text.encode() for text in _lane_texts(lane))
    yield b"\n  ]" if session.lanes else b"]"
    if session.alternatives:
        yield from (text.encode() for text in _alternative_texts(session))
    yield b"\n}\n"


def _alternative_texts(session: Session) -> Iterator[str]:
    """The alternatives as the file says them, each on one line."""
    yield ',\n  "alternatives": ['
    for i, one in enumerate(session.alternatives):
        yield f'{"," if i else ""}\n    {json.dumps(alternative_head(one), ensure_ascii=False)[:-1]}, "lanes": ['
        axis = session.parameter(one.parameter).axis if session.there("parameter", one.parameter) else Axis.LINEAR
        for n, lane in enumerate(one.lanes):
            own = {} if lane.envelope.axis is axis else {"axis": lane.envelope.axis.value}
            yield ", " if n else ""
            yield from _points_behind(kept_lane_head(lane) | own, lane.envelope)
        yield "]}"
    yield "\n  ]"


def structure(session: Session) -> dict[str, Any]:
    """Everything but the lanes, as the file says it."""
    linked = {
        "phrases": [phrase_row(p) for p in session.phrases],
        "placements": [placement_row(p) for p in session.placements],
    }
    markers = {"markers": [marker_row(m) for m in session.markers]} if session.markers else {}
    remarks = {"let_be": [let_be_row(x) for x in session.let_be], "notes": [note_row(x) for x in session.notes]}
    return {
        "format": "velmot-session",
        "version": _version(session),
        "name": session.name,
        "length": _plain(beats_of(session.length)),
        "precedence": session.precedence.value,
        "tempo": [_tempo_row(t) for t in session.tempo.tempos],
        "meter": [[_plain(beats_of(m.tick)), m.count, m.unit] for m in session.tempo.meters],
        **_known(session.extra),
        "tracks": [track_row(t) for t in session.tracks],
        **{key: rows for key, rows in linked.items() if rows},
        **markers,
        **{key: rows for key, rows in remarks.items() if rows},
    }


def _version(session: Session) -> int:
    """The lowest version of the form that can say a session."""
    if session.alternatives:
        return 5
    if session.let_be or session.notes:
        return 4
    if session.markers or has_sounds(session):
        return 3
    return 2 if session.phrases or session.placements else 1


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
        "sound": [] if track.sound is None else sound_row(track.sound),
    }
    return {k: v for k, v in row.items() if v != []} | _known(track.extra)


def _region_row(r: Region) -> dict[str, Any]:
    said = {key: True for key in ("muted", "container") if getattr(r, key)}
    span = {"start": _plain(beats_of(r.start)), "length": _plain(beats_of(r.length))}
    sound = {"sound": [clip_row(c) for c in r.sound]} if r.sound else {}
    return {"id": r.id, "name": r.name, **span, **said, **sound, **_known(r.extra)}


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


def _lane_texts(lane: Lane) -> Iterator[str]:
    """A lane as the file says it, on one line, some thousands of points at a time."""
    head = {"id": lane.id, "parameter": lane.parameter, "home": lane.home, **_known(lane.extra)}
    yield from _points_behind(head, lane.envelope)


def _points_behind(head: dict[str, Any], curve: Envelope) -> Iterator[str]:
    yield f'{json.dumps(head, ensure_ascii=False)[:-1]}, "points": ['
    for start in range(0, len(curve), _AT_ONCE):
        yield (", " if start else "") + ", ".join(_point_texts(curve, start))
    yield "]}"


def _point_texts(envelope: Envelope, start: int = 0, count: int = _AT_ONCE) -> Iterable[str]:
    """Rows of [beat, value] or [beat, value, shape] as JSON, put together from whole columns, as there may be millions."""
    part = slice(start, start + count)
    beats, values = _texts(beats_array(envelope.ticks[part])), _texts(envelope.values[part].tolist())
    bends = envelope.bends[part]
    if not bends.any():
        return map("[{}, {}]".format, beats, values)
    shapes = ("" if b in ("0", "-0") else ', "hold"' if b == "inf" else f", {b}" for b in _texts(bends.tolist()))
    return map("[{}, {}{}]".format, beats, values, shapes)


def _texts(numbers: list[float]) -> list[str]:
    """Numbers as JSON says them, whole ones without a point."""
    return [text[:-2] if text.endswith(".0") else text for text in map(repr, numbers)]


def point_rows(envelope: Envelope) -> list[list[Any]]:
    """Rows of [beat, value] or [beat, value, shape]."""
    return json.loads(f"[{', '.join(_point_texts(envelope, 0, len(envelope)))}]")  # type: ignore[no-any-return]


def _known(extra: Extra) -> dict[str, Any]:
    return {key: json.loads(text) for key, text in extra}


def _plain(number: float) -> float | int:
    """Whole numbers without a point; every float reads back bit for bit."""
    return int(number) if float(number).is_integer() else float(number)


def _fits(data: bytes) -> bool:
    """Whether a file begins as JSON does."""
    return data[:64].lstrip(b"\xef\xbb\xbf \t\r\n")[:1] == b"{"


FORMAT = Format(
    called="a velmot-session file",
    endings=(".velmot.json", ".json"),
    fits=_fits,
    read=read,
    write=lambda session: (write(session), Report()),
    largest=480 * MEGABYTE,  # as long as a file of the most points can be
    media="application/json",
)
