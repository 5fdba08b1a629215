"""Linking: what a change does to placements. One mechanism for every verb; a verb says only of which kind it is.

What leaves a placement's span as it says it keeps the link. Places go along with what a verb took elsewhere where they stay
whole: where it says so (`Went`), or where another lane of their parameter now says what they say. What is written inside one
by hand goes back into its phrase and from there to every place (follow); it changes only how the phrase is read here (here);
or the place is set free (free). What replaces sets free unless following is asked for; what promises that nothing is heard
differently, or moves, never follows. Whatever becomes of a place is found before anything is said of the change.
"""

from __future__ import annotations

from collections.abc import Iterable, Sequence
from dataclasses import replace
from functools import cached_property

import numpy as np

from velmot.core.curves import editing
from velmot.core.curves.difference import SAME, Run, differing_runs, differing_span
from velmot.core.curves.editing import Fragment
from velmot.core.curves.envelope import Envelope
from velmot.core.errors import RequestError
from velmot.core.remedy import Links, Remedy
from velmot.core.session.going_back import Edit, edited, way_back
from velmot.core.session.phrases import Phrase, Placement, drawn, says
from velmot.core.session.session import Session
from velmot.core.session.track import ON_THE_TRACK, Lane
from velmot.core.session.wording import listed
from velmot.core.verbs.frame.change import (
    Caution,
    Change,
    LaneChange,
    LaneSwap,
    LinksMet,
    PhraseSwap,
    PlacementSwap,
    caution,
    lane_change,
)
from velmot.core.verbs.frame.landing import Landed, laid
from velmot.core.verbs.frame.operation import Kind

Home = tuple[str, str]

_USUAL: dict[Kind, Links] = {
    "points": "follow",
    "by hand": "follow",
    "drawing": "follow",
    "replacing": "free",
    "linking": "free",
}
"""What happens to a place that is written on, unless it is asked for; other kinds take along what they can."""

_FOLLOW: tuple[Kind, ...] = ("points", "by hand", "drawing", "replacing")

_CHOICES: tuple[Links, ...] = ("follow", "here", "free")


def with_links(session: Session, change: Change, kind: Kind, links: Links | None = None) -> Change:
    """The change with what it does to phrases and placements. RequestError where what is asked for cannot be."""
    if not session.placements and not change.placements and not change.phrases:
        return replace(change, went=(), linking=None)
    return _Linking(session, change, kind, links).result()


