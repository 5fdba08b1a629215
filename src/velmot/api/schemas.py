"""The shapes that travel between the server and the screen. Positions are beats."""

from __future__ import annotations

from datetime import datetime
from typing import Annotated, Any, Literal, Union

from ninja import Schema
from pydantic import BaseModel, Field

from velmot.core.limits import MOST_IDS, MOST_PARAMETERS, MOST_POINTS
from velmot.formats.requests import request_models

Beats = Annotated[float, Field(ge=-1_000_000, le=1_000_000, allow_inf_nan=False)]

_MODELS = request_models()
AnyRequest: Any = (
    Annotated[Union[tuple(_MODELS)], Field(discriminator="verb")] if len(_MODELS) > 1 else _MODELS[0]  # noqa: UP007
)


class RemedyOut(Schema):
    """What can be done, for one click: ask for more regions too, or look at another step and take it first."""

    words: str
    also: list[str]
    step: AnyRequest | None


class Problem(Schema):
    """Every error has this shape: what was wrong, where, what would be right, and what can be done."""

    code: str
    message: str
    place: str = ""
    accepted: str = ""
    head: int | None = None
    remedy: RemedyOut | None = None


class ReportOut(BaseModel):
    """What an import or export did."""

    came: list[str] = []
    changed: list[str] = []
    left_out: list[str] = []


class SessionLine(BaseModel):
    """One session on the start page; `picture` holds a few lanes' outlines, 0 to 100."""

    id: int
    name: str
    changed: datetime
    tracks: int
    lanes: int
    points: int
    bars: int
    picture: list[Picture]


class Picture(BaseModel):
    """A lane's outline in a few columns: lowest and highest, 0 to 100 of its own range."""

    family: str
    lows: list[int]
    highs: list[int]


class Imported(Schema):
    """A session made from a file."""

    id: int
    report: ReportOut


class Rename(Schema):
    """A session's new name."""

    name: Annotated[str, Field(max_length=2000)]


class Bar(BaseModel):
    """A bar line: its number, where it stands, and its meter."""

    number: int
    beat: float
    count: int
    unit: int


class Tock(BaseModel):
    """A beat and its seconds; straight lines between neighbours are the clock."""

    beat: float
    seconds: float


class Mark(BaseModel):
    """A value worth marking on an axis."""

    value: float
    text: str


class ParameterOut(BaseModel):
    """A parameter of a track."""

    id: str
    name: str
    family: str
    kind: str
    unit: str
    axis: str
    low: float
    high: float
    value: float
    value_text: str
    marks: list[Mark]
    device: str | None
    target: str | None


class RegionOut(BaseModel):
    """A region of a track."""

    id: str
    name: str
    start: float
    length: float
    muted: bool
    container: bool
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
    members: list[str]
    regions: list[RegionOut]
    devices: list[DeviceOut]
    parameters: list[ParameterOut]


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
    movement: float = Field(description="How much of the parameter's range it goes through, 0 to 1.")
    changed: int = Field(description="The revision that touched it last; 0 as it came.")
    heard: bool
    why: str
    spark: Picture


class MatchIO(BaseModel):
    """A decision of the match table, as a carry takes it."""

    parameter: str
    track: str
    do: Literal["land", "add", "leave out"] = "land"
    onto: str | None = None
    low: float | None = None
    high: float | None = None


class SessionOut(BaseModel):
    """Everything the screen needs to draw a session but its curves."""

    id: int
    name: str
    revision: int
    length: float
    precedence: str
    undo: str | None
    redo: str | None
    bars: list[Bar]
    clock: list[Tock]
    activity: list[int]
    tracks: list[TrackOut]
    lanes: list[LaneOut]
    matches: list[MatchIO] = Field(description="Decisions of the match table, remembered for pairs of tracks.")
    report: ReportOut
    damaged: list[str] = Field(description="In words, lanes that are damaged in the database and were left out.")


class Head(Schema):
    """Where a session stands."""

    revision: int


class Curve(BaseModel):
    """A lane's curve in view: its points with neighbours on each side, or exact lows and highs a column.

    `shapes` holds a bend number, or null for hold. The columns part `start` to `end` evenly.
    """

    lane: str
    start: float
    end: float
    first: int = Field(description="Which of the lane's points comes first here.")
    beats: list[float]
    values: list[float]
    shapes: list[float | None]
    lows: list[float]
    highs: list[float]


class View(Schema):
    """What is on screen: a span of beats, how many columns it has, and the parameters whose strips are shown."""

    start: Beats
    end: Beats
    columns: Annotated[int, Field(ge=1, le=8192)]
    strips: Annotated[list[str], Field(max_length=MOST_PARAMETERS)] = []


