"""Phrases as requests bring and name them: a phrase of the session, one brought along (from the phrase book), or a shape."""

from __future__ import annotations

from velmot.core.curves.axes import Axis
from velmot.core.curves.envelope import Envelope
from velmot.core.curves.segments import HOLD
from velmot.core.errors import RequestError
from velmot.core.limits import LONGEST_NAME
from velmot.core.session.phrases import Phrase
from velmot.core.session.session import Session
from velmot.core.verbs.request import ClipPoint, GivenPhrase


def curve_of(points: tuple[ClipPoint, ...], axis: Axis) -> Envelope:
    """The points of a request as a curve."""
    return Envelope.of([(p.at, p.value, HOLD if p.bend is None else p.bend) for p in points], axis)


def phrase_of(given: GivenPhrase, id: str) -> Phrase:
    """A phrase that is brought along, under an id of the session's."""
    curve = curve_of(given.points, given.axis) if given.shape is None else None
    made = Phrase(
        id, name_of(given.name), given.length, curve, given.shape, given.unit, given.axis, given.low, given.high
    )
    return made.checked("given")


def name_of(name: str, whose: str = "a phrase") -> str:
    """A name without what stands around it; RequestError for none."""
    name = name.strip()
    if not 0 < len(name) <= LONGEST_NAME:
        raise RequestError("name", f"{whose} needs a name", place="name", accepted=f"1 to {LONGEST_NAME} characters")
    return name


def same_phrase(session: Session, phrase: Phrase) -> Phrase | None:
    """A phrase of the session that is this one but for its id, so that it is not brought in twice."""

    def content(one: Phrase) -> tuple[object, ...]:
        return one.name, one.length, one.shape, one.unit, one.axis, one.low, one.high

    return next((x for x in session.phrases if content(x) == content(phrase) and x.curve == phrase.curve), None)
