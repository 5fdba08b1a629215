"""Embed: a track's automation becomes its regions' own, with nothing heard differently."""

from __future__ import annotations

from functools import lru_cache

import numpy as np

from velmot.core.curves import editing
from velmot.core.curves.spans import outside, runs
from velmot.core.errors import RequestError
from velmot.core.parameters.parameter import Parameter
from velmot.core.remedy import Remedy
from velmot.core.session.heard import Heard, heard, reading
from velmot.core.session.session import Session
from velmot.core.session.track import ON_THE_TRACK, Precedence, Region, Track
from velmot.core.verbs.frame import cautions as say
from velmot.core.verbs.frame import telling as tell
from velmot.core.verbs.frame.change import Caution, Change
from velmot.core.verbs.frame.chosen_regions import names_of, regions_of
from velmot.core.verbs.frame.heard_alike import change_heard_alike, sounding
from velmot.core.verbs.frame.operation import Operation
from velmot.core.verbs.frame.working_copy import WorkingCopy
from velmot.core.verbs.regions.request import Embed, SetPrecedence


def plan(session: Session, request: Embed) -> Change:
    """Each region takes over what was heard in its span; in the gaps the track's lanes stay as they are."""
    regions = regions_of(session, request.regions)
    after, cautions = embed_into(session, regions, request.parameters)
    otherwise = (
        f"no track lane of these parameters runs where {names_of(regions)} {'lies' if len(regions) == 1 else 'lie'}"
    )
    return change_heard_alike(session, after, cautions, otherwise)


def embed_into(
    session: Session, regions: list[tuple[Track, Region]], parameters: tuple[str, ...], keep_under: bool = False
) -> tuple[Session, list[Caution]]:
    """The session with track lanes embedded in regions, and what could not be.

    Under the regions the track's lanes are laid straight, unless `keep_under`. Raises RequestError
    where the track's lane wins in this session, as it would be heard all the same.
    """
    if session.precedence is Precedence.TRACK:
        raise RequestError(
            "precedence-track",
            place="regions",
            accepted="the precedence region, which can be switched first",
            remedy=Remedy("let region lanes win first", step=SetPrecedence("region")),
        )
    work = WorkingCopy(session)
    heard_in = {r.id for r in sounding([r for _, r in regions], work.cautions, "embed")}
    for track in dict.fromkeys(t.id for t, _ in regions):
        mine = [r for t, r in regions if t.id == track and r.id in heard_in]
        for parameter in session.track(track).parameters:
            if (not parameters or parameter.id in parameters) and session.lane_at(parameter.id):
                _embed(work, parameter, mine, keep_under)
    return work.after(), work.cautions


def _embed(work: WorkingCopy, parameter: Parameter, regions: list[Region], keep_under: bool) -> None:
    session = work.session
    now = heard(reading(session), parameter.id, groups=False)
    chosen = [r for r in regions if _can(work, now, parameter, r)]
    if not chosen:
        return
    spans = [(r.start, r.end) for r in chosen]
    cut = now.envelope.reaching(np.array(spans).ravel())
    pieces = editing.slices(cut, spans)
    for region, piece in zip(chosen, pieces, strict=True):
        work.write(parameter.id, region.id, piece)
    if not keep_under:
        own = work.curve(parameter)
        below = editing.straightened(cut if own is now.envelope else own, runs_of(chosen), parameter.holds_only)
        work.write(parameter.id, ON_THE_TRACK, below)


def _can(work: WorkingCopy, now: Heard, parameter: Parameter, region: Region) -> bool:
    """Whether the track's lane can be embedded in a region; if not, a caution says why."""
    session = work.session
    if session.lane_at(parameter.id, region.id):
        kind = "not-embedded/own"
    elif _covered(now, region):
        kind = "not-embedded/covered"
    else:
        return True
    work.cautions.append(say.about_region(kind, region, said={"parameter": parameter.name}))
    return False


def _covered(now: Heard, region: Region) -> bool:
    """Whether other regions' lanes are heard in all of a region's span."""
    others = [(a - region.start, b - region.start) for a, b, _, _ in now.spans if a < region.end and region.start < b]
    return bool(others) and not outside(others, region.length)


def runs_of(regions: list[Region]) -> list[tuple[int, int]]:
    """The spans of regions, those that touch or overlap as one."""
    return list(_runs(tuple(sorted((region.start, region.end) for region in regions))))


@lru_cache(maxsize=4)
def _runs(spans: tuple[tuple[int, int], ...]) -> tuple[tuple[int, int], ...]:
    """Asked for every parameter of a track, with the same spans each time."""
    return tuple(runs(spans))


def sentence(session: Session, request: Embed) -> tell.Told:
    """“Embed all parameters into toll 2.”"""
    what = tell.parameters(session, request.parameters) if request.parameters else "all parameters"
    return tell.told(
        "Embed {parameters} into {regions}.", parameters=what, regions=tell.regions(session, request.regions)
    )


OPERATION = Operation("embed", Embed, plan, sentence, "promising")
