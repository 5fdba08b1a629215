"""The API as a client meets it: whole paths, errors in one shape, conflicts, and nothing left behind."""

import io
import json
from collections import Counter

import pytest
from django.core.files.uploadedfile import SimpleUploadedFile
from django.test import Client

from tests.bench import wavy
from tests.formats.test_midi import CONDUCTOR, PLAYER, file_of
from tests.formats.test_session_file import MARKUP, small
from velmot.core.time.ticks import TICKS_PER_BEAT
from velmot.formats import session_file
from velmot.site.demo import skerry_light
from velmot.storage import sessions
from velmot.storage.models import StoredEnvelope, StoredSession

CARRY = {"verb": "carry", "lanes": ["L1"], "targets": ["choir"], "start": 32, "end": 48}
CARRIED = "Carry Bell buoy Level from 9.1.00 to 13.1.00 to Kelp choir, the same place, copied; edges jump"
SHAPE = {"code", "message", "place", "accepted", "args", "head", "remedy"}


@pytest.fixture
def client(db):
    sessions._cache.clear()
    return Client()


@pytest.fixture
def demo(client):
    return sessions.create(skerry_light.session())


def post(client, path, body):
    return client.post(f"/api/sessions/{path}", json.dumps(body), content_type="application/json")


def upload(client, data, name="x.velmot.json"):
    return client.post("/api/sessions/import", {"file": SimpleUploadedFile(name, data)})


def test_preview_changes_nothing_and_apply_does_what_it_said(client, demo):
    before = session_file.write(sessions.load(demo))
    ask = {"revision": 0, "request": CARRY, "view": {"start": 0, "end": 64, "columns": 900}}
    said = post(client, f"{demo}/preview", ask).json()
    assert session_file.write(sessions.load(demo)) == before
    (touched,) = said["touched"]
    assert said["title"] == CARRIED
    assert [c["code"] for c in said["cautions"]] == ["not-reading"]
    done = post(client, f"{demo}/apply", ask).json()
    assert (done["revision"], done["title"], done["undo"]) == (1, said["title"], said["title"])
    assert done["redrawn"] == [touched["lane"]] and done["heard"] == ["choir.level"]
    lane = next(x for x in client.get(f"/api/sessions/{demo}").json()["lanes"] if x["id"] == touched["lane"])
    assert lane["points"] == touched["points_after"]
    curve = client.get(f"/api/sessions/{demo}/curves?lanes={lane['id']}&start=0&end=64&columns=900").json()[0]
    assert curve == touched["after"], "what was drawn as fresh ink is what is there now"
    assert post(client, f"{demo}/undo", {"revision": 1}).json()["revision"] == 0
    assert session_file.write(sessions.load(demo)) == before


def test_the_last_step_is_put_right_in_its_place(client, demo):
    """3 dB, then 2.5 dB in its place: 2.5 dB in all, one line in the log, one undo; nothing that came after is lost."""

    def raised(by):
        moves = [{"unit": "dB", "by": by}]
        return {"verb": "reshape", "lanes": ["L1"], "start": 32, "end": 48, "moves": moves}

    def level():
        return sessions.load(demo).lane("L1").envelope.value_at(36 * TICKS_PER_BEAT)

    before = level()
    nothing = post(client, f"{demo}/apply", {"revision": 0, "request": raised(3), "instead": True})
    assert nothing.status_code == 422 and nothing.json()["code"] == "amend"
    post(client, f"{demo}/apply", {"revision": 0, "request": raised(3)})
    ask = {"revision": 1, "request": raised(2.5), "instead": True}
    said = post(client, f"{demo}/preview", ask).json()
    assert said["touched"][0]["difference_text"] == "2.50 dB" and level() == pytest.approx(before + 3)
    made = post(client, f"{demo}/apply", ask).json()
    assert level() == pytest.approx(before + 2.5) and made["revision"] == 2
    lines = client.get(f"/api/sessions/{demo}/log").json()["lines"]
    assert [line["title"].split(";")[0] for line in lines] == [made["title"].split(";")[0]]
    assert post(client, f"{demo}/apply", ask).status_code == 409, "it is another window's now"
    post(client, f"{demo}/undo", {"revision": 2})
    assert level() == before
    post(client, f"{demo}/redo", {"revision": 0})
    assert level() == pytest.approx(before + 2.5), "what was replaced does not come back"
    post(client, f"{demo}/apply", {"revision": 2, "request": raised(1)})
    post(client, f"{demo}/undo", {"revision": 3})
    refused = post(client, f"{demo}/preview", {"revision": 2, "request": raised(9), "instead": True})
    assert refused.status_code == 422 and "another step came after" in refused.json()["message"]


