"""Linking: what a change does to placements. One mechanism for every verb; none of them knows of it.

What leaves a placement's span as it says it keeps the link. What is written wholly inside one goes back into its phrase and
from there to every place (follow), changes only how the phrase is read here (here), or sets the place free (free). A straight
map of a whole placement by something wider changes how it is read; anything else that covers a part sets free, and says so.
Places go along with what is moved or copied where they stay whole: they are looked for where the new lanes say what they say.
"""

from __future__ import annotations

from collections.abc import Iterable
from dataclasses import replace
from functools import cached_property
from typing import Literal

import numpy as np

from velmot.core import editing
from velmot.core.change import Caution, Change, LaneChange, LaneSwap, LinksMet, PhraseSwap, PlacementSwap, lane_change
from velmot.core.difference import SAME, differing_span
from velmot.core.editing import Fragment
from velmot.core.envelope import Envelope
from velmot.core.errors import RequestError
from velmot.core.operations.landing import Landed, laid
from velmot.core.phrases import Phrase, Placement, drawn, gone_back, says, way_back
from velmot.core.session import ON_THE_TRACK, Lane, Session
from velmot.core.wording import counted, listed

Links = Literal["follow", "here", "free"]
Home = tuple[str, str]


def with_links(session: Session, change: Change, links: Links = "follow") -> Change:
    """The change with what it does to phrases and placements. RequestError where what is asked for cannot be."""
    if not session.placements and not change.placements and not change.phrases:
        return change
    return _Linking(session, change, links).result()


