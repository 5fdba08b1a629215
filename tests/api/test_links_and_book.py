"""Linked places and the phrase book over the API: steps, undo, a restart, files that hurt, and what is refused."""

import json

import pytest
from django.core.files.uploadedfile import SimpleUploadedFile

from tests.api.test_api import client, demo, post  # noqa: F401
from velmot.formats import phrases_file, session_file
from velmot.storage import book, sessions

KEEP = {"verb": "keep phrase", "lane": "L1", "start": 32, "end": 48, "name": "swell"}
FREE = {"verb": "set free", "placements": ["place1"]}


def place(**other):
    return {"verb": "place", "targets": [{"parameter": "gulls.level"}], "start": 80, "phrase": "phrase1"} | other


def raised(lane, start, end):
    return {"verb": "raise", "lanes": [lane], "start": start, "end": end, "amount": -2}


def do(client, id, revision, request, **more):  # noqa: F811
    answer = post(client, f"{id}/apply", {"revision": revision, "request": request} | more)
    assert answer.status_code == 200, answer.content
    return answer.json()


@pytest.fixture
def linked(client, demo):  # noqa: F811
    """The demo with a swell kept from the bell and placed on the gulls, at revision 2."""
    do(client, demo, 0, KEEP)
    do(client, demo, 1, place(deep="unit"))
    return demo


def whole(id):
    sessions._cache.clear()
    return session_file.write(sessions.load(id))


def test_steps_undo_and_redo_give_every_link_back_bit_for_bit(client, demo):  # noqa: F811
    files = [whole(demo)]
    steps = [KEEP, place(deep="unit"), place(start=120, depth=10), FREE, raised("L1", 33, 40)]
    steps += [{"verb": "change phrase", "phrase": "phrase1", "name": "tide"}]
    for n, request in enumerate(steps):
        step = do(client, demo, n, request)
        files.append(whole(demo))
        assert (step["linked"] is not None) == (n < 4 or n == 5), "phrases and places come when they changed"
    for n in reversed(range(len(steps))):
        post(client, f"{demo}/undo", {"revision": n + 1})
        assert whole(demo) == files[n], f"undone to {n}"
    for n in range(len(steps)):
        post(client, f"{demo}/redo", {"revision": n})
        assert whole(demo) == files[n + 1], f"redone to {n + 1}"
    assert session_file.write(session_file.read(files[-1])[0]) == files[-1]
    assert b'"placements"' in files[-1] and b'"placements"' not in files[0]


def test_what_happens_to_links_is_chosen_and_said(client, linked):  # noqa: F811
    lane = next(
        x["id"] for x in client.get(f"/api/sessions/{linked}").json()["lanes"] if x["parameter"] == "gulls.level"
    )
    ask = {"revision": 2, "request": raised(lane, 80, 96)}
    follows = post(client, f"{linked}/preview", ask).json()
    choices = {"choices": ["follow", "here", "free"], "does": "follow"}
    assert follows["links"] == choices | {"reach": "2 places on 2 tracks", "freed": 0}
    assert follows["lanes"] == 2 and "Goes back into swell: changes 2 places on 2 tracks" in str(follows["cautions"])
    here = post(client, f"{linked}/preview", ask | {"links": "here"}).json()
    assert here["lanes"] == 1 and here["links"]["reach"] == ""
    assert post(client, f"{linked}/preview", ask | {"links": "free"}).json()["links"]["freed"] == 1
    cleared = {"verb": "clear", "scope": "range", "lanes": [lane], "start": 84, "end": 88}
    clear = post(client, f"{linked}/preview", {"revision": 2, "request": cleared}).json()
    assert clear["links"] == {"choices": ["follow", "free"], "does": "free", "reach": "", "freed": 1}
    part = post(client, f"{linked}/preview", {"revision": 2, "request": raised(lane, 81, 90), "links": "here"})
    assert part.json()["remedy"] == {"words": "set it free", "also": [], "step": None, "links": "free"}
    assert part.status_code == 422 and part.json()["code"] == "links" and "free" in part.json()["accepted"]
    assert post(client, f"{linked}/preview", ask | {"links": "sometimes"}).status_code == 422


