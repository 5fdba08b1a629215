"""Nodes: the few things a sound passes through, each as an audio graph has it, and the same in Python."""

from __future__ import annotations

from dataclasses import dataclass, field

from velmot.sound.ramps import Ramps

GAIN = "gain"
FILTER = "filter"
DRIVE = "drive"
DELAY = "delay"
HALL = "hall"

DRIVEN = 8.0
"""How far a drive's curve is known: what is louder is as loud as that."""


@dataclass(frozen=True)
class Node:
    """One thing in a chain. `says` are the numbers that stay, `ramps` those that move, `word` which filter it is.

    - gain: `gain`, a factor
    - filter: `word` lowpass, highpass, bandpass, peaking, lowshelf or highshelf; `frequency` in Hz, `q`, `gain` in dB;
      as the W3C's Web Audio recommendation has it, after Bristow-Johnson's Audio EQ Cookbook
    - drive: tanh(`pre` · x) · `post`
    - delay: what came `time` seconds before, `feedback` of it again, `wet` of it beside what comes
    - hall: what comes `dry`, and `wet` through the impulses of `decays` (seconds), each as loud as its ramp says
    """

    kind: str
    ramps: dict[str, Ramps] = field(default_factory=dict)
    word: str = ""
    says: dict[str, float] = field(default_factory=dict)
    on: Ramps | None = None
    """How much of the sound passes through it (1) and how much beside it (0); nothing is all of it."""
