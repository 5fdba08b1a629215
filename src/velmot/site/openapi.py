"""Writes (or with --check compares) docs/openapi.json and the session file's JSON Schema."""

from __future__ import annotations

import json
import os
import sys

import django


def documents() -> dict[str, str]:
    """File name in docs/ → its text, as the code of today says it."""
    from velmot.formats.session_shape import SessionShape
    from velmot.site.urls import api

    schema = SessionShape.model_json_schema() | {"$schema": "https://json-schema.org/draft/2020-12/schema"}
    return {
        "openapi.json": json.dumps(api.get_openapi_schema(), indent=2, default=str) + "\n",
        "velmot-session.schema.json": json.dumps(schema, indent=2, ensure_ascii=False) + "\n",
    }


def main() -> None:
    os.environ.setdefault("DJANGO_SETTINGS_MODULE", "velmot.site.settings")
    django.setup()
    from velmot.site.paths import ROOT

    for name, text in documents().items():
        path = ROOT / "docs" / name
        if "--check" not in sys.argv:
            path.write_text(text)
        elif not path.exists() or path.read_text() != text:
            sys.exit(f"docs/{name} is not what the code says today: run `make docs` and commit it")


if __name__ == "__main__":
    main()