class Ask(Schema):
    """A request made on a revision; with a view, the answer holds the curves to draw."""

    revision: Annotated[int, Field(ge=0)]
    request: AnyRequest
    view: View | None = None


class CautionOut(BaseModel):
    """Something to know before applying."""

    code: str
    message: str
    track: str | None
    lane: str | None
    start: float | None
    end: float | None
    remedy: RemedyOut | None


class TouchedOut(BaseModel):
    """What would happen to one lane; texts are ready to show. Curves come for strips on view and the first others."""

    lane: str
    parameter: str
    track: str
    home: str
    name: str
    start: float
    end: float
    span_text: str
    points_before: int
    points_after: int
    difference_text: str = Field(description="Empty for a region's lane that comes or goes, and for all but the first.")
    difference_at: float | None
    spans_limited: int
    low: float | None
    high: float | None
    before: Curve | None
    after: Curve | None


class PlacedRegion(BaseModel):
    """A region where it would be."""

    track: str
    id: str
    name: str
    start: float
    length: float
    muted: bool
    container: bool


class ChangeOut(BaseModel):
    """A plan: what would be replaced, with figures and cautions."""

    title: str
    empty: bool
    lanes: int = Field(description="How many lanes (or parameters) it touches; the first of them are listed.")
    points_before: int
    points_after: int
    spans_limited: int
    span_text: str = Field(description="The span outside of which nothing changes, if it is one.")
    touched: list[TouchedOut]
    guests: list[str] = Field(description="The parameters whose strips join those on view.")
    cautions: list[CautionOut]
    tracks: list[str]
    heard: str = Field(description="For what promises to leave what is heard as it is: the difference found, in words.")
    regions: list[PlacedRegion]


class Applied(Schema):
    """The revision the session stands at now."""

    revision: int
    title: str | None = None


class OnRevision(Schema):
    """The revision the window shows."""

    revision: int


class TouchedLine(Schema):
    """A place a log line names, for going there."""

    lane: str
    parameter: str
    start: float
    end: float


class LogLine(Schema):
    """One line of the log."""

    number: int
    title: str
    made: datetime
    undone: bool
    lanes: int = Field(description="How many lanes it touched; the first of them are listed.")
    touched: list[TouchedLine]
    request: dict[str, Any] | None = Field(description="Its settings, where the session stands at it.")


class LogOut(Schema):
    """A page of the log, newest first."""

    lines: list[LogLine]
    more: bool = Field(description="Whether older lines follow.")


class ReadOut(Schema):
    """What is heard of a parameter at a moment, as people read it, and why; and what its lanes say."""

    parameter: str
    text: str
    why: str
    lanes: dict[str, str]


class HeardSpan(BaseModel):
    """Why a parameter is heard as it is, over a span."""

    start: float
    end: float
    why: str


class HeardOut(BaseModel):
    """What is heard of a parameter: its curve in view, the reason for each span, its extremes in the whole session."""

    parameter: str
    curve: Curve
    spans: list[HeardSpan]
    low: float
    high: float


class GapOut(BaseModel):
    """A gap between regions that jumps or drifts."""

    parameter: str
    start: float
    end: float
    kind: Literal["jump", "drift"]
    message: str


class ContainerUsed(Schema):
    """The request that places a container from a file."""

    request: AnyRequest


class PickedIO(Schema):
    """Some points of one lane, counted from 0."""

    lane: str
    points: Annotated[list[int], Field(max_length=MOST_POINTS)]


class PickIn(Schema):
    """Which points to pick, and from where: lanes, a way, a range, and what is picked already."""

    lanes: Annotated[list[str], Field(max_length=MOST_IDS)]
    way: Literal["all", "range", "same value", "next", "previous"]
    start: Beats = 0
    end: Beats = 0
    picked: Annotated[list[PickedIO], Field(max_length=MOST_IDS)] = []


class SelectionIn(Schema):
    """What is selected: picked points, or lanes over a range."""

    picked: Annotated[list[PickedIO], Field(max_length=MOST_IDS)] = []
    lanes: Annotated[list[str], Field(max_length=MOST_IDS)] = []
    start: Beats = 0
    end: Beats = 0


class NumbersOut(Schema):
    """The numbers of a selection, with values as texts where one parameter is meant."""

    start: float
    end: float
    points: int
    lowest: str | None
    highest: str | None
    mean: str | None
    low: float | None
    high: float | None


class ClipIn(Schema):
    """Clipboard text, to be made a paste request."""

    text: str
    at: Beats | None = None
    onto: str | None = None
    how: Literal["unit", "range"] = "unit"