def test_the_first_strips_come_along_where_they_are_asked_for(client, demo):
    assert client.get(f"/api/sessions/{demo}").json()["first"] is None
    client.patch(
        f"/api/sessions/{demo}/bench", {"pins": ["choir.level"], "view": {"start": 8, "end": 24}}, "application/json"
    )
    first = client.get(f"/api/sessions/{demo}?first=true").json()["first"]
    assert (first["start"], first["end"], first["parameters"]) == (-8, 40, ["choir.level"])
    query = f"lanes={first['curves'][0]['lane']}&start=-8&end=40&columns={first['columns']}"
    assert first["curves"] == client.get(f"/api/sessions/{demo}/curves?{query}").json() != []


def test_a_missing_parameter_is_added_previewed_and_undone(client, demo):
    before = session_file.write(sessions.load(demo))
    request = {"verb": "carry", "lanes": ["L15"], "targets": ["gulls"], "missing": "add"}
    said = post(client, f"{demo}/preview", {"revision": 0, "request": request}).json()
    assert [t["name"] for t in said["touched"]] == ["Gulls Vowel filter"] and said["tracks"] == ["Gulls"]
    assert post(client, f"{demo}/apply", {"revision": 0, "request": request}).status_code == 200
    session = sessions.load(demo)
    added = session.track("gulls").parameters[-1]
    source = session.lane("L15").envelope
    assert session.lane_at(added.id).envelope.at(source.ticks).tolist() == source.values.tolist()
    post(client, f"{demo}/undo", {"revision": 1})
    assert session_file.write(sessions.load(demo)) == before


def test_the_log_names_what_was_touched(client, demo):
    post(client, f"{demo}/apply", {"revision": 0, "request": CARRY})
    (line,) = client.get(f"/api/sessions/{demo}/log").json()["lines"]
    assert line["title"] == CARRIED and not line["undone"]
    assert [(t["parameter"], t["start"], t["end"]) for t in line["touched"]] == [("choir.level", 32, 48)]


def test_a_wide_view_of_many_points_is_an_outline_with_exact_extremes(client, demo):
    curve = client.get(f"/api/sessions/{demo}/curves?lanes=L21&start=0&end=252&columns=300").json()[0]
    lane = sessions.load(demo).lane("L21")
    assert len(curve["lows"]) == len(curve["highs"]) == 300 and curve["beats"] == []
    assert (min(curve["lows"]), max(curve["highs"])) == (lane.envelope.values.min(), lane.envelope.values.max())


@pytest.mark.parametrize(
    ("path", "body", "status", "code"),
    [
        ("preview", {"revision": 7, "request": CARRY}, 409, "revision-old"),
        ("apply", {"revision": 7, "request": CARRY}, 409, "revision-old"),
        ("undo", {"revision": 7}, 409, "revision-old"),
        ("preview", {"revision": 0, "request": CARRY | {"verb": "spoon"}}, 422, "not-fitting"),
        ("preview", {"revision": 0, "request": CARRY | {"lanes": ["L99"]}}, 422, "lane-unknown"),
        ("preview", {"revision": 0, "request": CARRY | {"start": 1e308}}, 422, "not-fitting"),
        ("preview", {"revision": 0, "request": CARRY | {"spoon": 1}}, 422, "not-fitting"),
        ("apply", {"revision": 0, "request": CARRY | {"targets": ["bell"]}}, 422, "nothing-to-do"),
        ("typed", {"kind": "position", "text": "bar nine"}, 422, "position-unread"),
        ("typed", {"kind": "value", "text": "40", "parameter": "bell.level"}, 422, "value-range"),
        ("export/midi", {"choices": []}, 422, "choices-none"),
        (
            "export/midi",
            {"choices": [{"parameter": "bell.level", "controller": "cc 7", "low": -200, "high": 0}]},
            422,
            "span-range",
        ),
    ],
)
def test_refusals_have_one_shape(client, demo, path, body, status, code):
    answer = post(client, f"{demo}/{path}", body)
    said = answer.json()
    assert (answer.status_code, said["code"]) == (status, code)
    assert set(said) == SHAPE and said["message"]
    if status == 409:
        assert said["head"] == 0
    assert sessions.row(demo).head == 0


