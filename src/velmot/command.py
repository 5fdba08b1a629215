"""`velmot` on the command line: convert files, and plan or apply operations without a screen."""

from __future__ import annotations

import argparse
import json
import sys
from collections.abc import Sequence
from dataclasses import fields
from pathlib import Path
from typing import Any

from pydantic import ValidationError

from velmot.core import operations
from velmot.core.change import Change
from velmot.core.errors import RequestError
from velmot.core.operations.telling import in_words
from velmot.core.session import Session
from velmot.core.verbs import VERBS
from velmot.core.wording import heard_text, span_text
from velmot.formats import files, points_table, table
from velmot.formats.report import Report
from velmot.formats.requests import from_row

REFUSED = 2


def main(arguments: Sequence[str] | None = None) -> int:
    """Run one command; 0 if it was done, 2 if it was refused (the reason goes to standard error)."""
    chosen = _parser().parse_args(arguments)
    try:
        chosen.run(chosen)
    except RequestError as error:
        print(f"velmot: {error.message}" + (f"; expected: {error.accepted}" if error.accepted else ""), file=sys.stderr)
        return REFUSED
    except OSError as error:
        print(f"velmot: {error.filename}: {error.strerror}", file=sys.stderr)
        return REFUSED
    return 0


def _parser() -> argparse.ArgumentParser:
    parser = argparse.ArgumentParser(prog="velmot", description="Carry, retarget and tidy automation in files.")
    commands = parser.add_subparsers(required=True, metavar="COMMAND")
    convert = commands.add_parser("convert", help=f"read a file and write another, each {table.ACCEPTED}")
    convert.add_argument("source", type=Path)
    convert.add_argument("target", type=Path)
    convert.add_argument("--lanes", nargs="+", default=[], help="only these lanes, by id, where the target is a table")
    convert.add_argument("--into", type=Path, help="the MIDI file the session came from, to be written back into")
    convert.set_defaults(run=_convert)
    for name, run, says in (
        ("plan", _plan, "say what a request would do to a session file"),
        ("apply", _apply, "do it, and write the session to another file"),
    ):
        command = commands.add_parser(name, help=says)
        command.add_argument("session", type=Path)
        command.add_argument(
            "request", type=Path, help='JSON such as {"verb": "carry", "lanes": ["L1"], …}; - reads it'
        )
        command.add_argument(
            "--links",
            choices=("follow", "here", "free"),
            help="where it writes on a linked place: follow into its phrase (and everywhere), here only, or set free; "
            "without it hand edits follow, what replaces sets free",
        )
        command.set_defaults(run=run)
    commands.choices["apply"].add_argument("-o", "--output", type=Path, required=True)
    commands.add_parser("verbs", help="list the verbs and their settings").set_defaults(run=_verbs)
    return parser


def _opened(path: Path) -> tuple[Session, Report]:
    return files.read(path.read_bytes(), path.name)


def _convert(chosen: argparse.Namespace) -> None:
    session, report = _opened(chosen.source)
    _say(report)
    if chosen.lanes:
        if table.to_write(chosen.target.name) is not points_table.FORMAT:
            said = "only a table can hold some lanes alone"
            raise RequestError("lanes-table", said, place="--lanes", accepted="a target that ends in .csv")
        _wrote(chosen.target, *points_table.write(session, [session.lane(id).id for id in chosen.lanes]))
        return
    if chosen.into:
        data = chosen.into.read_bytes()
        if not files.comes_back(data):
            said = f"{chosen.into.name} is no file that can be written back into"
            raise RequestError("into-not", said, place="--into", accepted="a MIDI file")
        _wrote(chosen.target, *files.into(session, data))
        return
    _write(session, chosen.target)


def _write(session: Session, target: Path) -> None:
    _wrote(target, *table.to_write(target.name).write(session))


def _wrote(target: Path, data: bytes, report: Report) -> None:
    _say(report)
    target.write_bytes(data)
    print(f"wrote {target.name}, {len(data):,} bytes")


def _say(report: Report) -> None:
    for word, lines in (("came", report.came), ("changed", report.changed), ("left out", report.left_out)):
        for line in lines:
            print(f"{word}: {line}")


def _planned(chosen: argparse.Namespace) -> tuple[Session, Change]:
    """The session, and the change a request would make; the request is said as a sentence."""
    session, _ = _opened(chosen.session)
    text = sys.stdin.read() if str(chosen.request) == "-" else chosen.request.read_text()
    try:
        row = json.loads(text)
        if not isinstance(row, dict):
            raise ValueError("not an object")
        verb, request = from_row(row)
    except ValidationError as error:
        first = error.errors()[0]
        place = ".".join(str(part) for part in first["loc"])
        raise RequestError("request", f"{place}: {first['msg'].lower()}", place=place) from None
    except ValueError as error:
        if isinstance(error, RequestError):
            raise
        raise RequestError("request", f"the request is not JSON: {error}", accepted='{"verb": …}') from None
    change = operations.plan(session, verb, request, chosen.links)
    print(in_words(operations.sentence(session, verb, request)))
    return session, change


def _plan(chosen: argparse.Namespace) -> None:
    _print_change(*_planned(chosen))


def _apply(chosen: argparse.Namespace) -> None:
    session, change = _planned(chosen)
    _print_change(session, change)
    _write(change.applied_to(session), chosen.output)


def _print_change(session: Session, change: Change) -> None:
    """The same figures and cautions as on screen."""
    session = change.naming(session)
    for t in change.touched:
        far = session.parameter(t.parameter).format_distance(t.difference)
        points = f"{t.points_before} → {t.points_after} points"
        print(f"  {t.name}, {span_text(session, t.start, t.end)}: {points}, up to {far}")
    for swap in change.tracks:
        happens = "changes too" if swap.before and swap.after else "is new" if swap.after else "goes"
        print(f"  {swap.track.name} {happens}")
    if change.heard:
        print(f"  = {heard_text(session, change.heard)}")
    for caution in change.cautions:
        print(f"  ! {caution.message}")


def _verbs(_: argparse.Namespace) -> None:
    """Every request there is, under the verb of the worksheet that makes it."""
    known = {operation.plan.__module__.rpartition(".")[2]: operation for operation in operations.OPERATIONS.values()}
    for verb in VERBS:
        print(f"{verb.name} (on the worksheet: {verb.key})")
        for operation in (known[module] for module in verb.modules):
            summary = (operation.request.__doc__ or "").strip().splitlines()[0]
            print(f"  {operation.verb}: {summary}")
            for f in fields(operation.request):
                _print_setting(f.name, f.metadata)


def _print_setting(name: str, metadata: Any) -> None:
    print(f"    {name}: {metadata.get('says', '')}")


if __name__ == "__main__":
    sys.exit(main())
