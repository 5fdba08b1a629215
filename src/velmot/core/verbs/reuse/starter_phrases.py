"""The starter set of the phrase book: some two dozen phrases, each there for a purpose, drawn by recipes or by hand."""

from __future__ import annotations

from dataclasses import dataclass

from velmot.core.curves.shapes import Shape
from velmot.core.time.ticks import TICKS_PER_BEAT, Tick
from velmot.core.verbs.request import ClipPoint, GivenPhrase

Row = tuple[float, float, float]


@dataclass(frozen=True)
class Starter:
    """A phrase with what it is for and the words it is found by."""

    phrase: GivenPhrase
    says: str
    tags: tuple[str, ...]


def _beats(beats: float) -> Tick:
    return Tick(round(beats * TICKS_PER_BEAT))


def _drawn(name: str, beats: float, says: str, tags: str, *rows: Row) -> Starter:
    """By hand: (beat, part of the depth, bend) rows."""
    points = tuple(ClipPoint(_beats(beat), value, bend) for beat, value, bend in rows)
    return Starter(GivenPhrase(name, _beats(beats), points), says, tuple(tags.split()))


def _shaped(name: str, beats: float, says: str, tags: str, shape: Shape) -> Starter:
    return Starter(GivenPhrase(name, _beats(beats), shape=shape), says, tuple(tags.split()))


STARTERS: tuple[Starter, ...] = (
    _shaped("even fade in", 8, "From nothing, at the same pace all along.", "fade in", Shape("straight")),
    _shaped("late fade in", 8, "Waits, then arrives: for what should surprise.", "fade in", Shape("exponential")),
    _shaped("early fade in", 8, "Is there soon and settles slowly.", "fade in", Shape("logarithmic")),
    _shaped("soft fade in", 8, "Begins and ends gently.", "fade in", Shape("s")),
    _drawn("even fade out", 8, "Leaves at the same pace all along.", "fade out", (0, 1, 0), (8, 0, 0)),
    _drawn("lingering fade out", 8, "Stays long and is gone quickly.", "fade out", (0, 1, 4), (8, 0, 0)),
    _drawn("falling fade out", 8, "Drops at once and trails away.", "fade out", (0, 1, -4), (8, 0, 0)),
    _drawn("swell", 8, "Up and back, a little longer on the way up.", "swell level", (0, 0, 2), (5, 1, -1.5), (8, 0, 0)),
    _drawn("swell and hold", 8, "Up, and there it stays to the end.", "swell level", (0, 0, 2.5), (4, 1, 0), (8, 1, 0)),
    _drawn("breath", 4, "A quick lift and a slow release, for voices held.", "swell voice", (0, 0.2, -2), (1, 1, -1), (4, 0.2, 0)),
    _drawn("dip under speech", 8, "Makes room for a sentence and comes back after it.", "dip voice level",
           (0, 1, 2), (0.5, 0.35, 0), (7, 0.35, 1.5), (8, 1, 0)),
    _drawn("short dip", 2, "Makes room for one word.", "dip voice level", (0, 1, 1), (0.25, 0.4, 0), (1.5, 0.4, 1), (2, 1, 0)),
    _drawn("dip on each beat", 4, "Steps back as each beat falls and recovers before the next.", "dip pulse level",
           (0, 0.2, -2.5), (1, 1, 0), (1, 0.2, -2.5), (2, 1, 0), (2, 0.2, -2.5), (3, 1, 0), (3, 0.2, -2.5), (4, 1, 0)),
    _drawn("opening", 16, "A filter that opens slowly and then all at once.", "filter opening", (0, 0, 3), (16, 1, 0)),
    _drawn("opening in four steps", 16, "Opens a step further with each bar.", "filter opening steps",
           (0, 0.25, 0), (4, 0.25, 0), (4, 0.5, 0), (8, 0.5, 0), (8, 0.75, 0), (12, 0.75, 0), (12, 1, 0), (16, 1, 0)),
    _drawn("closing", 16, "A filter that closes evenly and is shut at the end.", "filter closing", (0, 1, -1), (16, 0, 0)),
    _drawn("open and shut", 4, "Opens at once and falls shut, for single notes.", "filter pulse", (0, 1, -3), (4, 0, 0)),
    _shaped("slow sway", 16, "Side to side over four bars.", "pan sway", Shape("sine", 1)),
    _shaped("sway of a bar", 4, "Side to side once a bar.", "pan sway", Shape("sine", 1)),
    _shaped("tremolo in eighths", 4, "Trembles twice a beat.", "tremolo level", Shape("sine", 8)),
    _shaped("tremolo in triplets", 4, "Trembles three times a beat.", "tremolo level", Shape("sine", 12)),
    _shaped("hurrying tremolo", 8, "Trembles faster and deeper toward the end.", "tremolo level",
            Shape("sine", 16, grow_from=20, grow_to=100, hurry=0.25)),
    _shaped("pulse in quarters", 4, "On for half of every beat.", "pulse gate", Shape("square", 4)),
    _shaped("short pulses", 4, "On for a quarter of every half beat.", "pulse gate", Shape("square", 8, skew=0.25)),
    _shaped("restless steps", 8, "Another value each half beat, by chance.", "chance steps", Shape("steps of chance", 16, seed=3)),
    _shaped("drift", 16, "Wanders by chance from beat to beat.", "chance drift", Shape("glides of chance", 16, seed=5)),
)  # fmt: skip
