"""Tables of points (CSV): one row a point, readable in any spreadsheet, and back without loss."""

from __future__ import annotations

import csv
import io
import json
import math
import re
from collections.abc import Iterable, Iterator
from dataclasses import dataclass, field

import numpy as np

from velmot.core.curves.axes import SILENCE, Axis
from velmot.core.curves.envelope import Envelope
from velmot.core.curves.segments import HOLD, MAX_BEND
from velmot.core.errors import RequestError
from velmot.core.limits import LARGEST_VALUE, LONGEST_NAME, LONGEST_UNIT, MOST_POINTS, SMALLEST_LOG
from velmot.core.parameters.parameter import Family, Kind, Label, Parameter
from velmot.core.progress import come, part
from velmot.core.session.session import Session
from velmot.core.session.track import ON_THE_TRACK, Device, Lane, Marker, Region, Track
from velmot.core.time.ticks import (
    MOST_TICKS,
    TICKS_PER_BEAT,
    Floats,
    Tick,
    Ticks,
    beats_array,
    beats_of,
    ticks_array,
    ticks_of,
)
from velmot.core.words import counted
from velmot.formats.format import Format
from velmot.formats.report import MEGABYTE, FormatError, Report

COLUMNS = ("track", "parameter", "home", "beat", "seconds", "value", "unit", "shape")
"""What a row says: where the point is (session beats and seconds), how high, and how the segment after it runs."""

MORE = ("family", "kind", "axis", "low", "high", "labels", "device", "device_kind", "home_start", "home_length")
"""What a table needs besides to come back as it was: the parameter's kind, axis, range and device, and where a region lies."""

IDS = ("track_id", "parameter_id", "device_id", "home_id", "lane")
"""What tells apart what is called alike."""

MARKS = ("marker", "marker_id", "cue")
"""What the rows of markers say: a name, an id, and whether it is a cue; a table without markers has no such columns."""

_IDENTITY = ("track", "parameter", "device", "home", "home_start", *IDS)
_FIXED = tuple(c for c in ("unit", *MORE) if c not in _IDENTITY)
"""What all rows of a lane say alike, or leave out."""

NEEDED = ("track", "parameter", "beat", "value")
FORMULA = re.compile(r"^[=+\-@\t\r']")
_SEPARATORS = (",", ";", "\t")
_SEP = re.compile(r'^"?sep=(.)"?\s*$', re.IGNORECASE)
_BEGINNING = 4096
_UNKNOWN_1252 = re.compile(rb"[\x81\x8d\x8f\x90\x9d]")
_OFTEN, _ROWS = 20_000, 0.8
"""After how many rows it is said how far the reading has come; the part of the work that rows are."""


# ── out ───────────────────────────────────────────────────────────────────────────────────────


def write(session: Session, lanes: Iterable[str] | None = None) -> tuple[bytes, Report]:
    """The points of some lanes (by id), or of all, as a table in UTF-8; and what is not in it."""
    wanted = None if lanes is None else set(lanes)
    chosen = [x for x in session.lanes if wanted is None or x.id in wanted]
    report = Report()
    out = io.StringIO()
    rows = csv.writer(out, lineterminator="\r\n")
    markers = session.markers if wanted is None else ()
    rows.writerow((*COLUMNS, *MORE, *IDS, *(MARKS if markers else ())))
    for lane in chosen:
        rows.writerows(_rows(session, lane, session.parameter(lane.parameter)))
    rows.writerows(_marker_row(session, marker) for marker in markers)
    points = sum(len(x.envelope) for x in chosen)
    report.came.append(f"{counted(len(chosen), 'lane')}, {counted(points, 'point')}{_and_markers(len(markers))}")
    report.left_out.append("tempo, meter, resting values and everything else that is no point of a lane")
    return out.getvalue().encode("utf-8"), report


