"""Let be: findings that are to be kept quiet, or listed again."""

from __future__ import annotations

from velmot.core import findings
from velmot.core.errors import RequestError
from velmot.core.findings.finding import Known
from velmot.core.session.remarks import LetBe
from velmot.core.session.session import Session
from velmot.core.session.wording import listed
from velmot.core.tidy.request import LetBeFound
from velmot.core.tidy.ticked import all_of, said
from velmot.core.verbs.frame import telling as tell
from velmot.core.verbs.frame.cautions import no_change
from velmot.core.verbs.frame.change import Change, LetBeSwap
from velmot.core.verbs.frame.checks import need
from velmot.core.verbs.frame.operation import Operation


def plan(session: Session, request: LetBeFound) -> Change:
    """The session with a word on each finding, or without it."""
    if not request.kinds:
        need(request.found, "finding", place="found")
    if unknown := [kind for kind in request.kinds if kind not in findings.KINDS]:
        raise RequestError(
            "finding-kind", name=unknown[0], place="kinds", accepted=listed([*findings.KINDS], "kind", 30)
        )
    asked = [Known(kind, "", 0) for kind in request.kinds] + [Known(x.kind, x.of, x.at) for x in request.found]
    if not request.again:
        all_of(session, request.found)
    there = {Known(x.kind, x.of, x.at): x for x in session.let_be}
    ids = session.new_ids("let")
    if request.again:
        swaps = [LetBeSwap(there[one], None) for one in dict.fromkeys(asked) if one in there]
    else:
        swaps = [LetBeSwap(None, LetBe(next(ids), *one)) for one in dict.fromkeys(asked) if one not in there]
    return Change(let_be=tuple(swaps), cautions=() if swaps else (no_change(),))


def sentence(session: Session, request: LetBeFound) -> tell.Told:
    """“Let 2 findings be.”, “Let all of gaps be.” or “List 2 findings again.”"""
    kinds = listed([findings.KINDS[x].called if x in findings.KINDS else x for x in request.kinds], "kind")
    field, what = ("kinds", f"all of “{kinds}”") if request.kinds else ("found", said(session, request.found))
    way = f"List {{{field}}} again." if request.again else f"Let {{{field}}} be."
    return tell.told(way, **{field: what if request.kinds or request.found else tell.Asked("tick what to let be")})


OPERATION = Operation("let be", LetBeFound, plan, sentence, "moving")
