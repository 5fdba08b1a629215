"""What there is to say before a pass starts: that what is ridden would not be written, or not be heard, with the way out."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import replace

import numpy as np

from velmot.core.curves import editing
from velmot.core.parameters.parameter import Label, Parameter
from velmot.core.remedy import Remedy
from velmot.core.session.above import groups_above
from velmot.core.session.heard import fader_of, heard
from velmot.core.session.session import Session
from velmot.core.session.switches import mutes_of, switches_of
from velmot.core.session.track import Track
from velmot.core.session.wording import parameter_name
from velmot.core.time.ticks import Tick
from velmot.core.verbs.draw.request import Draw
from velmot.core.verbs.frame import cautions as say
from velmot.core.verbs.frame.change import Caution, caution
from velmot.core.verbs.points.request import Spot
from velmot.core.verbs.ride.request import Ridden, Ride
from velmot.core.verbs.shape.request import SameValues


def unheard(session: Session, request: Ride, ridden: Ridden, mode: str, span: tuple[int, int]) -> list[Caution]:
    """Why what a control writes in a span would not be heard, or that its mode writes nothing."""
    parameter, track = session.parameter(ridden.parameter), session.owner(ridden.parameter)
    name = parameter_name(session, parameter.id)
    if mode in ("off", "read"):
        if not ridden.hand.at and mode == "read":
            return []
        said_mode = "off" if mode == "off" else "on read"
        remedy = Remedy("ride it in latch", step=_in_latch(request, parameter.id))
        return [caution("not-written", name=name, mode=said_mode, track=track.id, remedy=remedy)]
    said_so: list[Caution] = []
    if not track.reads and not request.set_to_read:
        remedy = Remedy("set it to read, and go on", step=replace(request, set_to_read=True))
        said_so.append(replace(say.not_reading(track), remedy=remedy))
    if request.lands == "on the track":
        remedy = Remedy("write what is heard", step=replace(request, lands="where it is heard"))
        wins = say.region_wins(session, parameter, track, [span])
        said_so += [replace(one, remedy=remedy) for one in wins]
    for switch, silent, words in switches_of(track, parameter):
        if one := _switched_off(session, track, switch, silent, span, words):
            said_so.append(one)
    for group in groups_above(session, track.id):
        said_so += _under_silence(session, group, parameter, span)
    return said_so


def _under_silence(session: Session, group: Track, parameter: Parameter, span: tuple[int, int]) -> Iterator[Caution]:
    """That a group above is muted, or silent, somewhere in a span."""
    for switch in mutes_of(group):
        if one := _switched_off(session, group, switch, 1, span, f"{group.name} is muted"):
            yield one
    fader = fader_of(group)
    if fader is None:
        return
    curve = editing.cut(heard(session, fader.id, groups=False).envelope, *span).envelope
    silent = curve.axis.silent(curve.values)
    if silent.any():
        at = span[0] + int(curve.ticks[int(silent.argmax())])
        where = str(session.tempo.position(at))
        yield caution("not-heard/group", name=group.name, where=where, track=group.id, start=at)


def _in_latch(request: Ride, parameter: str) -> Ride:
    """The same passes with one control in latch."""
    passes = tuple(
        replace(one, controls=tuple(replace(r, mode="latch") if r.parameter == parameter else r for r in one.controls))
        for one in request.passes
    )
    return replace(request, passes=passes)


def _switched_off(
    session: Session, track: Track, switch: Parameter, silent: int, span: tuple[int, int], words: str
) -> Caution | None:
    """A caution where a switch is silent anywhere in a span; it names the first such place."""
    off, other = switch.labels[silent].value, switch.labels[1 - silent]
    curve = heard(session, switch.id, groups=False).envelope
    ticks = np.concatenate(([span[0]], curve.ticks[(curve.ticks > span[0]) & (curve.ticks < span[1])]))
    is_off = curve.at(ticks) == off
    if not is_off.any():
        return None
    first = int(is_off.argmax())
    start = int(ticks[first])
    end = next((int(t) for t, still in zip(ticks[first:], is_off[first:], strict=True) if not still), span[1])
    where = "" if (start, end) == span else f" from {session.tempo.position(start)} to {session.tempo.position(end)}"
    remedy = Remedy(f"put {switch.name} to {other.text} first", step=_switched(session, switch, other, start, end))
    return caution("not-heard/switch", what=words, where=where, track=track.id, start=start, end=end, remedy=remedy)


def _switched(session: Session, switch: Parameter, to: Label, start: int, end: int) -> SameValues | Draw:
    """The step that puts a switch to one of its values over a span."""
    lanes = tuple(x.id for x in session.lanes_of(switch.id))
    if lanes:
        return SameValues(lanes, Tick(start), Tick(end), to="value", text=to.text)
    return Draw(switch.id, (Spot(Tick(start), to.value), Spot(Tick(end), to.value)))
