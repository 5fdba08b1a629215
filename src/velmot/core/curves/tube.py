"""The fewest straight lines through a tube: the minimum-link path, in linear time.

Imai and Iri 1986; Suri 1986; Hakimi and Schmeichel 1991. A line is led on for as long as one meets every station's span.
When none does any further, the extreme line touches one wall and then leaves through the other: its chord between these two
places splits the tube, and the next line may be assumed to start on it. So the fewest lines are found going once along.
"""

from __future__ import annotations

from collections.abc import Sequence
from typing import NamedTuple

from velmot.core.progress import come

INFINITE = float("inf")

_OFTEN = 4_096
"""After how many lines it is said how far the path has come."""


class Station(NamedTuple):
    """A place along the tube: what a line must pass between, and the walls' own ends just before it and just after it."""

    x: float
    low: float
    high: float
    low_before: float
    high_before: float
    low_after: float
    high_after: float


class Line(NamedTuple):
    """y = y0 + slope·(x − x0)."""

    x0: float
    y0: float
    slope: float

    def at(self, x: float) -> float:
        return self.y0 + self.slope * (x - self.x0)


def fewest_lines(stations: Sequence[Station]) -> list[Line]:
    """As few lines as there can be, each meeting the next, that lead from the first station to the last inside the tube."""
    return [Line(*row) for row in fewest_through([list(column) for column in zip(*stations, strict=True)])]


def fewest_through(columns: list[list[float]]) -> list[tuple[float, float, float]]:
    """The same of stations given as seven columns, in the order of `Station`'s fields; lines as (x0, y0, slope).

    One long function: it leads through a hundred thousand stations, and a call for each of them takes half of the time.
    """
    xs, spans_low, spans_high, lows_before, highs_before, lows_after, highs_after = columns
    lines: list[tuple[float, float, float]] = []
    start, size = 0, len(xs)
    lows: list[tuple[float, float]] = []  # the upper hull of the lows: what the steepest line may turn about
    highs: list[tuple[float, float]] = []  # the lower hull of the highs
    first_low = first_high = 0
    steepest = flattest = (
        False  # whether there is a steepest line (a low before and a high it turns at), and a least steep
    )
    most_x = most_y = most_slope = least_x = least_y = least_slope = 0.0
    while True:
        if len(lines) % _OFTEN == 0:
            come(start / size)
        upwards = None
        for stopped in range(start, size):
            x, low, high = xs[stopped], spans_low[stopped], spans_high[stopped]
            if steepest:
                reached = most_y + most_slope * (x - most_x)
                if low > reached:
                    upwards = True
                    break
            if flattest:
                fallen = least_y + least_slope * (x - least_x)
                if high < fallen:
                    upwards = False
                    break
            if lows and (not steepest or high < reached):
                i = first_low
                last = len(lows) - 1
                px, py = lows[i]
                slope = (high - py) / (x - px) if x > px else INFINITE
                while i < last:
                    qx, qy = lows[i + 1]
                    other = (high - qy) / (x - qx) if x > qx else INFINITE
                    if other > slope:
                        break
                    i, slope = i + 1, other
                if slope < INFINITE:
                    steepest, first_low, most_x, most_y, most_slope = True, i, x, high, slope
            if highs and (not flattest or low > fallen):
                i = first_high
                last = len(highs) - 1
                px, py = highs[i]
                slope = (low - py) / (x - px) if x > px else -INFINITE
                while i < last:
                    qx, qy = highs[i + 1]
                    other = (low - qy) / (x - qx) if x > qx else -INFINITE
                    if other < slope:
                        break
                    i, slope = i + 1, other
                if slope > -INFINITE:
                    flattest, first_high, least_x, least_y, least_slope = True, i, x, low, slope
            while len(lows) > first_low + 1:
                ax, ay = lows[-2]
                bx, by = lows[-1]
                if (by - ay) * (x - ax) > (low - ay) * (bx - ax):
                    break
                lows.pop()
            lows.append((x, low))
            while len(highs) > first_high + 1:
                ax, ay = highs[-2]
                bx, by = highs[-1]
                if (by - ay) * (x - ax) < (high - ay) * (bx - ax):
                    break
                highs.pop()
            highs.append((x, high))
        if upwards is None:
            most = Line(most_x, most_y, most_slope) if steepest else None
            least = Line(least_x, least_y, least_slope) if flattest else None
            lines.append(_middle(most, least, lows, highs))
            return lines
        # The tube leaves the extreme line: the chord goes from its last touch to where it goes out through the other wall.
        # The next line crosses that chord, so the chord is the least steep it may be (or the steepest).
        before = stopped - 1
        if upwards:
            x0, y0, slope = most_x, most_y, most_slope
            a = lows_after[before] - (y0 + slope * (xs[before] - x0))
            b = lows_before[stopped] - (y0 + slope * (xs[stopped] - x0))
        else:
            x0, y0, slope = least_x, least_y, least_slope
            a = y0 + slope * (xs[before] - x0) - highs_after[before]
            b = y0 + slope * (xs[stopped] - x0) - highs_before[stopped]
        out = xs[stopped]
        if b > 0:  # it goes out before the station
            part = -a / (b - a) if b > a else 1.0
            out = xs[before] + min(max(part, 0.0), 1.0) * (out - xs[before])
            if out < x0:
                out = x0
        lines.append((x0, y0, slope))
        i = stopped
        while i > 0 and xs[i - 1] > x0:
            i -= 1
        walls = spans_high if upwards else spans_low
        hull = [(x0, y0)]
        for k in range(i, stopped):
            x, y = xs[k], walls[k]
            if x > out:
                break
            while len(hull) > 1:
                ax, ay = hull[-2]
                bx, by = hull[-1]
                turn = (by - ay) * (x - ax) - (y - ay) * (bx - ax)
                if turn < 0 if upwards else turn > 0:
                    break
                hull.pop()
            hull.append((x, y))
        far = (out, y0 + slope * (out - x0))
        first_low = first_high = 0
        if upwards:
            lows, highs = [far], hull
            steepest, flattest = False, out > x0
            least_x, least_y, least_slope = out, far[1], slope
        else:
            lows, highs = hull, [far]
            steepest, flattest = out > x0, False
            most_x, most_y, most_slope = out, far[1], slope
        start = stopped


def _middle(
    most: Line | None, least: Line | None, lows: list[tuple[float, float]], highs: list[tuple[float, float]]
) -> Line:
    """A line between the steepest and the least steep that reach the end: where they cross, half way between them."""
    if most is None and least is None:
        x = (lows or highs)[-1][0]
        y = (lows[-1][1] + highs[-1][1]) / 2 if lows and highs else (lows or highs)[-1][1]
        return Line(x, y, 0.0)
    if most is None or least is None:
        return most or least  # type: ignore[return-value]
    slope = (most.slope + least.slope) / 2
    if most.slope == least.slope:
        return Line(most.x0, (most.y0 + least.at(most.x0)) / 2, slope)
    x = most.x0 + (least.at(most.x0) - most.y0) / (most.slope - least.slope)
    return Line(x, most.at(x), slope)
