"""Clips of a request as curves."""

from __future__ import annotations

from velmot.core.curves.envelope import Envelope
from velmot.core.curves.segments import HOLD
from velmot.core.errors import RequestError
from velmot.core.parameters.parameter import range_problem
from velmot.core.verbs.paste.request import Clip


def clip_envelope(clip: Clip) -> Envelope:
    """A clip's points as a curve; RequestError if it has none, or none that could be a parameter's."""
    if not clip.points:
        raise RequestError("points-none/clip", name=clip.name, place="clips", accepted="at least one point")
    span = f"{clip.low:g} to {clip.high:g}"
    if wrong := range_problem(clip.axis, clip.low, clip.high):
        raise RequestError("clip-range", name=clip.name, span=span, wrong=wrong[1], place="clips", accepted=wrong[2])
    odd = next((p.value for p in clip.points if not clip.low <= p.value <= clip.high), None)
    if odd is not None:
        raise RequestError("clip-value", name=clip.name, odd=odd, place="clips", accepted=span)
    rows = [(p.at, p.value, HOLD if p.bend is None else p.bend) for p in clip.points]
    return Envelope.of(rows, clip.axis)
