"""How a lane was made by following: its request, what the source was, and the gain that was added; for making it anew."""

from __future__ import annotations

import json
from dataclasses import asdict, fields, replace
from functools import cache
from typing import Any, Literal, NamedTuple, get_args, get_origin, get_type_hints

from velmot.core.curves.envelope import Envelope
from velmot.core.curves.segments import HOLD
from velmot.core.errors import RequestError
from velmot.core.limits import LONGEST_NAME
from velmot.core.session.session import Session
from velmot.core.session.track import Lane
from velmot.core.time.ticks import MOST_TICKS, Tick
from velmot.core.verbs.follow.request import Follow, FollowOn
from velmot.core.verbs.follow.sources import digest_of
from velmot.core.verbs.frame.operation import home_span
from velmot.core.verbs.frame.working_copy import WorkingCopy
from velmot.core.verbs.thin.request import Within

KEY = "followed"
"""The key it stands under among what a lane holds beside its points."""


_MOST = 100


def remembered_as(work: WorkingCopy, request: Follow, target: FollowOn, gain: Envelope | None) -> None:
    """Let a lane that was written know how."""
    session = work.session
    zero = home_span(session, session.parameter(target.parameter), target.home)[0]
    lane = session.lane_at(target.parameter, target.home)
    extra = tuple(pair for pair in (lane.extra if lane else ()) if pair[0] != KEY)
    row: dict[str, Any] = {
        "request": asdict(replace(request, targets=(target,))),
        "source": digest_of(session, request),
        "zero": zero,
    }
    if gain is not None and not request.instead:
        row["gain"] = [[int(t), float(v), None if b == HOLD else float(b)] for t, v, b in gain.shift(-zero).points()]
    work.remember_at(target.parameter, target.home, (*extra, (KEY, json.dumps(row))))


class Made(NamedTuple):
    """How a lane was made: the request, as its home lies now; a digest of the source; the gain that was added, in the home's
    own time.
    """

    request: Follow
    source: str
    gain: Envelope | None


def how_made(session: Session, lane: Lane) -> Made | None:
    """How a lane was made by following; None for others."""
    text = dict(lane.extra).get(KEY)
    if not isinstance(text, str):
        return None
    try:
        row = json.loads(text, parse_constant=_no_number)
        said = row["request"]
        parts = {"targets": _each(FollowOn, said["targets"]), "within": _each(Within, said["within"])}
        request = _read(Follow, said | parts | {"tracks": tuple(said["tracks"])})
        (target,) = request.targets
        here, gain, curve = session.zero_of(lane), row.get("gain"), None
        zero = row.get("zero", here)
        if target.parameter != lane.parameter or type(zero) is not int:
            return None
        if gain:
            curve = Envelope.of([(t, v, HOLD if b is None else b) for t, v, b in gain], lane.envelope.axis)
            if "zero" not in row:  # the first lanes that followed kept it in the session's time, and no zero
                curve = curve.shift(-here)
        along = here - zero
        start, end = (None if x is None else Tick(max(x + along, 0)) for x in (request.start, request.end))
        asked = replace(request, start=start, end=end, targets=(replace(target, home=lane.home),))
        return Made(asked, str(row["source"]), curve)
    except (
        KeyError,
        TypeError,
        ValueError,
        LookupError,
        ArithmeticError,
        RecursionError,
    ):  # a file may say anything there
        return None


def _no_number(text: str) -> float:
    raise ValueError(text)


def _each(kind: type[Any], rows: Any) -> tuple[Any, ...]:
    return tuple(_read(kind, row) for row in rows)


def _read(kind: type[Any], row: dict[str, Any]) -> Any:
    """A request, or a part of one, of what a file says it was; ValueError for values that its fields cannot be."""
    known = {f.name: row[f.name] for f in fields(kind) if f.name in row}
    hints = _hints(kind)  # type: ignore[arg-type]
    for name, value in known.items():
        if not _fits(value, hints[name]):
            raise ValueError(name)
    return kind(**known)


@cache
def _hints(kind: type[Any]) -> dict[str, Any]:
    return get_type_hints(kind)


def _fits(value: Any, hint: Any) -> bool:
    """Whether a value is of a field's type, and no number out of all measure."""
    choices = get_args(hint)
    if get_origin(hint) is Literal:
        return value in choices
    if get_origin(hint) is tuple:
        return isinstance(value, tuple) and len(value) <= _MOST and all(_fits(x, choices[0]) for x in value)
    if choices:
        return any(_fits(value, one) for one in choices)
    if hint is Tick:
        return type(value) is int and abs(value) <= MOST_TICKS
    if hint is float:
        return type(value) in (int, float) and abs(value) <= 1e12
    return type(value) is hint and (hint is not str or len(value) <= LONGEST_NAME)


def is_stale(session: Session, lane: Lane) -> bool:
    """Whether what a lane was made after is otherwise by now."""
    made = how_made(session, lane)
    if made is None:
        return False
    request = made.request
    known = all(session.there("track", id) for id in request.tracks)
    if not known or (request.source is not None and not session.there("parameter", request.source)):
        return False
    try:
        return digest_of(session, request) != made.source
    except RequestError:  # what a file says it followed cannot be followed
        return False