@pytest.mark.parametrize("path", ["99", "99/curves?lanes=x&start=0&end=1", "99/log", "99/export/session"])
def test_what_is_not_there_is_404_in_the_same_shape(client, path):
    answer = client.get(f"/api/sessions/{path}")
    assert answer.status_code == 404 and set(answer.json()) == SHAPE


@pytest.mark.parametrize(
    "query", ["start=9&end=1", "start=0&end=nan", "start=0&end=1e99", "start=0&end=9&columns=1000000"]
)
def test_views_that_cannot_be_drawn(client, demo, query):
    answer = client.get(f"/api/sessions/{demo}/curves?lanes=L1&{query}")
    assert answer.status_code == 422 and set(answer.json()) == SHAPE


@pytest.mark.parametrize(
    ("data", "name", "place"),
    [
        (b"", "empty.mid", "file"),
        (b"some text", "fake.mid", "byte 0"),
        (json.dumps(small(version=9)).encode(), "v9.velmot.json", "version"),
        (json.dumps(small(tempo=[[0, 1e9]])).encode(), "fast.velmot.json", "tempo[0]"),
        (b"PK\x03\x04zip", "x.zip", "file"),
    ],
)
def test_bad_files_leave_nothing_behind(client, data, name, place):
    answer = upload(client, data, name)
    assert answer.status_code == 422 and set(answer.json()) == SHAPE
    assert answer.json()["place"] == place
    assert not StoredSession.objects.exists() and not StoredEnvelope.objects.exists()


def test_a_file_of_500_mb_is_refused_before_it_is_read(client):
    kind = "multipart/form-data; boundary=x"
    answer = client.generic("POST", "/api/sessions/import", b"", CONTENT_TYPE=kind, CONTENT_LENGTH=500 * 1024 * 1024)
    assert answer.status_code == 413 and answer.json()["code"] == "file-large"
    assert answer.json()["message"] == "the file has 500 MB"


def test_a_paste_of_a_million_points_is_refused_in_words(client, demo):
    rows = [[n / 100, 0] for n in range(300_000)]
    lane = {"track": "Keeper", "name": "Level", "family": "level", "kind": "continuous", "unit": "dB", "axis": "level"}
    text = {"format": "velmot-lanes", "version": 1, "start": 0, "length": 1, "lanes": [lane | {"low": -96, "high": 12}]}
    text["lanes"][0]["points"] = rows
    answer = post(client, f"{demo}/clipboard", {"text": json.dumps(text)})
    assert answer.status_code == 422 and answer.json()["code"] == "points-many"
    text["lanes"][0]["points"] = rows * 5
    answer = post(client, f"{demo}/clipboard", {"text": json.dumps(text)})
    assert answer.status_code == 413 and set(answer.json()) == SHAPE


def test_copied_lanes_paste_back_as_they_were(client, demo):
    before = session_file.write(sessions.load(demo))
    text = client.get(f"/api/sessions/{demo}/clipboard?lanes=L1%0AL10&start=33&end=47").json()["text"]
    made = post(client, f"{demo}/clipboard", {"text": text}).json()
    said = post(client, f"{demo}/preview", {"revision": 0} | made).json()
    assert [t["name"] for t in said["touched"]] == ["Bell buoy Level", "Foghorn Muted"]
    assert [t["difference_text"] for t in said["touched"]] == ["0.00 dB", "0 steps"]
    assert all(t["stays"] for t in said["touched"])
    assert session_file.write(sessions.load(demo)) == before


def test_the_numbers_of_a_selection(client, demo):
    asked = {"lanes": ["L1"], "way": "range", "start": 35, "end": 47}
    (picked,) = post(client, f"{demo}/pick", asked).json()
    said = post(client, f"{demo}/selection", {"picked": [picked]}).json()
    assert (said["start"], said["end"], said["points"]) == (35.5, 46, 5)
    assert (said["lowest"], said["highest"]) == ("−13.5 dB", "−5.0 dB")
    (same,) = post(
        client, f"{demo}/pick", {"lanes": ["L26"], "way": "same value", "picked": [{"lane": "L26", "points": [0]}]}
    ).json()
    assert same["points"] == [0, 2], "both places where the rumble is on"


