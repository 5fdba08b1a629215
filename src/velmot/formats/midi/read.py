"""Reading Standard MIDI Files into sessions."""

from __future__ import annotations

import io
import json
from collections import defaultdict
from dataclasses import dataclass, field
from typing import Any

import mido

from velmot.core.envelope import Envelope
from velmot.core.errors import RequestError
from velmot.core.parameters import Parameter
from velmot.core.segments import HOLD
from velmot.core.session import Lane, Region, Session, Track, TrackKind
from velmot.core.time import FASTEST, MOST_TICKS, SLOWEST, TICKS_PER_BEAT, Meter, TempoEvent, TempoMap
from velmot.core.wording import counted
from velmot.formats.midi.table import (
    COMMANDS,
    DATA_HIGH,
    DATA_LOW,
    SELECTORS,
    SWITCHES,
    parameter_of,
)
from velmot.formats.report import FormatError, Report

BEND_RANGE = "rpn 0/0"
_NULL = (127, 127)

Events = list[tuple[int, float]]


@dataclass
class _Part:
    """What one channel of one file track does: events in file ticks, by controller key."""

    name: str
    channel: int
    events: dict[str, Events] = field(default_factory=lambda: defaultdict(list))
    commands: list[tuple[int, int, int]] = field(default_factory=list)
    notes: list[tuple[int, int]] = field(default_factory=list)
    _sounding: dict[int, int] = field(default_factory=dict)
    _selected: dict[str, int] = field(default_factory=dict)
    _kind: str = "rpn"
    _data: dict[str, int] = field(default_factory=dict)

    def control(self, tick: int, number: int, value: int) -> None:
        """Take a control change: a command, a step of a parameter number, or a lane's value."""
        if number in COMMANDS:
            self.commands.append((tick, number, value))
        elif number in SELECTORS:
            self._kind = "rpn" if number >= 100 else "nrpn"
            self._selected[f"{self._kind} {'high' if number % 2 else 'low'}"] = value
        elif number in (DATA_HIGH, DATA_LOW) and (key := self._chosen()):
            low = value if number == DATA_LOW else 0
            high = value if number == DATA_HIGH else self._data.get(key, 0) >> 7
            self._data[key] = high << 7 | low
            self.events[key].append((tick, float(self._data[key])))
        else:
            self.events[f"cc {number}"].append((tick, float(value)))

    def _chosen(self) -> str | None:
        pair = tuple(self._selected.get(f"{self._kind} {half}", 127) for half in ("high", "low"))
        return None if pair == _NULL else f"{self._kind} {pair[0]}/{pair[1]}"

    def note(self, tick: int, note: int, on: bool) -> None:
        if on:
            self._sounding.setdefault(note, tick)
        elif note in self._sounding:
            self.notes.append((self._sounding.pop(note), tick))

    def finish(self, tick: int) -> None:
        """End the notes that nothing ended."""
        self.notes += [(start, tick) for start in self._sounding.values()]
        self._sounding.clear()


@dataclass
class _Found:
    """Everything read from a file, before it becomes a session."""

    per_beat: int
    parts: dict[tuple[int, int], _Part] = field(default_factory=dict)
    tempos: dict[int, float] = field(default_factory=dict)
    meters: dict[int, tuple[int, int]] = field(default_factory=dict)
    last: int = 0
    dropped: dict[str, int] = field(default_factory=lambda: defaultdict(int))

    def tick(self, file_tick: int) -> int:
        """A file's tick as a session's, exact where the file's resolution divides ours."""
        return round(file_tick * TICKS_PER_BEAT / self.per_beat)


def read(data: bytes, name: str = "Imported") -> tuple[Session, Report]:
    """The session a MIDI file holds, and the report. Raises FormatError if the file is damaged."""
    report = Report()
    found = _gathered(_opened(data), data)
    tempo = _tempo_map(found, report)
    tracks, lanes = _tracks(found, tempo, report)
    length = _whole_bars(found, tempo)
    try:
        session = Session(name[:300] or "Imported", length, tuple(tracks), tuple(lanes), tempo).checked()
    except RequestError as error:
        raise FormatError(error.code, error.message, place=error.place, accepted=error.accepted) from None
    _summed_up(session, found, report)
    return session, report


