"""The log, marks, alternatives and the past over the API: what is answered, and every refusal in words."""

import json

import pytest

from velmot.core.time.ticks import TICKS_PER_BEAT as BEAT
from velmot.site.demo import skerry_light
from velmot.storage import sessions

RESHAPE = {"verb": "reshape", "lanes": ["L1"], "start": 32, "end": 48, "moves": [{"unit": "dB", "by": -3.0}]}
KEEP = {"verb": "keep aside", "parameters": ["bell.level"]}


@pytest.fixture
def demo(db):
    sessions._cache.clear()
    return sessions.create(skerry_light.session())


@pytest.fixture
def apply(client, demo):
    def apply(revision: int, request: dict, **more):
        body = {"revision": revision, "request": request} | more
        return client.post(f"/api/sessions/{demo}/apply", body, content_type="application/json")

    return apply


def put(client, path: str, body: dict):
    return client.put(f"/api/{path}", json.dumps(body), content_type="application/json")


def test_what_is_kept_is_told_with_the_session_and_with_each_step(client, demo, apply):
    step = apply(0, KEEP, when="2026-12-01T14:10:00", window="slate 12").json()
    (one,) = step["alternatives"]
    assert (one["name"], one["kept"], one["used"]) == ("25 points, −36.0 dB to −5.0 dB", "2026-12-01T14:10:00", True)
    assert (one["parameter"], one["points"], one["lanes"], one["start"]) == ("bell.level", 25, 1, None)
    lower = apply(1, RESHAPE, keep=True, when="2026-12-01T14:11:00").json()
    assert [x["used"] for x in lower["alternatives"]] == [False], "what was there is kept already"
    again = apply(2, RESHAPE, keep=True, when="2026-12-01T14:12:00").json()
    assert again["alternatives"][1]["name"].startswith("before: reshape Bell buoy Level")
    assert apply(3, KEEP).json()["alternatives"][2]["name"].startswith("after: reshape Bell buoy Level")
    whole = client.get(f"/api/sessions/{demo}").json()
    assert [x["id"] for x in whole["alternatives"]] == ["alternative1", "alternative2", "alternative3"]
    assert whole["past"] is None
    lines = client.get(f"/api/sessions/{demo}/log").json()["lines"]
    assert [x["window"] for x in lines] == ["", "", "", "slate 12"]


def test_another_pass_in_place_of_the_last_keeps_what_that_one_made(client, demo, apply):
    apply(0, RESHAPE)
    made = sessions.load(demo).lane("L1").envelope
    louder = RESHAPE | {"moves": [{"unit": "dB", "by": 2.0}]}
    step = apply(1, louder, instead=True, keep=True, when="2026-12-01T14:11:00").json()
    (one,) = step["alternatives"]
    assert one["name"].startswith("Reshape Bell buoy Level")
    assert sessions.load(demo).alternatives[0].lanes[0].envelope == made
    assert [x["number"] for x in client.get(f"/api/sessions/{demo}/log").json()["lines"]] == [2]


def test_the_curve_of_an_alternative_is_what_would_be_heard(client, demo, apply):
    apply(0, KEEP)
    apply(1, RESHAPE)
    query = {"some": "alternative1", "start": 0, "end": 64, "columns": 1000}
    (one,) = client.get(f"/api/sessions/{demo}/alternatives", query).json()
    lane = skerry_light.session().lane("L1").envelope
    known = dict(zip((lane.ticks / BEAT).tolist(), lane.values.tolist(), strict=True))
    assert one["curve"]["values"] == [known[beat] for beat in one["curve"]["beats"]]
    refused = client.get(f"/api/sessions/{demo}/alternatives", query | {"some": "nowhere"})
    assert refused.status_code == 422 and refused.json()["code"] == "alternative-unknown"


def test_an_alternative_is_compared_as_a_lane_is(client, demo, apply):
    apply(0, KEEP)
    apply(1, RESHAPE)
    body = {"one": {"lane": "L1"}, "other": {"alternative": "alternative1"}}
    found = client.post(f"/api/sessions/{demo}/compare", body, content_type="application/json").json()
    (row,) = found["rows"]
    assert row["largest"] == "3.00 dB" and row["other"].startswith("“25 points") and not found["same"]