def _rows(session: Session, lane: Lane, parameter: Parameter) -> Iterator[tuple[str, ...]]:
    start, end = session.span(lane)
    region = None if lane.on_track else session.region(lane.home)
    track = session.owner(parameter.id)
    device = track.device_of(parameter)
    name = (
        _safe(track.name),
        _safe(parameter.name),
        _safe(region.name) if region else ON_THE_TRACK,
    )
    place = (repr(beats_of(start)), repr(beats_of(end - start))) if region else ("", "")
    labels = json.dumps([[x.value, x.text] for x in parameter.labels], ensure_ascii=False) if parameter.labels else ""
    more = (
        *(
            parameter.family.value,
            parameter.kind.value,
            parameter.axis.value,
            repr(parameter.low),
            repr(parameter.high),
        ),
        *(labels, _safe(device.name if device else ""), _safe(device.kind if device else ""), *place),
        *(_safe(x) for x in (track.id, parameter.id, device.id if device else "", lane.home, lane.id)),
    )
    unit = _safe(parameter.unit)
    ticks = lane.envelope.ticks + session.zero_of(lane)
    seconds = session.tempo.seconds(np.maximum(ticks, 0)).tolist()
    values, bends = lane.envelope.values.tolist(), lane.envelope.bends.tolist()
    for beat, at, value, bend in zip(beats_array(ticks), seconds, values, bends, strict=True):
        shape = "straight" if bend == 0 else "hold" if bend == HOLD else repr(bend)
        yield (*name, repr(beat), f"{at:.6f}", repr(value), unit, shape, *more)


def _marker_row(session: Session, marker: Marker) -> tuple[str, ...]:
    """A marker as a row: where it is, and nothing of a lane."""
    said = {"beat": repr(beats_of(marker.tick)), "seconds": f"{float(session.tempo.seconds(marker.tick)):.6f}"}
    lane = tuple(said.get(c, "") for c in (*COLUMNS, *MORE, *IDS))
    return (*lane, _safe(marker.name), _safe(marker.id), "cue" if marker.cue else "")


def _and_markers(number: int) -> str:
    return f", {counted(number, 'marker')}" if number else ""


def _safe(name: str) -> str:
    """A name that no spreadsheet takes for a formula."""
    return f"'{name}" if FORMULA.match(name) else name


# ── in ────────────────────────────────────────────────────────────────────────────────────────


@dataclass
class _Lane:
    """The rows of one lane, and what the first of them says of its parameter and home."""

    first: dict[str, str]
    line: int
    fixed: tuple[str, ...] = ()
    beats: list[float] = field(default_factory=list)
    values: list[float] = field(default_factory=list)
    bends: list[float] = field(default_factory=list)
    lines: list[int] = field(default_factory=list)


@dataclass(frozen=True)
class _Mark:
    """A row that is a marker."""

    name: str
    id: str
    tick: int
    cue: bool


Key = tuple[str, ...]
"""What of a row tells its lane from others: names, where the home starts, and the ids the table has."""


@dataclass(frozen=True)
class _Head:
    """The columns of a table: where each stands, how many there are, and how its rows are parted."""

    where: dict[str, int]
    width: int
    separator: str
    key: tuple[int, ...]
    fixed: tuple[int, ...]


def fits(data: bytes) -> bool:
    """Whether bytes begin with a header that names the columns a table needs."""
    try:
        lines = _text(data[:4096], Report()).splitlines()
        head = lines[1] if _SEP.match(lines[0]) else lines[0]
    except (FormatError, IndexError):
        return False
    return any(set(NEEDED) <= {c.strip().strip('"').lower() for c in head.split(s)} for s in _SEPARATORS)


def read(data: bytes, name: str = "Imported") -> tuple[Session, Report]:
    """The session a table holds: its lanes, on tracks and parameters of their names. Raises FormatError with line and column."""
    FORMAT.check_size(len(data))
    report = Report()
    with part(0.0, _ROWS):
        lanes, markers = _gathered(_text(data, report), report)
    try:
        session = _session(lanes, markers, name, report).checked()
    except RequestError as error:
        raise FormatError(error.code, error.message, place=error.place, accepted=error.accepted) from None
    points = sum(len(x.envelope) for x in session.lanes)
    report.came.append(
        f"{counted(len(session.tracks), 'track')}, {counted(len(session.lanes), 'lane')}, {counted(points, 'point')}"
        f"{_and_markers(len(session.markers))}"
    )
    report.changed.append("a table has no tempo: 120 to the minute, in 4/4")
    return session, report