def test_a_file_that_lies_about_a_place_comes_in_with_it_set_free(client, linked):  # noqa: F811
    content = json.loads(whole(linked))
    content["placements"][0]["offset"] = 3
    content["placements"] += [{"id": "x", "phrase": "none", "parameter": "bell.level", "start": 0, "length": 1}]
    session, report = session_file.read(json.dumps(content).encode())
    assert [x.id for x in session.placements] == ["place2"]
    assert sum("set free from its phrase" in line for line in report.changed) == 2


def test_what_is_kept_is_in_the_book_which_outlives_sessions(client, linked):  # noqa: F811
    (line,) = client.get("/api/book").json()
    assert (line["name"], line["length"], line["made_for"]) == ("swell", 16, "−26.0 dB to −5.0 dB")
    entry = client.get(f"/api/book/{line['id']}").json()
    again = do(client, linked, 2, place(phrase=None, given=entry["phrase"], start=120, deep="unit"))
    assert len(again["linked"]["phrases"]) == 1, "what is the same phrase is not brought in twice"
    change = {"name": " tide ", "says": "for the bell", "tags": ["swell", "swell", " "]}
    assert client.patch(f"/api/book/{line['id']}", change, content_type="application/json").status_code == 204
    (line,) = client.get("/api/book").json()
    assert (line["name"], line["says"], line["tags"]) == ("tide", "for the bell", ["swell"])
    client.patch(f"/api/book/{line['id']}", {"deleted": True}, content_type="application/json")
    assert not client.get("/api/book").json() and len(client.get("/api/book?deleted=true").json()) == 1
    client.patch(f"/api/book/{line['id']}", {"deleted": False}, content_type="application/json")
    assert client.post(f"/api/book/{line['id']}/copy").json()["ids"]
    assert [x["name"] for x in client.get("/api/book").json()] == ["tide", "tide again"]
    assert client.get("/api/book/99").status_code == 404 == client.get(f"/api/book/{2**70}").status_code


@pytest.mark.django_db
def test_the_starter_set_comes_once_and_goes_out_and_in(client):  # noqa: F811
    book.begin()
    book.begin()
    assert len(client.get("/api/book").json()) == 26
    file = client.get("/api/book/file").content
    assert client.post("/api/book/file", {"file": SimpleUploadedFile("p.json", file)}).status_code == 200
    assert len(client.get("/api/book").json()) == 52
    for one in phrases_file.read(file):
        assert one.says and one.tags


ROW = {"name": "a", "length": 4, "points": [[0, 0], [4, 1]]}


@pytest.mark.django_db
@pytest.mark.parametrize(
    ("rows", "place"),
    [
        ([ROW | {"points": [[0, 0], [5, 1]]}], "phrases[0].points"),
        ([ROW, ROW | {"points": [[2, 0], [1, 1]]}], "phrases[1].points[1]"),
        ([ROW | {"length": 0}], "phrases[0].length"),
        ([ROW | {"low": 1, "high": 0}], "phrases[0].parameter phrase, high"),
        ([ROW | {"points": None}], "phrases[0].points"),
        ([ROW | {"shape": {"kind": "sine"}}], "phrases[0].points"),
        ([{"name": "a", "length": 4, "shape": {"kind": "sine", "cycles": 1e9}}], "phrases[0].cycles"),
        ([{"name": "a", "length": 4, "shape": {"kind": "wobble"}}], "phrases.0.shape.kind"),
        ([ROW | {"name": "n" * 301}], "phrases.0.name"),
        ([ROW] * 10_001, "phrases"),
        ([ROW | {"low": float("nan")}], "phrases.0.low"),
    ],
)
def test_a_file_with_a_broken_phrase_names_it_and_nothing_comes_in(client, rows, place):  # noqa: F811
    file = json.dumps({"format": "velmot-phrases", "version": 1, "phrases": rows}).encode()
    answer = client.post("/api/book/file", {"file": SimpleUploadedFile("p.json", file)})
    assert answer.status_code == 422 and answer.json()["place"] == place, answer.json()
    assert not client.get("/api/book").json()