class _Linking:
    """The state of one linking: what became of each placement, and which phrases changed."""

    def __init__(self, session: Session, change: Change, links: Links) -> None:
        self.session, self.change, self.links = session, change, links
        self.after = change.unchecked_on(session)
        self.phrases: dict[str, Phrase] = {}
        self.declared = {swap.id: swap.after for swap in change.placements}
        self.placements: dict[str, Placement | None] = {}
        self.cautions: list[Caution] = []
        self.freed: list[Placement] = []
        self.met: list[Placement] = []
        self.choices: set[str] = set()
        self.copied = 0
        self.ids = self.after.new_ids("place")

    def result(self) -> Change:
        """The change as it was made, and everything linking adds to it."""
        self._go_along()
        for one in self.session.placements:
            if one.id not in self.declared and one.id not in self.placements:
                self._look_at(one)
        lanes, touched = self._redrawn()
        made = replace(self.change, placements=self._placement_swaps(), phrases=self._phrase_swaps())
        if self.met or self.freed or self.phrases:
            self.cautions = [*self._said(), *self.cautions]
        return self._with_lanes(made, lanes, touched)

    # ── what becomes of a placement ───────────────────────────────────────────────────────────

    def _look_at(self, one: Placement) -> None:
        """Keep, follow, read otherwise or set free one placement that stood before."""
        key = (one.parameter, one.home)
        if self.after.placement_problem(one):
            return self._free(
                one, "what it lay on is gone" if not self.after.lane_at(*key) else "it does not fit whole"
            )
        if self._covered(one):
            return self._free(one, "something else is placed there")
        if key not in self._swapped:
            return None
        phrase, parameter, lane = self.session.phrase(one.phrase), self.after.parameter(one.parameter), self._lane(key)
        if says(phrase, one, parameter, lane):
            return None
        inside = self._inside(one, key, lane)
        written = Fragment(editing.slices(lane, [one.span])[0], one.length)
        read_otherwise = self._read_otherwise(phrase, one, written, lane)
        reason = way_back(phrase, one, parameter) if inside else "more than this place was written on"
        self.choices |= {"free"} | ({"follow"} if not reason else set()) | ({"here"} if read_otherwise else set())
        if self.links == "free":
            return self._free(one, "")
        if inside and not reason and self.links == "follow":
            return self._follow(phrase, one, written)
        if read_otherwise and (self.links == "here" or not inside):
            self.placements[one.id] = read_otherwise
            self.met.append(one)
            return None
        if inside:
            raise self._refused(one, reason or "this is no straight map of the whole place", bool(read_otherwise))
        return self._free(one, reason)

    def _refused(self, one: Placement, reason: str, here: bool) -> RequestError:
        name, lane = self.session.phrase(one.phrase).name, self._called(one)
        what = "the change cannot follow into" if self.links == "follow" else "it cannot stay linked to"
        others = "here only, or set this place free" if here else "set this place free"
        said = f"{lane}: {what} {name}: {reason}"
        return RequestError("links", said, place="links", accepted=others)

    def _follow(self, phrase: Phrase, one: Placement, written: Fragment) -> None:
        made = gone_back(phrase, one, written)
        known = self.phrases.get(phrase.id)
        if known is not None and not _alike(known, made):
            return self._free(one, "it was written otherwise than another place of it")
        if phrase.shape is not None and known is None:
            said = f"{phrase.name} is points from now on: its recipe is given up"
            self.cautions.append(Caution("shape-ended", said))
        self.phrases[phrase.id] = made
        self.met.append(one)
        return None

    def _read_otherwise(self, phrase: Phrase, one: Placement, written: Fragment, lane: Envelope) -> Placement | None:
        """The placement that says what was written by another straight line between the axes; None if none does."""
        parameter = self.after.parameter(one.parameter)
        before = drawn(phrase, one, parameter).fragment.envelope
        line = _line(before, written.envelope)
        if line is None or parameter.holds_only:
            return None
        a, b = line
        made = replace(one, scale=a * one.scale, offset=a * one.offset + b)
        return made if abs(a) > SAME and says(phrase, made, parameter, lane) else None

    def _free(self, one: Placement, reason: str) -> None:
        self.placements[one.id] = None
        self.freed.append(one)
        if reason:
            name, at = self.session.phrase(one.phrase).name, self._position(one)
            said = f"{self._called(one)} at {at} is set free from {name}: {reason}"
            zero, lane = self.session.start_of(one.home), self.session.lane_at(one.parameter, one.home)
            span = (zero + one.start, zero + one.end)
            self.cautions.append(Caution("set-free", said, None, lane.id if lane else None, *span))

    def _covered(self, one: Placement) -> bool:
        """Whether a placement that the verb makes or moves lies over this one."""
        there = self._declared_on.get((one.parameter, one.home), ())
        return any(new.start < one.end and one.start < new.end for new in there)

    @cached_property
    def _declared_on(self) -> dict[Home, list[Placement]]:
        found: dict[Home, list[Placement]] = {}
        for new in self.declared.values():
            if new is not None:
                found.setdefault((new.parameter, new.home), []).append(new)
        return found

    def _inside(self, one: Placement, key: Home, lane: Envelope) -> bool:
        """Whether all that changed on a lane lies within one placement."""
        before = self.session.lane_at(*key)
        if before is None:
            return False
        start, end = self.session.span(before)
        span = differing_span(before.envelope, lane, 0, end - start)
        return span is None or (one.start <= span[0] and span[1] <= one.end)

    # ── going along ───────────────────────────────────────────────────────────────────────────

    def _go_along(self) -> None:
        """Placements of lanes that are moved, copied, cut or joined, where the new lanes say what they say."""
        known = {r.id for t in self.session.tracks for r in t.regions}
        for swap in self.change.lanes:
            lane = swap.after
            if lane is None or not self.session.placements:
                continue
            made = lane.home not in known and not lane.on_track
            zero = self.after.zero_of(lane)
            for one in self._candidates(lane, made):
                if (one.parameter, one.home) == (lane.parameter, lane.home):
                    continue
                for start in {self.session.start_of(one.home) + one.start - zero, *([one.start] if made else [])}:
                    self._settle_at(replace(one, parameter=lane.parameter, home=lane.home, start=start), one, lane)

    def _candidates(self, lane: Lane, made: bool) -> Iterable[Placement]:
        """What may lie on a lane now: of a new region any that lived in one, else those of the same parameter."""
        for one in self.session.placements:
            if one.id not in self.declared and (one.parameter == lane.parameter or (made and one.home != ON_THE_TRACK)):
                yield one

    def _settle_at(self, there: Placement, one: Placement, lane: Lane) -> None:
        """Let a placement lie where the lane says what it says: moved where its own lane says it no more, else once more."""
        if self.after.placement_problem(there) or self._taken(there):
            return
        phrase = self.session.phrase(one.phrase)
        if not says(phrase, there, self.after.parameter(lane.parameter), lane.envelope):
            return
        key = (one.parameter, one.home)
        stays = not self.after.placement_problem(one) and (
            key not in self._swapped or says(phrase, one, self.after.parameter(one.parameter), self._lane(key))
        )
        if stays or one.id in self.placements:
            self.choices |= {"follow", "free"}
            self.copied += 1
            if self.links == "free":
                return
            there = replace(there, id=next(self.ids))
        self.placements[there.id] = there

    def _taken(self, there: Placement) -> bool:
        others = (
            *self.session.placed_on(there.parameter, there.home),
            *(x for x in (*self.placements.values(), *self.declared.values()) if x is not None),
        )
        return any(
            x.start < there.end and there.start < x.end and (x.parameter, x.home) == (there.parameter, there.home)
            for x in others
        )

    # ── drawing ───────────────────────────────────────────────────────────────────────────────

    def _redrawn(self) -> tuple[dict[Home, Lane], dict[Home, tuple[int, int, int]]]:
        """The lanes on which placements are drawn anew, and for each the span (session ticks) and the spans limited."""
        changed = {s.id for s in self.change.phrases} | self.phrases.keys()
        final = self._final()
        anew: dict[Home, list[tuple[Placement, Fragment, int]]] = {}
        for one in final:
            if one.phrase in changed or self.declared.get(one.id) is not None:
                parameter = self.after.parameter(one.parameter)
                made = drawn(self._phrase(one.phrase), one, parameter)
                anew.setdefault((one.parameter, one.home), []).append((one, made.fragment, made.spans_limited))
        lanes: dict[Home, Lane] = {}
        spans: dict[Home, tuple[int, int, int]] = {}
        new_ids = self.after.new_ids("lane")
        for key, pieces in anew.items():
            there = self.after.lane_at(*key)
            parameter = self.after.parameter(key[0])
            base = there.envelope if there else Envelope.constant(parameter.value, parameter.axis)
            curve = laid(base, [Landed(one.start, piece) for one, piece, _ in pieces]).from_zero()
            lane = replace(there, envelope=curve) if there else Lane(next(new_ids), *key, curve)
            if there is None or lane != there:
                zero = self.after.start_of(key[1])
                lanes[key] = lane
                start, end = min(x.start for x, _, _ in pieces), max(x.end for x, _, _ in pieces)
                spans[key] = zero + start, zero + end, sum(limited for _, _, limited in pieces)
        return lanes, spans

    def _with_lanes(self, made: Change, lanes: dict[Home, Lane], spans: dict[Home, tuple[int, int, int]]) -> Change:
        swaps = {(s.parameter, s.home): s for s in made.lanes}
        for key, lane in lanes.items():
            before = swaps[key].before if key in swaps else self.session.lane_at(*key)
            swaps[key] = LaneSwap(before, lane)
        touched = [t for t in made.touched if (t.parameter, t.home) not in lanes]
        widths = {(t.parameter, t.home): (t.start, t.end) for t in made.touched}
        shown = replace(self.after, lanes=self.session.lanes)
        for key, (start, end, limited) in spans.items():
            if key in widths:
                start, end = min(start, widths[key][0]), max(end, widths[key][1])
            touched.append(lane_change(shown, swaps[key], (start, end), limited))
        named = made.named
        if named is not None:
            more = {key[0]: (*named.get(key[0], ()), (start, end)) for key, (start, end, _) in spans.items()}
            named = {**named, **more}
        cautions = tuple(dict.fromkeys(self.cautions))
        there = made.cautions
        if touched or not made.empty:
            there = tuple(c for c in there if c.code != "no-change")
        return replace(
            made,
            lanes=tuple(s for s in swaps.values() if s.before != s.after),
            touched=tuple(_in_order(touched, made.touched)),
            cautions=(*cautions, *there),
            named=named,
            links=self._links(),
        )

    # ── what it comes to ──────────────────────────────────────────────────────────────────────

    @cached_property
    def _swapped(self) -> set[Home]:
        return {(s.parameter, s.home) for s in self.change.lanes}

    def _final(self) -> list[Placement]:
        fate = {**self.declared, **self.placements}
        stay = [fate.pop(one.id, one) for one in self.session.placements]
        return [one for one in (*stay, *fate.values()) if one is not None]

    def _phrase(self, id: str) -> Phrase:
        return self.phrases.get(id) or self.after.phrase(id)

    def _placement_swaps(self) -> tuple[PlacementSwap, ...]:
        before = {one.id: one for one in self.session.placements}
        after = {one.id: one for one in self._final()}
        ids = dict.fromkeys((*before, *after))
        return tuple(PlacementSwap(before.get(id), after.get(id)) for id in ids if before.get(id) != after.get(id))

    def _phrase_swaps(self) -> tuple[PhraseSwap, ...]:
        followed = [PhraseSwap(self.session.phrase(id), made) for id, made in self.phrases.items()]
        return (*self.change.phrases, *followed)

    def _links(self) -> LinksMet | None:
        if not (self.met or self.freed or self.copied):
            return None
        reached = [one for id in self.phrases for one in self._final() if one.phrase == id]
        return LinksMet(
            tuple(self._phrase(id).name for id in self.phrases),
            len(reached),
            len({self.after.owner(one.parameter).id for one in reached}),
            tuple(self._called(one) for one in self.freed),
            tuple(choice for choice in ("follow", "here", "free") if choice in self.choices),
        )

    def _said(self) -> Iterable[Caution]:
        if self.phrases:
            met = self._links()
            assert met is not None
            names = listed(met.phrases, "phrase")
            where = f"{counted(met.places, 'place')} on {counted(met.tracks, 'track')}"
            yield Caution("linked", f"Goes back into {names}: changes {where}")

    def _called(self, one: Placement) -> str:
        lane = self.session.lane_at(one.parameter, one.home)
        return self.session.lane_name(lane) if lane else one.parameter

    def _position(self, one: Placement) -> str:
        return str(self.session.tempo.position(self.session.start_of(one.home) + one.start))

    def _lane(self, key: Home) -> Envelope:
        lane = self.after.lane_at(*key)
        assert lane is not None
        return lane.envelope


