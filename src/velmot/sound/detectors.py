"""Detectors: how loud tracks are, millisecond by millisecond, as they stand in their regions or as they are heard.

Each measure is kept as what its frames add up to, so that another window costs no rendering: the highest sample of a peak,
the mean square of each side of a mean, the K-weighted power of loudness (ITU-R BS.1770-4, as in `loudness.py`).
"""

from __future__ import annotations

import pickle
from collections import OrderedDict
from collections.abc import Callable, Iterable, Iterator
from dataclasses import dataclass, field
from hashlib import sha256
from threading import Lock

import numpy as np

from velmot.core.curves.followed import SILENT, Frames
from velmot.core.progress import come
from velmot.core.session.session import Session
from velmot.core.session.sounds import FILE, Audio
from velmot.core.session.takes import sound_of
from velmot.core.time.ticks import Floats
from velmot.core.verbs.frame.sounding import Measure
from velmot.sound.library import Library
from velmot.sound.loudness import Weighting, window_means
from velmot.sound.path import Piece, Score, pieces_of, score_of
from velmot.sound.render import BLOCK, RATE, blocks, laid

PER_SECOND = 1000
_EACH = RATE // PER_SECOND
_LOUDNESS = {"momentary": 0.4, "short-term": 3.0}
_OFFSET = -0.691
_MOST_KEPT, _MOST_BYTES = 16, 250_000_000
_LONGEST_WHOLE = 3600.0
"""Seconds of a session that is worked out whole; of a longer one only what is asked for."""


@dataclass
class Detector:
    """Tells how loud tracks are; what was worked out is kept, the oldest of a few goes. `of` tells libraries apart, which are asked for
    only when something is rendered.
    """

    library: Callable[[], Library]
    is_there: Callable[[Audio], bool] = lambda audio: True
    of: str = ""
    kept: OrderedDict[str, Floats] = field(default_factory=OrderedDict)
    lock: Lock = field(default_factory=Lock)

    def levels(
        self,
        session: Session,
        tracks: tuple[str, ...],
        start: float,
        end: float,
        *,
        after_level: bool,
        measure: Measure,
        window: float,
        centred: bool,
    ) -> Frames:
        """See `core/verbs/frame/sounding.py`."""
        first, count = round(start * PER_SECOND), max(round((end - start) * PER_SECOND), 1)
        long = max(round(_LOUDNESS.get(measure, window) * PER_SECOND), 1)
        before = long // 2 if centred else long - 1
        after = long - 1 - before
        kind = "power" if measure in _LOUDNESS else measure
        sums = self._sums(session, tracks, first - before, count + before + after, after_level, kind)
        if measure == "peak":
            size = _highest(sums[:, 0], long)
            return Frames(first / PER_SECOND, 1 / PER_SECOND, _decibels(size, 20))
        means = window_means(sums, long)
        if kind == "power":
            with np.errstate(divide="ignore"):
                level = _OFFSET + 10 * np.log10(means.sum(axis=1))
            return Frames(first / PER_SECOND, 1 / PER_SECOND, np.maximum(level, SILENT))
        return Frames(first / PER_SECOND, 1 / PER_SECOND, _decibels(means.max(axis=1), 10))

    def missing(self, session: Session, tracks: tuple[str, ...]) -> tuple[str, ...]:
        """See `core/verbs/frame/sounding.py`."""
        sounds = [sound_of(session, session.track(id)) for id in tracks]
        sounds += [clip.sound for id in tracks for r in session.track(id).regions for clip in r.sound if clip.sound]
        files = [s.audio for s in sounds if s.kind == FILE and s.audio is not None]
        return tuple(dict.fromkeys(a.name for a in files if not self.is_there(a)))

    def _sums(
        self, session: Session, tracks: tuple[str, ...], first: int, count: int, after_level: bool, kind: str
    ) -> Floats:
        """What frames add up to, from one on, (count, columns); before the session begins there is nothing."""
        end = float(session.tempo.seconds(session.length))
        within = (0.0, end)
        if end > _LONGEST_WHOLE:
            within = (min(max(first / PER_SECOND, 0.0), end), min((first + count) / PER_SECOND, end))
        whole = self._whole(session, tracks, after_level, kind, within)
        first -= round(within[0] * PER_SECOND)
        a, b = max(first, 0), min(first + count, len(whole))
        out = np.zeros((count, whole.shape[1]))
        if a < b:
            out[a - first : b - first] = whole[a:b]
        return out

    def _whole(
        self, session: Session, tracks: tuple[str, ...], after_level: bool, kind: str, within: tuple[float, float]
    ) -> Floats:
        """The frames between two seconds, usually of the whole session, kept by all that they come of."""
        wanted = tuple(dict.fromkeys(tracks))
        if after_level:
            start, end = (int(session.tempo.tick_at(x)) for x in within)
            score = score_of(session, start, max(end, start + 1), frozenset(wanted), self.is_there)
            return self._kept((kind, wanted, score), kind, lambda: _as_heard(score, self.library(), wanted))
        pieces = [p for id in wanted for p in pieces_of(session, session.track(id), self.is_there)]
        said = (kind, pieces, round(within[0], 6), round(within[1], 6))
        return self._kept(said, kind, lambda: _as_they_stand(pieces, self.library(), *within))

    def _kept(self, said: object, kind: str, made: Callable[[], Iterator[Floats]]) -> Floats:
        key = sha256(pickle.dumps((self.of, said))).hexdigest()
        with self.lock:
            known = self.kept.get(key)
        if known is None:
            known = _framed(made(), kind)
            with self.lock:
                self.kept[key] = known
                while len(self.kept) > 1 and (len(self.kept) > _MOST_KEPT or self._bytes() > _MOST_BYTES):
                    self.kept.popitem(last=False)
        return known

    def _bytes(self) -> int:
        return sum(one.nbytes for one in self.kept.values())


