"""Regions chosen for a verb: found, put in order, and named."""

from __future__ import annotations

from velmot.core.session.session import Session
from velmot.core.session.track import Region, Track
from velmot.core.session.wording import named
from velmot.core.verbs.frame.checks import need

Chosen = list[tuple[Track, Region]]
"""Tracks and their chosen regions, by start, then as listed."""


def regions_of(session: Session, ids: tuple[str, ...]) -> Chosen:
    """The regions and their tracks, by start, then as listed; RequestError for none or unknown ones."""
    need(ids, "region")
    found = [(session.track_of_region(id), session.region(id)) for id in dict.fromkeys(ids)]
    return sorted(found, key=lambda pair: (pair[1].start, session.region_order(pair[1].id)))


def names_of(regions: Chosen) -> str:
    """“toll 1” or “3 regions”."""
    return named([region.name for _, region in regions], "region")