def _alike(one: Phrase, other: Phrase) -> bool:
    return differing_span(one.piece.envelope, other.piece.envelope, 0, one.length - 1) is None


def _line(before: Envelope, after: Envelope) -> tuple[float, float] | None:
    """(a, b) with a·y + b the coordinate of `after` wherever y is that of `before`, as two places say it; None if none."""
    y = before.coordinates
    silent = before.axis.silent(before.values)
    if silent.all():
        return None
    heard = np.flatnonzero(~silent)
    low, high = int(heard[y[heard].argmin()]), int(heard[y[heard].argmax()])
    sides = [_side(before, i) for i in (low, high)]
    ends = [float(after.coordinate_at(before.ticks[i], side)) for i, side in zip((low, high), sides, strict=True)]  # type: ignore[arg-type]
    if y[high] - y[low] <= SAME:
        return 1.0, ends[0] - float(y[low])
    a = (ends[1] - ends[0]) / float(y[high] - y[low])
    return a, ends[0] - a * float(y[low])


def _side(curve: Envelope, i: int) -> str:
    """Whether a point says what is there from its tick on, or only the limit towards it."""
    last = i == len(curve) - 1 or (curve.ticks[i + 1] == curve.ticks[i])
    return "left" if last else "right"


def _in_order(touched: list[LaneChange], as_before: tuple[LaneChange, ...]) -> list[LaneChange]:
    """Lanes in the order the verb touched them, then those that only follow."""
    order = {(t.parameter, t.home): n for n, t in enumerate(as_before)}
    return sorted(touched, key=lambda t: order.get((t.parameter, t.home), len(order)))
