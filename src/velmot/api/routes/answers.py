"""Answers that are sure to fit, written without being validated a second time."""

from __future__ import annotations

from collections.abc import Sequence
from typing import Any

from django.http import HttpResponse
from pydantic import BaseModel, TypeAdapter


def quick(answer: BaseModel) -> HttpResponse:
    """A model as JSON."""
    return text(answer.model_dump_json())


def quick_list(kind: TypeAdapter[Any], answers: Sequence[BaseModel]) -> HttpResponse:
    """A list of models as JSON."""
    return text(kind.dump_json(list(answers)))


def text(json: str | bytes) -> HttpResponse:
    """JSON that is written already."""
    return HttpResponse(json, content_type="application/json")