def test_a_mark_is_put_told_changed_and_taken_off(client, demo, apply):
    apply(0, RESHAPE)
    assert put(client, f"sessions/{demo}/marks/1", {"name": " as played ", "note": "on Friday"}).status_code == 204
    (mark,) = client.get(f"/api/sessions/{demo}/log").json()["marks"]
    assert (mark["number"], mark["name"], mark["note"]) == (1, "as played", "on Friday")
    changes = client.get(f"/api/sessions/{demo}/marks/1/changes").json()
    assert changes == {"since": 0, "steps": 1, "parameters": ["Bell buoy Level"], "more": 0}
    state = client.get(f"/api/sessions/{demo}/as-it-was/1").json()["id"]
    past = client.get(f"/api/sessions/{state}").json()
    assert past["past"] == {"of": demo, "revision": 1, "mark": "as played"} and past["undo"] is None
    assert client.get(f"/api/sessions/{state}/export/session").status_code == 200
    assert client.get(f"/api/sessions/{state}/curves", {"lanes": "L1", "start": 0, "end": 64}).status_code == 200
    body = {"revision": 1, "request": RESHAPE}
    for way in ("apply", "preview", "undo"):
        answer = client.post(f"/api/sessions/{state}/{way}", body, content_type="application/json")
        assert answer.status_code == 422 and answer.json()["code"] == "read-only"
    assert client.patch(f"/api/sessions/{state}/bench", "{}", content_type="application/json").status_code == 204
    assert client.delete(f"/api/sessions/{demo}/marks/1").status_code == 204
    assert client.delete(f"/api/sessions/{demo}/marks/1").status_code == 404
    for number, body, status in ((9, {"name": "x"}, 404), (1, {"name": " "}, 422), (1, {"name": "x" * 301}, 422)):
        assert put(client, f"sessions/{demo}/marks/{number}", body).status_code == status
    assert client.get(f"/api/sessions/{demo}/as-it-was/9").status_code == 404


def test_going_back_is_one_new_step_and_parts_of_what_was_too(client, demo, apply):
    apply(0, RESHAPE)
    apply(1, {"verb": "clear", "scope": "session", "lanes": [], "tracks": [], "way": "seal", "static": "keep"})
    back = {"verb": "bring back", "revision": 1}
    preview = client.post(
        f"/api/sessions/{demo}/preview", {"revision": 2, "request": back}, content_type="application/json"
    ).json()
    assert preview["title"] == "Go back to revision 1" and preview["lanes"] == len(skerry_light.session().lanes)
    part = apply(2, back | {"tracks": ["bell"]}).json()
    assert {x["track"] for x in part["lanes"]} == {"bell"} and part["revision"] == 3
    whole = apply(3, back).json()
    assert whole["revision"] == 4
    first = client.get(f"/api/sessions/{client.get(f'/api/sessions/{demo}/as-it-was/1').json()['id']}/export/session")
    now = client.get(f"/api/sessions/{demo}/export/session")
    assert b"".join(first.streaming_content) == b"".join(now.streaming_content)
    gone = apply(4, back | {"revision": 77})
    assert gone.status_code == 422 and gone.json()["code"] == "revision-unknown"
    now_already = apply(4, back)
    assert now_already.status_code == 422 and now_already.json()["code"] == "nothing-to-do"


def test_the_log_is_searched_and_pictured(client, demo, apply):
    apply(0, RESHAPE)
    apply(1, {"verb": "note", "about": "track", "of": "keeper", "text": "listen"})

    def found(**query) -> list[int]:
        return [x["number"] for x in client.get(f"/api/sessions/{demo}/log", query).json()["lines"]]

    assert found() == [2, 1] and found(words="bell") == [1] and found(verb="note") == [2]
    assert found(lane="bell.level") == [1] and found(lane="L1") == [1] and found(lane="L2") == []
    assert found(track="bell") == [1] and found(track="keeper") == []
    assert found(start=0, end=16) == [] and found(start=40, end=41) == [1]
    (picture,) = client.get(f"/api/sessions/{demo}/log/pictures", {"numbers": "1,2,x,²"}).json()
    assert picture["number"] == 1 and picture["ink"] == "level"
    assert len(picture["before"]) == len(picture["after"]) == 80 and picture["before"] != picture["after"]
    assert min(picture["before"] + picture["after"]) == 0 and max(picture["before"] + picture["after"]) == 100
    assert client.get(f"/api/sessions/{demo}/log", {"track": "nowhere"}).status_code == 422
    assert client.get(f"/api/sessions/{demo}/log", {"start": 9, "end": 1}).status_code == 422


def test_tidying_says_what_it_frees_and_asks_first(client, demo, apply):
    for n in range(3):
        apply(n, RESHAPE)
    put(client, f"sessions/{demo}/marks/2", {"name": "keep this"})

    def tidy(**body) -> dict:
        return client.post(f"/api/sessions/{demo}/log/tidy", body, content_type="application/json").json()

    assert tidy(days=30) == {"steps": 0, "aside": 0, "bytes": 0}
    said = tidy(days=0)
    assert (said["steps"], said["aside"]) == (1, 0) and said["bytes"] > 0
    assert tidy(days=0, sure=True) == said
    assert [(x["number"], x["folds"]) for x in client.get(f"/api/sessions/{demo}/log").json()["lines"]] == [
        (3, 0),
        (2, 1),
    ]
    assert (
        client.post(f"/api/sessions/{demo}/log/tidy", {"days": -1}, content_type="application/json").status_code == 422
    )