def test_a_midi_file_is_kept_and_written_back_into_and_no_other_is(client, demo):
    source = file_of(CONDUCTOR, PLAYER)
    id = upload(client, source, "reed.mid").json()["id"]
    assert client.get(f"/api/sessions/{id}").json()["source"] == "reed.mid"
    assert client.get(f"/api/sessions/{demo}").json()["source"] == ""
    answer = client.get(f"/api/sessions/{id}/export/into")
    assert answer.content == source and 'filename="reed.mid"' in answer.headers["Content-Disposition"]
    clear = {"verb": "clear", "scope": "lanes", "lanes": ["L1"]}
    assert post(client, f"{id}/apply", {"revision": 0, "request": clear}).json()["revision"] == 1
    report = client.get(f"/api/sessions/{id}/export/into/report").json()
    assert "Reed, channel 1 Level: its events are taken out, as it has no lane any more" in report["changed"]
    assert client.get(f"/api/sessions/{id}/export/into").content != source
    assert post(client, f"{id}/undo", {"revision": 1}).json()["revision"] == 0
    assert client.get(f"/api/sessions/{id}/export/into").content == source
    for path in ("export/into", "export/into/report"):
        answer = client.get(f"/api/sessions/{demo}/{path}")
        assert answer.status_code == 404 and "came from no file" in answer.json()["message"]


def test_import_and_take_out_again_is_the_same_file(client, demo):
    data = client.get(f"/api/sessions/{demo}/export/session").getvalue()
    answer = upload(client, data).json()
    assert answer["report"]["came"] == ["10 tracks, 36 lanes, 3,144 points"]
    assert client.get(f"/api/sessions/{answer['id']}/export/session").getvalue() == data


def test_markup_in_names_stays_text(client):
    id = upload(client, json.dumps(small()).encode()).json()["id"]
    answer = client.get(f"/api/sessions/{id}")
    assert answer.headers["Content-Type"].startswith("application/json")
    assert answer.json()["tracks"][0]["name"] == MARKUP


def test_midi_out_and_in_again(client, demo):
    choices = client.get(f"/api/sessions/{demo}/export/midi").json()
    chosen = [c for c in choices["choices"] if c["parameter"] == "bell.level"]
    low, high = chosen[0]["low"], chosen[0]["high"]
    assert (low, high, choices["per_beat"]) == (*sessions.load(demo).lane("L1").envelope.extremes(0, 10**9), 960)
    data = post(client, f"{demo}/export/midi/file", choices | {"choices": chosen}).content
    answer = upload(client, data, "back.mid").json()
    session = sessions.load(answer["id"])
    assert [t.name for t in session.tracks] == ["Bell buoy"]
    lane, source = session.lanes[0].envelope, sessions.load(demo).lane("L1").envelope
    assert float(lane.at(int(source.ticks[9]))) == pytest.approx(
        (source.values[9] - low) / (high - low) * 127, abs=0.51
    )


def test_rename_delete_and_bring_back(client, demo):
    path = f"/api/sessions/{demo}"
    assert client.patch(path, json.dumps({"name": "Tidal"}), content_type="application/json").status_code == 204
    assert client.get(path).json()["name"] == "Tidal"
    assert client.patch(path, json.dumps({"name": " "}), content_type="application/json").status_code == 422
    client.delete(path)
    assert client.get("/api/sessions").json() == []
    assert [x["name"] for x in client.get("/api/sessions?deleted=true").json()] == ["Tidal"]
    client.post(f"{path}/restore")
    assert [x["name"] for x in client.get("/api/sessions").json()] == ["Tidal"]


def test_an_unforeseen_error_is_said_in_the_same_shape_and_saves_nothing(client, demo, monkeypatch):
    monkeypatch.setattr("velmot.storage.history._swaps", lambda *_: 1 / 0)
    answer = post(client, f"{demo}/apply", {"revision": 0, "request": CARRY})
    assert answer.status_code == 500 and set(answer.json()) == SHAPE
    assert sessions.row(demo).head == 0


