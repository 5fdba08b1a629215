"""Mending what was ticked in one step, letting be, and cleaning up: what is done, what is said, and what is refused."""

import pytest
from hypothesis import given
from hypothesis import strategies as st

from tests.core.findings.test_kinds import in_region
from tests.planted import planted
from tests.strategies import sessions
from velmot.core.curves.axes import Axis
from velmot.core.curves.envelope import Envelope
from velmot.core.errors import RequestError
from velmot.core.findings import all_findings, findings, is_let_be
from velmot.core.parameters.parameter import level
from velmot.core.progress import watched
from velmot.core.session.remarks import LetBe
from velmot.core.session.session import Session
from velmot.core.session.track import Lane, Track
from velmot.core.tidy.request import CleanUp, Found, LetBeFound, Mend
from velmot.core.tidy.several import Several
from velmot.core.time.ticks import Tick
from velmot.core.time.ticks import ticks_of as b
from velmot.core.verbs import plan
from velmot.core.verbs.points.request import AddPoints
from velmot.core.verbs.regions.request import CarryRegions
from velmot.core.verbs.reuse.request import Pool, PoolPlace
from velmot.core.verbs.thin.request import Within
from velmot.formats import session_file
from velmot.site.demo import skerry_light

DEMO = skerry_light.session()


def of(kind: str, session=DEMO):
    return [one for one in all_findings(session) if one.kind == kind]


def tick(*found, session=DEMO):
    return tuple(Found(*one.known_as(session)) for one in found)


def test_all_ticked_are_one_step_and_what_went_along_is_counted():
    """Four lanes of one track that does not read, and the group's members that disagree: one switch mends all five."""
    found = [*of("not heard"), *of("disagree"), *of("late")]
    assert [x.kind for x in found] == ["not heard"] * 4 + ["disagree", "late"]
    change = plan(DEMO, "mend", Mend(tick(*found)))
    assert [(s.before.mode, s.after.mode) for s in change.tracks] == [("off", "read")]
    (moot,) = [c for c in change.cautions if c.code == "moot"]
    assert moot.args == (("count", 4),)
    assert moot.message == "4 findings went along with what was mended before"
    assert {t.parameter for t in change.touched} >= {"choir.level", "choir.pan", "rain.shimmer.shimmer"}
    after = change.applied_to(DEMO)
    assert not [x for x in all_findings(after) if x.kind in ("not heard", "disagree", "late")]
    assert change.title == "Mend 6 findings"


def test_what_nothing_mends_and_what_is_not_found_is_refused():
    (one, *_) = of("otherwise")
    with pytest.raises(RequestError) as refused:
        plan(DEMO, "mend", Mend(tick(*of("late"), one)))
    assert refused.value.kind == "mend-none" and refused.value.place == "found[1]"
    for wrong in (Found("late", "L1"), Found("loved", "L28"), Found("late", "nowhere"), Found("late", "L28", b(1))):
        with pytest.raises(RequestError) as refused:
            plan(DEMO, "mend", Mend((wrong,)))
        assert (refused.value.kind, refused.value.place) == ("finding-gone", "found[0]")
    with pytest.raises(RequestError, match="no finding is chosen"):
        plan(DEMO, "mend", Mend(()))


def test_what_was_let_be_is_found_and_not_told():
    (late,) = of("late")
    asked = LetBeFound(tick(late))
    after = plan(DEMO, "let be", asked).applied_to(DEMO)
    assert after.let_be == (LetBe("let1", "late", "L28", 0),) or after.let_be[0].at == late.start
    (still,) = of("late", after)
    assert is_let_be(after, still) and not is_let_be(DEMO, late)
    twice = plan(after, "let be", asked)
    assert twice.empty and [c.code for c in twice.cautions] == ["no-change"]
    again = plan(after, "let be", LetBeFound(tick(late), again=True)).applied_to(after)
    assert again == DEMO
    assert session_file.read(session_file.write(after))[0] == after


def test_all_of_a_kind_is_let_be_also_what_is_yet_to_come():
    after = plan(DEMO, "let be", LetBeFound(kinds=("gap",))).applied_to(DEMO)
    assert all(is_let_be(after, x) for x in of("gap", after)) and len(of("gap", after)) == len(of("gap"))
    assert not any(x.kind == "gap" for x in findings(after, after._parameters)), "strips mark it no more"
    with pytest.raises(RequestError) as refused:
        plan(DEMO, "let be", LetBeFound(kinds=("love",)))
    assert refused.value.place == "kinds" and "gap" in refused.value.accepted


def test_what_is_let_be_stays_so_when_its_region_is_moved():
    session = in_region([(0, -30), (6, -30), (10, -10)])
    (one,) = of("open", session)
    quiet = plan(session, "let be", LetBeFound(tick(one, session=session))).applied_to(session)
    moved = plan(quiet, "carry regions", CarryRegions(("r",), at=b(16))).applied_to(quiet)
    (again,) = of("open", moved)
    assert again.start == b(22) and is_let_be(moved, again)


