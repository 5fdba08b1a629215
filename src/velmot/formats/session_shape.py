"""The shape of a velmot-session file, versions 1 to 5: what its JSON Schema in docs/ is made from."""

from __future__ import annotations

from typing import Annotated, Any, Literal

from pydantic import BaseModel, BeforeValidator, ConfigDict, Field, StrictBool, WithJsonSchema
from pydantic_core import PydanticCustomError

from velmot.core.curves.axes import Axis
from velmot.core.curves.shapes import EDITION
from velmot.core.curves.shapes import Kind as ShapeKind
from velmot.core.limits import (
    LARGEST_VALUE,
    LONGEST_NAME,
    LONGEST_NOTE,
    LONGEST_SOUND,
    LONGEST_UNIT,
    MOST_ALTERNATIVES,
    MOST_LANES,
    MOST_MARKERS,
    MOST_METERS,
    MOST_PARAMETERS,
    MOST_PHRASES,
    MOST_PLACEMENTS,
    MOST_REGIONS,
    MOST_REMARKS,
    MOST_SOUNDS,
    MOST_TEMPOS,
    MOST_TRACKS,
)
from velmot.core.parameters.parameter import Family, Kind
from velmot.core.session.sounds import HIGHEST_HZ, LOWEST_HZ
from velmot.core.session.sounds import KINDS as SOUNDS
from velmot.core.session.track import Mode, Precedence, TrackKind
from velmot.core.time.tempo import FASTEST, SLOWEST


def _no_other(value: Any) -> Any:
    """Numbers only: neither texts that look like some, nor truth values."""
    if isinstance(value, bool | str):
        raise PydanticCustomError("number_type", "Input should be a valid number")
    return value


Plain = BeforeValidator(_no_other)
Text = Annotated[str, Field(min_length=1, max_length=LONGEST_NAME)]
Beats = Annotated[float, Field(ge=0, le=1_000_000, allow_inf_nan=False), Plain]
Number = Annotated[float, Field(allow_inf_nan=False), Plain]

Meter = Annotated[int, Field(ge=1, le=64), Plain]


def _said(**bounds: Any) -> WithJsonSchema:
    """Bounds of a number that the core checks, in words of its own: the schema says the same, from the same constants."""
    return WithJsonSchema({"type": "number"} | bounds)


Length = Annotated[float, Field(allow_inf_nan=False), Plain, _said(exclusiveMinimum=0, maximum=1_000_000)]
Bpm = Annotated[float, Field(allow_inf_nan=False), Plain, _said(minimum=SLOWEST, maximum=FASTEST)]
Cycles = Annotated[float, Field(allow_inf_nan=False), Plain, _said(exclusiveMinimum=0)]
Phase = Annotated[float, Field(allow_inf_nan=False), Plain, _said(minimum=0, maximum=1)]
Skew = Annotated[float, Field(allow_inf_nan=False), Plain, _said(exclusiveMinimum=0, exclusiveMaximum=1)]
Grown = Annotated[float, Field(allow_inf_nan=False), Plain, _said(minimum=0, maximum=1000)]
Hurry = Annotated[float, Field(allow_inf_nan=False), Plain, _said(minimum=0.001, maximum=1000)]
Lean = Annotated[float, Field(allow_inf_nan=False), Plain, _said(minimum=-LARGEST_VALUE, maximum=LARGEST_VALUE)]
Seconds = Annotated[float, Field(allow_inf_nan=False), Plain, _said(minimum=0, maximum=LONGEST_SOUND)]
Unit = Annotated[Meter, WithJsonSchema({"type": "integer", "enum": [1, 2, 4, 8, 16, 32, 64]})]

_FROM_0: Any = {"allOf": [{"prefixItems": [{"prefixItems": [{"const": 0}]}]}], "minItems": 1}
"""A map of tempos or meters begins at beat 0."""

_ONE_OF_TWO: Any = {
    "oneOf": [
        {"required": ["points"], "properties": {"points": {"type": "array"}, "shape": {"type": "null"}}},
        {"required": ["shape"], "properties": {"shape": {"type": "object"}, "points": {"type": "null"}}},
    ]
}
"""A phrase has points or a shape, and not both."""

Points = Annotated[
    list[Any],
    WithJsonSchema(
        {
            "type": "array",
            "minItems": 1,
            "description": "Rows of [beat, value], with a third entry for the shape of the segment that starts "
            'there: "hold", or a bend number from -60 to 60; none means straight. Beats rise; two rows may '
            "share one (a jump). A region lane's beats count from its region's start.",
            "items": {
                "type": "array",
                "minItems": 2,
                "maxItems": 3,
                "prefixItems": [
                    {"type": "number", "minimum": -1_000_000, "maximum": 1_000_000},
                    {"type": "number", "minimum": -LARGEST_VALUE, "maximum": LARGEST_VALUE},
                    {"anyOf": [{"const": "hold"}, {"type": "number", "minimum": -60, "maximum": 60}]},
                ],
            },
        }
    ),
]


