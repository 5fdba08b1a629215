"""`python -m velmot.site.generated [--check]`: write what follows from the code, or say whether what is committed still does.

The API's document, the schemas of the session's and the phrases' file, docs/keys.md, and the front end's table of verbs and keys.
"""

from __future__ import annotations

import json
import os
import sys
from pathlib import Path

import django

from velmot.site.paths import ROOT

_SCHEMA = {"$schema": "https://json-schema.org/draft/2020-12/schema"}


def pages() -> dict[Path, str]:
    """Every file that is generated, and its text."""
    from velmot.api.document import Document
    from velmot.formats.phrases_file import PhrasesShape
    from velmot.formats.session_shape import SessionShape
    from velmot.presentation.keys import keys_page
    from velmot.site.urls import api

    return {
        ROOT / "docs" / "openapi.json": json.dumps(Document(api, "/api/"), indent=2, default=str) + "\n",
        ROOT / "docs" / "velmot-session.schema.json": _json(SessionShape.model_json_schema() | _SCHEMA),
        ROOT / "docs" / "velmot-phrases.schema.json": _json(PhrasesShape.model_json_schema() | _SCHEMA),
        ROOT / "docs" / "keys.md": keys_page(),
        ROOT / "frontend" / "src" / "lib" / "table.ts": _table(),
    }


def _json(content: object) -> str:
    return json.dumps(content, indent=2, ensure_ascii=False) + "\n"


def _table() -> str:
    """The verbs and keys as the front end takes them."""
    from velmot.core.verbs.table import VERBS
    from velmot.presentation.keys import KEYS, written

    verbs = [
        {
            "id": v.id,
            "name": v.name,
            "key": v.key,
            "written": written(v.key),
            "purpose": v.purpose,
            "hint": v.hint,
            "then": v.then,
        }
        for v in VERBS
    ]
    actions = {key.action: key.keys for key in KEYS if key.action}
    rows = [{"written": key.written, "says": key.says} for key in KEYS]
    parts = {"VERBS": verbs, "ACTIONS": actions, "KEYS": rows}
    body = "\n".join(f"export const {name} = {_json(part).rstrip()} as const" for name, part in parts.items())
    types = "export type VerbId = (typeof VERBS)[number]['id']\nexport type Action = keyof typeof ACTIONS"
    return f"// Made by `make docs` from core/verbs/table.py and presentation/keys.py: change those.\n{body}\n{types}\n"


def main() -> int:
    """Write every page, or with --check name those that are out of date; 1 if there is one."""
    os.environ.setdefault("DJANGO_SETTINGS_MODULE", "velmot.site.settings")
    django.setup()
    stale = [(path, text) for path, text in pages().items() if not path.exists() or path.read_text() != text]
    if "--check" not in sys.argv:
        for path, text in stale:
            path.write_text(text)
        return 0
    for path, _ in stale:
        print(f"{path.relative_to(ROOT)} is out of date: run `make docs`", file=sys.stderr)
    return 1 if stale else 0


if __name__ == "__main__":
    sys.exit(main())