def test_only_velmots_own_page_on_this_machine_is_answered(db, demo):
    stranger = Client(enforce_csrf_checks=True)
    answer = stranger.post(f"/api/sessions/{demo}/undo", '{"revision": 0}', content_type="application/json")
    assert answer.status_code == 403 and answer.json()["code"] == "csrf"
    assert stranger.get("/api/sessions", headers={"host": "evil.example"}).status_code == 400
    page = stranger.get("/")
    assert "default-src 'none'" in page.headers["Content-Security-Policy"]
    token = stranger.cookies["velmot_csrf"].value
    body = io.BytesIO(b'{"revision": 0}').read()
    headers = {"X-CSRFToken": token}
    answer = stranger.post(f"/api/sessions/{demo}/undo", body, content_type="application/json", headers=headers)
    assert answer.status_code == 200


# ── using work again ──────────────────────────────────────────────────────────────────────────


def test_the_match_table_is_remembered_for_the_pair_of_tracks(client, demo):
    pan_on_filter = {"parameter": "bell.pan", "track": "choir", "do": "land", "onto": "choir.vowel.vowel-filter"}
    request = CARRY | {"lanes": ["L1", "L2"], "targets": ["choir", "engine"], "matches": [pan_on_filter]}
    table = post(client, f"{demo}/matches", {"request": request}).json()
    found = {(c["parameter"], c["track"]): (c["do"], c["found"], c["onto"]) for c in table["cells"]}
    assert found["bell.level", "choir"] == ("land", "same", "choir.level")
    assert found["bell.pan", "choir"] == ("land", "chosen", "choir.vowel.vowel-filter")
    assert found["bell.pan", "engine"] == ("land", "same", "engine.pan")
    assert next((r["name"], r["source_text"], r["target_text"]) for r in table["resting"]) == (
        "Kelp choir Level",
        "−6.0 dB",
        "−10.0 dB",
    )
    assert post(client, f"{demo}/apply", {"revision": 0, "request": request}).status_code == 200
    (kept,) = client.get(f"/api/sessions/{demo}").json()["matches"]
    assert pan_on_filter.items() <= kept.items()
    twice = CARRY | {"lanes": ["L1", "L2"], "matches": [pan_on_filter | {"onto": "choir.level"}]}
    answer = post(client, f"{demo}/preview", {"revision": 1, "request": twice})
    assert (answer.status_code, answer.json()["code"]) == (422, "lands-twice")
    post(client, f"{demo}/apply", {"revision": 1, "request": request | {"matches": [], "at": 100}})
    assert client.get(f"/api/sessions/{demo}").json()["matches"] == [], "gone back to the usual match"


def test_the_mapping_graph_has_real_units_time_and_offers(client, demo):
    targets = [{"parameter": "choir.vowel.vowel-filter", "low": 300, "high": 3200}, {"parameter": "bell.pan"}]
    request = {"verb": "retarget", "lane": "L1", "targets": targets, "start": 32, "end": 48}
    graph = post(client, f"{demo}/mapping", {"request": request}).json()
    assert (graph["low"], graph["high"]) == (-26, -5) and max(graph["time"]) == 1 and len(graph["time"]) == 24
    vowel, bell = graph["targets"]
    assert (vowel["low"], vowel["high"]) == pytest.approx((300, 3200)) and (
        bell["low_position"],
        bell["high_position"],
    ) == (
        0,
        1,
    )
    assert (
        vowel["offers"][0]["why"] == "described by Vowel filter" and vowel["offers"][0]["text"] == "300 Hz to 3200 Hz"
    )
    still = request | {"start": 246, "end": 250}
    assert (
        post(client, f"{demo}/mapping", {"request": still}).json()["targets"][0]["problem"].startswith("Level does not")
    )


