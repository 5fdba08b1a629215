"""Skerry Light: made-up sound for a small stage play about the last keeper of a lighthouse.

96 bpm, 64 bars, four of them in 3/4 and one slowing down. Its lanes hold real work, and the
mistakes people make: a track that does not read its lanes (Kelp choir), a late first point
(Glass rain Shimmer), a slow drift (Glass rain Level), a recorded lane of over 2,000 points (Gulls
Pan), moves while a device is off (Engine room Rumble), region and track lanes that disagree
(Foghorn Level).
"""

from __future__ import annotations

import math
import random
from collections.abc import Callable, Iterable

from velmot.core.curves.axes import Axis
from velmot.core.curves.envelope import Envelope
from velmot.core.curves.segments import HOLD
from velmot.core.parameters.parameter import Family, Kind, Label, Parameter, level, mute, pan
from velmot.core.session.session import Session
from velmot.core.session.sounds import Sound
from velmot.core.session.track import Device, Lane, Marker, Mode, Region, Track, TrackKind
from velmot.core.time.tempo import Meter, TempoEvent, TempoMap
from velmot.core.time.ticks import TICKS_PER_BEAT, ticks_of

SEED = 1871
BEATS = 252  # 40 bars of 4, 4 of 3, 20 of 4
Rows = Iterable[tuple[float, float] | tuple[float, float, float]]


def session() -> Session:
    """The demo, the same at every call."""
    chance = random.Random(SEED)
    tracks = _tracks()
    lanes = [*_bell(chance), *_foghorn(chance), *_choir(chance), *_keeper(chance), *_gulls(chance)]
    lanes += [*_engine(chance), *_rain(chance), *_buses(chance)]
    known = {p.id: p for t in tracks for p in t.parameters}
    numbered = [
        Lane(f"L{n}", parameter, home, _envelope(known[parameter], rows))
        for n, (parameter, home, rows) in enumerate(lanes, 1)
    ]
    head = Session("Skerry Light", ticks_of(BEATS), tracks, tuple(numbered), _tempo(), markers=_markers())
    return head.checked()


def _markers() -> tuple[Marker, ...]:
    scenes = [(0, "the lamp"), (64, "first fog"), (104, "down below"), (144, "he counts ships"), (196, "dawn")]
    cues = [(32, "horn answers"), (128, "lamp turns slower"), (220, "gulls away")]
    said = sorted([(beat, name, False) for beat, name in scenes] + [(beat, name, True) for beat, name in cues])
    return tuple(Marker(f"mark{n}", name, ticks_of(beat), cue) for n, (beat, name, cue) in enumerate(said, 1))


def _tempo() -> TempoMap:
    at = [TempoEvent(0, 96), TempoEvent(ticks_of(128), 96, True), TempoEvent(ticks_of(144), 84)]
    return TempoMap(tuple(at), (Meter(0, 4, 4), Meter(ticks_of(160), 3, 4), Meter(ticks_of(172), 4, 4)))


def _envelope(parameter: Parameter, rows: Rows) -> Envelope:
    """Rows of (beat, value, bend) kept to a tenth of a unit and to the parameter's range."""
    points: dict[int, tuple[int, float, float]] = {}
    for beat, value, *shape in rows:
        tick = round(beat * TICKS_PER_BEAT / 240) * 240
        kept = min(max(round(value, 2), parameter.low), parameter.high)
        bend = HOLD if parameter.holds_only else (shape[0] if shape else 0.0)
        points[tick] = (tick, parameter.nearest(kept), bend)
    return Envelope.of(sorted(points.values()), parameter.axis)


# ── tracks ────────────────────────────────────────────────────────────────────────────────────


def _tracks() -> tuple[Track, ...]:
    return (
        _track("bell", "Bell buoy", -6, ("hall",), [_low_cut("bell")], _spans("toll", [0, 32, 64, 96, 144, 196], 24)),
        _track("foghorn", "Foghorn", -8, ("hall",), [_growl()], _horns()),
        _track("choir", "Kelp choir", -10, ("hall",), [_vowel(), _low_cut("choir")], _choir_spans(), Mode.OFF),
        _track("keeper", "Keeper", -3, ("hall",), [_presence()], _speech()),
        _track("gulls", "Gulls", -14, ("weather", "hall"), [], _spans("flock", [16, 88, 160, 220], 28)),
        _track("engine", "Engine room", -12, ("weather",), [_rumble()], _spans("shift", [8, 104, 180], 56)),
        _track("rain", "Glass rain", -16, ("weather", "hall"), [_shimmer()], _spans("shower", [72, 152, 208], 36)),
        _track("weather", "Weather", -4, (), [_dust()], (), Mode.READ, TrackKind.BUS),
        _track("hall", "Hall", -6, (), [_decay()], (), Mode.READ, TrackKind.BUS),
        Track(
            "swell", "Swell", TrackKind.GROUP, Mode.LATCH, (level("swell.level"),), members=("bell", "foghorn", "choir")
        ),
    )


