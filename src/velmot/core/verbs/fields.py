"""What a request is made of, field by field: all that a sheet, the command line or a page has to know to ask for it."""

from __future__ import annotations

from dataclasses import MISSING, dataclass, fields
from types import NoneType
from typing import Any, Literal, Union, get_args, get_origin, get_type_hints

from velmot.core.time.ticks import Tick

Kind = Literal[
    "lanes", "tracks", "regions", "parameters", "markers", "range", "position", "length", "shift",
    "amount", "count", "choice", "switch", "text", "other",
]  # fmt: skip
"""How a field is filled in. A range is what the start is filled in with, and the end goes along; a shift may be negative."""

_PICKED: tuple[Kind, ...] = ("lanes", "tracks", "regions", "parameters", "markers")
_TIMES: dict[str, Kind] = {
    "at": "position", "until": "position", "cursor": "position", "start": "position",
    "by": "shift", "move": "shift", "delay": "shift",
}  # fmt: skip
"""What times are by their names; all others are lengths."""


@dataclass(frozen=True)
class Field:
    """One setting: its name in the request, how it is filled in, what it means, the choices there are, and its default."""

    name: str
    kind: Kind
    says: str
    choices: tuple[str, ...] = ()
    default: Any = None
    needed: bool = False
    label: str = ""
    words: tuple[tuple[str, str], ...] = ()
    """What each choice is called, in their order; `yes` and `no` are a switch's."""
    unit: str = ""
    reach: tuple[float | None, float | None] = (None, None)
    """The least and the most a number may be; nothing where there is none."""


def fields_of(request: type[Any]) -> tuple[Field, ...]:
    """The fields of a request's type, in their order.

    >>> from velmot.core.verbs.clear.request import Clear
    >>> [(f.name, f.kind) for f in fields_of(Clear)][:4]
    [('scope', 'choice'), ('lanes', 'lanes'), ('tracks', 'tracks'), ('start', 'range')]
    """
    hints = get_type_hints(request)
    known = {f.name for f in fields(request)}
    out = []
    for f in fields(request):
        kind, choices = _kind_of(f.name, hints[f.name], known)
        needed = f.default is MISSING and f.default_factory is MISSING
        said = f.metadata
        words = tuple(said.get("words", {}).items()) or tuple((choice, choice) for choice in choices)
        default = None if needed else f.default
        label = said.get("label") or f.name.replace("_", " ").capitalize()
        unit, reach = said.get("unit", ""), said.get("reach", (None, None))
        out.append(Field(f.name, kind, said.get("says", ""), choices, default, needed, label, words, unit, reach))
    return tuple(out)


def _kind_of(name: str, hint: Any, known: set[str]) -> tuple[Kind, tuple[str, ...]]:
    if get_origin(hint) in (Union, type(int | None)):
        own = [one for one in get_args(hint) if one is not NoneType]
        hint = own[0] if len(own) == 1 else None
    if get_origin(hint) is Literal:
        return "choice", tuple(str(one) for one in get_args(hint))
    if hint == tuple[str, ...]:
        return next((kind for kind in _PICKED if kind == name), "other"), ()
    if hint is Tick:
        if name in ("start", "end") and {"start", "end"} <= known:
            return "range", ()
        return _TIMES.get(name, "length"), ()
    plain: dict[Any, Kind] = {bool: "switch", int: "count", float: "amount", str: "text"}
    return plain.get(hint, "other"), ()
