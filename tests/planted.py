"""A session with planted mistakes: two of every kind of finding among lanes that nobody would stumble over, laid by a seed."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass, field
from random import Random

from velmot.core.curves.axes import Axis
from velmot.core.curves.envelope import Envelope
from velmot.core.curves.segments import HOLD
from velmot.core.parameters.parameter import Family, Parameter, level, pan
from velmot.core.session.phrases import Phrase
from velmot.core.session.session import Session
from velmot.core.session.track import Lane, Mode, Region, Track, TrackKind
from velmot.core.time.ticks import ticks_of as b

BEATS = 128
LEVEL, LINEAR = Axis.LEVEL, Axis.LINEAR


@dataclass
class Plan:
    """Tracks and lanes as they are laid, and what is to be found: (kind, id of what it is about)."""

    random: Random
    tracks: list[Track] = field(default_factory=list)
    lanes: list[Lane] = field(default_factory=list)
    phrases: list[Phrase] = field(default_factory=list)
    planted: list[tuple[str, set[str]]] = field(default_factory=list)

    def found(self, kind: str, *of: str) -> None:
        """A mistake is laid, which is found on one of these."""
        self.planted.append((kind, set(of)))

    def track(self, *parameters: Callable[[str], Parameter], **more) -> Track:
        id = f"t{len(self.tracks)}"
        made = Track(id, more.pop("name", f"Track {id}"), parameters=tuple(p(id) for p in parameters), **more)
        self.tracks.append(made)
        return made

    def lane(self, parameter: str, points, home: str = "track", axis: Axis = LEVEL) -> str:
        id = f"L{len(self.lanes)}"
        self.lanes.append(Lane(id, parameter, home, Envelope.of(points, axis)))
        return id

    def walk(self, start: float = 0.0, end: float = BEATS, least: float = 1.5) -> list[tuple[int, float]]:
        """Points of a quiet level: moves of a few dB, beats apart, none twice the same."""
        at, value, points = start, self.random.uniform(-24, -14), []
        while at <= end - least:
            points.append((b(at), value))
            at += self.random.uniform(least, 2 * least)
            move = self.random.choice((-1, 1)) * self.random.uniform(1, 4)
            value += move if -40 < value + move < -8 else -move
        return points

    def region(self, name: str, start: float, length: float) -> Region:
        return Region(f"{name}{len(self.tracks)}", name, b(start), b(length))

    def session(self) -> Session:
        """What was laid, its tracks in an order by chance."""
        tracks = self.random.sample(self.tracks, len(self.tracks))
        lanes = self.random.sample(self.lanes, len(self.lanes))
        return Session("planted", b(BEATS), tuple(tracks), tuple(lanes), phrases=tuple(self.phrases)).checked()


def own_level(id: str) -> Parameter:
    return level(f"{id}.level", value=-6.0)


def own_pan(id: str) -> Parameter:
    return pan(f"{id}.pan", value=10.0)


def own_cut(id: str) -> Parameter:
    return Parameter(
        f"{id}.cut", "Cut", Family.DEVICE, axis=Axis.LOG, unit="Hz", low=20.0, high=2e4, value=900.0, default=900.0
    )


def nothing(p: Plan) -> None:
    t = p.track(own_level)
    p.found("nothing", p.lane(f"{t.id}.level", [(b(p.random.uniform(0, 9)), -6.0)]))


def flat(p: Plan) -> None:
    t = p.track(own_level)
    value = p.random.uniform(-30, -8)
    p.found("flat", p.lane(f"{t.id}.level", [(0, value), (b(p.random.uniform(9, 90)), value)]))


def silent(p: Plan) -> None:
    t = p.track(own_level, regions=(p.region("r", 8, p.random.uniform(8, 20)),))
    p.found("silent", p.lane(f"{t.id}.level", [(0, -9.0), (b(38), -9.0), *p.walk(40, 60), (b(61), -9.0)]))


def pieces(p: Plan) -> None:
    t = p.track(own_level)
    line = [(b(40 + n), -30 + n / 2) for n in range(p.random.randint(12, 30))]
    p.found("pieces", p.lane(f"{t.id}.level", [*p.walk(0, 38), *line]))


def stairs(p: Plan) -> None:
    t, value, size, rows = p.track(own_pan), 0, p.random.choice((1.0, 2.0)), []
    for n in range(60):
        rows.append((b(2 * n), size * value, HOLD))
        value += p.random.choice((1, 1, 2)) * (1 if n % 40 < 20 else -1)
    p.found("stairs", p.lane(f"{t.id}.pan", rows, axis=LINEAR))


def step(p: Plan) -> None:
    t, at = p.track(own_level), p.random.uniform(40, 80)
    after = [(x, v) for x, v in p.walk(at + 2)]
    p.found("step", p.lane(f"{t.id}.level", [*p.walk(0, at - 1), (b(at), -32.0), (b(at) + 1, -12.0), *after]))


def late(p: Plan) -> None:
    t, start = p.track(own_cut), p.random.uniform(8, 30)
    rows = [(b(start + 2 * n), p.random.uniform(400, 700)) for n in range(12)]
    p.found("late", p.lane(f"{t.id}.cut", rows, axis=Axis.LOG))


def open_end(p: Plan) -> None:
    t = p.track(own_level, regions=(p.region("r", 0, BEATS),))
    rows = [*p.walk(0, BEATS - 6), (b(BEATS - 2), -30.0), (b(BEATS + 2), -9.0)]
    p.found("open", p.lane(f"{t.id}.level", rows, t.regions[0].id))


def stuck(p: Plan) -> None:
    t = p.track(own_pan)
    start = p.random.uniform(30, 50)
    rows = [
        (0, 0.0),
        (b(start / 2), 40.0),
        (b(start), 100.0),
        (b(start + p.random.uniform(9, 30)), 100.0),
        (b(100), 3.0),
    ]
    p.found("stuck", p.lane(f"{t.id}.pan", rows, axis=LINEAR))


def loud(p: Plan) -> None:
    t = p.track(own_level)
    p.track(lambda id: level(f"{id}.level", value=p.random.uniform(11.0, 12.0)), kind=TrackKind.GROUP, members=(t.id,))
    p.lane(f"{t.id}.level", [(0, -12.0), *p.walk(2, 60), (b(70), -8.0), (b(75), -21.0)])
    p.found("loud", f"{t.id}.level")


def same(p: Plan) -> None:
    t, rows = p.track(own_level, own_pan), p.walk(0, 70)
    first = p.lane(f"{t.id}.level", rows)
    p.lane(f"{t.id}.pan", [(at, 3 * (v + 20)) for at, v in rows], axis=LINEAR)
    p.found("same", first)


def copies(p: Plan) -> None:
    half = BEATS / 2
    t = p.track(own_level, regions=(p.region("a", 0, half), p.region("b", half, half)))
    rows = p.walk(0, half)
    first = p.lane(f"{t.id}.level", rows, t.regions[0].id)
    p.lane(f"{t.id}.level", rows, t.regions[1].id)
    p.found("copies", first)


def figure(p: Plan) -> None:
    """A figure of six points at four places of two lanes: at other levels, less deep, and once twice as long."""
    form = [
        (0, 0.0),
        (0.5, p.random.uniform(5, 8)),
        (1.0, p.random.uniform(1, 3)),
        (1.75, p.random.uniform(7, 9)),
        (2.5, -3.0),
        (3.0, 0.5),
    ]
    lanes = []
    for places in (((10, 1.0, 1.0), (40, 0.5, 1.0)), ((20, 1.5, 2.0), (70, 1.0, 1.0))):
        t, rows, last = p.track(own_level), [], 0.0
        for at, deep, long in places:
            rows += p.walk(last, at - 1)
            rows += [(b(at + x * long), -30 + y * deep) for x, y in form]
            last = at + 3 * long + 1
        lanes.append(p.lane(f"{t.id}.level", [*rows, *p.walk(last, BEATS)]))
    p.found("figure", *lanes)


def gap(p: Plan) -> None:
    t = p.track(own_level, regions=(p.region("a", 0, 40), p.region("b", 48, BEATS - 48)))
    p.lane(f"{t.id}.level", p.walk(0, 40), t.regions[0].id)
    p.lane(f"{t.id}.level", p.walk(0, BEATS - 48), t.regions[1].id)
    p.found("gap", f"{t.id}.level")


def not_heard(p: Plan) -> None:
    t = p.track(own_level, mode=Mode.OFF)
    p.found("not heard", p.lane(f"{t.id}.level", p.walk()))


def dense(p: Plan) -> None:
    t = p.track(own_level)
    rows, value, way = [], -20.0, 0.1
    for n in range(700):
        way = p.random.uniform(-0.3, 0.3) if n % 23 == 0 else way
        value += way if -40 < value + way < -8 else -way
        rows.append((b(n / 8), value + p.random.uniform(-0.04, 0.04)))
    p.found("dense", p.lane(f"{t.id}.level", rows))


def disagree(p: Plan) -> None:
    one, two = p.track(own_level), p.track(own_level, mode=Mode.OFF)
    group = p.track(own_level, kind=TrackKind.GROUP, members=(one.id, two.id))
    p.lane(f"{one.id}.level", p.walk())
    p.found("not heard", p.lane(f"{two.id}.level", p.walk()))
    p.found("disagree", group.id)


def otherwise(p: Plan) -> None:
    t = p.track(own_level, regions=(p.region("r", 0, 64),))
    under = p.walk(0, 64, 1.0)
    p.lane(f"{t.id}.level", [*under, (b(64), -20.0), *p.walk(66, BEATS, 1.0)])
    rows = [(at, min(v + p.random.uniform(4, 8), 0)) for at, v in p.walk(0, 62)]
    p.found("otherwise", p.lane(f"{t.id}.level", [*rows, (b(64), -20.0)], t.regions[0].id))


def names(p: Plan) -> None:
    one = p.track(own_level, name=f"Gull {len(p.tracks)}")
    two = p.track(own_level, name=one.name)
    for t in (one, two):
        p.lane(f"{t.id}.level", p.walk())
    p.found("names", one.name)


def unplaced(p: Plan) -> None:
    curve = Envelope.of([(0, 0.0), (b(2), 1.0), (b(4), 0.2)], LINEAR)
    id = f"ph{len(p.phrases)}"
    p.phrases.append(Phrase(id, f"phrase {id}", b(4), curve))
    p.found("unplaced", id)


ALL = (nothing, flat, silent, pieces, stairs, step, late, open_end, stuck, loud, same, copies, figure, gap, not_heard, dense,
       disagree, otherwise, names, unplaced)  # fmt: skip


def planted(seed: int, clean: int = 20) -> tuple[Session, list[tuple[str, set[str]]]]:
    """The session of a seed, and what was planted in it: forty mistakes, two of every kind, beside some clean lanes."""
    p = Plan(Random(seed))
    for _ in range(clean):
        t = p.track(own_level)
        p.lane(f"{t.id}.level", p.walk())
    for plant in p.random.sample(ALL * 2, 2 * len(ALL)):
        plant(p)
    return p.session(), p.planted
