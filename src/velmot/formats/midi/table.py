"""What each MIDI controller is to Velmot: one table that reading and writing derive from."""

from __future__ import annotations

from dataclasses import dataclass
from functools import partial

from velmot.core.curves.axes import Axis
from velmot.core.parameters.parameter import Family, Kind, Label, Parameter


@dataclass(frozen=True)
class Controller:
    """One controller of a channel. `key` names it in files: "cc 7", "bend", "program", "pressure", "nrpn 1/8"."""

    key: str
    name: str
    family: Family = Family.DEVICE
    default: int = 0
    switch: bool = False


NAMED = (
    Controller("cc 1", "Modulation"),
    Controller("cc 2", "Breath"),
    Controller("cc 4", "Foot"),
    Controller("cc 5", "Portamento time"),
    Controller("cc 7", "Level", Family.LEVEL, 100),
    Controller("cc 8", "Balance", default=64),
    Controller("cc 10", "Pan", Family.PAN, 64),
    Controller("cc 11", "Expression", Family.LEVEL, 127),
    Controller("cc 64", "Sustain", switch=True),
    Controller("cc 65", "Portamento", switch=True),
    Controller("cc 66", "Sostenuto", switch=True),
    Controller("cc 67", "Soft pedal", switch=True),
    Controller("cc 71", "Resonance", default=64),
    Controller("cc 74", "Brightness", default=64),
    Controller("cc 91", "Send 1", Family.SEND),
    Controller("cc 93", "Send 3", Family.SEND),
    Controller("program", "Program"),
    Controller("pressure", "Pressure"),
    Controller("bend", "Pitch bend"),
)
BY_KEY = {c.key: c for c in NAMED}
SWITCHES = {int(c.key[3:]) for c in NAMED if c.switch}
SELECTORS = {98, 99, 100, 101}
DATA_HIGH, DATA_LOW = 6, 38
STEP_UP, STEP_DOWN = 96, 97
COMMANDS = range(120, 128)
APART = {*COMMANDS, *SELECTORS, DATA_HIGH, DATA_LOW, STEP_UP, STEP_DOWN}
"""Controllers that are no lanes of their own."""

COMMAND_NAMES = {
    120: "all sound off",
    121: "reset all controllers",
    122: "local control",
    123: "all notes off",
    124: "omni off",
    125: "omni on",
    126: "mono",
    127: "poly",
}
FREE = (*range(20, 32), *range(85, 91), *range(102, 120))
"""Controllers with no meaning of their own, given to parameters that are no controllers."""


def controller(key: str) -> Controller:
    """The table's row, or one named by its number."""
    if key in BY_KEY:
        return BY_KEY[key]
    kind, _, number = key.partition(" ")
    names = {"cc": "Controller", "rpn": "Registered", "nrpn": "Non-registered"}
    return Controller(key, f"{names[kind]} {number}")


def parameter_of(
    id: str, key: str, fine: bool, value: float | None = None, bend_range: float | None = None
) -> Parameter:
    """The parameter a controller becomes; `fine` for 14 bits, `bend_range` in semitones where it is known."""
    row = controller(key)
    made = partial(Parameter, id, row.name, row.family, controller=key + (" fine" if fine else ""))
    if row.switch:
        words = (Label(0.0, "off"), Label(1.0, "on"))
        return made(kind=Kind.SWITCH, labels=words, value=value or 0.0)
    if key == "program":
        names = tuple(Label(float(n), f"program {n + 1}") for n in range(128))
        return made(kind=Kind.STEPPED, high=127, labels=names, value=value or 0.0)
    if key == "bend":
        reach = bend_range or 8192
        unit = "semitones" if bend_range else ""
        low, high = -reach, reach * 8191 / 8192
        return made(unit=unit, low=low, high=high, value=value or 0.0)
    default = row.default * 128 if fine else row.default
    high = 16383.0 if fine else 127.0
    return made(unit="cc", axis=Axis.LINEAR, high=high, default=default, value=default if value is None else value)
