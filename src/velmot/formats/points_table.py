"""Tables of points (CSV): one row a point, readable in any spreadsheet, and back without loss."""

from __future__ import annotations

import csv
import io
import math
import re
from collections.abc import Iterable, Iterator
from dataclasses import dataclass, field

import numpy as np

from velmot.core.axes import SILENCE, Axis
from velmot.core.envelope import Envelope
from velmot.core.errors import RequestError
from velmot.core.limits import LARGEST_VALUE, LONGEST_NAME, LONGEST_UNIT, MOST_POINTS, SMALLEST_LOG
from velmot.core.parameters import Family, Parameter
from velmot.core.progress import come, part
from velmot.core.segments import HOLD, MAX_BEND
from velmot.core.session import ON_THE_TRACK, Lane, Region, Session, Track
from velmot.core.time import (
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
from velmot.core.wording import counted
from velmot.formats.format import Format
from velmot.formats.report import MEGABYTE, FormatError, Report

COLUMNS = ("track", "parameter", "home", "beat", "seconds", "value", "unit", "shape")
"""What a row says: where the point is (session beats and seconds), how high, and how the segment after it runs."""

MORE = ("family", "axis", "low", "high", "home_start", "home_length")
"""What a table needs besides to come back as it was: the parameter's kind, axis and range, and where a region lies."""

NEEDED = ("track", "parameter", "beat", "value")
FORMULA = re.compile(r"^[=+\-@\t\r']")
_SEPARATORS = (",", ";", "\t")
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
    rows.writerow((*COLUMNS, *MORE))
    named = 0
    for lane in chosen:
        parameter = session.parameter(lane.parameter)
        named += bool(parameter.labels)
        rows.writerows(_rows(session, lane, parameter))
    points = sum(len(x.envelope) for x in chosen)
    report.came.append(f"{counted(len(chosen), 'lane')}, {counted(points, 'point')}")
    if named:
        report.changed.append(f"{counted(named, 'lane')} of named values written as numbers")
    report.left_out.append("tempo, meter, resting values, devices and everything else that is no point of a lane")
    return out.getvalue().encode("utf-8"), report


def _rows(session: Session, lane: Lane, parameter: Parameter) -> Iterator[tuple[str, ...]]:
    start, end = session.span(lane)
    region = None if lane.on_track else session.region(lane.home)
    name = (
        _safe(session.owner(parameter.id).name),
        _safe(parameter.name),
        _safe(region.name) if region else ON_THE_TRACK,
    )
    place = (repr(beats_of(start)), repr(beats_of(end - start))) if region else ("", "")
    more = (parameter.family.value, parameter.axis.value, repr(parameter.low), repr(parameter.high), *place)
    ticks = lane.envelope.ticks + session.zero_of(lane)
    seconds = session.tempo.seconds(np.maximum(ticks, 0)).tolist()
    values, bends = lane.envelope.values.tolist(), lane.envelope.bends.tolist()
    for beat, at, value, bend in zip(beats_array(ticks), seconds, values, bends, strict=True):
        shape = "straight" if bend == 0 else "hold" if bend == HOLD else repr(bend)
        yield (*name, repr(beat), f"{at:.6f}", repr(value), parameter.unit, shape, *more)


def _safe(name: str) -> str:
    """A name that no spreadsheet takes for a formula."""
    return f"'{name}" if FORMULA.match(name) else name


# ── in ────────────────────────────────────────────────────────────────────────────────────────


@dataclass
class _Lane:
    """The rows of one lane, and what the first of them says of its parameter and home."""

    first: dict[str, str]
    line: int
    beats: list[float] = field(default_factory=list)
    values: list[float] = field(default_factory=list)
    bends: list[float] = field(default_factory=list)
    lines: list[int] = field(default_factory=list)


Key = tuple[str, str, str, str]
"""Track, parameter, home, and where the home starts: what tells one lane from another."""


def fits(data: bytes) -> bool:
    """Whether bytes begin with a header that names the columns a table needs."""
    try:
        head = _text(data[:4096], Report()).splitlines()[0]
    except (FormatError, IndexError):
        return False
    return any(set(NEEDED) <= {c.strip().strip('"').lower() for c in head.split(s)} for s in _SEPARATORS)


def read(data: bytes, name: str = "Imported") -> tuple[Session, Report]:
    """The session a table holds: its lanes, on tracks and parameters of their names. Raises FormatError with line and column."""
    FORMAT.check_size(len(data))
    report = Report()
    with part(0.0, _ROWS):
        lanes = _gathered(_text(data, report), report)
    try:
        session = _session(lanes, name, report).checked()
    except RequestError as error:
        raise FormatError(error.code, error.message, place=error.place, accepted=error.accepted) from None
    points = sum(len(x.envelope) for x in session.lanes)
    report.came.append(
        f"{counted(len(session.tracks), 'track')}, {counted(len(session.lanes), 'lane')}, {counted(points, 'point')}"
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
    try:
        return data.decode("utf-8")
    except UnicodeDecodeError:
        report.changed.append("the table is not in UTF-8: read as Latin-1")
        return data.decode("latin-1")


def _gathered(text: str, report: Report) -> dict[Key, _Lane]:
    head = text.split("\n", 1)[0]
    separator = max(_SEPARATORS, key=head.count)
    if separator != ",":
        report.changed.append(f"its columns are parted by {'tabs' if separator == chr(9) else 'semicolons'}")
    lines = io.StringIO(text, newline="")
    rows = csv.reader(lines, delimiter=separator)
    found: dict[Key, _Lane] = {}
    count = 0
    try:
        header = [c.strip().lower() for c in next(rows, [])]
        where = _columns(header, report)
        width = max(where.values()) + 1
        for row in rows:
            if len(row) < width:
                row += [""] * (width - len(row))
            if not row[where["track"]] and not any(cell.strip() for cell in row):
                continue  # spreadsheets leave rows of nothing but separators
            count += 1
            if count % _OFTEN == 0:
                come(lines.tell() / len(text))
            if count > MOST_POINTS:
                accepted = f"at most {MOST_POINTS:,} rows"
                raise FormatError(
                    "too-many", "the table has too many rows", place=f"line {rows.line_num}", accepted=accepted
                )
            _take(row, where, rows.line_num, separator, found)
    except csv.Error as error:
        place = f"line {rows.line_num}"
        raise FormatError("not-a-table", f"{place}: {error}", place=place, accepted="a table of points") from None
    if not found:
        raise FormatError("table-empty", "the table has no rows", place="line 2", accepted="one row a point")
    return found


def _columns(header: list[str], report: Report) -> dict[str, int]:
    missing = [c for c in NEEDED if c not in header]
    if missing:
        said = f"the first line names no column {', '.join(missing)}"
        raise FormatError("columns", said, place="line 1", accepted=", ".join(COLUMNS))
    unknown = [c for c in header if c and c not in (*COLUMNS, *MORE)]
    if unknown:
        report.left_out.append(f"{counted(len(unknown), 'column')} Velmot does not know: {', '.join(unknown[:12])}")
    return {c: header.index(c) for c in (*COLUMNS, *MORE) if c in header}


def _take(row: list[str], where: dict[str, int], line: int, separator: str, found: dict[Key, _Lane]) -> None:
    """Put one row's point where it belongs. A million of them: no more is done for each than has to be."""
    home = row[where["home"]] if "home" in where else ""
    key = (
        row[where["track"]],
        row[where["parameter"]],
        home,
        row[where["home_start"]] if "home_start" in where else "",
    )
    lane = found.get(key)
    if lane is None:
        lane = found[key] = _begun(row, where, line)
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


def _begun(row: list[str], where: dict[str, int], line: int) -> _Lane:
    """A lane as the first of its rows says."""
    said = {c: row[where[c]].strip() if c in where else "" for c in (*COLUMNS, *MORE)}
    for c in ("track", "parameter"):
        if not said[c]:
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


def _session(found: dict[Key, _Lane], name: str, report: Report) -> Session:
    tracks: dict[str, str] = {}
    parameters: dict[tuple[str, str], Parameter] = {}
    regions: dict[tuple[str, str, str], Region] = {}
    lanes: list[Lane] = []
    guessed: list[str] = []
    values: dict[tuple[str, str], list[float]] = {}
    for (track, called, _, _), rows in found.items():
        values.setdefault((track, called), []).extend((min(rows.values), max(rows.values)))
    for (track, called, home, start), rows in found.items():
        id = tracks.setdefault(track, f"t{len(tracks) + 1}")
        ticks = _ticks(rows)
        if (track, called) not in parameters:
            reach = min(values[track, called]), max(values[track, called])
            parameters[track, called] = _parameter(f"{id}.p{len(parameters) + 1}", rows, *reach)
            if not rows.first["low"]:
                guessed.append(called)
        parameter = parameters[track, called]
        at, zero = ON_THE_TRACK, 0
        if home.strip() not in ("", ON_THE_TRACK):
            region = regions.get((track, home, start))
            if region is None:
                region = regions[track, home, start] = _region(f"{id}.r{len(regions) + 1}", rows, ticks)
            at, zero = region.id, region.start
        order = np.argsort(ticks, kind="stable")
        if (np.diff(ticks) < 0).any():
            report.changed.append(f"{_bare(track)} {_bare(called)}: its rows were not in order of time")
        curve = _curve(ticks[order] - zero, np.array(rows.values)[order], np.array(rows.bends)[order], parameter, rows)
        lanes.append(Lane(f"L{len(lanes) + 1}", parameter.id, at, curve))
    if guessed:
        report.changed.append(
            f"{counted(len(guessed), 'parameter')} without a range in the table got one from the values: "
            f"{', '.join(_bare(g) for g in guessed[:8])}"
        )
    made_of = [
        Track(
            id,
            _bare(track),
            parameters=tuple(p for key, p in parameters.items() if key[0] == track),
            regions=tuple(r for key, r in regions.items() if key[0] == track),
        )
        for track, id in tracks.items()
    ]
    last = max([int(x.envelope.ticks[-1]) for x in lanes] + [r.end for r in regions.values()] + [TICKS_PER_BEAT])
    bar = 4 * TICKS_PER_BEAT
    return Session(name[:300] or "Imported", -(-last // bar) * bar, tuple(made_of), tuple(lanes))


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


def _parameter(id: str, rows: _Lane, least: float, most: float) -> Parameter:
    """The parameter its first row describes; what it does not say follows from the unit and the values."""
    said, unit = rows.first, rows.first["unit"]
    try:
        axis = Axis(said["axis"]) if said["axis"] else _usual_axis(unit, least)
        family = Family(said["family"]) if said["family"] else Family.LEVEL if unit == "dB" else Family.DEVICE
    except ValueError:
        raise _wrong(
            rows.line,
            "axis or family",
            "is none Velmot knows",
            "linear, log or level; level, pan, mute, send or device",
        ) from None
    low, high = _range(said, rows.line, axis, least, most)
    value = min(max(rows.values[0], low), high)
    return Parameter(
        id, _bare(said["parameter"]), family, unit=unit, axis=axis, low=low, high=high, default=value, value=value
    )


def _usual_axis(unit: str, least: float) -> Axis:
    if unit == "dB":
        return Axis.LEVEL
    return Axis.LOG if unit == "Hz" and least >= SMALLEST_LOG else Axis.LINEAR


def _range(said: dict[str, str], line: int, axis: Axis, least: float, most: float) -> tuple[float, float]:
    if said["low"] and said["high"]:
        low, high = (_number(said[c], line, c, ";") for c in ("low", "high"))
    elif axis is Axis.LEVEL:
        low, high = SILENCE, 12.0
    elif axis is Axis.LOG:
        low, high = min(20.0, least), max(20000.0, most)
    else:
        low, high = (0.0, 1.0) if least >= 0 and most <= 1 else (least, most if most > least else least + 1)
    if not low <= least <= most <= high:
        raise _wrong(line, "value", f"{least:g} to {most:g} lie outside {low:g} to {high:g}", "values in the range")
    return low, high


def _region(id: str, rows: _Lane, ticks: Ticks) -> Region:
    start, length = rows.first["home_start"], rows.first["home_length"]
    if start and length:
        first, long = (ticks_of(_number(x, rows.line, "home_start", ";")) for x in (start, length))
    else:
        first, long = Tick(int(ticks.min())), Tick(int(np.ptp(ticks)) or 1)
    return Region(id, _bare(rows.first["home"]), first, long)


def _curve(ticks: Ticks, values: Floats, bends: Floats, parameter: Parameter, rows: _Lane) -> Envelope:
    try:
        return Envelope(ticks, values, bends, parameter.axis)
    except RequestError as error:
        raise FormatError(
            error.code, f"from line {rows.line}: {error.message}", place=f"line {rows.line}", accepted=error.accepted
        ) from None


FORMAT = Format(
    called="a table of points",
    endings=(".csv",),
    fits=fits,
    read=read,
    write=write,
    largest=200 * MEGABYTE,
    media="text/csv",
)
