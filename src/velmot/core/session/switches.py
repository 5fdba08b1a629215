"""Switches that silence: the mute of a track, and what says whether a device works at all."""

from __future__ import annotations

from velmot.core.parameters.parameter import Family, Kind, Parameter
from velmot.core.session.track import Track


def switches_of(track: Track, parameter: Parameter) -> list[tuple[Parameter, int, str]]:
    """The switches that silence a parameter: (the switch, which of its two values does, what is said then)."""
    found: list[tuple[Parameter, int, str]] = []
    if parameter.family is not Family.MUTE:
        found += [(p, 1, f"{track.name} is muted") for p in mutes_of(track)]
    if device := track.device_of(parameter):
        own = (p for p in track.parameters if p.device == device.id and p is not parameter)
        found += [(p, 0, f"{device.name} is off") for p in own if _powers(p)]
    return found


def mutes_of(track: Track) -> list[Parameter]:
    """The switches that mute a track."""
    return [p for p in track.parameters if p.family is Family.MUTE and p.kind is Kind.SWITCH]


def _powers(parameter: Parameter) -> bool:
    """Whether a device's switch says if it works at all: “Delay on”, off or on."""
    labels = [label.text.lower() for label in parameter.labels]
    return parameter.kind is Kind.SWITCH and labels == ["off", "on"] and parameter.name.lower().split()[-1] == "on"
