"""The velmot-phrases file: phrases of the book, to be taken out and brought in elsewhere."""

from __future__ import annotations

import json
from collections.abc import Sequence
from dataclasses import dataclass
from typing import Annotated, Any, Literal

from pydantic import BaseModel, ConfigDict, Field

from velmot.core.curves.segments import HOLD
from velmot.core.errors import RequestError
from velmot.core.limits import MOST_BOOK, MOST_SPOTS
from velmot.core.session.phrases import Phrase
from velmot.core.time.ticks import Tick, beats_of, ticks_of
from velmot.core.verbs.frame.given import phrase_of
from velmot.core.verbs.request import ClipPoint, GivenPhrase
from velmot.formats.report import MEGABYTE, FormatError
from velmot.formats.session_file import envelope_of, point_rows, shape_of, shape_row
from velmot.formats.session_shape import PhraseFields
from velmot.formats.shaped import shaped

ENDING = ".velmot-phrases.json"
ACCEPTED = "a velmot-phrases file"
LARGEST = 64 * MEGABYTE


class PhraseEntry(PhraseFields):
    """A phrase: points from 0 to its length, or a recipe; what it is for, and tags."""

    model_config = ConfigDict(extra="ignore")

    says: Annotated[str, Field(max_length=2000)] = ""
    tags: Annotated[list[Annotated[str, Field(max_length=40)]], Field(max_length=20)] = []


class PhrasesShape(BaseModel):
    """A file of phrases. Positions are beats."""

    format: Literal["velmot-phrases"]
    version: Literal[1]
    phrases: Annotated[list[PhraseEntry], Field(max_length=MOST_BOOK)]


@dataclass(frozen=True)
class Kept:
    """A phrase with what it is for and its tags."""

    phrase: GivenPhrase
    says: str = ""
    tags: tuple[str, ...] = ()


def write(phrases: Sequence[Kept]) -> bytes:
    """A file's bytes."""
    rows = [given_row(one.phrase) | {"says": one.says, "tags": [*one.tags]} for one in phrases]
    lines = ",\n  ".join(json.dumps(row, ensure_ascii=False) for row in rows)
    return f'{{"format": "velmot-phrases", "version": 1, "phrases": [\n  {lines}\n]}}\n'.encode()


def read(data: bytes) -> list[Kept]:
    """The phrases of a file's bytes; FormatError names the first thing wrong and its place."""
    box = shaped(PhrasesShape, data, "phrases", LARGEST, ACCEPTED)
    return [_kept(entry, f"phrases[{i}]") for i, entry in enumerate(box.phrases)]


def _kept(entry: PhraseEntry, place: str) -> Kept:
    try:
        made = _given(entry)
        phrase_of(made, "phrase")
    except RequestError as error:
        said = f"{place}, “{entry.name}”: {error.message}"
        inner = error.place.removeprefix("given").lstrip(".")
        where = f"{place}.{inner}" if inner else place
        raise FormatError(error.code, said, place=where, accepted=error.accepted) from None
    return Kept(made, entry.says, tuple(entry.tags))


def _given(entry: PhraseEntry) -> GivenPhrase:
    if entry.points is not None and len(entry.points) > MOST_SPOTS:
        raise RequestError("points-many", place="points", accepted=f"at most {MOST_SPOTS:,}")
    if entry.points is not None and entry.shape is not None:
        raise RequestError("phrase-curve/file", place="points", accepted="one of them")
    rows = envelope_of(entry.points, entry.axis).points() if entry.points is not None else []
    points = tuple(ClipPoint(Tick(at), value, None if bend == HOLD else bend) for at, value, bend in rows)
    recipe = None if entry.shape is None else shape_of(entry.shape)
    return GivenPhrase(
        entry.name, Tick(ticks_of(entry.length)), points, recipe, entry.unit, entry.axis, entry.low, entry.high
    )


def given_of(row: dict[str, Any]) -> GivenPhrase:
    """The phrase a row of `given_row` says."""
    return _given(PhraseEntry.model_validate(row))


def given_row(phrase: GivenPhrase) -> dict[str, Any]:
    """A phrase as the file says it."""
    row: dict[str, Any] = {"name": phrase.name, "length": beats_of(phrase.length)}
    row |= {"unit": phrase.unit, "axis": phrase.axis.value, "low": phrase.low, "high": phrase.high}
    if phrase.shape is not None:
        return row | {"shape": shape_row(phrase.shape)}
    curve = phrase_of(phrase, "phrase").curve
    assert curve is not None
    return row | {"points": point_rows(curve)}


def given_from(phrase: Phrase) -> GivenPhrase:
    """A session's phrase as it is brought along."""
    rows = phrase.curve.points() if phrase.curve is not None else []
    points = tuple(ClipPoint(Tick(at), value, None if bend == HOLD else bend) for at, value, bend in rows)
    return GivenPhrase(
        phrase.name, Tick(phrase.length), points, phrase.shape, phrase.unit, phrase.axis, phrase.low, phrase.high
    )