def _as_heard(score: Score, library: Library, wanted: tuple[str, ...]) -> Iterator[Floats]:
    """What some channels send to the master, together, block by block, (frames, 2)."""
    for block in blocks(score, library):
        yield sum_of(block.channels, wanted, len(block.master))


def sum_of(channels: dict[str, Floats], wanted: tuple[str, ...], frames: int) -> Floats:
    """Some channels together, (frames, 2); those that are silent send nothing."""
    out = np.zeros((frames, 2))
    for id in wanted:
        if id in channels:
            out += channels[id]
    return out


def _as_they_stand(pieces: list[Piece], library: Library, start: float, end: float) -> Iterator[Floats]:
    """Pieces laid over each other between two seconds, block by block, (frames, 1) or (frames, 2)."""
    first, total, size = round(start * RATE), round(end * RATE), round(BLOCK * RATE)
    for at in range(first, total, size):
        count = min(size, total - at)
        come((at - first) / max(total - first, 1))
        out = laid(pieces, library, RATE, at, count)
        yield np.zeros((count, 1)) if out is None else out


def _framed(made: Iterable[Floats], kind: str) -> Floats:
    """What the frames of sound add up to: (frames, 1) of a peak, (frames, sides) of the others.

    All blocks but the last one are whole frames; what the last one lacks is silent.
    """
    weighting, rows = Weighting(RATE), list[Floats]()
    for samples in made:
        if kind == "power":
            both = samples if samples.shape[1] == 2 else np.repeat(samples, 2, axis=1) * np.sqrt(0.5)
            samples = weighting.take(both)
        samples = np.pad(samples, ((0, -len(samples) % _EACH), (0, 0)))
        frames = samples.reshape(-1, _EACH, samples.shape[1])
        rows.append(np.abs(frames).max(axis=(1, 2))[:, None] if kind == "peak" else (frames**2).mean(axis=1))
    sides = max((row.shape[1] for row in rows), default=1)
    wide = [row if row.shape[1] == sides else np.repeat(row, sides, axis=1) for row in rows]
    return np.concatenate(wide) if wide else np.zeros((0, 1))


def _highest(values: Floats, long: int) -> Floats:
    """The highest of every window of so many values: runs of that length, led on from both sides (van Herk 1992)."""
    if long <= 1:
        return values
    count = len(values) - long + 1
    padded = np.concatenate((values, np.zeros(-len(values) % long)))
    rows = padded.reshape(-1, long)
    onward = np.maximum.accumulate(rows, axis=1).ravel()
    back = np.maximum.accumulate(rows[:, ::-1], axis=1)[:, ::-1].ravel()
    return np.maximum(back[:count], onward[long - 1 : long - 1 + count])


def _decibels(size: Floats, by: float) -> Floats:
    with np.errstate(divide="ignore"):
        return np.maximum(by * np.log10(size), SILENT)
