"""Writing sessions as Standard MIDI Files: curves become events, no more than needed."""

from __future__ import annotations

import json
from collections.abc import Callable, Iterable, Iterator, Sequence
from dataclasses import dataclass
from itertools import pairwise
from typing import Any, NamedTuple

import numpy as np

from velmot.core.curves.envelope import Envelope
from velmot.core.curves.segments import unbend
from velmot.core.parameters.parameter import Family, Parameter
from velmot.core.session.heard import heard, reading
from velmot.core.session.session import Session
from velmot.core.session.track import Track
from velmot.core.session.wording import limits_text, parameter_name
from velmot.core.time.ticks import MOST_TICKS, TICKS_PER_BEAT, Floats, Ticks, among
from velmot.core.words import counted
from velmot.formats.midi.bend_range import said_of_bends
from velmot.formats.midi.markers import event_of
from velmot.formats.midi.table import APART, COMMANDS, FREE
from velmot.formats.midi.texts import Texts
from velmot.formats.midi.track_bytes import Timed, file_bytes, meta, track_bytes
from velmot.formats.report import MEGABYTE, FormatError, Report

PER_BEAT = 960
SLOWEST_MICROS = 0xFFFFFF
COARSE = 0.5
"""Decibels: steps that are larger are said."""

_LEAST_USED, _MOST_USED = 0.02, 0.9
"""Parts of a parameter's range: a span is narrowed to what lanes use between these; a lane that hardly moves says little."""

_COARSER = {"dB": COARSE, "octaves": 1 / 12}
"""Steps that are larger are too coarse for 7 bits; of other units a hundred and twenty-seventh of a range is fine enough."""

_TIE = 1e-9
"""How near to the middle between two steps a value is exactly there."""


@dataclass(frozen=True)
class Choice:
    """How one parameter is written: as which controller, over which span of its values.

    `controller` is a key as in the table: "cc 7", "cc 7 fine", "bend", "program", "nrpn 1/8 fine".
    """

    parameter: str
    controller: str
    low: float
    high: float


@dataclass(frozen=True)
class _Stream:
    """A controller's steps: event values are 0..`steps`, at position 0..1 of the chosen span."""

    kind: str
    numbers: tuple[int, ...]
    steps: int
    lowest: int = 0

    @property
    def occupies(self) -> tuple[str, ...]:
        """What no other lane of its channel may use."""
        if self.kind != "cc":
            return (f"{self.kind} {self.numbers}",)
        fine = (f"cc {self.numbers[0] + 32}",) if self.steps > 127 else ()
        return (f"cc {self.numbers[0]}", *fine)

    def low_half_for(self, channel: int) -> Callable[[int], bytes] | None:
        """Of a controller of 14 bits the low half alone, for where the high one stays."""
        if self.kind != "cc" or self.steps == 127:
            return None
        return lambda n: bytes((0xB0 | channel, self.numbers[0] + 32, n & 127))

    def bytes_for(self, channel: int) -> Callable[[int], bytes]:
        """What sets it to a number, without the time before: one message or several at once."""
        control = 0xB0 | channel
        if self.kind == "bend":
            return lambda n: bytes((0xE0 | channel, (n + 8192) & 127, (n + 8192) >> 7))
        if self.kind in ("program", "pressure"):
            status = (0xC0 if self.kind == "program" else 0xD0) | channel
            return lambda n: bytes((status, n))
        if self.kind == "cc" and self.steps == 127:
            return lambda n: bytes((control, self.numbers[0], n))
        if self.kind == "cc":
            return lambda n: bytes((control, self.numbers[0], n >> 7, 0, control, self.numbers[0] + 32, n & 127))
        high, low = (101, 100) if self.kind == "rpn" else (99, 98)
        chosen = bytes((control, high, self.numbers[0], 0, control, low, self.numbers[1], 0))
        return lambda n: chosen + bytes((control, 6, n >> 7, 0, control, 38, n & 127))