def _opened(data: bytes) -> mido.MidiFile:
    if data[:4] != b"MThd":
        start = data[:4].decode("latin-1").encode("unicode_escape").decode()
        raise FormatError(
            "not-midi",
            f"the file starts with “{start}”, which no MIDI file does",
            place="byte 0",
            accepted="a Standard MIDI File, which starts with “MThd”",
        )
    if len(data) >= 14 and data[8:10] == b"\x00\x02":
        raise FormatError(
            "midi-type", "type 2 files hold separate patterns", place="byte 8", accepted="type 0 or type 1"
        )
    if len(data) >= 14 and data[12] & 0x80:
        raise FormatError(
            "midi-frames", "the file counts video frames, not beats", place="byte 12", accepted="ticks per beat"
        )
    source = io.BytesIO(data)
    try:
        file = mido.MidiFile(file=source)
    except (EOFError, OSError, ValueError, IndexError, KeyError, TypeError, OverflowError) as error:
        said = str(error) or "the data ends too soon"
        place = f"byte {source.tell()}"
        raise FormatError(
            "midi-damaged", f"damaged near {place}: {said}", place=place, accepted="a whole MIDI file"
        ) from None
    if file.ticks_per_beat < 1:
        raise FormatError("midi-ticks", "0 ticks per beat", place="byte 12", accepted="1 to 32767 ticks per beat")
    return file


def _gathered(file: mido.MidiFile, data: bytes) -> _Found:
    found = _Found(file.ticks_per_beat)
    wanted = int.from_bytes(data[10:12], "big")
    if len(file.tracks) < wanted:
        raise FormatError(
            "midi-damaged",
            f"the header promises {wanted} tracks, the file has {len(file.tracks)}",
            place="byte 10",
            accepted="a whole MIDI file",
        )
    for index, track in enumerate(file.tracks):
        _gather_track(found, index, track)
    if found.tick(found.last) > MOST_TICKS // 2:
        raise FormatError(
            "midi-long", "the last event lies too far out", place=f"tick {found.last}", accepted="up to 500,000 beats"
        )
    return found


def _gather_track(found: _Found, index: int, track: mido.MidiTrack) -> None:
    tick, name = 0, ""
    mine: dict[int, _Part] = {}
    for message in track:
        tick += int(message.time)
        if message.is_meta:
            name = _take_meta(found, tick, message) or name
        elif hasattr(message, "channel"):
            part = mine.setdefault(message.channel, _Part("", message.channel))
            _take_message(found, part, tick, message)
        else:
            found.dropped[f"{message.type} message"] += 1
    found.last = max(found.last, tick)
    for channel, part in sorted(mine.items()):
        part.finish(tick)
        plain = name.strip()[:200]
        number = f"channel {channel + 1}"
        part.name = (f"{plain}, {number}" if len(mine) > 1 else plain) if plain else number.capitalize()
        found.parts[index, channel] = part


def _take_meta(found: _Found, tick: int, message: Any) -> str | None:
    if message.type == "set_tempo" and message.tempo > 0:
        found.tempos[tick] = 60_000_000 / message.tempo
    elif message.type == "time_signature":
        found.meters[tick] = (message.numerator, message.denominator)
    elif message.type == "track_name":
        return str(message.name)
    elif message.type != "end_of_track":
        found.dropped[f"{message.type.replace('_', ' ')} event"] += 1
    return None


def _take_message(found: _Found, part: _Part, tick: int, message: Any) -> None:
    if message.type == "control_change":
        part.control(tick, message.control, message.value)
    elif message.type == "pitchwheel":
        part.events["bend"].append((tick, float(message.pitch)))
    elif message.type == "program_change":
        part.events["program"].append((tick, float(message.program)))
    elif message.type == "aftertouch":
        part.events["pressure"].append((tick, float(message.value)))
    elif message.type in ("note_on", "note_off"):
        part.note(tick, message.note, message.type == "note_on" and message.velocity > 0)
    else:
        found.dropped[f"{message.type} message"] += 1


