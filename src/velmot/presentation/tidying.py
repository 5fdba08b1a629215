"""Everything that is found in a session, as the sheet for tidying lists it, and small pictures of what mending would do."""

from __future__ import annotations

from collections import Counter, OrderedDict
from collections.abc import Iterable
from contextlib import suppress
from threading import Lock

import numpy as np
from pydantic import BaseModel, Field

from velmot.core.curves import editing
from velmot.core.curves.alike import Likeness
from velmot.core.errors import RequestError
from velmot.core.findings import KINDS, Finding, Looked, is_let_be
from velmot.core.findings.where_else import Alike, phrases_like, where_else, within_home
from velmot.core.parameters.parameter import Parameter
from velmot.core.session.heard import heard, reading
from velmot.core.session.phrases import Phrase
from velmot.core.session.session import Session
from velmot.core.session.summary import Picture as Drawn
from velmot.core.session.summary import pictures_together
from velmot.core.session.wording import span_text
from velmot.core.tidy.request import Found
from velmot.core.tidy.ticked import Search
from velmot.core.time.ticks import beats_of
from velmot.core.verbs import plan, verb_of
from velmot.presentation.tracks import Picture

MOST_OF_A_KIND = 200
"""Findings of one kind that are listed; the rest are counted."""
MOST_PICTURES = 40
_COLUMNS = 46
_MOST_SESSIONS = 4


class FoundOut(BaseModel):
    """A finding in the list. `kind`, `of` and `at` (beats) are what it is known by."""

    kind: str
    of: str
    at: float
    name: str = Field(description="What it is about, in words.")
    where: str = Field(description="Where, in words; empty for what is about no place.")
    words: str
    size: str = Field(description="How large it is, in words; empty where that says nothing.")
    sure: float
    parameter: str
    lane: str | None
    track: str
    start: float
    end: float
    mends: bool = Field(description="Whether there is something that would mend it.")
    lossless: bool = Field(description="Whether mending changes nothing of what is heard.")
    let_be: bool


class KindOut(BaseModel):
    """A kind of finding: how many there are, how many of them are let be, and whether all of the kind are."""

    kind: str
    called: str
    count: int
    quiet: int
    all_let_be: bool
    listed: int


class TidyOut(BaseModel):
    """Everything that is found; `count` is without what is let be."""

    count: int
    kinds: list[KindOut]
    found: list[FoundOut]


class Looks:
    """What was found in the sessions that were looked at last, so that after an edit only what it touched is looked at."""

    def __init__(self) -> None:
        self._known: OrderedDict[int, Looked] = OrderedDict()
        self._lock = Lock()

    def all(self, id: int, session: Session) -> list[Finding]:
        """Everything in the session of an id."""
        with self._lock:
            looked = self._known.pop(id, None) or Looked()
            found = looked.all(session)
            self._known[id] = looked
            while len(self._known) > _MOST_SESSIONS:
                self._known.popitem(last=False)
        return found


LOOKS = Looks()


def tidy_out(id: int, session: Session) -> TidyOut:
    """The list, kind by kind as they are found, the largest of each first."""
    found = LOOKS.all(id, session)
    quiet = {n for n, one in enumerate(found) if is_let_be(session, one)}
    all_of = {x.kind for x in session.let_be if not x.of}
    counts, silent = Counter(one.kind for one in found), Counter(found[n].kind for n in quiet)
    rows: list[FoundOut] = []
    kinds: list[KindOut] = []
    for kind in KINDS.values():
        if not counts[kind.name] and kind.name not in all_of:
            continue
        mine = sorted(
            (n for n, one in enumerate(found) if one.kind == kind.name), key=lambda n: (n in quiet, -found[n].size)
        )
        listed = mine[:MOST_OF_A_KIND]
        rows += [_row(session, found[n], n in quiet) for n in listed]
        kinds.append(
            KindOut(
                kind=kind.name,
                called=kind.called,
                count=counts[kind.name] - silent[kind.name],
                quiet=silent[kind.name],
                all_let_be=kind.name in all_of,
                listed=len(listed),
            )
        )
    return TidyOut(count=len(found) - len(quiet), kinds=kinds, found=rows)


def _row(session: Session, one: Finding, quiet: bool) -> FoundOut:
    known = one.known_as(session)
    parameter = session.parameter(one.parameter) if one.parameter else None
    return FoundOut(
        kind=one.kind,
        of=known.of,
        at=beats_of(known.at),
        name=one.name(session),
        where=span_text(session, one.start, one.end) if parameter else "",
        words=one.words,
        size=parameter.format_distance(one.size) if parameter and one.size else "",
        sure=one.sure,
        parameter=one.parameter,
        lane=one.lane,
        track=session.owner(one.parameter).id if one.parameter else one.track,
        start=beats_of(one.start),
        end=beats_of(one.end),
        mends=one.mend is not None,
        lossless=one.lossless,
        let_be=quiet,
    )


class BothOut(BaseModel):
    """What is heard around a finding now, and if it were mended; nothing where that cannot be, or would look the same."""

    now: Picture | None
    mended: Picture | None


def both_out(session: Session, found: Iterable[Found]) -> list[BothOut]:
    """Small pictures of findings, in their order; without any for what is about no parameter or is gone."""
    search = Search(session)
    return [_both(session, search.get(one)) for one in found]


