"""Writing sessions as Standard MIDI Files: curves become events, no more than needed."""

from __future__ import annotations

import io
import json
from collections.abc import Iterable, Iterator
from dataclasses import dataclass, replace
from typing import Any

import mido
import numpy as np

from velmot.core.envelope import Envelope
from velmot.core.heard import heard
from velmot.core.parameters import Family, Parameter
from velmot.core.segments import unbend
from velmot.core.session import Mode, Session, Track
from velmot.core.time import TICKS_PER_BEAT, Floats, Ticks
from velmot.core.wording import counted
from velmot.formats.midi.table import FREE
from velmot.formats.report import FormatError, Report

PER_BEAT = 960


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

    key: str
    steps: int
    lowest: int = 0


def usual_choices(session: Session) -> list[Choice]:
    """A choice for every parameter that has a lane: its own controller, the usual one, or a free one."""
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
                break
            taken.add(key)
            choices.append(Choice(p.id, key, p.low, p.high))
    return choices


def write(session: Session, choices: Iterable[Choice], per_beat: int = PER_BEAT) -> tuple[bytes, Report]:
    """The MIDI file's bytes (type 1) and what was written, changed or left out.

    Each value read back is within half a step of the controller at every file tick.
    """
    if not 24 <= per_beat <= 32767:
        raise FormatError(
            "midi-ticks", f"{per_beat} ticks per beat cannot be used", place="resolution", accepted="24 to 32767"
        )
    chosen = {c.parameter: c for c in choices}
    report = Report()
    file = mido.MidiFile(type=1, ticks_per_beat=per_beat, charset="utf-8")
    file.tracks.append(_conductor(session, per_beat, report))
    tracks = [t for t in session.tracks if any(p.id in chosen for p in t.parameters)]
    for number, track in enumerate(tracks):
        own = _kept(track)
        channel = int(own.get("channel", number % 16))
        file.tracks.append(_track(session, track, chosen, channel, own, per_beat, report))
    if len(tracks) > 16:
        report.changed.append("more than 16 tracks: channels are shared, each track stays a track of its own")
    out = io.BytesIO()
    file.save(file=out)
    return out.getvalue(), report


def _kept(track: Track) -> dict[str, Any]:
    kept = dict(track.extra).get("midi")
    value = json.loads(kept) if kept else {}
    return value if isinstance(value, dict) else {}


