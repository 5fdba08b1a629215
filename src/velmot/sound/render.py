"""Rendering: the graph of a score as samples, block by block, in float64."""

from __future__ import annotations

from collections.abc import Callable, Iterable, Iterator
from concurrent.futures import Executor, ThreadPoolExecutor
from dataclasses import dataclass, field
from functools import lru_cache

import numpy as np

from velmot.core.progress import come
from velmot.core.time.ticks import Floats
from velmot.sound.filters import Filter
from velmot.sound.library import Library
from velmot.sound.nodes import DELAY, DRIVE, FILTER, GAIN, HALL, Node
from velmot.sound.path import FADE, Channel, Piece, Score
from velmot.sound.ramps import Ramps
from velmot.sound.scientific import fast_size, samples_of, spectrum
from velmot.sound.stand_ins.delay import LONGEST
from velmot.sound.stand_ins.hall import impulse

RATE = 48_000
_QUIET = 1e-9
_AT_ONCE = 2
BLOCK = 8.0
"""Seconds that are rendered at once: many enough for speed, few enough for memory."""


@dataclass(frozen=True)
class Block:
    """Some frames of everything: the master, and what each channel sends it; shape (frames, 2)."""

    start: float
    master: Floats
    channels: dict[str, Floats]


def blocks(score: Score, library: Library, rate: int = RATE, block: float = BLOCK) -> Iterator[Block]:
    """The score from its start to its end. It tells how far it has come, and stops where that is no longer wanted."""
    running = [Strip(channel, library, rate) for channel in score.channels]
    first, frames = round(score.start * rate), round((score.end - score.start) * rate)
    with ThreadPoolExecutor(_AT_ONCE) as workers:
        for at in range(0, frames, round(block * rate)):
            count = min(round(block * rate), frames - at)
            come(at / max(frames, 1))
            yield _block(running, first + at, count, rate, workers)


def _block(running: list[Strip], start: int, frames: int, rate: int, workers: Executor) -> Block:
    """What is fed by nothing is rendered side by side, then the buses in their order."""
    buses: dict[str, Floats] = {}
    master, each = np.zeros((frames, 2)), dict[str, Floats]()
    times = (start + np.arange(frames)) / rate
    fed_by = {send.bus for strip in running for send in strip.channel.sends}
    free = [strip for strip in running if strip.channel.id not in fed_by]
    early = dict(zip([s.channel.id for s in free], workers.map(lambda s: s.run(start, times, None), free), strict=True))
    for strip in running:
        id = strip.channel.id
        out = early[id] if id in early else strip.run(start, times, buses.pop(id, None))
        if out is None:
            continue
        each[id] = out
        master += out
        for send in strip.channel.sends:
            fed = multiplied(out, send.gain.ramps, times)
            buses[send.bus] = buses[send.bus] + fed if send.bus in buses else fed
    return Block(start / rate, master, each)


def multiplied(body: Floats, by: Ramps, times: Floats) -> Floats:
    """Samples, (frames, sides), by a factor that may move."""
    factor = by.over(times)
    return np.asarray(body * (factor if isinstance(factor, float) else factor[:, None]))


def rendered(score: Score, library: Library, rate: int = RATE) -> Floats:
    """The master of a whole score, shape (frames, 2)."""
    made = [block.master for block in blocks(score, library, rate)]
    return np.concatenate(made) if made else np.zeros((0, 2))


@dataclass
class Strip:
    """One channel that goes on from block to block."""

    channel: Channel
    library: Library
    rate: int
    passes: list[Passing] = field(init=False)

    def __post_init__(self) -> None:
        self.passes = [Passing(node, self.rate) for node in self.channel.nodes]

    def run(self, start: int, times: Floats, fed: Floats | None) -> Floats | None:
        """Its samples at the master, (frames, 2); None where it is silent. A bus takes what was `fed` to it."""
        body = self._source(start, times)
        if fed is not None:
            body = fed if body is None else _two_sided(body) + fed
        if body is None:
            if all(passing.quiet for passing in self.passes):
                return None
            body = np.zeros((len(times), 2 if self.channel.is_bus else 1))
        for passing in self.passes:
            body = passing.run(body, times)
        for gain in self.channel.gains:
            body = multiplied(body, gain.ramps, times)
        return placed(body, tuple(pan.ramps for pan in self.channel.pan), times)

    def _source(self, start: int, times: Floats) -> Floats | None:
        """What sounds of itself: (frames, 1), or (frames, 2) where some of it has two sides; None where nothing does."""
        return laid(self.channel.pieces, self.library, self.rate, start, len(times))