class _Linking:
    """The state of one linking: what became of each placement, and which phrases changed."""

    def __init__(self, session: Session, change: Change, kind: Kind, links: Links | None) -> None:
        self.session, self.change, self.kind, self.asked = session, change, kind, links
        self.after = change.unchecked_on(session)
        self.declared = {swap.id: swap.after for swap in change.placements}
        self.fates: dict[str, Placement | None] = {}
        self.arrived: list[Placement] = []
        self.phrases: dict[str, Phrase] = {}
        self.cautions: list[Caution] = []
        self.freed: list[Placement] = []
        self.met: list[Placement] = []
        self.choices: set[str] = set()
        self.copied = 0
        self.offered: list[Placement] = []
        self.ids = self.after.new_ids("place")

    def result(self) -> Change:
        """The change as it was made, and everything linking adds to it."""
        self._go_where_it_went()
        self._go_along()
        written = [one for one in self.session.placements if self._is_written(one)]
        for one in written:
            self.choices |= {"here", "free"} if self._read_otherwise(self._phrase(one.phrase), one) else {"free"}
        self._follow(written)
        for one in written:
            if one.id not in self.fates:
                self._settle_written(one)
        lanes, touched = self._redrawn()
        made = replace(
            self.change, placements=self._placement_swaps(), phrases=self._phrase_swaps(), went=(), linking=None
        )
        self.cautions = [*self._said(), *self.cautions]
        return self._with_lanes(made, lanes, touched)

    # ── going along ───────────────────────────────────────────────────────────────────────────

    def _go_where_it_went(self) -> None:
        """Places in what the verb took elsewhere, there or there as well."""
        for went in self.change.went:
            for one in self.session.placed_on(went.parameter, went.home):
                if one.id in self.declared or not (went.start <= one.start and one.end <= went.end):
                    continue
                there = replace(
                    one,
                    parameter=went.to_parameter,
                    home=went.to_home,
                    start=one.start - went.start + went.at,
                    scale=went.scale * one.scale,
                    offset=went.scale * one.offset + went.offset,
                )
                if there != one and self._could_be(there):
                    self._arrive(there, one, went.how)

    def _arrive(self, there: Placement, one: Placement, how: str) -> None:
        if how == "offered":
            self.offered.append(one)
        elif how == "moved" and one.id not in self.fates:
            self.fates[one.id] = there
            self.arrived.append(there)
        else:
            self._copy(there)

    def _copy(self, there: Placement) -> None:
        """A copy of a place: linked too, unless that is not wanted."""
        self.choices |= {"follow", "free"}
        self.copied += 1
        if self.asked != "free":
            there = replace(there, id=next(self.ids))
            self.fates[there.id] = there
            self.arrived.append(there)

    def _go_along(self) -> None:
        """Places of lanes whose content another lane of the same parameter has now, at the same time."""
        for swap in self.change.lanes:
            lane = swap.after
            if lane is None:
                continue
            zero = self.after.zero_of(lane)
            for one in self._of_parameter.get(lane.parameter, ()):
                if one.home == lane.home or one.id in self.declared:
                    continue
                there = replace(one, home=lane.home, start=self.session.start_of(one.home) + one.start - zero)
                if not self._could_be(there):
                    continue
                if one.id in self.fates or self._stays(one):
                    self._copy(there)
                else:
                    self.fates[one.id] = there
                    self.arrived.append(there)

    @cached_property
    def _of_parameter(self) -> dict[str, list[Placement]]:
        found: dict[str, list[Placement]] = {}
        for one in self.session.placements:
            found.setdefault(one.parameter, []).append(one)
        return found

    def _could_be(self, there: Placement) -> bool:
        """Whether a place can lie somewhere: the lane says there what it says, and no other place does."""
        if self.after.placement_problem(there) or self._taken(there):
            return False
        parameter = self.after.parameter(there.parameter)
        return says(self.session.phrase(there.phrase), there, parameter, self._lane(_home_of(there)))

    def _taken(self, there: Placement) -> bool:
        others = [x for x in (*self.arrived, *self.declared.values()) if x is not None]
        others += [
            x
            for x in self.session.placed_on(there.parameter, there.home)
            if x.id not in self.declared and x.id not in self.fates and x.id not in self._leaving and self._stays(x)
        ]
        return any(_over(x, there) for x in others)

    @cached_property
    def _leaving(self) -> set[str]:
        """The places that lie whole in what the verb moved away."""
        return {
            one.id
            for went in self.change.went
            if went.how == "moved"
            for one in self.session.placed_on(went.parameter, went.home)
            if went.start <= one.start and one.end <= went.end
        }

    def _stays(self, one: Placement) -> bool:
        """Whether a place still is what its lane says."""
        if self.after.placement_problem(one):
            return False
        key = _home_of(one)
        if key not in self._swapped:
            return True
        return says(self.session.phrase(one.phrase), one, self.after.parameter(one.parameter), self._lane(key))

    def _says_already(self, one: Placement) -> bool:
        """Whether a lane says already, as it was written, what a place of a phrase that stands says there."""
        lane = self.after.lane_at(*_home_of(one))
        if lane is None or self.after.placement_problem(one):
            return False
        return says(self.session.phrase(one.phrase), one, self.after.parameter(one.parameter), lane.envelope)

    # ── what is written on ────────────────────────────────────────────────────────────────────

    def _is_written(self, one: Placement) -> bool:
        """Whether it has to be found what becomes of a place; one that is gone, or covered, is set free at once."""
        if one.id in self.declared or one.id in self.fates:
            return False
        if self.after.placement_problem(one):
            gone = not self.after.lane_at(*_home_of(one))
            self._free(one, "what it lay on is gone" if gone else "only a part of it is left")
            return False
        if any(_over(new, one) for new in self._new_on.get(_home_of(one), ())):
            self._free(one, "something else is placed there")
            return False
        return not self._stays(one)

    @cached_property
    def _new_on(self) -> dict[Home, list[Placement]]:
        found: dict[Home, list[Placement]] = {}
        for new in (*self.declared.values(), *self.arrived):
            if new is not None:
                found.setdefault(_home_of(new), []).append(new)
        return found

    def _does(self, one: Placement) -> Links:
        """What is to happen to a place that is written on."""
        if self.kind not in _FOLLOW:
            return "free" if self.asked == "free" else _USUAL.get(self.kind, "here")
        if self.asked is None and self.kind == "drawing" and self._drawn_over(one):
            return "free"
        return self.asked or _USUAL[self.kind]

    def _drawn_over(self, one: Placement) -> bool:
        """Whether a place lies whole under what is written."""
        zero = self.session.start_of(one.home)
        return any(
            t.start <= zero + one.start and zero + one.end <= t.end
            for t in self.change.touched
            if (t.parameter, t.home) == _home_of(one)
        )

    def _follow(self, written: list[Placement]) -> None:
        """What was written inside places goes back into their phrases; of places of one phrase that were written otherwise
        than the first, each is set free as it was written.
        """
        if self.kind not in _FOLLOW:
            return
        for one in sorted(written, key=lambda one: not self._owns(one)):
            if not self._inside(one):
                continue
            phrase = self.session.phrase(one.phrase)
            back = way_back(phrase, one, self.session.parameter(one.parameter), self._piece(one))
            made = back if isinstance(back, str) else _edited(phrase, back)
            if isinstance(made, str):
                if self._does(one) == "follow":
                    raise self._refused(one, made)
                continue
            self.choices.add("follow")
            if self._does(one) != "follow" or not back:
                continue
            known = self.phrases.get(phrase.id)
            if known is not None and not _alike(known, made):
                self._free(one, "it was written otherwise than another place of it")
                continue
            if known is None and phrase.shape is not None:
                self.cautions.append(caution("shape-ended", phrase=phrase.name))
            self.phrases.setdefault(phrase.id, made)
            self.fates[one.id] = one
            self.met.append(one)

    def _owns(self, one: Placement) -> bool:
        """Whether a point that was written stands in a place, and not only at its end, where what follows begins."""
        runs = (run for run in self._runs(_home_of(one)) if run.start < one.end and one.start < run.end)
        return any(one.start <= t < one.end for run in runs for t in (run.breaks[1:-1] or run.breaks))

    def _settle_written(self, one: Placement) -> None:
        """What becomes of a place that did not follow: as its phrase is by now, it may say what was written, or be read so."""
        phrase, does = self._phrase(one.phrase), self._does(one)
        parameter, lane = self.after.parameter(one.parameter), self._lane(_home_of(one))
        if phrase.id in self.phrases and does != "free" and says(phrase, one, parameter, lane):
            self.met.append(one)
            return None
        otherwise = self._read_otherwise(phrase, one)
        inside = self._inside(one)
        if does == "free":
            return self._free(one, "" if self.asked == "free" else "what it says is replaced")
        if otherwise and (does == "here" or not inside):
            self.fates[one.id] = otherwise
            self.met.append(one)
            self.cautions.append(self._about(one, "read-otherwise", phrase.name))
            return None
        if self.asked == "here" and inside and self.kind in _FOLLOW:
            raise self._refused(one, "this is no straight map of the whole place")
        return self._free(one, "more than this place was written on" if not inside else "what it says is changed")

    def _refused(self, one: Placement, reason: str) -> RequestError:
        name = self.session.phrase(one.phrase).name
        here = self._does(one) == "follow" and self._read_otherwise(self._phrase(one.phrase), one) is not None
        what = "it cannot stay linked to" if self._does(one) == "here" else "the change cannot follow into"
        others = "here only, or set this place free" if here else "set this place free"
        return RequestError(
            "links",
            said=self._called(one),
            what=what,
            name=name,
            reason=reason,
            place="links",
            accepted=others,
            remedy=Remedy("set it free", links="free"),
        )

    def _read_otherwise(self, phrase: Phrase, one: Placement) -> Placement | None:
        """The placement that says what was written by another straight line between the axes; None if none does."""
        parameter = self.after.parameter(one.parameter)
        before = drawn(phrase, one, parameter).fragment.envelope
        line = _line(before, self._piece(one).envelope)
        if line is None or parameter.holds_only:
            return None
        a, b = line
        made = replace(one, scale=a * one.scale, offset=a * one.offset + b)
        able = abs(a) > SAME and not self.after.placement_problem(made)
        return made if able and says(phrase, made, parameter, self._lane(_home_of(one))) else None

    def _free(self, one: Placement, reason: str) -> None:
        self.fates[one.id] = None
        self.freed.append(one)
        if reason:
            name = self.session.phrase(one.phrase).name
            self.cautions.append(self._about(one, "set-free", name, reason=reason))

    def _about(self, one: Placement, kind: str, phrase: str, **more: str) -> Caution:
        """A caution at a place as it stood."""
        zero, lane = self.session.start_of(one.home), self.session.lane_at(one.parameter, one.home)
        said = {"place": self._named(one), "phrase": phrase} | more
        start, end = zero + one.start, zero + one.end
        return caution(kind, said, lane=lane.id if lane else None, start=start, end=end)

    def _piece(self, one: Placement) -> Fragment:
        """What was written over a place's span."""
        return Fragment(editing.slices(self._lane(_home_of(one)), [one.span])[0], one.length)

    def _inside(self, one: Placement) -> bool:
        """Whether all that was written where a place is touched lies in it.

        A point on its edge belongs to it: what comes of moving that, up to the next point outside, is no other writing.
        """
        runs = (run for run in self._runs(_home_of(one)) if run.start < one.end and one.start < run.end)
        return all(_written_in(run, one.span, self.kind == "points") for run in runs)

    def _runs(self, key: Home) -> list[Run]:
        """The stretches of a lane that changed."""
        if key not in self._known_runs:
            before = self.session.lane_at(*key)
            assert before is not None
            start, end = self.session.span(before)
            self._known_runs[key] = differing_runs(before.envelope, self._lane(key), 0, end - start)
        return self._known_runs[key]

    @cached_property
    def _known_runs(self) -> dict[Home, list[Run]]:
        return {}

    # ── drawing ───────────────────────────────────────────────────────────────────────────────

    def _redrawn(self) -> tuple[dict[Home, Lane], dict[Home, tuple[int, int, int]]]:
        """The lanes on which placements are drawn anew, and for each the span (session ticks) and the spans limited."""
        changed = {s.id for s in self.change.phrases} | self.phrases.keys()
        final = self._final()
        anew: dict[Home, list[tuple[Placement, Fragment, int]]] = {}
        for one in final:
            if one.phrase in changed or (self.declared.get(one.id) is not None and not self._says_already(one)):
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
            stop = self.after.length if key[1] == ON_THE_TRACK else None
            curve = laid(base, [Landed(one.start, piece) for one, piece, _ in pieces], stop=stop).from_zero()
            lane = replace(there, envelope=curve) if there else Lane(next(new_ids), *key, curve)
            if there is None or lane != there:
                zero = self.after.start_of(key[1])
                lanes[key] = lane
                start, end = min(x.start for x, _, _ in pieces), max(x.end for x, _, _ in pieces)
                spans[key] = zero + start, zero + end, sum(limited for _, _, limited in pieces)
        return lanes, spans

    def _where_it_differs(self, swap: LaneSwap, start: int, end: int) -> tuple[int, int]:
        """What of a span (session ticks) changes on a lane that only follows."""
        if swap.before is None or swap.after is None:
            return start, end
        zero = self.after.start_of(swap.home)
        found = differing_span(swap.before.envelope, swap.after.envelope, start - zero, end - zero)
        # What stands on the last break position itself may differ too: where a jump ends there.
        return (found[0] + zero, min(found[1] + zero + 1, end)) if found else (start, end)

    def _with_lanes(self, made: Change, lanes: dict[Home, Lane], spans: dict[Home, tuple[int, int, int]]) -> Change:
        swaps = {(s.parameter, s.home): s for s in made.lanes}
        written = set(swaps)
        for key, lane in lanes.items():
            before = swaps[key].before if key in swaps else self.session.lane_at(*key)
            swaps[key] = LaneSwap(before, lane)
        touched = [t for t in made.touched if (t.parameter, t.home) not in lanes]
        widths = {(t.parameter, t.home): (t.start, t.end) for t in made.touched}
        shown = replace(self.after, lanes=self.session.lanes)
        for key, (start, end, limited) in spans.items():
            if key in widths:
                start, end = min(start, widths[key][0]), max(end, widths[key][1])
            else:
                if key in written:  # shown by what is heard: the verb may have written elsewhere on it too
                    start, end = shown.span(swaps[key].lane)
                start, end = self._where_it_differs(swaps[key], start, end)
            touched.append(lane_change(shown, swaps[key], (start, end), limited))
        named = made.named
        if named is not None:
            named = dict(named)
            for key, (start, end, _) in spans.items():
                named[key[0]] = (*named.get(key[0], ()), (start, end))
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
        fate = {**self.declared, **self.fates}
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
        usual = _USUAL.get(self.kind, "here")
        return LinksMet(
            tuple(self._phrase(id).name for id in self.phrases),
            len(reached),
            len({self.after.owner(one.parameter).id for one in reached}),
            tuple(self._called(one) for one in self.freed),
            tuple(choice for choice in _CHOICES if choice in self.choices),
            self.asked or ("follow" if self.copied and usual == "here" else usual),
        )

    def _said(self) -> Iterable[Caution]:
        met = self._links()
        if self.phrases and met is not None:
            yield caution("linked", phrases=listed(met.phrases, "phrase"), places=met.places, tracks=met.tracks)
        if self.offered:
            yield caution("not-linked/plain", count=len(self.offered), remedy=self.change.linking)

    def _called(self, one: Placement) -> str:
        lane = self.session.lane_at(one.parameter, one.home)
        return self.session.lane_name(lane) if lane else one.parameter

    def _named(self, one: Placement) -> str:
        return f"{self._called(one)} at {self._position(one)}"

    def _position(self, one: Placement) -> str:
        return str(self.session.tempo.position(self.session.start_of(one.home) + one.start))

    def _lane(self, key: Home) -> Envelope:
        lane = self.after.lane_at(*key)
        assert lane is not None
        return lane.envelope