def _both(session: Session, one: Finding | None) -> BothOut:
    if one is None or not one.parameter:
        return BothOut(now=None, mended=None)
    parameter = session.parameter(one.parameter)
    beside = max((one.end - one.start) // 4, session.length // 200)
    start, end = max(one.start - beside, 0), min(one.end + beside, session.length)
    states = [session]
    if one.mend is not None:
        with suppress(RequestError):  # the preview says why
            states.append(plan(session, verb_of(one.mend), one.mend).applied_to(session))
    curves = [heard(reading(state), one.parameter, groups=False).envelope.shift(-start) for state in states]
    drawn = pictures_together([(curve, parameter) for curve in curves], end - start, _COLUMNS)
    now, mended = drawn[0], drawn[-1]
    return BothOut(now=_picture(now), mended=_picture(mended) if mended != now else None)


def _picture(drawn: Drawn) -> Picture:
    return Picture(**vars(drawn))


class AlikeOut(BaseModel):
    """A place that runs like the model, or a phrase that does (then `phrase` says which, and there is no lane)."""

    lane: str
    phrase: str
    name: str
    where: str
    start: float
    end: float
    how: str = Field(description="How the model becomes it, in words: lower, deeper, longer.")
    far: str = Field(description="How far they are apart at most, in words.")
    apart: float = Field(description="The same, in units of the place's axis.")
    near: float = Field(description="How near it is, in parts of its own depth: 1 the same.")
    linked: bool = Field(description="Whether a phrase is placed there already.")


class AlikesOut(BaseModel):
    """Everything that runs like the model, the nearest first."""

    model: str = Field(description="What was looked for, in words.")
    found: list[AlikeOut]


def alikes_out(session: Session, lane_id: str, start: int, end: int, phrases: Iterable[Phrase]) -> AlikesOut:
    """Places of a session, and some phrases, that run like what a lane does over a range."""
    found = where_else(session, lane_id, start, end)
    start, end = within_home(session, lane_id, start, end)
    lane = session.lane(lane_id)
    model = session.parameter(lane.parameter)
    rows = [_alike(session, model, one, end - start) for one in found]
    piece = editing.cut(session.in_session_time(lane), start, end)
    rows += [_phrase(phrase, like, model) for phrase, like in phrases_like(piece, phrases)]
    said = f"{session.lane_name(lane)}, {span_text(session, start, end)}"
    return AlikesOut(model=said, found=sorted(rows, key=lambda row: -row.near))


def _alike(session: Session, model: Parameter, one: Alike, length: int) -> AlikeOut:
    lane = session.lane(one.lane)
    parameter, zero = session.parameter(lane.parameter), session.zero_of(lane)
    curve = session.in_session_time(lane)
    middle = float(np.mean(curve.coordinate_at(np.linspace(one.start, one.end - 1, 33).astype(np.int64))))
    places = session.placed_on(lane.parameter, lane.home)
    return AlikeOut(
        lane=one.lane,
        phrase="",
        name=session.lane_name(lane),
        where=span_text(session, one.start, one.end),
        start=beats_of(one.start),
        end=beats_of(one.end),
        how=how_text(model, parameter, one, middle, (one.end - one.start) / length),
        far=parameter.format_distance(one.far),
        apart=one.far,
        near=one.near,
        linked=any(x.start < one.end - zero and one.start - zero < x.end for x in places),
    )


def _phrase(phrase: Phrase, like: Likeness, model: Parameter) -> AlikeOut:
    curve = phrase.piece.envelope
    depth, middle = float(np.ptp(curve.coordinates)), float(np.mean(curve.coordinates))
    there = Alike("", 0, phrase.length, like.scale, like.offset, like.far, 1 - like.far / depth)
    return AlikeOut(
        lane="",
        phrase=phrase.id,
        name=phrase.name,
        where="in the phrase book" if phrase.id.startswith("book") else "a phrase here",
        start=0.0,
        end=beats_of(phrase.length),
        how=how_text(model, phrase.source, there, middle, None),
        far=phrase.source.format_distance(like.far),
        apart=like.far,
        near=there.near,
        linked=False,
    )


def how_text(model: Parameter, parameter: Parameter, one: Alike, middle: float, times: float | None) -> str:
    """How the model becomes a place, in words: “6.0 dB lower, half as deep, upside down, twice as long”."""
    said = []
    alike = (model.unit, model.axis) == (parameter.unit, parameter.axis)
    if alike and one.scale:
        shift = middle - (middle - one.offset) / one.scale
        if abs(shift) > parameter.span / 1000:
            said.append(f"{parameter.format_distance(abs(shift))} {'higher' if shift > 0 else 'lower'}")
        if abs(abs(one.scale) - 1) > 0.005:
            said.append(_times(abs(one.scale), "deep"))
    elif not alike:
        said.append(f"about {parameter.format(float(parameter.axis.value_of(middle)))}")
    if one.scale < 0:
        said.append("upside down")
    if times is not None and abs(times - 1) > 0.001:
        said.append(_times(times, "long"))
    return ", ".join(said) or "the same"


def _times(number: float, what: str) -> str:
    word = {2.0: "twice", 0.5: "half"}.get(round(number, 3), f"{number:.2f}".rstrip("0").rstrip(".") + " times")
    return f"{word} as {what}"
