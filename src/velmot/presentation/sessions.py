"""A whole session as the screen opens it, and what of it a step has changed."""

from __future__ import annotations

import json
from collections.abc import Iterable
from datetime import datetime
from typing import Annotated, Any, Literal

import numpy as np
from pydantic import BaseModel, Field

from velmot.core.findings import KINDS, findings_of_lanes
from velmot.core.parameters.parameter import Family
from velmot.core.session.above import groups_above
from velmot.core.session.activity import activity
from velmot.core.session.session import Session
from velmot.core.session.track import ON_THE_TRACK, Lane
from velmot.core.time.ticks import Ticks, beats_of
from velmot.core.verbs.frame.change import LaneSwap, TrackSwap
from velmot.core.verbs.frame.heard_change import swaps_between
from velmot.presentation.alternatives import AlternativeOut, alternatives_out
from velmot.presentation.benches import Bench
from velmot.presentation.first_strips import FirstStrips, OpeningOut, first_strips, opening_out
from velmot.presentation.linked import LinkedOut, linked_out
from velmot.presentation.markers import MarkerOut, markers_out
from velmot.presentation.notes import NoteOut, notes_out
from velmot.presentation.tracks import LaneOut, Picture, Speaks, TrackOut, lane_out, speaking_out, track_out
from velmot.storage import benches, book, history, logbook, remembered, sessions, sources
from velmot.storage.history import Step
from velmot.storage.sessions import Listed, Opened
from velmot.storage.snapshot import snapshot


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


class MatchIO(BaseModel):
    """A decision of the match table, as a carry takes it."""

    parameter: str
    track: str
    do: Literal["land", "add", "leave out"] = "land"
    onto: str | None = None
    low: float | None = None
    high: float | None = None


class FindingKind(BaseModel):
    """A kind of finding that lists of lanes can be filtered by."""

    name: str
    called: str


class Standing(BaseModel):
    """Where a session stands, and all of it that steps can change as a whole."""

    revision: int
    name: str
    precedence: str
    undo: str | None
    redo: str | None
    activity: dict[str, list[int]] = Field(description="For each ink of lanes, how many points stand in each bar.")
    matches: list[MatchIO] = Field(description="Decisions of the match table, remembered for pairs of tracks.")
    damaged: list[str] = Field(description="In words, lanes that are damaged in the database and were left out.")


class PastOut(BaseModel):
    """Which session a state is of, at which revision, and what that is marked as."""

    of: int
    revision: int
    mark: str


class SessionOut(Standing):
    """Everything the screen needs to draw a session but its curves, or those of its first strips alone."""

    id: int
    length: float
    bars: list[Bar]
    clock: list[Tock]
    tracks: list[TrackOut]
    lanes: list[LaneOut]
    speaking: dict[str, list[Speaks]] = Field(description="For each parameter with lanes, which of them is heard when.")
    linked: LinkedOut
    markers: list[MarkerOut]
    notes: list[NoteOut]
    alternatives: list[AlternativeOut]
    past: PastOut | None = Field(description="Where this is a session as it was: which, and when.")
    kinds: list[FindingKind]
    opening: OpeningOut
    bench: Bench
    first: FirstStrips | None = Field(description="What the first strips show, where that was asked for.")
    report: ReportOut
    source: str = Field(description="The name of the file it came from, where it can be written back into that.")


class Stepped(Standing):
    """What a step has changed: everything else is as it was."""

    title: str | None = None
    in_book: int | None = Field(None, description="The phrase of the book that a step taken back has left there.")
    tracks: list[TrackOut]
    track_order: list[str] | None = Field(description="All tracks in their order, where that has changed.")
    lanes: list[LaneOut]
    gone: list[str] = Field(description="Lanes that are no longer there.")
    order: list[str] | None = Field(description="All lanes in their order, where that has changed.")
    speaking: dict[str, list[Speaks]]
    linked: LinkedOut | None = Field(description="All phrases and places, where they are others or elsewhere.")
    markers: list[MarkerOut] | None = Field(description="All markers, where some are others or elsewhere.")
    notes: list[NoteOut] | None = Field(description="All notes, where some are others, or on what comes or goes.")
    alternatives: list[AlternativeOut] | None = Field(description="All alternatives, where some are others or used.")
    redrawn: Annotated[list[str], Field(description="Lanes whose curves are others than before.")]
    heard: Annotated[list[str], Field(description="Parameters that may be heard otherwise than before.")]


def session_out(id: int, first: bool = False) -> SessionOut:
    """Everything but the curves, as one moment's rows say it; if asked for, with those of the first strips."""
    with snapshot():
        now = sessions.opened(id)
        standing = _standing(now)
        changed = history.last_changes(now.row)
        bench = Bench(**benches.kept(now.row))
        source = sources.name_of(now.row)
        was = _past_of(now)
    session = now.session
    used = dict.fromkeys(lane.parameter for lane in session.lanes)
    opening = opening_out(session)
    return SessionOut(
        **standing,
        id=id,
        length=beats_of(session.length),
        bars=[
            Bar(number=n, beat=beats_of(t), count=m.count, unit=m.unit)
            for n, t, m in session.tempo.bar_starts(session.length)
        ],
        clock=[Tock(beat=beats_of(t), seconds=x) for t, x in session.tempo.clock(session.length)],
        tracks=[track_out(session, t) for t in session.tracks],
        lanes=_lanes_out(session, session.lanes, changed),
        speaking={p: speaking_out(session, p) for p in used},
        linked=linked_out(session),
        markers=markers_out(session),
        notes=notes_out(session),
        alternatives=alternatives_out(session),
        past=was,
        kinds=[FindingKind(name=k.name, called=k.called) for k in KINDS.values() if k.of_lanes],
        opening=opening,
        bench=bench,
        first=first_strips(session, bench, opening) if first else None,
        report=now.row.report,
        source=source,
    )


