"""What can be asked for, and how: sound."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Literal

from velmot.core.limits import MOST_IDS
from velmot.core.time.ticks import Tick
from velmot.core.verbs.request import says

Kind = Literal[
    "tone", "bell", "horn", "voices", "murmur", "birds", "machine", "rain", "noise", "pulse", "notes", "file", "nothing"
]


@dataclass(frozen=True)
class GivenSound:
    """What something is to sound like."""

    kind: Kind = says("A stand-in, the notes it came with, a file of one’s own, or nothing.")
    hz: float = says("How high, in Hz.", default=220.0)
    amplitude: float = says("How loud before its level, 0 to 1.", default=0.5)
    density: float = says("How much goes on, 0 to 1.", default=0.5)
    brightness: float = says("How bright, 0 to 1.", default=0.5)
    seed: int = says("Which take of the recipe.", default=0)
    name: str = says("Of a file: its name.", default="")
    digest: str = says("Of a file: the SHA-256 of its bytes.", default="")
    offset: float = says("Of a file: how many seconds into it.", default=0.0)


@dataclass(frozen=True)
class SetSound:
    """Say what tracks sound like, or single regions of them; it changes nothing that is automated."""

    tracks: tuple[str, ...] = says("The tracks, by id.", most=MOST_IDS, default=())
    regions: tuple[str, ...] = says(
        "Regions that are to sound otherwise than their tracks, by id.", most=MOST_IDS, default=()
    )
    sound: GivenSound | None = says("What they sound like; nothing means as is usual.", default=None)
    at: Tick = says("Of a track’s file: where it begins.", default=Tick(0), label="Begins at")
