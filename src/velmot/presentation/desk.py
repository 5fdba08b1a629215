"""The desk: what its controls show while time runs, what drives them, and scripted hands found on a session's controls."""

from __future__ import annotations

from collections.abc import Iterable

import numpy as np
from pydantic import BaseModel, Field

from velmot.core.curves.strokes import Does
from velmot.core.parameters.parameter import Family, Parameter
from velmot.core.session.above import groups_above
from velmot.core.session.heard import fader_of, groups_add, heard, in_words, reading
from velmot.core.session.session import Session
from velmot.core.session.wording import parameter_name
from velmot.core.time.ticks import Ticks, beats_of, ticks_of
from velmot.formats.report import MEGABYTE
from velmot.formats.ride_file import HandShape, RideShape
from velmot.presentation.curves import View
from velmot.storage import upkeep


class DrivesOut(BaseModel):
    """What drives a control over a span."""

    start: float
    end: float
    words: str


class ControlOut(BaseModel):
    """A control over a span: its own values in equal steps, and what the groups above add to a level (else nothing)."""

    parameter: str
    mode: str = Field(description="Its track's mode.")
    own: list[float]
    adds: list[float]
    groups: str = Field(description="The groups that add, by name.")
    drives: list[DrivesOut]


class DeskOut(BaseModel):
    """What controls do from `start` on, a value every `step` beats."""

    start: float
    step: float
    controls: list[ControlOut]
    room: str = Field(description="That the disk is getting full, in words; empty where it is not.")


class HandOut(BaseModel):
    """A scripted hand on a control of the session; beats count from the start of the pass."""

    parameter: str
    mode: str
    trim: bool
    at: list[float]
    does: list[Does]
    value: list[float | None]


class RideOut(BaseModel):
    """A scripted ride as it would play here; `missing` names what it rides that is not here."""

    name: str
    says: str
    length: float
    hands: list[HandOut]
    missing: list[str]


def desk_out(session: Session, parameters: Iterable[str], view: View) -> DeskOut:
    """What controls show in a view, as if their tracks read them: a hand takes hold of them where they are."""
    start, end = ticks_of(view.start), ticks_of(view.end)
    ticks = np.linspace(start, end, view.columns + 1).round().astype(np.int64)
    step = (view.end - view.start) / view.columns
    controls = [_control(session, session.parameter(id), ticks) for id in dict.fromkeys(parameters)]
    return DeskOut(start=view.start, step=step, controls=controls, room=_room_text(upkeep.room_left()))


def _room_text(left: int | None) -> str:
    if left is None:
        return ""
    said = f"{left // MEGABYTE} MB" if left >= MEGABYTE else "less than 1 MB"
    return f"The disk is getting full: {said} left. Make room before you ride what cannot be done again."


def _control(session: Session, parameter: Parameter, ticks: Ticks) -> ControlOut:
    now = heard(reading(session), parameter.id, groups=False)
    track = session.owner(parameter.id)
    above = [g for g in groups_above(session, track.id) if fader_of(g)] if parameter.family is Family.LEVEL else []
    adds = groups_add(session, track.id) if above else None
    span = int(ticks[0]), int(ticks[-1])
    drives = [
        DrivesOut(start=beats_of(r.start), end=beats_of(r.end), words=in_words(session, r))
        for r in now.reasons
        if r.start < span[1] and span[0] < r.end
    ]
    return ControlOut(
        parameter=parameter.id,
        mode=track.mode.value,
        own=now.envelope.at(ticks).round(6).tolist(),
        adds=[] if adds is None else adds.at(ticks).round(6).tolist(),
        groups=", ".join(g.name for g in above),
        drives=drives,
    )


def ride_out(session: Session, ride: RideShape, desk: list[str]) -> RideOut:
    """A ride on the controls it names; what names none takes the desk's next one."""
    free = [id for id in desk if not any(id == _named(session, hand) for hand in ride.hands)]
    hands, missing = [], []
    for hand in ride.hands:
        id = _named(session, hand) if hand.track or hand.parameter else next(iter(free), None)
        if id is None:
            missing.append(f"{hand.track} {hand.parameter}".strip() or "a control on the desk")
            continue
        free = [x for x in free if x != id]
        at, does, value = zip(*hand.events, strict=True) if hand.events else ((), (), ())
        hands.append(HandOut(parameter=id, mode=hand.mode, trim=hand.trim, at=[*at], does=[*does], value=[*value]))
    return RideOut(name=ride.name, says=ride.says, length=ride.length, hands=hands, missing=missing)


def _named(session: Session, hand: HandShape) -> str | None:
    """The parameter a hand names: its id, or the names of its track and itself."""
    wanted = f"{hand.track} {hand.parameter}"
    every = (p for track in session.tracks for p in track.parameters)
    return next((p.id for p in every if hand.parameter == p.id or parameter_name(session, p.id) == wanted), None)