def _conductor(session: Session, per_beat: int, report: Report) -> mido.MidiTrack:
    events: list[tuple[int, Any]] = []
    for tempo, after in zip(session.tempo.tempos, [*session.tempo.tempos[1:], None], strict=False):
        if tempo.ramp and after:
            span = np.arange(tempo.tick, after.tick, TICKS_PER_BEAT // 4)
            part = (span - tempo.tick) / (after.tick - tempo.tick)
            steps = list(zip(span.tolist(), (tempo.bpm + (after.bpm - tempo.bpm) * part).tolist(), strict=True))
            report.changed.append(f"a tempo ramp written as {counted(len(steps), 'step')} of a quarter beat")
        else:
            steps = [(tempo.tick, tempo.bpm)]
        for tick, bpm in steps:
            micros = min(max(round(60_000_000 / bpm), 1), 0xFFFFFF)
            events.append((_file_tick(tick, per_beat), mido.MetaMessage("set_tempo", tempo=micros)))
    for meter in session.tempo.meters:
        message = mido.MetaMessage("time_signature", numerator=meter.count, denominator=meter.unit)
        events.append((_file_tick(meter.tick, per_beat), message))
    return _in_order(session.name, events, _file_tick(session.length, per_beat))


def _file_tick(tick: int, per_beat: int) -> int:
    return round(tick * per_beat / TICKS_PER_BEAT)


def _in_order(name: str, events: list[tuple[int, Any]], end: int) -> mido.MidiTrack:
    """A file track: events by time (stable), with delta times."""
    track = mido.MidiTrack([mido.MetaMessage("track_name", name=name)])
    now = 0
    for tick, message in sorted(events, key=lambda e: e[0]):
        message.time = tick - now
        now = tick
        track.append(message)
    track.append(mido.MetaMessage("end_of_track", time=max(end - now, 0)))
    return track


def _track(
    session: Session,
    track: Track,
    chosen: dict[str, Choice],
    channel: int,
    own: dict[str, Any],
    per_beat: int,
    report: Report,
) -> mido.MidiTrack:
    events: list[tuple[int, Any]] = []
    for beat, number, value in own.get("commands", []):
        command = mido.Message("control_change", channel=channel, control=number, value=value)
        events.append((round(beat * per_beat), command))
    for parameter in track.parameters:
        choice = chosen.get(parameter.id)
        if choice is None:
            continue
        said = _curve_events(session, parameter, choice, channel, per_beat)
        report.came.append(
            f"{track.name} {parameter.name} as {choice.controller}, "
            f"{parameter.format(choice.low)} to {parameter.format(choice.high)}: {counted(len(said), 'event')}"
        )
        events += said
    return _in_order(track.name, events, _file_tick(session.length, per_beat))


def _curve_events(
    session: Session, parameter: Parameter, choice: Choice, channel: int, per_beat: int
) -> list[tuple[int, Any]]:
    reading = session.with_tracks(replace(t, mode=Mode.READ) for t in session.tracks)
    curve = heard(reading, parameter.id, groups=False).envelope  # the fader, not its net level
    stream = _stream(choice.controller, parameter, choice)
    ticks, numbers = _steps(curve, choice, stream, per_beat, session.length)
    out: list[tuple[int, Any]] = []
    for tick, number in zip(ticks.tolist(), numbers.tolist(), strict=True):
        out += [(tick, message) for message in _messages(stream, number + stream.lowest, channel)]
    return out


def _stream(key: str, parameter: Parameter, choice: Choice) -> _Stream:
    base, fine = key.removesuffix(" fine"), key.endswith(" fine")
    kind, _, numbers = base.partition(" ")
    parts = [int(n) for n in numbers.split("/") if n.isdigit()]
    good = (kind in ("bend", "program", "pressure") and not parts) or (
        (kind == "cc" and len(parts) == 1 and parts[0] < (32 if fine else 120))
        or (kind in ("rpn", "nrpn") and len(parts) == 2)
    )
    if not good or any(n > 127 for n in parts):
        raise FormatError(
            "controller-unknown",
            f"{parameter.name}: “{key}” is no controller",
            place=f"choices.{parameter.id}",
            accepted="cc 0 to cc 119, cc 0 fine to cc 31 fine, bend, program, pressure, nrpn 1/8",
        )
    if not choice.low < choice.high or (parameter.axis.logarithmic and choice.low <= 0):
        raise FormatError(
            "span-empty",
            f"{parameter.name}: {choice.low:g} to {choice.high:g} is no span",
            place=f"choices.{parameter.id}",
            accepted=f"two rising values from {parameter.low:g} to {parameter.high:g}",
        )
    if kind == "bend":
        return _Stream(base, 16383, -8192)
    return _Stream(base, 16383 if fine or kind in ("rpn", "nrpn") else 127)


def _steps(curve: Envelope, choice: Choice, stream: _Stream, per_beat: int, length: int) -> tuple[Ticks, Floats]:
    """(file ticks, whole numbers): the events at which the rounded curve changes."""
    low, high = (float(curve.axis.coordinate(v)) for v in (choice.low, choice.high))
    marks = _crossings(curve, low, (high - low) / stream.steps, stream.steps)
    scaled = np.ceil(np.concatenate((marks, curve.ticks)) * (per_beat / TICKS_PER_BEAT) - 1e-6)
    ticks = np.unique(np.append(scaled.astype(np.int64), 0))
    ticks = ticks[(ticks >= 0) & (ticks * TICKS_PER_BEAT <= length * per_beat)]
    # Tick 0 always gets an event, so that a reader knows the value from the start on.
    at = np.rint(ticks * (TICKS_PER_BEAT / per_beat)).astype(np.int64)
    numbers = np.clip(np.rint((curve.coordinate_at(at) - low) / (high - low) * stream.steps), 0, stream.steps)
    changes = np.append(True, numbers[1:] != numbers[:-1])
    return ticks[changes], numbers[changes].astype(np.int64)


def _crossings(curve: Envelope, low: float, step: float, steps: int) -> Floats:
    """Ticks (fractional) where the curve passes from one whole step to the next."""
    out: list[Floats] = [np.zeros(0)]
    y = (curve.coordinates - low) / step
    for i in np.flatnonzero(np.isfinite(curve.bends[:-1]) & (y[:-1] != y[1:])).tolist():
        start, span = int(curve.ticks[i]), int(curve.ticks[i + 1] - curve.ticks[i])
        lower, upper = sorted((float(y[i]), float(y[i + 1])))
        first, last = max(np.floor(lower - 0.5), -1), min(np.ceil(upper + 0.5), steps + 1)
        part = (np.arange(first, last) + 0.5 - y[i]) / (y[i + 1] - y[i])
        part = part[(part >= 0) & (part <= 1) & (span > 0)]
        out.append(start + unbend(part, float(curve.bends[i])) * span)
    return np.concatenate(out)


def _messages(stream: _Stream, number: int, channel: int) -> list[Any]:
    """The messages that set a controller to a number."""
    kind, _, numbers = stream.key.partition(" ")
    parts = [int(n) for n in numbers.split("/") if n]

    def control(control: int, value: int) -> Any:
        return mido.Message("control_change", channel=channel, control=control, value=value)

    if kind == "bend":
        return [mido.Message("pitchwheel", channel=channel, pitch=number)]
    if kind == "program":
        return [mido.Message("program_change", channel=channel, program=number)]
    if kind == "pressure":
        return [mido.Message("aftertouch", channel=channel, value=number)]
    if kind == "cc" and stream.steps == 127:
        return [control(parts[0], number)]
    if kind == "cc":
        return [control(parts[0], number >> 7), control(parts[0] + 32, number & 127)]
    high, low = (101, 100) if kind == "rpn" else (99, 98)
    return [control(high, parts[0]), control(low, parts[1]), control(6, number >> 7), control(38, number & 127)]
