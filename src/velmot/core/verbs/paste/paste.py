"""Paste: lanes from the clipboard, to the same place or another, onto the same or a chosen parameter."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import replace
from typing import Literal

from velmot.core.curves import editing
from velmot.core.errors import RequestError
from velmot.core.limits import MOST_SPOTS
from velmot.core.parameters.mapping import Mapped, Mapping, affine, mapped, possible
from velmot.core.parameters.parameter import Kind, Parameter
from velmot.core.remedy import Remedy
from velmot.core.session.session import Session
from velmot.core.session.track import ON_THE_TRACK
from velmot.core.session.wording import named
from velmot.core.verbs.frame import cautions as say
from velmot.core.verbs.frame import telling as tell
from velmot.core.verbs.frame.change import Change, Went, caution
from velmot.core.verbs.frame.clips import clip_envelope
from velmot.core.verbs.frame.operation import Operation
from velmot.core.verbs.frame.working_copy import WorkingCopy
from velmot.core.verbs.paste.request import Clip, Paste


def plan(session: Session, request: Paste) -> Change:
    """The change that pastes; what fits no parameter, or only by being distorted, is refused in words."""
    if not request.clips:
        raise RequestError("clips-none", place="clips", accepted="copied lanes")
    if sum(len(c.points) for c in request.clips) > MOST_SPOTS:
        raise RequestError("points-many/clipboard", place="clips", accepted=f"at most {MOST_SPOTS:,}")
    at = request.start if request.at is None else request.at
    if request.length <= 0 or not 0 <= at < session.length:
        end = str(session.tempo.position(session.length))
        raise RequestError("at-outside", place="at", accepted=f"1.1.00 to {end}")
    work = WorkingCopy(session)
    taken: set[str] = set()
    for clip in request.clips:
        parameter = _parameter(session, clip, request, taken)
        if parameter is None:
            work.cautions.append(caution("no-such-parameter/clip", name=f"{clip.track} {clip.name}"))
            continue
        taken.add(parameter.id)
        made, line = _mapped(clip, parameter, request)
        work.land_mapped(parameter, made, at)
        work.went += _went(session, clip, request, parameter, at, line)
        if not session.owner(parameter.id).reads:
            work.cautions.append(say.not_reading(session.owner(parameter.id)))
    return replace(work.change(), linking=Remedy("link them", step=replace(request, linked=True)))


def _went(
    session: Session, clip: Clip, request: Paste, onto: Parameter, at: int, line: tuple[float, float]
) -> Iterator[Went]:
    """Where a clip may come from: the lanes of the parameters of its name. What is not so any more is not found to be so."""
    how: Literal["copied", "offered"] = "copied" if request.linked else "offered"
    for source in _of_its_name(session, clip):
        for lane in session.lanes_of(source.id):
            start = request.start - session.zero_of(lane)
            yield Went(source.id, lane.home, start, start + request.length, onto.id, ON_THE_TRACK, at, *line, how)


def _of_its_name(session: Session, clip: Clip) -> list[Parameter]:
    """The parameters a clip could be of, by the names of track and parameter."""
    form = (clip.name, clip.family, clip.kind)
    tracks = (t for t in session.tracks if t.name == clip.track)
    return [p for t in tracks for p in t.parameters if (p.name, p.family, p.kind) == form]


def _parameter(session: Session, clip: Clip, request: Paste, taken: set[str]) -> Parameter | None:
    if request.onto is not None:
        return session.parameter(request.onto)
    return next((p for p in _of_its_name(session, clip) if p.id not in taken), None)


def _mapped(clip: Clip, parameter: Parameter, request: Paste) -> tuple[Mapped, tuple[float, float]]:
    """The clip's curve as the parameter can have it (the same numbers, or the same position in the range), and by which
    straight line between the two axes.
    """
    if (clip.kind is Kind.CONTINUOUS) != (parameter.kind is Kind.CONTINUOUS):
        raise RequestError(
            "kind-differs",
            name=clip.name,
            sort=clip.kind,
            name2=parameter.name,
            sort2=parameter.kind,
            place="onto",
            accepted=f"a {clip.kind} parameter",
        )
    fragment = editing.cut(clip_envelope(clip), 0, request.length)
    if (clip.unit, clip.axis) == (parameter.unit, parameter.axis):
        return possible(fragment, parameter), (1.0, 0.0)
    if request.how == "unit":
        raise RequestError(
            "unit-differs/clip",
            name=clip.name,
            measure=clip.measure,
            name2=parameter.name,
            what=parameter.unit or "plain numbers",
            place="onto",
            accepted=f"a parameter in {clip.measure}, or the same position in the range",
        )
    source = Parameter(
        "clip",
        clip.name,
        clip.family,
        unit=clip.unit,
        axis=clip.axis,
        low=clip.low,
        high=clip.high,
        default=clip.low,
        value=clip.low,
    )
    by_range = Mapping("range")
    line = affine(source, [fragment.envelope], parameter, by_range)
    return mapped(source, fragment, parameter, by_range, line), line


def sentence(session: Session, request: Paste) -> tell.Told:
    """“Paste Bell buoy Level at 3.1.00 onto the same names, refusing other units.”"""
    names = [f"{c.track} {c.name}" for c in request.clips]
    return tell.told(
        "Paste {clips} at {at} onto {onto}, {how}" + ("; {linked}" if request.linked else "") + ".",
        clips=named(names, "lane") if names else tell.Asked("copy lanes first"),
        at=tell.position(session, request.start if request.at is None else request.at),
        onto="the same names" if request.onto is None else tell.parameters(session, [request.onto]),
        how={"unit": "refusing other units", "range": "keeping the position in the range"}[request.how],
        linked="linked places stay linked",
    )


OPERATION = Operation("paste", Paste, plan, sentence, "replacing")