def test_the_graph_of_a_placing_says_where_both_ends_land(client, linked):  # noqa: F811
    asked = place(targets=[{"parameter": "engine.rumble.rumble-cutoff", "low": 200, "high": 800}], deep="between")
    graph = post(client, f"{linked}/mapping", {"request": asked}).json()
    assert (graph["low"], graph["high"], graph["source"]["unit"]) == (-26, -5, "dB")
    (target,) = graph["targets"]
    assert (target["low"], target["high"], target["same_unit"]) == (pytest.approx(200), pytest.approx(800), False)
    assert len(graph["time"]) == 24 and max(graph["time"]) == 1
    upside = post(client, f"{linked}/mapping", {"request": asked | {"upside_down": True}}).json()["targets"][0]
    assert upside["low"] == pytest.approx(800)
    odd = post(client, f"{linked}/mapping", {"request": asked | {"deep": "unit"}}).json()["targets"][0]
    assert odd["low"] is None and "different units" in odd["problem"]
    nothing = post(client, f"{linked}/mapping", {"request": asked | {"phrase": None}})
    assert (nothing.status_code, nothing.json()["code"]) == (422, "phrase-none")


@pytest.mark.parametrize(
    ("parameter", "depth"), [("engine.rumble.rumble-cutoff", 1e5), ("bell.level", -5e5), ("weather.dust.step", 1e4)]
)
def test_however_deep_a_place_lies_its_session_opens(client, demo, parameter, depth):  # noqa: F811
    deep = place(targets=[{"parameter": parameter}], phrase=None, shape={"kind": "sine"}, length=4, depth=depth)
    step = do(client, demo, 0, deep)
    (one,) = step["linked"]["placements"]
    assert one["depth"] == pytest.approx(abs(depth)) and one["upside_down"] == (depth < 0)
    assert client.get(f"/api/sessions/{demo}").json()["linked"] == step["linked"]


def test_a_full_book_refuses_what_would_be_kept_and_nothing_is_saved(client, demo, monkeypatch):  # noqa: F811
    monkeypatch.setattr(book, "MOST_BOOK", 1)
    do(client, demo, 0, KEEP)
    again = post(client, f"{demo}/apply", {"revision": 1, "request": KEEP | {"name": "tide"}})
    assert (again.status_code, again.json()["code"]) == (422, "book-full")
    assert len(sessions.load(demo).phrases) == 1 and len(client.get("/api/book").json()) == 1
    (line,) = client.get("/api/book").json()
    client.patch(f"/api/book/{line['id']}", {"deleted": True}, content_type="application/json")
    do(client, demo, 1, KEEP | {"name": "tide"})


def test_keys_nobody_knows_are_kept_but_in_a_recipe(client, linked):  # noqa: F811
    content = json.loads(whole(linked))
    content["phrases"][0]["mood"], content["placements"][0]["mood"] = "calm", "wild"
    session, report = session_file.read(json.dumps(content).encode())
    assert [line for line in report.changed if "mood" in line] == [
        "phrase swell: kept without using: mood",
        "placement place1: kept without using: mood",
    ]
    assert session_file.write(session).count(b'"mood"') == 2
    content["phrases"][0] |= {"points": None, "shape": {"kind": "sine", "wobble": 3}}
    with pytest.raises(session_file.FormatError) as refused:
        session_file.read(json.dumps(content).encode())
    assert refused.value.place == "phrases[0].shape.wobble"
