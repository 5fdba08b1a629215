"""Alike: whether one piece of a curve is another one, stretched and laid on a straight line of its values; figures that come back.

A figure keeps its points where it is copied: what is the same about all its copies are the ratios of neighbouring times and
of neighbouring moves, and the bends. Those are compared in small groups that are looked up, never all with all.
"""

from __future__ import annotations

from collections.abc import Callable, Sequence
from typing import NamedTuple

import numpy as np
import numpy.typing as npt

from velmot.core.curves.difference import largest_difference
from velmot.core.curves.editing import Fragment, map_axis
from velmot.core.curves.envelope import Envelope
from velmot.core.curves.warps import stretched
from velmot.core.time.ticks import Flags, Ticks

FEWEST = 3
"""So many ratios in a row, of four segments with five points, are looked up together."""
LONGEST = 64
"""Figures are followed over so many ratios."""
COARSE = 0.02
"""Radians by which the directions of two ratios may differ."""
LEAST_TURN = 0.1
"""Some move of a figure goes the other way than the one before it, or is at least so many radians from it."""
CELLS = 160
"""Cells that ratios are counted by."""
SHARED = 0.7
SELDOM = 0.01
"""So many figures of a length may come about by chance in all curves together."""
MOST_WORK = 2_000_000
"""Places of all groups that are followed together."""
MOST_PLACES = 500
"""Places of a figure that are looked at."""
MOST_SEEDS = 1500
"""Groups that are followed, those with the most places first."""


class Likeness(NamedTuple):
    """A coordinate y of one becomes scale·y + offset of the other, `far` apart at most (axis units), most at tick `at`."""

    scale: float
    offset: float
    far: float
    at: int


