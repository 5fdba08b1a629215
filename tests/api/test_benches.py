"""How a session is looked at: kept for any browser, out of its history, and let in only in its shape."""

import json

import pytest

from tests.api.test_api import CARRY, client, demo, post  # noqa: F401
from velmot.storage import sessions
from velmot.storage.models import KeptBench

KEPT = {
    "view": {"start": 3.5, "end": 40.25},
    "pins": ["bell.level", "choir.level"],
    "heights": {"bell.level": 120},
    "size": "tall",
    "range": {"start": 8, "end": 16},
    "cursor": 9.75,
    "grid": "1/8",
    "chosen": ["L1"],
    "sets": [{"name": "levels", "pins": ["bell.level"]}],
    "shares": {"bell.level": ["bell.pan"]},
    "heard_on": ["bell.level"],
    "folded": True,
    "ledger": 0,
}


def keep(client, id, some):  # noqa: F811
    return client.patch(f"/api/sessions/{id}/bench", json.dumps(some), content_type="application/json")


def kept(client, id):  # noqa: F811
    return client.get(f"/api/sessions/{id}").json()["bench"]


def test_all_of_it_is_kept_some_at_a_time_and_no_step_is_made_of_it(client, demo):  # noqa: F811
    assert set(kept(client, demo).values()) == {None}, "a bench nobody has changed"
    for name, value in KEPT.items():
        assert keep(client, demo, {name: value}).status_code == 204
    assert kept(client, demo) == KEPT
    assert keep(client, demo, {"range": None, "size": "low"}).status_code == 204
    assert kept(client, demo) == KEPT | {"range": None, "size": "low"}
    standing = client.get(f"/api/sessions/{demo}").json()
    assert (standing["revision"], standing["undo"]) == (0, None)
    assert post(client, f"{demo}/apply", {"revision": 0, "request": CARRY}).json()["revision"] == 1
    assert kept(client, demo)["pins"] == KEPT["pins"]


@pytest.mark.parametrize(
    "odd",
    [
        {"view": {"start": 0}},
        {"view": {"start": 0, "end": 1e300}},
        {"size": "huge"},
        {"pins": ["x" * 301]},
        {"pins": ["x"] * 10_001},
        {"ledger": -1},
        {"heights": {"bell.level": "tall"}},
        {"sets": [{"name": "n" * 61, "pins": []}]},
        {"colour": "red"},
        [],
    ],
)
def test_what_is_no_bench_is_refused_and_nothing_of_it_kept(client, demo, odd):  # noqa: F811
    assert keep(client, demo, {"pins": ["bell.level"]}).status_code == 204
    refused = keep(client, demo, odd)
    assert refused.status_code == 422 and refused.json()["message"] and refused.json()["accepted"]
    assert kept(client, demo) == dict.fromkeys(KEPT) | {"pins": ["bell.level"]}


def test_a_bench_goes_with_its_session(client, demo):  # noqa: F811
    keep(client, demo, {"pins": ["bell.level"]})
    assert keep(client, demo + 1, {"pins": []}).status_code == 404
    sessions.put_away(demo)
    sessions.remove(demo)
    assert not KeptBench.objects.exists()
