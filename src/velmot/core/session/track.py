"""Tracks with their devices, regions and parameters, markers, and lanes: what a session is made of."""

from __future__ import annotations

from dataclasses import dataclass, field
from enum import StrEnum
from typing import Any

from velmot.core.curves.envelope import Envelope
from velmot.core.parameters.parameter import Parameter
from velmot.core.session.phrases import Extra
from velmot.core.session.sounds import Excerpts, Sound

ON_THE_TRACK = "track"


class TrackKind(StrEnum):
    """What a track is."""

    AUDIO = "audio"
    INSTRUMENT = "instrument"
    BUS = "bus"
    GROUP = "group"


class Mode(StrEnum):
    """The trade's automation modes. Only off is not heard."""

    OFF = "off"
    READ = "read"
    TOUCH = "touch"
    LATCH = "latch"
    WRITE = "write"


class Precedence(StrEnum):
    """Which lane wins where a region's and the track's both speak."""

    REGION = "region"
    TRACK = "track"


@dataclass(frozen=True)
class Region:
    """A named span of a track, ``[start, start + length)`` in ticks.

    The lanes of a muted region do not speak, and it is not heard itself. A `container` holds nothing but automation:
    it lies over the track like any region. `sound` is what it sounds like where that is not simply a take of its own.
    """

    id: str
    name: str
    start: int
    length: int
    muted: bool = False
    container: bool = False
    extra: Extra = ()
    sound: Excerpts = ()

    @property
    def end(self) -> int:
        return self.start + self.length


@dataclass(frozen=True)
class Marker:
    """A named place on the ruler, in ticks. A `cue` is one for whoever runs a show; the name may be empty.

    Two of one name, or on one tick, are two: the id tells them apart.
    """

    id: str
    name: str
    tick: int
    cue: bool = False
    extra: Extra = ()


@dataclass(frozen=True)
class Device:
    """A device on a track. `kind` says what it is, so that two of a kind can be matched."""

    id: str
    name: str
    kind: str
    extra: Extra = ()


@dataclass(frozen=True)
class Track:
    """A track, its parameters, devices and regions. A group's `members` are track ids."""

    id: str
    name: str
    kind: TrackKind = TrackKind.AUDIO
    mode: Mode = Mode.READ
    parameters: tuple[Parameter, ...] = ()
    devices: tuple[Device, ...] = ()
    regions: tuple[Region, ...] = ()
    members: tuple[str, ...] = ()
    extra: Extra = ()
    sound: Sound | None = None

    @property
    def reads(self) -> bool:
        """Whether the track's lanes are heard at all."""
        return self.mode is not Mode.OFF

    def device_of(self, parameter: Parameter) -> Device | None:
        return next((d for d in self.devices if d.id == parameter.device), None)


@dataclass(frozen=True)
class Lane:
    """One envelope for one parameter. `home` is ON_THE_TRACK or a region's id.

    A region lane's points count from its region's start.
    """

    id: str
    parameter: str
    home: str
    envelope: Envelope
    extra: Extra = field(default=())

    @property
    def on_track(self) -> bool:
        return self.home == ON_THE_TRACK

    def __eq__(self, other: object) -> bool:
        return isinstance(other, Lane) and self._key() == other._key() and self.envelope == other.envelope

    def __hash__(self) -> int:
        return hash(self._key())

    def _key(self) -> tuple[Any, ...]:
        return self.id, self.parameter, self.home, self.extra
