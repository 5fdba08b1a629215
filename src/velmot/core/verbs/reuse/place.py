"""Place: a phrase or a shape onto parameters, once or often, as deep as asked for, staggered; linked or as plain points."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass, replace

from velmot.core.errors import RequestError
from velmot.core.limits import MOST_TIMES, STEEPEST
from velmot.core.parameters.mapping import possible_value, same_unit
from velmot.core.parameters.parameter import Parameter
from velmot.core.session.phrases import Line, Phrase, Placement, between, drawn
from velmot.core.session.session import Session
from velmot.core.session.track import ON_THE_TRACK
from velmot.core.session.wording import parameter_name
from velmot.core.verbs.frame import cautions as say
from velmot.core.verbs.frame import telling as tell
from velmot.core.verbs.frame.change import Caution, Change, PhraseSwap, PlacementSwap, caution
from velmot.core.verbs.frame.checks import need, need_range
from velmot.core.verbs.frame.given import phrase_of as given_phrase
from velmot.core.verbs.frame.given import same_phrase
from velmot.core.verbs.frame.landing import Landed
from velmot.core.verbs.frame.operation import Operation, home_span
from velmot.core.verbs.frame.working_copy import WorkingCopy
from velmot.core.verbs.reuse.request import Place, PlaceOn


@dataclass(frozen=True)
class _Placed:
    """One appearance; of a wrapped one the last `over` ticks come in at `back_at`, and it is no whole place any more."""

    one: Placement
    over: int
    back_at: int


def plan(session: Session, request: Place) -> Change:
    """Everything placing would make: placements, which are drawn with all others, or plain points."""
    _check(session, request)
    phrase = phrase_of(session, request)
    work = WorkingCopy(session)
    placed = [x for x in _placements(session, request, phrase, work.cautions) if not _there(session, request, x.one)]
    made, parted = [x.one for x in placed if not x.over], [x for x in placed if x.over]
    work.budget.spend(len(placed) * len(phrase.piece.envelope), max(len(placed), 1))
    tracks = dict.fromkeys(session.owner(t.parameter).id for t in request.targets)
    if request.set_to_read:
        work.set_to_read(tracks)
    work.cautions += [say.not_reading(work.track(id), request) for id in tracks if not work.track(id).reads]
    _lay_parted(work, phrase, parted)
    if request.linked:
        work.cautions += _regions_that_win(session, made)
    else:
        _lay(work, request, phrase, made)
        return work.change()
    if parted:
        work.cautions.append(caution("not-linked/parted", count=len(parted), start=request.start))
    change = work.change()
    new = phrase.id not in {p.id for p in session.phrases}
    return replace(
        change,
        phrases=(PhraseSwap(None, phrase),) if new and made else (),
        placements=tuple(PlacementSwap(None, one) for one in made),
    )


def _check(session: Session, request: Place) -> None:
    need(request.targets, "parameter", place="targets")
    if len({(t.parameter, t.home) for t in request.targets}) < len(request.targets):
        raise RequestError("lands-twice/named", place="targets", accepted="each once")
    if request.end is not None:
        need_range(request.start, request.end)
    if not 0 <= request.start < session.length:
        raise RequestError("at-outside", place="start", accepted="a place inside it")
    if request.times is not None and not 1 <= request.times <= MOST_TIMES:
        raise RequestError("times/often", place="times", accepted=f"1 to {MOST_TIMES:,}")
    if request.times is None and request.end is None:
        raise RequestError("times/no-range", place="times", accepted="a range, or how often")
    if not abs(request.depth) <= STEEPEST:
        raise RequestError("depth/deep", place="depth", accepted="a number of percent")
    if request.to_each_side is not None and not abs(request.to_each_side) <= STEEPEST:
        raise RequestError("depth/deep", place="depth", accepted="a number of the parameter's unit")
    if request.stagger < 0:
        raise RequestError("stagger", place="stagger", accepted="0 or more")
    if request.edges == "ramp" and request.linked:
        raise RequestError("ramp-linked", place="edges", accepted="edges that jump, or plain points")
    if request.edges == "ramp" and request.ramp <= 0:
        raise RequestError("ramp-none", place="ramp", accepted="a length such as 80 ms")


def _regions_that_win(session: Session, made: list[Placement]) -> Iterator[Caution]:
    """Regions whose own lanes speak where something is placed on their track."""
    spans: dict[str, list[tuple[int, int]]] = {}
    for one in made:
        if one.home == ON_THE_TRACK:
            spans.setdefault(one.parameter, []).append(one.span)
    for id, some in spans.items():
        yield from say.region_wins(session, session.parameter(id), session.owner(id), some)


def _there(session: Session, request: Place, one: Placement) -> bool:
    """Whether the very same place is there already."""
    placed = session.placed_on(one.parameter, one.home) if request.linked else []
    return any(replace(x, id=one.id) == one for x in placed)


def phrase_of(session: Session, request: Place) -> Phrase:
    """The phrase that is placed, a new one for what is brought along or made here; refused where that is not one thing."""
    if sum(x is not None for x in (request.phrase, request.given, request.shape)) != 1:
        raise RequestError("phrase-none", place="phrase", accepted="a phrase, or a shape")
    if request.phrase is not None:
        return session.phrase(request.phrase)
    id = next(session.new_ids("phrase"))
    if request.given is not None:
        made = given_phrase(request.given, id)
        return same_phrase(session, made) or made
    assert request.shape is not None
    name = request.name.strip() or request.shape.kind
    made = Phrase(id, name, _each(request, None), shape=request.shape).checked("shape")
    return same_phrase(session, made) or made


def _each(request: Place, phrase: Phrase | None) -> int:
    """How long one appearance is."""
    room = None if request.end is None else request.end - request.start
    each = request.length if request.length is not None else phrase.length if phrase else room
    if each is None or each < 1:
        raise RequestError("length/none", place="length", accepted="a length, or a range")
    return each


def _placements(session: Session, request: Place, phrase: Phrase, cautions: list[Caution]) -> Iterator[_Placed]:
    each = _each(request, phrase)
    room = None if request.end is None else request.end - request.start
    times = request.times if request.times is not None else max((room or 0) // each, 1)
    if times > MOST_TIMES:
        raise RequestError("times/often", place="times", accepted=f"1 to {MOST_TIMES:,}")
    ids = session.new_ids("place")
    round_by = max(room or 0, times * each)  # how long the way is that wrapped ones go round
    for n, target in enumerate(request.targets):
        parameter = session.parameter(target.parameter)
        line = line_of(request, phrase, parameter, target)
        later = n * request.stagger
        turn, shift = (0, later)
        if request.wrap and round_by == times * each:  # which leaves no gap: what leaves one comes into the next
            turn, shift = later % each, 0
        first, last = home_span(session, parameter, target.home)
        fits = 0
        for i in range(times):
            offset = shift + i * each
            start = request.start + (offset % round_by if request.wrap else offset)
            over = max(start + each - request.start - round_by, 0) if request.wrap else 0
            if min(start, request.start if over else start) < first or start + each - over > last:
                continue
            fits += 1
            one = Placement(next(ids), phrase.id, parameter.id, target.home, start - first, each,
                            line.scale, line.offset, request.backwards, turn)  # fmt: skip
            yield _Placed(one, over, request.start - first)
        if fits < times:
            name, owner = parameter_name(session, parameter.id), session.owner(parameter.id).id
            cautions.append(
                caution("beyond-end/places", count=times - fits, of=times, name=name, track=owner, start=last)
            )


def line_of(request: Place, phrase: Phrase, parameter: Parameter, target: PlaceOn) -> Line:
    """How deep a phrase lies on a parameter, as one straight line between the axes."""
    first, last = phrase.ends
    if request.deep == "unit":
        if not same_unit(phrase.source, parameter) and not (
            parameter.holds_only and (phrase.unit, phrase.axis) == (parameter.unit, parameter.axis)
        ):
            raise RequestError(
                "unit-differs", name=phrase.name, name2=parameter.name, place="deep", accepted="a depth, or two values"
            )
        return Line(-1.0, first + last) if request.upside_down else Line(1.0, 0.0)
    low, high = parameter.reach
    if request.deep == "between":
        ends = [
            parameter.low if target.low is None else target.low,
            parameter.high if target.high is None else target.high,
        ]
        for value, place in zip(ends, ("low", "high"), strict=True):
            possible_value(parameter, value, place)
        low, high = (float(parameter.axis.coordinate(v)) for v in ends)
    else:
        middle = (low + high) / 2 if request.deep == "range" else float(parameter.axis.coordinate(parameter.value))
        half = (high - low) * request.depth / 200 if request.to_each_side is None else request.to_each_side
        low, high = middle - half, middle + half
    low, high = (high, low) if request.upside_down else (low, high)
    return between(phrase, low, high, request.upside_down)


def _lay(work: WorkingCopy, request: Place, phrase: Phrase, made: list[Placement]) -> None:
    """Plain points: what the placements would draw, and no link."""
    ramp = request.ramp if request.edges == "ramp" else 0
    for one in made:
        parameter = work.session.parameter(one.parameter)
        piece = drawn(phrase, one, parameter)
        if one.home == ON_THE_TRACK:
            work.land_mapped(parameter, piece, one.start, ramp)
        else:
            work.lay(parameter, [Landed(one.start, piece.fragment, piece.limited)], ramp, one.home)


def _lay_parted(work: WorkingCopy, phrase: Phrase, parted: list[_Placed]) -> None:
    """What goes over the range's end, in two parts: as far as the end, and the rest from its start on."""
    for x in parted:
        one, parameter = x.one, work.session.parameter(x.one.parameter)
        piece = drawn(phrase, one, parameter)
        whole = Landed(one.start, piece.fragment, piece.limited)
        head, tail = whole.part(one.start, one.end - x.over), whole.part(one.end - x.over, one.end)
        work.lay(parameter, [head, replace(tail, at=x.back_at)], home=one.home)