def _tempo_map(found: _Found, report: Report) -> TempoMap:
    tempos: list[TempoEvent] = []
    for tick, bpm in sorted({0: 120.0, **found.tempos}.items()):
        kept = min(max(bpm, SLOWEST), FASTEST)
        if kept != bpm:
            report.changed.append(f"a tempo of {bpm:,.0f} bpm at beat {tick / found.per_beat:g} limited to {kept:g}")
        tempos.append(TempoEvent(found.tick(tick), kept))
    meters: list[Meter] = []
    for tick, (count, unit) in sorted({0: (4, 4), **found.meters}.items()):
        if 1 <= count <= 64 and unit <= 64:
            meters.append(Meter(found.tick(tick), count, unit))
        else:
            report.left_out.append(f"a meter of {count}/{unit} at beat {tick / found.per_beat:g}")
    return TempoMap(tuple(_last_of_each(tempos)), tuple(_last_of_each(meters)))


def _last_of_each(events: list[Any]) -> list[Any]:
    return list({event.tick: event for event in events}.values())


def _tracks(found: _Found, tempo: TempoMap, report: Report) -> tuple[list[Track], list[Lane]]:
    tracks: list[Track] = []
    lanes: list[Lane] = []
    for number, ((_, _), part) in enumerate(sorted(found.parts.items()), 1):
        id = f"t{number}"
        parameters: list[Parameter] = []
        for key, events, fine in _streams(part):
            parameter, envelope = _lane_of(found, f"{id}.{_slug(key)}", key, events, fine, part, report)
            parameters.append(parameter)
            lanes.append(Lane(f"L{len(lanes) + 1}", parameter.id, "track", envelope))
        tracks.append(
            Track(
                id,
                part.name,
                TrackKind.INSTRUMENT,
                parameters=tuple(parameters),
                regions=tuple(_regions(found, part, id, tempo)),
                extra=_midi_extra(part, found),
            )
        )
        if part.commands:
            report.changed.append(f"{part.name}: {counted(len(part.commands), 'channel command')} kept, not as lanes")
    return tracks, lanes


def _slug(key: str) -> str:
    return key.replace(" ", "").replace("/", "-")


def _streams(part: _Part) -> list[tuple[str, Events, bool]]:
    """(controller key, events, whether 14 bit) of every lane; pairs n and n + 32 sent together are one."""
    streams: list[tuple[str, Events, bool]] = []
    used: set[str] = set()
    for n in range(32):
        high, low = f"cc {n}", f"cc {n + 32}"
        together = {t for t, _ in part.events.get(high, [])} & {t for t, _ in part.events.get(low, [])}
        if together:
            streams.append((high, _paired(part.events[high], part.events[low]), True))
            used |= {high, low}
    for key, events in part.events.items():
        if key not in used:
            streams.append((key, events, key.startswith(("rpn", "nrpn"))))
    return sorted(streams, key=lambda s: _order(s[0]))


def _order(key: str) -> tuple[int, list[int]]:
    kind, _, numbers = key.partition(" ")
    rank = ["cc", "bend", "pressure", "program", "rpn", "nrpn"].index(kind)
    return rank, [int(n) for n in numbers.split("/") if n]


def _paired(highs: Events, lows: Events) -> Events:
    """One 14-bit stream; a new high half resets the low one, as the MIDI standard says."""
    out: dict[int, float] = {}
    high = low = 0
    for tick, half, value in sorted([(t, 0, v) for t, v in highs] + [(t, 1, v) for t, v in lows], key=lambda e: e[:2]):
        high, low = (int(value), 0) if half == 0 else (high, int(value))
        out[tick] = float(high << 7 | low)
    return sorted(out.items())


