"""The fewest straight lines through a tube: the minimum-link path, in linear time.

Imai and Iri 1986; Suri 1986; Hakimi and Schmeichel 1991. A line is led on for as long as one meets every station's span.
When none does any further, the extreme line touches one wall and then leaves through the other: its chord between these two
places splits the tube, and the next line may be assumed to start on it. So the fewest lines are found going once along.
"""

from __future__ import annotations

from typing import NamedTuple

from velmot.core.progress import come

INFINITE = float("inf")


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


def fewest_lines(stations: list[Station]) -> list[Line]:
    """As few lines as there can be, each meeting the next, that lead from the first station to the last inside the tube."""
    lines: list[Line] = []
    head: list[tuple[float, float, float]] = []  # (x, low, high) that the next line must meet before the stations go on
    at = 0
    while True:
        found = _led_on(head, stations, at)
        lines.append(found.line)
        if found.stopped is None:
            return lines
        head, at = found.head, found.stopped
        come(at / len(stations))


class _Found(NamedTuple):
    line: Line
    stopped: int | None
    head: list[tuple[float, float, float]]


def _led_on(head: list[tuple[float, float, float]], stations: list[Station], start: int) -> _Found:
    """The line that reaches furthest from the chord `head` and the stations from `start` on, and the next chord."""
    lows: list[tuple[float, float]] = []  # the upper hull of the lows: what the steepest line may turn about
    highs: list[tuple[float, float]] = []  # the lower hull of the highs
    first_low = first_high = 0
    most: tuple[float, float, float] | None = None  # the steepest line: a low before, and a high it turns at
    least: tuple[float, float, float] | None = None
    count = len(head)
    for n in range(count + len(stations) - start):
        if n < count:
            x, low, high = head[n]
        else:
            station = stations[start + n - count]
            x, low, high = station.x, station.low, station.high
        if most is not None and low > most[1] + most[2] * (x - most[0]):
            return _turned(Line(*most), stations, start + n - count, True)
        if least is not None and high < least[1] + least[2] * (x - least[0]):
            return _turned(Line(*least), stations, start + n - count, False)
        if high < INFINITE and lows and (most is None or high < most[1] + most[2] * (x - most[0])):
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
                first_low, most = i, (x, high, slope)
        if low > -INFINITE and highs and (least is None or low > least[1] + least[2] * (x - least[0])):
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
                first_high, least = i, (x, low, slope)
        # Onto the hulls; written out twice, as a call for each of a hundred thousand stations takes half the time.
        if low > -INFINITE:
            while len(lows) > first_low + 1:
                ax, ay = lows[-2]
                bx, by = lows[-1]
                if (by - ay) * (x - ax) > (low - ay) * (bx - ax):
                    break
                lows.pop()
            lows.append((x, low))
        if high < INFINITE:
            while len(highs) > first_high + 1:
                ax, ay = highs[-2]
                bx, by = highs[-1]
                if (by - ay) * (x - ax) < (high - ay) * (bx - ax):
                    break
                highs.pop()
            highs.append((x, high))
    return _Found(_middle(most, least, lows, highs), None, [])


def _middle(
    most: tuple[float, float, float] | None,
    least: tuple[float, float, float] | None,
    lows: list[tuple[float, float]],
    highs: list[tuple[float, float]],
) -> Line:
    """A line between the steepest and the least steep that reach the end: where they cross, half way between them."""
    if most is None and least is None:
        x = (lows or highs)[-1][0]
        y = (lows[-1][1] + highs[-1][1]) / 2 if lows and highs else (lows or highs)[-1][1]
        return Line(x, y, 0.0)
    if most is None or least is None:
        return Line(*(most or least))  # type: ignore[misc]
    one, other = Line(*most), Line(*least)
    slope = (one.slope + other.slope) / 2
    if one.slope == other.slope:
        return Line(one.x0, (one.y0 + other.at(one.x0)) / 2, slope)
    x = one.x0 + (other.at(one.x0) - one.y0) / (one.slope - other.slope)
    return Line(x, one.at(x), slope)


def _turned(line: Line, stations: list[Station], stopped: int, upwards: bool) -> _Found:
    """Where the tube leaves the extreme line: the chord from its last touch to where it goes out through the other wall."""
    touched = line.x0
    station, before = stations[stopped], stations[stopped - 1]
    exit_x = station.x
    if upwards:
        a, b = before.low_after - line.at(before.x), station.low_before - line.at(station.x)
    else:
        a, b = line.at(before.x) - before.high_after, line.at(station.x) - station.high_before
    if b > 0:  # it goes out before the station
        part = -a / (b - a) if b > a else 1.0
        exit_x = max(before.x + min(max(part, 0.0), 1.0) * (station.x - before.x), touched)
    i = stopped
    while i > 0 and stations[i - 1].x > touched:
        i -= 1
    wall = [(touched, line.y0), *((s.x, s.high if upwards else s.low) for s in stations[i:stopped] if s.x <= exit_x)]
    out = line.at(exit_x)
    if upwards:
        head = [*((x, -INFINITE, y) for x, y in wall), (exit_x, out, INFINITE)]
    else:
        head = [*((x, y, INFINITE) for x, y in wall), (exit_x, -INFINITE, out)]
    return _Found(line, stopped, head)