def sentence(session: Session, request: Place) -> tell.Told:
    """“Place swell on Bell buoy Level from 9.1.00, once, 100 % of the range, linked.”"""
    what: str | tell.Asked = tell.Asked("choose a phrase")
    if request.phrase is not None:
        what = session.phrase(request.phrase).name
    elif request.given is not None:
        what = request.given.name.strip() or tell.Asked("name it")
    elif request.shape is not None:
        what = request.name.strip() or f"a {request.shape.kind}"
    field = "phrase" if request.shape is None else "shape"
    depth = f"{request.depth:g} %"
    deep = {
        "range": "{depth} {deep}",
        "static": "{depth} {deep}",
        "between": "{deep}",
        "unit": "{deep}",
    }[request.deep]
    stagger = ", each {stagger} later" if request.stagger else ""
    one = request.targets[0] if len(request.targets) == 1 else None
    said = {
        "range": "of the range",
        "static": "about the static value",
        "between": "between two values",
        "unit": "with its own numbers",
    }[request.deep]
    if request.deep == "between" and one is not None:
        p = session.parameter(one.parameter)
        said = f"between {p.format(p.low if one.low is None else one.low)} and {p.format(p.high if one.high is None else one.high)}"
    turned = [
        w
        for w, on in (("upside down", request.upside_down), ("backwards", request.backwards), ("wrapped", request.wrap))
        if on
    ]
    return tell.told(
        f"Place {{{field}}} on {{targets}} from {{start}}, {{times}}, {deep}{stagger}{''.join(', ' + w for w in turned)}, {{linked}}.",
        **{field: what},
        targets=tell.parameters(session, [t.parameter for t in request.targets]),
        start=tell.position(session, request.start),
        times="filling the range"
        if request.times is None
        else "once"
        if request.times == 1
        else f"{request.times:,} times",
        depth=depth,
        deep=said,
        stagger=tell.length(request.stagger),
        linked="linked" if request.linked else "as plain points",
    )


OPERATION = Operation("place", Place, plan, sentence, "linking", of_places=True)