def _lane_of(
    found: _Found, id: str, key: str, events: Events, fine: bool, part: _Part, report: Report
) -> tuple[Parameter, Envelope]:
    number = int(key[3:]) if key.startswith("cc ") else None
    reach = _bend_range(part, report) if key == "bend" else None
    last = {found.tick(t): v for t, v in events}
    if len(last) < len(events) and not fine:
        same = counted(len(events) - len(last), "event")
        report.changed.append(f"{part.name}, {key}: {same} overtaken by a later one at the same moment")
    if number in SWITCHES and not fine:
        between = sum(v not in (0, 127) for _, v in events)
        last = {t: float(v >= 64) for t, v in last.items()}
        if between:
            report.changed.append(
                f"{part.name}, {key}: {counted(between, 'value')} between 0 and 127 read as off or on"
            )
    if reach:
        last = {t: v * reach / 8192 for t, v in last.items()}
    values = list(last.values())
    parameter = parameter_of(id, key, fine, values[0], reach)
    return parameter, Envelope.of([(t, v, HOLD) for t, v in last.items()], parameter.axis)


def _bend_range(part: _Part, report: Report) -> float | None:
    """Semitones from the registered parameter 0/0: the high half semitones, the low half hundredths."""
    said = [int(v) for _, v in part.events.get(BEND_RANGE, [])]
    ranges = [(v >> 7) + (v & 127) / 100 for v in said if v >> 7]
    if len(set(ranges)) > 1:
        report.changed.append(
            f"{part.name}: the bend range changes; the bend lane uses the last, {ranges[-1]:g} semitones"
        )
    return ranges[-1] if ranges else None


def _regions(found: _Found, part: _Part, id: str, tempo: TempoMap) -> list[Region]:
    """Note spans, split where nothing sounds for more than two bars."""
    spans: list[list[int]] = []
    for start, end in sorted((found.tick(a), found.tick(b)) for a, b in part.notes if b > a):
        here = spans[-1][1] if spans else 0
        meter = next(m for m in reversed(tempo.meters) if m.tick <= here)
        if spans and start - here <= 2 * meter.bar_ticks:
            spans[-1][1] = max(here, end)
        else:
            spans.append([start, end])
    return [Region(f"{id}.r{n}", f"notes {n}", a, b - a) for n, (a, b) in enumerate(spans, 1)]


def _midi_extra(part: _Part, found: _Found) -> tuple[tuple[str, str], ...]:
    commands = [[t / found.per_beat, n, v] for t, n, v in part.commands]
    return (("midi", json.dumps({"channel": part.channel, "commands": commands})),)


def _whole_bars(found: _Found, tempo: TempoMap) -> int:
    """The session's length: up to the end of the bar of the last event, one bar at least."""
    last = found.tick(found.last)
    here = tempo.position(max(last - 1, 0))
    return int(tempo.tick_of(here.bar + 1))


def _summed_up(session: Session, found: _Found, report: Report) -> None:
    points = sum(len(lane.envelope) for lane in session.lanes)
    report.came += [
        f"{counted(len(session.tracks), 'track')}, {counted(len(session.lanes), 'lane')}, {counted(points, 'point')}",
        f"{counted(len(session.tempo.tempos), 'tempo')}, {counted(len(session.tempo.meters), 'meter')}, "
        f"{counted(sum(len(t.regions) for t in session.tracks), 'region')} from notes",
    ]
    notes = sum(len(p.notes) for p in found.parts.values())
    if notes:
        report.left_out.append(f"{counted(notes, 'note')}: only where they sound is kept, as regions")
    for what, number in sorted(found.dropped.items()):
        report.left_out.append(counted(number, what))
    if TICKS_PER_BEAT % found.per_beat:
        report.changed.append(
            f"{found.per_beat} ticks a beat do not divide Velmot's evenly: positions moved by at most a fifth of a microsecond"
        )
    if not session.lanes:
        report.left_out.append("no controller moves in this file, so there are no lanes")
