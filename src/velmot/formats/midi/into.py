"""Writing back into the MIDI file a session came from: only lanes that were changed are events anew, all else stays.

Every event that Velmot does not work on (notes, exclusive events, texts, commands, unknown ones, chunks of other kinds)
stays in its track, at its tick, in its order. A session that plays as the file does gives the same bytes.
"""

from __future__ import annotations

from collections.abc import Iterable
from dataclasses import dataclass, field

from velmot.core.curves.difference import SAME, largest_difference
from velmot.core.curves.envelope import Envelope
from velmot.core.parameters.parameter import Parameter
from velmot.core.session.heard import heard, reading
from velmot.core.session.session import Session
from velmot.core.session.track import Marker, Track
from velmot.core.session.wording import parameter_name
from velmot.core.words import counted
from velmot.formats.midi.bend_range import said_of_bends
from velmot.formats.midi.events import END_OF_TRACK, META, SYSTEM, Chunk, Event, chunks_of, events_of
from velmot.formats.midi.markers import KNOWN, event_of
from velmot.formats.midi.read import Placed, read_placed
from velmot.formats.midi.table import DATA_HIGH, DATA_LOW, SELECTORS, STEP_DOWN, STEP_UP
from velmot.formats.midi.track_bytes import Timed, meta, number_bytes
from velmot.formats.midi.write import BANK, Choice, curve_said, file_tick, resets_of, usual_choices
from velmot.formats.report import Report

NUMBERED = {*SELECTORS, DATA_HIGH, DATA_LOW, STEP_UP, STEP_DOWN}
"""Controllers that registered and non-registered parameters share: which one is meant depends on what came before."""

_ONE_VALUE = (0xC0, 0xD0)

Key = tuple[int, str]
"""(status without its channel, controller number or nothing): what tells the events of a lane."""


@dataclass
class _Edit:
    """What happens on one channel of one file track: events that go, by what tells them, and events that come."""

    goes: dict[Key, str] = field(default_factory=dict)
    comes: dict[str, list[Timed]] = field(default_factory=dict)


def write(session: Session, source: bytes) -> tuple[bytes, Report]:
    """The file's bytes with the session's lanes in it, and what was written, kept or left out."""
    before, places = read_placed(source)
    marks = _mark_edits(before, session, places, source, report := Report())
    if session.alternatives:
        report.left_out.append(f"{counted(len(session.alternatives), 'alternative')}: a session file keeps them")
    edits = dict[tuple[int, int], _Edit]()
    choices = {c.parameter: c for c in usual_choices(session)}
    chunks = chunks_of(source)
    same = 0
    for track in session.tracks:
        place = places.tracks.get(track.id)
        if place is None:
            report.left_out += [
                f"{parameter_name(session, p.id)}: the file has no track for it"
                for p in track.parameters
                if session.lanes_of(p.id)
            ]
            continue
        changed = _changed(before, session, track)
        if changed and (said := said_of_bends(session, track)):
            report.changed.append(said)
        same += sum(bool(session.lanes_of(p.id)) for p in track.parameters) - len(changed)
        taken = _taken(session, track, choices, changed)
        for id, other in taken.items():
            report.left_out.append(f"{parameter_name(session, id)}: {choices[id].controller} is taken by {other}")
        if able := [p for p in changed if p.id not in taken]:
            edit = edits.setdefault(place, _Edit())
            again = resets_of(track, chunks.per_beat)
            for parameter in able:
                _rewrite(session, before, parameter, choices, place[1], chunks.per_beat, edit, report, again)
    _say_moved(before, session, report)
    if same:
        report.came.append(f"{counted(same, 'lane')} as the file says them")
    report.came.append(
        "everything else of the file, event for event" if edits or marks else "the file as it came, byte for byte"
    )
    return _with_tracks(source, chunks.tracks, edits, marks), report


@dataclass
class _Marks:
    """What happens to the markers of one file track: events that go by their number, and some that come: at a tick, in the
    place of which one that goes (None: as the last before the notes of its tick), and what bytes.
    """

    goes: set[int] = field(default_factory=set)
    comes: list[tuple[int, int | None, bytes]] = field(default_factory=list)


