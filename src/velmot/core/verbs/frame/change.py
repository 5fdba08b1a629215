"""Changes: what an operation would replace, with its figures and cautions. Preview and apply share it."""

from __future__ import annotations

from collections.abc import Callable, Iterable, Mapping
from dataclasses import dataclass, field, replace
from functools import cached_property
from typing import Any, Generic, Literal, TypeVar

from velmot.core.curves.difference import largest_difference
from velmot.core.curves.envelope import Envelope
from velmot.core.remedy import Remedy
from velmot.core.session.alternatives import Alternative
from velmot.core.session.phrases import Phrase, Placement
from velmot.core.session.remarks import LetBe, Note
from velmot.core.session.session import Session
from velmot.core.session.track import Lane, Marker, Precedence, Track
from velmot.core.verbs.frame.worded import PLAIN, in_words
from velmot.core.words import Arg, Args

Listed = TypeVar("Listed", Phrase, Placement, Marker, LetBe, Note, Alternative)

Spans = tuple[tuple[int, int], ...]
"""Some spans ``[start, end)`` in session ticks."""

HEARD = "heard"
"""The home of a LaneChange that shows what is heard of a parameter."""


@dataclass(frozen=True)
class LaneSwap:
    """One lane before and after; None where it is made or removed."""

    before: Lane | None
    after: Lane | None

    @property
    def id(self) -> str:
        return self.lane.id

    @property
    def lane(self) -> Lane:
        """The lane as it will be, or as it was where it is removed."""
        lane = self.after or self.before
        assert lane is not None
        return lane

    @property
    def parameter(self) -> str:
        return self.lane.parameter

    @property
    def home(self) -> str:
        return self.lane.home


@dataclass(frozen=True)
class TrackSwap:
    """One track before and after, both of the same id; None where it is made or removed."""

    before: Track | None
    after: Track | None

    @property
    def id(self) -> str:
        return self.track.id

    @property
    def track(self) -> Track:
        """The track as it will be, or as it was where it is removed."""
        track = self.after or self.before
        assert track is not None
        return track


@dataclass(frozen=True)
class ListSwap(Generic[Listed]):
    """A phrase, a placement, a marker, a remark or an alternative before and after; None where it is made, or goes."""

    before: Listed | None
    after: Listed | None

    @property
    def id(self) -> str:
        one = self.after or self.before
        assert one is not None
        return one.id


class PhraseSwap(ListSwap[Phrase]):
    """One phrase before and after; None where it is made or deleted."""


class PlacementSwap(ListSwap[Placement]):
    """One placement before and after; None where it is made or set free."""


class MarkerSwap(ListSwap[Marker]):
    """One marker before and after; None where it is made or removed."""


class LetBeSwap(ListSwap[LetBe]):
    """One finding that is let be, before and after; None where it is let be from now on, or no more."""


class NoteSwap(ListSwap[Note]):
    """One note before and after; None where it is made or removed."""


class AlternativeSwap(ListSwap[Alternative]):
    """One alternative before and after; None where it is kept from now on, or goes."""


@dataclass(frozen=True)
class Caution:
    """Something the user should know before applying: a kind with its arguments (`verbs/frame/worded.py`), a place, remedies."""

    kind: str
    args: Args = ()
    track: str | None = None
    lane: str | None = None
    start: int | None = None
    end: int | None = None
    remedy: Remedy | None = None
    others: tuple[Remedy, ...] = ()

    @property
    def code(self) -> str:
        """What machines know it by."""
        return self.kind.partition("/")[0]

    @property
    def message(self) -> str:
        """What it says."""
        return in_words(self.kind, self.args)

    @property
    def plain(self) -> bool:
        """Whether it is only good to know."""
        return self.code in PLAIN


