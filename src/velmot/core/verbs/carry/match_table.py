"""The match table of a carry: where the lanes of each source parameter land on each target track."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Literal

from velmot.core.errors import RequestError
from velmot.core.limits import MOST_LANDINGS
from velmot.core.parameters.mapping import Mapping
from velmot.core.parameters.parameter import Parameter
from velmot.core.session.matching import same_parameter
from velmot.core.session.session import Session
from velmot.core.session.track import Track
from velmot.core.session.wording import parameter_name
from velmot.core.verbs.carry.request import Match

Found = Literal["itself", "same", "other slot", "nothing", "chosen"]


@dataclass(frozen=True)
class Landing:
    """Where one source parameter's lanes go on one target track, and how that was found.

    `onto` is None where they are left out or where what they need has to be added first (`do` says which).
    `mapping` is the mapping where the units differ, else None.
    """

    source: Parameter
    track: Track
    do: Literal["land", "add", "leave out"]
    found: Found
    onto: Parameter | None = None
    mapping: Mapping | None = None


def landing(session: Session, given: Match | None, missing: str, source: Parameter, track: Track) -> Landing:
    """The decision for one cell of the table: the one given, else the usual match, else what `missing` says."""
    usual = same_parameter(session, source, track)
    if given and given.do == "land":
        return _chosen(session, given, source, track)
    if given and given.do == "leave out":
        return Landing(source, track, "leave out", "chosen")
    if usual is not None:
        return Landing(source, track, "land", _found(session, source, track, usual), usual)
    add = given is not None or missing == "add"
    return Landing(source, track, "add" if add and source.target != track.id else "leave out", "nothing")


def table(
    session: Session, matches: tuple[Match, ...], missing: str, sources: list[Parameter], tracks: list[Track]
) -> list[Landing]:
    """Every cell: source parameters in order, each on every track. Raises RequestError if two land on one."""
    if len(sources) * len(tracks) > MOST_LANDINGS:
        raise RequestError(
            "too-much/landings",
            count=len(sources),
            count2=len(tracks),
            place="targets",
            accepted=f"at most {MOST_LANDINGS:,} landings together",
        )
    given = {(m.parameter, m.track): m for m in reversed(matches)}
    cells = [landing(session, given.get((s.id, t.id)), missing, s, t) for s in sources for t in tracks]
    taken: dict[str, Parameter] = {}
    for cell in cells:
        if cell.onto is None:
            continue
        first = taken.setdefault(cell.onto.id, cell.source)
        if first.id != cell.source.id:
            names = " and ".join(parameter_name(session, p.id) for p in (first, cell.source))
            raise RequestError(
                "lands-twice",
                names=names,
                name=cell.track.name,
                name2=cell.onto.name,
                place="matches",
                accepted="one source for each parameter of a target: leave one out, or choose another in the match table",
            )
    return cells


def _chosen(session: Session, given: Match, source: Parameter, track: Track) -> Landing:
    onto = next((p for p in track.parameters if p.id == given.onto), None)
    if onto is None:
        names = ", ".join(p.id for p in track.parameters[:8])
        raise RequestError("match-elsewhere", name=track.name, what=given.onto or "", place="matches", accepted=names)
    same_form = (source.kind, source.axis, source.unit) == (onto.kind, onto.axis, onto.unit)
    if same_form and not source.holds_only:
        return Landing(source, track, "land", "chosen", onto)
    if same_form and source.labels == onto.labels:
        return Landing(source, track, "land", "chosen", onto)
    how: Literal["fit", "range"] = "range" if given.low is None or given.high is None else "fit"
    return Landing(source, track, "land", "chosen", onto, Mapping(how, given.low, given.high))


def _found(session: Session, source: Parameter, track: Track, usual: Parameter) -> Found:
    if usual.id == source.id:
        return "itself"
    owner = session.owner(source.id)
    device, there = owner.device_of(source), track.device_of(usual)
    if device is None or there is None:
        return "same"
    slots = [[d.id for d in t.devices if d.kind == device.kind] for t in (owner, track)]
    return "same" if slots[0].index(device.id) == slots[1].index(there.id) else "other slot"
