"""Thinning: the fewest points of straight lines that stay within a bound of a curve at every moment.

A curve falls into runs between what stays: holds, jumps larger than twice the bound, silence, protected ticks. Each run is
led through a tube (`core/curves/tube.py`), for which bends are laid finely in lines first. The tube is narrower only where it has to
be: by what laying them cost, and beside steep places by what putting a point on a whole tick may cost there. The result is
checked exactly over the points of both curves and where they are furthest apart between them; where it is too far, and
nowhere else, the run ends.
"""

from __future__ import annotations

import math
from itertools import pairwise
from typing import NamedTuple

import numpy as np

from velmot.core.curves.difference import ROUNDING, differing_runs
from velmot.core.curves.envelope import Envelope
from velmot.core.curves.lossless import without_loss
from velmot.core.curves.segments import STRAIGHT
from velmot.core.curves.sums import in_lines
from velmot.core.curves.tube import fewest_through
from velmot.core.progress import part
from velmot.core.time.ticks import Flags, Floats, Ticks, among, merged

_FLAT = 1 / 32
"""What part of the bound laying a bend in lines may take before the fewest are sought."""

_HAIR = 1e-9
"""By what part the tube is narrower than the bound, for rounding."""

_ROUNDED = 1e-3
"""What part of the bound putting points on whole ticks may take everywhere; beside steep places it takes what it needs."""

_LEAST = 0.03
"""What part of the bound is left of the tube at least, however steep it is there."""

_TRIES = 12
"""How often a run is parted where it came too far away, before what is left of it stays as it is."""

_BEFORE = 0.2
"""Which part of the work it is to take what says nothing, before lines are sought."""


class Run(NamedTuple):
    """Points of a curve that are thinned together: ticks, coordinates, bends, and how far each segment may be from itself."""

    ticks: Ticks
    y: Floats
    bends: Floats
    within: Floats

    def part(self, first: int, last: int) -> Run:
        """From one of its points to another."""
        end = last + 1
        return Run(self.ticks[first:end], self.y[first:end], self.bends[first:end], self.within[first:last])


Reach = tuple[float, float]
Path = tuple[Ticks, Floats]
"""(ticks, coordinates) of a curve of straight lines."""

ANYWHERE: Reach = (-math.inf, math.inf)


def thinned_within(
    curve: Envelope,
    tolerance: float,
    keep: Ticks | None = None,
    reach: Reach = ANYWHERE,
    spent: Floats | None = None,
) -> Envelope:
    """The curve in the fewest straight lines within `tolerance` axis units of it; a run that has fewer points stays.

    New points need not be old ones; none passes `reach`, the coordinates of what the parameter can be, and none becomes
    silent. `spent`, float64 (n − 1,), is how much of the tolerance earlier thinning has taken of each segment; where all of
    it is spent the curve stays.
    """
    if curve.axis.floor is not None:  # where nothing was silent nothing may become so
        reach = (max(reach[0], float(np.nextafter(curve.axis.floor, 0.0))), reach[1])
    with part(0.0, _BEFORE):
        bare = without_loss(curve, keep=_known(curve, keep, spent))
    if len(bare) < 3 or tolerance <= 0:
        return bare
    curve, within = bare, _within(curve, bare, tolerance, spent)
    edges = np.flatnonzero(_stays(curve, within, keep))
    parts: list[tuple[Ticks, Floats, Floats]] = []
    for a, b in pairwise(edges.tolist()):
        run = Run(curve.ticks[a : b + 1], curve.coordinates[a : b + 1], curve.bends[a : b + 1], within[a:b])
        with part(*(_BEFORE + (1 - _BEFORE) * i / len(curve) for i in (a, b))):
            made = _thinned_run(run, reach) if b - a > 1 and _glides(run) else None
        if made is None:
            parts.append((curve.ticks[a:b], curve.values[a:b], curve.bends[a:b]))
        else:
            ticks, y, bends = made
            values = curve.axis.value_of(y)
            values[0] = curve.values[a]
            parts.append((ticks[:-1], values[:-1], bends[:-1]))
    parts.append((curve.ticks[-1:], curve.values[-1:], curve.bends[-1:]))
    ticks, values, bends = (np.concatenate(column) for column in zip(*parts, strict=True))
    return Envelope(ticks, values, bends, curve.axis)


