"""Carry linked: the source of a carry and all it lands on become places of one phrase, whose edits reach every one of them."""

from __future__ import annotations

from collections.abc import Iterable, Iterator
from dataclasses import dataclass, field, replace

from velmot.core.errors import RequestError
from velmot.core.parameters.parameter import Parameter
from velmot.core.session.phrases import Phrase, Placement, over_each_other
from velmot.core.session.session import Session
from velmot.core.session.track import ON_THE_TRACK, Lane
from velmot.core.session.wording import parameter_name
from velmot.core.verbs.frame.change import Caution, Change, PhraseSwap, PlacementSwap, caution
from velmot.core.verbs.frame.given import kept


@dataclass(frozen=True)
class Linking:
    """One stretch that is carried: what the source lane does from `start` to `end`, and where else it lands.

    `landings` are (parameter, tick, line between the two axes); without a lane it is no lane's own and cannot be linked.
    """

    lane: Lane | None
    parameter: Parameter
    start: int
    end: int
    landings: tuple[tuple[Parameter, int, tuple[float, float]], ...]


@dataclass
class _Made:
    phrases: list[Phrase] = field(default_factory=list)
    placements: list[Placement] = field(default_factory=list)
    cautions: list[Caution] = field(default_factory=list)


def with_links_made(session: Session, change: Change, linkings: Iterable[Linking]) -> Change:
    """The change of a carry with its phrases and placements; what cannot be linked stays plain points, and is said."""
    made = _Made()
    ids, names = session.new_ids("place"), session.new_ids("phrase")
    for one in linkings:
        _link(session, one, made, ids, names)
    _apart(made.placements)
    return replace(
        change,
        phrases=tuple(PhraseSwap(None, x) for x in made.phrases),
        placements=tuple(PlacementSwap(None, x) for x in made.placements),
        cautions=(*change.cautions, *dict.fromkeys(made.cautions)),
    )


def _apart(placements: list[Placement]) -> None:
    """Raise RequestError where something would land on what it comes from, or on something else that lands."""
    if any(over_each_other(placements)):
        raise RequestError(
            "linked/over-source", place="at", accepted="landings as far apart as the range is long, or more"
        )


def _link(session: Session, one: Linking, made: _Made, ids: Iterator[str], names: Iterator[str]) -> None:
    called = parameter_name(session, one.parameter.id)
    if one.lane is None:
        made.cautions.append(caution("not-linked/several", name=called))
        return
    zero = session.zero_of(one.lane)
    there = [
        x for x in session.placed_on(one.parameter.id, one.lane.home) if x.span == (one.start - zero, one.end - zero)
    ]
    if there:
        source = there[0]
    else:
        phrase = kept(session, one.lane, one.start, one.end, called, next(names))
        made.phrases.append(phrase)
        source = Placement(next(ids), phrase.id, one.parameter.id, one.lane.home, one.start - zero, one.end - one.start)
        made.placements.append(source)
    for target, at, (a, b) in one.landings:
        if at < 0 or at + source.length > session.length:
            made.cautions.append(caution("not-linked/beyond", name=target.name))
            continue
        made.placements.append(
            replace(
                source,
                id=next(ids),
                parameter=target.id,
                home=ON_THE_TRACK,
                start=at,
                scale=a * source.scale,
                offset=a * source.offset + b,
            )
        )