def test_comparing_lanes_tracks_and_revisions(client, demo):
    view = {"start": 0, "end": 252, "columns": 800}
    same = {"one": {"lane": "L1"}, "other": {"lane": "L1"}, "view": view}
    said = post(client, f"{demo}/compare", same).json()
    assert said["same"] and said["drawn"]["difference"]["values"] == [0] * len(said["drawn"]["difference"]["values"])
    tracks = post(client, f"{demo}/compare", {"one": {"track": "bell"}, "other": {"track": "choir"}}).json()
    assert not tracks["same"] and "only Bell buoy has Vowel filter" not in tracks["only"]
    far = [float(r["largest"].split()[0]) for r in tracks["rows"]]
    assert [r["one"].rpartition(" ")[2] for r in tracks["rows"]][:2] == ["cut", "Pan"], (
        "the largest share of a range first"
    )
    assert [r["kind"] == "same" for r in tracks["rows"]] == [False] * 4 + [True] * 2 and far[4:] == [0, 0]
    assert (
        all([len(p["lows"]) for p in r["pictures"]] == [60, 60] for r in tracks["rows"])
        and not said["rows"][0]["pictures"]
    )
    last = {"one": {"track": "bell"}, "other": {"track": "choir"}, "view": view, "row": tracks["rows"][3]["key"]}
    drawn = post(client, f"{demo}/compare", last).json()["drawn"]
    assert [drawn["one_scale"]["id"], drawn["other_scale"]["id"]] == tracks["rows"][3]["parameters"]
    post(client, f"{demo}/apply", {"revision": 0, "request": CARRY})
    was, now = {"revision": 0}, {"revision": 1}
    changed = post(client, f"{demo}/compare", {"one": was, "other": now, "view": view}).json()
    (row,) = changed["rows"]
    assert (row["largest"], row["at_text"], row["kind"]) == ("17.95 dB", "9.1.00", "changed")
    post(client, f"{demo}/undo", {"revision": 1})
    back = post(client, f"{demo}/compare", {"one": was, "other": {}}).json()
    assert back["same"] and back["rows"] == []
    undone = post(client, f"{demo}/compare", {"one": {}, "other": now}).json()
    assert undone["rows"][0]["largest"] == row["largest"], "an undone revision can still be compared with"
    for body, code in (
        ({"one": {}, "other": {}}, "compare-what"),
        ({"one": {"track": "bell"}, "other": {"track": "bell"}}, "compare-itself"),
        ({"one": {"lane": "L1"}, "other": {"lane": "L99"}}, "lane-unknown"),
        ({"one": {"revision": 77}, "other": {}}, "not-found"),
    ):
        answer = post(client, f"{demo}/compare", body)
        assert answer.json()["code"] == code and set(answer.json()) == SHAPE


def test_recipes_are_kept_used_replaced_and_forgotten(client, demo):
    request = CARRY | {"at": 40, "how": "move"}
    kept = post(client, f"{demo}/recipes", {"name": " Half a bar later ", "request": request}).json()
    assert (kept["name"], kept["verb"]) == ("Half a bar later", "carry")
    assert post(client, f"{demo}/recipes", {"name": "Half a bar later", "request": request}).json()["id"] == kept["id"]
    used = post(client, f"{demo}/recipes/{kept['id']}", {"lanes": ["L5"], "start": 8, "end": 16}).json()
    assert used["missing"] == [] and used["request"]["at"] == 16 and used["request"]["how"] == "move"
    assert (used["request"]["lanes"], used["request"]["targets"]) == (["L5"], ["choir"])
    clear = {"verb": "clear", "scope": "session"}
    assert post(client, f"{demo}/recipes", {"name": "x", "request": clear}).json()["code"] == "recipe-verb"
    assert post(client, f"{demo}/recipes", {"name": " ", "request": request}).json()["code"] == "name"
    assert client.delete(f"/api/recipes/{kept['id']}").status_code == 204
    assert client.get("/api/recipes").json() == []
    assert post(client, f"{demo}/recipes/{kept['id']}", {"lanes": ["L5"]}).status_code == 404


# ── regions and what is heard ─────────────────────────────────────────────────────────────────


def test_what_is_heard_has_a_reason_for_every_span_and_moment(client, demo):
    (line,) = client.get(f"/api/sessions/{demo}/heard?parameters=foghorn.level&start=0&end=64&columns=900").json()
    assert [(x["start"], x["end"]) for x in line["spans"][:3]] == [(0, 17), (17, 30), (30, 33)]
    assert [x["why"] for x in line["spans"][:2]] == [
        "the track's lane",
        "region horn A",
    ]
    (now,) = client.get(f"/api/sessions/{demo}/values?parameters=choir.level&beat=100").json()
    assert now["why"] == "static value, plus group Swell" and set(now["lanes"]) == {"L13"}
    (send,) = client.get(f"/api/sessions/{demo}/values?parameters=bell.send.hall&beat=100").json()
    assert send["why"] == "the track's lane" and send["text"] == send["lanes"]["L3"]