def caution(
    kind: str,
    said: Mapping[str, Arg] | None = None,
    *,
    track: str | None = None,
    lane: str | None = None,
    start: int | None = None,
    end: int | None = None,
    remedy: Remedy | None = None,
    others: tuple[Remedy, ...] = (),
    **args: Arg,
) -> Caution:
    """A caution of a kind: its words are filled in with `said` and `args`, the rest is where it is and what to do about it."""
    return Caution(kind, (*(said or {}).items(), *args.items()), track, lane, start, end, remedy, others)


@dataclass(frozen=True)
class LaneChange:
    """What happens to one lane: over which span (session ticks), how many points, how far it moves.

    `called` gives its name, `curves` what it does before and after, in session ticks. They and the largest
    difference are worked out when asked for: a plan that touches thousands of lanes shows only some. With the home
    HEARD the curves are what is heard of the parameter, not those of one lane.
    """

    lane: str
    parameter: str
    home: str
    start: int
    end: int
    points_before: int
    points_after: int
    called: Callable[[], str] = field(compare=False, repr=False)
    curves: tuple[Callable[[], Envelope], Callable[[], Envelope]] = field(compare=False, repr=False)
    spans_limited: int = 0

    @property
    def name(self) -> str:
        """The lane as people say it."""
        return self.called()

    @cached_property
    def before(self) -> Envelope:
        """What the lane (or what is heard) does now."""
        return self.curves[0]()

    @cached_property
    def after(self) -> Envelope:
        """What it would do."""
        return self.curves[1]()

    @property
    def difference(self) -> float:
        """The largest difference in axis units."""
        return self._largest[0]

    @property
    def difference_at(self) -> int:
        """The tick where it is largest."""
        return self._largest[1]

    @cached_property
    def _largest(self) -> tuple[float, int]:
        return largest_difference(self.before, self.after, self.start, self.end)

    def location(self) -> dict[str, Any]:
        """Where it is, for a log that goes there."""
        where = {"lane": self.lane, "parameter": self.parameter, "start": self.start, "end": self.end}
        return where | {"name": self.name}


@dataclass(frozen=True)
class Went:
    """What a lane does in ``[start, end)`` of its own ticks stands from `at` on at another home too, or instead.

    A coordinate y became scale·y + offset there. Places that lie whole in it go along: *moved* ones are there from now on,
    *copied* ones as well; of what is *offered* it is said that they could be.
    """

    parameter: str
    home: str
    start: int
    end: int
    to_parameter: str
    to_home: str
    at: int
    scale: float = 1.0
    offset: float = 0.0
    how: Literal["moved", "copied", "offered"] = "moved"


@dataclass(frozen=True)
class LinksMet:
    """Which linked placements a change writes on: the phrases it goes back into, how far that reaches, what is set free.

    `does` is what happens to them as asked, `choices` are what may be asked for: follow, here (only here, still linked)
    and free.
    """

    phrases: tuple[str, ...]
    places: int
    tracks: int
    freed: tuple[str, ...]
    choices: tuple[str, ...]
    does: str = "follow"


@dataclass(frozen=True)
class HeardFigure:
    """The largest difference in what is heard (axis units of `parameter`) that a change makes, and where it is."""

    parameter: str
    largest: float
    at: int


