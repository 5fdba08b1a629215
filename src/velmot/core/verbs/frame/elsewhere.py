"""What a change does to what is heard outside the spans it names: found by comparing, and said."""

from __future__ import annotations

from collections.abc import Iterable
from dataclasses import replace

from velmot.core.curves.difference import SAME, largest_difference
from velmot.core.curves.envelope import Envelope
from velmot.core.curves.spans import outside
from velmot.core.remedy import Remedy
from velmot.core.session.heard import heard, reading
from velmot.core.session.session import Session
from velmot.core.session.track import Precedence, Track
from velmot.core.verbs.frame.change import HEARD, Caution, Change, caution
from velmot.core.verbs.regions.request import SetPrecedence
from velmot.core.words import Figure


def with_elsewhere(session: Session, change: Change) -> Change:
    """The change with a caution for everything heard differently where it does not say so.

    What promises to leave everything alone has measured that itself, but for what else tracks let be heard that are set
    to read; and a new precedence shows all it changes.
    """
    if change.precedence or change.empty:
        return change
    said = [*_switched_on(session, change)]
    if not change.heard:
        said = [*_resting(change), *_elsewhere(session, change), *said]
    return replace(change, cautions=(*change.cautions, *said)) if said else change


def _elsewhere(session: Session, change: Change) -> Iterable[Caution]:
    parameters = {t.parameter: t for t in change.touched}
    layered = _layered(session, change)
    if not layered:
        return
    after = reading(_only(session, change, [p for p in parameters if p in layered]))
    able = [p for p in parameters if p in layered and _known(after, p)]  # what goes is heard nowhere
    before = reading(session)
    for parameter in able:
        known, touched = _known(session, parameter), parameters[parameter]
        if touched.home == HEARD:  # worked out already, to be shown
            was, now = touched.before, touched.after
        else:
            was = heard(before, parameter, groups=False).envelope if known else _resting_curve(after, parameter)
            now = heard(after, parameter, groups=False).envelope
        far, at = _largest_outside(was, now, change, parameter, session.length)
        if far > SAME:
            yield _caution(session, after, change, parameter, far, at)


def _layered(session: Session, change: Change) -> set[str]:
    """The parameters of a change with a lane in a region before or after: where no lane lies over another, what a verb
    does to the track's own lane is all that is heard.
    """
    swapped = {x.parameter for s in change.lanes for x in (s.before, s.after) if x is not None and not x.on_track}
    there = {t.parameter for t in change.touched if any(not x.on_track for x in session.lanes_of(t.parameter))}
    return swapped | there


def _known(session: Session, parameter: str) -> bool:
    return parameter in session._parameters


def _only(session: Session, change: Change, parameters: list[str]) -> Session:
    """The session after the change, with nothing but the lanes of some parameters."""
    wanted = set(parameters)
    few = session.with_lanes(lane for p in parameters if _known(session, p) for lane in session.lanes_of(p))
    lanes = tuple(s for s in change.lanes if s.parameter in wanted)
    return replace(change, lanes=lanes).unchecked_on(few)


def _resting_curve(session: Session, parameter: str) -> Envelope:
    p = session.parameter(parameter)
    return Envelope.constant(p.value, p.axis)


def _largest_outside(was: Envelope, now: Envelope, change: Change, parameter: str, length: int) -> tuple[float, int]:
    """The largest difference at any tick outside the spans a change names, and that tick."""
    worst, where = 0.0, 0
    for start, end in outside(change.spans_of(parameter), length):
        far, at = _largest_inside(was, now, start, end)
        if far > worst:
            worst, where = far, at
    return worst, where


def _largest_inside(was: Envelope, now: Envelope, start: int, end: int) -> tuple[float, int]:
    """The largest difference at any tick of ``[start, end)``: what stands at the end belongs to what comes after."""
    last = abs(float(was.coordinate_at(end - 1) - now.coordinate_at(end - 1))), end - 1
    return max(largest_difference(was, now, start, end - 1), last) if end - 1 > start else last


def _caution(session: Session, after: Session, change: Change, parameter: str, far: float, at: int) -> Caution:
    p, owner = after.parameter(parameter), after.owner(parameter)
    because = ""
    if change.because:
        because = f": {change.because}"
    elif change.spans_of(parameter):
        because = ", outside what this step names"
    said = {"name": f"{owner.name} {p.name}", "where": str(session.tempo.position(at)), "because": because}
    amount, remedy = Figure(far, p.format_distance(far)), _remedy(session, change, parameter)
    return caution("heard-elsewhere", said, far=amount, track=owner.id, start=at, remedy=remedy)


def _remedy(session: Session, change: Change, parameter: str) -> Remedy | None:
    """A first lane on the track silences all its regions' where the track wins; that can be switched first."""
    makes = any(
        s.before is None and s.after and s.after.parameter == parameter and s.after.on_track for s in change.lanes
    )
    if makes and session.precedence is Precedence.TRACK:
        return Remedy("let region lanes win first", step=SetPrecedence("region"))
    return None


def _resting(change: Change) -> Iterable[Caution]:
    """Static values that change: they are heard wherever no lane speaks."""
    for swap in change.tracks:
        before = {p.id: p for p in swap.before.parameters} if swap.before else {}
        for p in swap.after.parameters if swap.after else ():
            was = before.get(p.id)
            if was is not None and was.value != p.value:
                now, then = (Figure(x.value, p.format(x.value)) for x in (p, was))
                yield caution("rests", name=f"{swap.track.name} {p.name}", now=now, was=then, track=swap.id)


def _switched_on(session: Session, change: Change) -> Iterable[Caution]:
    """Tracks that are switched to read let all their other lanes be heard as well."""
    on = [s.after for s in change.tracks if s.before and s.after and s.after.reads and not s.before.reads]
    for track in on:
        parameters = [p.id for p in track.parameters if _known(session, p.id) and session.lanes_of(p.id)]
        if not parameters:
            continue
        after = _only(session, change, parameters)
        if said := _others_heard(session, after, change, track, parameters):
            yield said


def _others_heard(
    session: Session, after: Session, change: Change, track: Track, parameters: list[str]
) -> Caution | None:
    found = []
    for parameter in parameters:
        was, now = (heard(s, parameter, groups=False).envelope for s in (session, after))
        far, at = _largest_outside(was, now, change, parameter, session.length)
        if far > SAME:
            found.append((after.parameter(parameter), far, at))
    if not found:
        return None
    p, far, at = max(
        found,
        key=lambda row: row[1] / (float(row[0].axis.coordinate(row[0].high) - row[0].axis.coordinate(row[0].low))),
    )
    more = "" if len(found) == 1 else f" and {len(found) - 1} more"
    said = {"name": track.name, "what": f"{p.name}{more}", "where": str(session.tempo.position(at))}
    amount = Figure(far, p.format_distance(far))
    return caution("heard-elsewhere/reads", said, far=amount, track=track.id, start=at)