Kit = tuple[Device, tuple[Parameter, ...]]


def _track(
    id: str,
    name: str,
    fader: float,
    sends: tuple[str, ...],
    kits: list[Kit],
    regions: tuple[Region, ...],
    mode: Mode = Mode.READ,
    kind: TrackKind = TrackKind.AUDIO,
) -> Track:
    usual = (level(f"{id}.level", value=fader), pan(f"{id}.pan"), mute(f"{id}.mute"))
    feeds = tuple(
        level(f"{id}.send.{bus}", f"Send: {bus.capitalize()}", -24.0, family=Family.SEND, target=bus) for bus in sends
    )
    own = tuple(p for _, parameters in kits for p in parameters)
    regions = tuple(Region(f"{id}.{r.id}", r.name, r.start, r.length) for r in regions)
    return Track(id, name, kind, mode, usual + feeds + own, tuple(d for d, _ in kits), regions, sound=_SOUNDS.get(id))


_SOUNDS = {
    "bell": Sound("bell", hz=196, density=0.4, brightness=0.6, seed=1),
    "foghorn": Sound("horn", hz=73.42, density=0.8, brightness=0.35, seed=2),
    "choir": Sound("voices", hz=146.83, density=0.5, brightness=0.5, seed=3),
    "keeper": Sound("murmur", hz=112, density=0.6, brightness=0.45, seed=4),
    "gulls": Sound("birds", hz=310, density=0.45, brightness=0.5, seed=5),
    "engine": Sound("machine", hz=150, density=0.35, brightness=0.3, seed=6),
    "rain": Sound("rain", density=0.7, brightness=0.8, seed=7),
}
"""What the tracks sound like: all of it made on the spot."""


def _spans(name: str, starts: list[float], length: float) -> tuple[Region, ...]:
    return tuple(
        Region(f"r{n}", f"{name} {n}", ticks_of(start), ticks_of(min(length, BEATS - start)))
        for n, start in enumerate(starts, 1)
    )


def _horns() -> tuple[Region, ...]:
    cues = [
        ("horn A", 17, 13),
        ("horn A", 33, 11),
        ("horn B long", 51, 16),
        ("horn A", 73, 9),
        ("horn B long", 120, 22),
    ]
    return tuple(Region(f"r{n}", name, ticks_of(s), ticks_of(b)) for n, (name, s, b) in enumerate(cues, 1))


def _choir_spans() -> tuple[Region, ...]:
    return _spans("drift", [20, 84, 176], 48)


def _speech() -> tuple[Region, ...]:
    cues = [(12, 18), (36, 20), (66, 14), (90, 26), (132, 20), (174, 24), (214, 18)]
    return tuple(Region(f"r{n}", f"speech {n}", ticks_of(s), ticks_of(b)) for n, (s, b) in enumerate(cues, 1))


def _kit(id: str, kind: str, *parameters: Parameter, on: float = 1.0) -> Kit:
    words = (Label(0.0, "off"), Label(1.0, "on"))
    switch = Parameter(
        f"{id}.on", f"{kind} on", Family.DEVICE, Kind.SWITCH, labels=words, value=on, default=1, device=id
    )
    return Device(id, kind, kind.lower()), (switch, *parameters)


def _hertz(
    device: str,
    name: str,
    value: float,
    low: float = 20,
    high: float = 20000,
    useful: tuple[float, float] | None = None,
) -> Parameter:
    return Parameter(
        f"{device}.{name.lower().replace(' ', '-')}",
        name,
        Family.DEVICE,
        unit="Hz",
        axis=Axis.LOG,
        low=low,
        high=high,
        default=value,
        value=value,
        device=device,
        useful=useful,
    )


def _amount(device: str, name: str, value: float, unit: str = "%", high: float = 100) -> Parameter:
    return Parameter(
        f"{device}.{name.lower().replace(' ', '-')}",
        name,
        Family.DEVICE,
        unit=unit,
        high=high,
        default=value,
        value=value,
        device=device,
    )


def _low_cut(track: str) -> Kit:
    id = f"{track}.cut"
    return _kit(id, "Low cut", _hertz(id, "Low cut", 60, 20, 2000))


def _growl() -> Kit:
    return _kit("foghorn.growl", "Growl", _amount("foghorn.growl", "Growl drive", 12))


