"""What the screen draws: sessions, lanes and changes turned into the API's shapes."""

from __future__ import annotations

import json
from collections.abc import Callable, Iterable
from functools import cache, lru_cache, partial
from itertools import accumulate
from typing import Any

import numpy as np

from velmot.api.remedies import remedy_out
from velmot.api.schemas import (
    Bar,
    CautionOut,
    ChangeOut,
    Curve,
    DeviceOut,
    GapOut,
    HeardOut,
    HeardSpan,
    LaneOut,
    Mark,
    MatchIO,
    ParameterOut,
    Picture,
    PlacedRegion,
    ReadOut,
    RegionOut,
    SessionOut,
    Tock,
    TouchedOut,
    TrackOut,
    View,
)
from velmot.core.activity import activity
from velmot.core.axes import Axis
from velmot.core.change import HEARD, Change, LaneChange, TrackSwap
from velmot.core.envelope import Envelope
from velmot.core.findings.gaps import gaps
from velmot.core.findings.not_heard import why_not_heard
from velmot.core.heard import heard, in_words
from velmot.core.outline import last_outline
from velmot.core.parameters import Family, Kind, Label, Parameter
from velmot.core.segments import HOLD
from velmot.core.session import ON_THE_TRACK, Lane, Region, Session, Track
from velmot.core.summary import outline_of, picture_of
from velmot.core.time import TICKS_PER_BEAT, Floats, beats_of, ticks_of
from velmot.core.wording import heard_text, span_text
from velmot.storage import history, remembered, sessions
from velmot.storage.sessions import Listed
from velmot.storage.snapshot import snapshot

SPARK_COLUMNS = 48
_POINTS_A_COLUMN = 0.5
MOST_GUESTS = 8
MOST_DRAWN = 120
MOST_LISTED = 60
MOST_NAMED = 4
MOST_PLACED = 2000


def session_out(id: int) -> SessionOut:
    """Everything but the curves, as one moment's rows say it."""
    with snapshot():
        now = sessions.opened(id)
        stored, session = now.row, now.session
        undo, redo = history.next_titles(stored)
        changed = history.last_changes(stored)
        matches = remembered.matches(stored, session)
    tempo = session.tempo
    bars = tempo.bar_starts(session.length)
    edges = np.array([t for _, t, _ in bars] + [session.length], dtype=np.int64)
    return SessionOut(
        id=stored.pk,
        name=stored.name,
        revision=stored.head,
        length=beats_of(session.length),
        precedence=session.precedence.value,
        undo=undo,
        redo=redo,
        bars=[Bar(number=n, beat=beats_of(t), count=m.count, unit=m.unit) for n, t, m in bars],
        clock=[Tock(beat=beats_of(t), seconds=x) for t, x in tempo.clock(session.length)],
        activity=activity(session, edges).tolist(),
        tracks=[_track_out(session, t) for t in session.tracks],
        lanes=[lane_out(session, lane, changed.get(lane.id, 0)) for lane in session.lanes],
        matches=[MatchIO(**m) for m in matches],
        report=stored.report,
        damaged=list(now.damaged),
    )


def _track_out(session: Session, track: Track) -> TrackOut:
    return TrackOut(
        id=track.id,
        name=track.name,
        kind=track.kind.value,
        mode=track.mode.value,
        reads=track.reads,
        members=[session.track(m).name for m in track.members],
        regions=[RegionOut(**_region_fields(r), lanes=len(session.lanes_in(r.id))) for r in track.regions],
        devices=[DeviceOut(id=d.id, name=d.name) for d in track.devices],
        parameters=[parameter_out(session, track, p) for p in track.parameters],
    )


def _region_fields(r: Region) -> dict[str, Any]:
    span = {"start": beats_of(r.start), "length": beats_of(r.length)}
    return {"id": r.id, "name": r.name, **span, "muted": r.muted, "container": r.container}


def parameter_out(session: Session, track: Track, p: Parameter) -> ParameterOut:
    """A parameter with the marks of its axis."""
    device = track.device_of(p)
    return ParameterOut(
        id=p.id,
        name=p.name,
        family=p.family.value,
        kind=p.kind.value,
        unit=p.unit,
        axis=p.axis.value,
        low=p.low,
        high=p.high,
        value=p.value,
        value_text=p.format(p.value),
        marks=_marks(p.axis, p.low, p.high, p.unit, p.labels),
        device=device.name if device else None,
        target=session.track(p.target).name if p.target else None,
    )


