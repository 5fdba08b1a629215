"""What is let in: limits met and passed, requests and files meant to hurt, the machine's own troubles, and every answer's shape."""

import json
import sqlite3
import time

import pytest
from django.core.files.uploadedfile import SimpleUploadedFile
from django.db import DatabaseError, OperationalError
from django.test import Client

from tests.api.test_api import SHAPE, client, demo, post, upload  # noqa: F401
from tests.hostile import Attack
from velmot.api.errors import TROUBLES, trouble
from velmot.core.limits import MOST_GROUPS, MOST_LANES, MOST_REGIONS, MOST_SPOTS, MOST_TIMES
from velmot.core.verbs import OPERATIONS
from velmot.formats import session_file
from velmot.site.paths import ROOT
from velmot.storage import history, sessions

ENDLESS = 60.0  # seconds: `make bench` measures, this only tells what would never end


def level(id: str, **more) -> dict:
    return {
        "id": id, "name": "Level", "family": "level", "unit": "dB", "axis": "level",
        "low": -96, "high": 12, "default": 0, "value": 0,
    } | more  # fmt: skip


def track(id: str, *parameters: dict, **more) -> dict:
    return {"id": id, "name": id, "parameters": list(parameters)} | more


def session(**more) -> bytes:
    return json.dumps({"format": "velmot-session", "version": 1, "name": "x", "length": 256} | more).encode()


def filtered(low: float, high: float, axis: str) -> bytes:
    family = level("p", family="device", axis=axis, low=low, high=high, default=high, value=high)
    return session(tracks=[track("t", family)], lanes=[{"id": "L", "parameter": "p", "points": [[0, high]]}])


def grouped(count: int) -> bytes:
    groups = [track(f"g{n}", level(f"p{n}"), kind="group", members=[f"g{n - 1}"]) for n in range(1, count + 1)]
    return session(tracks=[track("g0", level("p0")), *groups])


def overlapping(count: int) -> bytes:
    regions = [{"id": f"r{n}", "name": "r", "start": n, "length": 50_000} for n in range(count)]
    lanes = [{"id": f"L{n}", "parameter": "p", "home": f"r{n}", "points": [[0, -3], [9, -9]]} for n in range(count)]
    return session(length=100_000, tracks=[track("t", level("p"), regions=regions)], lanes=lanes)


def laned(count: int) -> bytes:
    parameters = [level(f"p{n}", name=f"P{n}") for n in range(count)]
    lanes = [{"id": f"L{n}", "parameter": f"p{n}", "points": [[0, -3]]} for n in range(count)]
    return session(tracks=[track("t", *parameters)], lanes=lanes)


