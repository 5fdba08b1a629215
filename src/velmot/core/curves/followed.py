"""Following: what a level, or any value over time, makes of a parameter, frame by frame.

A frame is a short, even step of time; what is said of one holds for all of it. Smoothing is one pole (y ← x + (y − x)·e^(−t/τ):
after τ 63.2 % of the way is gone; J. O. Smith, Introduction to Digital Filters), with a time of its own each way. What
takes no time jumps at the frame's start.
"""

from __future__ import annotations

import math
from typing import NamedTuple

import numpy as np

from velmot.core.curves.axes import Axis
from velmot.core.curves.envelope import Envelope
from velmot.core.curves.within_bound import thinned_within
from velmot.core.time.ticks import Flags, Floats, Ticks

SILENT = -120.0
"""Decibels below which a level is none."""

_SHARE = 0.2
"""Which part of a bound is spent on leaving out frames that lie on lines, before the fewest points are sought."""

_BLOCKS = (256, 128, 64, 32, 16, 8, 4, 2)


class Frames(NamedTuple):
    """Values of frames that follow each other: the first begins at `first` seconds, each takes `step`."""

    first: float
    step: float
    values: Floats

    @property
    def borders(self) -> Floats:
        """Where frames begin and the last ends, in seconds."""
        return np.asarray(self.first + self.step * np.arange(len(self.values) + 1), dtype=np.float64)


class Run(NamedTuple):
    """What is made of frames: the value at each frame's start and at its end, straight between."""

    starts: Floats
    ends: Floats


def smoothed(values: Floats, step: float, attack: float, release: float, hold: float = 0.0) -> Run:
    """One pole with times (seconds) for rising and falling; a fall begins only after `hold` seconds. It begins settled."""
    if not len(values):
        return Run(values, values)
    rise, fall = (math.exp(-step / time) if time > 0 else 0.0 for time in (attack, release))
    frames, left = round(hold / step), 0
    now = float(values[0])
    ends = []
    for value in values.tolist():
        if value >= now:
            now = value + (now - value) * rise
            left = frames
        elif left > 0:
            left -= 1
        else:
            now = value + (now - value) * fall
        ends.append(now)
    made = np.array(ends)
    before = np.concatenate((values[:1], made[:-1]))
    at_once = ((made > before) & (rise == 0)) | ((made < before) & (fall == 0))
    return Run(np.where(at_once, made, before), made)


def in_part(values: Floats, low: float, high: float) -> Floats:
    """Where values lie between two of them, 0 to 1, and no further."""
    return np.clip((values - low) / (high - low), 0.0, 1.0)


def reduction(level: Floats, threshold: float, depth: float, ratio: float | None, knee: float = 0.0) -> Floats:
    """By how many dB a level above a threshold takes something down, 0 to `depth` (above 0).

    Without a ratio all of the depth as soon as it is above. With one (1 − 1/ratio) of what is above it, through a knee of
    so many dB; Giannoulis, Massberg and Reiss, Digital dynamic range compressor design (J. AES 60/6, 2012), eq. 4.
    """
    above = level - threshold
    if ratio is None:
        return np.where(above > 0, depth, 0.0)
    slope = 1 - 1 / ratio
    hard = np.maximum(above, 0.0) * slope
    if knee <= 0:
        return np.minimum(hard, depth)
    soft = slope * (above + knee / 2) ** 2 / (2 * knee)
    return np.minimum(np.where(np.abs(above) <= knee / 2, soft, hard), depth)


def opened(level: Floats, step: float, threshold: float, hysteresis: float, least: float) -> Flags:
    """Whether it is open: from above the threshold until below it by the hysteresis, each for the least time at least."""
    shut = threshold - hysteresis
    frames, stays = round(least / step), 0
    now, out = bool(len(level) and level[0] > threshold), []
    for value in level.tolist():
        wanted = value > threshold if not now else value >= shut
        if wanted != now and stays <= 0:
            now, stays = wanted, frames
        stays -= 1
        out.append(now)
    return np.array(out, dtype=bool)