class Part(BaseModel):
    """A piece of the file. Keys this version does not know are kept and written back."""

    model_config = ConfigDict(extra="allow", strict=False)


class ParameterShape(Part):
    """A parameter; `value` is its static value. Silence on a level axis is −96."""

    id: Text
    name: Text
    family: Family
    kind: Kind = Kind.CONTINUOUS
    unit: Annotated[str, Field(max_length=LONGEST_UNIT)] = ""
    axis: Axis = Axis.LINEAR
    low: Number
    high: Number
    default: Number
    value: Number
    labels: list[tuple[Number, Text]] = Field(default=[], description="[value, words], for stepped and switch.")
    device: Text | None = Field(default=None, description="The id of the track's device it belongs to.")
    target: Text | None = Field(default=None, description="The id of the track a send feeds.")
    controller: Text | None = Field(default=None, description="What a MIDI file carries it as.")
    useful: tuple[Number, Number] | None = Field(default=None, description="The span in which it does useful work.")


class DeviceShape(Part):
    """A device on a track; devices of one kind can be matched between tracks."""

    id: Text
    name: Text
    kind: Text


class AudioShape(BaseModel):
    """A file of one's own: its name, and the SHA-256 of its bytes in hexadecimal digits."""

    model_config = ConfigDict(extra="forbid", strict=False)

    name: Text
    digest: Annotated[str, Field(pattern="^[0-9a-f]{64}$")]


class SoundShape(BaseModel):
    """What something sounds like: a stand-in made from a recipe, the notes of a MIDI file, or a file of one's own.

    A key that is not known would make it another sound, so there may be none.
    """

    model_config = ConfigDict(extra="forbid", strict=False)

    kind: Annotated[str, WithJsonSchema({"type": "string", "enum": list(SOUNDS)})]
    hz: Annotated[float, Field(allow_inf_nan=False), Plain, _said(minimum=LOWEST_HZ, maximum=HIGHEST_HZ)] = 220
    amplitude: Phase = 0.5
    density: Phase = 0.5
    brightness: Phase = 0.5
    seed: Annotated[int, Field(ge=-(2**53), le=2**53), Plain] = 0
    audio: AudioShape | None = Field(default=None, description="Of kind file, and of no other: which.")
    offset: Seconds = 0
    start: Beats = 0


class ClipShape(BaseModel):
    """A part of a region's sound: `at` and `length` in beats from its start, `offset` in seconds into the take.

    By its own recipe, or else the track's.
    """

    model_config = ConfigDict(extra="forbid", strict=False)

    at: Beats
    length: Length
    take: Text
    offset: Seconds = 0
    sound: SoundShape | None = None


class RegionShape(Part):
    """A named span of a track, in beats. A muted region's lanes do not speak; a container holds only automation.

    Where regions of a track overlap the one that starts later is heard, of those that start together the one that
    stands later in the list.
    """

    id: Text
    name: Text
    start: Beats
    length: Length
    muted: StrictBool = False
    container: StrictBool = False
    sound: Annotated[list[ClipShape], Field(max_length=MOST_SOUNDS)] = []


class TrackShape(Part):
    """A track. A group's members are ids of tracks."""

    id: Text
    name: Text
    kind: TrackKind = TrackKind.AUDIO
    mode: Mode = Mode.READ
    members: list[Text] = []
    devices: list[DeviceShape] = []
    parameters: Annotated[list[ParameterShape], Field(max_length=MOST_PARAMETERS)] = []
    regions: Annotated[list[RegionShape], Field(max_length=MOST_REGIONS)] = []
    sound: SoundShape | None = None


class LaneShape(Part):
    """One envelope for one parameter, at home on the track or in one of its regions."""

    id: Text
    parameter: Text
    home: Text = "track"
    points: Points


class ShapeShape(Part):
    """A recipe for a curve from 0 to 1; `cycle` is the length of one in beats, and goes before the count `cycles`.

    A key that is not known would make it another curve, so there may be none.
    """

    model_config = ConfigDict(extra="forbid", strict=False)

    kind: ShapeKind
    cycles: Cycles = 1
    cycle: Length | None = None
    phase: Phase = 0
    skew: Skew = 0.5
    grow_from: Grown = 100
    grow_to: Grown = 100
    hurry: Hurry = 1
    lean: Lean = 0
    seed: Annotated[int, Field(ge=-(2**53), le=2**53), Plain] = 0
    edition: Annotated[int, Field(ge=1, le=EDITION), Plain] = 1