def no_fewer(curve: Envelope, tolerance: float, keep: Ticks | None = None) -> bool:
    """Whether it is known that no curve of straight lines within the tolerance has fewer points, with its ends, its jumps
    and what is protected where they are; only lines are compared, and every tick counts as a place for a point.
    """
    if np.abs(curve.bends[np.isfinite(curve.bends)]).max(initial=0.0) >= STRAIGHT:
        return False
    within = np.full(len(curve) - 1, tolerance)
    edges = np.flatnonzero(_stays(curve, within, keep)).tolist()
    least = 1
    for a, b in pairwise(edges):
        run = Run(
            curve.ticks[a : b + 1], curve.coordinates[a : b + 1], curve.bends[a : b + 1], within[a:b] * (1 + _HAIR)
        )
        still = b - a == 1 or not _glides(run)
        least += b - a if still else len(fewest_through(_columns(run, run.within, ANYWHERE, narrow=False)))
    return least >= len(curve)


def _known(curve: Envelope, keep: Ticks | None, spent: Floats | None) -> Ticks | None:
    """The ticks at which points stay whatever they say: those that are protected, and where thinning was before."""
    if spent is None or not spent.any():
        return keep
    known = np.append(spent > 0, False) | np.append(False, spent > 0)
    return curve.ticks[known] if keep is None else np.union1d(curve.ticks[known], keep)


def _within(before: Envelope, after: Envelope, tolerance: float, spent: Floats | None) -> Floats:
    """How far each segment may still be moved, of a curve whose points that say nothing are gone."""
    if spent is None:
        return np.full(len(after) - 1, tolerance)
    first = np.searchsorted(before.ticks, after.ticks[:-1], side="right") - 1
    taken = np.maximum.reduceat(np.append(spent, 0.0), np.minimum(first, len(spent)))
    left = np.maximum(tolerance - taken, 0.0)
    return np.where(left < tolerance * _HAIR, 0.0, left)


def _stays(curve: Envelope, within: Floats, keep: Ticks | None) -> Flags:
    """Which points stand at the ends of runs: the ends, holds, large jumps, silence, and what is protected or spent."""
    stays = np.zeros(len(curve), dtype=bool)
    stays[[0, -1]] = True
    held = np.isposinf(curve.bends[:-1]) | (within <= 0)
    stays[:-1] |= held
    stays[1:] |= held
    beside = np.minimum(np.append(within[1:], np.inf), np.append(np.inf, within[:-1]))
    large = (curve.ticks[1:] == curve.ticks[:-1]) & (
        np.abs(np.diff(curve.coordinates)) > 2 * np.minimum(beside, within)
    )
    stays[:-1] |= large
    stays[1:] |= large
    stays |= curve.axis.silent(curve.values)
    if keep is not None and len(keep):
        stays |= among(curve.ticks, keep)
    return stays


def _glides(run: Run) -> bool:
    """Whether a run is one of lines and bends, with time in it."""
    return bool(np.isfinite(run.bends[:-1]).all() and run.ticks[-1] > run.ticks[0])


def _thinned_run(run: Run, reach: Reach, tries: int = _TRIES) -> tuple[Ticks, Floats, Floats] | None:
    """A run in fewer points, as (ticks, coordinates, bends); None where there is nothing fewer."""
    if len(run.ticks) < 3 or np.ptp(run.y) == 0:
        return None
    line = _in_lines(run)
    ticks, y, astray = _through(line, reach)
    beyond = astray if len(astray) else _too_far(run, (ticks, y))
    if not len(beyond):
        return (ticks, y, np.zeros(len(ticks))) if len(ticks) < len(run.ticks) else None
    marks = _points_around(run, beyond)
    if not tries or not len(marks):
        return None
    return _parted(run, [0, *marks.tolist(), len(run.ticks) - 1], reach, tries - 1)


def _parted(run: Run, marks: list[int], reach: Reach, tries: int) -> tuple[Ticks, Floats, Floats] | None:
    """A run thinned between some of its points."""
    parts = []
    for a, b in pairwise(marks):
        made = _thinned_run(run.part(a, b), reach, tries) or (
            run.ticks[a : b + 1],
            run.y[a : b + 1],
            run.bends[a : b + 1],
        )
        parts.append(made if b == marks[-1] else tuple(column[:-1] for column in made))
    ticks, y, bends = (np.concatenate(column) for column in zip(*parts, strict=True))
    return (ticks, y, bends) if len(ticks) < len(run.ticks) else None


