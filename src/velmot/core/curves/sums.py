"""Sums of envelopes on their axis: exact for straight and held segments, bends cut up where they must be."""

from __future__ import annotations

from collections.abc import Sequence
from functools import cache

import numpy as np

from velmot.core.curves.axes import Axis
from velmot.core.curves.envelope import Envelope
from velmot.core.curves.segments import HOLD
from velmot.core.errors import RequestError
from velmot.core.limits import MOST_PIECES
from velmot.core.time.ticks import Flags, Floats, Ticks, merged

TOLERANCE = 0.001


def sum_axis(one: Envelope, other: Envelope, tolerance: float = TOLERANCE) -> Envelope:
    """The curve whose axis coordinate is the sum of both, on the axis of `one`; see `sum_all`."""
    return sum_all((one, other), tolerance)


def sum_all(curves: Sequence[Envelope], tolerance: float = TOLERANCE, more: float = 0.0) -> Envelope:
    """The curve whose axis coordinate is the sum of all, and `more`, on the axis of the first.

    Exact where all are straight or held, or only one of them changes; where a bend meets something that moves it is laid in
    straight pieces, as few as stay within `tolerance` axis units: one budget, shared by the bends that meet. Where one of
    the curves is silent (on a level axis) so is the sum, and nowhere else: what merely falls as low is a number until it
    is limited, so all that is summed is summed at once.
    """
    if len(curves) == 1 and not more:
        return curves[0]
    axis, curves = curves[0].axis, _straightened(_apart_from_silence(curves), tolerance)
    ticks = merged(*(curve.ticks for curve in curves))
    rights, lefts = (_sums(curves, ticks, side, more) for side in ("right", "left"))
    shapes = _shapes(curves, ticks)
    jumps = np.abs(lefts - rights) > 1e-12
    jumps[1:] &= shapes[:-1] != HOLD  # after a hold the point itself is the jump
    at = np.repeat(np.arange(len(ticks)), 1 + jumps)
    before = np.append(at[1:] == at[:-1], False)  # of two rows for a tick, the limit towards it
    places = np.where(before, lefts[at], rights[at])
    bends = np.where(before, 0.0, shapes[at])
    if before[0]:
        bends[0] = HOLD
    return Envelope(ticks[at], axis.value_of(places), bends, axis)


def taken_off(share: Envelope) -> Envelope:
    """What takes a level's share away again, in plain decibels: −y. Silence cannot be taken off, and is nothing here."""
    curve = share.apart_from_silence()
    return Envelope(
        curve.ticks, np.where(share.axis.silent(curve.values), 0.0, -curve.values), curve.bends, Axis.LINEAR
    )


def _apart_from_silence(curves: Sequence[Envelope]) -> list[Envelope]:
    """All with points on either side of the steps into and out of silence, so that it is silence and no slope that is kept."""
    beside = merged(*(curve.beside_silence() for curve in curves))
    return [curve.apart_from_silence(beside) for curve in curves] if len(beside) else [*curves]


def _sums(curves: Sequence[Envelope], ticks: Ticks, side: str, more: float) -> Floats:
    """The coordinates of the sum; silence is added to nothing."""
    parts = [curve.coordinate_at(ticks, "left" if side == "left" else "right") for curve in curves]
    total = np.sum(parts, axis=0) + more
    for curve, part in zip(curves, parts, strict=True):
        if curve.axis.floor is not None:
            total = np.where(curve.axis.silent(part), curve.axis.floor, total)
    return np.asarray(total)


def _segments(curve: Envelope, ticks: Ticks) -> tuple[Ticks, Floats]:
    """For the segment right of each tick: the index of the point it starts at (or −1), and its bend."""
    i = np.searchsorted(curve.ticks, ticks, side="right") - 1
    flat = (i < 0) | (i >= len(curve) - 1)
    return i, np.where(flat, HOLD, curve.bends[np.clip(i, 0, len(curve) - 1)])


