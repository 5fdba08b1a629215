"""The path of every track over a span: its sound in pieces, what it passes through, and where it goes."""

from __future__ import annotations

from collections.abc import Callable, Iterator
from dataclasses import dataclass, field

import numpy as np

from velmot.core.curves.axes import SILENCE
from velmot.core.curves.envelope import Envelope
from velmot.core.curves.spans import topmost
from velmot.core.parameters.parameter import Family, Kind, Parameter
from velmot.core.session.above import groups_above
from velmot.core.session.heard import heard
from velmot.core.session.session import Session
from velmot.core.session.sounds import FILE, NOTHING, Audio, Excerpt, Sound, usual
from velmot.core.session.takes import clips_of, sound_of
from velmot.core.session.track import Region, Track, TrackKind
from velmot.core.session.wording import parameter_name
from velmot.core.time.ticks import Floats, Tick
from velmot.sound.nodes import GAIN, Node
from velmot.sound.ramps import CURVE, LINE, Ramps, factors, of_envelope
from velmot.sound.stand_ins import stood_for
from velmot.sound.stand_ins.values import Values

FADE = 0.005
"""Seconds in which a region's sound comes and goes, so that nothing clicks."""

LEVEL_ERROR, PAN_ERROR = 0.01, 0.002
"""How far a piece of a curve may be off: decibels, and of −1 to 1."""

EXPRESSION = "cc 11"


@dataclass(frozen=True)
class Piece:
    """A part of a sound: it begins at `start`, `length` seconds long, from `offset` seconds into the take on."""

    sound: Sound
    take: str
    start: float
    length: float
    offset: float
    fades: bool

    @property
    def end(self) -> float:
        return self.start + self.length


@dataclass(frozen=True)
class Moved:
    """What a parameter does: a factor of a level, a send or a mute, or a place from −1 to 1 of a pan."""

    parameter: str
    ramps: Ramps


@dataclass(frozen=True)
class Send:
    """What of a channel goes to a bus: a factor after its level, mute and pan."""

    bus: str
    gain: Moved


@dataclass(frozen=True)
class Channel:
    """A track on its way to the master: pieces, then nodes, then its level (with mute and groups), then its place.

    `pan` is one place from −1 to 1 for all, or one for each side. `unheard` names what has no stand-in.
    """

    id: str
    name: str
    pieces: tuple[Piece, ...]
    nodes: tuple[Node, ...]
    gains: tuple[Moved, ...]
    pan: tuple[Moved, ...]
    sends: tuple[Send, ...]
    unheard: tuple[str, ...]

    @property
    def is_bus(self) -> bool:
        return not self.pieces


@dataclass(frozen=True)
class Score:
    """Everything that sounds from `start` to `end` seconds; every channel stands before the buses it feeds.

    `circles` names sends that would feed a bus back into itself, and are left out; `missing` files that are not there,
    and for which a stand-in sounds.
    """

    start: float
    end: float
    channels: tuple[Channel, ...]
    circles: tuple[str, ...] = ()
    missing: tuple[str, ...] = ()


def score_of(
    session: Session,
    start: int,
    end: int,
    tracks: frozenset[str] | None = None,
    is_there: Callable[[Audio], bool] = lambda audio: True,
) -> Score:
    """The score of a span of ticks, of all tracks or of some with the buses they reach.

    Parameters do what is heard of them (`core/session/heard.py`); a group's mute silences its members.
    """
    order, circles = _in_order(session)
    wanted = _reached(session, tracks)
    maker = _Maker(session, start, end, {id for id, _ in circles}, is_there)
    channels = tuple(maker.channel(track) for track in order if wanted is None or track.id in wanted)
    first, last = session.tempo.seconds(np.array([start, end])).tolist()
    said = tuple(parameter_name(session, id) for id, _ in circles)
    return Score(first, last, channels, said, tuple(dict.fromkeys(maker.missing)))


def pieces_of(session: Session, track: Track, is_there: Callable[[Audio], bool]) -> tuple[Piece, ...]:
    """What of a track sounds over the whole session, before anything is done to it."""
    return tuple(_Maker(session, 0, session.length, set(), is_there)._pieces(track))


def sounding(session: Session) -> list[Track]:
    """The tracks that are on the path at all: groups are faders, and no sound goes through them."""
    return [t for t in session.tracks if t.kind is not TrackKind.GROUP]