@lru_cache(maxsize=256)
def _marks(axis: Axis, low: float, high: float, unit: str, labels: tuple[Label, ...]) -> list[Mark]:
    """The marks of an axis; a session's parameters have only a few different ones."""
    kind = {0: Kind.CONTINUOUS, 2: Kind.SWITCH}.get(len(labels), Kind.STEPPED)
    scale = Parameter("scale", "Scale", Family.DEVICE, kind, unit, axis, low, high, low, low, labels)
    return [Mark(value=v, text=text) for v, text in scale.marks()]


def lane_out(session: Session, lane: Lane, changed: int) -> LaneOut:
    """A lane's line in the ledger."""
    start, end = session.span(lane)
    lows, highs = outline_of(session, lane, SPARK_COLUMNS)
    low, high = float(lows.min()), float(highs.max())
    why, _ = why_not_heard(session, lane)
    bottom, top = session.parameter(lane.parameter).position(np.array([low, high])).tolist()
    return LaneOut(
        id=lane.id,
        parameter=lane.parameter,
        track=session.owner(lane.parameter).id,
        home=lane.home,
        home_name="" if lane.on_track else session.region(lane.home).name,
        start=beats_of(start),
        end=beats_of(end),
        points=len(lane.envelope),
        low=low,
        high=high,
        moves=low != high,
        movement=top - bottom,
        changed=changed,
        heard=not why,
        why=why,
        spark=Picture(**vars(picture_of(session, lane, SPARK_COLUMNS))),
    )


def curve(session: Session, lane: Lane, view: View) -> Curve:
    """The lane's curve in view, in session beats."""
    return curve_of(lane.id, session.in_session_time(lane), view)


def curve_of(id: str, envelope: Envelope, view: View) -> Curve:
    """Points while they are few enough to see, else exact lows and highs of each column."""
    start, end = _ticks_in(view.start, view.end, view.columns)
    drawn = Curve(
        lane=id, start=beats_of(start), end=beats_of(end), first=0, beats=[], values=[], shapes=[], lows=[], highs=[]
    )
    if envelope.count(start, end) <= max(view.columns * _POINTS_A_COLUMN, 32):
        first = max(int(np.searchsorted(envelope.ticks, start)) - 2, 0)
        last = int(np.searchsorted(envelope.ticks, end, side="right")) + 2
        part = slice(first, last)
        drawn.first = first
        drawn.beats = np.round(envelope.ticks[part] / TICKS_PER_BEAT, 7).tolist()  # near enough to draw
        drawn.values = envelope.values[part].tolist()
        drawn.shapes = [b if b != HOLD else None for b in envelope.bends[part].tolist()]
    else:
        lows, highs = last_outline(envelope, start, end, view.columns)
        drawn.lows, drawn.highs = _near_enough(lows, highs)
    return drawn


def _near_enough(lows: Floats, highs: Floats) -> tuple[list[float], list[float]]:
    """Lows and highs rounded to a hundred-thousandth of what they span: less to send, and no pixel's difference."""
    span = float(highs.max() - lows.min())
    digits = 5 - int(np.floor(np.log10(span))) if span > 0 else 9
    return np.round(lows, digits).tolist(), np.round(highs, digits).tolist()


@lru_cache(maxsize=16)
def _ticks_in(start: float, end: float, columns: int) -> tuple[int, int]:
    """A view's first and last tick, at least a tick a column; asked for hundreds of curves in a row."""
    first = ticks_of(start)
    return first, max(ticks_of(end), first + columns)


def change_out(session: Session, change: Change, view: View | None) -> ChangeOut:
    """A plan with its figures, cautions and, if there is a view, its curves before and after."""
    session = change.tracks_applied_to(session)
    guests = _guests(change, view)
    touched = _listed(change, view, guests)
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
            _touched_out(session, t, view, drawn, n < MOST_NAMED, in_words) for n, (t, drawn) in enumerate(touched)
        ],
        cautions=[
            CautionOut(
                code=c.code,
                message=c.message,
                track=c.track,
                lane=c.lane,
                start=None if c.start is None else beats_of(c.start),
                end=None if c.end is None else beats_of(c.end),
                remedy=remedy_out(c.remedy),
            )
            for c in change.cautions[:MOST_LISTED]
        ],
        guests=guests,
        tracks=[s.after.name for s in change.tracks],
        heard=heard_text(session, change.heard) if change.heard else "",
        regions=[PlacedRegion(**_region_fields(r), track=s.after.id) for s in change.tracks for r in _placed(s)],
    )