def laid(pieces: Iterable[Piece], library: Library, rate: int, start: int, frames: int) -> Floats | None:
    """Pieces over each other, from a frame on: (frames, 1), or (frames, 2) where some have two sides; None where none is."""
    out = None
    for piece in pieces:
        a = max(round(piece.start * rate), start)
        b = min(round(piece.end * rate), start + frames)
        if a >= b:
            continue
        offset = round((piece.offset - piece.start) * rate)
        samples = library.samples(piece.sound, piece.take, rate, max(a + offset, 0), b - a)
        samples = samples[:, None] if samples.ndim == 1 else samples
        if piece.fades:
            samples = samples * faded(piece, np.arange(a, b) / rate)[:, None]
        out = np.zeros((frames, samples.shape[1])) if out is None else out
        if samples.shape[1] == 2 and out.shape[1] == 1:
            out = _two_sided(out)
        out[a - start : b - start] += samples
    return out


def faded(piece: Piece, times: Floats) -> Floats:
    """A region's sound comes and goes within 5 ms."""
    fade = min(FADE, piece.length / 2)
    return np.asarray(np.clip(np.minimum(times - piece.start, piece.end - times) / fade, 0, 1))


def _two_sided(samples: Floats) -> Floats:
    return samples if samples.shape[1] == 2 else np.repeat(samples, 2, axis=1)


def placed(body: Floats, pan: tuple[Ramps, ...], times: Floats) -> Floats:
    """By equal power, as the W3C's Web Audio recommendation places one side or two; with two places each side has its own."""
    if len(pan) == 2:
        sides = _two_sided(body)
        return _one(sides[:, :1], pan[0].over(times)) + _one(sides[:, 1:], pan[1].over(times))
    at = pan[0].over(times)
    return _one(body, at) if body.shape[1] == 1 else _both(body, at)


def _one(mono: Floats, at: Floats | float) -> Floats:
    angle = (np.asarray(at) + 1) * (np.pi / 4)
    out = np.empty((len(mono), 2))
    np.multiply(mono[:, 0], np.cos(angle), out=out[:, 0])
    np.multiply(mono[:, 0], np.sin(angle), out=out[:, 1])
    return out


def _both(body: Floats, at: Floats | float) -> Floats:
    if isinstance(at, float) and at == 0:
        return body
    left, right, place = body[:, 0], body[:, 1], np.asarray(at)
    angle = np.where(place <= 0, place + 1, place) * (np.pi / 2)
    near, far = np.cos(angle), np.sin(angle)
    to_left = np.where(place <= 0, left + right * near, left * near)
    to_right = np.where(place <= 0, right * far, right + left * far)
    return np.column_stack((to_left, to_right))