def _shapes(curves: Sequence[Envelope], ticks: Ticks) -> Floats:
    """The shape of each piece: held if all are, one's bend if all others stay still, else straight."""
    kinds = [_segments(curve, ticks) for curve in curves]
    still = np.stack([_still(curve, *kind) for curve, kind in zip(curves, kinds, strict=True)])
    reach = np.diff(ticks, append=ticks[-1:] + 1)
    out = np.zeros(len(ticks))
    for curve, (index, bend), quiet in zip(curves, kinds, still, strict=True):
        span = np.diff(curve.ticks, append=curve.ticks[-1:] + 1)[np.clip(index, 0, None)]
        part = np.where(np.isfinite(bend), bend, 0.0) * reach / np.maximum(span, 1)
        alone = ~quiet & (still.sum(axis=0) == len(curves) - 1)
        out = np.where(alone & np.isfinite(bend), part, out)
    return np.where(still.all(axis=0), HOLD, out)


def _still(curve: Envelope, index: Ticks, bend: Floats) -> Flags:
    """Whether the segments that start at points `index` keep their value."""
    last = len(curve) - 1
    a, b = np.clip(index, 0, last), np.clip(index + 1, 0, last)
    return np.asarray(np.isposinf(bend) | (curve.values[a] == curve.values[b]))


# ── bends in straight pieces ──────────────────────────────────────────────────────────────────


def _straightened(curves: Sequence[Envelope], tolerance: float) -> list[Envelope]:
    """The curves with straight pieces for those parts of bends that meet something that moves; bends that meet share it."""
    ticks = merged(*(curve.ticks for curve in curves))
    moving, bent = [], []
    for curve in curves:
        index, bends = _segments(curve, ticks)
        moves = ~_still(curve, index, bends)
        moves[-1:] = False
        moving.append(moves)
        bent.append(moves & np.isfinite(bends) & (np.abs(bends) > 1e-9))
    meets = np.sum(moving, axis=0) > 1
    shared = np.maximum(np.sum(bent, axis=0), 1)
    out = []
    for curve, bends_here in zip(curves, bent, strict=True):
        marks = np.flatnonzero(bends_here & meets)
        if len(marks):
            base = curve.reaching(np.concatenate((ticks[marks], ticks[marks + 1])))
            first = np.searchsorted(base.ticks, ticks[marks], side="right") - 1
            curve = _in_pieces(base, first, tolerance / shared[marks])
        out.append(curve)
    return out


def in_lines(curve: Envelope, tolerance: float = TOLERANCE) -> Envelope:
    """The curve with straight pieces within `tolerance` axis units for all its bends that move."""
    bent = np.isfinite(curve.bends) & (np.abs(curve.bends) > 1e-9) & ~curve.still_after
    bent[:-1] &= curve.ticks[1:] > curve.ticks[:-1]
    first = np.flatnonzero(bent)
    return _in_pieces(curve, first, np.full(len(first), tolerance)) if len(first) else curve


def _in_pieces(curve: Envelope, first: Ticks, tolerance: Floats) -> Envelope:
    """The curve with straight pieces in place of the bent segments that start at points `first`.

    A straight line between two points of a curve that only bends one way lies on one side of it. Led along the other
    side by the tolerance it may come twice as far away in its middle, so inner corners stand beside the curve (where
    a piece is more than a few ticks long); the segment's own two ends stay where they are.
    """
    k, y0, y1 = curve.bends[first], curve.coordinates[first], curve.coordinates[first + 1]
    start, end = curve.ticks[first], curve.ticks[first + 1]
    size = np.maximum(np.abs(y1 - y0), 1e-300) / np.expm1(np.abs(k))
    _check_pieces(np.abs(k), size, tolerance, (end - start).astype(np.float64))
    shortest = _step(tolerance / (size * np.exp(np.abs(k)))) / np.abs(k) * 2 * (end - start)
    aside = np.where(shortest > 4, 1.0, 0.0)
    owner, walked = _corners(np.abs(k), size, tolerance, 1.0 + aside, (end - start).astype(np.float64))
    inner = np.where(k[owner] > 0, start[owner] + walked, end[owner] - walked)
    order = np.argsort(inner, kind="stable")
    owner, inner = owner[order], inner[order]
    hollow = np.sign((y1 - y0) * k)  # whether lines between its points lie above it (1) or below (−1)
    places = curve.coordinate_at(inner) - (hollow * tolerance * aside)[owner]
    bends = curve.bends.copy()
    bends[first] = 0.0
    where = first[owner] + 1
    columns = [(curve.ticks, inner), (curve.values, curve.axis.value_of(places)), (bends, np.zeros(len(inner)))]
    ticks, values, shapes = (np.insert(old, where, new) for old, new in columns)
    return Envelope(ticks, values, shapes, curve.axis)


