"""Every verb, asked for anything: it is planned or refused in words, and a plan never makes what cannot be."""

import pickle

import numpy as np
import pytest
from hypothesis import given, reject, settings
from hypothesis import strategies as st

from tests.strategies import linked_sessions, planned, requests
from velmot.core.errors import RequestError
from velmot.core.session.phrases import says
from velmot.core.verbs import OPERATIONS, verb_of
from velmot.formats import session_file
from velmot.formats.requests import from_row, to_row


@pytest.mark.parametrize("verb", OPERATIONS)
@settings(max_examples=settings().max_examples * 2 // 5)
@given(st.data())
def test_anything_asked_is_planned_or_refused_in_words(verb, data):
    session = data.draw(linked_sessions(verb))
    links = data.draw(st.sampled_from(["follow", "here", "free"]))
    before = pickle.dumps(session)
    # Two of three are refused, and a session costs more than they do: several are asked of each.
    for request in data.draw(st.lists(requests(session, verb), min_size=6, max_size=6)):
        assert verb_of(request) == verb and from_row(to_row(verb, request)) == (verb, request)
        try:
            change = planned(session, verb, request, links)
            break
        except RequestError as refused:
            assert refused.code and refused.message and (refused.accepted or refused.remedy)
    else:
        reject()  # what is refused does not count: where everything is, the test fails
    assert change == planned(session, verb, request, links) and session == pickle.loads(before)
    after = change.applied_to(session)
    for lane in after.lanes:
        curve, parameter = lane.envelope, after.parameter(lane.parameter)
        assert (np.diff(curve.ticks) >= 0).all() and not (curve.ticks[2:] == curve.ticks[:-2]).any()
        assert (curve.values >= parameter.low).all() and (curve.values <= parameter.high).all()
    for one in after.placements:
        assert says(
            after.phrase(one.phrase),
            one,
            after.parameter(one.parameter),
            after.lane_at(one.parameter, one.home).envelope,
        )
    assert session_file.read(session_file.write(after))[0] == after
    if change.empty:
        assert after == session