def _home_of(one: Placement) -> Home:
    return one.parameter, one.home


def _edited(phrase: Phrase, edits: Sequence[Edit]) -> Phrase | str:
    """The phrase with what goes back into it, or why it cannot be so."""
    try:
        return edited(phrase, edits)
    except RequestError as error:
        return error.message


def _alike(one: Phrase, other: Phrase) -> bool:
    return differing_span(one.piece.envelope, other.piece.envelope, 0, one.length - 1) is None


def _over(one: Placement, other: Placement) -> bool:
    """Whether two places lie over each other."""
    return _home_of(one) == _home_of(other) and one.start < other.end and other.start < one.end


def _written_in(run: Run, span: tuple[int, int], by_points: bool) -> bool:
    """Whether a stretch that differs was written between two ticks; where points were, only these count."""
    start, end = span
    inner, within = run.breaks[1:-1], (run.start >= start, run.end <= end)
    if not all(start <= t <= end for t in inner):
        return False
    if inner and by_points:
        return True
    return (within[0] or (bool(inner) and run.leaves_together)) and (within[1] or (bool(inner) and run.meets_again))


def _line(before: Envelope, after: Envelope) -> tuple[float, float] | None:
    """(a, b) with a·y + b the coordinate of `after` wherever y is that of `before`, as two places say it; None if none."""
    before = before.only_heard()  # a point that no moment has, where points fell together, lies on no line
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