class PhraseFields(Part):
    """What every file says of a phrase."""

    model_config = ConfigDict(extra="allow", strict=False, json_schema_extra=_ONE_OF_TWO)

    name: Text
    length: Length
    unit: Annotated[str, Field(max_length=LONGEST_UNIT)] = ""
    axis: Axis = Axis.LINEAR
    low: Number = 0
    high: Number = 1
    shape: ShapeShape | None = None
    points: Points | None = None


class PhraseShape(PhraseFields):
    """A named curve of its own: points from 0 to its length, or a recipe. `low` to `high` is what it was made for."""

    id: Text


class PlacementShape(Part):
    """One appearance of a phrase on a lane. A coordinate y of the phrase becomes scale·y + offset on the lane's axis.

    `start` counts from the start of the lane's region; `turn` is how much later the content comes inside the length.
    """

    id: Text
    phrase: Text
    parameter: Text
    home: Text = "track"
    start: Beats
    length: Length
    scale: Number = 1
    offset: Number = 0
    backwards: StrictBool = False
    turn: Beats = 0


class MarkerShape(Part):
    """A named place on the ruler, in beats; the name may be empty. A cue is one for whoever runs a show."""

    id: Text
    name: Annotated[str, Field(max_length=LONGEST_NAME)] = ""
    at: Beats
    cue: StrictBool = False


class LetBeShape(Part):
    """A finding that is kept quiet: its kind, whose it is (empty for all of the kind), and where, in beats from its home's start."""

    id: Text
    kind: Annotated[str, Field(max_length=LONGEST_NAME)]
    of: Annotated[str, Field(max_length=LONGEST_NAME)] = ""
    at: Annotated[float, Field(ge=-1_000_000, le=1_000_000, allow_inf_nan=False), Plain] = 0.0


class NoteShape(Part):
    """Some words on a lane, parameter, region or track, by its id."""

    id: Text
    about: Literal["lane", "parameter", "region", "track"]
    of: Text
    text: Annotated[str, Field(min_length=1, max_length=LONGEST_NOTE)]


class KeptLaneShape(Part):
    """A lane as it was when it was kept aside. Its axis is said where the parameter has another one by now."""

    id: Text
    home: Text = "track"
    axis: Axis | None = None
    points: Points


class AlternativeShape(Part):
    """Another go at a parameter, kept beside what is used: all its lanes, or those that matter for a range in beats.

    `kept` is when it was put aside, as ISO 8601 says it. A region that is gone by now may still be named.
    """

    id: Text
    name: Text
    parameter: Text
    kept: Annotated[str, Field(max_length=40)] = ""
    start: Beats | None = None
    end: Beats | None = None
    places: Annotated[list[PlacementShape], Field(max_length=MOST_PLACEMENTS)] = []
    lanes: Annotated[list[KeptLaneShape], Field(max_length=MOST_LANES)] = []


class SessionShape(Part):
    """A whole session. Positions are beats (quarter notes), in the shortest decimal that reads back to the tick.

    Version 2 has phrases and placements, version 3 markers and sounds, version 4 notes and findings
    that are let be, version 5 alternatives; a session is written as the lowest that can say it.
    """

    format: Literal["velmot-session"]
    version: Literal[1, 2, 3, 4, 5]
    name: Text
    length: Annotated[float, Field(gt=0, le=1_000_000, allow_inf_nan=False), Plain]
    precedence: Precedence = Precedence.REGION
    tempo: Annotated[
        list[tuple[Beats, Bpm] | tuple[Beats, Bpm, Literal["ramp"]]],
        Field(max_length=MOST_TEMPOS, json_schema_extra=_FROM_0),
    ] = [(0, 120)]
    meter: Annotated[list[tuple[Beats, Meter, Unit]], Field(max_length=MOST_METERS, json_schema_extra=_FROM_0)] = [
        (0, 4, 4)
    ]
    tracks: Annotated[list[TrackShape], Field(max_length=MOST_TRACKS)] = []
    phrases: Annotated[list[PhraseShape], Field(max_length=MOST_PHRASES)] = []
    placements: Annotated[list[PlacementShape], Field(max_length=MOST_PLACEMENTS)] = []
    markers: Annotated[list[MarkerShape], Field(max_length=MOST_MARKERS)] = []
    let_be: Annotated[list[LetBeShape], Field(max_length=MOST_REMARKS)] = []
    notes: Annotated[list[NoteShape], Field(max_length=MOST_REMARKS)] = []
    lanes: Annotated[list[LaneShape], Field(max_length=MOST_LANES)] = []
    alternatives: Annotated[list[AlternativeShape], Field(max_length=MOST_ALTERNATIVES)] = []