def _sends(session: Session, track: Track) -> Iterator[tuple[Parameter, Track]]:
    for p in track.parameters:
        if p.family is Family.SEND and p.target is not None and p.target != track.id:
            target = session.track(p.target)
            if target.kind is not TrackKind.GROUP:
                yield p, target


def _in_order(session: Session) -> tuple[list[Track], list[tuple[str, str]]]:
    """The tracks so that each stands before those it feeds, and the sends that would close a circle: (parameter, track)."""
    order: list[Track] = []
    state: dict[str, int] = {}
    circles: list[tuple[str, str]] = []
    for root in sounding(session):
        todo: list[tuple[Track, Iterator[tuple[Parameter, Track]]]] = []
        if root.id not in state:
            state[root.id] = 1
            todo.append((root, _sends(session, root)))
        while todo:
            track, sends = todo[-1]
            for p, target in sends:
                if state.get(target.id) == 1:
                    circles.append((p.id, track.id))
                elif target.id not in state:
                    state[target.id] = 1
                    todo.append((target, _sends(session, target)))
                    break
            else:
                state[track.id] = 2
                order.append(track)
                todo.pop()
    return order[::-1], circles


def _reached(session: Session, tracks: frozenset[str] | None) -> set[str] | None:
    """Some tracks with every bus that hears them."""
    if tracks is None:
        return None
    found, todo = set[str](), [session.track(id) for id in tracks]
    while todo:
        track = todo.pop()
        if track.id not in found:
            found.add(track.id)
            todo += [target for _, target in _sends(session, track)]
    return found