def stepped_out(step: Step, title: str | None = None) -> Stepped:
    """What a step along the history has changed."""
    before, session = step.before, step.after.session
    lanes, tracks = swaps_between(before, session)
    touched = _touched(before, session, lanes, tracks)
    redrawn_lanes = [x for p in touched for x in session.lanes_of(p)]
    with snapshot():
        standing = _standing(step.after)
        changed = history.last_changes(step.after.row, [x.id for x in redrawn_lanes])
    homes = {session.track_of_region(s.after.home).id for s in lanes if s.after and not s.after.on_track}
    homes |= {before.track_of_region(s.before.home).id for s in lanes if s.before and not s.before.on_track}
    redrawn_tracks = {s.id for s in tracks} | homes
    ids = [lane.id for lane in session.lanes]
    track_ids = [track.id for track in session.tracks]
    return Stepped(
        **standing,
        title=title,
        in_book=left.pk if step.taken_back and (left := book.kept_by(step.taken_back)) else None,
        tracks=[track_out(session, t) for t in session.tracks if t.id in redrawn_tracks],
        track_order=None if track_ids == [track.id for track in before.tracks] else track_ids,
        lanes=_lanes_out(session, redrawn_lanes, changed),
        gone=[s.id for s in lanes if s.after is None],
        order=None if ids == [lane.id for lane in before.lanes] else ids,
        speaking={p: speaking_out(session, p) for p in touched},
        linked=linked_out(session) if _linked_otherwise(before, session, bool(tracks)) else None,
        markers=None if before.markers == session.markers else markers_out(session),
        notes=None if notes_out(before) == notes_out(session) else notes_out(session),
        alternatives=None if alternatives_out(before) == alternatives_out(session) else alternatives_out(session),
        redrawn=[*dict.fromkeys([s.id for s in lanes if s.after] + _moved(before, session, touched))],
        heard=_with_members(session, touched),
    )


def _linked_otherwise(before: Session, session: Session, tracks: bool) -> bool:
    """Whether phrases or places are others than before, or lie elsewhere as their regions moved."""
    same = before.phrases == session.phrases and before.placements == session.placements
    return not same or (tracks and any(one.home != ON_THE_TRACK for one in session.placements))


def _past_of(now: Opened) -> PastOut | None:
    if now.row.past is None:
        return None
    return PastOut(of=now.row.pk, revision=now.row.head, mark=logbook.marked_name(now.row, now.row.head))


def _standing(now: Opened) -> dict[str, Any]:
    undo, redo = history.next_titles(now.row) if now.row.past is None else (None, None)
    return {
        "revision": now.row.head,
        "name": now.row.name,
        "precedence": now.session.precedence.value,
        "undo": undo,
        "redo": redo,
        "activity": {ink: n.tolist() for ink, n in activity(now.session, _bar_edges(now.session)).items()},
        "matches": [MatchIO(**m) for m in remembered.matches(now.row, now.session)],
        "damaged": list(now.damaged),
    }


def _bar_edges(session: Session) -> Ticks:
    starts = [tick for _, tick, _ in session.tempo.bar_starts(session.length)]
    return np.array([*starts, session.length], dtype=np.int64)


def _lanes_out(session: Session, lanes: Iterable[Lane], changed: dict[str, int]) -> list[LaneOut]:
    some = list(lanes)
    found = findings_of_lanes(session, dict.fromkeys(x.parameter for x in some))
    return [lane_out(session, x, changed.get(x.id, 0), found.get(x.id, [])) for x in some]


def _touched(before: Session, session: Session, lanes: Iterable[LaneSwap], tracks: Iterable[TrackSwap]) -> list[str]:
    """The parameters of which something is otherwise than before: lanes, what lies on their track, or which lane wins."""
    if before.precedence is not session.precedence:
        return [*dict.fromkeys(x.parameter for x in session.lanes)]
    known = {p.id for t in session.tracks for p in t.parameters}
    found = dict.fromkeys(s.parameter for s in lanes)
    found |= dict.fromkeys(p.id for s in tracks for p in s.track.parameters)
    return [p for p in found if p in known]


def _moved(before: Session, session: Session, touched: list[str]) -> list[str]:
    """Lanes that are the same but lie elsewhere, as their region moved."""
    known = {lane.id for lane in before.lanes}
    lanes = [x for p in touched for x in session.lanes_of(p) if not x.on_track and x.id in known]
    return [x.id for x in lanes if before.span(before.lane(x.id)) != session.span(x)]


def _with_members(session: Session, touched: list[str]) -> list[str]:
    """The parameters, and the levels of all tracks below the group faders among them."""
    faders = {session.owner(p).id for p in touched if session.parameter(p).family is Family.LEVEL}
    below = [t for t in session.tracks if any(g.id in faders for g in groups_above(session, t.id))]
    members = (p.id for t in below for p in t.parameters if p.family is Family.LEVEL)
    return [*dict.fromkeys([*touched, *members])]


def line_text(listed: Listed) -> str:
    """A session's line on the start page as JSON: the summary kept with it goes as it is."""
    own = {"id": listed.id, "name": listed.name, "changed": listed.changed.isoformat()}
    return f"{json.dumps(own)[:-1]}, {listed.summary[1:]}"