def usual_choices(session: Session) -> list[Choice]:
    """A choice for every parameter that has a lane: its own controller, the usual one, or a free one.

    What came as a controller goes out over its whole range, as it came. All else over the span its lanes use, where that
    is narrower, and with 14 bits where steps would still be too coarse and the controller has a fine half.
    """
    choices: list[Choice] = []
    for track in session.tracks:
        free: Iterator[int] = iter(FREE)
        taken = {p.controller for p in track.parameters}
        for p in track.parameters:
            if not any(x.parameter == p.id for x in session.lanes):
                continue
            usual = {Family.LEVEL: "cc 7", Family.PAN: "cc 10"}.get(p.family)
            if p.controller:
                key = p.controller
            elif usual and usual not in taken:
                key = usual
            else:
                key = next((c for n in free if (c := f"cc {n}") not in taken), "")
            if not key:
                continue
            choice = Choice(p.id, key, p.low, p.high) if p.controller else _finest(session, p, key)
            taken |= {key, choice.controller}
            choices.append(choice)
    return choices


def _finest(session: Session, p: Parameter, key: str) -> Choice:
    """A choice whose steps are as fine as a lane needs."""
    low, high = p.low, p.high
    if not p.holds_only:
        lows, highs = zip(*(x.envelope.extremes(0, MOST_TICKS) for x in session.lanes_of(p.id)), strict=True)
        used = float(min(lows)), float(max(highs))
        wide = [float(p.axis.coordinate(v)) for v in used]
        if _LEAST_USED * p.span <= wide[1] - wide[0] <= _MOST_USED * p.span:
            low, high = used
    size = float(p.axis.coordinate(high) - p.axis.coordinate(low)) / 127
    number = int(key[3:]) if key.startswith("cc ") else 127
    coarse = size > _COARSER.get(p.distance_unit, np.inf) or len(p.labels) > 128
    fine = number < 32 and coarse
    return Choice(p.id, key + (" fine" if fine else ""), low, high)


def write(session: Session, choices: Iterable[Choice], per_beat: int = PER_BEAT) -> tuple[bytes, Report]:
    """The MIDI file's bytes (type 1) and what was written, changed or left out.

    Each value read back is within half a step of the controller at every file tick, in the fewest events that do it.
    """
    if not 24 <= per_beat <= 32767:
        raise FormatError(
            "midi-ticks", f"{per_beat} ticks per beat cannot be used", place="resolution", accepted="24 to 32767"
        )
    chosen = {c.parameter: c for c in choices}
    report = Report()
    end = file_tick(session.length, per_beat)
    bodies, messages = [track_bytes(session.name, _conductor(session, per_beat, report), end)], 0
    if session.markers:
        report.came.append(counted(len(session.markers), "marker"))
    if session.alternatives:
        report.left_out.append(f"{counted(len(session.alternatives), 'alternative')}: a session file keeps them")
    tracks = [t for t in session.tracks if any(p.id in chosen for p in t.parameters)]
    for number, track in enumerate(tracks):
        if wider := said_of_bends(session, track):
            report.changed.append(wider)
        said = _track(session, track, number, chosen, per_beat, report)
        messages += len(said)
        bodies.append(track_bytes(track.name, said, end))
    if len(tracks) > 16:
        report.changed.append("more than 16 tracks: channels are shared, each track stays a track of its own")
    for parameter in _without_choice(session, chosen):
        report.left_out.append(f"{parameter_name(session, parameter)}: no controller was chosen for it")
    data = file_bytes(bodies, per_beat)
    if len(data) > MEGABYTE:
        report.changed.append(
            f"the file has {len(data) / MEGABYTE:.1f} MB in {messages:,} messages: coarser controllers make it smaller"
        )
    return data, report


def _without_choice(session: Session, chosen: dict[str, Choice]) -> list[str]:
    return [p for p in dict.fromkeys(lane.parameter for lane in session.lanes) if p not in chosen]


class _Kept(NamedTuple):
    """What a track that came from MIDI keeps of it: its channel, and its commands as (beat, number, value)."""

    channel: int | None
    commands: list[tuple[float, int, int]]


def _kept(track: Track) -> _Kept:
    """What is kept and can be; a file may have anything there."""
    kept = dict(track.extra).get("midi")
    try:
        value = json.loads(kept) if kept else {}
    except ValueError:
        value = {}
    own = value if isinstance(value, dict) else {}
    channel, commands = own.get("channel"), own.get("commands")
    fine = isinstance(channel, int) and not isinstance(channel, bool) and 0 <= channel < 16
    rows = [row for row in commands if _is_command(row)] if isinstance(commands, list) else []
    return _Kept(channel if fine else None, [tuple(row) for row in rows])


def _is_command(row: Any) -> bool:
    if not isinstance(row, list) or len(row) != 3 or any(isinstance(x, bool) for x in row):
        return False
    beat, number, value = row
    whole = isinstance(number, int) and isinstance(value, int)
    return isinstance(beat, int | float) and 0 <= beat <= 1e6 and whole and number in COMMANDS and 0 <= value < 128


