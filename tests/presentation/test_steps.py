"""What a step says it changed is all that it changed: put onto what was there before, it gives what is there now."""

import pytest
from django.db import connection
from django.test import Client
from django.test.utils import CaptureQueriesContext
from hypothesis import given
from hypothesis import strategies as st
from hypothesis.extra.django import TestCase

from tests.strategies import planned, requests, sessions
from velmot.core.errors import RequestError
from velmot.core.session.heard import heard
from velmot.core.verbs import OPERATIONS, plan
from velmot.formats.requests import to_row
from velmot.presentation.sessions import session_out, stepped_out
from velmot.site.demo import skerry_light
from velmot.storage import history
from velmot.storage import sessions as stored

WHOLE = ("revision", "name", "precedence", "undo", "redo", "activity", "matches", "damaged")


def patched(before: dict, step: dict) -> dict:
    """What a page has after a step, put together as the page does it."""
    tracks = {t["id"]: t for t in [*before["tracks"], *step["tracks"]]}
    new = {x["id"]: x for x in step["lanes"]}
    lanes = {x["id"]: new.get(x["id"], x) for x in before["lanes"] if x["id"] not in step["gone"]} | new
    order = [x["id"] for x in before["lanes"]] if step["order"] is None else step["order"]
    after = before | {name: step[name] for name in WHOLE}
    after["tracks"] = [tracks[id] for id in step["track_order"] or [t["id"] for t in before["tracks"]]]
    after["lanes"] = [lanes[id] for id in order]
    if step["linked"] is not None:
        after["linked"] = step["linked"]
    for listed in ("markers", "notes", "alternatives"):
        if step[listed] is not None:
            after[listed] = step[listed]
    used = {x["parameter"] for x in after["lanes"]}
    after["speaking"] = {p: s for p, s in (before["speaking"] | step["speaking"]).items() if p in used}
    return after


def check(step, before: dict) -> dict:
    said = stepped_out(step).model_dump()
    now = session_out(step.after.row.pk).model_dump()
    assert patched(before, said) | {"opening": now["opening"]} == now, "where it opens matters when it is opened"
    one, other = step.before, step.after.session
    kept = {x.id: x for x in other.lanes if x.id not in said["redrawn"]}
    assert all(
        (y := next((y for y in one.lanes if y.id == id), None)) is not None
        and one.in_session_time(y) == other.in_session_time(x)
        for id, x in kept.items()
    )
    there, stays = ({p.id for t in x.tracks for p in t.parameters} for x in (one, other))
    for p in there & stays - set(said["heard"]):
        assert heard(one, p).envelope == heard(other, p).envelope
    return now


class Steps(TestCase):
    @given(st.data())
    def test_applied_taken_back_and_done_again_for_every_verb(self, data):
        session = data.draw(sessions())
        verb = data.draw(st.sampled_from([*OPERATIONS]))
        request = data.draw(requests(session, verb))
        try:
            change = planned(session, verb, request)
        except RequestError:
            return
        if change.empty:
            return
        id = stored.create(session)
        before = session_out(id).model_dump()
        step = history.apply(id, 0, change, to_row(verb, request))
        after = check(step, before)
        again = check(history.undo(id, step.number), after)
        assert again | {"matches": []} == before | {"redo": again["redo"], "matches": []}
        check(history.redo(id, 0), again)


def test_a_step_reaches_the_members_of_a_group_whose_fader_it_moves(db):
    id = stored.create(skerry_light.session())
    session = stored.load(id)
    fader = next(p for p in session.track("swell").parameters if p.family == "level")
    verb, request = "add points", OPERATIONS["add points"].request(fader.id, ())
    with pytest.raises(RequestError):
        plan(session, verb, request)
    lanes = session.lanes_of(fader.id)
    change = plan(session, "clear", OPERATIONS["clear"].request("lanes", tuple(x.id for x in lanes)))
    said = stepped_out(history.apply(id, 0, change))
    assert {"bell.level", "foghorn.level", "choir.level"} <= set(said.heard)
    assert said.gone == [x.id for x in lanes] and said.redrawn == []


@pytest.mark.parametrize(
    ("path", "body"),
    [
        ("", None),
        ("/head", None),
        ("/curves?lanes=L1&start=0&end=8", None),
        ("/heard?parameters=bell.level&start=0&end=8", None),
        ("/findings?parameters=bell.level", None),
        ("/export/midi", None),
        ("/export/midi/file", {"choices": [{"parameter": "bell.level", "controller": "cc 7", "low": -96, "high": 12}]}),
        ("/preview", {"revision": 0, "request": {"verb": "carry", "lanes": ["L1"], "targets": ["choir"]}}),
        ("/apply", {"revision": 0, "request": {"verb": "carry", "lanes": ["L1"], "targets": ["choir"]}}),
        ("/undo", {"revision": 0}),
        ("/compare", {"one": {"track": "bell"}, "other": {"track": "choir"}}),
        ("/compare", {"one": {"revision": 0}, "other": {}}),
    ],
)
def test_one_request_reads_the_sessions_row_once(db, path, body):
    id = stored.create(skerry_light.session())
    client, address = Client(), f"/api/sessions/{id}{path}"
    with CaptureQueriesContext(
        connection,
    ) as caught:
        answer = client.get(address) if body is None else client.post(address, body, content_type="application/json")
        assert answer.status_code == 200, answer.content
    rows = [q["sql"] for q in caught if q["sql"].startswith("SELECT") and 'FROM "storage_storedsession"' in q["sql"]]
    assert len(rows) == 1, rows