def _mark_edits(before: Session, session: Session, places: Placed, source: bytes, report: Report) -> dict[int, _Marks]:
    """The markers that are others than the file's, by file track; new ones go to its first, where tempos stand."""
    edits: dict[int, _Marks] = {}
    chunks = chunks_of(source)
    was, now = ({m.id: m for m in x.markers} for x in (before, session))
    if KNOWN not in dict(session.extra):  # read by a version that had no markers: it knows nothing of the file's
        was = {id: m for id, m in was.items() if id in now}
    changed = [id for id in dict.fromkeys([*was, *now]) if _said(was.get(id)) != _said(now.get(id))]
    if changed and not chunks.tracks:
        report.left_out.append(f"{counted(len(changed), 'marker')}: the file has no track for them")
        return {}
    poor = 0
    for id in changed:
        track, event = places.markers.get(id, (0, None))
        edit = edits.setdefault(track, _Marks())
        if event is not None:
            edit.goes.add(event)
        if marker := now.get(id):
            message, whole = event_of(marker, places.texts)
            tick = file_tick(marker.tick, chunks.per_beat)
            stays = id in was and was[id].tick == marker.tick
            edit.comes.append((tick, event if stays else None, message))
            poor += not whole
    if changed:
        report.came.append(f"{counted(len(changed), 'marker')} changed")
    if poor:
        report.changed.append(f"{counted(poor, 'name')} of markers with letters that the file’s texts do not have")
    return edits


def _said(marker: Marker | None) -> tuple[str, int, bool] | None:
    """What a file says of a marker."""
    return (marker.name, marker.tick, marker.cue) if marker else None


def _taken(session: Session, track: Track, choices: dict[str, Choice], changed: list[Parameter]) -> dict[str, str]:
    """Of the parameters that would be written those whose controller another lane of the track has: id → whose it is.

    What the file says already goes first; a controller of 14 bits has both its halves.
    """
    had: dict[str, str] = {}
    lost: dict[str, str] = {}
    ids = {p.id for p in changed}
    for p in sorted(track.parameters, key=lambda p: p.id in ids):
        choice = choices.get(p.id)
        if choice is None or not session.lanes_of(p.id):
            continue
        base = choice.controller.removesuffix(" fine")
        halves = [base]
        if base.startswith("cc ") and choice.controller.endswith(" fine"):
            halves.append(f"cc {int(base.partition(' ')[2]) + 32}")
        if other := next((had[key] for key in halves if key in had), None):
            lost[p.id] = other
        else:
            had |= dict.fromkeys(halves, p.name)
    return {id: other for id, other in lost.items() if id in ids}


def _changed(before: Session, session: Session, track: Track) -> list[Parameter]:
    """The track's parameters that play otherwise than the file says; of numbered ones all where one does."""
    known = {p.id for t in before.tracks for p in t.parameters}
    changed = [p for p in track.parameters if not _plays_alike(before, session, p, p.id in known)]
    if any(_is_numbered(p) for p in changed):
        has_lane = [p for p in track.parameters if session.lanes_of(p.id) or (p.id in known and before.lanes_of(p.id))]
        changed += [p for p in has_lane if _is_numbered(p) and p not in changed]
    return changed


def _plays_alike(before: Session, session: Session, p: Parameter, known: bool) -> bool:
    had, has = known and bool(before.lanes_of(p.id)), bool(session.lanes_of(p.id))
    if had != has or not has:
        return had == has
    was, now = _played(before, p), _played(session, p)
    end = max(int(was.ticks[-1]), int(now.ticks[-1])) + 1
    return was == now or (was.ticks[0] == now.ticks[0] and largest_difference(was, now, 0, end)[0] <= SAME)


def _played(session: Session, p: Parameter) -> Envelope:
    return heard(reading(session), p.id, groups=False).envelope.only_heard()


def _is_numbered(p: Parameter) -> bool:
    return (p.controller or "").startswith(("rpn", "nrpn"))


def _rewrite(
    session: Session,
    before: Session,
    parameter: Parameter,
    choices: dict[str, Choice],
    channel: int,
    per_beat: int,
    edit: _Edit,
    report: Report,
    again: list[int],
) -> None:
    """Note which events of a parameter go, and which come."""
    name = parameter_name(session, parameter.id)
    own = "numbered" if _is_numbered(parameter) else parameter.id
    if parameter.controller and parameter.id in before._parameters:
        edit.goes |= dict.fromkeys(_keys_of(parameter.controller), own)
    if not session.lanes_of(parameter.id):
        report.changed.append(f"{name}: its events are taken out, as it has no lane any more")
        return
    choice = choices.get(parameter.id)
    if choice is None:
        report.left_out.append(f"{name}: no controller is free for it")
        return
    said = curve_said(session, parameter, choice, channel, per_beat, report, again)
    edit.comes.setdefault(own, []).extend(said)


