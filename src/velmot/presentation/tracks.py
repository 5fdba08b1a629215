"""Tracks, parameters, regions and lanes as the screen shows them."""

from __future__ import annotations

from dataclasses import asdict
from functools import lru_cache
from hashlib import sha256
from typing import Any

import numpy as np
from pydantic import BaseModel, Field

from velmot.core.curves.axes import SILENCE_TEXT, Axis, Nudges
from velmot.core.findings import Finding
from velmot.core.parameters.parameter import Family, Label, Parameter
from velmot.core.session.heard import speaking
from velmot.core.session.session import Session
from velmot.core.session.sounds import NOTES, NOTHING, Sound
from velmot.core.session.summary import outline_of, picture_of
from velmot.core.session.takes import sound_of
from velmot.core.session.track import Lane, Region, Track
from velmot.core.time.ticks import beats_of
from velmot.core.verbs.follow.made import how_made
from velmot.formats.sound_rows import sound_row
from velmot.presentation.requests import AnyRequest, request_out
from velmot.sound.path import EXPRESSION
from velmot.sound.stand_ins import soundless

SPARK_COLUMNS = 48


class Picture(BaseModel):
    """A lane's outline in a few columns: lowest and highest, 0 to 100 of its own range."""

    family: str
    lows: list[int]
    highs: list[int]


class Mark(BaseModel):
    """A value worth marking on an axis."""

    value: float
    text: str


class NudgesOut(BaseModel):
    """How far a key moves something, in coordinates: as it is, with Alt, and with Shift."""

    usual: float
    fine: float
    coarse: float


NAMED = Nudges(1.0, 1.0, 1.0)
"""Named values are gone through one by one."""


class AxisOut(BaseModel):
    """All that drawing and wording a parameter's values takes: the screen has no rule of its own."""

    logarithmic: bool = Field(description="Whether a coordinate is the value's logarithm to base 2, else the value.")
    floor: float | None = Field(description="The value at and below which there is silence.")
    floor_text: str
    unit: str = Field(description="The unit of distances.")
    nudges: NudgesOut
    decimals: int = Field(description="Digits after the point of a value, where `significant` says nothing.")
    significant: int | None
    marks: list[Mark]


class ParameterOut(BaseModel):
    """A parameter of a track."""

    id: str
    name: str
    family: str
    kind: str
    unit: str
    axis: AxisOut
    low: float
    high: float
    value: float
    value_text: str
    device: str | None
    target: str | None
    soundless: bool = Field(description="Whether nothing stands for it: what it does is not heard here.")


class RegionFields(BaseModel):
    """What every answer says of a region."""

    id: str
    name: str
    start: float
    length: float
    muted: bool
    container: bool


class RegionOut(RegionFields):
    """A region of a track."""

    lanes: int


class DeviceOut(BaseModel):
    """A device of a track."""

    id: str
    name: str


class TrackOut(BaseModel):
    """A track with its parameters, devices and regions."""

    id: str
    name: str
    kind: str
    mode: str
    reads: bool
    members: list[str] = Field(description="The names of a group's members.")
    member_ids: list[str]
    regions: list[RegionOut]
    devices: list[DeviceOut]
    parameters: list[ParameterOut]
    sound: str = Field(description="What it sounds like, in words; empty for groups, and for buses.")
    sound_said: dict[str, Any] | None = Field(description="Its recipe, where one was said.")
    sounds: str = Field(description="A text that changes whenever what the track sounds like does.")


class LaneFinding(BaseModel):
    """What is found of a whole lane."""

    kind: str
    words: str


class LaneOut(BaseModel):
    """A lane as the ledger shows it. `spark` is its outline over the session, 0 to 100 of its own span."""

    id: str
    parameter: str
    track: str
    home: str
    home_name: str
    start: float
    end: float
    points: int
    low: float
    high: float
    moves: bool
    range_text: str = Field(description="Its lowest and highest values, in words.")
    movement: float = Field(description="How much of the parameter's range it goes through, 0 to 1.")
    changed: int = Field(description="The revision that touched it last; 0 as it came.")
    findings: list[LaneFinding]
    follows: AnyRequest | None = Field(description="How it was made by following, to be opened again; null for others.")
    spark: Picture


class Speaks(BaseModel):
    """A span in which a lane is heard, if its track reads; no lane where the static value is."""

    start: float
    end: float
    lane: str | None


def track_out(session: Session, track: Track) -> TrackOut:
    """A track with all that is on it but its lanes."""
    silent = _soundless(track)
    return TrackOut(
        id=track.id,
        name=track.name,
        kind=track.kind.value,
        mode=track.mode.value,
        reads=track.reads,
        members=[session.track(m).name for m in track.members],
        member_ids=[*track.members],
        regions=[RegionOut(**region_fields(r), lanes=len(session.lanes_in(r.id))) for r in track.regions],
        devices=[DeviceOut(id=d.id, name=d.name) for d in track.devices],
        parameters=[parameter_out(session, track, p, silent) for p in track.parameters],
        sound=sound_text(sound_of(session, track)),
        sound_said=sound_row(track.sound) if track.sound else None,
        sounds=_sounds(session, track),
    )


