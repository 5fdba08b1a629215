"""The working copy of a plan: lanes, regions and tracks as they are being rewritten, and the change they become.

Every verb that writes works on one of these: it reads what stands, writes, lands pieces and takes away, and says what
there is to say. Then it is a change, shown by its lanes (`change`) or by what is heard (`core/verbs/frame/heard_change.py`).
"""

from __future__ import annotations

from collections.abc import Iterable, Mapping, Sequence
from dataclasses import dataclass, field, replace

from velmot.core.curves import editing
from velmot.core.curves.envelope import Envelope
from velmot.core.curves.spans import runs
from velmot.core.parameters.mapping import Mapped
from velmot.core.parameters.parameter import Parameter
from velmot.core.session.heard import heard, reading
from velmot.core.session.phrases import Extra
from velmot.core.session.session import Session
from velmot.core.session.track import ON_THE_TRACK, Lane, Mode, Region, Track
from velmot.core.verbs.frame import cautions as say
from velmot.core.verbs.frame.change import Caution, Change, LaneSwap, Spans, TrackSwap, Went, caution, lane_change
from velmot.core.verbs.frame.landing import Budget, Landed, laid, spans_limited

Span = tuple[int, int]
Home = tuple[str, str]
"""(parameter, home): where a lane lives."""


@dataclass
class _Written:
    """What a lane has become (None: it is gone), over which span in session ticks, and how many spans were limited.
    `id` is what it is to be called, where it is made and had one before.

    `spans` are all that were written in it one by one; between them the lane may silence others all the same.
    """

    envelope: Envelope | None
    span: Span | None
    limited: int = 0
    extra: Extra | None = None
    id: str = ""
    spans: list[Span] = field(default_factory=list)

    def also(self, span: Span | None, limited: int, each: Sequence[Span] = ()) -> None:
        """Count another change of the same lane, of `each` of some spans where it is not of the whole of one."""
        self.spans += each or ([] if span is None else [span])
        self.span = span if self.span is None else self.span if span is None else _both(self.span, span)
        self.limited += limited