class Passing:
    """One node that goes on from block to block."""

    def __init__(self, node: Node, rate: int) -> None:
        self.node, self.rate = node, rate
        self.run_node: Callable[[Floats, Floats], Floats] = {
            GAIN: self._gain,
            FILTER: self._filter,
            DRIVE: self._drive,
            DELAY: self._delay,
            HALL: self._hall,
        }[node.kind]
        self.filter: Filter | None = None
        self.line = np.zeros((round(LONGEST * rate) + 1, 0))
        self.tails: dict[int, Floats] = {}

    def run(self, body: Floats, times: Floats) -> Floats:
        """Pass a block, (frames, sides), through the node, or beside it where it is switched off."""
        body = _two_sided(body) if self.node.kind == HALL else body
        made = self.run_node(body, times)
        if self.node.on is None:
            return made
        on = self.node.on.over(times)
        if isinstance(on, float):
            return made if on == 1 else body + (made - body) * on
        return np.asarray(body + (made - body) * on[:, None])

    @property
    def quiet(self) -> bool:
        """Whether nothing more comes out of it when nothing goes in."""
        return (self.filter is None or self.filter.quiet) and not self.line.any() and not self.tails

    def _at(self, name: str, times: Floats) -> Floats:
        return self.node.ramps[name].at(times)

    def _gain(self, body: Floats, times: Floats) -> Floats:
        return multiplied(body, self.node.ramps["gain"], times)

    def _filter(self, body: Floats, times: Floats) -> Floats:
        if self.filter is None or self.filter.state.shape[1] != body.shape[1]:
            self.filter = Filter(self.node.word, self.rate, body.shape[1])
        gain = self.node.ramps["gain"].over(times) if "gain" in self.node.ramps else 0.0
        return self.filter.run(body, self.node.ramps["frequency"].over(times), self.node.says.get("q", 1.0), gain)

    def _drive(self, body: Floats, times: Floats) -> Floats:
        pre, post = self._at("pre", times)[:, None], self._at("post", times)[:, None]
        return np.asarray(np.tanh(pre * body) * post)

    def _delay(self, body: Floats, times: Floats) -> Floats:
        """In runs no longer than the delay, so that a run never needs what it has yet to make."""
        if self.line.shape[1] != body.shape[1]:
            self.line = np.zeros((len(self.line), body.shape[1]))
        time, back, wet = (self._at(name, times) for name in ("time", "feedback", "wet"))
        frames, kept = len(body), len(self.line)
        line = np.concatenate([self.line, np.zeros_like(body)])
        late = np.clip(time * self.rate, 1, kept - 1)
        out = np.empty_like(body)
        a = 0
        while a < frames:
            b = min(a + max(int(late[a : a + kept].min()) - 1, 1), frames)
            place = kept + np.arange(a, b) - late[a:b]
            whole = np.floor(place).astype(np.int64)
            part = (place - whole)[:, None]
            came = line[whole] * (1 - part) + line[whole + 1] * part
            line[kept + a : kept + b] = body[a:b] + came * back[a:b, None]
            out[a:b] = body[a:b] + came * wet[a:b, None]
            a = b
        self.line = line[-kept:]
        return out

    def _hall(self, body: Floats, times: Floats) -> Floats:
        out = multiplied(body, self.node.ramps["dry"], times)
        wet = multiplied(body, self.node.ramps["wet"], times)
        for name, ramp in self.node.ramps.items():
            if name.startswith("decay "):
                share = ramp.over(times)
                if not isinstance(share, float) or share:
                    self._ring(int(name[6:]), multiplied(wet, ramp, times))
        frames = len(body)
        for i, tail in [*self.tails.items()]:
            out[: len(tail)] += tail[:frames]
            left = tail[frames:]
            if len(left) and np.abs(left).max() > _QUIET:
                self.tails[i] = left
            else:
                del self.tails[i]
        return out

    def _ring(self, i: int, sides: Floats) -> None:
        """Lay what comes through an impulse over what still rings of it."""
        through, long = _room(i, self.rate, len(sides))
        frames = len(sides) + long - 1
        made = samples_of(spectrum(sides.astype(np.float32), 2 * len(through) - 2) * through)[:frames]
        tail = self.tails.get(i)
        longer, shorter = (made, tail) if tail is None or len(tail) <= len(made) else (tail, made)
        if shorter is not None:
            longer[: len(shorter)] += shorter
        self.tails[i] = longer


@lru_cache(maxsize=8)
def _room(i: int, rate: int, frames: int) -> tuple[np.ndarray, int]:
    """The spectrum of an impulse for blocks of so many frames, and its own length."""
    room = impulse(i, rate).astype(np.float32)
    return spectrum(room, fast_size(frames + len(room) - 1)), len(room)
