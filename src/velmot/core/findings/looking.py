"""Looking: everything that is found in a session, again only where something changed; and what was said to let be."""

from __future__ import annotations

from collections.abc import Iterable

from velmot.core.findings.finding import Finding, Known
from velmot.core.findings.kinds import KINDS
from velmot.core.session.above import groups_above
from velmot.core.session.session import Session
from velmot.core.session.track import Track


class Looked:
    """What was found in one session after another, kept for every track until something it depends on changes."""

    def __init__(self) -> None:
        self._tracks: dict[str, tuple[tuple[object, ...], dict[str, list[Finding]]]] = {}
        self._of_all = {
            kind.name: kind.keeping() if kind.keeping else kind.look_all for kind in KINDS.values() if kind.look_all
        }

    def all(self, session: Session) -> list[Finding]:
        """Everything there is, kind by kind, also what is let be; of each kind in the order of the session's parameters."""
        self._tracks = {track.id: self._of_track(session, track) for track in session.tracks}
        found: list[Finding] = []
        for kind in KINDS.values():
            look = self._of_all.get(kind.name)
            found += look(session) if look else []
            found += [one for _, of_kind in self._tracks.values() for one in of_kind.get(kind.name, ())]
        return found

    def _of_track(self, session: Session, track: Track) -> tuple[tuple[object, ...], dict[str, list[Finding]]]:
        key = _all_that_counts(session, track)
        known = self._tracks.get(track.id)
        if known is not None and known[0] == key:
            return known
        found: dict[str, list[Finding]] = {}
        for kind in KINDS.values():
            for parameter in track.parameters if kind.look else ():
                found.setdefault(kind.name, []).extend(kind.look(session, parameter.id))  # type: ignore[misc]
        return key, found


def _all_that_counts(session: Session, track: Track) -> tuple[object, ...]:
    """What the findings of a track depend on: its own lanes and places, those of the groups above it, and time."""
    tracks = (track, *groups_above(session, track.id))
    parameters = [p.id for one in tracks for p in one.parameters]
    lanes = tuple(lane for id in parameters for lane in session.lanes_of(id))
    places = tuple(one for lane in lanes for one in session.placed_on(lane.parameter, lane.home))
    return tracks, lanes, places, session.tempo, session.length, session.precedence, session.extra


def all_findings(session: Session) -> list[Finding]:
    """Everything there is, also what is let be, as `Looked.all` has it."""
    return Looked().all(session)


def findings(session: Session, parameters: Iterable[str]) -> list[Finding]:
    """Everything that strips mark on some parameters, by parameter and kind; not what is let be."""
    kinds = [kind for kind in KINDS.values() if kind.on_strips and kind.look]
    found = [finding for id in parameters for kind in kinds if kind.look for finding in kind.look(session, id)]
    return [one for one in found if not is_let_be(session, one)]


def is_let_be(session: Session, one: Finding) -> bool:
    """Whether someone said that a finding, or all of its kind, is to be kept quiet."""
    quiet = session.remembered("let be", None, lambda: {Known(x.kind, x.of, x.at) for x in session.let_be})
    return bool(quiet) and (Known(one.kind, "", 0) in quiet or one.known_as(session) in quiet)


def findings_of_lanes(session: Session, parameters: Iterable[str]) -> dict[str, list[Finding]]:
    """Lane id → what is found of it, of those kinds that are about whole lanes."""
    found: dict[str, list[Finding]] = {}
    for id in parameters:
        for kind in KINDS.values():
            for finding in kind.look(session, id) if kind.of_lanes and kind.look else ():
                if finding.lane is not None:
                    found.setdefault(finding.lane, []).append(finding)
    return found
