"""`python -m velmot.site.generated [--check]`: write what follows from the code, or say whether what is committed still does.

The API's document, the schemas of the session's and the phrases' file, docs/keys.md, and the front end's table of verbs and keys.
"""

from __future__ import annotations

import json
import os
import sys
from pathlib import Path

import django

from velmot.core.verbs.fields import Field, fields_of
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
        ROOT / "docs" / "verbs.md": _verbs_page(),
        ROOT / "frontend" / "src" / "lib" / "table.ts": _table(),
        ROOT / "frontend" / "src" / "lib" / "said.json": _said(),
    }


def _json(content: object) -> str:
    return json.dumps(content, indent=2, ensure_ascii=False) + "\n"


def _said() -> str:
    """Values, distances and places with the core's own words for them: what the page writes has to be the same."""
    from velmot.core.curves.axes import Axis
    from velmot.core.parameters.parameter import Family, Parameter, level, mute, pan
    from velmot.core.time.tempo import Meter, TempoMap
    from velmot.presentation.tracks import phrase_parameter_out

    hertz = Parameter(
        "f", "Cutoff", Family.DEVICE, unit="Hz", axis=Axis.LOG, low=20.0, high=20_000.0, value=440.0, default=440.0
    )
    wet = Parameter("w", "Wet", Family.DEVICE, low=0.0, high=1.0)
    known = (level("l"), level("m", low=-60.0), pan("p"), mute("u"), hertz, wet)
    values = []
    for p in known:
        steps = [p.low + (p.high - p.low) * n / 108 for n in range(109)] if not p.labels else [0.0, 1.0]
        quarters = [k / 4 for k in range(-400, 401, 7)]
        odd = (
            [] if p.labels else [*quarters, -0.02, -0.04, -0.06, -99.25, -7.25, 0.125, 0.25, 0.75, 2.675, 999.5, 1000.0]
        )
        some = [v for v in steps + odd if p.low <= v <= p.high]
        far = [] if p.labels else [0.0, 0.001, -0.004, 0.25, -0.75, 3.0, 0.125, 1.0]
        values.append(
            {
                "parameter": phrase_parameter_out(p).model_dump(),
                "values": [[v, p.format(v)] for v in some],
                "distances": [[d, p.format_distance(d)] for d in far],
            }
        )
    tempo = TempoMap(meters=(Meter(0, 4, 4), Meter(8 * 1_612_800, 7, 8), Meter(15 * 1_612_800, 3, 4)))
    bars = [
        {"number": number, "beat": tick / 1_612_800, "count": m.count, "unit": m.unit}
        for number, tick, m in tempo.bar_starts(30 * 1_612_800)
    ]
    ticks = [
        0,
        1,
        1_612_799,
        1_612_800,
        12_902_399,
        12_902_400,
        13_708_799,
        13_708_800,
        24_191_999,
        24_192_000,
        40_000_001,
    ]
    places = [[tick / 1_612_800, str(tempo.position(tick))] for tick in ticks]
    return json.dumps({"parameters": values, "bars": bars, "places": places}, ensure_ascii=False) + "\n"


def _usual(field: Field) -> object:
    """A default as the page takes it: beats for ticks."""
    from velmot.core.time.ticks import beats_of

    ticks = field.kind in ("range", "position", "length") and field.default is not None
    return beats_of(field.default) if ticks else field.default


def _verbs_page() -> str:
    """docs/verbs.md: every verb of the worksheet with what it can be asked, by the names that requests have for it."""
    from velmot.core.verbs import operations_of
    from velmot.core.verbs.table import VERBS
    from velmot.presentation.keys import written

    out = [
        "# Verbs",
        "",
        "What the worksheet does, and what each verb can be asked, as requests name it. Positions and lengths are beats.",
        "",
    ]
    for verb in VERBS:
        out += [f"## {verb.name} (`{written(verb.key)}`)", ""]
        for operation in operations_of(verb):
            about = (operation.request.__doc__ or "").strip().splitlines()[0]
            out += [f"### {operation.verb}", "", about, "", "| field | what it says |", "| --- | --- |"]
            out += [f"| `{f.name}` | {_cell(f)} |" for f in fields_of(operation.request)]
            out.append("")
    return "\n".join(out).rstrip() + "\n"


def _cell(field: Field) -> str:
    """A field in a cell of a table: what it means, its choices, its reach."""
    choices = f" One of: {', '.join(f'`{c}`' for c in field.choices)}." if field.choices else ""
    least, most = field.reach
    reach = (
        "" if field.reach == (None, None) else f" From {least:g}." if most is None else f" From {least:g} to {most:g}."
    )
    return (field.says + choices + reach).replace("|", "\\|")


def _field(field: Field) -> dict[str, object]:
    """What a sheet has to know of a field; what is not there is as is usual."""
    least, most = field.reach
    known = {
        "kind": field.kind,
        "label": field.label,
        "says": field.says,
        "usual": _usual(field),
        "words": [{"value": value, "words": words} for value, words in field.words],
        "unit": field.unit,
        "least": least,
        "most": most,
        "needed": field.needed or None,
    }
    return {name: value for name, value in known.items() if value not in (None, "", [], ())}


def _table() -> str:
    """The verbs and keys as the front end takes them."""
    from velmot.core.verbs import OPERATIONS, operations_of
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
    sheets = {path.name for path in (ROOT / "frontend" / "src" / "worksheet").glob("*Sheet.vue")}
    plain = {
        v.id: [{"verb": o.verb, "fields": [f.name for f in fields_of(o.request)]} for o in operations_of(v)]
        for v in VERBS
        if f"{v.id.capitalize()}Sheet.vue" not in sheets
    }
    asked_for = sorted(OPERATIONS)
    parts = {
        "VERBS": verbs,
        "VERBS_ASKED": asked_for,
        "ACTIONS": actions,
        "KEYS": rows,
        "PLAIN_SHEETS": plain,
    }
    body = "\n".join(f"export const {name} = {_json(part).rstrip()} as const" for name, part in parts.items())
    rows_of = [
        f"  {json.dumps(f'{o.verb}/{f.name}')}: {json.dumps(_field(f), ensure_ascii=False)},"
        for o in OPERATIONS.values()
        for f in fields_of(o.request)
    ]
    body += "\nexport const FIELDS = {\n" + "\n".join(rows_of) + "\n} as const"
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