def _text(data: bytes, report: Report) -> str:
    """The text of a table, in whichever encoding it is; another than UTF-8 is said."""
    for mark, encoding in ((b"\xef\xbb\xbf", "utf-8-sig"), (b"\xff\xfe", "utf-16"), (b"\xfe\xff", "utf-16")):
        if data.startswith(mark):
            if encoding == "utf-16":
                report.changed.append("the table is in UTF-16")
            try:
                return data.decode(encoding)
            except UnicodeDecodeError as error:
                raise FormatError(
                    "not-text", "the text is damaged", place=f"byte {error.start}", accepted="UTF-8"
                ) from None
    if wide := _unmarked(data):
        report.changed.append("the table is in UTF-16")
        return data.decode(wide, "replace")
    try:
        return data.decode("utf-8")
    except UnicodeDecodeError as error:
        if error.end == len(data) and len(data) == _BEGINNING:  # a letter that is cut by looking at the beginning alone
            return data[: error.start].decode("utf-8")
        report.changed.append("the table is not in UTF-8: read as Windows-1252")
        return data.decode("cp1252") if not _UNKNOWN_1252.search(data) else data.decode("latin-1")


def _unmarked(data: bytes) -> str | None:
    """Which UTF-16 a table without a mark is in: every second byte of its header is 0; None for any other."""
    head = data[:64]
    if len(head) < 8 or len(data) % 2:
        return None
    even, odd = head[::2].count(0), head[1::2].count(0)
    return (
        "utf-16-le"
        if not even and odd == len(head[1::2])
        else "utf-16-be"
        if not odd and even == len(head[::2])
        else None
    )


def _gathered(text: str, report: Report) -> tuple[dict[Key, _Lane], list[_Mark]]:
    lines = io.StringIO(text, newline="")
    first = lines.readline()
    said = _SEP.match(first)
    above = 1 if said else 0  # lines that stand above the header
    if not said:
        lines.seek(0)
    line = text.split("\n", 2)[above]
    separator = said[1] if said else max(_SEPARATORS, key=line.count)
    if separator != ",":
        called = {"\t": "tabs", ";": "semicolons"}.get(separator, f"“{separator}”")
        report.changed.append(f"its columns are parted by {called}")
    rows = csv.reader(lines, delimiter=separator)
    found: dict[Key, _Lane] = {}
    marks: list[_Mark] = []
    count = 0
    try:
        header = [c.strip().lower() for c in next(rows, [])]
        head = _columns(header, separator, report)
        where, width = head.where, head.width
        for row in rows:
            if len(row) != width:
                row = _filled(row, head, rows.line_num + above)
            if not row[where["track"]]:
                if not any(cell.strip() for cell in row):
                    continue  # spreadsheets leave rows of nothing but separators
                if mark := _mark(row, head, rows.line_num + above):
                    marks.append(mark)
                    continue
            count += 1
            if count % _OFTEN == 0:
                come(lines.tell() / len(text))
            if count > MOST_POINTS:
                accepted = f"at most {MOST_POINTS:,} rows"
                raise FormatError(
                    "too-many", "the table has too many rows", place=f"line {rows.line_num}", accepted=accepted
                )
            _take(row, head, rows.line_num + above, found)
    except csv.Error as error:
        place = f"line {rows.line_num + above}"
        raise FormatError("not-a-table", f"{place}: {error}", place=place, accepted="a table of points") from None
    if not found and not marks:
        raise FormatError("table-empty", "the table has no rows", place="line 2", accepted="one row a point")
    return found, marks


def _mark(row: list[str], head: _Head, line: int) -> _Mark | None:
    """The marker a row says; None for a row that says none."""
    if "marker" not in head.where:
        return None
    name, id, cue = (row[head.where[c]] if c in head.where else "" for c in MARKS)
    if not (name or id or cue) or any(row[i].strip() for i in head.key):
        return None
    beat = _number(row[head.where["beat"]], line, "beat", head.separator)
    if not 0 <= beat <= MOST_TICKS / TICKS_PER_BEAT:
        raise _wrong(line, "beat", f"{beat:g} is no place in a session", "0 to 1,000,000")
    if cue.strip().lower() not in ("", "cue", "no"):
        raise _wrong(line, "cue", f"“{cue[:40]}” says neither", "cue, or nothing")
    if len(_bare(name)) > LONGEST_NAME:
        raise _wrong(line, "marker", f"has {len(name):,} characters", f"at most {LONGEST_NAME}")
    return _Mark(_bare(name), _bare(id), ticks_of(beat), cue.strip().lower() == "cue")


