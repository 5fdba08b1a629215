"""Fill a gap between regions: what is heard at its edge is held through it, or both edges are joined straight."""

from __future__ import annotations

from velmot.core.curves.editing import Fragment
from velmot.core.curves.envelope import Envelope
from velmot.core.curves.segments import HOLD
from velmot.core.errors import RequestError
from velmot.core.session.heard import heard, reading
from velmot.core.session.session import Session
from velmot.core.session.wording import span_text
from velmot.core.verbs.frame import telling as tell
from velmot.core.verbs.frame.cautions import not_reading
from velmot.core.verbs.frame.change import Change
from velmot.core.verbs.frame.checks import need_range
from velmot.core.verbs.frame.heard_change import change_between
from velmot.core.verbs.frame.landing import Landed
from velmot.core.verbs.frame.operation import Operation
from velmot.core.verbs.frame.working_copy import WorkingCopy
from velmot.core.verbs.regions.request import FillGap


def plan(session: Session, request: FillGap) -> Change:
    """The gap filled from what is heard at its edges; at the session's own edges there is only one value to take."""
    need_range(request.start, request.end)
    parameter = session.parameter(request.parameter)
    if request.end > session.length:
        end = session.tempo.position(session.length)
        raise RequestError("range-late", place="end", accepted=f"{end} or earlier")
    now = heard(reading(session), parameter.id, groups=False)
    if any(a < request.end and request.start < b for a, b, _, _ in now.spans):
        raise RequestError(
            "gap-covered",
            name=parameter.name,
            where=span_text(session, request.start, request.end),
            place="range",
            accepted="a span between regions",
        )
    before, after = now.envelope.value_at(request.start, "left"), now.envelope.value_at(request.end)
    if request.start == 0:
        before = after
    if request.end >= session.length:
        after = before
    hold = request.how == "hold" or parameter.holds_only or before == after
    length = request.end - request.start
    rows = [(0, before, HOLD if hold else 0.0), (length, before if hold else after, 0.0)]
    work = WorkingCopy(session)
    work.lay(parameter, [Landed(request.start, Fragment(Envelope.of(rows, parameter.axis), length))])
    work.name(parameter.id, request.start, request.end)
    track = session.owner(parameter.id)
    return change_between(session, work.after(), [] if track.reads else [not_reading(track)], work.named)


def sentence(session: Session, request: FillGap) -> tell.Told:
    """“Fill Foghorn Level from 8.3.00 to 9.2.00: hold what was before.”"""
    return tell.told(
        "Fill {parameter} from {start} to {end}: {how}.",
        parameter=tell.parameters(session, [request.parameter] if request.parameter else []),
        start=tell.position(session, request.start),
        end=tell.position(session, request.end),
        how={"hold": "hold what was before", "join": "join both sides"}[request.how],
    )


OPERATION = Operation("fill gap", FillGap, plan, sentence, "by hand")
