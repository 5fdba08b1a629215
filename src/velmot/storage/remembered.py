"""Decisions of the match table, remembered for each pair of tracks."""

from __future__ import annotations

from typing import Any

from velmot.core.session.session import Session
from velmot.storage.models import RememberedMatches, StoredSession


def keep(row: StoredSession, session: Session, request: dict[str, Any]) -> None:
    """Remember what an applied carry decided; a parameter that went the usual way is remembered no more."""
    if request.get("verb") != "carry":
        return
    carried = {session.lane(id).parameter for id in request["lanes"]}
    given = {(m["parameter"], m["track"]): m for m in request.get("matches", [])}
    for source in dict.fromkeys(session.owner(session.lane(id).parameter).id for id in request["lanes"]):
        own = {p.id for p in session.track(source).parameters}
        for target in dict.fromkeys(request["targets"]):
            known = row.matches.filter(source=source, target=target).first()
            stay = [m for m in (known.matches if known else []) if m["parameter"] not in carried]
            new = [m for (p, t), m in given.items() if t == target and p in own & carried]
            if stay or new or known:
                values = {"matches": [*stay, *new]}
                RememberedMatches.objects.update_or_create(session=row, source=source, target=target, defaults=values)


def matches(row: StoredSession, session: Session) -> list[dict[str, Any]]:
    """Every decision remembered whose parameters and tracks are still there."""
    parameters = {p.id for t in session.tracks for p in t.parameters}
    tracks = {t.id for t in session.tracks}
    found = [m for pair in row.matches.all() for m in pair.matches]
    return [
        m
        for m in found
        if m["parameter"] in parameters and m["track"] in tracks and (m["onto"] is None or m["onto"] in parameters)
    ]
