"""`velmot picture` and `velmot sheet`: a session on paper, on the command line."""

from __future__ import annotations

import argparse
from collections.abc import Callable
from pathlib import Path
from typing import Any, TypeVar

from velmot import written
from velmot.core.errors import RequestError
from velmot.core.session.recall import recall_of
from velmot.core.session.session import Session
from velmot.library import sounds
from velmot.named import one
from velmot.rendering import span_of

Opens = Callable[[Path], Session]
Changes = Callable[[Session], Session]


def add_to(commands: Any) -> tuple[argparse.ArgumentParser, argparse.ArgumentParser]:
    """The two commands."""
    picture = commands.add_parser("picture", help="draw strips of a session: .svg, .png or .pdf")
    picture.add_argument(
        "--lanes", nargs="+", default=[], metavar="NAME", help="parameters by name or id; without it those that move"
    )
    picture.add_argument("--range", dest="span", metavar="FROM-TO", help="positions or markers: 1.1.00-5.1.00")
    picture.add_argument("--request", type=Path, help="a request as JSON: what it would change is drawn in orange")
    picture.add_argument(
        "--shows", choices=("now", "applied", "both"), help="with a request: what is drawn; both without it"
    )
    picture.add_argument("--sound", action="store_true", help="with the sound of each track behind its level")
    sheet = commands.add_parser("sheet", help="a recall sheet of a session: .txt, .html or .pdf")
    sheet.add_argument("--short", action="store_true", help="only what moves, and of each lane the first moves")
    sheet.add_argument("--since", type=Path, help="an earlier state of the session: what changed since is said")
    for each in (picture, sheet):
        each.add_argument("session", type=Path, help="a session, MIDI file or table")
        each.add_argument("-o", "--output", type=Path, required=True, help="the file to write")
        each.add_argument(
            "--overwrite", action="store_true", help="write over a file that is there (never over an input)"
        )
    return picture, sheet


def draw(chosen: argparse.Namespace, session: Session, changed: Changes | None) -> bytes:
    """The picture that was chosen; `changed` is what a request makes of the session."""
    from velmot.paper.pictures import FORMS, Wanted, drawn
    from velmot.paper.silhouettes import silhouettes

    form = _form(chosen.output, FORMS)
    inputs = [chosen.session, *([chosen.request] if chosen.request else [])]
    written.check_free(chosen.output, inputs, chosen.overwrite)
    if chosen.shows and not changed:
        raise RequestError("shows-nothing", shows=chosen.shows, place="--shows", accepted="--request FILE beside it")
    start, end = span_of(session, chosen.span)
    moving = dict.fromkeys(p.id for t in session.tracks for p in t.parameters if session.lanes_of(p.id))
    parameters = tuple(one(session, "parameter", name, place="--lanes") for name in chosen.lanes) or tuple(moving)
    after = changed(session) if changed else None
    wanted = Wanted(parameters, start, end, (chosen.shows or "both") if changed else "now", after).checked(session)
    sound = silhouettes(session, parameters, start, end, sounds(session), lambda audio: False) if chosen.sound else None
    return drawn(session, wanted, form, sound)


def sheet(chosen: argparse.Namespace, session: Session, opened: Opens) -> bytes:
    """The sheet that was chosen."""
    from velmot.paper.sheets import FORMS
    from velmot.paper.sheets import written as set_out

    form = _form(chosen.output, FORMS)
    inputs = [chosen.session, *([chosen.since] if chosen.since else [])]
    written.check_free(chosen.output, inputs, chosen.overwrite)
    since = opened(chosen.since) if chosen.since else None
    return set_out(recall_of(session, full=not chosen.short, since=since), form)


Form = TypeVar("Form", bound=str)


def _form(target: Path, forms: tuple[Form, ...]) -> Form:
    for form in forms:
        if target.suffix.lower() == f".{form}":
            return form
    raise RequestError("paper-form", name=target.name, place="-o", accepted=", ".join(f".{form}" for form in forms))