def _filled(row: list[str], head: _Head, line: int) -> list[str]:
    """A row with the cells that programs leave away at its end; FormatError for one with too many."""
    more = row[head.width :]
    if any(cell.strip() for cell in more):
        comma = " (a decimal comma in a table whose columns are parted by commas?)" if head.separator == "," else ""
        said = f"line {line}: {len(row)} cells, and the first line names {head.width}{comma}"
        accepted = "as many cells as columns; text with a comma in it in quotes"
        raise FormatError("cells", said, place=f"line {line}, cell {head.width + 1}", accepted=accepted)
    return row[: head.width] + [""] * (head.width - len(row))


def _columns(header: list[str], separator: str, report: Report) -> _Head:
    missing = [c for c in NEEDED if c not in header]
    if missing:
        said = f"the first line names no column {', '.join(missing)}"
        raise FormatError("columns", said, place="line 1", accepted=", ".join(COLUMNS))
    known = (*COLUMNS, *MORE, *IDS, *MARKS)
    unknown = [c for c in header if c and c not in known]
    if unknown:
        report.left_out.append(f"{counted(len(unknown), 'column')} Velmot does not know: {', '.join(unknown[:12])}")
    twice = next((c for c in known if header.count(c) > 1), None)
    if twice:
        raise FormatError("columns", f"the first line names {twice} twice", place="line 1", accepted="each column once")
    where = {c: header.index(c) for c in known if c in header}
    key, fixed = (tuple(where[c] for c in some if c in where) for some in (_IDENTITY, _FIXED))
    return _Head(where, len(header), separator, key, fixed)


def _take(row: list[str], head: _Head, line: int, found: dict[Key, _Lane]) -> None:
    """Put one row's point where it belongs. A million of them: no more is done for each than has to be."""
    where, separator = head.where, head.separator
    key = tuple([row[i] for i in head.key])
    lane = found.get(key)
    fixed = tuple([row[i] for i in head.fixed])
    if lane is None:
        lane = found[key] = _begun(row, where, line)
        lane.fixed = fixed
    elif fixed != lane.fixed:
        _check_fixed(row, lane, head, line)
    beat, value = row[where["beat"]], row[where["value"]]
    try:
        at, high = float(beat), float(value)
    except ValueError:
        at, high = _number(beat, line, "beat", separator), _value(value, line, separator)
    if not (-LARGEST_VALUE <= at <= LARGEST_VALUE and -LARGEST_VALUE <= high <= LARGEST_VALUE):
        at, high = _number(beat, line, "beat", separator), _value(value, line, separator)
    lane.beats.append(at)
    lane.values.append(high)
    shape = row[where["shape"]] if "shape" in where else ""
    lane.bends.append(0.0 if shape == "straight" else HOLD if shape == "hold" else _bend(shape, line, separator))
    lane.lines.append(line)


def _check_fixed(row: list[str], lane: _Lane, head: _Head, line: int) -> None:
    """What all rows of a lane share is said by the first of them; a later one may leave it out, but not contradict."""
    for c in _FIXED:
        if c not in head.where:
            continue
        said, first = row[head.where[c]].strip(), lane.first[c].strip()
        if said and said != first and not _same_number(said, first):
            text = f"says “{said[:40]}”, where line {lane.line} of the same lane says “{first[:40]}”"
            raise _wrong(line, c, text, "one for all rows of a lane, or names or ids that tell two lanes apart")


def _same_number(one: str, other: str) -> bool:
    try:
        return float(one.replace(",", ".")) == float(other.replace(",", "."))
    except ValueError:
        return False


