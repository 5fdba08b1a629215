"""What is kept stays right and small: shared chunks, checked content, named columns, whole reads, the same in every process."""

import json
import os
import shutil
import subprocess
import sys

import numpy as np
import pytest
from django.db import connection
from hypothesis import given
from hypothesis import strategies as st

from tests.bench import curve
from velmot.core.curves.axes import Axis
from velmot.core.curves.envelope import Envelope
from velmot.core.errors import RequestError
from velmot.core.parameters.parameter import level
from velmot.core.session.session import Session
from velmot.core.session.track import Lane, Track
from velmot.core.time.ticks import TICKS_PER_BEAT as BEAT
from velmot.core.time.ticks import Tick
from velmot.core.verbs import plan
from velmot.core.verbs.points.request import AddPoints, RemovePoints, SetValues, Spot
from velmot.core.verbs.request import Picked
from velmot.formats import session_file
from velmot.site.demo import skerry_light
from velmot.storage import blobs, disk, history, logbook, sessions, upkeep
from velmot.storage.models import NamedEnvelope, StoredChunk, StoredEnvelope, StoredLane, StoredSession


def kept_bytes() -> int:
    rows = [*StoredChunk.objects.values_list("data", flat=True)]
    rows += [x for pair in StoredEnvelope.objects.values_list("data", "chunks") for x in pair]
    return sum(len(bytes(row)) for row in rows)


def long_lane(points: int = 20_000) -> Session:
    track = Track("t", "t", parameters=(level("p"),))
    return Session("long", 256 * BEAT, (track,), (Lane("L", "p", "track", curve(points)),))


@pytest.fixture
def fresh(db):
    sessions._cache.clear()


def test_an_edit_stores_the_chunk_it_falls_into_and_reads_back_bit_for_bit(fresh):
    """60 edits of one point each of 20,000 points (480 kB): values set, points added and taken away."""
    id, head = sessions.create(long_lane()), 0
    whole = kept_bytes()
    for n in range(20):
        for verb, request in (
            ("set values", SetValues((Picked("L", (n * 900,)),), f"=-{n + 1}")),
            ("add points", AddPoints("p", (Spot(Tick(n * 12 * BEAT + 77), -3.0),))),
            ("remove points", RemovePoints((Picked("L", (n * 500 + 7,)),))),
        ):
            change = plan(sessions.load(id), verb, request)
            head = history.apply(id, head, change).number
    now = session_file.write(sessions.load(id))
    assert kept_bytes() - whole < 60 * 30_000, "a chunk and a list of chunks each, not 480 kB"
    sessions._cache.clear()
    assert session_file.write(sessions.load(id)) == now


@given(st.integers(0, 2**32), st.integers(blobs.WHOLE + 1, 9000), st.booleans())
def test_chunks_put_together_are_the_envelope(seed, points, regular):
    chance = np.random.default_rng(seed)
    ticks = (
        np.arange(points) * 480 if regular else np.sort(chance.integers(0, 10**9, points) * 2 + np.arange(points) % 2)
    )
    one = Envelope(
        np.unique(ticks), chance.uniform(-90, 6, len(np.unique(ticks))), np.zeros(len(np.unique(ticks))), Axis.LEVEL
    )
    ends = blobs._chunk_ends(one.ticks)
    sizes = np.diff([0, *ends])
    assert ends[-1] == len(one) and (sizes > 0).all() and sizes.max() <= blobs._LONGEST
    parts = [blobs._unpacked(part) for part in blobs._chunks(one)]
    for column, wanted in zip(zip(*parts, strict=True), one.arrays(), strict=True):
        assert np.array_equal(np.concatenate(column), wanted)


def test_a_session_removed_for_good_takes_with_it_what_nobody_else_names(fresh):
    stays = sessions.create(skerry_light.session())
    alone = kept_bytes()
    goes = sessions.create(long_lane())
    head = history.apply(
        goes, 0, plan(sessions.load(goes), "set values", SetValues((Picked("L", (5,)),), "=-1"))
    ).number
    before = session_file.write(sessions.load(stays))
    with pytest.raises(RequestError, match="long is not deleted"):
        sessions.remove(goes)
    sessions.put_away(goes)
    assert head == 1 and sessions.load(goes), "deleted, it can still be read"
    sessions.remove(goes)
    assert kept_bytes() == alone
    assert not NamedEnvelope.objects.exists() and StoredSession.objects.count() == 1
    sessions._cache.clear()
    assert session_file.write(sessions.load(stays)) == before


def test_a_damaged_envelope_is_named_and_all_else_opens(fresh):
    """Bell buoy's level is damaged: it is left out, its place can be written anew, and undo brings back what was there."""
    id = sessions.create(skerry_light.session())
    row = StoredLane.objects.get(session=id, key="L1").envelope
    spoilt = bytearray(row.data)
    spoilt[60] ^= 1
    StoredEnvelope.objects.filter(pk=row.pk).update(data=bytes(spoilt))
    sessions._cache.clear()
    now = sessions.opened(id)
    (said,) = now.damaged
    assert said == "Bell buoy Level (lane L1) is damaged in the database and left out"
    assert {x.id for x in skerry_light.session().lanes} - {x.id for x in now.session.lanes} == {"L1"}
    change = plan(now.session, "add points", AddPoints("bell.level", (Spot(Tick(0), -3.0),)))
    head = history.apply(id, 0, change).number
    sessions._cache.clear()
    assert sessions.load(id).lane_at("bell.level").envelope.values.tolist() == [-3]
    assert history.undo(id, head).number == 0
    sessions._cache.clear()
    assert sessions.opened(id).damaged == now.damaged