def _placed(swap: TrackSwap) -> list[Region]:
    """The regions that a track has not, or has otherwise, as it stands."""
    known = {r.id: r for r in swap.before.regions}
    return [r for r in swap.after.regions if known.get(r.id) != r][:MOST_PLACED]


def _guests(change: Change, view: View | None) -> list[str]:
    """The parameters not on view whose strips join it: some, and fewer where each has hundreds of curves."""
    on_view = set(view.strips if view else ())
    first, last = _ticks_in(view.start, view.end, view.columns) if view else (0, 0)
    curves: dict[str, int] = {}
    for t in change.touched:
        if t.parameter not in on_view:
            curves[t.parameter] = curves.get(t.parameter, 0) + (t.start < last and first < t.end)
    sums = zip(curves, accumulate(curves.values()), strict=True)
    return [p for n, (p, drawn) in enumerate(sums) if n == 0 or (n < MOST_GUESTS and drawn <= MOST_DRAWN)]


def _listed(change: Change, view: View | None, guests: list[str]) -> list[tuple[LaneChange, bool]]:
    """The lanes to list, and whether their curves are drawn: all in view on strips and their guests."""
    strips = {*(view.strips if view else ()), *guests}
    first, last = _ticks_in(view.start, view.end, view.columns) if view else (0, 0)
    rows: list[tuple[LaneChange, bool]] = []
    for t in change.touched:
        drawn = t.parameter in strips and t.start < last and first < t.end
        if drawn or len(rows) < MOST_LISTED:
            rows.append((t, drawn))
    return rows


def _touched_out(
    session: Session, t: LaneChange, view: View | None, drawn: bool, named: bool, in_words: Callable[[int, int], str]
) -> TouchedOut:
    parameter = session.parameter(t.parameter)
    alone = t.home not in (ON_THE_TRACK, HEARD)  # in a region, where there is no lane there is no curve
    made, gone = alone and not t.points_before, alone and not t.points_after
    known = drawn or view is None or named
    shown = [curve for curve, none in ((t.before, made), (t.after, gone)) if not none] if known else []
    compared = named and not made and not gone
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
        difference_at=beats_of(t.difference_at) if compared else None,
        spans_limited=t.spans_limited,
        low=min(float(e.values.min()) for e in shown) if known else None,
        high=max(float(e.values.max()) for e in shown) if known else None,
        before=curve_of(t.lane, t.before, view) if view and drawn and not made else None,
        after=curve_of(t.lane, t.after, view) if view and drawn and not gone else None,
    )


def read_outs(session: Session, parameters: Iterable[str], tick: int) -> list[ReadOut]:
    """What is heard of each parameter at a tick and why, and what each of its lanes says there."""
    out = []
    for id in parameters:
        parameter, now = session.parameter(id), heard(session, id)
        lanes = {}
        for lane in session.lanes_of(id):
            start, end = session.span(lane)
            zero = 0 if lane.on_track else start
            lanes[lane.id] = parameter.format(float(lane.envelope.at(min(max(tick, start), end) - zero)))
        why = in_words(session, now.reason_at(tick), now.groups)
        out.append(ReadOut(parameter=id, text=parameter.format(float(now.envelope.at(tick))), why=why, lanes=lanes))
    return out


def heard_out(session: Session, parameter: str, view: View) -> HeardOut:
    """What is heard of a parameter in view, with the reasons of the spans that reach into it."""
    now = heard(session, parameter)
    start, end = ticks_of(view.start), ticks_of(view.end)
    spans = [
        HeardSpan(start=beats_of(r.start), end=beats_of(r.end), why=in_words(session, r))
        for r in now.reasons
        if r.start < end and start < r.end
    ]
    values = now.envelope.values
    low, high = float(values.min()), float(values.max())
    return HeardOut(parameter=parameter, curve=curve_of("", now.envelope, view), spans=spans, low=low, high=high)


def gaps_out(session: Session, parameters: Iterable[str]) -> list[GapOut]:
    """The odd gaps of parameters."""
    return [
        GapOut(
            parameter=g.parameter,
            start=beats_of(g.start),
            end=beats_of(g.end),
            kind="jump" if g.words.startswith("jump") else "drift",
            message=g.words,
        )
        for id in parameters
        for g in gaps(session, id)
    ]


def line_text(listed: Listed) -> str:
    """A session's line on the start page as JSON: the summary kept with it goes as it is."""
    own = {"id": listed.id, "name": listed.name, "changed": listed.changed.isoformat()}
    return f"{json.dumps(own)[:-1]}, {listed.summary[1:]}"