@dataclass(frozen=True)
class _Maker:
    """Makes the channels of one span of one session."""

    session: Session
    start: int
    end: int
    left_out: set[str]
    is_there: Callable[[Audio], bool] = lambda audio: True
    missing: list[str] = field(default_factory=list)

    def channel(self, track: Track) -> Channel:
        nodes, unheard = self._nodes(track)
        return Channel(
            track.id,
            track.name,
            tuple(self._pieces(track)),
            tuple(nodes),
            tuple(self._gains(track)),
            self._pans(track),
            tuple(self._feeds(track)),
            tuple(unheard),
        )

    # ── what sounds ───────────────────────────────────────────────────────────────────────────

    def _pieces(self, track: Track) -> Iterator[Piece]:
        if track.kind is TrackKind.BUS:
            return
        sound = self._present(track, sound_of(self.session, track))
        if sound.kind == NOTHING:
            return
        regions = [r for r in track.regions if not r.container]
        if sound.kind == FILE:
            yield from self._laid(track, sound)
        if sound.all_along or not regions:
            if sound.kind != FILE:
                yield self._piece(sound, track.id, 0, self.session.length, 0.0, fades=False)
            regions = [r for r in regions if any(clip.sound for clip in r.sound)]
        yield from self._of_regions(track, sound, regions)

    def _present(self, track: Track, sound: Sound) -> Sound:
        """The sound, or a stand-in where its file is not there."""
        if sound.audio is None or self.is_there(sound.audio):
            return sound
        self.missing.append(sound.audio.name)
        return usual(track.name, self.session.track_order(track.id))

    def _laid(self, track: Track, sound: Sound) -> Iterator[Piece]:
        if sound.start < self.session.length:
            yield self._piece(sound, track.id, sound.start, self.session.length, sound.offset, fades=False)

    def _of_regions(self, track: Track, sound: Sound, regions: list[Region]) -> Iterator[Piece]:
        """Of regions that overlap the one on top is heard; muted ones are silent."""
        heard_ones = sorted((r for r in regions if not r.muted), key=lambda r: r.start)
        for a, b, index in topmost([(r.start, r.end) for r in heard_ones]):
            region = heard_ones[index]
            for clip in clips_of(self.session, track, region):
                own = self._present(track, clip.sound) if clip.sound else sound
                yield from self._of_clip(region, clip, own, a, b)

    def _of_clip(self, region: Region, clip: Excerpt, sound: Sound, start: int, end: int) -> Iterator[Piece]:
        first = region.start + clip.at
        a, b = max(first, start), min(first + clip.length, end, self.session.length)
        if a < b:
            offset = clip.offset + self._seconds(first, a)
            yield self._piece(sound, clip.take, a, b, offset, fades=True)

    def _piece(self, sound: Sound, take: str, start: int, end: int, offset: float, fades: bool) -> Piece:
        at = float(self.session.tempo.seconds(start))
        return Piece(sound, take, at, self._seconds(start, end), offset, fades)

    def _seconds(self, start: int, end: int) -> float:
        a, b = self.session.tempo.seconds(np.array([start, end])).tolist()
        return float(b - a)

    # ── what it passes through ────────────────────────────────────────────────────────────────

    def _heard(self, id: str) -> Envelope:
        return heard(self.session, id).envelope

    def _nodes(self, track: Track) -> tuple[list[Node], list[str]]:
        values = Values(self._heard, self.session.tempo, self.start, self.end)
        nodes, unheard = list[Node](), list[str]()
        for device in track.devices:
            own = tuple(p for p in track.parameters if p.device == device.id)
            stood = stood_for(device, own, values)
            nodes += stood.nodes
            unheard += [p.id for p in stood.unheard if p.kind is not Kind.SWITCH or len(stood.unheard) == len(own)]
        loose = (p for p in track.parameters if p.family is Family.DEVICE and track.device_of(p) is None)
        for p in loose:
            if p.controller == EXPRESSION:
                nodes.append(Node(GAIN, {"gain": self._by_controller(p)}))
            else:
                unheard.append(p.id)
        return nodes, unheard

    def _gains(self, track: Track) -> Iterator[Moved]:
        """Levels (with all groups above), and mutes: its own, and those of its groups."""
        for p in track.parameters:
            if p.family is Family.LEVEL:
                yield Moved(p.id, self._by_controller(p) if p.unit == "cc" else self._level(p.id))
            elif p.family is Family.MUTE:
                yield Moved(p.id, self._muted(p))
        for group in groups_above(self.session, track.id):
            for p in group.parameters:
                if p.family is Family.MUTE:
                    yield Moved(p.id, self._muted(p))

    def _level(self, id: str) -> Ramps:
        return factors(self._ramps(id, lambda v: np.maximum(v, SILENCE), LEVEL_ERROR, CURVE))

    def _by_controller(self, p: Parameter) -> Ramps:
        """40·log10(v/127) dB, as General MIDI 2 recommends for volume and expression."""
        full = p.high

        def decibels(values: Floats) -> Floats:
            with np.errstate(divide="ignore"):
                return np.asarray(np.maximum(40 * np.log10(np.maximum(values, 0) / full), SILENCE))

        return factors(self._ramps(p.id, decibels, LEVEL_ERROR, CURVE, straight=False))

    def _muted(self, p: Parameter) -> Ramps:
        upper = max((label.value for label in p.labels), default=p.high)
        return self._ramps(p.id, lambda v: (np.asarray(v) < upper).astype(np.float64), 1.0, jumps=False)

    def _pans(self, track: Track) -> tuple[Moved, ...]:
        pans = [p for p in track.parameters if p.family is Family.PAN]
        sides = [next((p for p in pans if word in p.name.lower().split()), None) for word in ("left", "right")]
        if len(pans) > 1 and sides[0] and sides[1]:
            return tuple(Moved(p.id, self._place(p)) for p in sides if p)
        return (Moved(pans[0].id, self._place(pans[0])) if pans else Moved("", Ramps.still(0.0)),)

    def _place(self, p: Parameter) -> Ramps:
        """From −1 to 1 over its range; what came from MIDI has its middle at 64."""
        if p.unit == "cc":
            middle = (p.high + 1) // 2
            return self._ramps(p.id, lambda v: np.clip((np.asarray(v) - middle) / (p.high - middle), -1, 1), PAN_ERROR)
        return self._ramps(p.id, lambda v: np.clip(p.position(v) * 2 - 1, -1, 1), PAN_ERROR)

    def _feeds(self, track: Track) -> Iterator[Send]:
        for p, target in _sends(self.session, track):
            if p.id not in self.left_out:
                yield Send(target.id, Moved(p.id, self._by_controller(p) if p.unit == "cc" else self._level(p.id)))

    def _ramps(
        self,
        id: str,
        to: Callable[[Floats], Floats],
        tolerance: float,
        way: int = LINE,
        straight: bool = True,
        jumps: bool = True,
    ) -> Ramps:
        tempo, curve = self.session.tempo, self._heard(id)
        return of_envelope(curve, tempo, self.start, self.end, to, way, straight, tolerance, jumps)


def tick_span(session: Session, start: float, end: float) -> tuple[Tick, Tick]:
    """The ticks about a span of seconds, inside the session."""
    last = session.length
    a, b = (min(max(session.tempo.tick_at(s), Tick(0)), Tick(last)) for s in (start, end))
    return a, b