def _points_around(run: Run, ticks: Ticks) -> Ticks:
    """The inner points of a run on either side of some ticks."""
    last = len(run.ticks) - 1
    near = [np.searchsorted(run.ticks, ticks, side="right") - 1, np.searchsorted(run.ticks, ticks, side="left")]
    marks = np.unique(np.concatenate(near))
    return np.asarray(marks[(marks > 0) & (marks < last)])


def _too_far(run: Run, made: Path) -> Ticks:
    """Where a curve of lines comes further from a run than it may, as the ends of each such stretch."""
    if not run.bends[:-1].any():
        return _lines_too_far(run, made)
    before = Envelope(run.ticks, run.y, run.bends)
    after = Envelope(*made, np.zeros(len(made[0])))
    most, least = float(run.within.max()) + ROUNDING, float(run.within.min()) + ROUNDING
    found = differing_runs(before, after, int(run.ticks[0]), int(run.ticks[-1]), least)
    if not found:
        return np.zeros(0, dtype=np.int64)
    if most > least:
        found = [x for x in found if _over(run, before, after, x.breaks)]
    return np.array([t for x in found for t in (x.start, x.end)], dtype=np.int64)


def _lines_too_far(run: Run, made: Path) -> Ticks:
    """The same where the run is of straight lines: they are furthest apart at a point of either. Many runs are short."""
    breaks = merged(run.ticks, made[0])
    i = np.searchsorted(run.ticks, breaks[:-1], side="right") - 1
    first, low, within = run.ticks[i], run.y[i], run.within[i]
    length, rise = run.ticks[i + 1] - first, run.y[i + 1] - low
    lines = np.interp(breaks, *made)
    begins = np.abs(low + rise * ((breaks[:-1] - first) / length) - lines[:-1])
    ends = np.abs(low + rise * ((breaks[1:] - first) / length) - lines[1:])
    furthest, least = np.maximum(begins, ends), run.within.min() + ROUNDING
    if not (furthest > within + ROUNDING).any():
        return np.zeros(0, dtype=np.int64)
    differs = np.concatenate(([False], furthest > least, [False]))
    meets = np.concatenate(([True], (ends[:-1] <= least) & (begins[1:] <= least), [True]))  # again, at a break
    starts = np.flatnonzero(differs[1:-1] & (~differs[:-2] | meets[:-1]))
    stops = np.flatnonzero(differs[1:-1] & (~differs[2:] | meets[1:])) + 1
    over = np.maximum.reduceat(furthest - within, starts) if run.within.max() > run.within.min() else None
    stretches = np.column_stack((breaks[starts], breaks[stops]))
    return np.asarray((stretches if over is None else stretches[over > ROUNDING]).ravel())


def _over(run: Run, before: Envelope, after: Envelope, breaks: tuple[int, ...]) -> bool:
    """Whether two curves part by more than the segments under some break positions allow."""
    for a, b in pairwise(breaks):
        allowed = float(run.within[min(int(np.searchsorted(run.ticks, a, side="right")) - 1, len(run.within) - 1)])
        if differing_runs(before, after, a, b, allowed + ROUNDING):
            return True
    return False


class _Line(NamedTuple):
    """A run in straight lines: ticks, coordinates, and how far each line may still be from itself."""

    ticks: Ticks
    y: Floats
    within: Floats


def _in_lines(run: Run) -> _Line:
    """A run with its bends laid finely in lines, and what that leaves of the bound."""
    bent = (np.abs(run.bends[:-1]) >= STRAIGHT) & (run.ticks[1:] > run.ticks[:-1]) & (run.y[1:] != run.y[:-1])
    if not bent.any():
        return _Line(run.ticks, run.y, run.within)
    flat = float(run.within[bent].min()) * _FLAT
    fine = in_lines(Envelope(run.ticks, run.y, run.bends), flat)
    owner = np.clip(np.searchsorted(run.ticks, fine.ticks[:-1], side="right") - 1, 0, len(run.within) - 1)
    return _Line(fine.ticks, fine.values, run.within[owner] - np.where(bent[owner], flat, 0.0))


