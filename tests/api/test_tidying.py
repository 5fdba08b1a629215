"""Findings, their pictures, places that run alike and sets by rule, as a client asks for them."""

import pytest

from tests.api.test_api import SHAPE, client, demo, post  # noqa: F401
from velmot.core.curves.segments import HOLD
from velmot.core.time.ticks import Tick
from velmot.core.time.ticks import ticks_of as b
from velmot.core.verbs.request import ClipPoint, GivenPhrase
from velmot.presentation.tidying import MOST_OF_A_KIND
from velmot.storage import book, sessions

pytestmark = pytest.mark.django_db


def tidy(client, id):  # noqa: F811
    return client.get(f"/api/sessions/{id}/tidy").json()


def test_everything_found_is_listed_and_counted_and_what_is_let_be_apart(client, demo):  # noqa: F811
    said = tidy(client, demo)
    counts = {k["kind"]: k["count"] for k in said["kinds"]}
    assert counts == {"not heard": 4, "dense": 1, "gap": 20, "late": 1, "disagree": 1, "otherwise": 4}
    assert said["count"] == 31 == len(said["found"])
    (late,) = [x for x in said["found"] if x["kind"] == "late"]
    assert (late["of"], late["lane"], late["name"]) == ("L28", "L28", "Glass rain Shimmer")
    assert (late["at"], late["start"], late["where"], late["mends"]) == (72, 72, "19.1.00 to 40.1.00", True)
    gaps = [x["size"] for x in said["found"] if x["kind"] == "gap"]
    assert gaps[0] == "60.00", "the largest first"
    ask = {"verb": "let be", "found": [{k: late[k] for k in ("kind", "of", "at")}], "kinds": ["gap"]}
    post(client, f"{demo}/apply", {"revision": 0, "request": ask})
    quiet = tidy(client, demo)
    assert quiet["count"] == 10 and len(quiet["found"]) == 31
    by_kind = {k["kind"]: (k["count"], k["quiet"], k["all_let_be"]) for k in quiet["kinds"]}
    assert by_kind["gap"] == (0, 20, True) and by_kind["late"] == (0, 1, False)
    assert [x["let_be"] for x in quiet["found"] if x["kind"] == "late"] == [True]


def test_of_very_many_the_first_are_listed(client, demo, monkeypatch):  # noqa: F811
    monkeypatch.setattr("velmot.presentation.tidying.MOST_OF_A_KIND", 3)
    said = tidy(client, demo)
    (gap,) = [k for k in said["kinds"] if k["kind"] == "gap"]
    assert (gap["count"], gap["listed"]) == (20, 3) and MOST_OF_A_KIND == 200
    assert sum(x["kind"] == "gap" for x in said["found"]) == 3


def test_pictures_show_what_mending_would_do(client, demo):  # noqa: F811
    found = {x["kind"]: {k: x[k] for k in ("kind", "of", "at")} for x in tidy(client, demo)["found"]}
    asked = [found["gap"], found["otherwise"], found["disagree"], {"kind": "late", "of": "L1", "at": 0}, found["late"]]
    gap, otherwise, disagree, gone, late = post(client, f"{demo}/tidy/pictures", {"found": asked}).json()
    assert gap["now"]["lows"] != gap["mended"]["lows"] and len(gap["now"]["lows"]) == len(gap["mended"]["lows"]) == 46
    assert late["now"] and late["mended"] is None, "what was by chance is held now, and looks the same"
    assert otherwise["now"] and otherwise["mended"] is None, "nothing mends it"
    assert disagree == gone == {"now": None, "mended": None}
    refused = post(client, f"{demo}/tidy/pictures", {"found": [found["late"]] * 41})
    assert refused.status_code == 422 and set(refused.json()) == SHAPE


