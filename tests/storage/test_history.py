"""History: undo and redo bit for bit, conflicts that change nothing, and shared blobs."""

from dataclasses import replace

import pytest
from hypothesis import given
from hypothesis import strategies as st
from hypothesis.extra.django import TestCase

from tests.core.verbs.test_carry import drawn
from velmot.core.time.ticks import TICKS_PER_BEAT as BEAT
from velmot.core.verbs import plan
from velmot.core.verbs.carry.request import Carry
from velmot.core.verbs.groups.request import DissolveGroup, MakeGroup
from velmot.core.verbs.regions.request import Embed, Lift, SetPrecedence
from velmot.formats import session_file
from velmot.site.demo import skerry_light
from velmot.storage import history, logbook, remembered, sessions
from velmot.storage.blobs import digest, pack, unpack
from velmot.storage.errors import Conflict, NotFound
from velmot.storage.models import StoredEnvelope

MOVE = Carry(lanes=("L1", "L2"), targets=("keeper", "gulls"), how="move", set_to_read=True)


def stored(id):
    """What the database says now, not what is remembered."""
    sessions._cache.clear()
    return session_file.write(sessions.load(id))


class Walks(TestCase):
    """Random changes applied, undone and redone."""

    @given(st.data())
    def test_undo_and_redo_are_bit_for_bit(self, data):
        session, request = drawn(data)
        id = sessions.create(session)
        before = stored(id)
        change = plan(session, "carry", request)
        number = history.apply(id, 0, change).number
        after = stored(id)
        assert after == session_file.write(change.applied_to(session))
        assert history.undo(id, number).number == 0
        assert stored(id) == before
        assert history.redo(id, 0).number == number
        assert stored(id) == after


@pytest.fixture
def demo(db):
    sessions._cache.clear()
    return sessions.create(skerry_light.session())


def test_a_new_change_after_undo_gets_a_new_number_and_the_log_keeps_both(demo):
    first = history.apply(demo, 0, plan(sessions.load(demo), "carry", MOVE)).number
    history.undo(demo, first)
    again = history.apply(demo, 0, plan(sessions.load(demo), "carry", MOVE)).number
    assert (first, again) == (1, 2)
    assert [(e.number, e.undone) for e in logbook.log(demo).entries] == [(2, False), (1, True)]


def test_a_request_on_an_old_revision_changes_nothing(demo):
    change = plan(sessions.load(demo), "carry", MOVE)
    history.apply(demo, 0, change)
    now = stored(demo)
    for step in (lambda: history.apply(demo, 0, change), lambda: history.undo(demo, 0), lambda: history.redo(demo, 0)):
        with pytest.raises(Conflict) as caught:
            step()
        assert caught.value.head == 1
    assert stored(demo) == now


def test_walking_off_either_end_stays(demo):
    assert history.undo(demo, 0).number == 0 and history.redo(demo, 0).number == 0


def test_a_change_that_cannot_be_leaves_nothing(demo, monkeypatch):
    before = stored(demo)
    monkeypatch.setattr(history, "_swap", lambda *_: 1 / 0)
    with pytest.raises(ZeroDivisionError):
        history.apply(demo, 0, plan(sessions.load(demo), "carry", MOVE))
    assert stored(demo) == before and not logbook.log(demo).entries


def test_equal_envelopes_are_stored_once(demo):
    count = StoredEnvelope.objects.count()
    sessions.create(skerry_light.session())
    assert StoredEnvelope.objects.count() == count


def test_blobs_read_back_bit_for_bit():
    for lane in skerry_light.session().lanes:
        again = unpack(pack(lane.envelope), lane.envelope.axis)
        assert again == lane.envelope and digest(again) == digest(lane.envelope)


def test_a_session_that_is_not_there(db):
    with pytest.raises(NotFound, match="there is no session 99"):
        sessions.load(99)


def test_every_revision_can_be_read_back_also_those_on_a_path_that_was_left(demo):
    """0 → 1 → 2, back to 1, → 3 …: each as it was when it was applied, whichever one stands now, tracks that go included."""
    embed, lift = Embed(("bell.r2", "bell.r3")), Lift(("bell.r2",))
    steps = [
        (0, "carry", MOVE),
        (1, "embed", embed),
        (1, "set precedence", SetPrecedence("track")),
        (0, "dissolve group", DissolveGroup("swell", set_to_read=True)),
        (4, "make group", MakeGroup("wings", ("gulls", "rain"))),
        (0, "make group", MakeGroup("wings", ("swell",))),
        (0, "embed", embed),
    ]
    files, head = {0: stored(demo)}, 0
    for parent, verb, request in steps:
        while head != parent:
            head = history.undo(demo, head).number
            assert stored(demo) == files[head]
        head = history.apply(demo, head, plan(sessions.load(demo), verb, request)).number
        files[head] = stored(demo)
    assert plan(sessions.load(demo), "lift", lift).heard.largest == 0
    sessions._cache.clear()
    for number, file in files.items():
        assert session_file.write(*history.at_revisions(demo, number)) == file
    assert stored(demo) == files[7], "reading others leaves the session where it stands"
    with pytest.raises(NotFound):
        history.at_revisions(demo, 8)


def test_a_failed_apply_remembers_no_match(demo):
    match = {"parameter": "bell.level", "track": "keeper", "do": "leave out", "onto": None, "low": None, "high": None}
    request = {"verb": "carry", "lanes": ["L1"], "targets": ["keeper"], "matches": [match]}
    change = plan(sessions.load(demo), "carry", MOVE)
    with pytest.raises(Conflict):
        history.apply(demo, 9, change, request)
    assert remembered.matches(sessions.row(demo), sessions.load(demo)) == []
    history.apply(demo, 0, change, request)
    assert remembered.matches(sessions.row(demo), sessions.load(demo)) == [match]


def test_a_page_that_holds_all_there_is_says_that_no_more_follows(demo):
    for number in range(2):
        history.apply(demo, number, plan(sessions.load(demo), "carry", replace(MOVE, how="copy", at=number * 4 * BEAT)))
    pages = [logbook.log(demo, most=most) for most in (1, 2, 3)]
    assert [(len(page.entries), page.more) for page in pages] == [(1, True), (2, False), (2, False)]


def test_a_step_that_is_sent_again_is_not_done_again(demo):
    """Its answer was lost: sent again under its name it is answered, and the session stands where it stood."""
    carried = plan(sessions.load(demo), "carry", Carry(("L1",), ("gulls",)))
    history.apply(demo, 0, carried, name="first-step-of-all")
    again = history.done_before(demo, 0, "first-step-of-all")
    assert again.number == 1 and again.before == history.at_revisions(demo, 0)[0]
    assert history.done_before(demo, 0, "another-name") is None
    history.undo(demo, 1, "one-step-back")
    assert history.done_before(demo, 1, "one-step-back").number == 0
    assert history.done_before(demo, 0, "first-step-of-all").number == 0, "it was done, and taken back"
    assert sessions.row(demo).step == "one-step-back"
