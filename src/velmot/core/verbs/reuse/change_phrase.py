"""Change a phrase: its name, its points or its recipe; every place of it follows. Or delete it."""

from __future__ import annotations

from dataclasses import replace

from velmot.core.curves.shapes import EDITION
from velmot.core.errors import RequestError
from velmot.core.session.session import Session
from velmot.core.session.wording import listed
from velmot.core.verbs.frame import telling as tell
from velmot.core.verbs.frame.change import Change, PhraseSwap, PlacementSwap
from velmot.core.verbs.frame.checks import name_of
from velmot.core.verbs.frame.given import curve_of
from velmot.core.verbs.frame.operation import Operation
from velmot.core.verbs.reuse.request import ChangePhrase
from velmot.core.words import counted


def plan(session: Session, request: ChangePhrase) -> Change:
    """The change; places are drawn anew with all others."""
    before = session.phrase(request.phrase)
    if request.delete:
        freed = tuple(PlacementSwap(one, None) for one in session.places_of(before.id))
        return Change(phrases=(PhraseSwap(before, None),), placements=freed)
    if request.points and request.shape:
        raise RequestError("phrase-curve/both", place="points", accepted="one of them")
    made = replace(before, name=before.name if request.name is None else name_of(request.name, "phrase"))
    if request.length is not None:
        if not request.points and made.shape is None and request.shape is None:
            raise RequestError("length/points", name=before.name, place="length", accepted="other points along with it")
        made = replace(made, length=request.length)
    if request.points:
        made = replace(made, curve=curve_of(request.points, made.axis), shape=None)
    elif request.shape is not None:
        if before.shape is None:
            raise RequestError("shape", name=before.name, place="shape", accepted="other points")
        newest = request.shape if request.shape == before.shape else replace(request.shape, edition=EDITION)
        made = replace(made, shape=newest)
    made = made.checked("phrase")
    return Change(phrases=(PhraseSwap(before, made),) if made != before else ())


def sentence(session: Session, request: ChangePhrase) -> tell.Told:
    """“Change swell: other points, named tide; at 4 places.”"""
    if not request.phrase:
        return tell.told("Change {phrase}.", phrase=tell.Asked("choose a phrase"))
    phrase = session.phrase(request.phrase)
    places = counted(len(session.places_of(phrase.id)), "place")
    if request.delete:
        return tell.told("Delete {phrase} and set {delete} free.", phrase=phrase.name, delete=places)
    said = {}
    if request.points:
        said["points"] = "other points"
    if request.shape is not None:
        said["shape"] = (
            f"a {request.shape.kind} of {request.shape.cycles:g} cycles"
            if request.shape.cycle is None
            else f"a {request.shape.kind}"
        )
    if request.name is not None:
        said["name"] = f"named {request.name.strip()}"
    if request.length is not None:
        said["length"] = f"{tell.length(request.length)} long"
    if not said:
        said["name"] = "as it is"
    words = listed([f"{{{field}}}" for field in said], "setting", 4)
    return tell.told(f"Change {{phrase}}: {words}; at {places}.", phrase=phrase.name, **said)


OPERATION = Operation("change phrase", ChangePhrase, plan, sentence, "linking", of_places=True)
