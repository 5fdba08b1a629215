"""Requests drawn from the API's own document, and files with damage: some fit, some nearly do, some are meant to hurt.

`python -m tests.hostile 20000 2000` (`make fuzz`) sends so many of each and prints what was answered; a test sends a few.
"""

from __future__ import annotations

import io
import json
import os
import random
import sys
import time
from collections import Counter
from typing import Any

ODD: list[Any] = [
    None, True, False, 0, 1, -1, 2**31, 2**63, 2**64, 10**30, 1e308, -1e308, 5e-324, 0.1, "", " ", "x", "−∞", "1e400",
    "\u0000", "é" * 50, "<b>&amp;</b>", "a\nb", "../..", [], {}, [[]], [None], {"a": 1}, "L1", "track", "bell.level",
]  # fmt: skip
RAW = ["NaN", "Infinity", "-Infinity", "1e400", "-1e400", "1" * 400, "1" * 5000, '"\\ud800"', "[" * 3000, "{", ""]
WORDS = {
    "lane": ["L1", "L2", "L10", "L21", "lane1", "nope"],
    "track": ["bell", "choir", "keeper", "gulls", "swell", "nope"],
    "target": ["bell", "choir", "keeper", "gulls"],
    "parameter": ["bell.level", "bell.pan", "choir.level", "foghorn.growl.growl-drive", "bell.muted", "nope"],
    "onto": ["bell.level", "keeper.level", "nope"],
    "region": ["bell.r1", "bell.r2", "foghorn.r1", "nope"],
    "home": ["track", "bell.r1", "nope"],
    "device": ["foghorn.growl", "nope"],
    "text": ["-3 dB", "+2", "*0.5", "9.2.50", "1:20", "12 s", "1e999", "9" * 190, "٣", "²", "1/64t", "="],
    "name": ["x", "", "a" * 301, "né"],
    "unit": ["dB", "Hz", ""],
}