def _vowel() -> Kit:
    return _kit("choir.vowel", "Vowel filter", _hertz("choir.vowel", "Vowel filter", 900, 100, 8000, (300, 3200)))


def _presence() -> Kit:
    gain = Parameter(
        "keeper.presence.gain", "Presence", Family.DEVICE, unit="dB", low=-12, high=12, device="keeper.presence"
    )
    return _kit("keeper.presence", "Presence", gain)


def _rumble() -> Kit:
    return _kit("engine.rumble", "Rumble", _hertz("engine.rumble", "Rumble cutoff", 140, 30, 4000, (60, 800)), on=0.0)


def _shimmer() -> Kit:
    return _kit("rain.shimmer", "Shimmer", _amount("rain.shimmer", "Shimmer", 0))


def _dust() -> Kit:
    words = tuple(Label(float(n), word) for n, word in enumerate(("off", "light", "mid", "heavy")))
    step = Parameter(
        "weather.dust.step", "Dust step", Family.DEVICE, Kind.STEPPED, high=3, labels=words, device="weather.dust"
    )
    return _kit("weather.dust", "Dust", step)


def _decay() -> Kit:
    return _kit("hall.room", "Room", _amount("hall.room", "Decay", 2.4, "s", 12))


# ── lanes: (parameter, home, rows) ────────────────────────────────────────────────────────────

Lanes = list[tuple[str, str, Rows]]


def _walk(chance: random.Random, beats: Iterable[float], middle: float, width: float, bend: float = 0.0) -> Rows:
    """A wandering hand: each point is drawn back towards the middle; some segments are bent."""
    value, rows = middle, []
    for beat in beats:
        value += (middle - value) * 0.45 + chance.gauss(0, width * 0.5)
        shape = chance.choice((0.0, 0.0, bend, -bend))
        rows.append((beat, min(max(value, middle - width), middle + width), shape))
    return rows


def _uneven(chance: random.Random, start: float, end: float, step: float) -> list[float]:
    """Places about `step` beats apart, on eighths."""
    at, out = start, []
    while at < end:
        out.append(round(at * 2) / 2)
        at += step * chance.uniform(0.6, 1.5)
    return out


def _switching(chance: random.Random, spans: Iterable[tuple[float, float]], inside: float, outside: float) -> Rows:
    rows = [(0.0, outside)]
    for start, end in spans:
        rows += [(start, inside), (end, outside)]
    return rows


def _octaves(rows: Rows) -> Rows:
    """Rows whose values are octaves, as hertz."""
    return [(row[0], 2.0 ** row[1], *row[2:]) for row in rows]


def _wave(shape: Callable[[float], float], start: float, end: float, step: float) -> Rows:
    count = round((end - start) / step)
    return [(start + i * step, shape(start + i * step)) for i in range(count + 1)]


def _bell(chance: random.Random) -> Lanes:
    tolls: Rows = [
        (0, -24), (8, -22.5), (15, -25, 2.0), (32, -26), (35.5, -10), (38, -12), (41, -7, -1.5), (43.5, -13.5),
        (46, -5), (48, -22), (53, -21), (60.5, -26), (70, -18), (80, -19.5, 1.0), (96, -24), (100, -12, -2.0),
        (112, -21), (128, -18), (144, -9), (152, -15.5), (168, -22), (196, -11), (204, -16, 1.5), (228, -27), (244, -36),
    ]  # fmt: skip
    return [
        ("bell.level", "track", tolls),
        ("bell.pan", "track", _walk(chance, _uneven(chance, 0, 244, 11), 0, 62, 2)),
        ("bell.send.hall", "track", _walk(chance, _uneven(chance, 4, 240, 19), -20, 9, 3)),
        ("bell.cut.low-cut", "track", _octaves(_walk(chance, _uneven(chance, 0, 240, 26), 6.6, 1.6, 2))),
    ]


def _foghorn(chance: random.Random) -> Lanes:
    swells: Lanes = []
    for n, length in ((1, 13), (2, 11), (3, 16), (4, 9)):
        rows: Rows = [(0, -30, -2.0), (length * 0.3, -6), (length * 0.6, -8.5, 2.0), (length - 0.5, -40)]
        swells.append(("foghorn.level", f"foghorn.r{n}", rows))
    spans = [(17, 25.5), (33, 40), (51, 63), (73, 80), (120, 131), (134, 140)]
    return [
        ("foghorn.level", "track", _walk(chance, _uneven(chance, 0, 248, 8), -14, 9)),
        *swells,
        ("foghorn.mute", "track", _switching(chance, spans, 0, 1)),
        ("foghorn.pan", "track", _walk(chance, _uneven(chance, 10, 240, 24), -20, 30, 3)),
        ("foghorn.growl.growl-drive", "track", _walk(chance, _uneven(chance, 16, 200, 9), 38, 34, 4)),
    ]