def sound_text(sound: Sound) -> str:
    """A sound in a few words: “murmur, 112 Hz”, “take 3.wav”."""
    if sound.audio is not None:
        return sound.audio.name
    if sound.kind == NOTHING:
        return ""
    pitched = sound.kind not in (NOTES, "rain", "noise")
    return f"{sound.kind}, {sound.hz:.4g} Hz" if pitched else sound.kind


def _sounds(session: Session, track: Track) -> str:
    regions = [(r.id, r.start, r.length, r.muted, r.sound) for r in track.regions if not r.container]
    return sha256(repr((sound_of(session, track), regions)).encode()).hexdigest()[:16]


def region_fields(r: Region) -> dict[str, Any]:
    """The fields of RegionFields."""
    span = {"start": beats_of(r.start), "length": beats_of(r.length)}
    return {"id": r.id, "name": r.name, **span, "muted": r.muted, "container": r.container}


def _soundless(track: Track) -> frozenset[str]:
    """The parameters of a track's devices that nothing stands for."""
    of: dict[str | None, list[Parameter]] = {}
    for p in track.parameters:
        of.setdefault(p.device, []).append(p)
    known = {device.id: device for device in track.devices}
    found = {id for key, own in of.items() if key in known for id in soundless(known[key], tuple(own))}
    loose = (p for p in track.parameters if p.family is Family.DEVICE and p.device not in known)
    return frozenset(found | {p.id for p in loose if p.controller != EXPRESSION})


def parameter_out(
    session: Session, track: Track, p: Parameter, soundless: frozenset[str] = frozenset()
) -> ParameterOut:
    """A parameter with its axis; `soundless` are those of its track that nothing stands for."""
    device = track.device_of(p)
    told: dict[str, Any] = {"soundless": p.id in soundless}
    told |= {"device": device.name if device else None, "target": session.track(p.target).name if p.target else None}
    return phrase_parameter_out(p).model_copy(update=told)


def phrase_parameter_out(p: Parameter) -> ParameterOut:
    """What a phrase would be a lane of, as a parameter is told."""
    return ParameterOut(
        id=p.id,
        name=p.name,
        family=p.family.value,
        kind=p.kind.value,
        unit=p.unit,
        axis=_axis_out(p.axis, p.low, p.high, p.unit, p.labels),
        low=p.low,
        high=p.high,
        value=p.value,
        value_text=p.format(p.value),
        device=None,
        target=None,
        soundless=False,
    )


@lru_cache(maxsize=256)
def _axis_out(axis: Axis, low: float, high: float, unit: str, labels: tuple[Label, ...]) -> AxisOut:
    """A session's parameters have only a few different ones."""
    marks = [(x.value, x.text) for x in labels] or axis.marks(low, high)
    digits = axis.digits(low, high)
    return AxisOut(
        logarithmic=axis.logarithmic,
        floor=axis.floor,
        floor_text=SILENCE_TEXT,
        unit="steps" if labels else axis.distance_unit or unit,
        nudges=NudgesOut(**asdict(NAMED if labels else axis.nudges(low, high))),
        decimals=digits.decimals,
        significant=digits.significant,
        marks=[Mark(value=v, text=text) for v, text in marks],
    )


def lane_out(session: Session, lane: Lane, changed: int, findings: list[Finding]) -> LaneOut:
    """A lane's line in the ledger."""
    start, end = session.span(lane)
    made = how_made(session, lane)
    lows, highs = outline_of(session, lane, SPARK_COLUMNS)
    low, high = float(lows.min()), float(highs.max())
    bottom, top = session.parameter(lane.parameter).position(np.array([low, high])).tolist()
    return LaneOut(
        id=lane.id,
        parameter=lane.parameter,
        track=session.owner(lane.parameter).id,
        home=lane.home,
        home_name="" if lane.on_track else session.region(lane.home).name,
        start=beats_of(start),
        end=beats_of(end),
        points=len(lane.envelope),
        low=low,
        high=high,
        moves=low != high,
        range_text=_range_text(session.parameter(lane.parameter), low, high),
        movement=top - bottom,
        changed=changed,
        findings=[LaneFinding(kind=f.kind, words=f.words) for f in findings],
        follows=request_out(made.request) if made else None,
        spark=Picture(**vars(picture_of(session, lane, SPARK_COLUMNS))),
    )


def _range_text(parameter: Parameter, low: float, high: float) -> str:
    ends = [parameter.format(low), parameter.format(high)]
    return ends[0] if ends[0] == ends[1] else " to ".join(ends)


def speaking_out(session: Session, parameter: str) -> list[Speaks]:
    """Which lane of a parameter is heard when, over the whole session."""
    spans = speaking(session, parameter).over(session.length)
    return [Speaks(start=beats_of(a), end=beats_of(b), lane=lane.id if lane else None) for a, b, lane in spans]