def test_a_rename_beside_applies_touches_no_other_column(fresh, monkeypatch):
    """The rename has read its row before two applies were saved: the session goes on from revision 2."""
    id = sessions.create(skerry_light.session())
    read = sessions.row

    def applies_first(number):
        stale = read(number)
        monkeypatch.setattr(sessions, "row", read)
        for n in range(2):
            change = plan(sessions.load(id), "set values", SetValues((Picked("L1", (n,)),), f"=-{n}"))
            history.apply(id, n, change)
        return stale

    monkeypatch.setattr(sessions, "row", applies_first)
    sessions.rename(id, "Renamed")
    for step in (lambda: sessions.put_away(id), lambda: sessions.put_away(id, away=False)):
        step()
    row = sessions.row(id)
    assert (row.name, row.head, row.latest, row.deleted) == ("Renamed", 2, 2, None)


def test_the_log_comes_in_pages_and_lanes_know_their_last_change(fresh):
    id, head = sessions.create(skerry_light.session()), 0
    for n in range(7):
        change = plan(sessions.load(id), "set values", SetValues((Picked(f"L{n % 3 + 1}", (0,)),), f"=-{n + 1}"))
        head = history.apply(id, head, change).number
    head = history.undo(id, head).number
    first, second = logbook.log(id, most=4), logbook.log(id, before=4, most=4)
    assert [(e.number, e.undone, e.current) for e in first.entries] == [
        (7, True, False), (6, False, True), (5, False, False), (4, False, False),
    ]  # fmt: skip
    assert [e.number for e in second.entries] == [3, 2, 1] and (first.more, second.more) == (True, False)
    changed = history.last_changes(sessions.row(id))
    assert {key: changed[key] for key in ("L1", "L2", "L3", "L4")} == {"L1": 4, "L2": 5, "L3": 6, "L4": 0}


def test_the_list_of_sessions_reads_no_session(fresh, django_assert_num_queries):
    ids = [sessions.create(skerry_light.session()) for _ in range(5)]
    head = history.apply(
        ids[0], 0, plan(sessions.load(ids[0]), "remove points", RemovePoints((Picked("L1", (0, 1)),)))
    ).number
    points = sum(len(x.envelope) for x in skerry_light.session().lanes)
    with django_assert_num_queries(1):
        listed = sessions.listed()
    assert [json.loads(row.summary)["points"] for row in listed] == [points - 2, *[points] * 4]
    assert listed[0].id == ids[0]
    history.undo(ids[0], head)
    StoredSession.objects.filter(pk=ids[1]).update(summary=None)
    assert {json.loads(row.summary)["points"] for row in sessions.listed()} == {points}, (
        "one from before summaries is worked out"
    )


def test_readers_beside_undo_and_redo_see_whole_revisions(tmp_path):
    env = os.environ | {"VELMOT_DATA": str(tmp_path), "PYTHONPATH": "src"}
    run = subprocess.run(
        [sys.executable, "-m", "tests.storage.beside", "2"], env=env, capture_output=True, text=True, timeout=100
    )
    assert run.stdout == "0 of many reads wrong; 0 pages left free\n", run.stderr[-2000:]


SCRIPT = """
from tests.core.verbs.frame.test_lands_as_heard import panned
from velmot.core.verbs import plan
from velmot.core.verbs.regions.request import CarryRegions
from velmot.core.session.track import Lane
from velmot.core.curves.envelope import Envelope
made = panned((2, 4, 1), (6, 8, 2), (9, 12, 3))
made = made.with_lanes([*made.lanes, *(Lane(f"W{n}", "w", f"r{n}", Envelope.constant(5.0)) for n in range(3))])
request = CarryRegions(("r2", "r0", "r1"), how="copy", targets=("two", "one"), missing="add", set_to_read=True)
change = plan(made, "carry regions", request)
print([s.after for s in change.tracks], [(s.after.id, s.after.parameter) for s in change.lanes], change.cautions)
"""


def test_the_same_request_is_the_same_change_in_every_process():
    said = set()
    for seed in ("1", "2", "3"):
        env = os.environ | {"PYTHONHASHSEED": seed, "PYTHONPATH": f"src{os.pathsep}."}
        said.add(
            subprocess.run([sys.executable, "-c", SCRIPT], env=env, capture_output=True, text=True, check=True).stdout
        )
    assert len(said) == 1 and "added" in said.pop()


def test_a_folder_that_is_still_to_be_made_has_the_room_of_its_disk(tmp_path, monkeypatch):
    monkeypatch.setitem(connection.settings_dict, "NAME", str(tmp_path / "to be" / "made" / "velmot.sqlite3"))
    monkeypatch.setattr(disk, "LITTLE", 2**80)
    assert upkeep.room_left() == pytest.approx(shutil.disk_usage(tmp_path).free, rel=0.01)
    monkeypatch.setattr(disk, "LITTLE", 0)
    assert upkeep.room_left() is None
