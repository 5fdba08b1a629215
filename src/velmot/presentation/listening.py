"""What the page needs to let a session be heard: its score as numbers for an audio graph, sounds in pieces, readings."""

from __future__ import annotations

import base64
import json
import pickle
from collections import OrderedDict
from collections.abc import Sequence
from functools import lru_cache
from hashlib import sha256
from math import isfinite
from threading import Lock

import numpy as np
from pydantic import BaseModel, Field

from velmot.core.errors import RequestError
from velmot.core.progress import come, part
from velmot.core.session.session import Session
from velmot.core.session.sounds import NOTES, Audio, Sound
from velmot.core.session.takes import sound_of
from velmot.core.session.track import Track
from velmot.core.time.ticks import Floats, Tick
from velmot.formats.session_shape import SoundShape
from velmot.formats.sound_out import library_of
from velmot.formats.sound_rows import sound_from, sound_row
from velmot.sound.detectors import Detector
from velmot.sound.library import Library
from velmot.sound.meters import Reading, readings
from velmot.sound.nodes import Node
from velmot.sound.outlines import PER_SECOND, outline
from velmot.sound.path import Channel, Moved, Piece, Score, pieces_of, score_of, tick_span
from velmot.sound.ramps import Ramps
from velmot.sound.render import RATE
from velmot.sound.stand_ins.hall import impulse
from velmot.storage import outlines, own_audio, sources

CHUNK = 4
"""Seconds of one piece of a sound that the page asks for."""


class RampsOut(BaseModel):
    """Events in time: at each of `times` (seconds) a value, reached at once (0), straight (1) or by equal ratios (2)."""

    times: list[float]
    values: list[float]
    ways: list[int]


class MovedOut(RampsOut):
    """What one parameter does: a factor, or a place from −1 to 1."""

    parameter: str


class PieceOut(BaseModel):
    """A part of a sound: it begins at `start`, `length` seconds long, from `offset` seconds into the take `key` on."""

    key: str = Field(description="What to ask for its samples with.")
    start: float
    length: float
    offset: float
    fades: bool


class NodeOut(BaseModel):
    """One thing a sound passes through; see `velmot/sound/nodes.py`."""

    kind: str
    word: str
    says: dict[str, float]
    ramps: dict[str, RampsOut]
    on: RampsOut | None


class SendOut(BaseModel):
    """What of a channel goes to a bus."""

    bus: str
    gain: MovedOut


class ChannelOut(BaseModel):
    """A track on its way to the master: pieces, nodes, gains one after the other, one place or one for each side, sends."""

    id: str
    pieces: list[PieceOut]
    nodes: list[NodeOut]
    gains: list[MovedOut]
    pan: list[MovedOut]
    sends: list[SendOut]
    unheard: list[str] = Field(description="Parameters without a stand-in, by id.")


class ScoreOut(BaseModel):
    """What sounds from `start` to `end` seconds; every channel stands before the buses it feeds."""

    start: float
    end: float
    channels: list[ChannelOut]
    circles: list[str] = Field(description="Sends left out, as they would feed a bus back into itself.")
    missing: list[str] = Field(description="Files of one's own that are not there: stand-ins sound for them.")


class ScoresOut(BaseModel):
    """What sounds now, and if what was asked for were applied."""

    now: ScoreOut
    applied: ScoreOut | None = Field(
        description="Of its channels those that are others than now, and the buses they reach."
    )


class ReadingOut(BaseModel):
    """Peak and mean in dB of full scale, loudness in LUFS; nothing where all is silent. Seconds of the loudest place."""

    name: str
    track: str | None
    peak: float | None
    mean: float | None
    loudness: float | None
    at: float | None
    clips: float | None


class ReadingsOut(BaseModel):
    """The master's reading, then each track's; and by what factor each state is to be lowered to be equally loud."""

    now: list[ReadingOut]
    applied: list[ReadingOut]
    louder: float | None = Field(description="By how many dB the applied one is louder; nothing without both.")
    lower_now: float
    lower_applied: float


class OutlineOut(BaseModel):
    """How far a track's sound reaches, `per_second` columns, as bytes in base64: 255 is full scale."""

    per_second: int
    columns: str


# ── scores ────────────────────────────────────────────────────────────────────────────────────


def score_out(session: Session, start: float, end: float, tracks: Sequence[str] | None) -> ScoreOut:
    """What sounds over a span of seconds, of all tracks or of some."""
    made = scored(session, start, end, tracks)
    return ScoreOut(
        start=made.start,
        end=made.end,
        channels=[_channel_out(channel) for channel in made.channels],
        circles=list(made.circles),
        missing=list(made.missing),
    )


