"""Stand-ins for what is recorded: each an endless take, made in pieces, one module a kind."""

from __future__ import annotations

from collections.abc import Callable

from velmot.core.session.sounds import NOTHING, Sound
from velmot.core.time.ticks import Floats
from velmot.sound.sources import bell, birds, horn, machine, murmur, noise, pulse, rain, tone, voices
from velmot.sound.sources.pieces import silence

Source = Callable[[Sound, str, int, int, int], Floats]
"""(recipe, take, rate in Hz, first frame, number of frames) → mono samples."""

_SOURCES: dict[str, Source] = {
    "tone": tone.made,
    "bell": bell.made,
    "horn": horn.made,
    "voices": voices.made,
    "murmur": murmur.made,
    "birds": birds.made,
    "machine": machine.made,
    "rain": rain.made,
    "noise": noise.made,
    "pulse": pulse.made,
    NOTHING: silence,
}


def made(sound: Sound, take: str, rate: int, start: int, frames: int) -> Floats:
    """Some frames of a take: the same ones whichever piece they are asked for in."""
    return _SOURCES[sound.kind](sound, take, rate, start, frames)