def _begun(row: list[str], where: dict[str, int], line: int) -> _Lane:
    """A lane as the first of its rows says; names as they stand, spaces at their ends included."""
    exact = {"track", "parameter", "home", "device", "device_kind", "unit", *IDS}
    cells = {c: row[where[c]] if c in where else "" for c in (*COLUMNS, *MORE, *IDS)}
    said = {c: _bare(text) if c in exact else text.strip() for c, text in cells.items()}
    for c in ("track", "parameter"):
        if not said[c].strip():
            raise _wrong(line, c, "is empty", "a name")
    for c, most in (
        ("track", LONGEST_NAME),
        ("parameter", LONGEST_NAME),
        ("home", LONGEST_NAME),
        ("unit", LONGEST_UNIT),
    ):
        if len(said[c]) > most:
            raise _wrong(line, c, f"has {len(said[c]):,} characters", f"at most {most}")
    return _Lane(said, line)


def _bend(text: str, line: int, separator: str) -> float:
    shape = text.strip().lower()
    if shape in ("", "straight"):
        return 0.0
    if shape == "hold":
        return HOLD
    bend = _number(shape, line, "shape", separator)
    if abs(bend) > MAX_BEND:
        raise _wrong(line, "shape", f"“{shape}” bends too far", f"straight, hold, or −{MAX_BEND:g} to {MAX_BEND:g}")
    return bend


def _value(text: str, line: int, separator: str) -> float:
    if text.lower().replace("−", "-") in ("-inf", "-∞"):
        return SILENCE
    return _number(text, line, "value", separator)


def _number(text: str, line: int, column: str, separator: str) -> float:
    plain = text.replace("−", "-")
    if separator != ",":
        plain = plain.replace(",", ".")
    try:
        number = float(plain)
    except ValueError:
        raise _wrong(line, column, f"“{text[:40]}” is not a number", "a number such as 12.5") from None
    if not math.isfinite(number) or abs(number) > LARGEST_VALUE:
        raise _wrong(line, column, f"“{text[:40]}” is too large", f"a number within ±{LARGEST_VALUE:g}")
    return number


def _wrong(line: int, column: str, what: str, accepted: str) -> FormatError:
    return FormatError(
        "row", f"line {line}, column {column}: {what}", place=f"line {line}, column {column}", accepted=accepted
    )


# ── the session it becomes ────────────────────────────────────────────────────────────────────


@dataclass
class _Made:
    """The tracks, parameters, devices and regions that lanes of a table need, by what tells them apart."""

    tracks: dict[Key, str] = field(default_factory=dict)
    names: dict[str, str] = field(default_factory=dict)
    parameters: dict[tuple[str, Key], Parameter] = field(default_factory=dict)
    devices: dict[tuple[str, Key], Device] = field(default_factory=dict)
    regions: dict[tuple[str, Key], Region] = field(default_factory=dict)
    taken: set[str] = field(default_factory=set)

    def id_for(self, wanted: str, usual: str) -> str:
        """The id a table gives, else the usual one; another where it is taken already."""
        id, n = wanted or usual, 2
        while id in self.taken:
            id, n = f"{usual}.{n}", n + 1
        self.taken.add(id)
        return id


