"""A session of planted mistakes: all are found and hardly anything else, and all are mended in one step."""

import numpy as np
import pytest

from tests.planted import ALL, planted
from velmot.core.findings import all_findings
from velmot.core.session.heard import heard
from velmot.core.tidy.request import Found, Mend
from velmot.core.verbs import plan

MENDED = {"nothing", "flat", "pieces", "stairs", "step", "late", "open", "loud", "same", "copies", "figure", "gap",
          "not heard", "dense", "disagree", "unplaced"}  # fmt: skip
"""The kinds that something mends; what names to give, and which of two lanes is right, only people know."""
LOSSLESS = {"nothing", "flat", "pieces", "same", "copies", "figure"}
"""The kinds whose planted mistakes are mended without anything being heard differently, to 1e-9."""


def named(one) -> str:
    return one.about if one.kind == "names" else one.of


@pytest.mark.parametrize("seed", range(20))
def test_all_that_was_planted_is_found_and_mended_in_one_step(seed):
    session, wanted = planted(seed)
    assert len(wanted) >= 2 * len(ALL) >= 40
    found = all_findings(session)
    assert all(any(x.kind == kind and named(x) in of for x in found) for kind, of in wanted)
    false = [x for x in found if not any(x.kind == kind and named(x) in of for kind, of in wanted)]
    assert not false, "at most two over all twenty would do; there are none"

    ticked = [x for x in found if x.mend is not None]
    assert {x.kind for x in ticked} == MENDED
    change = plan(session, "mend", Mend(tuple(Found(*x.known_as(session)) for x in ticked)))
    assert not [c for c in change.cautions if c.code == "not-mended"]
    after = change.applied_to(session)
    left = all_findings(after)
    assert not [x for x in left if x.kind in MENDED], (
        "nothing that could be mended is left, and no mend made another mistake"
    )

    mended = {session.lane(x.lane).parameter for x in ticked if x.kind in LOSSLESS and x.lane}
    others = {x.parameter for x in ticked if x.kind not in LOSSLESS}
    for parameter in sorted(mended - others):
        axis = session.parameter(parameter).axis
        was, now = (heard(state, parameter).envelope for state in (session, after))
        ticks = np.unique(np.concatenate((was.ticks, now.ticks)))
        for side in ("left", "right"):
            apart = axis.coordinate(was.at(ticks, side)) - axis.coordinate(now.at(ticks, side))
            assert np.abs(apart).max() < 1e-9, parameter
