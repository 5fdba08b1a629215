"""Bring back: what was at an earlier revision, all of it or in part, as one new step; what came after it stays in the log."""

from __future__ import annotations

from collections.abc import Iterable
from dataclasses import replace

from velmot.core.errors import RequestError
from velmot.core.session.alternatives import Alternative, Span, kept_aside, standing_as
from velmot.core.session.phrases import Placement
from velmot.core.session.session import Session
from velmot.core.session.track import Track
from velmot.core.session.wording import parameter_name
from velmot.core.verbs.alternatives.chosen import places_of, ramp_of, said_of
from velmot.core.verbs.alternatives.laying import lay_range
from velmot.core.verbs.alternatives.request import BringBack
from velmot.core.verbs.frame import telling as tell
from velmot.core.verbs.frame.between import change_to
from velmot.core.verbs.frame.change import Caution, Change, PlacementSwap, caution
from velmot.core.verbs.frame.checks import need_range
from velmot.core.verbs.frame.operation import Operation
from velmot.core.verbs.frame.taking import put_whole
from velmot.core.verbs.frame.working_copy import WorkingCopy


def plan(session: Session, request: BringBack, then: Session) -> Change:
    """The change that brings it back. RequestError for what was not there then."""
    need_range(request.start, request.end)
    span = None if request.start is None or request.end is None else (request.start, min(request.end, session.length))
    if span and span[0] >= span[1]:
        where = str(session.tempo.position(session.length))
        raise RequestError("range-beyond", where=where, place="start", accepted="a range in the session")
    ramp = ramp_of(request)
    if request.all_of_it:
        return change_to(session, replace(then, name=session.name))
    said: list[Caution] = []
    after = session
    if request.tracks and not span:
        for id in dict.fromkeys(request.tracks):
            after, some = _with_track(after, then, id)
            said += some
    parameters = _parameters(after, then, request, span)
    return _with_parameters(session, after, then, parameters, span, ramp, said)


def _parameters(now: Session, then: Session, request: BringBack, span: Span | None) -> list[str]:
    """The parameters whose lanes are brought back; over a range alone those of all tracks, or of some."""
    for id in request.parameters:
        now.parameter(id)
        then.parameter(id)
    if span is None:
        return list(dict.fromkeys(request.parameters))
    tracks = set(request.tracks) if request.tracks or request.parameters else {t.id for t in now.tracks}
    of_tracks = [p.id for t in now.tracks if t.id in tracks for p in t.parameters if then.there("parameter", p.id)]
    moved = [id for id in of_tracks if now.lanes_of(id) or then.lanes_of(id)]
    return list(dict.fromkeys((*request.parameters, *moved)))


def _with_parameters(
    session: Session,
    after: Session,
    then: Session,
    parameters: Iterable[str],
    span: Span | None,
    ramp: int,
    said: list[Caution],
) -> Change:
    """The change to a state in which parameters do what they did then, whole or over a range."""
    work, places = WorkingCopy(after), list[PlacementSwap]()
    for id in parameters:
        one = kept_aside(then, id, "", "")
        was = standing_as(after, one, follow=False)
        named = replace(one, name=parameter_name(then, id))
        work.cautions += said_of(after, named, was, span or (0, after.length))
        if span:
            places += lay_range(work, one, was, span, ramp)
        else:
            put_whole(work, id, was.lanes, {home: len(spans) for home, spans in was.limited.items()})
            places += places_of(after, one, was)
    if after is session:
        return replace(work.change(), placements=tuple(places))
    made = Change(work.lane_swaps(), work.track_swaps(), placements=tuple(places))
    return change_to(session, made.unchecked_on(after), (*said, *work.cautions))


def _with_track(now: Session, then: Session, id: str) -> tuple[Session, list[Caution]]:
    """The session with one track as it was then, its regions, devices, parameters and lanes; and what is to be said of it."""
    track, said = then.track(id), list[Caution]()
    gone = [p.id for t in now.tracks if t.id == id for p in t.parameters]
    own = [p.id for p in track.parameters]
    kept = _without_what_is_gone(now, track)
    there = now.there("track", id)
    tracks = tuple(kept if t.id == id else t for t in now.tracks) + (() if there else (kept,))
    ids = {(lane.parameter, lane.home): lane.id for lane in now.lanes}
    taken = {lane.id for lane in now.lanes if lane.parameter not in gone}
    lanes = [lane for lane in now.lanes if lane.parameter not in {*gone, *own}]
    free = (x for x in now.new_ids("lane") if not then.there("lane", x))
    for lane in then.lanes:
        if lane.parameter in own:
            name = ids.get((lane.parameter, lane.home), lane.id)
            lanes.append(replace(lane, id=next(free) if name in taken else name))
    state = replace(now, tracks=tracks, lanes=tuple(lanes), placements=())
    places = [x for x in now.placements if x.parameter not in {*gone, *own}]
    coming, freed = _honest(state, [x for x in then.placements if x.parameter in own])
    others = {x.id for x in places}
    new = now.new_ids("place")
    places += [replace(x, id=next(new)) if x.id in others else x for x in coming]
    if freed:
        said.append(caution("alternative-freed", name=track.name, count=freed, track=track.id))
    return replace(state, placements=tuple(places)), said


def _without_what_is_gone(now: Session, track: Track) -> Track:
    """A track that names no other that is gone by now, as a member or as where a send goes."""
    known = {t.id for t in now.tracks} | {track.id}
    parameters = tuple(
        p if p.target is None or p.target in known else replace(p, target=None) for p in track.parameters
    )
    return replace(track, parameters=parameters, members=tuple(m for m in track.members if m in known))


def _honest(state: Session, places: Iterable[Placement]) -> tuple[list[Placement], int]:
    """The places whose phrases say just what their lanes do, and how many do not hold any more."""
    by_parameter: dict[str, list[Placement]] = {}
    for one in places:
        by_parameter.setdefault(one.parameter, []).append(one)
    kept, freed = list[Placement](), 0
    for id, some in by_parameter.items():
        was = Alternative("", "", id, tuple(state.lanes_of(id)), tuple(some))
        now = standing_as(state, was, follow=False)
        kept += now.places
        freed += len(now.freed)
    return kept, freed


def sentence(session: Session, request: BringBack) -> tell.Told:
    """“Bring back Keeper Level from 9.1.00 to 13.1.00 as it was at revision 12.”"""
    revision = f"revision {request.revision}"
    whole = request.start is None or request.end is None
    if request.all_of_it:
        return tell.told("Go back to {revision}.", revision=revision)
    named = [id for id in request.tracks if session.there("track", id)]
    said: dict[str, str | tell.Asked] = {"revision": revision}
    what = []
    if request.tracks:
        more = len(request.tracks) - len(named)
        said["tracks"] = tell.tracks(session, named) if not more else f"{len(request.tracks)} tracks"
        what.append("{tracks}")
    if request.parameters:
        said["parameters"] = tell.parameters(session, request.parameters)
        what.append("{parameters}")
    if whole:
        return tell.told(f"Bring back {' and '.join(what)} as at {{revision}}.", **said)
    said |= {"start": tell.position(session, request.start), "end": tell.position(session, request.end)}
    return tell.told(
        f"Bring back {' and '.join(what) or 'everything'} from {{start}} to {{end}} as at {{revision}}.", **said
    )


OPERATION = Operation("bring back", BringBack, plan, sentence, "linking", of_places=True, of_past=True)