def likeness(model: Fragment, other: Fragment) -> Likeness:
    """How the model, stretched over the other's length, has to be laid on its values to be nearest to it (least squares)."""
    curve = stretched(model, other.length).envelope
    ticks = np.unique(np.concatenate((curve.ticks, other.envelope.ticks)))
    ticks = np.unique(np.concatenate((ticks, (ticks[1:] + ticks[:-1]) // 2)))[:-1]
    y, z = curve.coordinate_at(ticks), other.envelope.coordinate_at(ticks)
    flat = y - y.mean()
    spread = float(flat @ flat)
    scale = float(flat @ (z - z.mean())) / spread if spread > 1e-18 else 0.0
    offset = float(z.mean() - scale * y.mean())
    if abs(scale - 1) < 1e-9:  # copies are told from what comes near to them
        scale, offset = 1.0, float((z - y).mean())
    laid = map_axis(curve, scale, offset, other.envelope.axis)
    return Likeness(scale, offset, *largest_difference(laid, other.envelope, 0, other.length - 1))


Single = npt.NDArray[np.float32]
Keys = npt.NDArray[np.int32]


class Ratios(NamedTuple):
    """Of every two segments of a curve that follow one another: the direction of their moves and of their times (radians),
    and the bend of the first; one fewer than there are segments. In single precision, which is a thousandth of COARSE.
    """

    moves: Single
    times: Single
    bends: Single

    @classmethod
    def of(cls, curve: Envelope) -> Ratios:
        """Those of a curve; a move the other way counts, a curve upside down has the same."""
        moves, times = np.diff(curve.coordinates), np.diff(curve.ticks).astype(float)
        turn = np.arctan2(moves[1:], moves[:-1])
        turn = np.where(turn > np.pi / 2, turn - np.pi, np.where(turn <= -np.pi / 2, turn + np.pi, turn))
        turn = np.where((moves[1:] == 0) & (moves[:-1] == 0), np.pi, turn)
        bends = np.where(np.isposinf(curve.bends[:-2]), 10.0, np.tanh(curve.bends[:-2] / 4))
        return cls(*(part.astype(np.float32) for part in (turn, np.arctan2(times[1:], times[:-1]), bends)))

    def near(self, ones: Ticks, others: Ticks) -> Flags:
        """Whether ratios are as good as the same, by their numbers."""
        there = np.abs(self.moves[ones] - self.moves[others]) <= COARSE
        there &= np.abs(self.times[ones] - self.times[others]) <= COARSE
        there &= np.abs(self.bends[ones] - self.bends[others]) <= COARSE
        return np.asarray(there)


class Figure(NamedTuple):
    """Where ratios come back: the number of the first of each place, in order, and over how many they do."""

    places: tuple[int, ...]
    ratios: int


class Sought(NamedTuple):
    """What figures are sought in: the ratios of curves one after the other, their keys in order for both grids
    (`keys_of`), which of them may belong to a figure (between two curves stands one that may not), and how often each cell
    of their parts comes up (`counts_of`).
    """

    ratios: Ratios
    grids: Sequence[Sorted]
    able: Flags
    counts: Ticks


def figures(sought: Sought, taken: Callable[[Figure], bool], fewest: int = 3) -> None:
    """Go through figures that stand at several places (at least `fewest`), those that say most first; none over one that was
    `taken`, which says so of each, and none that comes about by chance.

    Two grids of the directions are looked up, so that no figure is missed by lying on a line of one; the cost is that of
    sorting.
    """
    ratios, grids, able, _ = sought
    if not able.any():
        return
    free = able.copy()
    stops = np.flatnonzero(~np.append(able, False))
    begins = np.zeros(len(able), dtype=bool)
    begins[: len(able) - FEWEST + 1] = np.logical_and.reduce(
        [able[n : len(able) - FEWEST + 1 + n] for n in range(FEWEST)]
    )
    seeds = _seeds(grids, begins, fewest)
    found = []
    work = MOST_WORK
    for seed in seeds:
        work -= len(seed)
        one = _followed(ratios, seed[:MOST_PLACES], stops, fewest) if work > 0 else None
        if one is not None and not by_chance(sought, one):
            found.append(one)
    for one in sorted(found, key=lambda f: -(len(f.places) - 1) * (f.ratios + 2)):
        places = _apart([p for p in one.places if free[p : p + one.ratios].all()], one.ratios)
        if len(places) >= fewest and taken(Figure(tuple(places), one.ratios)):
            for place in places:
                free[place : place + one.ratios] = False


def _cells_of(part: Single) -> Ticks:
    """The cell that each number of one part of some ratios lies in, 0 to CELLS − 1."""
    return np.asarray(np.clip(np.floor(part / (2 * COARSE)).astype(np.int64) + CELLS // 2, 0, CELLS - 1))


def counts_of(ratios: Ratios) -> Ticks:
    """How often each cell of moves, times and bends comes up: int64 (3, CELLS)."""
    return np.stack([np.bincount(_cells_of(part), minlength=CELLS) for part in ratios])


def by_chance(sought: Sought, one: Figure) -> bool:
    """Whether curves of as common ratios in any order would hold some figure of that length so often.

    Of n ratios λ = n·p run like the model by chance, p the product of how common its own are, to the power of SHARED as two
    neighbours share a move; the chance that m do is at most (eλ/m)^m (Chernoff), and each of the n could have been the model.
    """
    ratios, counts = sought.ratios, sought.counts
    span = slice(one.places[0], one.places[0] + one.ratios)
    n = int(counts[0].sum())
    common = sum(
        float(np.log((of_part[_cells_of(part[span])] + 1) / (n + 1)).sum())
        for of_part, part in zip(counts, ratios, strict=True)
    )
    m = len(one.places) - 1
    return bool(m * (1 + SHARED * common + np.log(n) - np.log(m)) + np.log(n) > np.log(SELDOM))


def keys_of(ratios: Ratios) -> Keys:
    """What FEWEST ratios in a row are looked up by, from each one on, in two grids: int32 (2, n), 0 where fewer follow."""
    count = len(ratios.moves)
    keys = np.zeros((2, count), dtype=np.int64)
    size = max(count - FEWEST + 1, 0)
    for grid, shift in enumerate((0.0, 0.5)):
        cells = [np.floor(part / (2 * COARSE) + shift).astype(np.int64) for part in ratios]
        for n in range(FEWEST):
            for cell in cells:
                # It wraps round: what falls together by chance is told apart when it is followed.
                keys[grid, :size] = keys[grid, :size] * 1_000_003 + cell[n : n + size]
    return (keys ^ (keys >> 32)).astype(np.int32)


class Sorted(NamedTuple):
    """Keys in order, and the numbers of the ratios that each is of."""

    keys: Keys
    places: Keys


def sorted_keys(keys: Keys, start: int = 0) -> Sorted:
    """Some keys in order; the first is of ratio `start`."""
    order = np.argsort(keys)
    return Sorted(keys[order], (order + start).astype(np.int32))


def with_others(known: Sorted, start: int, stop: int, keys: Keys) -> Sorted:
    """Sorted keys with those of ratios `start` to `stop` replaced; what comes after them moves along."""
    stay = (known.places < start) | (known.places >= stop)
    places = known.places[stay]
    places[places >= stop] += len(keys) - (stop - start)
    there, new = known.keys[stay], sorted_keys(keys, start)
    at = np.searchsorted(there, new.keys)
    return Sorted(np.insert(there, at, new.keys), np.insert(places, at, new.places))


def _seeds(grids: Sequence[Sorted], able: Flags, fewest: int) -> list[Ticks]:
    """The places of groups of FEWEST ratios that come back, those with the most first."""
    seeds: dict[tuple[int, ...], Ticks] = {}
    for keys, places in grids:
        edges = np.concatenate(([0], np.flatnonzero(keys[1:] != keys[:-1]) + 1, [len(keys)]))
        for i in np.flatnonzero(np.diff(edges) >= fewest).tolist():
            group = places[edges[i] : edges[i + 1]]
            begins = np.sort(group[able[group]]).astype(np.int64)
            if len(begins) >= fewest:
                seeds.setdefault(tuple(begins[:8].tolist()), begins)
    return sorted(seeds.values(), key=lambda g: (-len(g), int(g[0])))[:MOST_SEEDS]


def _followed(ratios: Ratios, seed: Ticks, stops: Ticks, fewest: int) -> Figure | None:
    """The places of a group as far as they go on alike: over so many ratios that they say most about so many places."""
    model, alive = int(seed[0]), seed
    reach = stops[np.searchsorted(stops, seed)] - seed  # how many of one curve follow each, itself too
    longest = min(LONGEST, int(reach[0]))
    best: Figure | None = None
    for n in range(longest):
        alive, reach = alive[reach > n], reach[reach > n]
        near = ratios.near(np.full(len(alive), model + n), alive + n)
        alive, reach = alive[near], reach[near]
        places = _apart(alive.tolist(), n + 1)
        if len(places) < fewest:
            break
        if n + 1 >= FEWEST and (
            best is None or (len(places) - 1) * (n + 3) > (len(best.places) - 1) * (best.ratios + 2)
        ):
            best = Figure(tuple(places), n + 1)
    if best is None or not _turns(ratios, model, best.ratios):
        return None
    return best


def _turns(ratios: Ratios, at: int, count: int) -> bool:
    """Whether what stands there has a shape at all, and is no straight way or row of equal steps."""
    moves = ratios.moves[at : at + count]
    return bool((moves < 0).any() or np.ptp(moves) > LEAST_TURN)


def _apart(places: list[int], count: int) -> list[int]:
    """Of places in order those of which none reaches into the segments of the one before it."""
    out: list[int] = []
    for place in sorted(places):
        if not out or place >= out[-1] + count + 1:
            out.append(place)
    return out