def test_a_preview_of_thousands_of_lanes_draws_what_is_on_view_and_a_few_guests(client):
    """12 lanes over 16 regions: 17 curves a parameter, all of those on view, as many more as have room."""
    id = sessions.create(wavy(lanes=12, regions=16, points=40))
    request = {"verb": "embed", "regions": [f"t0.r{n}" for n in range(16)]}
    view = {"start": 0, "end": 256, "columns": 900, "strips": ["t0.p9"]}
    said = post(client, f"{id}/preview", {"revision": 0, "request": request, "view": view}).json()
    assert said["lanes"] == 12 * 17 and said["guests"] == [f"t0.p{n}" for n in range(7)]
    drawn = Counter(t["parameter"] for t in said["touched"] if t["after"])
    assert drawn == dict.fromkeys([*said["guests"], "t0.p9"], 17)


def test_gaps_that_jump_or_drift_are_found(client, demo):
    found = client.get(f"/api/sessions/{demo}/findings?parameters=foghorn.level%0Arain.level%0Afoghorn.mute").json()
    gaps = [f for f in found if f["kind"] == "gap"]
    assert {g["parameter"] for g in gaps} == {"foghorn.level", "rain.level"}
    jump = next(g for g in gaps if g["parameter"] == "foghorn.level")
    assert (jump["start"], jump["end"], jump["lane"]) == (0, 17, None) and jump["words"].startswith("jumps 14.1")
    assert jump["mend"] == {"verb": "fill gap", "parameter": "foghorn.level", "start": 0, "end": 17, "how": "hold"}
    assert any(g["words"].startswith("drifts") for g in gaps if g["parameter"] == "rain.level")


def test_a_regions_lane_that_comes_or_goes_has_one_curve_and_no_difference(client, demo):
    """There is none to compare it with: where a region has no lane, another one or the track's speaks."""
    view = {"start": 0, "end": 64, "columns": 900, "strips": ["foghorn.level", "bell.level"]}
    for verb, region, curve, none in (
        ("lift", "foghorn.r1", "before", "after"),
        ("embed", "bell.r1", "after", "before"),
    ):
        body = {"revision": 0, "request": {"verb": verb, "regions": [region]}, "view": view}
        touched = post(client, f"{demo}/preview", body).json()["touched"]
        own = next(t for t in touched if t["home"] == region)
        on_track = next(t for t in touched if t["home"] == "track")
        assert own[curve]["values"] and own[none] is None and own["difference_text"] == ""
        assert on_track["before"] and on_track["after"] and on_track["difference_text"]


def test_precedence_is_switched_undone_and_kept(client, demo):
    before = session_file.write(sessions.load(demo))
    ask = {"revision": 0, "request": {"verb": "set precedence", "wins": "track"}}
    said = post(client, f"{demo}/preview", ask | {"view": {"start": 0, "end": 64, "columns": 900}}).json()
    assert [t["name"] for t in said["touched"]] == ["Foghorn Level"] and said["touched"][0]["after"]["values"]
    assert post(client, f"{demo}/apply", ask).status_code == 200
    sessions._cache.clear()
    assert sessions.load(demo).precedence == "track"
    answer = post(client, f"{demo}/preview", {"revision": 1, "request": {"verb": "embed", "regions": ["bell.r1"]}})
    assert (answer.status_code, answer.json()["code"]) == (422, "precedence-track")
    assert answer.json()["remedy"]["step"] == {"verb": "set precedence", "wins": "region"}
    post(client, f"{demo}/undo", {"revision": 1})
    sessions._cache.clear()
    assert session_file.write(sessions.load(demo)) == before
    post(client, f"{demo}/redo", {"revision": 0})
    was = post(client, f"{demo}/compare", {"one": {"revision": 0}, "other": {"revision": 1}}).json()
    assert was["same"], "no lane differs between the two"


