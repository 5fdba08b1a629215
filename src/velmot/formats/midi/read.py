"""Reading Standard MIDI Files into sessions."""

from __future__ import annotations

import json
from bisect import bisect_right
from collections import Counter, defaultdict
from collections.abc import Callable, Iterator, Sequence
from dataclasses import dataclass, field, replace
from typing import Any, TypeVar

import numpy as np

from velmot.core.curves.envelope import Envelope
from velmot.core.curves.segments import HOLD
from velmot.core.errors import RequestError
from velmot.core.limits import MOST_MARKERS, MOST_METERS, MOST_TEMPOS, MOST_TRACKS
from velmot.core.parameters.parameter import Parameter
from velmot.core.progress import come
from velmot.core.session.session import Session
from velmot.core.session.track import Lane, Region, Track, TrackKind
from velmot.core.time.tempo import FASTEST, SLOWEST, Meter, TempoEvent, TempoMap
from velmot.core.time.ticks import MOST_TICKS, TICKS_PER_BEAT, Ticks
from velmot.core.words import counted
from velmot.formats.midi.bend_range import BEND_RANGE, semitones
from velmot.formats.midi.events import (
    BEHIND_END,
    END_OF_TRACK,
    META,
    MOST_EVENTS,
    SYSTEM,
    Chunks,
    Event,
    chunks_of,
    events_of,
)
from velmot.formats.midi.markers import CUE, KNOWN, MARKER, Mark, name_of, taken
from velmot.formats.midi.table import (
    APART,
    COMMAND_NAMES,
    COMMANDS,
    DATA_HIGH,
    DATA_LOW,
    SELECTORS,
    STEP_DOWN,
    STEP_UP,
    SWITCHES,
    parameter_of,
)
from velmot.formats.midi.texts import Texts
from velmot.formats.report import FormatError, Report

KEYS = [f"cc {n}" for n in range(128)]
NAME, TEMPO, METER = 0x03, 0x51, 0x58
METAS = {
    0x00: ("sequence number", ""),
    0x01: ("text", ""),
    0x02: ("copyright notice", ""),
    0x04: ("instrument name", ""),
    0x05: ("lyric", ""),
    0x08: ("program name", ""),
    0x09: ("device name", ""),
    0x20: ("channel prefix", ""),
    0x21: ("port", ""),
    0x51: ("tempo", " that cannot be"),
    0x54: ("start offset", ""),
    0x58: ("meter", " that cannot be"),
    0x59: ("key signature", ""),
    0x7F: ("program’s own event", ""),
}
TEXTS = {kind for kind in METAS if 0x01 <= kind <= 0x0F}
MOST_TOLD = 24
"""Names and commands that are told one by one; the rest is counted."""
_NULL = (127, 127)

Events = list[tuple[int, int]]
Row = TypeVar("Row")


