"""Notes: put, changed, taken away; and sets by rule."""

import pytest

from velmot.core.errors import RequestError
from velmot.core.session import rules
from velmot.core.session.remarks import Note
from velmot.core.time.ticks import ticks_of as b
from velmot.core.verbs import plan, sentence
from velmot.core.verbs.frame.telling import in_words
from velmot.core.verbs.notes.request import SetNote
from velmot.formats import session_file
from velmot.site.demo import skerry_light

DEMO = skerry_light.session()


def test_a_note_is_put_changed_and_taken_away():
    put = plan(DEMO, "note", SetNote("region", "foghorn.r1", " wait for the light ")).applied_to(DEMO)
    assert put.notes == (Note("note1", "region", "foghorn.r1", "wait for the light"),)
    assert session_file.read(session_file.write(put))[0] == put
    other = plan(put, "note", SetNote("region", "foghorn.r1", "go")).applied_to(put)
    assert other.notes == (Note("note1", "region", "foghorn.r1", "go"),)
    same = plan(other, "note", SetNote("region", "foghorn.r1", "go"))
    assert same.empty and [c.code for c in same.cautions] == ["no-change"]
    assert plan(other, "note", SetNote("region", "foghorn.r1")).applied_to(other) == DEMO
    title = plan(DEMO, "note", SetNote("track", "bell", "a" * 60)).title
    assert title == f"Note on Bell buoy: {'a' * 40}…"


@pytest.mark.parametrize("about", ["lane", "parameter", "region", "track"])
def test_a_note_on_nothing_is_refused(about):
    with pytest.raises(RequestError) as refused:
        plan(DEMO, "note", SetNote(about, "nowhere", "x"))
    assert refused.value.kind == f"{about}-unknown"
    with pytest.raises(RequestError) as refused:
        plan(DEMO, "note", SetNote("track", "bell", "x" * 2001))
    assert (refused.value.kind, refused.value.place) == ("note-long", "text")


def test_rules_tell_sets():
    assert rules.of_family(DEMO, "mute") == ["foghorn.mute", "keeper.mute"]
    under = rules.of_group(DEMO, "swell")
    assert {DEMO.owner(p).id for p in under} == {"swell", *DEMO.track("swell").members}
    assert "foghorn.mute" in rules.moving(DEMO, 0, DEMO.length) and rules.moving(DEMO, 0, b(1)) != []
    lane = DEMO.lane("L28")
    first = int(lane.envelope.ticks[0])
    assert lane.parameter not in rules.moving(DEMO, 0, first) and lane.parameter in rules.moving(DEMO, 0, first + b(8))
    assert rules.of_lanes(DEMO, ["L28", "L1"]) == ["bell.level", "rain.shimmer.shimmer"]


def test_a_request_without_words_asks_for_them():
    assert in_words(sentence(DEMO, "note", SetNote("track", ""))) == "Take the note off choose what it is on."
