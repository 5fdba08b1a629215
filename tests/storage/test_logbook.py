"""The log and its marks: gone back to bit for bit, found by what was done, tidied without losing what is marked."""

from dataclasses import replace
from datetime import timedelta
from random import Random

import pytest
from django.utils import timezone
from hypothesis import given, settings
from hypothesis import strategies as st
from hypothesis.extra.django import TestCase

from tests.strategies import _linked, _request
from velmot.core.errors import RequestError
from velmot.core.time.ticks import TICKS_PER_BEAT as BEAT
from velmot.core.time.ticks import Tick
from velmot.core.verbs import plan
from velmot.core.verbs.alternatives.request import BringBack, KeepAside, UseAlternatives
from velmot.core.verbs.carry.request import Carry
from velmot.core.verbs.groups.request import DissolveGroup
from velmot.core.verbs.notes.request import SetNote
from velmot.core.verbs.regions.request import Embed, SetPrecedence
from velmot.core.verbs.shape.request import Move, Reshape
from velmot.formats import session_file
from velmot.formats.requests import to_row
from velmot.site.demo import skerry_light
from velmot.storage import blobs, history, history_tidying, logbook, past, sessions
from velmot.storage.errors import NotFound
from velmot.storage.logbook import Wanted
from velmot.storage.models import KeptEnvelope, Revision, StoredEnvelope

VERBS = ("reshape", "clear", "keep aside", "use alternatives", "take range", "carry", "place", "set free", "remove regions",
         "add marker", "note", "dissolve group", "remove alternatives", "set precedence", "set mode")  # fmt: skip


def written(id: int) -> bytes:
    """What the database says, not what is remembered."""
    sessions._cache.clear()
    return session_file.write(sessions.load(id))


def do(id: int, head: int, verb: str, request, **more) -> int:
    change = plan(sessions.load(id), verb, request, past=history.past_of(id))
    return history.apply(id, head, change, to_row(verb, request), **more).number


