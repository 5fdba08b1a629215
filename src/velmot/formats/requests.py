"""Requests as JSON: each verb's request type, declared once in the core, becomes a schema and back.

Ticks are beats outside the core; everything else keeps its name and meaning.
"""

from __future__ import annotations

import types
from dataclasses import MISSING, fields, is_dataclass
from functools import cache
from typing import Annotated, Any, Literal, Union, get_args, get_origin, get_type_hints

import numpy as np
from pydantic import BaseModel, ConfigDict, Field, create_model

from velmot.core.errors import RequestError
from velmot.core.limits import LONGEST_NAME
from velmot.core.time.ticks import MOST_TICKS, TICKS_PER_BEAT, Tick, beats_of, ticks_array, ticks_of
from velmot.core.verbs import OPERATIONS

_FAR = MOST_TICKS / TICKS_PER_BEAT
Beats = Annotated[float, Field(ge=-_FAR, le=_FAR, allow_inf_nan=False)]


@cache
def model_of(kind: type[Any]) -> type[BaseModel]:
    """The pydantic model of a core request type (or of a dataclass inside one)."""
    hints = _hints(kind)  # type: ignore[arg-type]
    columns: dict[str, Any] = {}
    for f in fields(kind):
        default = ... if f.default is MISSING and f.default_factory is MISSING else f.default
        if f.default_factory is not MISSING:
            default = f.default_factory()
        says, most = f.metadata.get("says"), f.metadata.get("most")
        columns[f.name] = (
            _outside(hints[f.name]),
            Field(_outside_value(default), description=says, max_length=most or _most_letters(hints[f.name])),
        )
    return create_model(kind.__name__, __config__=ConfigDict(extra="forbid"), __doc__=kind.__doc__, **columns)


@cache
def _hints(kind: type[Any]) -> dict[str, Any]:
    """The annotations of a request type's fields. Read once: reading them takes longer than a whole point does."""
    return get_type_hints(kind)


def _most_letters(hint: Any) -> int | None:
    """How long the text of a field may be: ids and names with room to spare, so that a plain refusal can say why."""
    return 2 * LONGEST_NAME if hint is str or (str in get_args(hint) and type(None) in get_args(hint)) else None


def request_models() -> list[type[BaseModel]]:
    """One model a verb, told apart by their `verb`."""
    return [_with_verb(verb) for verb in OPERATIONS]


@cache
def _with_verb(verb: str) -> type[BaseModel]:
    base = model_of(OPERATIONS[verb].request)  # type: ignore[arg-type]
    return create_model(base.__name__ + "Request", __base__=base, __doc__=base.__doc__, verb=(Literal[verb], ...))  # type: ignore[arg-type]


def to_core(model: BaseModel) -> tuple[str, Any]:
    """(verb, core request) of a validated model."""
    verb = str(model.verb)  # type: ignore[attr-defined]
    return verb, _inside(OPERATIONS[verb].request, model)


def from_row(row: dict[str, Any]) -> tuple[str, Any]:
    """(verb, core request) of plain JSON; RequestError if it names no known verb or does not fit."""
    verb = row.get("verb")
    if verb not in OPERATIONS:
        raise RequestError("verb-unknown", verb=str(verb), place="verb", accepted=", ".join(OPERATIONS))
    return to_core(_with_verb(verb).model_validate(row))


def to_row(verb: str, request: Any) -> dict[str, Any]:
    """Plain JSON of a core request, which `from_row` reads back."""
    return {"verb": verb, **_row(request)}


def from_plain(kind: type[Any], model: BaseModel) -> Any:
    """The core dataclass a validated model of `model_of` says."""
    return _inside(kind, model)


def to_plain(thing: Any) -> dict[str, Any]:
    """Plain JSON of a core dataclass, which its model reads."""
    return _row(thing)


def _row(request: Any) -> dict[str, Any]:
    return {name: _value_row(hint, getattr(request, name)) for name, hint in _hints(type(request)).items()}  # type: ignore[arg-type]


def _value_row(hint: Any, value: Any) -> Any:
    if value is None:
        return None
    if _holds_ticks(hint) and isinstance(value, int):
        return beats_of(value)
    if is_dataclass(value):
        return _row(value)
    if isinstance(value, tuple):
        inner, uniform = _entries_in(hint)
        return [_value_row(inner[0] if uniform else inner[i], v) for i, v in enumerate(value)]
    return value


def _outside(hint: Any) -> Any:
    """The annotation a schema has for a core annotation."""
    if hint is Tick:
        return Beats
    if isinstance(hint, type) and is_dataclass(hint):
        return model_of(hint)
    origin, inner = get_origin(hint), get_args(hint)
    if origin in (Union, types.UnionType):
        return Union[tuple(_outside(x) for x in inner)]  # noqa: UP007
    if origin is tuple and len(inner) == 2 and inner[1] is ...:
        return list[_outside(inner[0])]  # type: ignore[misc]
    if origin is tuple:
        return tuple[tuple(_outside(x) for x in inner)]  # type: ignore[misc]
    if hint is float:
        return Annotated[float, Field(allow_inf_nan=False)]
    return hint


def _outside_value(value: Any) -> Any:
    return list(value) if isinstance(value, tuple) else value


def _inside(hint: Any, value: Any) -> Any:
    """A validated value as the core wants it: beats as ticks, lists as tuples, models as dataclasses."""
    if isinstance(value, BaseModel):
        kind = _kind_in(hint)
        return kind(**{name: _inside(inner, getattr(value, name)) for name, inner in _hints(kind).items()})  # type: ignore[arg-type]
    if isinstance(value, list | tuple):
        inner, uniform = _entries_in(hint)
        if uniform and _as_they_are(inner[0]):
            return tuple(value)
        if uniform and inner[0] is Tick:
            return tuple(Tick(t) for t in ticks_array(np.array(value, dtype=np.float64)).tolist())
        return tuple(_inside(inner[0] if uniform else inner[i], v) for i, v in enumerate(value))
    if _holds_ticks(hint) and isinstance(value, int | float) and not isinstance(value, bool):
        return ticks_of(value)
    return value


@cache
def _as_they_are(hint: Any) -> bool:
    """Whether values of an annotation are the same inside as outside: numbers, texts and words of a choice."""
    if get_origin(hint) is Literal:
        return True
    inner = get_args(hint)
    return all(_as_they_are(x) for x in inner) if inner else hint in (int, float, str, bool, type(None))


@cache
def _kind_in(hint: Any) -> type[Any]:
    """The dataclass an annotation means."""
    return next(x for x in (hint, *get_args(hint)) if isinstance(x, type) and is_dataclass(x))


@cache
def _entries_in(hint: Any) -> tuple[tuple[Any, ...], bool]:
    """The annotations of a tuple's entries, and whether they are all alike."""
    options = [h for h in (hint, *get_args(hint)) if get_origin(h) is tuple]
    inner = get_args(options[0]) if options else (Any,)
    return inner, len(inner) < 2 or inner[1] is ...


@cache
def _holds_ticks(hint: Any) -> bool:
    return hint is Tick or (get_origin(hint) in (Union, types.UnionType) and Tick in get_args(hint))