def test_regions_change_in_one_step_and_come_back_bit_for_bit(client, demo):
    before = session_file.write(sessions.load(demo))
    steps = [
        {"verb": "embed", "regions": ["bell.r2", "bell.r3"]},
        {"verb": "cut regions", "regions": ["bell.r2"], "at": 40},
        {"verb": "carry regions", "regions": ["bell.r3"], "at": 60, "targets": ["choir"], "missing": "add"},
        {"verb": "change regions", "regions": ["bell.r2"], "muted": True, "name": "quiet toll"},
        {"verb": "remove regions", "regions": ["bell.r2"], "automation": "goes"},
        {"verb": "make region", "track": "gulls", "name": "sway", "start": 20, "end": 40, "parameters": ["gulls.pan"]},
    ]
    heads = []
    for step in steps:
        answer = post(client, f"{demo}/apply", {"revision": len(heads), "request": step})
        assert answer.status_code == 200, answer.json()
        heads.append(session_file.write(sessions.load(demo)))
        sessions._cache.clear()
        assert session_file.write(sessions.load(demo)) == heads[-1], "as it was planned, so it was stored"
    data = session_file.write(sessions.load(demo))
    assert session_file.write(session_file.read(data)[0]) == data
    for head in range(len(steps), 0, -1):
        post(client, f"{demo}/undo", {"revision": head})
    sessions._cache.clear()
    assert session_file.write(sessions.load(demo)) == before


def test_a_container_is_saved_as_a_file_and_laid_over_another_session(client, demo):
    make = {
        "verb": "make region",
        "track": "gulls",
        "name": "sway",
        "start": 20,
        "end": 40,
        "parameters": ["gulls.pan"],
    }
    post(client, f"{demo}/apply", {"revision": 0, "request": make})
    made = sessions.load(demo)
    region = made.track("gulls").regions[-1]
    data = client.get(f"/api/sessions/{demo}/export/container/{region.id}").content
    other = sessions.create(skerry_light.session())

    def load(data, at=8):
        return client.post(
            f"/api/sessions/{other}/container?track=bell&at={at}", {"file": SimpleUploadedFile("x.json", data)}
        )

    request = load(data).json()["request"]
    assert post(client, f"{other}/apply", {"revision": 0, "request": request}).status_code == 200
    laid = sessions.load(other)
    box = laid.track("bell").regions[-1]
    assert (box.name, box.container, box.length) == ("sway", True, region.length)
    assert laid.lane_at("bell.pan", box.id).envelope == made.lane_at("gulls.pan", region.id).envelope
    for bad in (b"{}", b"", b"not json", data.replace(b'"version": 1', b'"version": 7')):
        answer = load(bad)
        assert answer.status_code == 422 and set(answer.json()) == SHAPE
    far = load(data, at=250).json()["request"]
    assert post(client, f"{other}/preview", {"revision": 1, "request": far}).json()["code"] == "at-outside"
    assert client.get(f"/api/sessions/{demo}/export/container/rain.r2").json()["code"] == "container-empty"


@pytest.mark.parametrize(
    ("request_", "code"),
    [
        ({"verb": "carry regions", "regions": ["bell.r1"], "at": -4}, "region-early"),
        ({"verb": "carry regions", "regions": ["bell.r1"], "at": 240}, "region-late"),
        ({"verb": "carry regions", "regions": ["bell.r1"], "how": "repeat", "times": 1_000_000}, "times"),
        ({"verb": "cut regions", "regions": ["bell.r1"], "at": 24}, "cut-edge"),
        ({"verb": "join regions", "regions": ["bell.r1", "bell.r2"]}, "join-gap"),
        ({"verb": "join regions", "regions": ["bell.r1", "choir.r1"]}, "join-tracks"),
        ({"verb": "lift", "regions": ["bell.r1"]}, "nothing-to-do"),
        ({"verb": "fill gap", "parameter": "foghorn.level", "start": 18, "end": 20, "how": "hold"}, "gap-covered"),
    ],
)
def test_regions_that_cannot_be_are_refused_with_nothing_saved(client, demo, request_, code):
    answer = post(client, f"{demo}/apply", {"revision": 0, "request": request_})
    assert (answer.status_code, answer.json()["code"]) == (422, code) and set(answer.json()) == SHAPE
    assert sessions.row(demo).head == 0


def test_a_session_that_was_deleted_is_removed_for_good_and_no_other(client, demo):
    other = client.post("/api/demo").json()["id"]
    assert client.post(f"/api/sessions/{demo}/remove").status_code in (404, 409, 422), "it is not deleted yet"
    assert client.delete(f"/api/sessions/{demo}").status_code == 204
    assert client.post(f"/api/sessions/{demo}/remove").status_code == 204
    assert client.get(f"/api/sessions/{demo}").status_code == 404
    assert client.post(f"/api/sessions/{demo}/restore").status_code == 404
    assert client.get(f"/api/sessions/{other}").status_code == 200
