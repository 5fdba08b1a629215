"""Following over the API: previews, what strips draw of the source, opening again, making anew, recipes, and what is refused."""

import numpy as np
import pytest

from tests.api.test_api import SHAPE, client, demo, post  # noqa: F401
from velmot.core.time.ticks import ticks_of
from velmot.storage import sessions as stored

VIEW = {"start": 32, "end": 64, "columns": 400}
ROOM = {"verb": "follow", "does": "makes room", "targets": [{"parameter": "rain.level"}], "tracks": ["keeper"],
        "start": 32, "end": 64, "window": 50, "attack": 20, "hold": 150, "release": 300}  # fmt: skip


def lane_of(client, demo, parameter):  # noqa: F811
    return next(x for x in client.get(f"/api/sessions/{demo}").json()["lanes"] if x["parameter"] == parameter)


def test_room_is_previewed_and_applied_alike_and_its_lane_knows_how(client, demo):  # noqa: F811
    before = stored.load(demo).lane_at("rain.level").envelope
    seen = post(client, f"{demo}/preview", {"revision": 0, "request": ROOM, "view": VIEW})
    assert seen.status_code == 200 and seen.json()["title"].startswith("Glass rain Level makes room under Keeper")
    done = post(client, f"{demo}/apply", {"request": ROOM, "revision": 0})
    assert done.status_code == 200 and done.json()["title"] == seen.json()["title"]
    follows = lane_of(client, demo, "rain.level")["follows"]
    assert {k: follows[k] for k in ROOM if k != "targets"} == {k: v for k, v in ROOM.items() if k != "targets"}
    assert [t["parameter"] for t in follows["targets"]] == ["rain.level"]
    assert lane_of(client, demo, "keeper.level")["follows"] is None
    curve = stored.load(demo).lane_at("rain.level").envelope
    at = [ticks_of(b) for b in (31.9, 64.1)]
    assert curve.at(at).tolist() == before.at(at).tolist(), "nothing outside of its range"
    inside = range(ticks_of(33), ticks_of(63), ticks_of(0.1))
    assert float((before.at(inside) - curve.at(inside)).max()) == pytest.approx(6, abs=0.2)


def test_what_the_source_does_in_view_is_drawn_in_places(client, demo):  # noqa: F811
    said = post(client, f"{demo}/followed", {"request": ROOM, "view": VIEW}).json()
    assert (said["start"], said["end"], said["low"], said["high"]) == (32, 64, -72, 0)
    assert len(said["levels"]) == len(said["eased"]) == 400 and 0 <= min(said["levels"]) < max(said["levels"]) <= 1
    assert said["threshold"] == pytest.approx((72 - 30) / 72, abs=1e-6) and said["shuts"] is None
    silent = said["levels"][10:40]  # Speech 2 begins at beat 36.
    assert max(silent) == 0 and max(said["levels"][60:200]) > said["threshold"]
    opens = ROOM | {"does": "opens", "hysteresis": 7.2}
    assert post(client, f"{demo}/followed", {"request": opens, "view": VIEW}).json()["shuts"] == pytest.approx(
        said["threshold"] - 0.1
    )
    lane = {"verb": "follow", "does": "follows", "targets": ROOM["targets"], "source": "bell.pan"}
    drawn = post(client, f"{demo}/followed", {"request": lane, "view": VIEW}).json()
    assert drawn["threshold"] is None and drawn["low"] < drawn["high"]
    assert len(post(client, f"{demo}/followed", {"request": ROOM, "view": VIEW | {"columns": 3}}).json()["levels"]) == 3


def test_what_cannot_be_is_refused_in_one_shape_and_saves_nothing(client, demo):  # noqa: F811
    for asked, code in (
        (ROOM | {"threshold": 6}, "follow-threshold"),
        (ROOM | {"tracks": ["nobody"]}, "track-unknown"),
        (
            ROOM | {"targets": [{"parameter": "keeper.level"}], "does": "evens out", "after_level": True},
            "follow-circle",
        ),
        (ROOM | {"lookahead": 59_000, "start": 32, "end": 33}, "follow-wide"),
    ):
        answer = post(client, f"{demo}/apply", {"request": asked, "revision": 0})
        assert answer.status_code == 422 and answer.json()["code"] == code and set(answer.json()) == SHAPE, asked
    wrong = post(client, f"{demo}/followed", {"request": {"verb": "clear", "scope": "session"}, "view": VIEW})
    assert wrong.status_code == 422 and wrong.json()["accepted"] == "follow"
    assert client.get(f"/api/sessions/{demo}").json()["revision"] == 0


