"""Regions chosen for a verb: found, put in order, and named."""

from __future__ import annotations

from velmot.core.errors import RequestError
from velmot.core.limits import LONGEST_NAME
from velmot.core.session.session import Region, Session, Track
from velmot.core.session.wording import named

Chosen = list[tuple[Track, Region]]
"""Tracks and their chosen regions, by start, then as listed."""


def regions_of(session: Session, ids: tuple[str, ...]) -> Chosen:
    """The regions and their tracks, by start, then as listed; RequestError for none or unknown ones."""
    if not ids:
        raise RequestError("regions-none", "no region is chosen", place="regions", accepted="at least one region")
    found = [(session.track_of_region(id), session.region(id)) for id in dict.fromkeys(ids)]
    return sorted(found, key=lambda pair: (pair[1].start, session.region_order(pair[1].id)))


def names_of(regions: Chosen) -> str:
    """“toll 1” or “3 regions”."""
    return named([region.name for _, region in regions], "region")


def checked_name(name: str, noun: str) -> str:
    """A name without air around it; RequestError for none or a very long one."""
    if not 0 < len(name.strip()) <= LONGEST_NAME:
        said = f"a {noun} needs a name"
        raise RequestError("name", said, place="name", accepted=f"1 to {LONGEST_NAME} characters")
    return name.strip()
