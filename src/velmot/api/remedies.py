"""Remedies as they travel: the step, if there is one, as the request the screen can ask for."""

from __future__ import annotations

from velmot.api.schemas import RemedyOut
from velmot.core.operations import verb_of
from velmot.core.remedy import Remedy
from velmot.formats.requests import to_row


def remedy_out(remedy: Remedy | None) -> RemedyOut | None:
    """What a caution or a refusal offers; None where it offers nothing."""
    if remedy is None:
        return None
    step = None if remedy.step is None else to_row(verb_of(remedy.step), remedy.step)
    return RemedyOut(words=remedy.words, also=list(remedy.also), step=step)
