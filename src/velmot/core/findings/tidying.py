"""Tidying: all mends that are sure and change nothing of what is heard, one after the other."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Any

from velmot.core.findings import KINDS, Finding
from velmot.core.session.session import Session
from velmot.core.verbs import plan
from velmot.core.verbs.clear.request import Clear
from velmot.core.verbs.thin.request import Thin, Within

LOSSLESS = ("nothing", "flat", "pieces")
"""The kinds whose mends change nothing, in an order in which none undoes another."""


@dataclass(frozen=True)
class Tidied:
    """A session after all sure mends, and what was done: of each mend what was found."""

    session: Session
    done: tuple[Finding, ...]

    def points_gone(self, before: Session) -> int:
        """How many points fewer there are."""
        return sum(len(x.envelope) for x in before.lanes) - sum(len(x.envelope) for x in self.session.lanes)


def tidied(session: Session, within: tuple[Within, ...] = ()) -> Tidied:
    """The session without what is there for nothing; with bounds it is thinned within them too."""
    done: list[Finding] = []
    for name in LOSSLESS:
        look = KINDS[name].look
        assert look is not None
        parameters = [p.id for track in session.tracks for p in track.parameters]
        found = [one for id in parameters for one in look(session, id) if one.lossless and one.lane]
        if not found:
            continue
        lanes = tuple(one.lane for one in found if one.lane)
        verb, asked = _asked(name, lanes)
        session = plan(session, verb, asked).applied_to(session)
        done += found
    # What phrases say is theirs: it is thinned there, or it would be set free.
    own = tuple(lane.id for lane in session.lanes if not session.placed_on(lane.parameter, lane.home))
    if within and own:
        everything: Any = Thin(own, within=within)
        session = plan(session, "thin", everything).applied_to(session)
    return Tidied(session, tuple(done))


def _asked(name: str, lanes: tuple[str, ...]) -> tuple[str, Any]:
    """One request for all lanes of a kind."""
    if name == "pieces":
        return "thin", Thin(lanes, way="without loss")
    return "clear", Clear("lanes", lanes, static="mean" if name == "flat" else "keep")