def _choir(chance: random.Random) -> Lanes:
    vowels = _wave(
        lambda b: 9.6 + 1.3 * math.sin(b / 5.1) + 0.4 * math.sin(b * 1.7) + chance.gauss(0, 0.07), 20, 237, 1
    )
    return [
        ("choir.level", "track", _walk(chance, _uneven(chance, 0, 248, 19), -16, 8, 2)),
        ("choir.send.hall", "track", _walk(chance, _uneven(chance, 0, 244, 20), -15, 6)),
        ("choir.vowel.vowel-filter", "track", _octaves(vowels)),
        ("choir.pan", "choir.r2", [(0, -60), (16, 45, 2.0), (32, -20), (47, 10)]),
    ]


def _keeper(chance: random.Random) -> Lanes:
    rides: list[tuple[float, float]] = []
    for start, length in ((12, 18), (36, 20), (66, 14), (90, 26), (132, 20), (174, 24), (214, 18)):
        rides.append((start - 0.5, -18))
        rides += [(start + i * length / 7, chance.gauss(-4, 2.4)) for i in range(8)]
        rides.append((start + length + 1, -18))
    gaps = [(a, b) for a, b in ((0, 11), (57, 65), (81, 89), (118, 131), (199, 213), (233, 250))]
    return [
        ("keeper.level", "track", rides),
        ("keeper.presence.gain", "track", _walk(chance, _uneven(chance, 12, 232, 17), 1.5, 4.5, 2)),
        ("keeper.mute", "track", _switching(chance, gaps, 1, 0)),
        (
            "keeper.send.hall",
            "track",
            [(0, -40), (60, -40, 3.0), (90, -22), (116, -34), (132, -30, -2.0), (152, -12), (174, -36)],
        ),
    ]


def _gulls(chance: random.Random) -> Lanes:
    def circling(beat: float) -> float:
        return 58 * math.sin(beat / 3.3) + 24 * math.sin(beat / 1.13 + 1) + chance.gauss(0, 2.2)

    return [
        ("gulls.pan", "track", _wave(circling, 16, 246, 0.1)),
        ("gulls.level", "track", _walk(chance, _uneven(chance, 14, 248, 6), -18, 10, 2)),
        ("gulls.send.weather", "track", _walk(chance, _uneven(chance, 0, 230, 30), -12, 8)),
    ]


def _engine(chance: random.Random) -> Lanes:
    pulse = _wave(lambda b: -16 + (6 if int(b) % 4 == 0 else 0) + 3 * math.sin(b / 9) + chance.gauss(0, 0.6), 8, 236, 2)
    return [
        ("engine.level", "track", pulse),
        ("engine.rumble.rumble-cutoff", "track", _octaves(_walk(chance, _uneven(chance, 8, 236, 7), 7.6, 1.9, 3))),
        ("engine.rumble.on", "track", [(0, 1), (8, 0), (120, 1), (236, 0)]),
    ]


def _rain(chance: random.Random) -> Lanes:
    return [
        (
            "rain.level",
            "track",
            [(72, -14), (76, -18), (90, -12, 2.0), (104, -30), (200, -19), (208, -9), (230, -15), (244, -48, 3.0)],
        ),
        ("rain.shimmer.shimmer", "track", _walk(chance, _uneven(chance, 156, 242, 4), 52, 40, 2)),
        ("rain.pan", "rain.r1", _wave(lambda b: 70 * math.sin(b / 2.6), 0, 34, 2)),
        ("rain.pan", "rain.r3", _wave(lambda b: -55 * math.sin(b / 3.4), 0, 34, 2)),
        ("rain.send.hall", "track", _walk(chance, _uneven(chance, 70, 244, 13), -18, 10, 3)),
    ]


def _buses(chance: random.Random) -> Lanes:
    dust = [(b, float(chance.choice((0, 1, 1, 2, 2, 3)))) for b in _uneven(chance, 0, 246, 9)]
    return [
        ("weather.level", "track", _walk(chance, _uneven(chance, 0, 246, 34), -5, 4, 2)),
        ("weather.dust.step", "track", dust),
        ("hall.level", "track", _walk(chance, _uneven(chance, 0, 246, 40), -7, 4)),
        ("hall.room.decay", "track", _walk(chance, _uneven(chance, 0, 246, 22), 3.6, 2.4, 2)),
        ("swell.level", "track", [(0, -4), (64, -1, 2.0), (128, 1.5), (144, -6), (200, 0), (236, -2, 3.0), (250, -60)]),
    ]