class ClipOut(Schema):
    """Clipboard text."""

    text: str


class PasteOut(Schema):
    """A paste request, ready to preview or apply."""

    request: AnyRequest


class Typed(Schema):
    """What someone typed, to be read as a position, a length or a value."""

    kind: Literal["position", "length", "value"]
    text: Annotated[str, Field(max_length=200)]
    start: Beats = 0
    parameter: str | None = None


class Understood(Schema):
    """What a typed text means: beats for positions and lengths, the value otherwise."""

    number: float
    text: str


class WorkedOut(Schema):
    """A request of which something is worked out beforehand: its match table, or its mapping graph."""

    request: AnyRequest


class MatchCell(BaseModel):
    """Where a source parameter lands on a target track: what is done, how it was found, and onto what."""

    parameter: str
    name: str
    track: str
    do: Literal["land", "add", "leave out"]
    found: Literal["itself", "same", "other slot", "nothing", "chosen"]
    onto: str | None
    mapped: bool = Field(description="The units differ, so it lands by a mapping.")


class RestingPair(BaseModel):
    """A parameter that rests at different static values on two tracks."""

    track: str
    name: str
    source_text: str
    target_text: str


class MatchTableOut(BaseModel):
    """The match table of a carry, and the static values that differ."""

    cells: list[MatchCell]
    resting: list[RestingPair]


class UsefulOut(BaseModel):
    """A span on offer, and where it comes from."""

    low: float
    high: float
    text: str
    why: str


class MappingTarget(BaseModel):
    """The straight line of a mapping onto one target: what the source's ends become.

    `low` and `high` are values, `low_place` and `high_place` places in the target's range (0 to 1, beyond
    where the mapping leaves it). `problem` says why there is none.
    """

    parameter: str
    low: float | None = None
    high: float | None = None
    low_place: float | None = None
    high_place: float | None = None
    offers: list[UsefulOut] = []
    problem: str = ""


class MappingOut(BaseModel):
    """The mapping graph of a retarget: the source's span, where it spends its time (0 to 1), and each target."""

    low: float
    high: float
    time: list[float]
    targets: list[MappingTarget]


class SideIn(Schema):
    """One side to compare: a lane, a track, or everything; at a revision, or as it stands."""

    revision: int | None = None
    lane: str | None = None
    track: str | None = None


class CompareIn(Schema):
    """Two sides, and with a view the row whose curves to draw."""

    one: SideIn
    other: SideIn
    row: Annotated[int, Field(ge=0)] = 0
    view: View | None = None


class ComparedOut(BaseModel):
    """One pair: what kind of difference, the largest, and where."""

    one: str
    other: str
    kind: Literal["same", "changed", "only one", "only other"]
    largest: str
    at: float
    at_text: str


class DrawnPair(BaseModel):
    """Two curves and their difference (the other minus the one), with the scales to draw them on."""

    one: Curve
    other: Curve
    difference: Curve
    one_scale: ParameterOut
    other_scale: ParameterOut
    difference_scale: ParameterOut
    lows: list[float] = Field(description="The lowest values of the one, the other, and the difference.")
    highs: list[float]


class CompareOut(BaseModel):
    """What two sides have in common and what not."""

    same: bool
    rows: list[ComparedOut]
    only: list[str] = Field(description="What one side has and the other has nothing like, in words.")
    drawn: DrawnPair | None


class RecipeLine(Schema):
    """A recipe by name."""

    id: int
    name: str
    verb: str


class RecipeIn(Schema):
    """A request whose settings to keep."""

    name: Annotated[str, Field(max_length=2000)]
    request: AnyRequest


class RecipeUse(Schema):
    """What to use a recipe on."""

    lanes: Annotated[list[str], Field(max_length=MOST_IDS)]
    start: Beats | None = None
    end: Beats | None = None


class RecipeUsed(Schema):
    """The recipe's request on the selection, and what of it is not here."""

    request: AnyRequest
    missing: list[str]


class ChoiceIO(Schema):
    """How a parameter is written to a MIDI file."""

    parameter: str
    name: str = ""
    controller: Annotated[str, Field(max_length=40)]
    low: Annotated[float, Field(allow_inf_nan=False)]
    high: Annotated[float, Field(allow_inf_nan=False)]


class MidiOut(Schema):
    """What goes into a MIDI file."""

    choices: Annotated[list[ChoiceIO], Field(max_length=MOST_PARAMETERS)]
    per_beat: int = 960


SessionLine.model_rebuild()
SessionOut.model_rebuild()
LaneOut.model_rebuild()