def test_cleaning_up_says_what_it_comes_to_and_leaves_what_is_let_be():
    session, _ = planted(7, clean=2)
    change = plan(session, "clean up", CleanUp())
    (said,) = [c for c in change.cautions if c.code == "tidied"]
    before = sum(len(x.envelope) for x in session.lanes)
    after = change.applied_to(session)
    left = sum(len(x.envelope) for x in after.lanes)
    assert (
        said.args == (("before", before), ("after", left), ("count", 4)) and len(session.lanes) - len(after.lanes) == 4
    )
    assert change.heard.largest < 1e-9
    assert not [x for x in all_findings(after) if x.lossless]
    quiet = plan(session, "let be", LetBeFound(kinds=("flat", "pieces"))).applied_to(session)
    kept = plan(quiet, "clean up", CleanUp()).applied_to(quiet)
    assert len(session.lanes) - len(kept.lanes) == 2
    thinner = plan(session, "clean up", CleanUp((Within("dB", 0.5),))).applied_to(session)
    assert sum(len(x.envelope) for x in thinner.lanes) < left
    with pytest.raises(RequestError) as refused:
        plan(session, "clean up", CleanUp((Within("dB", 0.0),)))
    assert refused.value.kind == "bound-wrong"


@given(sessions(), st.data())
def test_anything_ticked_is_gone_or_said_not_to_be(session, data):
    found = [x for x in all_findings(session) if x.mend is not None]
    if not found:
        return
    some = data.draw(st.lists(st.sampled_from(found), min_size=1, unique_by=lambda x: x.known_as(session)))
    change = plan(session, "mend", Mend(tick(*some, session=session)))
    after = change.applied_to(session)
    left = {(x.kind, x.of, x.start, x.words) for x in all_findings(after)}
    failed = sum(c.args[0][1] for c in change.cautions if c.code == "not-mended")
    assert sum((x.kind, x.of, x.start, x.words) in left for x in some) <= failed


def test_mending_says_how_far_it_is_and_stops_where_that_is_wanted():
    session, _ = planted(2, clean=1)
    found = [x for x in all_findings(session) if x.mend is not None]
    told = []
    with watched(lambda share: told.append(share) or True):
        plan(session, "mend", Mend(tick(*found, session=session)))
    assert told == sorted(told) and told[0] >= 0 and 0.5 < told[-1] <= 1
    with watched(lambda share: share < 0.4), pytest.raises(RequestError) as refused:
        plan(session, "mend", Mend(tick(*found, session=session)))
    assert refused.value.kind == "stopped", "and is not taken for a mend that could not be done"


def test_what_cannot_be_mended_after_all_is_said_and_the_rest_is_done(monkeypatch):
    def refused(request):
        raise RequestError("amount/raise", place="amount")

    real = Several.take

    def take(self, request):
        refused(request) if isinstance(request, AddPoints) else real(self, request)

    monkeypatch.setattr(Several, "take", take)
    change = plan(DEMO, "mend", Mend(tick(*of("late"), *of("disagree"))))
    (said,) = [c for c in change.cautions if c.code == "not-mended"]
    assert said.message == "1 finding could not be mended: this is too much to raise by"
    assert change.applied_to(DEMO).track("choir").reads


def test_a_mend_on_a_linked_place_changes_no_other_track():
    """A step inside a place of a phrase that lies on two tracks: the place is set free, and the other one stays."""
    rows = [(0, -20.0, 0.0), (b(4), -20.0, 0.0), (b(4) + 1, -8.0, 0.0), (b(8), -8.0, 0.0)]
    tracks = tuple(Track(f"t{n}", f"Bell {n}", parameters=(level(f"l{n}"),)) for n in range(2))
    curve = Envelope.of([*rows, (b(20), -8.0, 0.0)], Axis.LEVEL)
    session = Session("s", b(32), tracks, tuple(Lane(f"L{n}", f"l{n}", "track", curve) for n in range(2))).checked()
    pool = Pool("L0", Tick(0), Tick(b(8)), "step", (PoolPlace("L1", Tick(0), Tick(b(8))),))
    linked = plan(session, "pool", pool).applied_to(session)
    (one, *_) = [x for x in of("step", linked) if x.lane == "L0"]
    change = plan(linked, "mend", Mend(tick(one, session=linked)))
    after = change.applied_to(linked)
    assert after.lane("L1") == linked.lane("L1") and after.phrases == linked.phrases
    assert [x.parameter for x in after.placements] == ["l1"]
    assert [c.code for c in change.cautions] == ["set-free"]
