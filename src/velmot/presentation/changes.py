"""A plan as the screen shows it: figures, cautions, and the curves of the lanes it has room for."""

from __future__ import annotations

from collections.abc import Callable, Sequence
from functools import cache, partial
from itertools import accumulate

from pydantic import BaseModel, Field

from velmot.core.curves.difference import SAME
from velmot.core.session.session import Session
from velmot.core.session.track import ON_THE_TRACK, Region
from velmot.core.session.wording import span_text
from velmot.core.time.ticks import beats_of
from velmot.core.verbs.frame.change import HEARD, Caution, Change, LaneChange, LinksMet, TrackSwap
from velmot.core.verbs.frame.heard_alike import heard_text
from velmot.core.words import counted, plain_args
from velmot.presentation.curves import Curve, View, curve_of
from velmot.presentation.markers import MarkerOut, markers_out
from velmot.presentation.rails import RailedOut
from velmot.presentation.requests import RemedyOut, remedy_out
from velmot.presentation.tracks import RegionFields, region_fields

MOST_GUESTS = 8
"""Strips that join those on view."""

MOST_DRAWN = 120
"""Curves that a strip which joins may bring."""

MOST_LISTED = 60
"""Lanes and cautions that are listed; totals count all."""

MOST_NAMED = 4
"""Lanes whose largest difference is said."""

MOST_PLACED = 2000
"""Regions that are drawn where they would be."""


class CautionOut(BaseModel):
    """Something to know before applying."""

    code: str
    args: dict[str, str | int | float] = Field(description="What its words are made of: amounts, counts, names.")
    message: str
    track: str | None
    lane: str | None
    start: float | None
    end: float | None
    plain: bool = Field(description="Whether it is only good to know.")
    remedy: RemedyOut | None
    others: list[RemedyOut] = Field(description="What else could be done about it.")


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
    stays: bool = Field(description="Whether it does the same as before: only what it shares with others changes.")
    difference_at: float | None
    spans_limited: int
    low: float | None
    high: float | None
    before: Curve | None
    after: Curve | None


class PlacedRegion(RegionFields):
    """A region where it would be."""

    track: str


class LinksOut(BaseModel):
    """What a plan does to linked places, in words, and what can be asked for instead."""

    choices: list[str]
    does: str = Field(description="Which of them is what happens.")
    reach: str = Field(description="How far it reaches: “4 places on 3 tracks”; empty where nothing follows.")
    freed: int


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
    links: LinksOut | None
    markers: list[MarkerOut] | None = Field(
        description="The markers as they would be, where some would be others or elsewhere."
    )
    rails: list[RailedOut] = Field(description="Where the rails of lanes go that are reshaped.")


def change_out(session: Session, change: Change, view: View | None, rails: Sequence[RailedOut] = ()) -> ChangeOut:
    """A plan with its figures, cautions and, if there is a view, its curves before and after."""
    session = change.naming(session)
    guests = guests_of(change, view)
    spans = {(t.start, t.end) for t in change.touched}
    in_words = cache(partial(span_text, session))
    return ChangeOut(
        title=change.title,
        empty=change.empty,
        lanes=len(change.touched),
        points_before=sum(t.points_before for t in change.touched),
        points_after=sum(t.points_after for t in change.touched),
        spans_limited=sum(t.spans_limited for t in change.touched),
        span_text=span_text(session, *spans.pop()) if len(spans) == 1 else "",
        touched=[
            _touched_out(session, t, view, drawn, n < MOST_NAMED, in_words)
            for n, (t, drawn) in enumerate(listed(change, view, guests))
        ],
        cautions=[_caution_out(c) for c in change.cautions[:MOST_LISTED]],
        guests=guests,
        tracks=[s.track.name for s in change.tracks],
        heard=heard_text(session, change.heard) if change.heard else "",
        links=_links_out(change.links),
        markers=markers_out(change.markers_applied_to(session)) if change.markers else None,
        rails=[*rails],
        regions=[PlacedRegion(**region_fields(r), track=s.id) for s in change.tracks for r in placed(s)],
    )