def _session(found: dict[Key, _Lane], marks: list[_Mark], name: str, report: Report) -> Session:
    made = _Made()
    guessed: list[str] = []
    lanes: list[Lane] = []
    reach: dict[tuple[str, Key], tuple[float, float]] = {}
    homes = [(rows, *_track_of(made, rows)) for rows in found.values()]
    for rows, track, key in homes:
        low, high = reach.get((track, key), (math.inf, -math.inf))
        reach[track, key] = min(low, *rows.values), max(high, *rows.values)
    for rows, track, key in homes:
        ticks = _ticks(rows)
        _check_order(rows, ticks)
        if (track, key) not in made.parameters:
            made.parameters[track, key] = _parameter(made, track, rows, *reach[track, key])
            if not rows.first["low"]:
                guessed.append(rows.first["parameter"])
        parameter = made.parameters[track, key]
        at, zero = _home_of(made, track, rows, ticks)
        curve = _curve(ticks - zero, np.array(rows.values), np.array(rows.bends), parameter, rows)
        lanes.append(Lane(made.id_for(rows.first["lane"], f"L{len(lanes) + 1}"), parameter.id, at, curve))
    if guessed:
        report.changed.append(
            f"{counted(len(guessed), 'parameter')} without a range in the table got one from the values: "
            f"{', '.join(guessed[:8])}"
        )
    tracks = tuple(_track(made, id) for id in made.tracks.values())
    markers = tuple(Marker(made.id_for(m.id, f"m{n}"), m.name, m.tick, m.cue) for n, m in enumerate(marks, 1))
    ends = [int(x.envelope.ticks[-1]) for x in lanes] + [r.end for r in made.regions.values()]
    last = max(ends + [m.tick for m in markers] + [TICKS_PER_BEAT])
    bar = 4 * TICKS_PER_BEAT
    return Session(name[:300] or "Imported", -(-last // bar) * bar, tracks, tuple(lanes), markers=markers)


def _track(made: _Made, id: str) -> Track:
    own = [
        [x for (track, _), x in some.items() if track == id] for some in (made.parameters, made.devices, made.regions)
    ]
    parameters, devices, regions = (tuple(some) for some in own)
    return Track(id, made.names[id], parameters=parameters, devices=devices, regions=regions)  # type: ignore[arg-type]


def _track_of(made: _Made, rows: _Lane) -> tuple[str, Key]:
    """The id of the track some rows are of, and what tells their parameter from others of it."""
    said = rows.first
    which = (said["track_id"],) if said["track_id"] else ("", said["track"])
    if which not in made.tracks:
        id = made.id_for(said["track_id"], f"t{len(made.tracks) + 1}")
        made.tracks[which], made.names[id] = id, said["track"]
    key = (
        (said["parameter_id"],) if said["parameter_id"] else ("", said["parameter"], said["device_id"], said["device"])
    )
    return made.tracks[which], key


def _home_of(made: _Made, track: str, rows: _Lane, ticks: Ticks) -> tuple[str, int]:
    """The home of a lane, and where it starts."""
    said = rows.first
    if said["home"].strip() in ("", ON_THE_TRACK) and said["home_id"] in ("", ON_THE_TRACK):
        return ON_THE_TRACK, 0
    key = (said["home_id"],) if said["home_id"] else ("", said["home"], said["home_start"])
    if (track, key) not in made.regions:
        id = made.id_for(said["home_id"], f"{track}.r{len(made.regions) + 1}")
        made.regions[track, key] = _region(id, rows, ticks)
    region = made.regions[track, key]
    return region.id, region.start


def _check_order(rows: _Lane, ticks: Ticks) -> None:
    """FormatError where the rows of one lane go back in time: they may be out of order, or be two lanes of one name."""
    back = np.flatnonzero(np.diff(ticks) < 0)
    if not len(back):
        return
    line, name = rows.lines[int(back[0]) + 1], f"{rows.first['track']} {rows.first['parameter']}"
    said = f"line {line}: {name} goes back in time: two lanes of one name, or rows out of order"
    accepted = "rows of a lane in order of time, or a column track_id, parameter_id or home_id that tells lanes apart"
    raise FormatError("ambiguous", said, place=f"line {line}, column beat", accepted=accepted)


def _bare(name: str) -> str:
    return name[1:] if name.startswith("'") and FORMULA.match(name[1:]) else name


def _ticks(rows: _Lane) -> Ticks:
    """The ticks of a lane's points; FormatError with the line of one that cannot be."""
    beats = np.array(rows.beats)
    wrong = np.flatnonzero((beats < 0) | (beats > MOST_TICKS / TICKS_PER_BEAT))
    if len(wrong):
        i = int(wrong[0])
        raise _wrong(rows.lines[i], "beat", f"{rows.beats[i]:g} is no place in a session", "0 to 1,000,000")
    return ticks_array(beats)


def _parameter(made: _Made, track: str, rows: _Lane, least: float, most: float) -> Parameter:
    """The parameter its first row describes; what it does not say follows from the unit and the values."""
    said, unit = rows.first, rows.first["unit"].strip()
    device = None
    if said["device"] or said["device_id"]:
        which = (said["device_id"],) if said["device_id"] else ("", said["device"])
        if (track, which) not in made.devices:
            id = made.id_for(said["device_id"], f"{track}.d{len(made.devices) + 1}")
            name = said["device"] or "device"
            made.devices[track, which] = Device(id, name, said["device_kind"] or name)
        device = made.devices[track, which].id
    try:
        kind = Kind(said["kind"]) if said["kind"] else Kind.CONTINUOUS
        axis = Axis(said["axis"]) if said["axis"] else _usual_axis(unit, least)
        family = Family(said["family"]) if said["family"] else Family.LEVEL if unit == "dB" else Family.DEVICE
    except ValueError:
        raise _wrong(
            rows.line,
            "axis, family or kind",
            "is none Velmot knows",
            "linear, log or level; level, pan, mute, send or device; continuous, stepped or switch",
        ) from None
    low, high = _range(rows, axis, least, most)
    value = min(max(rows.values[0], low), high)
    id = made.id_for(said["parameter_id"], f"{track}.p{len(made.parameters) + 1}")
    more = {"default": value, "value": value, "labels": _labels(rows), "device": device}
    try:
        return Parameter(id, said["parameter"], family, kind, unit, axis, low, high, **more)  # type: ignore[arg-type]
    except RequestError as error:
        raise FormatError(
            error.code, f"line {rows.line}: {error.message}", place=f"line {rows.line}", accepted=error.accepted
        ) from None


def _labels(rows: _Lane) -> tuple[Label, ...]:
    """The named values of a parameter, as JSON rows of value and words."""
    text = rows.first["labels"]
    if not text:
        return ()
    try:
        return tuple(Label(float(value), str(words)) for value, words in json.loads(text))
    except (ValueError, TypeError, RecursionError):
        raise _wrong(rows.line, "labels", "cannot be read", '[[0, "off"], [1, "on"]]') from None


def _usual_axis(unit: str, least: float) -> Axis:
    if unit == "dB":
        return Axis.LEVEL
    return Axis.LOG if unit == "Hz" and least >= SMALLEST_LOG else Axis.LINEAR


def _range(rows: _Lane, axis: Axis, least: float, most: float) -> tuple[float, float]:
    said = rows.first
    if said["low"] and said["high"]:
        low, high = (_number(said[c], rows.line, c, ";") for c in ("low", "high"))
    elif axis is Axis.LEVEL:
        low, high = SILENCE, 12.0
    elif axis is Axis.LOG:
        low, high = min(20.0, least), max(20000.0, most)
    else:
        low, high = (0.0, 1.0) if least >= 0 and most <= 1 else (least, most if most > least else least + 1)
    if not low <= least <= most <= high:
        outside = next((n for n, v in enumerate(rows.values) if not low <= v <= high), 0)
        text = f"{rows.values[outside]:g} lies outside {low:g} to {high:g}"
        raise _wrong(rows.lines[outside], "value", text, "values in the range")
    return low, high


def _region(id: str, rows: _Lane, ticks: Ticks) -> Region:
    start, length = rows.first["home_start"], rows.first["home_length"]
    if start and length:
        first, long = (ticks_of(_number(x, rows.line, "home_start", ";")) for x in (start, length))
    else:
        first, long = Tick(int(ticks.min())), Tick(int(np.ptp(ticks)) or 1)
    return Region(id, rows.first["home"], first, long)


def _curve(ticks: Ticks, values: Floats, bends: Floats, parameter: Parameter, rows: _Lane) -> Envelope:
    try:
        return Envelope(ticks, values, bends, parameter.axis)
    except RequestError as error:
        which = re.fullmatch(r"points\[(\d+)\]", error.place)
        line = rows.lines[int(which[1])] if which else rows.line
        said = error.message.partition(": ")[2] or error.message
        raise FormatError(error.code, f"line {line}: {said}", place=f"line {line}", accepted=error.accepted) from None


FORMAT = Format(
    called="a table of points",
    endings=(".csv",),
    fits=fits,
    read=read,
    write=write,
    largest=200 * MEGABYTE,
    media="text/csv",
)