def test_places_that_run_alike_with_the_map_in_words_and_phrases_of_the_book(client, demo):  # noqa: F811
    session = sessions.load(demo)
    lane = session.lane("L6")
    region = session.region(lane.home)
    start, end = region.start / b(1), (region.start + int(lane.envelope.ticks[-1])) / b(1)
    length = int(lane.envelope.ticks[-1])
    points = tuple(
        ClipPoint(Tick(t * b(4) // length), -v, k if k != HOLD else None) for t, v, k in lane.envelope.points()
    )
    said = client.get(f"/api/sessions/{demo}/alike?lane=L6&start={start}&end={end}").json()
    assert said["model"].startswith("Foghorn Level in horn A")
    first = [x for x in said["found"] if x["lane"] in ("L7", "L9")]
    assert [x["lane"] for x in first[:2]] == ["L7", "L9"] and first[0]["how"] == "0.84 times as long"
    assert [round(x["apart"], 2) for x in first[:2]] == [0.13, 1.17]
    assert [(round(x["near"], 2), x["far"]) for x in first[:2]] == [(1.0, "0.13 dB"), (0.96, "1.17 dB")]
    assert [x["near"] for x in said["found"]] == sorted((x["near"] for x in said["found"]), reverse=True)
    (swell,) = book.keep([book.Kept(GivenPhrase("swell", Tick(b(4)), points))])
    again = client.get(f"/api/sessions/{demo}/alike?lane=L6&start={start}&end={end}").json()["found"]
    (there,) = [x for x in again if x["phrase"] == f"book{swell}"]
    assert (there["name"], there["where"], there["lane"]) == ("swell", "in the phrase book", "") and there[
        "near"
    ] > 0.999
    wrong = client.get(f"/api/sessions/{demo}/alike?lane=L6&start=300&end=310")
    assert wrong.status_code == 422 and wrong.json()["code"] in ("nothing-here", "range-empty")
    assert client.get(f"/api/sessions/{demo}/alike?lane=nothing&start=0&end=8").json()["code"] == "lane-unknown"


def test_sets_are_told_by_rules(client, demo):  # noqa: F811
    def rule(**asked):
        return client.get(f"/api/sessions/{demo}/rule", asked).json()

    assert all(".send." in p for p in rule(by="family", of="send")) and len(rule(by="family", of="send")) == 5
    assert rule(by="group", of="swell")[0] == "bell.level" and "keeper.level" not in rule(by="group", of="swell")
    assert "rain.shimmer.shimmer" not in rule(by="moving", start=0, end=16)
    assert "bell.level" in rule(by="moving", start=32, end=48)
    assert rule(by="week") == rule(by="since", of="0") == []
    ask = {"verb": "add points", "parameter": "keeper.level", "home": "track", "spots": [{"at": 3, "value": -9}]}
    post(client, f"{demo}/apply", {"revision": 0, "request": ask})
    assert rule(by="week") == rule(by="since", of="0") == ["keeper.level"] and rule(by="since", of="1") == []
    for no_revision in ("soon", "²", "1" * 5000, "-1", ""):
        assert (
            client.get(f"/api/sessions/{demo}/rule", {"by": "since", "of": no_revision}).json()["code"] == "rule-since"
        )


def test_a_note_is_told_with_the_session_and_goes_where_its_place_goes(client, demo):  # noqa: F811
    ask = {"verb": "note", "about": "lane", "of": "L1", "text": "  too loud  "}
    done = post(client, f"{demo}/apply", {"revision": 0, "request": ask}).json()
    assert done["notes"] == [{"about": "lane", "of": "L1", "text": "too loud"}]
    assert client.get(f"/api/sessions/{demo}").json()["notes"] == done["notes"]
    gone = post(
        client, f"{demo}/apply", {"revision": 1, "request": {"verb": "clear", "scope": "lanes", "lanes": ["L1"]}}
    )
    assert gone.json()["notes"] == []
    back = post(client, f"{demo}/undo", {"revision": 2}).json()
    assert back["notes"] == done["notes"], "it comes back with its lane"
    long = post(client, f"{demo}/preview", {"revision": 1, "request": ask | {"text": "x" * 2001}})
    assert long.status_code == 422 and long.json()["place"].endswith("text")
    nowhere = post(client, f"{demo}/preview", {"revision": 1, "request": ask | {"of": "nowhere"}})
    assert nowhere.json()["code"] == "lane-unknown"
