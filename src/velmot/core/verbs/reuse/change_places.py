"""Change places: placements moved, stretched, turned, read deeper or otherwise, or given another phrase; the link stays."""

from __future__ import annotations

from dataclasses import replace

from velmot.core.curves import editing
from velmot.core.errors import RequestError
from velmot.core.limits import STEEPEST
from velmot.core.parameters.mapping import possible_value
from velmot.core.session.phrases import Phrase, Placement, between, lands_between, over_each_other
from velmot.core.session.session import Session
from velmot.core.session.wording import listed, parameter_name
from velmot.core.verbs.frame import telling as tell
from velmot.core.verbs.frame.change import Change, PlacementSwap
from velmot.core.verbs.frame.checks import need
from velmot.core.verbs.frame.operation import Operation
from velmot.core.verbs.frame.working_copy import WorkingCopy
from velmot.core.verbs.reuse.request import ChangePlaces
from velmot.core.words import counted


def plan(session: Session, request: ChangePlaces) -> Change:
    """The change: what they said before is let go of where they lie no more."""
    need(request.placements, "place", place="placements")
    work = WorkingCopy(session)
    swaps = []
    for one in (session.placement(id) for id in dict.fromkeys(request.placements)):
        made = _changed(session, request, one)
        if problem := session.placement_problem(made):
            raise RequestError(
                "placement", problem=problem, place="placements", accepted="a span inside its track or region"
            )
        if made.span != one.span:
            _let_go(work, one, made)
        if made != one:
            swaps.append(PlacementSwap(one, made))
    _apart(session, [swap.after for swap in swaps if swap.after])
    return replace(work.change(), placements=tuple(swaps))


def _apart(session: Session, made: list[Placement]) -> None:
    """Raise RequestError where they would be so long that one lies over the next."""
    for one, following in over_each_other(made):
        name = f"{session.phrase(one.phrase).name} on {parameter_name(session, one.parameter)}"
        room = tell.length(following.start - one.start)
        raise RequestError(
            "placement/over-next", name=name, place="length", accepted=f"up to {room}, or one place at a time"
        )


def _changed(session: Session, request: ChangePlaces, one: Placement) -> Placement:
    phrase = session.phrase(one.phrase if request.phrase is None else request.phrase)
    length = one.length if request.length is None else request.length
    if length < 1:
        raise RequestError("length/place", place="length", accepted="a length above 0")
    turn = round(one.turn * length / one.length) if request.turn is None else request.turn
    scale, offset = _line(session, request, one, phrase)
    return replace(
        one,
        phrase=phrase.id,
        start=one.start + request.move,
        length=length,
        scale=scale,
        offset=offset,
        backwards=one.backwards if request.backwards is None else request.backwards,
        turn=turn % length,
    )


def _line(session: Session, request: ChangePlaces, one: Placement, phrase: Phrase) -> tuple[float, float]:
    """How it is read: between the values it lay between, but for what is asked for."""
    parameter, before = session.parameter(one.parameter), session.phrase(one.phrase)
    low, high = ends = lands_between(before, one)
    down = one.upside_down
    if request.depth is not None or request.to_each_side is not None:
        half = parameter.span * (request.depth or 0.0) / 200 if request.to_each_side is None else request.to_each_side
        if not abs(half) <= STEEPEST * parameter.span:
            raise RequestError("depth/deep", place="depth", accepted="a smaller number")
        half *= -1 if down else 1
        low, high = (low + high) / 2 - half, (low + high) / 2 + half
    for name, value in (("low", request.low), ("high", request.high)):
        if value is not None:
            possible_value(parameter, value, name)
    low = low if request.low is None else float(parameter.axis.coordinate(request.low))
    high = high if request.high is None else float(parameter.axis.coordinate(request.high))
    if request.upside_down is not None and request.upside_down != (low > high if low != high else down):
        low, high, down = high, low, not down
    if (low, high, down) == (*ends, one.upside_down) and phrase is before:
        return one.scale, one.offset
    return between(phrase, low, high, down)


def _let_go(work: WorkingCopy, one: Placement, made: Placement) -> None:
    """Lay a straight segment where a placement lies no more."""
    parameter = work.session.parameter(one.parameter)
    spans = []
    if made.start >= one.end or made.end <= one.start:
        spans = [one.span]
    else:
        spans += [(one.start, made.start)] if made.start > one.start else []
        spans += [(made.end, one.end)] if made.end < one.end else []
    if spans:
        curve = work.curve(parameter, one.home)
        zero = work.session.zero_of(work.session.lane_at(one.parameter, one.home))  # type: ignore[arg-type]
        straight = editing.straightened(curve, spans, parameter.holds_only)
        work.write(one.parameter, one.home, straight, (zero + spans[0][0], zero + spans[-1][1]))


def sentence(session: Session, request: ChangePlaces) -> tell.Told:
    """“Change 2 places of swell: 4 beats long, 50 % deep.”"""
    ones = [session.placement(id) for id in dict.fromkeys(request.placements)]
    names = listed([*dict.fromkeys(session.phrase(x.phrase).name for x in ones)], "phrase", 2)
    what = f"{counted(len(ones), 'place')} of {names}" if ones else tell.Asked("choose places")
    words = [
        (request.move, "move", ("later by " if request.move > 0 else "earlier by ") + tell.length(abs(request.move))),
        (request.length, "length", f"{tell.length(request.length or 0)} long"),
        (request.low is not None or None, "low", f"lowest {_values(session, ones, request.low)}"),
        (request.high is not None or None, "high", f"highest {_values(session, ones, request.high)}"),
        (request.depth is not None or None, "depth", f"{request.depth:g} % deep" if request.depth is not None else ""),
        (
            request.to_each_side is not None or None,
            "depth",
            f"{request.to_each_side:g} to each side deep" if request.to_each_side is not None else "",
        ),
        (request.upside_down is not None or None, "upside_down", "upside down" if request.upside_down else "upright"),
        (request.backwards is not None or None, "backwards", "backwards" if request.backwards else "forwards"),
        (request.turn is not None or None, "turn", f"turned by {tell.length(request.turn or 0)}"),
        (request.phrase, "phrase", f"replaced by {session.phrase(request.phrase).name}" if request.phrase else ""),
    ]
    said = {field: text for asked, field, text in words if asked}
    if not said:
        said = {"length": "as they are"}
    return tell.told(
        "Change {placements}: " + ", ".join(f"{{{field}}}" for field in said) + ".", placements=what, **said
    )


def _values(session: Session, ones: list[Placement], value: float | None) -> str:
    if value is None or not ones:
        return ""
    return session.parameter(ones[0].parameter).format(value)


OPERATION = Operation("change places", ChangePlaces, plan, sentence, "linking", of_places=True)
