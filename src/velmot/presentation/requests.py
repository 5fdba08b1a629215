"""Requests as they travel inside answers: steps that remedies and findings offer."""

from __future__ import annotations

from typing import Annotated, Any, Union

from pydantic import BaseModel, Field

from velmot.core.remedy import Links, Remedy
from velmot.core.verbs import verb_of
from velmot.formats.requests import request_models, to_row

_MODELS = request_models()
AnyRequest: Any = Annotated[Union[tuple(_MODELS)], Field(discriminator="verb")]  # noqa: UP007
"""A request of any verb, told apart by its `verb`."""


class RemedyOut(BaseModel):
    """What can be done, for one click: ask for more regions too, look at another step and take it first, or choose what
    happens to linked places.
    """

    words: str
    also: list[str]
    step: AnyRequest | None
    links: Links | None


def request_out(request: Any) -> dict[str, Any] | None:
    """A core request as it travels; None stays None."""
    return None if request is None else to_row(verb_of(request), request)


def remedy_out(remedy: Remedy | None) -> RemedyOut | None:
    """What a caution or a refusal offers; None where it offers nothing."""
    if remedy is None:
        return None
    step = request_out(remedy.step)
    return RemedyOut(words=remedy.words, also=list(remedy.also), step=step, links=remedy.links)