@dataclass
class _Part:
    """What one channel of one file track does: events in file ticks, by controller key."""

    name: str
    channel: int
    said: str = ""
    events: dict[str, Events] = field(default_factory=lambda: defaultdict(list))
    commands: list[tuple[int, int, int]] = field(default_factory=list)
    notes: list[tuple[int, int]] = field(default_factory=list)
    idle_steps: int = 0
    idle_data: int = 0
    _sounding: dict[int, int] = field(default_factory=dict)
    _selected: dict[str, int] = field(default_factory=dict)
    _kind: str = "rpn"
    _data: dict[str, int] = field(default_factory=dict)

    def control(self, tick: int, number: int, value: int) -> None:
        """Take a control change: a command, a step of a parameter number, or a lane's value."""
        if number not in APART:
            self.events[KEYS[number]].append((tick, value))
        elif number in COMMANDS:
            self.commands.append((tick, number, value))
        elif number in SELECTORS:
            self._kind = "rpn" if number >= 100 else "nrpn"
            self._selected[f"{self._kind} {'high' if number % 2 else 'low'}"] = value
        elif number in (STEP_UP, STEP_DOWN):
            self._step(tick, 1 if number == STEP_UP else -1)
        elif number in (DATA_HIGH, DATA_LOW) and (key := self._chosen()) is None:
            self.idle_data += 1
        elif number in (DATA_HIGH, DATA_LOW):
            assert key is not None
            low = value if number == DATA_LOW else 0
            high = value if number == DATA_HIGH else self._data.get(key, 0) >> 7
            self._data[key] = high << 7 | low
            self.events[key].append((tick, self._data[key]))

    def _step(self, tick: int, by: int) -> None:
        """A parameter number's value one more or less; without a parameter it is no one's."""
        key = self._chosen()
        if key is None or key not in self._data:
            self.idle_steps += 1
            return
        self._data[key] = min(max(self._data[key] + by, 0), 16383)
        self.events[key].append((tick, self._data[key]))

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
    events: int = 0
    dropped: dict[tuple[str, str], int] = field(default_factory=lambda: defaultdict(int))
    changed: list[str] = field(default_factory=list)
    titles: list[str] = field(default_factory=list)
    markers: list[Mark] = field(default_factory=list)
    texts: Texts = field(default_factory=Texts)

    def tick(self, file_tick: int) -> int:
        """A file's tick as a session's, exact where the file's resolution divides ours, else the nearest."""
        return (2 * file_tick * TICKS_PER_BEAT + self.per_beat) // (2 * self.per_beat)

    def ticks(self, file_ticks: Ticks) -> Ticks:
        """Many of them."""
        return np.asarray((2 * file_ticks * TICKS_PER_BEAT + self.per_beat) // (2 * self.per_beat))

    def mark(self, tick: int, body: bytes, cue: bool, track: int, event: int) -> None:
        """Take a marker or a cue; those beyond what a session can hold are counted."""
        if len(self.markers) < MOST_MARKERS:
            self.markers.append(Mark(tick, name_of(self.texts.read(body)), cue, track, event))
        else:
            self.dropped["marker", f" beyond the first {MOST_MARKERS:,}"] += 1


def read(data: bytes, name: str = "Imported") -> tuple[Session, Report]:
    """The session a MIDI file holds, and the report. Raises FormatError if the file is damaged."""
    session, report, _ = _read(data, name)
    return session, report


@dataclass(frozen=True)
class Placed:
    """Where a file has what was read from it: for tracks by id the file's track and channel (from 0), for markers by id
    the file's track and event (from 0); and what its texts are written in.
    """

    tracks: dict[str, tuple[int, int]]
    markers: dict[str, tuple[int, int]]
    texts: Texts


def read_placed(data: bytes) -> tuple[Session, Placed]:
    """The session, and where the file has what is in it."""
    session, _, found = _read(data, "Imported")
    tracks = {track.id: place for track, place in zip(session.tracks, sorted(found.parts), strict=True)}
    marks = {m.id: (mark.track, mark.event) for m, mark in zip(session.markers, found.markers, strict=True)}
    return session, Placed(tracks, marks, found.texts)


def _read(data: bytes, name: str) -> tuple[Session, Report, _Found]:
    report = Report()
    found = _gathered(chunks_of(data), data)
    tempo = _tempo_map(found, report)
    tracks, lanes = _tracks(found, tempo, report)
    length = _whole_bars(found, tempo)
    try:
        session = Session(name[:300] or "Imported", length, tuple(tracks), tuple(lanes), tempo)
        known = ((KNOWN, str(len(found.markers))),) if found.markers else ()
        session = replace(session, markers=taken(found.markers, found.tick), extra=known).checked()
    except RequestError as error:
        raise FormatError(error.code, error.message, place=error.place, accepted=error.accepted) from None
    _summed_up(session, found, report)
    return session, report, found


def _gathered(chunks: Chunks, data: bytes) -> _Found:
    found = _Found(chunks.per_beat)
    for name in chunks.others:
        found.dropped["chunk", f" of the kind “{name}”"] += 1
    if chunks.rest:
        found.dropped["byte", " after the last whole chunk"] += chunks.rest
    if len(chunks.tracks) > chunks.promised:
        found.changed.append(
            f"the header promises {counted(chunks.promised, 'track')}; all {len(chunks.tracks)} were read"
        )
    for index, chunk in enumerate(chunks.tracks):
        come(chunk.start / len(data))
        _gather_track(found, index, events_of(data, chunk))
    if found.tick(found.last) > MOST_TICKS // 2:
        raise FormatError(
            "midi-long", "the last event lies too far out", place=f"tick {found.last}", accepted="up to 500,000 beats"
        )
    return found


def _gather_track(found: _Found, index: int, events: Iterator[Event]) -> None:
    tick, names, count = 0, list[str](), found.events
    before = count + 1
    mine: dict[int, _Part] = {}
    for tick, status, first, second in events:
        count += 1
        if count > MOST_EVENTS:
            said = f"the file has more than {MOST_EVENTS:,} events"
            raise FormatError("midi-many", said, place=f"track {index + 1}", accepted=f"at most {MOST_EVENTS:,} events")
        if status == META:
            assert isinstance(second, bytes)
            if first in (MARKER, CUE):
                found.mark(tick, second, first == CUE, index, count - before)
            else:
                _take_meta(found, names, tick, first, second)
        elif status == SYSTEM:
            found.dropped["system exclusive event" if first == 0xF0 else "system event", ""] += 1
        else:
            channel = status & 15
            part = mine.get(channel)
            if part is None:
                part = mine[channel] = _Part("", channel)
            _take_message(found, part, tick, status & 0xF0, first, second)  # type: ignore[arg-type]
    found.events, found.last = count, max(found.last, tick)
    _name_parts(found, index, mine, names, tick)


def _name_parts(found: _Found, index: int, mine: dict[int, _Part], names: list[str], tick: int) -> None:
    """Names for a track's channels: the first name it says; further ones, and those of tracks without channels, are told."""
    plain = next((n for n in names if n), "")
    others = [n for n in names if n and n != plain]
    if plain and not mine:
        found.titles.append(plain)
    found.titles += others
    for channel, part in sorted(mine.items()):
        part.finish(tick)
        number = f"channel {channel + 1}"
        part.name = (f"{plain}, {number}" if len(mine) > 1 else plain) if plain else number.capitalize()
        found.parts[index, channel] = part


def _take_meta(found: _Found, names: list[str], tick: int, kind: int, body: bytes) -> None:
    if kind == TEMPO and len(body) == 3 and (micros := int.from_bytes(body, "big")):
        found.tempos[tick] = 60_000_000 / micros
    elif kind == METER and len(body) >= 2:
        found.meters[tick] = (body[0], 2 ** min(body[1], 16))
    elif kind == NAME:
        names.append(found.texts.read(body).strip()[:200])
    elif kind in TEXTS and b"{@" in body:
        found.texts.read(body)  # for what it declares
        found.dropped[METAS[kind]] += 1
    elif kind == BEHIND_END:
        found.dropped["byte", " behind the end of a track"] += len(body)
    elif kind != END_OF_TRACK:
        found.dropped[METAS.get(kind) or ("meta event", f" of the kind {kind:#04x}")] += 1


def _take_message(found: _Found, part: _Part, tick: int, kind: int, first: int, second: int) -> None:
    if kind == 0xB0:
        part.control(tick, first, second)
    elif kind == 0x90:
        part.note(tick, first, second > 0)
    elif kind == 0x80:
        part.note(tick, first, False)
    elif kind == 0xE0:
        part.events["bend"].append((tick, (second << 7 | first) - 8192))
    elif kind == 0xC0:
        part.events["program"].append((tick, first))
    elif kind == 0xD0:
        part.events["pressure"].append((tick, first))
    else:
        found.dropped["key pressure event", ""] += 1


def _tempo_map(found: _Found, report: Report) -> TempoMap:
    for noun, some, most in (("tempo", found.tempos, MOST_TEMPOS), ("meter", found.meters, MOST_METERS)):
        if len(some) > most:
            said = f"the file has {counted(len(some), noun)}"
            raise FormatError("midi-many", said, place=noun, accepted=f"at most {most:,}")
    tempos: list[TempoEvent] = []
    limited: list[tuple[int, float, float]] = []
    for tick, bpm in sorted({0: 120.0, **found.tempos}.items()):
        kept = min(max(bpm, SLOWEST), FASTEST)
        if kept != bpm:
            limited.append((tick, bpm, kept))
        tempos.append(TempoEvent(found.tick(tick), kept))
    beat = found.per_beat
    report.changed += [
        f"a tempo of {b:,.0f} bpm at beat {t / beat:g} limited to {k:g}" for t, b, k in limited[:MOST_TOLD]
    ]
    if len(limited) > MOST_TOLD:
        report.changed.append(f"and {counted(len(limited) - MOST_TOLD, 'more tempo')} limited like these")
    meters: list[Meter] = [Meter(0, 4, 4)]
    odd: list[tuple[int, int, int]] = []
    for tick, (count, unit) in sorted(found.meters.items()):
        if 1 <= count <= 64 and unit <= 64:
            meters.append(Meter(found.tick(tick), count, unit))
        else:
            odd.append((tick, count, unit))
    report.left_out += [f"a meter of {c}/{u} at beat {t / beat:g}" for t, c, u in odd[:MOST_TOLD]]
    if len(odd) > MOST_TOLD:
        report.left_out.append(f"and {counted(len(odd) - MOST_TOLD, 'more meter')} that cannot be")
    return TempoMap(tuple(_last_of_each(tempos)), tuple(_last_of_each(meters)))


def _last_of_each(events: list[Any]) -> list[Any]:
    return list({event.tick: event for event in events}.values())


def _tracks(found: _Found, tempo: TempoMap, report: Report) -> tuple[list[Track], list[Lane]]:
    if len(found.parts) > MOST_TRACKS:
        said = f"the file has {counted(len(found.parts), 'pair')} of track and channel, each of which is a track here"
        raise FormatError("midi-many", said, place="tracks", accepted=f"at most {MOST_TRACKS:,}")
    tracks: list[Track] = []
    lanes: list[Lane] = []
    names = Counter(part.name for part in found.parts.values())
    for number, ((_, _), part) in enumerate(sorted(found.parts.items()), 1):
        id = f"t{number}"
        part.said = part.name if names[part.name] == 1 else f"{part.name} (track {number} here)"
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
            kept = f"{counted(len(part.commands), 'channel command')} kept, not as lanes"
            said = _some(part.commands, lambda row: f"{COMMAND_NAMES[row[1]]} at {tempo.position(found.tick(row[0]))}")
            report.changed.append(f"{part.said}: {kept}: {said}")
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
    out: dict[int, int] = {}
    high = low = 0
    for tick, half, value in sorted([(t, 0, v) for t, v in highs] + [(t, 1, v) for t, v in lows], key=lambda e: e[:2]):
        high, low = (value, 0) if half == 0 else (high, value)
        out[tick] = high << 7 | low
    return sorted(out.items())


def _lane_of(
    found: _Found, id: str, key: str, events: Events, fine: bool, part: _Part, report: Report
) -> tuple[Parameter, Envelope]:
    number = int(key[3:]) if key.startswith("cc ") else None
    reach = _bend_range(part, report) if key == "bend" else None
    table = np.array(events, dtype=np.float64)
    ticks, values = found.ticks(table[:, 0].astype(np.int64)), table[:, 1]
    last = np.append(ticks[1:] != ticks[:-1], True)
    overtaken = int(np.count_nonzero(~last))
    if overtaken and not fine:
        same = counted(overtaken, "event")
        report.changed.append(f"{part.said}, {key}: {same} overtaken by a later one at the same moment")
    if number in SWITCHES and not fine:
        between = int(np.count_nonzero((values != 0) & (values != 127)))
        values = (values >= 64).astype(np.float64)
        if between:
            report.changed.append(
                f"{part.said}, {key}: {counted(between, 'value')} between 0 and 127 read as off or on"
            )
    if reach:
        values = values * reach / 8192
    ticks, values = ticks[last], values[last]
    parameter = parameter_of(id, key, fine, float(values[0]), reach)
    return parameter, Envelope(ticks, values, np.full(len(ticks), HOLD), parameter.axis)


def _bend_range(part: _Part, report: Report) -> float | None:
    """Semitones from the registered parameter 0/0: the high half semitones, the low half hundredths."""
    said = [v for _, v in part.events.get(BEND_RANGE, [])]
    ranges = [semitones(v) for v in said if v >> 7]
    if len(set(ranges)) > 1:
        report.changed.append(
            f"{part.said}: the bend range changes; the bend lane uses the last, {ranges[-1]:g} semitones"
        )
    return ranges[-1] if ranges else None


def _regions(found: _Found, part: _Part, id: str, tempo: TempoMap) -> list[Region]:
    """Note spans, split where nothing sounds for more than two bars."""
    spans: list[list[int]] = []
    at = [m.tick for m in tempo.meters]
    for start, end in sorted((found.tick(a), found.tick(b)) for a, b in part.notes if b > a):
        here = spans[-1][1] if spans else 0
        meter = tempo.meters[bisect_right(at, here) - 1]
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
        f"its resolution is {counted(found.per_beat, 'tick')} a beat",
    ]
    report.changed += found.changed
    if session.markers:
        report.came.append(counted(len(session.markers), "marker"))
    if found.texts.declared:
        said = ", ".join(dict.fromkeys(found.texts.declared))
        report.came.append(f"its texts are written as it declares: {said}")
    if found.texts.latin:
        report.changed.append(f"{counted(found.texts.latin, 'text')} not written in UTF-8: read as Latin-1")
    report.left_out += _left_out(found)
    if TICKS_PER_BEAT % found.per_beat:
        report.changed.append(
            f"{found.per_beat} ticks a beat do not divide Velmot's evenly: positions moved by at most a fifth of a microsecond"
        )
    if not session.lanes:
        report.left_out.append("no controller moves in this file, so there are no lanes")


def _left_out(found: _Found) -> Iterator[str]:
    """What is not kept, in sentences."""
    if notes := sum(len(p.notes) for p in found.parts.values()):
        yield f"{counted(notes, 'note')}: only where they sound is kept, as regions"
    if found.titles:
        names = _some(found.titles, lambda title: f"“{title}”")
        yield f"{counted(len(found.titles), 'name')} that no track here has: {names}"
    if steps := sum(p.idle_steps for p in found.parts.values()):
        yield f"{counted(steps, 'step')} of a parameter that was not chosen"
    if entries := sum(p.idle_data for p in found.parts.values()):
        yield f"{counted(entries, 'data entry', 'data entries')} without a parameter that was chosen"
    for (noun, rest), number in sorted(found.dropped.items()):
        yield counted(number, noun) + rest


def _some(rows: Sequence[Row], words: Callable[[Row], str]) -> str:
    """Some of them by name, the rest by number: of millions no more is worded than is said."""
    more = len(rows) - MOST_TOLD
    return ", ".join(words(row) for row in rows[:MOST_TOLD]) + (f" and {more} more" if more > 0 else "")