def _check_pieces(k: Floats, size: Floats, tolerance: Floats, spans: Floats) -> None:
    """Raise RequestError where a bend would take so many pieces that nobody would wait for them.

    Small chords from u on are √(2·tolerance / size) / u long in ln u, so from 1 to e^(k/2) there are at most
    √(size / 2·tolerance) · (e^(k/2) − 1) of them, and never more than ticks.
    """
    with np.errstate(over="ignore"):
        pieces = np.minimum(np.sqrt(size / (2 * tolerance)) * np.expm1(k / 2), spans)
    if len(pieces) and not pieces.max() <= MOST_PIECES:
        raise RequestError(
            "bend-far", most=MOST_PIECES, place="moves", accepted="a smaller factor, or straight segments there"
        )


def _corners(k: Floats, size: Floats, tolerance: Floats, twice: Floats, spans: Floats) -> tuple[Ticks, Ticks]:
    """(bend's index, whole ticks from its flat end) of every inner corner of bends k > 0 of `size`·(e^(kx) − 1).

    In u = e^(kx/2) such a bend is size·u², and the arrow of a chord from u to u·e^z is size·u²·σ(z). All segments are
    walked at once, each step as long as its arrow allows: the tolerance for the first and the last piece, which keep
    an end on the curve, and `twice` that (1 or 2) between.
    """
    owners, ticks = [np.zeros(0, dtype=np.int64)], [np.zeros(0, dtype=np.int64)]
    at, going = np.zeros(len(k)), np.arange(len(k))
    while len(going):
        rate, here = k[going] / spans[going], at[going]
        height = np.maximum(size[going] * np.exp(rate * here), tolerance[going] * 1e-300)  # next to nothing is not 0
        arrow = tolerance[going] / height
        done = here + _step(arrow) / rate * 2 >= spans[going]
        going, rate, here, arrow = going[~done], rate[~done], here[~done], arrow[~done]
        ahead = here + np.floor(np.maximum(_step(np.where(here == 0, 1.0, twice[going]) * arrow) / rate * 2, 1.0))
        beyond = ahead >= spans[going]  # what is left for the last may only err once
        at[going] = np.where(beyond, np.maximum(np.floor((here + spans[going]) / 2), here + 1), ahead)
        going = going[at[going] < spans[going]]
        owners.append(going)
        ticks.append(at[going].astype(np.int64))
    return np.concatenate(owners), np.concatenate(ticks)


@cache
def _arrows() -> tuple[Floats, Floats]:
    """(z, σ(z)) rising: the arrow of the chord of u² from u = 1 to e^z, over ln u; for small z it is z²/2."""
    z = np.geomspace(1e-3, 31.0, 4000)
    grown = np.expm1(2 * z)
    touch = grown / (2 * z)  # u² where the curve is as steep as its chord
    return z, 1.0 + grown * np.log(touch) / (2 * z) - touch


def _step(arrow: Floats) -> Floats:
    """The z whose chord has this arrow, a hair less so that rounding never passes it."""
    z, arrows = _arrows()
    near = np.sqrt(2 * arrow)
    return np.asarray(np.where(near < z[0], near, np.exp(np.interp(np.log(arrow), np.log(arrows), np.log(z)))) * 0.999)
