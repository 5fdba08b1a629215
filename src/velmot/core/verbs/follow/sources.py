"""The source of a follow, frame by frame: how loud some tracks are together, or what is heard of a parameter."""

from __future__ import annotations

from dataclasses import replace
from hashlib import blake2b

import numpy as np

from velmot.core.curves.followed import SILENT, Frames
from velmot.core.errors import RequestError
from velmot.core.parameters.parameter import Family, Parameter
from velmot.core.remedy import Remedy
from velmot.core.session.above import groups_above
from velmot.core.session.heard import heard, reading
from velmot.core.session.session import Session
from velmot.core.time.ticks import Floats
from velmot.core.verbs.follow.request import BY_THRESHOLD, Follow
from velmot.core.verbs.frame.sounding import Sounding

STEP = 0.001
"""Seconds of a frame."""

LONGEST = 3_600.0
"""Seconds that are followed at once."""

_SETTLED = 5.0
"""After how many of its times what came before a range is forgotten: 0.7 % are left, and it begins settled."""


def span_of(session: Session, request: Follow) -> tuple[int, int]:
    """The ticks of the range; RequestError where it is empty or longer than can be followed."""
    start = 0 if request.start is None else request.start
    end = session.length if request.end is None else min(request.end, session.length)
    if start >= end:
        where = str(session.tempo.position(session.length))
        raise RequestError("range-beyond", where=where, place="start", accepted="a range in the session")
    first, last = session.tempo.seconds(np.array([start, end])).tolist()
    if last - first > LONGEST:
        raise RequestError("follow-long", minutes=(last - first) / 60, place="end", accepted="at most an hour")
    return start, end


def before_of(request: Follow) -> float:
    """How many seconds of the source before a range are looked at too, so that it has settled."""
    times = (request.attack, request.release, request.smooth)
    return (max(times) * _SETTLED + request.hold + request.window + request.least) / 1000


def frames_of(session: Session, request: Follow, span: tuple[int, int], sounding: Sounding | None) -> Frames:
    """The source over a span of ticks and what settles before it, as early as it is to come: levels in dB, or coordinates."""
    first, last = session.tempo.seconds(np.array(span)).tolist()
    ahead = request.lookahead / 1000
    start = max(first - before_of(request), 0.0) + ahead
    end = last + ahead
    count = max(int(np.ceil((end - start) / STEP - 1e-9)), 1)
    if request.source is not None:
        found = _of_lanes(session, session.parameter(request.source), Frames(start, STEP, np.zeros(count)))
    else:
        if sounding is None:
            raise RequestError("sounding-none", place="tracks", accepted="a lane to follow")
        found = sounding.levels(
            session,
            request.tracks,
            start,
            start + count * STEP,
            after_level=request.after_level,
            measure=request.measure,
            window=request.window / 1000,
            centred=request.does == "evens out",
        )
    return Frames(found.first - ahead, found.step, found.values)


def _of_lanes(session: Session, parameter: Parameter, frames: Frames) -> Frames:
    """What is heard of a parameter, where each frame ends."""
    now = heard(reading(session), parameter.id, groups=False).envelope
    ticks = session.tempo.ticks_at(frames.borders[1:])
    return frames._replace(values=np.asarray(now.coordinate_at(ticks), dtype=np.float64))


def measured(session: Session, request: Follow, values: Floats) -> Floats:
    """What the frames of a source say, in the unit its threshold is said in: dB of a sound, else the lane's own."""
    if request.source is None:
        return values
    return np.asarray(session.parameter(request.source).axis.value_of(values), dtype=np.float64)


def level_text(session: Session, request: Follow, level: float) -> str:
    """A level of a source as it is written."""
    if request.source is not None:
        return session.parameter(request.source).format(level)
    return f"{level:.1f} dB".replace("-", "−")


def check_loud(session: Session, request: Follow, frames: Frames) -> None:
    """RequestError for a sound that is silent all along, or a source that never reaches the threshold."""
    highest = float(measured(session, request, frames.values).max(initial=SILENT))
    if request.source is None and highest <= SILENT:
        raise RequestError("follow-silent", place="tracks", accepted="a track that sounds in the range")
    if request.does not in BY_THRESHOLD or highest > request.threshold:
        return
    said, below = level_text(session, request, highest), _below(session, request, highest)
    raise RequestError(
        "follow-threshold",
        highest=said,
        threshold=level_text(session, request, request.threshold),
        place="threshold",
        accepted=f"a threshold below {said}",
        remedy=Remedy(f"above {level_text(session, request, below)}", step=replace(request, threshold=below)),
    )


def _below(session: Session, request: Follow, highest: float) -> float:
    """A threshold that a source goes over: 6 dB below a sound's highest, a tenth of its range below a lane's."""
    if request.source is None:
        return round(highest - 6, 1)
    parameter = session.parameter(request.source)
    return max(highest - (parameter.high - parameter.low) / 10, parameter.low)


def drives_itself(session: Session, request: Follow, parameter: str) -> bool:
    """Whether a parameter that is driven changes what is followed: a circle."""
    if request.source is not None:
        return request.source == parameter
    if not request.after_level:
        return False
    owner = session.owner(parameter)
    if session.parameter(parameter).family not in (Family.LEVEL, Family.MUTE):
        return owner.id in request.tracks
    above = {g.id for id in request.tracks for g in groups_above(session, id)}
    return owner.id in {*request.tracks, *above}


def digest_of(session: Session, request: Follow) -> str:
    """What tells a source from another: its sound and, where that counts, its rides; or the lanes that are followed."""
    said: list[object] = [session.tempo.tempos]
    if request.source is not None:
        now = heard(reading(session), request.source, groups=False).envelope
        said += [column.tobytes() for column in now.arrays()]
    for id in request.tracks:
        track = session.track(id)
        said += [track.sound, [(r.start, r.length, r.muted, r.sound, r.id) for r in track.regions], track.name]
        if request.after_level:
            said += [column.tobytes() for p in track.parameters for column in heard(session, p.id).envelope.arrays()]
    return blake2b(repr(said).encode(), digest_size=12).hexdigest()
