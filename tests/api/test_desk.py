"""The desk over the API: what its controls show, scripted hands let in only in their shape, and passes as requests."""

import json
from types import SimpleNamespace

import pytest

from tests.api.test_api import client, demo, post  # noqa: F401
from velmot.formats import ride_file
from velmot.formats.report import FormatError

HAND = {"at": [36, 37], "does": ["touch", "release"], "value": [-6, -3]}
RIDDEN = {"parameter": "keeper.level", "mode": "latch", "hand": HAND}
RIDE = {"verb": "ride", "passes": [{"start": 36, "end": 38, "controls": [RIDDEN]}]}
TEXT = {"format": "velmot-ride", "version": 1, "name": "mine", "length": 2}


def ride_text(*hands, **other):
    return json.dumps(TEXT | {"hands": list(hands)} | other)


def test_controls_show_their_own_values_what_groups_add_and_what_drives_them(client, demo):  # noqa: F811
    ask = {"parameters": ["bell.level", "keeper.level", "foghorn.level"], "start": 32, "end": 48, "columns": 16}
    said = post(client, f"{demo}/desk", ask).json()
    bell, keeper, horn = said["controls"]
    assert (said["start"], said["step"], len(bell["own"])) == (32, 1, 17)
    assert bell["own"][0] == pytest.approx(-26) and bell["groups"] == "Swell" and len(bell["adds"]) == 17
    assert keeper["adds"] == [] and keeper["mode"] == "read"
    assert [d["words"] for d in horn["drives"]][:2] == ["the track's lane", "region horn A"]
    later = post(client, f"{demo}/desk", ask | {"request": RIDE}).json()["controls"]
    assert later[1]["own"][4:6] == pytest.approx([-6, -3]) and later[0] == bell, "with what was ridden so far"


@pytest.mark.parametrize(("free", "said"), [(200 * 2**20, ""), (200 * 2**20 - 1, "199 MB"), (9, "less than 1 MB")])
def test_a_disk_that_is_getting_full_says_so_before_anything_is_ridden(client, demo, monkeypatch, free, said):  # noqa: F811
    monkeypatch.setattr("shutil.disk_usage", lambda _: SimpleNamespace(free=free))
    ask = {"parameters": ["bell.level"], "start": 0, "end": 4, "columns": 4}
    room = post(client, f"{demo}/desk", ask).json()["room"]
    assert room.startswith(f"The disk is getting full: {said} left") if said else room == ""


def test_a_pass_is_previewed_and_applied_as_every_request_is(client, demo):  # noqa: F811
    seen = post(client, f"{demo}/preview", {"revision": 0, "request": RIDE}).json()
    assert seen["title"] == "Ride Keeper Level from 10.1.00 to 10.3.00 in latch" and seen["points_after"] > 0
    assert post(client, f"{demo}/apply", {"revision": 0, "request": RIDE}).json()["revision"] == 1
    assert post(client, f"{demo}/apply", {"revision": 0, "request": RIDE}).status_code == 409
    for odd, code in [
        ({"hand": HAND | {"at": [36]}}, "hand-columns"),
        ({"hand": HAND | {"at": [37, 36]}}, "hand-events"),
        ({"hand": HAND | {"does": ["release", "touch"]}}, "hand-events"),
        ({"parameter": "nobody"}, "parameter-unknown"),
        ({"mode": "loud"}, "not-fitting"),
    ]:
        wrong = RIDE | {"passes": [RIDE["passes"][0] | {"controls": [RIDDEN | odd]}]}
        answer = post(client, f"{demo}/preview", {"revision": 1, "request": wrong})
        assert answer.json()["code"] == code, answer.json()


def test_shipped_rides_land_on_what_they_name_or_on_the_desks_next_control(client, demo):  # noqa: F811
    rides = {r["name"]: r for r in client.get(f"/api/sessions/{demo}/rides?desk=bell.pan%0Abell.level").json()}
    assert rides["Ride the narration"]["hands"][0]["parameter"] == "keeper.level"
    assert rides["Three less, late"]["hands"][0] == rides["Three less, late"]["hands"][0] | {
        "parameter": "bell.pan",
        "trim": True,
    }
    text = ride_text(
        {"track": "Nobody", "parameter": "Level", "events": []}, {"events": [[0, "touch", None]]}, {"events": []}
    )
    said = post(client, f"{demo}/rides", {"text": text, "desk": ["bell.pan"]}).json()
    assert [h["parameter"] for h in said["hands"]] == ["bell.pan"]
    assert said["missing"] == ["Nobody Level", "a control on the desk"]


def test_rides_go_out_and_come_in_the_same():
    for ride in ride_file.shipped():
        assert ride_file.read(ride_file.write(ride)) == ride


@pytest.mark.parametrize(
    ("text", "place"),
    [
        ("", "file"),
        ("[" * 100_000, "file"),
        ("{}", "format"),
        (ride_text(version=2), "version"),
        (ride_text(length=0), "length"),
        (ride_text(length=float("nan")), "length"),
        (ride_text({"events": [[0, "grab", 1]]}), "hands.0.events.0.1"),
        (ride_text({"events": [[-1, "touch", 1]]}), "hands.0.events.0.0"),
        (ride_text({"events": [[0, "touch", "1"]]}), "hands.0.events.0.2"),
        (ride_text({"events": [[0, "touch"]]}), "hands.0.events.0.2"),
        (ride_text({"trim": "yes", "events": []}), "hands.0.trim"),
        (ride_text(*[{"events": []}] * 201), "hands"),
    ],
)  # fmt: skip
def test_a_file_that_is_no_ride_is_refused_with_its_place(text, place, client, demo):  # noqa: F811
    with pytest.raises(FormatError) as caught:
        ride_file.read(text.encode())
    assert caught.value.place == place
    answer = post(client, f"{demo}/rides", {"text": text})
    assert answer.status_code == 422 and answer.json()["accepted"] == "a velmot-ride file"