@pytest.mark.parametrize(
    ("data", "accepted"),
    [
        (session(length=1_000_000, meter=[[0, 4, 4]]), ""),
        (session(length=1_000_000, meter=[[0, 1, 64]]), "at most 250,000"),
        (session(length=1_000_000, tempo=[[0, 1, "ramp"], [1_000_000, 1000]]), ""),
        (
            session(length=1_000_000, tempo=[[n * 50, 1 + 999 * (n % 2), "ramp"] for n in range(9000)]),
            "at most 250,000",
        ),
        (filtered(1e-9, 1e12, "log"), ""),
        (filtered(5e-324, 1, "log"), "a low above 0, from 1e-09 on"),
        (filtered(-1.7e308, 1.7e308, "linear"), "values within ±1e+12"),
        (filtered(0, 5e-324, "linear"), "a range of at least 1e-06"),
        (grouped(MOST_GROUPS), ""),
        (grouped(MOST_GROUPS + 1), "at most 64 group faders above a track"),
        (grouped(4000), "at most 64 group faders above a track"),
        (overlapping(MOST_REGIONS // 4), ""),
        (laned(MOST_LANES // 4), ""),
        (laned(MOST_LANES + 1), "List should have at most 10000 items after validation, not 10001"),
    ],
    ids=lambda x: "" if isinstance(x, bytes) else x[:30],
)
def test_what_is_allowed_opens_in_seconds_and_what_is_not_is_refused_with_its_limit(client, data, accepted):  # noqa: F811
    begun = time.monotonic()
    answer = upload(client, data)
    if accepted:
        assert (answer.status_code, answer.json()["accepted"]) == (422, accepted)
    else:
        id = answer.json()["id"]
        assert client.get(f"/api/sessions/{id}").status_code == 200
        if parameters := [p.id for t in sessions.load(id).tracks for p in t.parameters][:1]:
            assert client.get(f"/api/sessions/{id}/values?parameters={parameters[0]}&beat=9").status_code == 200
    assert time.monotonic() - begun < ENDLESS


SPOTS = [{"at": n / 500, "value": -(n % 60)} for n in range(MOST_SPOTS)]
CLIP = {
    "track": "Keeper", "name": "Level", "family": "level", "kind": "continuous", "unit": "dB", "axis": "level",
    "low": -96, "high": 12, "points": SPOTS,
}  # fmt: skip
ALL = ["bell", "foghorn", "choir", "keeper", "gulls", "engine", "rain"]


@pytest.mark.parametrize(
    ("request_", "refused"),
    [
        ({"verb": "carry", "lanes": ["L1"], "targets": ALL, "start": 0, "end": 0.25, "times": MOST_TIMES}, ""),
        (
            {"verb": "carry", "lanes": ["L1"], "targets": ALL, "start": 0, "end": 0.25, "times": MOST_TIMES,
             "edges": "ramp", "ramp": 0.1},
            "",
        ),
        ({"verb": "carry", "lanes": ["L1"], "targets": ALL, "start": 0, "end": 9, "times": MOST_TIMES, "every": 0.2}, ""),
        ({"verb": "carry", "lanes": ["L1"] * MOST_LANES, "targets": ["keeper"] * MOST_LANES}, ""),
        ({"verb": "carry", "lanes": ["L1"] * (MOST_LANES + 1), "targets": ["keeper"]}, "not-fitting"),
        ({"verb": "carry", "lanes": ["L21"], "targets": ALL, "times": MOST_TIMES, "every": 0.1}, "too-much"),
        ({"verb": "carry regions", "regions": ["bell.r1", "bell.r2"], "how": "repeat", "times": MOST_TIMES,
          "every": 0.1, "targets": ALL}, "too-much"),
        ({"verb": "add points", "parameter": "keeper.level", "spots": SPOTS}, ""),
        ({"verb": "add points", "parameter": "keeper.level", "spots": [*SPOTS, SPOTS[0]]}, "not-fitting"),
        ({"verb": "move points", "picked": [{"lane": "L1", "points": [1]}] * MOST_LANES, "rise": 1}, ""),
        ({"verb": "paste", "clips": [CLIP], "start": 0, "length": 200}, ""),
        ({"verb": "raise", "lanes": ["L21"] * MOST_LANES, "start": 0, "end": 99, "amount": 1, "before": 9}, ""),
    ],
    ids=lambda x: x["verb"] if isinstance(x, dict) else x,
)  # fmt: skip
def test_requests_at_their_limit_are_planned_in_seconds_and_beyond_it_refused(client, demo, request_, refused):  # noqa: F811
    begun = time.monotonic()
    answer = post(client, f"{demo}/preview", {"revision": 0, "request": request_})
    assert time.monotonic() - begun < ENDLESS
    assert (answer.status_code, answer.json().get("code", "")) == ((422, refused) if refused else (200, ""))
    if refused:
        assert answer.json()["accepted"]


def test_limits_stand_in_the_schema():
    """Every list and text of every request has its most, so that no length of what is asked decides how long it takes."""
    schemas = json.loads((ROOT / "docs" / "openapi.json").read_text())["components"]["schemas"]
    open_ended = []
    for operation in OPERATIONS.values():
        for name, field in schemas[operation.request.__name__ + "Request"]["properties"].items():
            for shape in (field, *field.get("anyOf", ())):
                sized = {"array": "maxItems", "string": "maxLength"}.get(shape.get("type"))
                if sized and sized not in shape and "enum" not in shape and "const" not in shape:
                    open_ended.append((operation.verb, name))
    assert not open_ended


def test_hostile_requests_and_files_are_refused_in_words(db):
    attack = Attack(seed=11)
    attack.send(500)
    attack.upload(90)
    assert not attack.wrong
    assert {200, 422} <= set(attack.answers) and set(attack.answers) <= {200, 204, 400, 403, 404, 409, 413, 422}


@pytest.mark.parametrize(
    ("piece", "place"),
    [
        (b'"x": NaN, ', "x"),
        (b'"x": [{"y": 1e400}], ', "x"),
        (b'"x": ' + b"1" * 400 + b", ", "x"),
        (b'"x": "\\ud800", ', "x"),
        (b'"\\ud800": 1, ', "a key"),
        (b'"x": ' + b"[" * 80 + b"]" * 80 + b", ", "x"),
        (b'"x": ' + b"1" * 5000 + b", ", "file"),
    ],
)
def test_what_is_kept_without_being_used_must_be_plain_too(client, piece, place):  # noqa: F811
    answer = upload(client, session().replace(b'"name"', piece + b'"name"', 1))
    assert answer.status_code == 422 and answer.json()["place"] == place and set(answer.json()) == SHAPE
    named = session().replace(b'"x"', b'"a\\ud800b"')
    assert upload(client, named).json()["place"] == "name"


@pytest.mark.parametrize(
    ("path", "body", "place"),
    [
        ("book/1", b'{"tags": ["a", "half \\ud800"]}', "tags[1]"),
        ("sessions/1", b'{"name": "\\udc00x"}', "name"),
        ("sessions/1", b'{"name": "x", "\\ud800": 1}', "a key"),
        ("sessions/1", b'{"name": "\\ud83d\\ude00 \\\\ud800"}', None),
    ],
)
def test_half_a_character_is_kept_nowhere_and_not_repeated(client, demo, path, body, place):  # noqa: F811
    """In a tag, a name or a key; a pair of halves is a character, and what only looks like one is text."""
    answer = client.patch(f"/api/{path}", body, content_type="application/json")
    if place is None:
        assert answer.status_code == 204 or answer.status_code == 200
        return
    assert answer.status_code == 422 and answer.json()["place"] == place and "half" in answer.json()["message"]


# ── the machine's own troubles ────────────────────────────────────────────────────────────────


@pytest.mark.parametrize(("said", "status", "code"), [(sign, status, code) for sign, status, code, *_ in TROUBLES])
def test_a_trouble_of_the_machine_is_said_plainly_and_saves_nothing(client, demo, monkeypatch, said, status, code):  # noqa: F811
    def fails(*_, **__):
        raise OperationalError(f"database {said} now")

    before = session_file.write(sessions.load(demo))
    monkeypatch.setattr(history, "_swap", fails)
    carry = {"revision": 0, "request": {"verb": "carry", "lanes": ["L1"], "targets": ["keeper"]}}
    answer = post(client, f"{demo}/apply", carry)
    assert (answer.status_code, answer.json()["code"]) == (status, code) and set(answer.json()) == SHAPE
    monkeypatch.undo()
    sessions._cache.clear()
    assert session_file.write(sessions.load(demo)) == before and sessions.row(demo).head == 0
    assert post(client, f"{demo}/apply", carry).status_code == 200


def test_a_disk_that_is_really_full_is_one(tmp_path):
    db = sqlite3.connect(tmp_path / "small")
    db.execute("PRAGMA max_page_count = 4")
    with pytest.raises(sqlite3.OperationalError) as caught:
        db.execute("CREATE TABLE t (x)")
        db.execute("INSERT INTO t VALUES (zeroblob(100000))")
    assert trouble(DatabaseError(str(caught.value)))[:2] == (507, "disk-full")


# ── answers ───────────────────────────────────────────────────────────────────────────────────

HEADERS = {
    "Content-Security-Policy", "X-Frame-Options", "X-Content-Type-Options", "Referrer-Policy",
    "Cross-Origin-Opener-Policy",
}  # fmt: skip


def test_every_answer_carries_the_safety_headers_refusals_too(client, demo):  # noqa: F811
    answers = [
        client.get(f"/api/sessions/{demo}"),
        client.get(f"/api/sessions/{demo}/export/session"),
        client.get("/api/sessions"),
        client.get("/static/nothing.js"),
        client.get("/api/nothing"),
        client.get("/api/sessions", headers={"host": "elsewhere.example"}),
        Client(enforce_csrf_checks=True).post("/api/demo"),
        client.generic("POST", "/api/sessions/import", b"x", content_type="multipart/form-data"),
        client.post(f"/api/sessions/{demo}/preview", b"{", content_type="application/json"),
    ]
    assert [a.status_code for a in answers] == [200, 200, 200, 404, 404, 400, 403, 400, 400]
    for answer in answers:
        assert set(answer.headers) >= HEADERS and "Access-Control-Allow-Origin" not in answer.headers


def test_several_files_in_one_upload_are_refused_whole(client):  # noqa: F811
    before = len(sessions.listed())
    for count in (2, 40):
        files = [SimpleUploadedFile(f"{n}.velmot.json", session()) for n in range(count)]
        answer = client.post("/api/sessions/import", {"file": files})
        assert answer.status_code in (400, 422) and answer.json()["accepted"] == "one file in each upload"
    assert len(sessions.listed()) == before


def test_a_name_with_accents_is_a_files_name(client):  # noqa: F811
    id = upload(client, session(name="Nóta “7” 音/x")).json()["id"]
    said = client.get(f"/api/sessions/{id}/export/session").headers["Content-Disposition"]
    plain, extended = said.removeprefix("attachment; ").split("; ")
    assert plain == 'filename="Nota _7_ _x.velmot.json"'
    assert extended == "filename*=UTF-8''N%C3%B3ta%20_7_%20%E9%9F%B3_x.velmot.json"


def test_statuses_that_can_come_stand_in_the_document():
    document = json.loads((ROOT / "docs" / "openapi.json").read_text())
    for path, methods in document["paths"].items():
        for route in methods.values():
            assert {"400", "403", "404", "422"} <= set(route["responses"]), path


def test_a_lane_named_twice_counts_once(client, demo):  # noqa: F811
    once, twice = (
        post(client, f"{demo}/selection", {"lanes": lanes, "start": 0, "end": 252}).json()["points"]
        for lanes in (["L1"], ["L1", "L1"])
    )
    assert once == twice == len(sessions.load(demo).lane("L1").envelope)


def test_a_point_that_is_not_there_cannot_be_picked_from(client, demo):  # noqa: F811
    for way in ("same value", "next", "previous"):
        body = {"lanes": ["L1"], "way": way, "picked": [{"lane": "L1", "points": [99_999]}]}
        answer = post(client, f"{demo}/pick", body)
        assert (answer.status_code, answer.json()["code"]) == (422, "point-unknown")