class Ways(TestCase):
    """Random steps, some undone and left, some marked: whatever is marked or stands is there again, whatever is tidied."""

    @settings(max_examples=max(settings().max_examples // 2, 6))
    @given(st.integers(0, 2**32))
    def test_each_revision_is_gone_back_to_bit_for_bit_and_marks_outlive_tidying(self, seed):
        random = Random(seed)
        id = sessions.create(_linked(random, ""))
        files, head, marked = {0: written(id)}, 0, set()
        for _ in range(10):
            if head and random.random() < 0.3:
                head = history.undo(id, head).number
            verb = random.choice(VERBS)
            session = sessions.load(id)
            request = _request(random, session, verb)
            try:
                change = plan(session, verb, request)
            except RequestError:
                continue
            if change.empty:
                continue
            head = history.apply(id, head, change, to_row(verb, request)).number
            files[head] = written(id)
            if random.random() < 0.3:
                logbook.mark(id, head, f"mark {head}")
                marked.add(head)
        for number in random.sample([*files], min(3, len(files))):
            back = BringBack(number)
            change = plan(sessions.load(id), "bring back", back, past=history.past_of(id))
            head = history.apply(id, head, change, to_row("bring back", back), exact=number).number
            assert written(id) == files[number], "bit for bit, in the same order"
            files[head] = files[number]
        state = sessions.load(past.number_of(id, min(files)))
        assert session_file.write(state) == files[min(files)]
        months_ago = timezone.now() - timedelta(days=90)
        Revision.objects.filter(session=id, number__lte=random.randint(0, head)).update(made=months_ago)
        told = history_tidying.tidy(id, 30)
        before = Revision.objects.filter(session=id).count()
        assert history_tidying.tidy(id, 30, try_only=False) == told
        stay = set(Revision.objects.filter(session=id).values_list("number", flat=True))
        assert before - len(stay) == told.steps and marked <= stay
        assert history_tidying.tidy(id, 30).steps == 0, "what is tidied is tidy"
        for number in stay | {0}:
            sessions._cache.clear()
            assert session_file.write(history.at_revisions(id, number)[0]) == files[number]
        assert written(id) == files[head]
        gone = set(files) - stay - {0}
        for number in gone:
            with pytest.raises(NotFound):
                history.at_revisions(id, number)
        while head:
            head = history.undo(id, head).number
            assert written(id) == files[head]


@pytest.fixture
def demo(db):
    sessions._cache.clear()
    return sessions.create(skerry_light.session())


def test_alternatives_are_kept_by_their_digests_until_they_go_from_history_too(demo):
    kept = do(demo, 0, "keep aside", KeepAside(("bell.level",), "calm"))
    changed = do(demo, kept, "reshape", Reshape(("L1",), None, None, (Move("dB", by=-3.0),)))
    assert KeptEnvelope.objects.count() == 1
    before = written(demo)
    blobs.collect()
    assert written(demo) == before
    used = do(demo, changed, "use alternatives", UseAlternatives((sessions.load(demo).alternatives[0].id,)))
    assert [x.name for x in sessions.load(demo).alternatives] == ["calm", "before “calm”"]
    again = sessions.create(session_file.read(written(demo))[0])
    assert written(again) == written(demo) and KeptEnvelope.objects.filter(session=again).count() == 2
    for _ in range(3):
        used = history.undo(demo, used).number
    assert KeptEnvelope.objects.filter(session=demo).count() == 0


def test_a_damaged_alternative_is_named_and_the_rest_opens(demo):
    do(demo, 0, "keep aside", KeepAside(("bell.level",), "calm"))
    do(demo, 1, "keep aside", KeepAside(("keeper.level",), "loud"))
    do(demo, 2, "reshape", Reshape(("L1",), None, None, (Move("dB", by=-3.0),)))
    kept = next(x for x in sessions.load(demo).alternatives if x.name == "calm")
    StoredEnvelope.objects.filter(digest=blobs.digest(kept.lanes[0].envelope)).update(data=b"x" * 48)
    sessions._cache.clear()
    opened = sessions.opened(demo)
    assert opened.damaged == ("the alternative “calm” is damaged in the database and left out",)
    assert [x.name for x in opened.session.alternatives] == ["loud"] and len(opened.session.lanes) == len(
        skerry_light.session().lanes
    )


def test_lines_are_found_by_words_verb_lane_track_and_bars(demo):
    do(demo, 0, "reshape", Reshape(("L1",), Tick(0), Tick(8 * BEAT), (Move("dB", by=-3.0),)))
    do(demo, 1, "reshape", Reshape(("L5",), Tick(32 * BEAT), Tick(48 * BEAT), (Move("dB", by=2.0),)))
    do(demo, 2, "carry", Carry(("L2",), ("gulls",)), window="slate")
    do(demo, 3, "note", SetNote("lane", "L1", "listen again"))
    track = sessions.load(demo).owner(sessions.load(demo).lane("L5").parameter)

    def found(**wanted) -> list[int]:
        return [x.number for x in logbook.log(demo, wanted=Wanted(**wanted)).entries]

    assert found() == [4, 3, 2, 1]
    assert found(words="reshape bell") == [1] and found(words="BELL") == [4, 3, 1]
    assert found(verb="carry") == [3] and found(lane="L5") == [2]
    assert found(parameters=frozenset(p.id for p in track.parameters)) == [2]
    assert found(start=0, end=8 * BEAT) == [3, 1] and found(start=40 * BEAT, end=41 * BEAT) == [3, 2]
    assert found(lane="L1", start=40 * BEAT, end=41 * BEAT) == []
    page = logbook.log(demo, most=1, wanted=Wanted(verb="reshape"))
    assert ([x.number for x in page.entries], page.more) == ([2], True)
    rest = logbook.log(demo, before=2, most=1, wanted=Wanted(verb="reshape"))
    assert ([x.number for x in rest.entries], rest.more) == ([1], False)
    assert logbook.log(demo).entries[1].window == "slate"


def test_ways_that_were_left_are_told_from_what_redo_leads_to(demo):
    for n, by in enumerate((-1.0, -2.0, -3.0)):
        do(demo, n, "reshape", Reshape(("L1",), None, None, (Move("dB", by=by),)))
    history.undo(demo, history.undo(demo, 3).number)
    do(demo, 1, "embed", Embed(("bell.r2",)))
    history.undo(demo, 4)
    said = {x.number: (x.undone, x.aside, x.current) for x in logbook.log(demo).entries}
    assert said == {4: (True, False, False), 3: (True, True, False), 2: (True, True, False), 1: (False, False, True)}


def test_pictures_show_what_the_first_lane_did_before_and_after(demo):
    do(demo, 0, "reshape", Reshape(("L1",), None, None, (Move("dB", by=-3.0),)))
    do(demo, 1, "note", SetNote("lane", "L1", "listen"))
    do(demo, 2, "set precedence", SetPrecedence("track"))
    (one,) = logbook.pictured(demo, [1, 2, 3])
    (now,) = [x.envelope for x in history.at_revisions(demo, 1)[0].lanes if x.id == "L1"]
    assert (one.number, one.parameter, one.before, one.after) == (
        1,
        "bell.level",
        skerry_light.session().lane("L1").envelope,
        now,
    )


def test_a_mark_has_a_name_stays_one_a_revision_and_says_what_changed_since_the_one_before(demo):
    do(demo, 0, "reshape", Reshape(("L1",), None, None, (Move("dB", by=-3.0),)))
    logbook.mark(demo, 1, " as played ", "on Friday")
    do(demo, 1, "reshape", Reshape(("L2",), None, None, (Move("", by=3.0),)))
    do(demo, 2, "dissolve group", DissolveGroup("swell", set_to_read=True))
    logbook.mark(demo, 3, "as played")
    logbook.mark(demo, 1, "as first played", "on Friday")
    assert [(m.number, m.name, m.note) for m in logbook.marks(demo)] == [
        (3, "as played", ""),
        (1, "as first played", "on Friday"),
    ]
    assert logbook.before_mark(demo, 3) == (1, 2) and logbook.before_mark(demo, 1) == (0, 1)
    assert list(logbook.changed_between(demo, 0, 1)) == ["bell.level"]
    assert sessions.opened(past.number_of(demo, 1)).row.past == 3
    for name, number, wrong in (("", 1, "name"), ("x" * 301, 1, "name"), ("x", 9, None)):
        with pytest.raises((RequestError, NotFound)) as refused:
            logbook.mark(demo, number, name)
        assert wrong is None or refused.value.code == wrong
    logbook.unmark(demo, 3)
    with pytest.raises(NotFound):
        logbook.unmark(demo, 3)


def test_the_past_can_be_looked_at_and_not_be_changed(demo):
    do(demo, 0, "reshape", Reshape(("L1",), None, None, (Move("dB", by=-3.0),)))
    state = past.number_of(demo, 0)
    assert sessions.load(state) == skerry_light.session()
    for step in (
        lambda: history.undo(state, 0),
        lambda: do(state, 0, "reshape", Reshape(("L1",), None, None, (Move("dB", by=-3.0),))),
    ):
        with pytest.raises(RequestError, match="as it was at revision 0"):
            step()
    with pytest.raises(NotFound):
        sessions.load(past.number_of(demo, 7))


def test_what_is_brought_back_from_a_revision_that_was_tidied_is_refused_in_words(demo):
    for n in range(3):
        do(demo, n, "reshape", Reshape(("L1",), None, None, (Move("dB", by=-1.0),)))
    Revision.objects.update(made=timezone.now() - timedelta(days=90))
    told = history_tidying.tidy(demo, 30, try_only=False)
    assert (told.steps, told.aside) == (2, 0) and told.bytes > 0
    (line,) = logbook.log(demo).entries
    assert (line.number, line.parent, line.folds) == (3, 0, 2)
    with pytest.raises(RequestError) as refused:
        do(demo, 3, "bring back", replace(BringBack(2), parameters=("bell.level",)))
    assert refused.value.code == "revision-unknown"