def scores_out(
    now: Session, applied: Session | None, start: float, end: float, tracks: Sequence[str] | None
) -> ScoresOut:
    """What sounds over a span now, and what sounds otherwise if applied."""
    there = score_out(now, start, end, tracks)
    if applied is None:
        return ScoresOut.model_construct(now=there, applied=None)
    come = score_out(applied, start, end, tracks)
    before = {channel.id: channel for channel in there.channels}
    others = set[str]()
    for channel in come.channels:  # each stands before the buses it feeds
        if channel.id in others or channel != before.get(channel.id):
            others |= {channel.id, *(send.bus for send in channel.sends)}
    others |= {s.bus for c in there.channels if c.id not in {x.id for x in come.channels} for s in c.sends}
    come.channels = [channel for channel in come.channels if channel.id in others]
    return ScoresOut.model_construct(now=there, applied=come)


def scored(session: Session, start: float, end: float, tracks: Sequence[str] | None = None) -> Score:
    """The score of a span of seconds; RequestError for none."""
    if not (isfinite(start) and isfinite(end) and 0 <= start < end):
        raise RequestError("span", place="start", accepted="a start before an end")
    a, b = tick_span(session, start, end)
    a = Tick(min(a, max(session.length - 1, 0)))
    wanted = None if tracks is None else frozenset(session.track(id).id for id in tracks)
    return score_of(session, a, max(b, a + 1), wanted, lambda audio: own_audio.find(audio) is not None)


def _channel_out(channel: Channel) -> ChannelOut:
    return ChannelOut.model_construct(
        id=channel.id,
        pieces=[_piece_out(piece) for piece in channel.pieces],
        nodes=[_node_out(node) for node in channel.nodes],
        gains=[_moved_out(gain) for gain in channel.gains],
        pan=[_moved_out(pan) for pan in channel.pan],
        sends=[SendOut.model_construct(bus=s.bus, gain=_moved_out(s.gain)) for s in channel.sends],
        unheard=list(channel.unheard),
    )


def _piece_out(piece: Piece) -> PieceOut:
    return PieceOut.model_construct(
        key=key_of(piece.sound, piece.take),
        start=piece.start,
        length=piece.length,
        offset=piece.offset,
        fades=piece.fades,
    )


def _node_out(node: Node) -> NodeOut:
    ramps = {name: _ramps_out(ramp) for name, ramp in node.ramps.items()}
    on = _ramps_out(node.on) if node.on else None
    return NodeOut.model_construct(kind=node.kind, word=node.word, says=node.says, ramps=ramps, on=on)


def _ramps_out(ramps: Ramps) -> RampsOut:
    times, values, ways = _columns(ramps)
    return RampsOut.model_construct(times=times, values=values, ways=ways)


def _moved_out(moved: Moved) -> MovedOut:
    times, values, ways = _columns(moved.ramps)
    return MovedOut.model_construct(parameter=moved.parameter, times=times, values=values, ways=ways)


def _columns(ramps: Ramps) -> tuple[list[float], list[float], list[int]]:
    return ramps.times.round(9).tolist(), ramps.values.round(9).tolist(), ramps.ways.tolist()


# ── sounds in pieces ──────────────────────────────────────────────────────────────────────────


def key_of(sound: Sound, take: str) -> str:
    """What names a take of a sound wherever it is heard: its recipe and the take's name."""
    said = json.dumps([sound_row(sound), take], ensure_ascii=True, separators=(",", ":"))
    return base64.urlsafe_b64encode(said.encode()).decode()


def sound_in(key: str) -> tuple[Sound, str]:
    """The sound and the take a key names; RequestError for what is none."""
    try:
        row, take = json.loads(base64.urlsafe_b64decode(key.encode("ascii", "strict")))
        sound = sound_from(SoundShape.model_validate(row))
        if sound is not None and isinstance(take, str):
            return sound, take
    except RequestError:
        raise
    except (ValueError, RecursionError):
        pass
    raise RequestError("key", place="key", accepted="a key out of a score")


def chunk(session_id: int, session: Session, key: str, n: int) -> tuple[bytes, int]:
    """(the n-th four seconds of a sound as 32-bit floats at 48 kHz, its sides beside each other; how many sides)."""
    sound, take = sound_in(key)
    library = library_for(session_id, session, sound.kind == NOTES)
    frames = CHUNK * RATE
    samples = library.samples(sound, take, RATE, n * frames, frames)
    sides = 1 if samples.ndim == 1 else samples.shape[1]
    return np.ascontiguousarray(samples, dtype="<f4").tobytes(), sides