@dataclass
class WorkingCopy:
    """Holds only what was written. Reading gives what was written last, else what the session has.

    `named` are the spans in which parameters may be heard differently, for changes that are shown by what is heard;
    `went` is what was taken elsewhere, for the linked places in it.
    """

    session: Session
    cautions: list[Caution] = field(default_factory=list)
    named: dict[str, list[tuple[int, int]]] = field(default_factory=dict)
    went: list[Went] = field(default_factory=list)

    def __post_init__(self) -> None:
        self.before = self.session
        self.budget = Budget()
        self._lanes: dict[Home, _Written] = {}
        self._landings: dict[Home, list[tuple[int, list[Landed]]]] = {}
        self._tracks: dict[str, Track] = {}
        self._regions: dict[str, dict[str, Region]] = {}
        self._region_ids = self.session.new_ids("region")

    # ── reading ───────────────────────────────────────────────────────────────────────────────

    def curve(self, parameter: Parameter, home: str = ON_THE_TRACK, at: int = 0) -> Envelope:
        """A lane's envelope as it stands; where there is none, what is heard there: in a region, that in its span.

        On a track without a lane that is the static value, with its point at `at`.
        """
        key = (parameter.id, home)
        self._settle(key)
        if key in self._lanes:
            written = self._lanes[key].envelope
            return Envelope.constant(parameter.value, parameter.axis, at) if written is None else written
        if lane := self.session.lane_at(parameter.id, home):
            return lane.envelope
        if home == ON_THE_TRACK:
            return Envelope.constant(parameter.value, parameter.axis, at)
        region = self.session.region(home)
        now = heard(reading(self.session), parameter.id, groups=False).envelope
        return editing.slices(now, [(region.start, region.end)])[0]

    def writes(self, parameter: str, home: str) -> bool:
        """Whether a lane was written."""
        return (parameter, home) in self._lanes

    def so_far(self) -> Session:
        """The session with what was written so far, not checked."""
        made = Change(self.lane_swaps(), self.track_swaps())
        return self.session if made.empty else made.unchecked_on(self.session)

    def track(self, id: str) -> Track:
        """A track as it stands, its regions aside."""
        return self._tracks.get(id) or self.session.track(id)

    # ── lanes ─────────────────────────────────────────────────────────────────────────────────

    def write(
        self,
        parameter: str,
        home: str,
        envelope: Envelope | None,
        span: Span | None = None,
        limited: int = 0,
        each: Sequence[Span] = (),
    ) -> None:
        """Put a lane's envelope (None takes the lane away); `span` in session ticks is what changes of it (`each` in it)."""
        key = (parameter, home)
        self._landings.pop(key, None)
        written = self._lanes.setdefault(key, _Written(None, None))
        written.envelope = envelope.from_zero() if envelope else None
        written.also(span, limited, each)

    def rewrite(self, lane: Lane, envelope: Envelope | None, first: int, last: int, limited: int = 0) -> None:
        """Put a lane's new envelope; `first` and `last` are the lane's own ticks between which it changed."""
        zero, end = self.session.zero_of(lane), self.session.span(lane)[1]
        stop = max(min(zero + last, end), zero + first + 1)
        self.write(lane.parameter, lane.home, envelope, (zero + first, stop), limited)

    def put_back(self, lane: Lane, span: Span, limited: int = 0) -> None:
        """Put a lane as it was once, bit for bit, with what it holds beside its points, and with its id if there is none now."""
        self.write(lane.parameter, lane.home, lane.envelope, span, limited)
        written = self._lanes[lane.parameter, lane.home]
        written.envelope, written.extra, written.id = lane.envelope, lane.extra, lane.id

    def remember(self, lane: Lane, extra: Extra) -> None:
        """Put what a lane that was written holds beside its points."""
        self.remember_at(lane.parameter, lane.home, extra)

    def remember_at(self, parameter: str, home: str, extra: Extra) -> None:
        """The same of the lane at a home, which may be made anew."""
        self._lanes[parameter, home].extra = extra

    def lay(
        self,
        parameter: Parameter,
        landings: Sequence[Landed],
        ramp: int = 0,
        home: str = ON_THE_TRACK,
        limited: int = 0,
    ) -> None:
        """Lay fragments over a parameter's own lane, and over what was laid there before; named values know no ramp.

        `limited` counts what had to be limited before it became a fragment.
        """
        if not landings:
            return
        limited += spans_limited(landings)
        key, zero = (parameter.id, home), self.session.start_of(home)
        ramp = 0 if parameter.holds_only else ramp
        start, end = _reach(landings)
        each = [(zero + x.at, zero + x.end) for x in landings]
        batches = self._landings.get(key)
        if batches is None:
            curve = self.curve(parameter, home, start)
            self.write(parameter.id, home, curve, (zero + start, zero + end), limited, each)
            batches = self._landings.setdefault(key, [])
        else:
            self._lanes[key].also((zero + start, zero + end), limited, each)
        if batches and batches[-1][0] == ramp == 0:
            batches[-1][1].extend(landings)
        else:
            batches.append((ramp, [*landings]))

    def _settle(self, key: Home) -> None:
        """Lay what is still to be laid on a lane; all at once, as each would copy the whole curve."""
        for ramp, landings in self._landings.pop(key, ()):
            written = self._lanes[key]
            assert written.envelope is not None
            stop = self.session.length if key[1] == ON_THE_TRACK else None
            written.envelope = laid(written.envelope, landings, ramp, stop).from_zero()

    def land(self, target: Parameter, pieces: Sequence[Landed], ramp: int = 0) -> None:
        """Lay pieces over a parameter's lane on its track, as far as the session reaches, and say what does not fit."""
        owner, kept = self.session.owner(target.id), []
        for piece in pieces:
            landed = piece.before(self.session.length)
            if landed is not piece:
                self.cautions.append(say.beyond_end(self.session, owner))
            if landed is not None:
                kept.append(landed)
        if not kept:
            return
        start, end = _reach(kept)
        if limited := spans_limited(kept):
            self.cautions.append(say.limited_spans(limited, owner, target, start, end))
        self.lay(target, kept, ramp)
        self.cautions += say.region_wins(self.session, target, owner, [(x.at, x.end) for x in kept])

    def land_mapped(self, target: Parameter, made: Mapped, at: int, ramp: int = 0) -> None:
        """Land one mapped piece, from a position inside the session on."""
        if made.silence:
            self.cautions.append(caution("silence/mapped", what=made.silence, track=self.session.owner(target.id).id))
        self.land(target, [Landed(at, made.fragment, made.limited)], ramp)

    def take_away(self, lane: Lane, start: int, end: int) -> None:
        """Take from a lane what it does over a span in session ticks; a lane that goes whole is removed."""
        if (start, end) == self.session.span(lane):
            self.write(lane.parameter, lane.home, None, (start, end))
            return
        parameter, zero = self.session.parameter(lane.parameter), self.session.zero_of(lane)
        before = self.curve(parameter, lane.home, start)
        straight = editing.straightened(before, [(start - zero, end - zero)], parameter.holds_only)
        self.write(lane.parameter, lane.home, straight, (start, end))

    # ── regions and tracks ────────────────────────────────────────────────────────────────────

    def put(self, track: str, region: Region) -> None:
        """Add a region to a track, or replace the one of its id."""
        self._regions_of(track)[region.id] = region

    def drop(self, track: str, region: str) -> None:
        """Take a region away; its lanes have to be taken away too."""
        del self._regions_of(track)[region]

    def _regions_of(self, track: str) -> dict[str, Region]:
        return self._regions.setdefault(track, {r.id: r for r in self.session.track(track).regions})

    def new_region_id(self) -> str:
        """An id for a new region."""
        return next(self._region_ids)

    def widen(self, session: Session) -> None:
        """Go on with a session whose tracks gained parameters or devices."""
        self.session = session

    def set_to_read(self, tracks: Iterable[str]) -> None:
        """Let tracks that are off read their lanes."""
        for id in tracks:
            if not self.track(id).reads:
                self._tracks[id] = replace(self.track(id), mode=Mode.READ)

    def rest_at(self, values: Mapping[str, float]) -> None:
        """Give parameters (by id) other static values."""
        for id in dict.fromkeys(self.session.owner(p).id for p in values):
            track = self.track(id)
            rested = (replace(p, value=values[p.id]) if p.id in values else p for p in track.parameters)
            self._tracks[id] = replace(track, parameters=tuple(rested))

    def name(self, parameter: str, start: int, end: int) -> None:
        """Say that a parameter may be heard differently in a span."""
        self.named.setdefault(parameter, []).append((start, end))

    # ── what it becomes ───────────────────────────────────────────────────────────────────────

    def lane_swaps(self) -> tuple[LaneSwap, ...]:
        """Every lane that really changed, before and after."""
        for key in [*self._landings]:
            self._settle(key)
        called = {w.id for w in self._lanes.values() if w.id and not self.before.there("lane", w.id)}
        new_ids = (id for id in self.session.new_ids("lane") if id not in called)
        swaps: list[LaneSwap] = []
        for (parameter, home), written in self._lanes.items():
            before = self.before.lane_at(parameter, home)
            after = None
            if written.envelope is not None:
                id = before.id if before else written.id if written.id in called else next(new_ids)
                called.discard(id)
                extra = written.extra if written.extra is not None else before.extra if before else ()
                after = Lane(id, parameter, home, written.envelope, extra)
            if before != after:
                swaps.append(LaneSwap(before, after))
        return tuple(swaps)

    def track_swaps(self) -> tuple[TrackSwap, ...]:
        """Every track that really changed, before and after."""
        swaps = []
        for track in self.before.tracks:
            after = self.track(track.id)
            if track.id in self._regions:
                after = replace(after, regions=tuple(self._regions[track.id].values()))
            if after is not track and after != track:
                swaps.append(TrackSwap(track, after))
        return tuple(swaps)

    def after(self) -> Session:
        """The session as it was written, checked."""
        return Change(self.lane_swaps(), self.track_swaps()).applied_to(self.before)

    def change(self) -> Change:
        """The change from what stands to what was written, shown by its lanes."""
        swaps, tracks = self.lane_swaps(), self.track_swaps()
        said = tuple(dict.fromkeys(self.cautions))
        if not (swaps or tracks or said):
            said = (say.no_change(),)
        touched = []
        for swap in swaps:
            written = self._lanes[swap.parameter, swap.home]
            touched.append(lane_change(self.session, swap, written.span or (0, self.session.length), written.limited))
        return Change(swaps, tracks, tuple(touched), said, named=self._written_in(swaps), went=tuple(self.went))

    def _written_in(self, swaps: Iterable[LaneSwap]) -> dict[str, Spans] | None:
        """The spans that were written of each parameter, where some lane was written in several; else its lanes say it."""
        found: dict[str, list[Span]] = {}
        several = False
        for swap in swaps:
            written = self._lanes[swap.parameter, swap.home]
            spans = runs(written.spans) if written.spans else [written.span or (0, self.session.length)]
            several |= len(spans) > 1
            found.setdefault(swap.parameter, []).extend(spans)
        return {parameter: tuple(runs(spans)) for parameter, spans in found.items()} if several else None


def _both(one: Span, other: Span) -> Span:
    return min(one[0], other[0]), max(one[1], other[1])


def _reach(landings: Sequence[Landed]) -> Span:
    return min(x.at for x in landings), max(x.end for x in landings)
