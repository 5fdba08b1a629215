"""Changes that promise to leave what is heard as it is: the promise is measured, not assumed."""

from __future__ import annotations

from collections.abc import Iterable

from velmot.core.curves.difference import SAME, differing_span, largest_difference
from velmot.core.errors import RequestError
from velmot.core.remedy import Remedy
from velmot.core.session.heard import heard, reading
from velmot.core.session.session import Session
from velmot.core.session.track import Region
from velmot.core.session.wording import is_or_are, named, parameter_name
from velmot.core.verbs.frame.change import Caution, Change, HeardFigure, LaneChange, LaneSwap, caution, lane_change
from velmot.core.verbs.frame.heard_change import swaps_between
from velmot.core.verbs.regions.request import ChangeRegions


def change_heard_alike(before: Session, after: Session, cautions: Iterable[Caution], otherwise: str) -> Change:
    """The change from one session to the other, with the largest difference in what is heard, found by comparing.

    Raises RequestError, naming the place, if anything would be heard differently, or if nothing changes: for
    the reason of the first caution, or `otherwise`.
    """
    said = list(cautions)
    lanes, tracks = swaps_between(before, after)
    if not lanes:
        because, remedy = (said[0].message, said[0].remedy) if said else (otherwise, None)
        accepted = "regions and parameters for which it can be done"
        raise RequestError("nothing-to-do/because", because=because, place="regions", accepted=accepted, remedy=remedy)
    figures = [figure_of(before, after, p) for p in dict.fromkeys(s.parameter for s in lanes)]
    worst = max(figures, key=lambda f: f.largest)
    if worst.largest > SAME:
        name = parameter_name(after, worst.parameter)
        far = after.parameter(worst.parameter).format_distance(worst.largest)
        raise RequestError(
            "heard-differs/regions",
            name=name,
            far=far,
            where=str(after.tempo.position(worst.at)),
            place="regions",
            accepted="regions that do not overlap others",
        )
    touched = lane_changes(before, after, lanes)
    return Change(lanes, tracks, touched, tuple(dict.fromkeys(said)), heard=worst)


def sounding(regions: list[Region], cautions: list[Caution], what: str) -> list[Region]:
    """Of some regions those that are not muted; one caution for the others offers to let them sound, to do `what`."""
    muted = [r for r in regions if r.muted]
    if muted:
        name, them = named([r.name for r in muted], "region"), "it" if len(muted) == 1 else "them"
        are = is_or_are(len(muted))
        remedy = Remedy(f"unmute {name} first", step=ChangeRegions(tuple(r.id for r in muted), muted=False))
        start, end = min(r.start for r in muted), max(r.end for r in muted)
        said = {"name": name, "are": are, "them": them, "what": what}
        cautions.append(caution("muted/regions", said, start=start, end=end, remedy=remedy))
    return [r for r in regions if not r.muted]


def figure_of(before: Session, after: Session, parameter: str) -> HeardFigure:
    """How differently a parameter is heard, without group faders (they add the same to both)."""
    was, now = (heard(reading(s), parameter, groups=False).envelope for s in (before, after))
    return HeardFigure(parameter, *largest_difference(was, now, 0, before.length))


def lane_changes(before: Session, after: Session, lanes: tuple[LaneSwap, ...]) -> tuple[LaneChange, ...]:
    """The lanes, each over what of it changes; one that comes or goes over all of its span."""
    out = []
    for swap in lanes:
        start, end = (after if swap.after else before).span(swap.lane)
        if swap.before and swap.after:
            first, last = differing_span(swap.before.envelope, swap.after.envelope, 0, end - start) or (0, end - start)
            start, end = start + first, start + max(last, first + 1)
        out.append(lane_change(before, swap, (start, end), after=after))
    return tuple(out)


HARDLY = 0.01
"""Axis units up to which a difference in what is heard is none that is worth the word."""


def heard_text(session: Session, figure: HeardFigure) -> str:
    """The figure of a change that promises to leave what is heard as it is."""
    far = session.parameter(figure.parameter).format_distance(figure.largest)
    where = f"{parameter_name(session, figure.parameter)}, {session.tempo.position(figure.at)}"
    if figure.largest > HARDLY:
        return f"What is heard changes: {far} at most ({where})"
    return f"What is heard stays the same: {far} apart at most ({where})"