def test_its_source_changes_a_finding_says_so_and_it_is_made_anew(client, demo):  # noqa: F811
    lags = {
        "verb": "follow",
        "does": "lags",
        "source": "keeper.level",
        "delay": 0.5,
        "targets": [{"parameter": "gulls.level"}],
    }
    post(client, f"{demo}/apply", {"request": lags, "revision": 0})
    louder = {
        "verb": "reshape",
        "lanes": [lane_of(client, demo, "keeper.level")["id"]],
        "start": 36,
        "end": 44,
        "moves": [{"unit": "dB", "by": -3}],
    }
    done = post(client, f"{demo}/apply", {"request": louder, "revision": 1})
    assert done.status_code == 200, done.json()
    (found,) = [f for f in client.get(f"/api/sessions/{demo}/tidy").json()["found"] if f["kind"] == "stale"]
    assert (found["words"], found["mends"]) == ("was made after Keeper Level, which has changed since", True)
    anew = {"verb": "mend", "found": [{k: found[k] for k in ("kind", "of", "at")}]}
    assert post(client, f"{demo}/apply", {"request": anew, "revision": 2}).status_code == 200
    now = stored.load(demo)
    late, first = (now.lane_at(p).envelope for p in ("gulls.level", "keeper.level"))
    at = [ticks_of(b) for b in (37.25, 40.1, 43.9)]
    assert late.at([t + ticks_of(0.5) for t in at]).tolist() == pytest.approx(first.at(at).tolist(), abs=1e-9)
    assert "stale" not in {f["kind"] for f in client.get(f"/api/sessions/{demo}/tidy").json()["found"]}


def test_a_recipe_of_it_drives_what_is_chosen(client, demo):  # noqa: F811
    kept = post(client, f"{demo}/recipes", {"name": "Room", "request": ROOM | {"depth": 9}}).json()
    assert kept["verb"] == "follow"
    choir = lane_of(client, demo, "choir.level")
    used = post(client, f"{demo}/recipes/{kept['id']}", {"lanes": [choir["id"]], "start": 8, "end": 16}).json()
    asked = used["request"]
    assert used["missing"] == [] and (asked["start"], asked["end"], asked["depth"], asked["tracks"]) == (
        8,
        16,
        9,
        ["keeper"],
    )
    assert [(t["parameter"], t["home"]) for t in asked["targets"]] == [("choir.level", choir["home"])]


def test_what_is_eased_follows_its_times_and_a_lane_is_drawn_in_its_own_unit(client, demo):  # noqa: F811
    def seen(**other):
        return post(client, f"{demo}/followed", {"request": ROOM | other, "view": VIEW}).json()

    sharp, slow = seen(attack=0, release=0, hold=0), seen(attack=0, release=3000, hold=0)
    assert np.quantile(np.abs(np.subtract(sharp["levels"], slow["levels"])), 0.9) < 0.02
    apart = sorted(abs(e - v) for e, v in zip(sharp["eased"], sharp["levels"], strict=True))
    assert apart[360] < 0.02, "at once, but for a frame where a column ends"
    assert all(e >= v - 0.02 for e, v in zip(slow["eased"], slow["levels"], strict=True))
    assert max(e - v for e, v in zip(slow["eased"], slow["levels"], strict=True)) > 0.2

    session = stored.load(demo)
    parameter = session.parameter("choir.vowel.vowel-filter")
    lane = {
        "tracks": [],
        "source": parameter.id,
        "does": "opens",
        "targets": [{"parameter": "gulls.mute"}],
        "threshold": 500.0,
    }
    said = seen(**lane, attack=0, release=0)
    assert said["unit"] == "Hz" and (said["low"], said["high"]) == (parameter.low, parameter.high)
    curve = session.lane_at(parameter.id).envelope
    for n in (50, 200, 350):
        column = [ticks_of(32 + 32 * (n + part / 8) / 400) for part in range(9)]
        wanted = (float(curve.at(column).max()) - parameter.low) / (parameter.high - parameter.low)
        assert said["levels"][n] == pytest.approx(wanted, abs=0.004)