def _keys_of(controller: str) -> list[Key]:
    """What tells the events of a controller."""
    base, fine = controller.removesuffix(" fine"), controller.endswith(" fine")
    kind, _, number = base.partition(" ")
    if kind in ("rpn", "nrpn"):
        return [(0xB0, str(n)) for n in sorted(NUMBERED)]
    if kind == "cc":
        return [(0xB0, number), *([(0xB0, str(int(number) + 32))] if fine else [])]
    return [({"bend": 0xE0, "program": 0xC0, "pressure": 0xD0}[kind], "")]


def _say_moved(before: Session, session: Session, report: Report) -> None:
    """Notes stay where they are, whatever became of the regions that show where they sound."""
    was = {r.id: (r.start, r.length, r.muted) for t in before.tracks for r in t.regions}
    now = {r.id: (r.start, r.length, r.muted) for t in session.tracks for r in t.regions}
    if any(now.get(id) != place for id, place in was.items()):
        report.changed.append("regions were moved, cut or muted here: the file’s notes stay as they were")


# ── bytes ─────────────────────────────────────────────────────────────────────────────────────


def _with_tracks(
    source: bytes, tracks: list[Chunk], edits: dict[tuple[int, int], _Edit], marks: dict[int, _Marks]
) -> bytes:
    """The file with the tracks that edits are for written anew, everything between them as it is."""
    parts, at = list[bytes](), 0
    for index, chunk in enumerate(tracks):
        mine = {channel: edit for (track, channel), edit in edits.items() if track == index}
        if mine or index in marks:
            body = _track_body(events_of(source, chunk), mine, marks.get(index, _Marks()))
            parts += [source[at : chunk.start - 4], len(body).to_bytes(4, "big"), body]
            at = chunk.end
    return b"".join((*parts, source[at:]))


def _track_body(events: Iterable[Event], edits: dict[int, _Edit], marks: _Marks) -> bytes:
    """A track's events with those of the edits in the place of what goes, or before the notes of their tick."""
    kept: list[tuple[int, float, bytes]] = []
    gone: dict[tuple[int, str, int], int] = {}
    notes: dict[int, int] = {}
    programs: dict[tuple[int, int], int] = {}
    resets: dict[tuple[int, int], int] = {}
    end = 0
    for n, (tick, status, first, second) in enumerate(events):
        end = max(end, tick)
        if status == META and first == END_OF_TRACK:
            break
        if n in marks.goes:
            continue
        own = _goes(edits, status, first)
        if own is not None:
            gone.setdefault((status & 15, own, tick), n)
            continue
        if status & 0xF0 == 0x90 and second:
            notes.setdefault(tick, n)
        if status & 0xF0 == 0xC0:
            programs.setdefault((status & 15, tick), n)
        if status & 0xF0 == 0xB0 and first == 121:
            resets[status & 15, tick] = n
        kept.append((tick, float(n), _message(status, first, second)))
    last = float("inf")
    for tick, event, message in marks.comes:
        kept.append((tick, notes.get(tick, last) - 0.75 if event is None else float(event), message))
        end = max(end, tick)
    for channel, edit in edits.items():
        for own, said in edit.comes.items():
            for tick, message in said:
                place = gone.get((channel, own, tick))
                order = notes.get(tick, last) - 0.5 if place is None else float(place)
                if message[0] & 0xF0 == 0xB0 and message[1] in BANK:  # a bank is for the program that follows it
                    order = min(order, programs.get((channel, tick), last) - 0.25)
                order = max(order, resets.get((channel, tick), -1) + 0.1)
                kept.append((tick, order, message))
                end = max(end, tick)
    parts, now = list[bytes](), 0
    for tick, _, message in sorted(kept, key=lambda row: row[:2]):
        parts += [number_bytes(tick - now), message]
        now = tick
    return b"".join((*parts, number_bytes(end - now), meta(END_OF_TRACK, b"")))


def _goes(edits: dict[int, _Edit], status: int, first: int) -> str | None:
    """Whose event it is, of those that go."""
    if status >= SYSTEM:
        return None
    edit = edits.get(status & 15)
    kind = status & 0xF0
    return edit.goes.get((kind, str(first) if kind == 0xB0 else "")) if edit else None


def _message(status: int, first: int, second: int | bytes) -> bytes:
    """An event's bytes as they were, with its status."""
    if isinstance(second, bytes):
        if status == META:
            return meta(first, second)
        return bytes((first,)) + (number_bytes(len(second)) if first in (0xF0, 0xF7) else b"") + second
    return bytes((status, first)) if status & 0xF0 in _ONE_VALUE else bytes((status, first, second))
