"""The document of the API: every route, and the schemas of what it takes and answers."""

from __future__ import annotations

from typing import Any

from ninja import NinjaAPI
from ninja.openapi.schema import OpenAPISchema


class Document(OpenAPISchema):
    """The API's, with each kind of answer worked out once: a refusal stands under every route and names every verb."""

    def __init__(self, api: NinjaAPI, prefix: str) -> None:
        self.known: dict[Any, tuple[dict[str, Any], bool]] = {}
        super().__init__(api, prefix)

    def _create_schema_from_model(self, model: Any, *given: Any, **named: Any) -> tuple[dict[str, Any], bool]:
        answer = model.model_fields.get("response")
        key = (answer.annotation, given, tuple(named.items())) if answer else model
        if key not in self.known:
            self.known[key] = super()._create_schema_from_model(model, *given, **named)
        return self.known[key]