@dataclass(frozen=True)
class Change:
    """Every lane and track an operation replaces, and what it says about that.

    `precedence` is the session's new one, if it changes; `heard` the figure of a change that promises
    to leave what is heard as it was. `named` gives for each parameter the spans in which it may be heard
    differently (None: those of `touched`), `because` in words why it could be elsewhere. `went` is what a verb took
    somewhere else, for the places in it; `linking` is offered where they could go along and do not.
    """

    lanes: tuple[LaneSwap, ...] = ()
    tracks: tuple[TrackSwap, ...] = ()
    touched: tuple[LaneChange, ...] = ()
    cautions: tuple[Caution, ...] = ()
    precedence: Precedence | None = None
    heard: HeardFigure | None = None
    named: Mapping[str, Spans] | None = None
    because: str = ""
    title: str = ""
    phrases: tuple[PhraseSwap, ...] = ()
    placements: tuple[PlacementSwap, ...] = ()
    markers: tuple[MarkerSwap, ...] = ()
    let_be: tuple[LetBeSwap, ...] = ()
    notes: tuple[NoteSwap, ...] = ()
    alternatives: tuple[AlternativeSwap, ...] = ()
    links: LinksMet | None = None
    went: tuple[Went, ...] = ()
    linking: Remedy | None = None

    def spans_of(self, parameter: str) -> Spans:
        """The spans in which what is heard of a parameter may change, as the change names them."""
        if self.named is not None:
            return self.named.get(parameter, ())
        return tuple((t.start, t.end) for t in self.touched if t.parameter == parameter)

    @property
    def empty(self) -> bool:
        """Whether applying would change nothing."""
        return not self.lanes and not self.tracks and not self.listed and self.precedence is None

    @property
    def listed(self) -> bool:
        """Whether anything changes that is kept as a list of the whole session."""
        remarks = self.let_be or self.notes or self.alternatives
        return bool(self.phrases or self.placements or self.markers or remarks)

    def tracks_applied_to(self, session: Session) -> Session:
        """The session with only the tracks changed; new ones last."""
        return session.with_tracks(_swapped(session.tracks, self.tracks)) if self.tracks else session

    def markers_applied_to(self, session: Session) -> Session:
        """The session with only the markers changed."""
        return replace(session, markers=_swapped(session.markers, self.markers))

    def naming(self, session: Session) -> Session:
        """The session with all tracks that are there before or after, so that whatever the change is about can be named."""
        named = tuple(TrackSwap(s.before, s.track) for s in self.tracks)
        return session.with_tracks(_swapped(session.tracks, named)) if named else session

    def applied_to(self, session: Session) -> Session:
        """The session after the change, checked; the one given stays as it is."""
        return self.unchecked_on(session).checked()

    def unchecked_on(self, session: Session) -> Session:
        """The session after the change, as it is."""
        swaps = {s.before.id: s.after for s in self.lanes if s.before}
        lanes = [swaps.get(lane.id, lane) for lane in session.lanes]
        lanes += [s.after for s in self.lanes if s.before is None]
        kept = tuple(lane for lane in lanes if lane is not None)
        return replace(
            self.tracks_applied_to(session),
            lanes=kept,
            precedence=self.precedence or session.precedence,
            phrases=_swapped(session.phrases, self.phrases),
            placements=_swapped(session.placements, self.placements),
            markers=_swapped(session.markers, self.markers),
            let_be=_swapped(session.let_be, self.let_be),
            notes=_swapped(session.notes, self.notes),
            alternatives=_swapped(session.alternatives, self.alternatives),
        )


def _swapped(there: tuple[Any, ...], swaps: Iterable[TrackSwap | ListSwap[Any]]) -> tuple[Any, ...]:
    """Tracks, phrases, placements, markers, remarks or alternatives with their swaps done: in their places, new ones last."""
    after = {swap.id: swap.after for swap in swaps}
    stay = [after.pop(one.id, one) for one in there]
    return tuple(one for one in [*stay, *after.values()] if one is not None)


def lane_change(
    session: Session, swap: LaneSwap, span: tuple[int, int], spans_limited: int = 0, after: Session | None = None
) -> LaneChange:
    """The figures of one swapped lane over a span ``[start, end)`` in session ticks.

    `after` is the session with its tracks as they will be, where regions move or are made.
    """
    lane, then = swap.lane, after or session
    home = then if swap.after else session

    def curve(side: Session, there: Lane | None) -> Envelope:
        static = home.parameter(lane.parameter)
        return side.in_session_time(there) if there else Envelope.constant(static.value, static.axis)

    return LaneChange(
        lane.id,
        lane.parameter,
        lane.home,
        *span,
        len(swap.before.envelope) if swap.before else 0,
        len(swap.after.envelope) if swap.after else 0,
        lambda: home.lane_name(lane),
        (lambda: curve(session, swap.before), lambda: curve(then, swap.after)),
        spans_limited,
    )
