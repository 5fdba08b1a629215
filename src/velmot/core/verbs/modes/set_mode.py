"""Set the automation mode of tracks: whether their lanes are heard at all, and how a ride on them writes."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import replace

from velmot.core.curves.difference import SAME, differing_span, largest_difference
from velmot.core.parameters.parameter import Family
from velmot.core.session.above import groups_above
from velmot.core.session.heard import heard
from velmot.core.session.session import Session
from velmot.core.session.track import Mode, Track
from velmot.core.session.wording import listed
from velmot.core.verbs.frame import telling as tell
from velmot.core.verbs.frame.change import Caution, Change, LaneChange, TrackSwap, caution
from velmot.core.verbs.frame.heard_change import shown_as_heard
from velmot.core.verbs.frame.operation import Operation
from velmot.core.verbs.modes.request import SetMode
from velmot.core.words import Figure


def plan(session: Session, request: SetMode) -> Change:
    """The tracks in another mode, with every parameter of theirs that would be heard differently, and by how much."""
    wanted = Mode(request.mode)
    before = [session.track(id) for id in dict.fromkeys(request.tracks)]
    modes = {t.id: replace(t, mode=wanted) for t in before if t.mode is not wanted}
    swaps = tuple(TrackSwap(t, modes[t.id]) for t in before if t.id in modes)
    if not swaps:
        names = listed([t.name for t in before], "track") or "Nothing"
        return Change(cautions=(caution("no-change/mode", name=names, mode=wanted.value),))
    after = session.with_tracks(modes.get(t.id, t) for t in session.tracks)
    switched = [t for t in before if t.reads != (wanted is not Mode.OFF)]
    touched = tuple(x for t in switched for x in _heard_differently(session, after, t))
    cautions = tuple(c for t in switched for c in _members_heard(session, after, t))
    return Change((), swaps, touched, cautions)


def _heard_differently(session: Session, after: Session, track: Track) -> Iterator[LaneChange]:
    """What of a track would be heard differently, parameter by parameter, from its first difference to its last."""
    for parameter in track.parameters:
        lanes = session.lanes_of(parameter.id)
        if not lanes:
            continue
        was, now = (heard(s, parameter.id, groups=False).envelope for s in (session, after))
        span = differing_span(was, now, 0, session.length)
        if span is None:
            continue
        yield shown_as_heard(session, after, parameter.id, span, was, now)


def _members_heard(session: Session, after: Session, track: Track) -> Iterator[Caution]:
    """That the members of a group are heard differently, how many, and by how much at most."""
    found = []
    under = [t for t in session.tracks if track.id in {g.id for g in groups_above(session, t.id)}]
    for parameter in (p for t in under for p in t.parameters if p.family is Family.LEVEL):
        was, now = (heard(s, parameter.id).envelope for s in (session, after))
        far, at = largest_difference(was, now, 0, session.length)
        if far > SAME:
            found.append((far, at, parameter))
    if found:
        far, at, parameter = max(found, key=lambda x: x[0])
        said = {"name": track.name, "where": str(session.tempo.position(at))}
        amount = Figure(far, parameter.format_distance(far))
        yield caution("members-heard", said, count=len(found), far=amount, track=track.id, start=at)


def sentence(session: Session, request: SetMode) -> tell.Told:
    """“Set Kelp choir to read.”"""
    mode = "off: its lanes are not heard" if request.mode == "off" else request.mode
    return tell.told("Set {tracks} to {mode}.", tracks=tell.tracks(session, request.tracks), mode=mode)


OPERATION = Operation("set mode", SetMode, plan, sentence, "moving")
