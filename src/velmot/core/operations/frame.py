"""The frame of every verb: a request type, and a plan from a session and a request to a Change."""

from __future__ import annotations

from collections.abc import Callable, Sequence
from dataclasses import dataclass, field
from typing import Any, Protocol

from velmot.core import editing
from velmot.core.change import Change, HeardFigure, LaneSwap, Touched, touched_lane
from velmot.core.editing import Fragment
from velmot.core.envelope import Envelope
from velmot.core.errors import RequestError
from velmot.core.heard import heard, reading
from velmot.core.operations.landing import Landed, laid
from velmot.core.parameters import Parameter
from velmot.core.segments import HOLD
from velmot.core.session import ON_THE_TRACK, Lane, Session


class Request(Protocol):
    """A frozen dataclass that says what the user wants; its fields are the verb's settings."""

    __dataclass_fields__: Any


@dataclass(frozen=True)
class Operation:
    """A verb: its name, its request type, and its plan."""

    verb: str
    request: type[Any]
    plan: Callable[[Session, Any], Change]


def says(text: str, *, most: int | None = None, **default: Any) -> Any:
    """A request's field with the sentence that documents it in every schema, and the most entries (or letters) it may hold."""
    return field(metadata={"says": text, "most": most}, **default)


@dataclass
class Draft:
    """A working copy of the lanes an operation writes; it becomes the swaps of a Change.

    Holds only what was written. Reading gives what was written last, else what the session has.
    """

    session: Session
    _written: dict[tuple[str, str], Envelope | None] = field(default_factory=dict)
    _spans: dict[tuple[str, str], tuple[int, int]] = field(default_factory=dict)
    _limited: dict[tuple[str, str], int] = field(default_factory=dict)

    def envelope(self, parameter: Parameter, home: str, at: int) -> Envelope:
        """The lane's envelope as it stands; where there is none, what is heard there: in a region, that in its span."""
        key = (parameter.id, home)
        if self._written.get(key):
            return self._written[key]  # type: ignore[return-value]
        lane = self.session.lane_at(parameter.id, home)
        if lane and key not in self._written:
            return lane.envelope
        if home != ON_THE_TRACK and key not in self._written:
            region = self.session.region(home)
            now = heard(reading(self.session), parameter.id, groups=False).envelope
            return editing.slices(now, [(region.start, region.end)])[0]
        return Envelope.constant(parameter.value, parameter.axis, at)

    def write(
        self, parameter: Parameter, home: str, envelope: Envelope | None, start: int, end: int, limited: int = 0
    ) -> None:
        """Put an envelope (None removes the lane); `start` and `end` are session ticks."""
        key = (parameter.id, home)
        known = self._spans.get(key, (start, end))
        self._written[key] = envelope.from_zero() if envelope else None
        self._spans[key] = (min(known[0], start), max(known[1], end))
        self._limited[key] = self._limited.get(key, 0) + limited

    def lay(self, parameter: Parameter, landings: Sequence[Landed], ramp: int, limited: int) -> None:
        """Lay fragments over a parameter's own lane on the track; named values know no ramp."""
        start, end = min(x.at for x in landings), max(x.end for x in landings)
        base = self.envelope(parameter, ON_THE_TRACK, start)
        after = laid(base, landings, 0 if parameter.holds_only else ramp)
        self.write(parameter, ON_THE_TRACK, after, start, end, limited)

    def finished(self) -> tuple[tuple[LaneSwap, ...], tuple[Touched, ...]]:
        """The swaps of all lanes that really changed, and their figures."""
        swaps: list[LaneSwap] = []
        touched: list[Touched] = []
        new_ids = self.session.new_ids("lane")
        for (parameter, home), envelope in self._written.items():
            before = self.session.lane_at(parameter, home)
            after = None
            if envelope is not None:
                id = before.id if before else next(new_ids)
                after = Lane(id, parameter, home, envelope, before.extra if before else ())
            if before == after:
                continue
            swap = LaneSwap(before, after)
            swaps.append(swap)
            start, end = self._spans[parameter, home]
            touched.append(touched_lane(self.session, swap, start, end, self._limited[parameter, home]))
        return tuple(swaps), tuple(touched)


def fitted(fragment: Fragment, parameter: Parameter) -> tuple[Fragment, int]:
    """The fragment with every value one the parameter can have, and how many spans had to give way."""
    if not parameter.labels:
        envelope, spans = editing.limit(fragment.envelope, parameter.low, parameter.high)
        return Fragment(envelope, fragment.length), spans
    values = [parameter.nearest(v) for v in fragment.envelope.values.tolist()]
    moved = sum(a != b for a, b in zip(values, fragment.envelope.values.tolist(), strict=True))
    rows = zip(fragment.envelope.ticks.tolist(), values, [HOLD] * len(values), strict=True)
    return Fragment(Envelope.of(rows, parameter.axis), fragment.length), moved


def need_range(start: int | None, end: int | None) -> None:
    """Raise RequestError unless the range is whole and not empty."""
    if (start is None) != (end is None):
        raise RequestError(
            "range-half", "a range needs both a start and an end", place="range", accepted="both, or neither"
        )
    if start is not None and end is not None and not 0 <= start < end:
        raise RequestError("range-empty", "the range is empty", place="range", accepted="an end after the start")


def home_span(session: Session, parameter: Parameter, home: str) -> tuple[int, int]:
    """The session ticks a lane at a home spans; RequestError where it is a region of another track."""
    if home == ON_THE_TRACK:
        return 0, session.length
    owner, region = session.owner(parameter.id), session.region(home)
    if all(r.id != home for r in owner.regions):
        said = f"{region.name} is a region of {session.track_of_region(home).name}, not of {owner.name}"
        fitting = ", ".join(r.name for r in owner.regions[:8])
        raise RequestError(
            "home-elsewhere", said, place="home", accepted=f"the track{f', or {fitting}' if fitting else ''}"
        )
    return region.start, region.end


def span_text(session: Session, start: int, end: int) -> str:
    """A range as people say it: “9.1.00 to 13.1.00”."""
    return f"{session.tempo.position(start)} to {session.tempo.position(end)}"


def heard_text(session: Session, figure: HeardFigure) -> str:
    """The figure of a change that promises to leave what is heard as it is."""
    parameter = session.parameter(figure.parameter)
    name = f"{session.owner(parameter.id).name} {parameter.name}"
    far, where = parameter.format_distance(figure.largest), session.tempo.position(figure.at)
    return f"What is heard stays the same: {far} apart at most ({name}, {where})"


__all__ = [
    "ON_THE_TRACK",
    "Draft",
    "Operation",
    "Request",
    "fitted",
    "heard_text",
    "home_span",
    "need_range",
    "says",
    "span_text",
]
