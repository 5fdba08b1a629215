"""Small JSON files of Velmot's own, read into their shape: the first thing wrong is named with its place."""

from __future__ import annotations

from typing import TypeVar

from pydantic import BaseModel, ValidationError

from velmot.formats.report import FormatError
from velmot.formats.strict_json import NotPlain, parsed

S = TypeVar("S", bound=BaseModel)


def shaped(shape: type[S], data: bytes, what: str, largest: int, accepted: str) -> S:
    """The file's bytes as its shape; FormatError with a code that begins with `what`, if it is anything else."""
    if not data or len(data) > largest:
        raise FormatError(f"{what}-size", f"the file has {len(data):,} bytes", place="file", accepted=accepted)
    try:
        return shape.model_validate(parsed(data.removeprefix(b"\xef\xbb\xbf")))
    except ValidationError as error:
        first = error.errors()[0]
        place = ".".join(str(part) for part in first["loc"])
        said = f"{place}: {first['msg'].lower()}"
        raise FormatError(f"{what}-unread", said, place=place, accepted=accepted) from None
    except NotPlain as error:
        raise FormatError(f"{what}-unread", error.message, place=error.place, accepted=accepted) from None
    except (ValueError, RecursionError):
        raise FormatError(f"{what}-unread", "the file is not JSON", place="file", accepted=accepted) from None
