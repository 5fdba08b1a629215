"""Stand-ins for devices: which nodes a device of some kind is, one module a stand-in, and what none of them answers to.

To add one, write a module with WORDS and `nodes(values)` and put it into the table.
"""

from __future__ import annotations

from dataclasses import dataclass
from functools import lru_cache

from velmot.core.curves.axes import Axis
from velmot.core.curves.envelope import Envelope
from velmot.core.parameters.parameter import Family, Kind, Label, Parameter
from velmot.core.session.track import Device
from velmot.core.time.tempo import TempoMap
from velmot.sound.nodes import Node
from velmot.sound.stand_ins import band, delay, drive, hall, high_cut, low_cut, presence, shelf, tremolo
from velmot.sound.stand_ins.values import Values

TABLE = (low_cut, high_cut, presence, shelf, drive, delay, hall, tremolo, band)
"""In the order in which they are asked: the first whose words are in a device's kind or name answers."""


def soundless(device: Device, parameters: tuple[Parameter, ...]) -> frozenset[str]:
    """The parameters of a device that nothing stands for: where they move, nothing is heard of it."""
    said = tuple((p.name, p.unit, p.kind, p.axis, p.low, p.high) for p in parameters)
    places = _soundless(device.kind, device.name, said)
    return frozenset(parameters[i].id for i in places)


def _still(id: str, name: str, unit: str, kind: Kind, axis: Axis, low: float, high: float) -> Parameter:
    switch = kind is Kind.SWITCH
    words = (Label(low, "off"), Label(high, "on")) if switch else ()
    usual = Kind.SWITCH if switch else Kind.CONTINUOUS
    return Parameter(id, name, Family.DEVICE, usual, unit, axis, low, high, low, low, words)


@lru_cache(maxsize=4096)
def _soundless(kind: str, name: str, said: tuple[tuple[str, str, Kind, Axis, float, float], ...]) -> tuple[int, ...]:
    made = tuple(_still(str(i), *one) for i, one in enumerate(said))
    still = Values(lambda id: Envelope.constant(made[int(id)].value, made[int(id)].axis), TempoMap(), 0, 1)
    return tuple(int(p.id) for p in stood_for(Device("", name, kind), made, still).unheard)


@dataclass(frozen=True)
class Stood:
    """What stands for a device: its nodes in order, and its parameters that nothing stands for."""

    nodes: tuple[Node, ...]
    unheard: tuple[Parameter, ...]


def stood_for(device: Device, parameters: tuple[Parameter, ...], values: Values) -> Stood:
    """The nodes that stand for a device. One without a stand-in lets everything through, and all it has is unheard."""
    switch = next((p for p in parameters if p.kind is Kind.SWITCH), None)
    rest = tuple(p for p in parameters if p is not switch)
    said = [f"{device.kind} {device.name}".lower(), " ".join(p.name.lower() for p in rest)]
    answers = next((m for words in said for m in TABLE if any(w in words for w in m.WORDS)), None)
    if answers is None:
        return Stood((), parameters)
    nodes, used = answers.nodes(values, rest)
    on = values.switched(switch) if switch is not None else None
    made = tuple(Node(n.kind, n.ramps, n.word, n.says, on) for n in nodes)
    return Stood(made, tuple(p for p in rest if p.id not in used))
