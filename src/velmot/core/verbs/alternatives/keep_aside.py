"""Keep aside: what parameters do now becomes an alternative of each, beside what is used."""

from __future__ import annotations

from velmot.core.errors import RequestError
from velmot.core.limits import LONGEST_NAME
from velmot.core.session.alternatives import kept_aside, unlike_others
from velmot.core.session.session import Session
from velmot.core.verbs.alternatives.request import KeepAside
from velmot.core.verbs.frame import telling as tell
from velmot.core.verbs.frame.change import AlternativeSwap, Change
from velmot.core.verbs.frame.checks import name_of, need, need_range
from velmot.core.verbs.frame.operation import Operation
from velmot.core.words import counted


def plan(session: Session, request: KeepAside) -> Change:
    """The change that keeps them. RequestError where nothing is automated that could be kept."""
    need(request.parameters, "parameter")
    need_range(request.start, request.end)
    span = None if request.start is None or request.end is None else (request.start, request.end)
    able = [id for id in dict.fromkeys(request.parameters) if _has_lanes(session, id)]
    if not able:
        raise RequestError("aside-none", place="parameters", accepted="a parameter with a lane")
    name = name_of(request.name, "alternative") if request.name.strip() else ""
    ids = session.new_ids("alternative")
    swaps = []
    for id in able:
        called = unlike_others(session, id, name or _what_it_is(session, id))[:LONGEST_NAME]
        swaps.append(AlternativeSwap(None, kept_aside(session, id, next(ids), called, request.when, span)))
    return Change(alternatives=tuple(swaps))


def _has_lanes(session: Session, id: str) -> bool:
    session.parameter(id)
    return bool(session.lanes_of(id))


def _what_it_is(session: Session, id: str) -> str:
    """What a parameter does, in so few words: “9 points, −30.0 dB to −6.0 dB”."""
    parameter, lanes = session.parameter(id), session.lanes_of(id)
    low = min(float(lane.envelope.values.min()) for lane in lanes)
    high = max(float(lane.envelope.values.max()) for lane in lanes)
    points = counted(sum(len(lane.envelope) for lane in lanes), "point")
    reach = parameter.format(low) if low == high else f"{parameter.format(low)} to {parameter.format(high)}"
    return f"{points}, {reach}"


def sentence(session: Session, request: KeepAside) -> tell.Told:
    """“Keep aside what Keeper Level does as “quieter”.”"""
    said: dict[str, str | tell.Asked] = {"parameters": tell.parameters(session, request.parameters)}
    does, behind = "does" if len(set(request.parameters)) < 2 else "do", ""
    if request.start is not None and request.end is not None:
        said |= {"start": tell.position(session, request.start), "end": tell.position(session, request.end)}
        behind = " from {start} to {end}"
    if name := request.name.strip():
        said["name"] = f"“{name}”"
        behind += " as {name}"
    return tell.told(f"Keep aside what {{parameters}} {does}{behind}.", **said)


OPERATION = Operation("keep aside", KeepAside, plan, sentence, "moving", of_places=True)
