"""Requests as sentences, in parts: what the folded worksheet shows and lets be changed in place."""

from __future__ import annotations

from typing import Any

from pydantic import BaseModel, Field

from velmot.core import verbs
from velmot.core.session.session import Session


class PartOut(BaseModel):
    """Some words of a sentence."""

    text: str
    field: str = Field(description="The request's field they stand for; empty for plain words.")
    missing: bool = Field(description="Whether that is still to be chosen.")


class SentenceOut(BaseModel):
    """A request in words."""

    parts: list[PartOut]


def sentence_out(session: Session, verb: str, request: Any) -> SentenceOut:
    """What a request says, whole or not."""
    parts = verbs.sentence(session, verb, request)
    return SentenceOut(parts=[PartOut(text=p.text, field=p.field, missing=p.missing) for p in parts])