def _through(line: _Line, reach: Reach) -> tuple[Ticks, Floats, Ticks]:
    """The fewest points through the tube around a line, its ends pinned; and the ticks at which they fell together."""
    lines = np.array(fewest_through(_columns(line, line.within, reach)))
    start, end = int(line.ticks[0]), int(line.ticks[-1])
    ticks, y = knots(lines, start, reach)
    whole = np.concatenate(([start], ticks, [end]))
    astray = np.flatnonzero(np.diff(whole) <= 0)
    y = np.concatenate(([line.y[0]], y, [line.y[-1]]))
    if len(astray):
        return whole, y, np.clip(np.unique(np.concatenate((whole[astray], whole[astray + 1]))), start, end)
    return whole, y, np.zeros(0, dtype=np.int64)


def knots(lines: Floats, start: int, reach: Reach) -> Path:
    """Where each of some lines (x0, y0, slope; x from `start`) meets the next, put on whole ticks.

    A point lies on the flatter of its two lines: that takes least of the tube where both are not alike steep.
    """
    (x, y, slope), (x2, y2, slope2) = lines[:-1].T, lines[1:].T
    apart = slope != slope2
    meets = np.where(apart, (y2 - slope2 * x2 - y + slope * x) / np.where(apart, slope - slope2, 1.0), x2)
    at = np.rint(meets)
    flatter = np.abs(slope) <= np.abs(slope2)
    places = np.where(flatter, y + slope * (at - x), y2 + slope2 * (at - x2))
    return at.astype(np.int64) + start, np.clip(places, *reach)


def _columns(line: _Line | Run, within: Floats, reach: Reach, narrow: bool = True) -> list[list[float]]:
    """What lines must pass between, as `fewest_through` takes it; two points at a tick are one place, where both sides count.

    Beside steep lines the tube is narrower by what putting a point on a whole tick may cost there: a tick of them.
    """
    ticks, y = line.ticks, line.y
    lengths, rises = ticks[1:] - ticks[:-1], y[1:] - y[:-1]
    moving = lengths > 0  # between one place and the next
    if jumps := not moving.all():
        before, after = y[np.concatenate(([True], moving))], y[np.concatenate((moving, [True]))]
        x = (ticks[np.concatenate(([True], moving))] - ticks[0]).astype(np.float64)
        lengths, rises, room = lengths[moving], rises[moving], within[moving]
    else:
        before, after, x, room = y, y, (ticks - ticks[0]).astype(np.float64), within
    steep = np.abs(rises) / lengths
    everywhere = min(steep.max(), room.min() * _ROUNDED)
    near = np.maximum(np.maximum(*_beside(steep)), everywhere) if narrow else 0.0
    hair = 1 - _HAIR if narrow else 1
    if even := not jumps and room.max() == room.min():  # both sides of every place are the same
        left = right = np.maximum(room[0] * hair - near, room[0] * _LEAST)
    else:
        left, right = (np.maximum(side * hair - near, side * _LEAST) for side in _beside(room))
    sides = [_cut(before - left, before + left, reach)]
    if not even:
        sides.append(_cut(after - right, after + right, reach))
    walls = [wall.tolist() for side in sides for wall in side]
    low, high = sides[0] if even else _span(sides, (before + after) / 2)
    low[0] = high[0] = after[0]
    low[-1] = high[-1] = before[-1]
    return [x.tolist(), low.tolist(), high.tolist(), *walls, *walls[: 4 - len(walls)]]


def _cut(low: Floats, high: Floats, reach: Reach) -> tuple[Floats, Floats]:
    """Two walls, where the parameter can be."""
    return np.clip(low, *reach), np.clip(high, *reach)


def _span(sides: list[tuple[Floats, Floats]], middle: Floats) -> tuple[Floats, Floats]:
    """What lies between both pairs of walls; a jump of just twice the bound is met in its middle only."""
    low, high = np.maximum(sides[0][0], sides[1][0]), np.minimum(sides[0][1], sides[1][1])
    far = low > high
    return np.where(far, middle, low), np.where(far, middle, high)


def _beside(segments: Floats) -> tuple[Floats, Floats]:
    """What is said of segments, for each point: of the one before it and of the one after it; the ends have one."""
    return np.concatenate((segments[:1], segments)), np.concatenate((segments, segments[-1:]))