class Hostile:
    """Draws from an OpenAPI document; `chance` decides everything."""

    def __init__(self, document: dict[str, Any], seed: int) -> None:
        self.document, self.chance = document, random.Random(seed)
        self.routes = [
            (method, path, route)
            for path, methods in document["paths"].items()
            for method, route in methods.items()
            if not path.endswith(("/import", "/demo", "/remove"))  # which would end it all
        ]

    def resolved(self, schema: dict[str, Any]) -> dict[str, Any]:
        while "$ref" in schema:
            schema = self.document["components"]["schemas"][schema["$ref"].rsplit("/", 1)[1]]
        return schema

    def value(self, schema: dict[str, Any], name: str = "", depth: int = 0) -> Any:
        """Something for a schema; seldom something else."""
        chance, schema = self.chance, self.resolved(schema)
        if chance.random() < 0.03:
            return chance.choice(ODD)
        if "const" in schema:
            return schema["const"]
        if "enum" in schema:
            return chance.choice(schema["enum"])
        for many in ("anyOf", "oneOf"):
            if many in schema:
                return self.value(chance.choice(schema[many]), name, depth)
        kind = schema.get("type")
        if kind == "object" or "properties" in schema:
            return self.thing(schema, depth)
        if kind == "array":
            longest = chance.choice([0, 1, 1, 2, 3, 5, 40]) if depth < 4 else 1
            return [self.value(schema.get("items", {}), name.removesuffix("s"), depth + 1) for _ in range(longest)]
        if kind == "string":
            return chance.choice(WORDS.get(name.removesuffix("s").removesuffix("e"), WORDS.get(name, ["x", "L1", ""])))
        if kind == "integer":
            return chance.choice([0, 1, 2, 3, 7, 100, 1000, -1, 10**6])
        if kind == "number":
            low, high = schema.get("minimum", -1e6), schema.get("maximum", 1e6)
            return chance.choice([0, 1, 4.5, 16, 32, 64.25, 252, low, high, low - 1, high * 2, 1e-7])
        if kind == "boolean":
            return chance.random() < 0.5
        return chance.choice(ODD)

    def thing(self, schema: dict[str, Any], depth: int) -> dict[str, Any]:
        made = {}
        for key, inner in schema.get("properties", {}).items():
            required = key in schema.get("required", ())
            if (required and self.chance.random() < 0.99) or (not required and self.chance.random() < 0.5):
                made[key] = self.value(inner, key, depth + 1)
        if self.chance.random() < 0.02:
            made[self.chance.choice(["extra", "", "\ud800"])] = self.chance.choice(ODD)
        return made

    def text(self, value: Any) -> str:
        """JSON, seldom with a piece of it replaced by something no one should send."""
        said = json.dumps(value)
        if self.chance.random() < 0.06:
            numbers = [i for i, c in enumerate(said) if c.isdigit()] or [0]
            at = self.chance.choice(numbers)
            said = said[:at] + self.chance.choice(RAW) + said[at + 1 :]
        return said

    def request(self, session: int) -> tuple[str, str, str | None]:
        """(method, path with query, body)."""
        method, path, route = self.chance.choice(self.routes)
        query = []
        for p in route.get("parameters", ()):
            drawn = self.value(p["schema"], p["name"])
            if p["in"] == "path":
                path = path.replace("{path:", "{")
                known = session if p["name"] == "id" and self.chance.random() < 0.95 else drawn
                path = path.replace("{" + p["name"] + "}", _quoted(known))
            elif p.get("required") or self.chance.random() < 0.5:
                query.append(f"{p['name']}={_quoted(drawn)}")
        body = route.get("requestBody", {}).get("content", {}).get("application/json")
        sent = None if body is None else self.text(self._body(body["schema"], session))
        return method, path + ("?" + "&".join(query) if query else ""), sent

    def _body(self, schema: dict[str, Any], session: int) -> Any:
        made = self.value(schema)
        if isinstance(made, dict) and "revision" in made and self.chance.random() < 0.9:
            from velmot.storage import sessions

            made["revision"] = sessions.row(session).head
        return made

    def damaged(self, data: bytes) -> bytes:
        """A file with something wrong: bytes changed, cut out, doubled, or a number or word replaced."""
        chance, out = self.chance, bytearray(data)
        for _ in range(chance.choice([1, 1, 2, 5])):
            at = chance.randrange(len(out)) if out else 0
            way = chance.randrange(6)
            if way == 0 and out:
                out[at] = chance.randrange(256)
            elif way == 1:
                del out[at : at + chance.choice([1, 4, 100, 10_000])]
            elif way == 2:
                out[at:at] = out[at : at + chance.choice([1, 8, 400])]
            elif way == 3:
                out[at:at] = bytes(chance.randrange(256) for _ in range(chance.choice([1, 4, 40])))
            elif way == 4:
                out[at : at + 1] = chance.choice(RAW).encode()
            else:
                word = chance.choice([b'"x": 1e400, ', b'"\\ud800": 1, ', b"null", b"[[", b'"track"', b"-1", b"1e-320"])
                out[at:at] = word
        return bytes(out)


def _quoted(value: Any) -> str:
    from urllib.parse import quote

    return quote(str(value).encode("utf-8", "surrogatepass"), safe="")


