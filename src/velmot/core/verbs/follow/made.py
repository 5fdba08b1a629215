"""How a lane was made by following: its request, what the source was, and the gain that was added; for making it anew."""

from __future__ import annotations

import json
from dataclasses import asdict, fields, replace
from typing import Any

from velmot.core.curves.envelope import Envelope
from velmot.core.curves.segments import HOLD
from velmot.core.session.session import Session
from velmot.core.session.track import Lane
from velmot.core.time.ticks import Tick
from velmot.core.verbs.follow.request import Follow, FollowOn
from velmot.core.verbs.follow.sources import digest_of
from velmot.core.verbs.frame.working_copy import WorkingCopy
from velmot.core.verbs.thin.request import Within

KEY = "followed"
"""The key it stands under among what a lane holds beside its points."""


def remembered_as(work: WorkingCopy, request: Follow, target: FollowOn, gain: Envelope | None) -> None:
    """Let a lane that was written know how."""
    session = work.session
    lane = session.lane_at(target.parameter, target.home)
    extra = tuple(pair for pair in (lane.extra if lane else ()) if pair[0] != KEY)
    row: dict[str, Any] = {
        "request": asdict(replace(request, targets=(target,))),
        "source": digest_of(session, request),
    }
    if gain is not None and not request.instead:
        row["gain"] = [[int(t), float(v), None if b == HOLD else float(b)] for t, v, b in gain.points()]
    work.remember_at(target.parameter, target.home, (*extra, (KEY, json.dumps(row))))


def how_made(lane: Lane) -> tuple[Follow, str, Envelope | None] | None:
    """(the request, the source's digest, the gain that was added) of a lane that was made by following; None for others."""
    text = dict(lane.extra).get(KEY)
    if text is None:
        return None
    try:
        row = json.loads(text)
        said = row["request"]
        targets = tuple(FollowOn(**t) for t in said["targets"])
        within = tuple(Within(**w) for w in said["within"])
        own = {f.name: said[f.name] for f in fields(Follow) if f.name in said}
        for name in ("start", "end", "delay", "grid"):
            own[name] = None if own.get(name) is None else Tick(own[name])
        request = Follow(**(own | {"targets": targets, "within": within, "tracks": tuple(said["tracks"])}))
        gain = row.get("gain")
        curve = None
        if gain:
            curve = Envelope.of([(t, v, HOLD if b is None else b) for t, v, b in gain], lane.envelope.axis)
        return request, str(row["source"]), curve
    except (KeyError, TypeError, ValueError, LookupError):  # a file may say anything there
        return None


def is_stale(session: Session, lane: Lane) -> bool:
    """Whether what a lane was made after is otherwise by now."""
    made = how_made(lane)
    if made is None:
        return False
    request, digest, _ = made
    known = all(session.there("track", id) for id in request.tracks)
    if not known or (request.source is not None and not session.there("parameter", request.source)):
        return False
    return digest_of(session, request) != digest