def evened(level: Floats, to: float, band: float, most: float, threshold: float) -> Floats:
    """The gain in dB that brings a level to another, by `most` either way; none below the threshold, or within the band.

    From the band's edge on it grows by 2 dB a decibel, so that from twice the band on the level comes to lie on the target
    itself: what is beyond the band ends inside of it, and not on its edge, where all that moves would be out of it again.
    """
    off = to - level
    far = np.abs(off)
    beyond = np.sign(off) * np.minimum(far, 2 * np.maximum(far - band, 0.0))
    return np.where(level < threshold, 0.0, np.clip(beyond, -most, most))


def no_faster(values: Floats, step: float, slope: float) -> Run:
    """Values that move by no more than `slope` a second."""
    most, now, ends = slope * step, float(values[0]), []
    for value in values.tolist():
        now += min(max(value - now, -most), most)
        ends.append(now)
    made = np.array(ends)
    return Run(np.concatenate((values[:1], made[:-1])), made)


def curve_through(ticks: Ticks, run: Run, axis: Axis) -> Envelope:
    """The curve of what is made of frames, whose borders lie at some ticks: straight in each, a jump where one begins anew.

    Values are axis coordinates.
    """
    starts, ends = run
    jumps = np.concatenate(([False], starts[1:] != ends[:-1], [False]))
    at = np.repeat(np.arange(len(ticks)), 1 + jumps)
    second = np.concatenate(([False], at[1:] == at[:-1]))
    lefts, rights = np.concatenate((starts[:1], ends)), np.concatenate((starts, ends[-1:]))
    first = np.concatenate((second[1:], [False]))  # of two at a border
    places = np.where(first, lefts[at], rights[at])
    apart = _rising(ticks[at])
    return Envelope(ticks[at][apart], axis.value_of(places[apart]), np.zeros(int(apart.sum())), axis)


def _rising(ticks: Ticks) -> Flags:
    """Which points stay, so that no more than two share a tick: the first and the last of them."""
    inner = np.concatenate(([False], (ticks[1:-1] == ticks[:-2]) & (ticks[1:-1] == ticks[2:]), [False]))
    return ~inner if len(ticks) > 2 else np.ones(len(ticks), dtype=bool)


def fewest(curve: Envelope, bound: float, reach: tuple[float, float]) -> Envelope:
    """A curve of very many frames in the fewest straight lines within a bound (`within_bound.py`).

    What lies on lines within a small part of it is left out first, block by block, as it is nearly all there is.
    """
    near = _without_what_is_straight(curve, bound * _SHARE)
    return thinned_within(near, bound * (1 - _SHARE), None, reach)


def _without_what_is_straight(curve: Envelope, tolerance: float) -> Envelope:
    """A curve without the points of blocks whose chord passes them all within a tolerance; jumps stay."""
    ticks, y = curve.ticks, curve.coordinates
    stays = np.ones(len(ticks), dtype=bool)
    jump = np.zeros(len(ticks), dtype=bool)
    same = ticks[1:] == ticks[:-1]
    jump[:-1] |= same
    jump[1:] |= same
    done = np.zeros(len(ticks), dtype=bool)  # inside a larger block already
    for size in _BLOCKS:
        blocks = (len(ticks) - 1) // size
        if blocks < 1:
            continue
        rows = np.arange(blocks)[:, None] * size + np.arange(size + 1)
        able = ~jump[rows[:, 1:-1]].any(axis=1) & ~done[rows[:, 1]]
        if not able.any():
            continue
        rows = rows[able]
        x, values = ticks[rows], y[rows]
        part = (x - x[:, :1]) / np.maximum(x[:, -1:] - x[:, :1], 1)
        chord = values[:, :1] + (values[:, -1:] - values[:, :1]) * part
        straight = (np.abs(chord - values).max(axis=1) <= tolerance) & (x[:, -1] > x[:, 0])
        inner = rows[straight][:, 1:-1].ravel()
        stays[inner] = False
        done[rows[straight][:, 1:].ravel()] = True
    return Envelope(ticks[stays], curve.values[stays], curve.bends[stays], curve.axis)