def library_for(session_id: int, session: Session, notes: bool = True) -> Library:
    """Where the notes and the files of a session come from."""
    source = sources.known(session_id) if notes else None
    return library_of(session, source.data if source else None, own_audio.find)


_frames: OrderedDict[str, Floats] = OrderedDict()
_frames_lock = Lock()


def detector_for(session_id: int, session: Session) -> Detector:
    """Tells how loud the tracks of a session are; what was worked out is kept for all of them."""
    library = lambda: library_for(session_id, session)  # noqa: E731
    return Detector(library, _is_there, str(session_id), _frames, _frames_lock)


def _is_there(audio: Audio) -> bool:
    return own_audio.find(audio) is not None


@lru_cache(maxsize=8)
def impulse_bytes(i: int) -> bytes:
    """A hall's impulse as 32-bit floats at 48 kHz, both sides beside each other."""
    return np.ascontiguousarray(impulse(i, RATE), dtype="<f4").tobytes()


def outline_out(session_id: int, session: Session, track: Track) -> OutlineOut:
    """A track's sound over the whole session, before its devices and its level: made once for the same pieces, and kept."""
    pieces = pieces_of(session, track, lambda audio: own_audio.find(audio) is not None)
    end = float(session.tempo.seconds(session.length))
    said = [[key_of(p.sound, p.take), round(p.start, 6), round(p.length, 6), round(p.offset, 6)] for p in pieces]
    notes = sound_of(session, track).kind == NOTES

    def make() -> bytes:
        return _as_bytes(outline(pieces, library_for(session_id, session, notes), 0.0, end))

    kept = outlines.kept(json.dumps([said, round(end, 3), session_id if notes else 0]), make)
    return OutlineOut(per_second=PER_SECOND, columns=base64.b64encode(kept).decode())


def _as_bytes(columns: Floats) -> bytes:
    return np.clip(columns * 255, 0, 255).round().astype(np.uint8).tobytes()


# ── readings ──────────────────────────────────────────────────────────────────────────────────

LONGEST_READING = 1800.0
"""Seconds that are read at once: half an hour."""


def readings_out(
    id: int, now: Session, applied: Session | None, start: float, end: float, of_each: bool = True
) -> ReadingsOut:
    """What the meters would show over a span, now and if applied, and what makes both equally loud."""
    if end - start > LONGEST_READING:
        raise RequestError(
            "span/long", n=end - start, place="end", accepted=f"at most {LONGEST_READING / 60:.0f} minutes"
        )
    with part(0.0, 0.5 if applied else 1.0):
        one = _read(id, now, start, end, of_each)
    other: list[ReadingOut] = []
    if applied:
        with part(0.5, 1.0):
            other = _read(id, applied, start, end, of_each)
    come(1.0)
    loud = [rows[0].loudness for rows in (one, other) if rows]
    louder = loud[1] - loud[0] if len(loud) == 2 and loud[0] is not None and loud[1] is not None else None
    down = [10 ** (-max(by, 0.0) / 20) for by in (-(louder or 0.0), louder or 0.0)]
    return ReadingsOut(now=one, applied=other, louder=louder, lower_now=down[0], lower_applied=down[1])


_read_before: OrderedDict[str, tuple[Reading, dict[str, Reading]]] = OrderedDict()
_MOST_READ = 64


def _readings(id: int, made: Score, session: Session, of_each: bool) -> tuple[Reading, dict[str, Reading]]:
    """The readings of a score; those of the same score are remembered, as several places of the page show them."""
    key = sha256(pickle.dumps((id, of_each, made))).hexdigest()
    if key not in _read_before:
        _read_before[key] = readings(made, library_for(id, session), of_each=of_each)
        while len(_read_before) > _MOST_READ:
            _read_before.popitem(last=False)
    return _read_before[key]


def _read(id: int, session: Session, start: float, end: float, of_each: bool) -> list[ReadingOut]:
    made = scored(session, start, end)
    master, each = _readings(id, made, session, of_each)
    rows = [_reading_out("master", None, master)]
    return rows + [_reading_out(session.track(t.id).name, t.id, each[t.id]) for t in session.tracks if t.id in each]


def _reading_out(name: str, track: str | None, reading: Reading) -> ReadingOut:
    numbers = {key: getattr(reading, key) for key in ("peak", "mean", "loudness")}
    said = {key: round(value, 3) if isfinite(value) else None for key, value in numbers.items()}
    return ReadingOut(name=name, track=track, **said, at=reading.at, clips=reading.clips)