def _links_out(met: LinksMet | None) -> LinksOut | None:
    if met is None:
        return None
    reach = f"{counted(met.places, 'place')} on {counted(met.tracks, 'track')}" if met.phrases else ""
    return LinksOut(choices=[*met.choices], does=met.does, reach=reach, freed=len(met.freed))


def guests_of(change: Change, view: View | None) -> list[str]:
    """The parameters not on view whose strips join it: some, and fewer where each has hundreds of curves."""
    on_view = set(view.strips if view else ())
    first, last = view.ticks if view else (0, 0)
    curves: dict[str, int] = {}
    for t in change.touched:
        if t.parameter not in on_view:
            curves[t.parameter] = curves.get(t.parameter, 0) + (t.start < last and first < t.end)
    sums = zip(curves, accumulate(curves.values()), strict=True)
    return [p for n, (p, drawn) in enumerate(sums) if n == 0 or (n < MOST_GUESTS and drawn <= MOST_DRAWN)]


def listed(change: Change, view: View | None, guests: list[str]) -> list[tuple[LaneChange, bool]]:
    """The lanes to list, and whether their curves are drawn: all in view on strips and their guests."""
    strips = {*(view.strips if view else ()), *guests}
    first, last = view.ticks if view else (0, 0)
    rows: list[tuple[LaneChange, bool]] = []
    for t in change.touched:
        drawn = t.parameter in strips and t.start < last and first < t.end
        if drawn or len(rows) < MOST_LISTED:
            rows.append((t, drawn))
    return rows


def placed(swap: TrackSwap) -> list[Region]:
    """The regions that a track has not, or has otherwise, as it stands."""
    known = {r.id: r for r in swap.before.regions} if swap.before else {}
    return [r for r in swap.after.regions if known.get(r.id) != r][:MOST_PLACED] if swap.after else []


def _caution_out(c: Caution) -> CautionOut:
    return CautionOut(
        code=c.code,
        args=plain_args(c.args),
        message=c.message,
        track=c.track,
        lane=c.lane,
        start=None if c.start is None else beats_of(c.start),
        end=None if c.end is None else beats_of(c.end),
        plain=c.plain,
        remedy=remedy_out(c.remedy),
        others=[out for x in c.others if (out := remedy_out(x))],
    )


def _touched_out(
    session: Session, t: LaneChange, view: View | None, drawn: bool, named: bool, in_words: Callable[[int, int], str]
) -> TouchedOut:
    parameter = session.parameter(t.parameter)
    alone = t.home not in (ON_THE_TRACK, HEARD)  # in a region, where there is no lane there is no curve
    made, gone = alone and not t.points_before, alone and not t.points_after
    known = drawn or view is None or named
    shown = [curve for curve, none in ((t.before, made), (t.after, gone)) if not none] if known else []
    compared = named and not made and not gone
    pencil = view is None or view.pencil or t.home == HEARD or not t.points_before
    return TouchedOut(
        lane=t.lane,
        parameter=t.parameter,
        track=session.owner(t.parameter).id,
        home=t.home,
        name=t.name,
        start=beats_of(t.start),
        end=beats_of(t.end),
        span_text=in_words(t.start, t.end),
        points_before=t.points_before,
        points_after=t.points_after,
        difference_text=parameter.format_distance(t.difference) if compared else "",
        stays=compared and t.difference <= SAME,
        difference_at=beats_of(t.difference_at) if compared else None,
        spans_limited=t.spans_limited,
        low=min(float(e.values.min()) for e in shown) if known else None,
        high=max(float(e.values.max()) for e in shown) if known else None,
        before=curve_of(t.lane, t.before, view) if view and drawn and not made and pencil else None,
        after=curve_of(t.lane, t.after, view) if view and drawn and not gone else None,
    )