def _conductor(session: Session, per_beat: int, report: Report) -> list[Timed]:
    events: list[Timed] = []
    for tempo, after in zip(session.tempo.tempos, [*session.tempo.tempos[1:], None], strict=False):
        if tempo.ramp and after:
            steps = _ramp(session, tempo.tick, after.tick)
            report.changed.append(f"a tempo ramp written as {counted(len(steps), 'step')} of a quarter beat at most")
        else:
            steps = [(tempo.tick, 60_000_000 / tempo.bpm)]
            if steps[0][1] > SLOWEST_MICROS:
                report.changed.append(f"a tempo of {tempo.bpm:g} bpm raised to the slowest a MIDI file can say, 3.58")
        for tick, micros in steps:
            number = min(max(round(micros), 1), SLOWEST_MICROS)
            events.append((file_tick(tick, per_beat), meta(0x51, number.to_bytes(3, "big"))))
    for meter in session.tempo.meters:
        body = bytes((min(meter.count, 255), meter.unit.bit_length() - 1, 24, 8))
        events.append((file_tick(meter.tick, per_beat), meta(0x58, body)))
    events += [(file_tick(m.tick, per_beat), event_of(m, Texts())[0]) for m in session.markers]
    return sorted(events, key=lambda event: event[0])


def _ramp(session: Session, start: int, end: int) -> list[tuple[int, float]]:
    """(tick, microseconds a beat) of steps in place of a tempo ramp.

    Each step lasts as long as the ramp does there, and makes good what rounding left of those before it, so that
    nothing behind it moves.
    """
    edges = [*range(start, end, TICKS_PER_BEAT // 4), end]
    seconds = session.tempo.seconds(np.array(edges)).tolist()
    out, now = [], seconds[0]
    for (a, b), until in zip(pairwise(edges), seconds[1:], strict=True):
        beats = (b - a) / TICKS_PER_BEAT
        micros = min(max(round((until - now) * 1e6 / beats), 1), SLOWEST_MICROS)
        now += micros * beats / 1e6
        out.append((a, float(micros)))
    return out


def file_tick(tick: int, per_beat: int) -> int:
    """The file's tick nearest to a session's."""
    return (2 * tick * per_beat + TICKS_PER_BEAT) // (2 * TICKS_PER_BEAT)


def _track(
    session: Session,
    track: Track,
    number: int,
    chosen: dict[str, Choice],
    per_beat: int,
    report: Report,
) -> list[Timed]:
    own = _kept(track)
    channel = number % 16 if own.channel is None else own.channel
    events: list[Timed] = [
        (round(beat * per_beat), bytes((0xB0 | channel, command, value))) for beat, command, value in own.commands
    ]
    resets = resets_of(track, per_beat)
    taken: dict[str, str] = {}
    for parameter in track.parameters:
        choice = chosen.get(parameter.id)
        if choice is None:
            continue
        name = f"{track.name} {parameter.name}"
        stream = _stream(choice.controller, parameter, choice)
        if other := next((taken[key] for key in stream.occupies if key in taken), None):
            report.left_out.append(f"{name}: {choice.controller} is taken by {other}")
            continue
        taken |= dict.fromkeys(stream.occupies, parameter.name)
        events += curve_said(session, parameter, choice, channel, per_beat, report, resets)
    return sorted(events, key=lambda e: (e[0], _rank(e[1])))


def _rank(message: bytes) -> int:
    """Of messages of one tick commands come first, then a bank, then the program it is for, then all else."""
    if message[0] & 0xF0 == 0xB0 and message[1] in COMMANDS:
        return 0
    if message[0] & 0xF0 == 0xB0 and message[1] in BANK:
        return 1
    return 2 if message[0] & 0xF0 == 0xC0 else 3


BANK = (0, 32)
"""The controllers that choose the bank a program is of."""

_RESET = 121


def resets_of(track: Track, per_beat: int) -> list[int]:
    """The file ticks at which all of a track's controllers are reset: what goes on has to be said again there."""
    return [round(beat * per_beat) for beat, command, _ in _kept(track).commands if command == _RESET]


def curve_said(
    session: Session,
    parameter: Parameter,
    choice: Choice,
    channel: int,
    per_beat: int,
    report: Report,
    again: Sequence[int] = (),
) -> list[Timed]:
    """The events of one parameter's lanes, as they are heard with every track reading; the report says how. At the file
    ticks `again` its value is said whether it is another or not.
    """
    name, stream = parameter_name(session, parameter.id), _stream(choice.controller, parameter, choice)
    curve = heard(reading(session), parameter.id, groups=False).envelope  # the fader, not its net level
    said = _curve_events(curve, choice, stream, channel, per_beat, session.length, again)
    size = parameter.format_distance((_span(curve, choice)[1] - _span(curve, choice)[0]) / stream.steps)
    report.came.append(
        f"{name} as {choice.controller}, {parameter.format(choice.low)} to {parameter.format(choice.high)} "
        f"in steps of {size}: {counted(len(said), 'event')}"
    )
    report.changed += _shortcomings(name, parameter, choice, stream, curve)
    return said


def _shortcomings(name: str, parameter: Parameter, choice: Choice, stream: _Stream, curve: Envelope) -> Iterator[str]:
    """What a controller cannot say of a curve as it is."""
    low, high = _span(curve, choice)
    y = curve.coordinates
    if float(y.min()) < low - 1e-9 or float(y.max()) > high + 1e-9:
        said = limits_text(parameter.format(choice.low), parameter.format(choice.high))
        yield f"{name} goes beyond {said}: clipped there"
    if parameter.unit == "dB" and not parameter.holds_only and (high - low) / stream.steps > COARSE:
        finer = "" if "fine" in choice.controller else "; 14 bits or a narrower span make them finer"
        yield f"{name} is written in steps of {parameter.format_distance((high - low) / stream.steps)}{finer}"


def _span(curve: Envelope, choice: Choice) -> tuple[float, float]:
    low, high = (float(curve.axis.coordinate(v)) for v in (choice.low, choice.high))
    return low, high


def _curve_events(
    curve: Envelope,
    choice: Choice,
    stream: _Stream,
    channel: int,
    per_beat: int,
    length: int,
    again: Sequence[int],
) -> list[Timed]:
    ticks, numbers = _steps(curve, choice, stream, per_beat, length, again)
    whole = set(again)
    says, halves = stream.bytes_for(channel), stream.low_half_for(channel)
    out, before = list[Timed](), None
    for tick, number in zip(ticks, numbers, strict=True):
        same = halves is not None and before is not None and before >> 7 == number >> 7 and tick not in whole
        out.append((tick, halves(number) if same and halves else says(number + stream.lowest)))
        before = number
    return out


def _stream(key: str, parameter: Parameter, choice: Choice) -> _Stream:
    base, fine = key.removesuffix(" fine"), key.endswith(" fine")
    kind, _, numbers = base.partition(" ")
    texts = numbers.split("/") if numbers else []
    parts = [int(n) for n in texts if n.isascii() and n.isdecimal() and len(n) < 4]
    alone = kind in ("bend", "program", "pressure") and not texts and not fine
    control = kind == "cc" and len(parts) == 1 and parts[0] < (32 if fine else 120) and parts[0] not in APART
    good = alone or control or (kind in ("rpn", "nrpn") and len(parts) == 2 and tuple(parts) != (127, 127))
    if not good or len(parts) != len(texts) or any(n > 127 for n in parts):
        raise FormatError(
            "controller-unknown",
            f"{parameter.name}: “{key}” is no controller that could be read back",
            place=f"choices.{parameter.id}",
            accepted="cc 0 to cc 119 (but 6, 38 and 96 to 101), cc 0 fine to cc 31 fine, bend, program, pressure, nrpn 1/8",
        )
    if not choice.low < choice.high or (parameter.axis.logarithmic and choice.low <= 0):
        raise FormatError(
            "span-empty",
            f"{parameter.name}: {choice.low:g} to {choice.high:g} is no span",
            place=f"choices.{parameter.id}",
            accepted=f"two rising values from {parameter.low:g} to {parameter.high:g}",
        )
    if kind == "bend":
        return _Stream(kind, (), 16383, -8192)
    return _Stream(kind, tuple(parts), 16383 if fine or kind in ("rpn", "nrpn") else 127)


def _steps(
    curve: Envelope, choice: Choice, stream: _Stream, per_beat: int, length: int, again: Sequence[int] = ()
) -> tuple[list[int], list[int]]:
    """(file ticks, whole numbers) of the fewest events that stay within half a step of the curve at every file tick.

    Between two of the ticks that are looked at the nearest number stays the same. Exactly between two numbers either will
    do, so an event is only sent where the one before it does no longer. Before the lane's first point there is none.
    """
    low, high = _span(curve, choice)
    marks = _crossings(curve, low, (high - low) / stream.steps, stream.steps)
    # A file's tick is read up to half a tick later than it is: the first one beyond a crossing is this or the next.
    crossed = np.ceil((marks - 0.5) * (per_beat / TICKS_PER_BEAT) - 1e-6).astype(np.int64)
    # Each program is sent, as a bank may have been chosen before it.
    points = curve.only_heard().ticks if stream.kind == "program" else curve.ticks
    on_points = _reached(points, per_beat)
    first = int(curve.ticks[0]) * per_beat // TICKS_PER_BEAT  # up to its first point a curve is still
    if _read_back(on_points[:1], per_beat)[0] == curve.ticks[0]:
        first = int(on_points[0])
    said_again = np.array(sorted(set(again)), dtype=np.int64)
    ticks = np.sort(np.concatenate(([first], crossed, crossed + 1, on_points, on_points + 1, said_again)))
    ticks = ticks[np.append(True, ticks[1:] != ticks[:-1])]
    ticks = ticks[(ticks >= max(first, 0)) & (ticks * TICKS_PER_BEAT <= length * per_beat)]
    if not len(ticks):
        return [], []
    at = _read_back(ticks, per_beat)
    y = np.clip((curve.coordinate_at(at) - low) / (high - low) * stream.steps, 0, stream.steps)
    least, most = np.ceil(y - 0.5 - _TIE).astype(np.int64), np.floor(y + 0.5 + _TIE).astype(np.int64)
    sent = among(ticks, on_points) if stream.kind == "program" else np.zeros(len(ticks), dtype=bool)
    if len(said_again) and stream.kind != "program":
        sent = sent | among(ticks, said_again)
    if np.array_equal(least, most):  # nowhere exactly between two
        changes = np.append(True, least[1:] != least[:-1]) | sent
        return ticks[changes].tolist(), least[changes].tolist()
    return _fewest(ticks.tolist(), least.tolist(), most.tolist(), sent.tolist())


def _read_back(ticks: Ticks, per_beat: int) -> Ticks:
    """The session's ticks that a file's are read as: the nearest."""
    return np.asarray((2 * ticks * TICKS_PER_BEAT + per_beat) // (2 * per_beat))


def _reached(ticks: Ticks, per_beat: int) -> Ticks:
    """The first ticks of the file that are read as these of the session, or as later ones."""
    return np.asarray(-((1 - 2 * ticks) * per_beat // (2 * TICKS_PER_BEAT)))


def _fewest(ticks: list[int], least: list[int], most: list[int], sent: list[bool]) -> tuple[list[int], list[int]]:
    """Events of numbers between `least` and `most` at each tick, as few as there can be; one wherever `sent` says so."""
    out_ticks, out_numbers = [ticks[0]], []
    low, high = least[0], most[0]
    for tick, a, b, must in zip(ticks[1:], least[1:], most[1:], sent[1:], strict=True):
        if not must and a <= high and b >= low:
            low, high = max(low, a), min(high, b)
            continue
        out_numbers.append(low)
        out_ticks.append(tick)
        low, high = a, b
    return out_ticks, [*out_numbers, low]


def _crossings(curve: Envelope, low: float, step: float, steps: int) -> Floats:
    """Ticks (fractional) where the curve passes from one whole step to the next."""
    out: list[Floats] = [np.zeros(0)]
    y = (curve.coordinates - low) / step
    for i in np.flatnonzero(np.isfinite(curve.bends[:-1]) & (y[:-1] != y[1:])).tolist():
        start, span = int(curve.ticks[i]), int(curve.ticks[i + 1] - curve.ticks[i])
        lower, upper = sorted((float(y[i]), float(y[i + 1])))
        first, last = max(np.floor(lower - 0.5), -1), min(np.ceil(upper + 0.5), steps + 1)
        part = (np.arange(first, last) + 0.5 - y[i]) / (y[i + 1] - y[i])
        if abs(y[i] - 0.5 - round(float(y[i]) - 0.5)) <= _TIE:  # where it leaves a place exactly between two numbers
            part = np.append(part, min(4 * _TIE / abs(float(y[i + 1] - y[i])), 1.0))
        part = part[(part >= 0) & (part <= 1) & (span > 0)]
        out.append(start + unbend(part, float(curve.bends[i])) * span)
    return np.concatenate(out)