class Attack:
    """Sends what is drawn to the API in this process and judges every answer."""

    def __init__(self, seed: int) -> None:
        from django.test import Client

        from velmot.core.verbs.reuse.starter_phrases import STARTERS
        from velmot.formats import container_file, midi, phrases_file, points_table, ride_file, session_file
        from velmot.formats.midi.write import usual_choices
        from velmot.site.demo import skerry_light
        from velmot.site.paths import ROOT
        from velmot.storage import sessions

        self.client = Client(raise_request_exception=False, headers={"host": "127.0.0.1"})
        self.draw = Hostile(json.loads((ROOT / "docs" / "openapi.json").read_text()), seed)
        demo = skerry_light.session()
        self.session = sessions.create(demo)
        self.files = {
            "x.velmot.json": session_file.write(demo),
            "x.mid": midi.write(demo, usual_choices(demo)[:6])[0],
            "x.velmot-container.json": container_file.write(demo, "foghorn.r1"),
            "x.csv": points_table.write(demo, ["L1", "L2", "L12"])[0],
            "x.velmot-phrases.json": phrases_file.write(
                [phrases_file.Kept(one.phrase, one.says, one.tags) for one in STARTERS[:6]]
            ),
            "x.velmot-ride.json": ride_file.write(ride_file.shipped()[1]),
        }
        self.answers: Counter[int] = Counter()
        self.wrong: list[str] = []

    def send(self, count: int) -> None:
        for _ in range(count):
            method, path, body = self.draw.request(self.session)
            begun = time.monotonic()
            answer = self.client.generic(
                method.upper(), path, (body or "").encode("utf-8", "surrogatepass"), "application/json"
            )
            self.judge(answer, time.monotonic() - begun, f"{method} {path} {body}")

    def upload(self, count: int) -> None:
        for n in range(count):
            name = [*self.files][n % len(self.files)]
            data = io.BytesIO(self.draw.damaged(self.files[name]))
            data.name = name
            begun = time.monotonic()
            answer = self._let_in(name, data)
            self.judge(answer, time.monotonic() - begun, f"{name} {data.getvalue()[:4000]!r}")
            if answer.status_code == 200 and name in ("x.velmot.json", "x.mid", "x.csv"):
                self._reads_back(answer.json()["id"])

    def _let_in(self, name: str, data: io.BytesIO) -> Any:
        if "container" in name:
            return self.client.post(f"/api/sessions/{self.session}/container?track=bell&at=4", {"file": data})
        if "phrases" in name:
            return self.client.post("/api/book/file", {"file": data})
        if "ride" in name:
            text = data.getvalue().decode("utf-8", "surrogateescape").encode("utf-8", "replace").decode()
            body = json.dumps({"text": text})
            return self.client.post(f"/api/sessions/{self.session}/rides", body, content_type="application/json")
        return self.client.post("/api/sessions/import", {"file": data})

    def _reads_back(self, id: int) -> None:
        """What was let in opens, and is written so that it can be read again."""
        from velmot.formats import session_file
        from velmot.storage import sessions, sources

        written = session_file.write(sessions.load(id))
        assert session_file.write(session_file.read(written)[0]) == written
        opened = self.client.get(f"/api/sessions/{id}")
        self.judge(opened, 0, f"open {written[:2000]!r}")
        if opened.json()["source"]:
            source = sources.source_of(id).data
            taken = self.client.get(f"/api/sessions/{id}/export/into")
            self.judge(taken, 0, f"into {source[:2000]!r}")
            assert taken.content == source
        sessions.put_away(id)
        sessions.remove(id)

    def judge(self, answer: Any, seconds: float, said: str) -> None:
        self.answers[answer.status_code] += 1
        refused = answer.status_code >= 400
        shaped = not refused or {"code", "message", "accepted"} <= set(_json(answer))
        if answer.status_code >= 500 or not shaped or seconds > 5:
            self.wrong.append(f"{answer.status_code} after {seconds:.1f} s: {said[:1500]}")


def _json(answer: Any) -> dict[str, Any]:
    try:
        return answer.json()
    except ValueError:
        return {}


def main() -> None:
    import tempfile

    os.environ["VELMOT_DATA"] = tempfile.mkdtemp(prefix="velmot-fuzz-")
    os.environ.setdefault("DJANGO_SETTINGS_MODULE", "velmot.site.settings")
    import django

    django.setup()
    from django.conf import settings

    from velmot.storage import upkeep

    upkeep.prepare(settings.DATA / settings.DATABASE)
    requests, files = (int(n) for n in (*sys.argv[1:], 20_000, 30_000)[:2])
    attack = Attack(seed=int(os.environ.get("SEED", "1")))
    attack.send(requests)
    attack.upload(files)
    print(dict(sorted(attack.answers.items())))
    print("\n".join(attack.wrong[:40]))
    print(f"{len(attack.wrong)} wrong answers to {requests:,} requests and {files:,} files")
    sys.exit(bool(attack.wrong))


if __name__ == "__main__":
    main()
